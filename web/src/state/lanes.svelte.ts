/** Changes of lanes, as people make them on the board. */
import type { Family, Lane, MaterialDocument, SetCard, StepUse } from '../api/client';
import { catalogue } from './catalogue.svelte';
import { freshId, freshName, isTie } from './parameters';
import type { Session } from './session.svelte';

/** A step with the values that the core declares. */
export function freshStep(name: string): StepUse {
	const kind = catalogue.step(name);
	return { step: name, on: true, values: Object.fromEntries((kind?.controls ?? []).map((control) => [control.name, structuredClone(control.default)])) };
}

/** Why a step cannot stand at a place of a lane, or null. */
export function obstacle(lane: Lane, from: number, to: number): string | null {
	const step = lane.steps[from];
	if (step !== undefined && catalogue.step(step.step)?.origin === true) return 'The origin stays first: coordinates have to come from somewhere.';
	if (to <= 0) return 'Nothing can stand before the origin: there are no coordinates yet.';
	return null;
}

/** A change of a document, that can be made or only foreseen. */
export type Change = (document: MaterialDocument) => void;

/** What a new step may refer to. */
export type Library = { families: Family[]; sets: Pick<SetCard, 'name' | 'sheet'>[] };

/** A step that reads a family, or the parts of a sheet, reads those of the layers which ride on the lane, if they have some. */
export function inserted(lane: number, at: number, name: string, library: Library): Change {
	return (document) => {
		const step = freshStep(name);
		const sets = document.layers.filter((layer) => layer.lane === document.lanes[lane]?.id).map((layer) => layer.set);
		const family = library.families.find((one) => sets.some((set) => typeof set === 'string' && one.sets.includes(set)));
		const sheet = library.sets.find((one) => one.sheet !== null && sets.includes(one.name));
		for (const control of catalogue.step(name)?.controls ?? []) {
			const found = control.type === 'family' ? family?.name : control.type === 'sheet' ? sheet?.name : undefined;
			if (found === undefined) continue;
			step.values[control.name] = found;
			// It is read where the choices that show it are made.
			for (const [name, wanted] of Object.entries(control.shownWhen ?? {})) step.values[name] = wanted[0]!;
		}
		document.lanes[lane]?.steps.splice(at, 0, step);
	};
}

export function insertStep(session: Session, lane: number, at: number, name: string, library: Library): void {
	session.edit(inserted(lane, at, name, library));
}

/** Where a step stands after it was moved before the one that is at the place now. */
function landing(from: number, to: number): number {
	return to > from ? to - 1 : to;
}

export function moved(lane: number, from: number, to: number): Change {
	return (document) => {
		const steps = document.lanes[lane]?.steps;
		const [step] = steps?.splice(from, 1) ?? [];
		if (step !== undefined) steps?.splice(landing(from, to), 0, step);
	};
}

/** Moves a step so that it stands before the one that is at the place now. Returns where it stands then. */
export function moveStep(session: Session, lane: number, from: number, to: number): number {
	session.edit(moved(lane, from, to));
	return landing(from, to);
}

export function removed(lane: number, at: number): Change {
	return (document) => void document.lanes[lane]?.steps.splice(at, 1);
}

export function removeStep(session: Session, lane: number, at: number): void {
	session.edit(removed(lane, at));
}

export function duplicated(lane: number, at: number): Change {
	return (document) => {
		const steps = document.lanes[lane]?.steps;
		const step = steps?.[at];
		if (step !== undefined) steps?.splice(at + 1, 0, structuredClone($state.snapshot(step)) as StepUse);
	};
}

export function duplicateStep(session: Session, lane: number, at: number): void {
	session.edit(duplicated(lane, at));
}

export function toggled(lane: number, at: number): Change {
	return (document) => {
		const step = document.lanes[lane]?.steps[at];
		if (step !== undefined) step.on = !step.on;
	};
}

export function toggleStep(session: Session, lane: number, at: number): void {
	session.edit(toggled(lane, at));
}

/** Milliseconds that a pointer rests on something before its effect is foreseen. */
const RESTING = 80;

