import type { Lane, MaterialDocument, StepUse } from '../api/client';
import { catalogue } from './catalogue.svelte';
import { isTie } from './parameters';

/**
 * A document of the structure that is shown which looks like the wanted one: where steps have only gone, or been switched off, it is
 * what is shown with those steps idle. So a change is seen before its code is there. Null where that takes code of its own.
 */
export function standIn(shown: MaterialDocument, wanted: MaterialDocument): MaterialDocument | null {
	if (shown.lanes.length !== wanted.lanes.length || !same({ ...shown, lanes: [] }, { ...wanted, lanes: [] })) return null;
	const lanes: Lane[] = [];
	for (const [i, lane] of shown.lanes.entries()) {
		const other = wanted.lanes[i]!;
		const steps = lane.id === other.id ? idled(lane.steps, other.steps) : null;
		if (steps === null) return null;
		lanes.push({ ...lane, steps });
	}
	return { ...shown, lanes };
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
	return values !== null && Object.entries(values).every(([name, value]) => said(use, name) === value);
}

/** The step with the values that do nothing. Switches may have code of their own: they have to be off already. */
function idle(use: StepUse): StepUse | null {
	const still = catalogue.step(use.step)?.idle ?? null;
	if (still === null || Object.entries(still).some(([name, value]) => value === false && said(use, name) !== false)) return null;
	const values = { ...use.values };
	for (const [name, value] of Object.entries(still)) {
		if (typeof value !== 'number') continue;
		const now = values[name];
		// What follows a parameter still does, by nothing.
		values[name] = now !== undefined && isTie(now) ? { ...now, factor: 0, offset: value } : value;
	}
	return { ...use, values };
}

function said(use: StepUse, name: string): unknown {
	return use.values[name] ?? catalogue.control(use.step, name)?.default;
}

function same(a: unknown, b: unknown): boolean {
	return JSON.stringify(a) === JSON.stringify(b);
}
