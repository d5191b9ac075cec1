/**
 * What the standard's library defines of the nodes that are written here (MaterialX 1.39, "Standard Nodes", "Physically Based Shading Nodes"): inputs and
 * their types, by the type of the output. Written from the specification, apart from what writes them.
 */
type Inputs = Record<string, string>;
type Definition = { out: string; in: Inputs; /** other types that an input may have */ or?: Inputs };

const NUMBERS = ['float', 'color3', 'color4', 'vector2', 'vector3', 'vector4'];
const VECTORS = ['vector2', 'vector3', 'vector4'];
const PLAIN = ['float', ...VECTORS];
const one = (types: string[]): Definition[] => types.map((type) => ({ out: type, in: { in: type } }));
/** The second of a type, or one float for all parts. */
const two = (types: string[], ...names: string[]): Definition[] => types.map((type) => ({ out: type, in: Object.fromEntries(names.map((name) => [name, type])), or: Object.fromEntries(names.slice(1).map((name) => [name, 'float'])) }));
const compared = (types: string[]): Definition[] => types.map((type) => ({ out: type, in: { value1: 'float', value2: 'float', in1: type, in2: type } }));
const IMAGE = { file: 'filename', layer: 'string', texcoord: 'vector2', uaddressmode: 'string', vaddressmode: 'string', filtertype: 'string', framerange: 'string', frameoffset: 'integer', frameendaction: 'string' };

const NODES: Record<string, Definition[]> = {
	absval: one(NUMBERS), floor: one(NUMBERS), ceil: one(NUMBERS), fract: one(NUMBERS), sign: one(NUMBERS),
	sin: one(PLAIN), cos: one(PLAIN), tan: one(PLAIN), asin: one(PLAIN), acos: one(PLAIN), sqrt: one(PLAIN), exp: one(PLAIN), ln: one(PLAIN), normalize: one(VECTORS),
	atan2: PLAIN.map((type) => ({ out: type, in: { iny: type, inx: type } })),
	add: two(NUMBERS, 'in1', 'in2'), subtract: two(NUMBERS, 'in1', 'in2'), multiply: two(NUMBERS, 'in1', 'in2'), divide: two(NUMBERS, 'in1', 'in2'), modulo: two(NUMBERS, 'in1', 'in2'), power: two(NUMBERS, 'in1', 'in2'), min: two(NUMBERS, 'in1', 'in2'), max: two(NUMBERS, 'in1', 'in2'),
	clamp: two(NUMBERS, 'in', 'low', 'high'),
	mix: NUMBERS.map((type) => ({ out: type, in: { bg: type, fg: type, mix: type }, or: { mix: 'float' } })),
	dotproduct: VECTORS.map((type) => ({ out: 'float', in: { in1: type, in2: type } })),
	magnitude: VECTORS.map((type) => ({ out: 'float', in: { in: type } })),
	crossproduct: [{ out: 'vector3', in: { in1: 'vector3', in2: 'vector3' } }],
	extract: ['color3', 'color4', ...VECTORS].map((type) => ({ out: 'float', in: { in: type, index: 'integer' } })),
	combine2: [{ out: 'vector2', in: { in1: 'float', in2: 'float' } }, { out: 'color4', in: { in1: 'color3', in2: 'float' } }, { out: 'vector4', in: { in1: 'vector3', in2: 'float' } }, { out: 'vector4', in: { in1: 'vector2', in2: 'vector2' } }],
	combine3: ['color3', 'vector3'].map((out) => ({ out, in: { in1: 'float', in2: 'float', in3: 'float' } })),
	combine4: ['color4', 'vector4'].map((out) => ({ out, in: { in1: 'float', in2: 'float', in3: 'float', in4: 'float' } })),
	convert: [['color3', 'vector3'], ['vector3', 'color3'], ['color4', 'vector4'], ['vector4', 'color4'], ['float', 'color3'], ['float', 'vector3'], ['color3', 'color4'], ['color4', 'color3']].map(([from, out]) => ({ out: out!, in: { in: from! } })),
	ifgreater: compared(NUMBERS), ifgreatereq: compared(NUMBERS), ifequal: compared(NUMBERS),
	image: NUMBERS.map((type) => ({ out: type, in: { ...IMAGE, default: type } })),
	texcoord: ['vector2', 'vector3'].map((out) => ({ out, in: { index: 'integer' } })),
	position: [{ out: 'vector3', in: { space: 'string' } }], normal: [{ out: 'vector3', in: { space: 'string' } }],
	tangent: [{ out: 'vector3', in: { space: 'string', index: 'integer' } }], bitangent: [{ out: 'vector3', in: { space: 'string', index: 'integer' } }],
	time: [{ out: 'float', in: {} }],
	transformpoint: [{ out: 'vector3', in: { in: 'vector3', fromspace: 'string', tospace: 'string' } }],
	transformvector: [{ out: 'vector3', in: { in: 'vector3', fromspace: 'string', tospace: 'string' } }],
	transformnormal: [{ out: 'vector3', in: { in: 'vector3', fromspace: 'string', tospace: 'string' } }],
	normalmap: [{ out: 'vector3', in: { in: 'vector3', scale: 'float', normal: 'vector3', tangent: 'vector3', bitangent: 'vector3' }, or: { scale: 'vector2' } }],
	place2d: [{ out: 'vector2', in: { texcoord: 'vector2', pivot: 'vector2', scale: 'vector2', rotate: 'float', offset: 'vector2', operationorder: 'integer' } }],
	gltf_pbr: [{ out: 'surfaceshader', in: { base_color: 'color3', metallic: 'float', roughness: 'float', normal: 'vector3', tangent: 'vector3', occlusion: 'float', transmission: 'float', specular: 'float', specular_color: 'color3', ior: 'float', alpha: 'float', alpha_mode: 'integer', alpha_cutoff: 'float', emissive: 'color3', emissive_strength: 'float' } }],
	surfacematerial: [{ out: 'material', in: { surfaceshader: 'surfaceshader', backsurfaceshader: 'surfaceshader', displacementshader: 'displacementshader' } }]
};
const WORDS: Record<string, string[]> = { uaddressmode: ['constant', 'clamp', 'periodic', 'mirror'], vaddressmode: ['constant', 'clamp', 'periodic', 'mirror'], filtertype: ['closest', 'linear', 'cubic'], space: ['model', 'object', 'world'], fromspace: ['model', 'object', 'world'], tospace: ['model', 'object', 'world'] };
const PARTS: Record<string, number> = { float: 1, integer: 1, vector2: 2, vector3: 3, vector4: 4, color3: 3, color4: 4 };