/** An element whose use makes a change: its code is made ready while the pointer or the keyboard rests on it. */
export function foreseeing(session: Session, change: () => Change): (element: HTMLElement) => () => void {
	return (element) => {
		let timer = 0;
		const rest = (): void => {
			clearTimeout(timer);
			timer = window.setTimeout(() => void session.foresee(change()), RESTING);
		};
		const leave = (): void => clearTimeout(timer);
		const [starts, ends] = [['pointerenter', 'focus'], ['pointerleave', 'blur', 'click']];
		for (const name of starts) element.addEventListener(name, rest);
		for (const name of ends) element.addEventListener(name, leave);
		return () => {
			leave();
			for (const name of starts) element.removeEventListener(name, rest);
			for (const name of ends) element.removeEventListener(name, leave);
		};
	};
}

/** A new lane with an origin, or with the steps of another. Returns its id. */
export function addLane(document: MaterialDocument, like?: Lane): string {
	const name = freshName(like?.name ?? 'New lane', document.lanes.map((lane) => lane.name));
	const id = freshId(name, document.lanes.map((lane) => lane.id));
	const origin = catalogue.value?.steps.find((step) => step.origin)?.name ?? '';
	const steps = like === undefined ? [freshStep(origin)] : ($state.snapshot(like.steps) as StepUse[]);
	document.lanes.push({ id, name, steps });
	return id;
}

/** Gives a term of a mask a copy of the lane that it is read along, so many times as large; what is read in the world is read along it from then on. */
export function ownLane(session: Session, layer: number, term: number, larger: number): void {
	session.edit((document) => {
		const [whole, one] = [document.layers[layer], document.layers[layer]?.mask?.[term]];
		const like = document.lanes.find((lane) => lane.id === (one?.lane ?? whole?.lane));
		if (whole === undefined || one === undefined || like === undefined) return;
		const id = addLane(document, like);
		const own = document.lanes.find((lane) => lane.id === id)!;
		own.name = `Mask of ${whole.name}`.slice(0, 120);
		const size = own.steps.find((use) => use.step === 'size');
		if (size === undefined) own.steps.splice(1, 0, { ...freshStep('size'), values: { ...freshStep('size').values, u: larger, v: larger } });
		// Twice as large is half as many.
		for (const [name, factor] of Object.entries({ u: larger, v: larger, countU: 1 / larger, countV: 1 / larger })) {
			const said = size?.values[name];
			if (typeof said === 'number') size!.values[name] = Number((said * factor).toPrecision(6));
			else if (isTie(said) && 'factor' in said) size!.values[name] = { ...said, factor: said.factor * factor, offset: said.offset * factor };
		}
		one.lane = id;
		Object.assign(one.values, catalogue.value?.layer.masks.find((kind) => kind.name === one.kind)?.along ?? {});
	});
}

/** Names of the layers that ride on a lane, and of those whose masks do. */
export function riders(document: MaterialDocument, lane: Lane): string[] {
	return [
		...document.layers.filter((layer) => layer.lane === lane.id).map((layer) => layer.name),
		...document.layers.filter((layer) => layer.mask?.some((term) => term.lane === lane.id)).map((layer) => `mask of ${layer.name}`)
	];
}

/** A lane as text, to be pasted into another material. */
export function laneText(lane: Lane): string {
	return JSON.stringify({ format: 'rilta-lane/1', name: lane.name, steps: lane.steps }, null, '\t');
}

/** The steps of a copied lane, or why the text is none. Whether they are right is for the server to say. */
export function readLane(text: string): { name: string; steps: StepUse[] } | string {
	try {
		const data = JSON.parse(text) as { format?: unknown; name?: unknown; steps?: unknown };
		if (data.format !== 'rilta-lane/1' || typeof data.name !== 'string' || !Array.isArray(data.steps)) return 'The clipboard holds no lane.';
		return { name: data.name, steps: data.steps as StepUse[] };
	} catch {
		return 'The clipboard holds no lane.';
	}
}
