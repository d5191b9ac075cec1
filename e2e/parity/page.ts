/** Runs in the browser: computes the cases of the parity suite in shaders and compares them with the kernel's values. */
import { Machine, type Case, type Comparison, type Points } from '../../web/src/stage/parity';
import { pictureFile, unpacked } from './formats';
import { HlslMachine, texelsOf, WgslMachine, type Languages } from './languages';
import { compareLight } from './light';
import { compareRecipe } from './recipes';

export type Cases = {
	points: Points;
	packs: Record<string, string>;
	cases: (Case & { name: string; kilometres?: number; exact?: boolean; languages?: Pick<Languages, 'hlsl' | 'wgsl'> & Partial<Languages> })[];
	/** What others have made of HLSL, by the name of the case. */
	hlsl: Record<string, string>;
	/** Steps as passes of multipass. */
	passes: StepPass[];
};
export type StepPass = { name: string; code: string; origin: boolean };

const START = '#version 300 es\nprecision highp float; precision highp int;\n';
let machine: Machine | null = null;
function there(): Machine {
	if (machine === null) throw new Error('Nothing is loaded.');
	return machine;
}
let others: { hlsl: HlslMachine } | { wgsl: WgslMachine } | null = null;
export type Parity = {
	riltaParity: {
		load: (all: Cases) => void;
		compare: (one: Case) => Comparison;
		/** Gets ready for materials in another language. */
		speak: (language: 'hlsl' | 'wgsl', all: Cases) => Promise<void>;
		said: (one: Languages) => Promise<Comparison>;
		/** Milliseconds that a language takes for so many times the points, with all that is around it; each as often as it is asked. */
		timed: (language: 'glsl' | 'hlsl' | 'wgsl', one: Languages, times: number) => Promise<number>;
		stepPass: (one: StepPass) => string | null;
		recipe: typeof compareRecipe;
		light: typeof compareLight;
		pictureFile: typeof pictureFile;
		unpacked: typeof unpacked;
	};
};
const page = window as unknown as Parity;
page.riltaParity = {
	load: (all) => void (machine = new Machine(all.points, texelsOf(all.packs))),
	compare: (one) => there().compare(one),
	speak: async (language, { points, packs }) => {
		others = language === 'hlsl' ? { hlsl: new HlslMachine(points, texelsOf(packs)) } : { wgsl: await WgslMachine.made(points, texelsOf(packs)) };
	},
	said: async (one) => {
		if (others === null) throw new Error('Nothing is loaded.');
		return 'hlsl' in others ? others.hlsl.compare(one) : others.wgsl.compare(one);
	},
	timed: async (language, one, times) => {
		if (others === null) throw new Error('Nothing is loaded.');
		const start = performance.now();
		const found = 'hlsl' in others ? others.hlsl.drawn(one, one[language]!, times) : await others.wgsl.computed(one, times);
		if (typeof found === 'string') throw new Error(found);
		return performance.now() - start;
	},
	stepPass: (one) => there().wrong(one.origin ? `${START}${one.code}\nuniform RiltaSurface here;\nvoid main() { riltaStart(here); }` : one.code),
	recipe: compareRecipe,
	light: compareLight,
	pictureFile,
	unpacked
};
