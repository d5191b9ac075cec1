/** What a sidecar (rilta-shader/1) says of the code beside it, as far as a host of GLSL needs it. */
export type Sidecar = {
	format: string;
	material: string;
	language: string;
	file: string;
	functions: { prepare: string; material: string };
	structs: { surface: string; ready: string; material: string };
	numbers: { name: string; type: string; path: string | null; label: string; unit: string; least: number | null; most: number | null; value: number; changes: string; variants: Record<string, number> }[];
	textures: { name: string; kind: string; encoding: string; sampling: { filter: string; mips: boolean; anisotropy: number; wrapU: string; wrapV: string }; layers: { map: string; file: string | null }[] }[];
	inputs: { name: string; type: string }[];
	outputs: { name: string; type: string }[];
	variants: { id: string; name: string; otherCode: boolean }[];
};

export const VIEWS = [
	{ value: 'lit', label: 'Lit' },
	{ value: 'baseColour', label: 'Base colour' },
	{ value: 'normal', label: 'Normal' },
	{ value: 'roughness', label: 'Roughness' },
	{ value: 'metallic', label: 'Metallic' },
	{ value: 'occlusion', label: 'Occlusion' },
	{ value: 'emission', label: 'Emission' }
] as const;
export type View = (typeof VIEWS)[number]['value'];

export const VERTEX = `in vec3 position, normal;
in vec2 uv, uv1, uv2, uv3;
in float _section;
uniform mat4 modelMatrix, viewMatrix, projectionMatrix;
out vec3 atPosition, atNormal;
out vec2 atUv, atUv2, atUv3, atUv4;
flat out float atSection;
void main() {
	vec4 place = modelMatrix * vec4(position, 1.0);
	atPosition = place.xyz;
	atNormal = transpose(inverse(mat3(modelMatrix))) * normal;
	atUv = uv; atUv2 = uv1; atUv3 = uv2; atUv4 = uv3;
	atSection = _section;
	gl_Position = projectionMatrix * viewMatrix * place;
}`;

/** How each input of a surface is got here, in GLSL: only what the code asks for is. */
function inputs(): Record<string, string> {
	const all: Record<string, string> = {
		position: 'atPosition', normal: 'normalize(atNormal) * facing', dpdx: 'dFdx(atPosition)', dpdy: '-dFdy(atPosition)', section: 'atSection', painted: 'vec4(0.0)',
		objectOrigin: 'objectFrame[3].xyz', objectX: 'normalize(objectFrame[0].xyz)', objectY: 'normalize(objectFrame[1].xyz)', objectZ: 'normalize(objectFrame[2].xyz)',
		objectSeed: '1.0', objectValue: '0.0', viewDistance: 'distance(eye, atPosition)', facing: 'facing'
	};
	for (const [set, at] of [['uv', 'atUv'], ['uv2', 'atUv2'], ['uv3', 'atUv3'], ['uv4', 'atUv4']] as const) {
		Object.assign(all, { [set]: at, [`${set}Dx`]: `dFdx(${at})`, [`${set}Dy`]: `-dFdy(${at})`, [`${set}T`]: `along(${at}, vec2(1.0, 0.0))`, [`${set}B`]: `along(${at}, vec2(0.0, 1.0))` });
	}
	return all;
}

