/** Changes of lanes, as people make them on the board. */
import type { Lane, MaterialDocument, StepUse } from '../api/client';
import { catalogue } from './catalogue.svelte';
import { freshId } from './parameters';
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

export function insertStep(session: Session, lane: number, at: number, name: string): void {
	session.edit((document) => document.lanes[lane]?.steps.splice(at, 0, freshStep(name)));
}

/** Moves a step so that it stands before the one that is at the place now. Returns where it stands then. */
export function moveStep(session: Session, lane: number, from: number, to: number): number {
	const target = to > from ? to - 1 : to;
	session.edit((document) => {
		const steps = document.lanes[lane]?.steps;
		const [step] = steps?.splice(from, 1) ?? [];
		if (step !== undefined) steps?.splice(target, 0, step);
	});
	return target;
}

export function removeStep(session: Session, lane: number, at: number): void {
	session.edit((document) => document.lanes[lane]?.steps.splice(at, 1));
}

export function duplicateStep(session: Session, lane: number, at: number): void {
	session.edit((document) => {
		const steps = document.lanes[lane]?.steps;
		const step = steps?.[at];
		if (step !== undefined) steps?.splice(at + 1, 0, structuredClone($state.snapshot(step)) as StepUse);
	});
}

export function toggleStep(session: Session, lane: number, at: number): void {
	session.edit((document) => {
		const step = document.lanes[lane]?.steps[at];
		if (step !== undefined) step.on = !step.on;
	});
}

/** A new lane with an origin, or with the steps of another. Returns its id. */
export function addLane(document: MaterialDocument, like?: Lane): string {
	const name = like === undefined ? 'New lane' : `${like.name} copy`.slice(0, 120);
	const id = freshId(name, document.lanes.map((lane) => lane.id));
	const origin = catalogue.value?.steps.find((step) => step.origin)?.name ?? '';
	const steps = like === undefined ? [freshStep(origin)] : ($state.snapshot(like.steps) as StepUse[]);
	document.lanes.push({ id, name, steps });
	return id;
}

/** Names of the layers that ride on a lane. */
export function riders(document: MaterialDocument, lane: Lane): string[] {
	return document.layers.filter((layer) => layer.lane === lane.id).map((layer) => layer.name);
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
