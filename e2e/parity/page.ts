/** Runs in the browser: computes the cases of the parity suite in shaders and compares them with the kernel's values. */
import { bytes, Machine, type Case, type Comparison, type Points } from '../../web/src/stage/parity';
import { compareLight } from './light';
import { compareRecipe } from './recipes';

export type Cases = {
	points: Points;
	packs: Record<string, string>;
	cases: (Case & { name: string; kilometres?: number; exact?: boolean })[];
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
const page = window as unknown as { riltaParity: { load: (all: Cases) => void; compare: (one: Case) => Comparison; stepPass: (one: StepPass) => string | null; recipe: typeof compareRecipe; light: typeof compareLight } };
page.riltaParity = {
	load: (all) => (machine = new Machine(all.points, (slot) => bytes(all.packs[slot] ?? ''))),
	compare: (one) => there().compare(one),
	stepPass: (one) => there().wrong(one.origin ? `${START}${one.code}\nuniform RiltaSurface here;\nvoid main() { riltaStart(here); }` : one.code),
	recipe: compareRecipe,
	light: compareLight
};