/** A fragment that calls the material's function, and shows one of what it tells. */
export function fragment(code: string, told: Sidecar): string {
	const known = inputs();
	const missing = told.inputs.filter((one) => known[one.name] === undefined).map((one) => one.name);
	if (missing.length > 0) throw new Error(`The code asks for what this page does not know: ${missing.join(', ')}.`);
	const has = (name: string): boolean => told.outputs.some((one) => one.name === name);
	const or = (name: string, otherwise: string): string => (has(name) ? `m.${name}` : otherwise);
	return `precision highp float;
precision highp int;
precision highp sampler2D;
precision highp sampler2DArray;
in vec3 atPosition, atNormal;
in vec2 atUv, atUv2, atUv3, atUv4;
flat in float atSection;
uniform mat4 objectFrame;
uniform vec3 eye;
uniform int view;
out vec4 seen;

${code}

/** Where something grows along the surface. */
vec3 along(vec2 at, vec2 way) {
	vec2 dx = dFdx(at), dy = dFdy(at);
	float det = dx.x * dy.y - dx.y * dy.x;
	vec3 u = dFdx(atPosition) * dy.y - dFdy(atPosition) * dx.y, v = dFdy(atPosition) * dx.x - dFdx(atPosition) * dy.x;
	vec3 found = (u * way.x + v * way.y) * sign(det);
	return length(found) > 0.0 ? normalize(found) : vec3(1.0, 0.0, 0.0);
}
vec3 curved(vec3 c) {
	c = clamp(c, 0.0, 1.0);
	return mix(c * 12.92, 1.055 * pow(c, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, c));
}
/** One sun and a sky, after Walter et al. 2007 and Schlick 1994. */
vec3 lit(vec3 base, vec3 n, float rough, float metal, float open, vec3 glow) {
	vec3 v = normalize(eye - atPosition), l = normalize(vec3(0.5, 0.7, 0.45)), h = normalize(v + l);
	float a = max(rough * rough, 0.002), nl = max(dot(n, l), 0.0), nv = max(dot(n, v), 1e-3), nh = max(dot(n, h), 0.0);
	vec3 f0 = mix(vec3(0.04), base, metal), f = f0 + (1.0 - f0) * pow(1.0 - max(dot(v, h), 0.0), 5.0);
	float d = a * a / (3.14159265 * pow(nh * nh * (a * a - 1.0) + 1.0, 2.0)), k = a / 2.0;
	float g = 1.0 / ((nl * (1.0 - k) + k) * (nv * (1.0 - k) + k) * 4.0);
	vec3 sky = mix(vec3(0.12, 0.11, 0.1), vec3(0.5, 0.58, 0.68), 0.5 + 0.5 * n.y), r = reflect(-v, n), mirrored = mix(vec3(0.14, 0.13, 0.12), vec3(0.55, 0.64, 0.76), smoothstep(-0.3, 0.5, r.y));
	vec3 grazing = f0 + (max(vec3(1.0 - rough), f0) - f0) * pow(1.0 - nv, 5.0);
	return (base * (1.0 - metal) / 3.14159265 + f * d * g) * nl * vec3(3.0, 2.85, 2.6) + open * (base * (1.0 - metal) * sky + grazing * mirrored) + glow;
}
void main() {
	float facing = gl_FrontFacing ? 1.0 : -1.0;
	${told.structs.surface} s;
${told.inputs.map((one) => `	s.${one.name} = ${known[one.name]!};`).join('\n')}
	${told.structs.ready} ready = ${told.functions.prepare}();
	${told.structs.material} m = ${told.functions.material}(s, ready);
	float covered = ${or('coverage', '1.0')};
	if (covered < 0.004) discard;
	vec3 base = ${or('baseColour', 'vec3(0.5)')}, n = ${or('normal', 'normalize(atNormal) * facing')}, glow = ${or('emission', 'vec3(0.0)')};
	float rough = ${or('roughness', '0.5')}, metal = ${or('metallic', '0.0')}, open = ${or('occlusion', '1.0')};
	vec3 colour = view == 1 ? curved(base) : view == 2 ? n * 0.5 + 0.5 : view == 3 ? vec3(rough) : view == 4 ? vec3(metal) : view == 5 ? vec3(open) : view == 6 ? curved(glow) : curved(lit(base, n, rough, metal, open, glow));
	seen = vec4(colour, view == 0 ? covered : 1.0);
}`;
}

/** What may be changed while it runs: parameters, by their paths. */
export const live = (told: Sidecar): Sidecar['numbers'] => told.numbers.filter((one) => one.changes === 'at run time' && one.path !== null);
/** How often in a second a number goes on with the clock; null for one that does not. */
export function ticks(one: Sidecar['numbers'][number]): number | null {
	const unit = one.path === null ? /^1\/(\d+) s$/.exec(one.unit) : null;
	return unit === null ? null : Number(unit[1]);
}
/** What a number is in a variant. */
export const inVariant = (one: Sidecar['numbers'][number], variant: string): number => one.variants[variant] ?? one.value;