/** What in a document the standard's library does not define. */
export function wrongNodes(text: string): string[] {
	const document = new DOMParser().parseFromString(text, 'application/xml');
	const root = document.documentElement;
	if (root.localName !== 'materialx' || root.getAttribute('version') !== '1.39') return ['It is no MaterialX 1.39.'];
	const wrong: string[] = [];
	const graphs = [...root.children].filter((element) => element.localName === 'nodegraph');
	const known = (scope: Element, name: string | null): Element | undefined => [...scope.children].find((element) => element.getAttribute('name') === name);
	const check = (node: Element, scope: Element): void => {
		const place = `<${node.localName} name="${node.getAttribute('name')}">`;
		const inputs = [...node.children].filter((element) => element.localName === 'input');
		const type = (input: Element): string => input.getAttribute('type') ?? '';
		const fits = (NODES[node.localName] ?? []).some((of) => of.out === node.getAttribute('type') && inputs.every((input) => { const name = input.getAttribute('name') ?? ''; return of.in[name] === type(input) || of.or?.[name] === type(input); }));
		if (!fits) wrong.push(`${place}: no such node of ${node.getAttribute('type')} with ${inputs.map((input) => `${input.getAttribute('name')} ${type(input)}`).join(', ')}`);
		for (const input of inputs) {
			const [value, from, graph, named] = ['value', 'nodename', 'nodegraph', 'interfacename'].map((name) => input.getAttribute(name));
			const said = [value, from, graph, named].filter((one) => one !== null).length;
			if (said !== 1) wrong.push(`${place}: ${input.getAttribute('name')} says ${said} things`);
			if (from != null && known(scope, from)?.getAttribute('type') !== type(input)) wrong.push(`${place}: no ${type(input)} comes from ${from}`);
			if (named != null && known(scope, named)?.getAttribute('type') !== type(input)) wrong.push(`${place}: no ${type(input)} is called ${named}`);
			if (graph != null && known(known(root, graph) ?? root, input.getAttribute('output'))?.getAttribute('type') !== type(input)) wrong.push(`${place}: no ${type(input)} comes out of ${graph}`);
			const parts = PARTS[type(input)];
			if (value != null && parts !== undefined && (value.split(',').length !== parts || value.split(',').some((part) => part.trim() === '' || !Number.isFinite(Number(part))))) wrong.push(`${place}: ${value} is no ${type(input)}`);
			const words = WORDS[input.getAttribute('name') ?? ''];
			if (value != null && words !== undefined && !words.includes(value)) wrong.push(`${place}: ${value} is none of ${words.join(', ')}`);
		}
	};
	for (const scope of [root, ...graphs]) {
		const names = [...scope.children].map((element) => element.getAttribute('name'));
		if (new Set(names).size !== names.length) wrong.push('A name stands twice.');
		for (const node of scope.children) {
			if (node.localName === 'output') {
				if (known(scope, node.getAttribute('nodename'))?.getAttribute('type') !== node.getAttribute('type')) wrong.push(`<output name="${node.getAttribute('name')}">: nothing of its type`);
			} else if (node.localName !== 'nodegraph' && node.localName !== 'input') check(node, scope);
		}
	}
	return wrong;
}
