/** Parameters of a document and the numbers that are tied to them. */
import type { MaterialDocument, NumberControl, Parameter, Tie, Value } from '../api/client';

/** Stands for the name of a step where the values of a layer's finish are meant. */
export const FINISH = 'finish';

/** The same for the terms of a mask, by their kind. */
export const masked = (kind: string): string => `mask ${kind}`;

/** The same for the kind of surface. */
export const SURFACE = 'surface';

/** The same for the numbers of a layer itself. */
export const LAYER = 'layer';

/** All values of a document that may be tied, with the step that declares them. */
function* valued(document: MaterialDocument): Generator<{ step: string; values: Record<string, Value> }> {
	for (const use of document.lanes.flatMap((lane) => lane.steps)) yield use;
	if (document.surface?.values !== undefined) yield { step: SURFACE, values: document.surface.values };
	for (const layer of document.layers) yield { step: LAYER, values: layer as unknown as Record<string, Value> };
	for (const layer of document.layers) if (layer.finish?.values !== undefined) yield { step: FINISH, values: layer.finish.values };
	for (const term of document.layers.flatMap((layer) => layer.mask ?? [])) yield { step: masked(term.kind), values: term.values };
}

export function isTie(value: unknown): value is Tie {
	return typeof value === 'object' && value !== null && !Array.isArray(value) && 'parameter' in value;
}

export function parameterOf(document: MaterialDocument, tie: Tie): Parameter | undefined {
	return document.parameters?.find((one) => one.id === tie.parameter);
}

/** What a number comes to now, tied or not. */
export function numberOf(document: MaterialDocument, value: unknown, control: NumberControl): number {
	if (typeof value === 'number') return value;
	const parameter = isTie(value) ? parameterOf(document, value) : undefined;
	if (parameter === undefined) return control.default;
	const number = parameter.value * (value as Tie).factor + (value as Tie).offset;
	const held = Math.min(control.hard[1]!, Math.max(control.hard[0]!, number));
	return control.whole ? Math.floor(held + 0.5) : held;
}

/** What the parameter has to be for a tied number to come to a value; null if no value of it does that. */
export function backwards(tie: Tie, number: number): number | null {
	return tie.factor === 0 ? null : (number - tie.offset) / tie.factor;
}

/** The control that a parameter is changed by. */
export function controlOf(parameter: Parameter, value: NumberControl): NumberControl {
	return { ...value, label: parameter.name, unit: parameter.unit, soft: [parameter.min, parameter.max], hard: [parameter.min, parameter.max], step: parameter.step };
}

/** Puts an end to all ties to a parameter: numbers stay what they are. */
export function untieAll(document: MaterialDocument, id: string, control: (step: string, name: string) => NumberControl | undefined): void {
	for (const use of valued(document)) {
		for (const [name, value] of Object.entries(use.values)) {
			const declared = control(use.step, name);
			if (isTie(value) && value.parameter === id && declared !== undefined) use.values[name] = numberOf(document, value, declared);
		}
	}
}

/** How many numbers follow a parameter. */
export function uses(document: MaterialDocument, id: string): number {
	return [...valued(document)].flatMap((use) => Object.values(use.values)).filter((value) => isTie(value) && value.parameter === id).length;
}

/** An id that nobody has yet, made of a name. */
export function freshId(name: string, taken: string[]): string {
	const plain = name.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, '').slice(0, 40) || 'new';
	let id = plain;
	for (let n = 2; taken.includes(id); n++) id = `${plain}-${n}`;
	return id;
}
