import type { Lane, Layer, MaterialDocument, StepUse, Tie, Value } from '../api/client';
import { catalogue } from './catalogue.svelte';
import { isTie } from './parameters';

/**
 * A document of the structure that is shown which looks like the wanted one: where steps have only gone, or been switched off, it is
 * what is shown with those steps idle; where layers have been hidden, with those of no opacity. So a change is seen before its code is
 * there. Null where that takes code of its own.
 */
export function standIn(shown: MaterialDocument, wanted: MaterialDocument): MaterialDocument | null {
	if (shown.lanes.length !== wanted.lanes.length || !same({ ...shown, lanes: [], layers: [] }, { ...wanted, lanes: [], layers: [] })) return null;
	const lanes: Lane[] = [];
	for (const [i, lane] of shown.lanes.entries()) {
		const other = wanted.lanes[i]!;
		const steps = lane.id === other.id ? idled(lane.steps, other.steps) : null;
		if (steps === null) return null;
		lanes.push({ ...lane, steps });
	}
	const layers = hidden(shown.layers, wanted.layers);
	return layers === null ? null : { ...shown, lanes, layers };
}

/** The layers that are shown, with those of no opacity that are off in the wanted ones; null if that is not all the difference. */
function hidden(shown: Layer[], wanted: Layer[]): Layer[] | null {
	if (shown.length !== wanted.length) return null;
	const lowest = shown.findIndex((layer) => layer.on !== false);
	const layers = shown.map((layer, i) => {
		if (same(layer, wanted[i])) return layer;
		const off = i !== lowest && layer.on !== false && same({ ...layer, on: false }, { ...wanted[i]!, on: false }) && wanted[i]!.on === false;
		return off ? { ...layer, opacity: nothing(layer.opacity, 0) } : null;
	});
	return layers.includes(null) ? null : (layers as Layer[]);
}

/** The steps that are shown, with those idle that are not among the wanted; null if that is not all the difference. */
function idled(shown: StepUse[], wanted: StepUse[]): StepUse[] | null {
	const rest = wanted.filter((use) => use.on !== false && !isIdle(use));
	const steps: StepUse[] = [];
	for (const use of shown) {
		const next = rest[0];
		if (use.on === false || isIdle(use)) steps.push(use);
		else if (next !== undefined && next.step === use.step && same(next.values, use.values)) {
			rest.shift();
			steps.push(use);
		} else {
			const still = idle(use);
			if (still === null) return null;
			steps.push(still);
		}
	}
	return rest.length === 0 ? steps : null;
}

function isIdle(use: StepUse): boolean {
	const values = catalogue.step(use.step)?.idle ?? null;
	return values !== null && Object.entries(values).every(([name, value]) => valueOf(use, name) === value);
}

/** The step with the values that do nothing. Switches may have code of their own: they have to be off already. */
function idle(use: StepUse): StepUse | null {
	const still = catalogue.step(use.step)?.idle ?? null;
	if (still === null || Object.entries(still).some(([name, value]) => value === false && valueOf(use, name) !== false)) return null;
	const values = { ...use.values };
	for (const [name, value] of Object.entries(still)) {
		if (typeof value !== 'number') continue;
		values[name] = nothing(values[name], value);
	}
	return { ...use, values };
}

/** A number in the place of another; what follows a parameter still does, by nothing. */
function nothing(now: Value | undefined, number: number): number | Tie {
	return isTie(now) ? { parameter: now.parameter, factor: 0, offset: number } : number;
}

function valueOf(use: StepUse, name: string): unknown {
	return use.values[name] ?? catalogue.control(use.step, name)?.default;
}

function same(a: unknown, b: unknown): boolean {
	return JSON.stringify(a) === JSON.stringify(b);
}
