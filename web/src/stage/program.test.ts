import { Mesh, PerspectiveCamera, Vector3, type Matrix4 } from 'three';
import { describe, expect, it } from 'vitest';
import type { Lowered, MaterialDocument } from '../api/client';
import { light } from './light';
import { numberAt, Program, setFrame } from './program';

const document = (u: unknown): MaterialDocument => ({ format: 'rilta-material/2', name: 'Wall', lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'size', on: true, values: { u: u as number } }] }], layers: [], parameters: [{ id: 'wet', name: 'Wet', kind: 'switch', value: true }] });
const u = '/lanes/0/steps/0/values/u';
function lowered(change: Partial<Lowered> = {}): Lowered {
	return {
		hash: 'h', code: 'c', declarations: 'struct RiltaSurface { float x; };\nuniform highp sampler2DArray maps0; // rock/base-colour\n', material: 'MATERIAL\n', pictures: 'PICTURES\n', arrays: [], maps: {}, views: [], lanes: [], shares: [], problems: [],
		slots: [{ uniform: 'size_u', path: u, value: 7 }, { uniform: 'wet', path: '/parameters/0/value', value: 0 }],
		prelude: { operations: [['uniform', [], 'size_u'], ['constant', [], [2]], ['mul', [0, 1], null]], results: { twice: 2 } },
		clock: { uniform: 'clock', ticks: 1024, runs: true }, surface: { kind: 'opaque', twoSided: false }, cost: { taps: 1, fetches: 1, maps: 1, bytes: 1 },
		structure: { numbers: {}, words: [], rising: {} }, host: { inputs: [], vertex: 'VERTEX\n', fragment: 'FRAGMENT\n' }, pictureHost: { inputs: [], vertex: 'PICTURE VERTEX\n', fragment: 'PICTURE FRAGMENT\n' }, channels: ['baseColour'],
		...change
	} as unknown as Lowered;
}
const made = (change: Partial<Lowered> = {}): Program => new Program(lowered(change), new Map(), {});

describe('a program', () => {
	it('takes its numbers from the document, and what follows from them', () => {
		const program = made();
		program.fill(document(3));
		expect([program.uniforms.size_u!.value, program.uniforms.wet!.value, program.uniforms.twice!.value]).toEqual([3, 1, 6]);
		expect(program.numbers(document(undefined)).size_u, 'what is left out is what the code was made with').toBe(7);
		expect(made({ problems: [{ path: u, message: 'no' }] }).numbers(document(0)).size_u, 'what cannot be used as well').toBe(7);
		expect(numberAt(document('x'), { path: u, value: 7 })).toBe(7);
	});

	it('wears other numbers for a while', () => {
		const program = made();
		program.fill(document(3));
		const seen = (): unknown[] => ['size_u', 'wet', 'twice'].map((name) => program.uniforms[name]!.value);
		program.dress(program.driven({ [u]: 5, '/nowhere': 9 }));
		expect(seen()).toEqual([5, 1, 10]);
		// The next object wears nothing of its own, or all numbers of another material of the same structure.
		program.dress({});
		expect(seen()).toEqual([3, 1, 6]);
		program.dress(program.numbers({ ...document(8), parameters: [] }));
		expect(seen()).toEqual([8, 0, 16]);
		// As it was before, for all objects, but for those that say otherwise.
		program.stand(program.numbers(document(4)));
		expect(seen()).toEqual([4, 1, 8]);
		program.dress({ size_u: 9 });
		program.dress({});
		expect(seen()).toEqual([4, 1, 8]);
		program.undress();
		expect(seen()).toEqual([3, 1, 6]);
	});

	it('computes what follows from numbers that are all 0', () => {
		const program = made({ slots: [], prelude: { operations: [['constant', [], [0]], ['cos', [0], null]], results: { one: 1 } } as unknown as Lowered['prelude'] });
		program.fill(document(0));
		expect(program.uniforms.one!.value).toBe(1);
	});

	it('is counted from elsewhere, and prepared for it', () => {
		const program = made({ prelude: { operations: [['uniform', [], 'riltaOriginX'], ['constant', [], [0.5]], ['mul', [0, 1], null]], results: { half: 2 } } as unknown as Lowered['prelude'] });
		program.rebase(new Vector3(96, 0, -48));
		expect([program.uniforms.riltaOriginX!.value, program.uniforms.riltaOriginZ!.value, program.uniforms.half!.value]).toEqual([96, -48, 48]);
		const [mesh, camera] = [new Mesh(), new PerspectiveCamera()];
		mesh.position.set(100, 2, -50);
		camera.position.set(97, 3, -40);
		for (const one of [mesh, camera]) one.updateMatrixWorld();
		const { uniforms } = program.litFor('a');
		setFrame(uniforms, mesh, camera, new Vector3(96, 0, -48));
		expect((uniforms.riltaObject!.value as Matrix4).elements.slice(12, 15)).toEqual([4, 2, -2]);
		expect((uniforms.riltaEye!.value as Vector3).toArray()).toEqual([1, 3, 8]);
	});

	it('counts the clock in whole ticks', () => {
		const program = made();
		program.time(1.9995);
		expect(program.uniforms.clock!.value).toBe(2047);
	});

	it('is lit by the light that the core prints, and by nothing else', () => {
		Object.assign(light, { code: 'LIGHT\n', sun: [0, 1, 0] });
		const code = made().litFor('a').fragmentShader;
		expect(code).toContain('LIGHT');
		expect(code).toContain('gl_FragColor = vec4(riltaToned(light), 1.0);');
		expect(code).not.toContain('rm.emission');
		expect(made({ channels: ['baseColour', 'emission'] }).litFor('a').fragmentShader).toContain('rm.emission');
		expect(code, 'materials that differ in their maps alone share a program').not.toContain('rock');
		expect(made().litFor('a').vertexShader).toContain('VERTEX');
	});

	it('cuts, or lets through, as its surface says', () => {
		const cut = made({ surface: { kind: 'cut-out', twoSided: true } });
		expect(cut.litFor('a').fragmentShader).toContain('if (rm.coverage < 0.5) discard;');
		expect([cut.shadowFor('a') !== null, made().shadowFor('a')]).toEqual([true, null]);
		expect(cut.pictures.fragmentShader).toContain('MATERIAL');
		expect(made().pictures.fragmentShader).not.toContain('MATERIAL');
		const clear = made({ surface: { kind: 'translucent', twoSided: false } }).litFor('a');
		expect([clear.fragmentShader.includes('rm.coverage'), clear.transparent, clear.depthWrite]).toEqual([true, true, false]);
	});

	it('has a material for each object: frames of their own, numbers of all', () => {
		const program = made();
		const [a, b] = [program.litFor('a'), program.litFor('b')];
		expect(program.litFor('a')).toBe(a);
		expect(a.uniforms.riltaObject).not.toBe(b.uniforms.riltaObject);
		program.fill(document(4));
		expect([a.uniforms.size_u!.value, b.uniforms.size_u!.value]).toEqual([4, 4]);
	});
});
