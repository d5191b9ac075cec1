/** Parameters of a document and the values that follow them. */
import type { Control, Follow, Layer, MaterialDocument, NumberControl, Parameter, ParameterValue, Tie, Value } from '../api/client';

/** A parameter that is a number, with its range. */
export type NumberParameter = Parameter & Required<Pick<Parameter, 'unit' | 'min' | 'max' | 'step'>> & { kind: 'number'; value: number };

export function isNumber(parameter: Parameter | undefined): parameter is NumberParameter {
	return parameter?.kind === 'number' && typeof parameter.value === 'number';
}

/** Stands for the name of a step where the values of a layer's finish are meant. */
export const FINISH = 'finish';

/** The same for the terms of a mask, by their kind. */
export const masked = (kind: string): string => `mask ${kind}`;

/** The same for the kind of surface. */
export const SURFACE = 'surface';

/** The same for the numbers and the set of a layer itself. */
export const LAYER = 'layer';

/** The same for the colours of its sides. */
export const SIDES = 'sides';

/** The same for the opacity of a group of layers. */
export const GROUP = 'group';

/** All values of a document that may be tied, with the step that declares them; those in rows as "rows/column". */
function* valued(document: MaterialDocument): Generator<{ step: string; name: string; value: Value; set: (next: Value) => void }> {
	for (const { step, values } of holders(document)) {
		for (const [name, value] of Object.entries(values)) {
			yield { step, name, value, set: (next) => (values[name] = next) };
			if (!Array.isArray(value)) continue;
			for (const row of value) {
				if (typeof row !== 'object' || row === null) continue;
				for (const [column, cell] of Object.entries(row)) yield { step, name: `${name}/${column}`, value: cell, set: (next) => (row[column] = next as number) };
			}
		}
	}
}

function* holders(document: MaterialDocument): Generator<{ step: string; values: Record<string, Value> }> {
	for (const use of document.lanes.flatMap((lane) => lane.steps)) yield use;
	if (document.surface?.values !== undefined) yield { step: SURFACE, values: document.surface.values };
	for (const group of document.groups ?? []) yield { step: GROUP, values: group as unknown as Record<string, Value> };
	for (const layer of document.layers) yield { step: LAYER, values: layer as unknown as Record<string, Value> };
	for (const layer of document.layers) if (layer.tints !== undefined) yield { step: SIDES, values: layer.tints as Record<string, Value> };
	for (const layer of document.layers) if (layer.finish?.values !== undefined) yield { step: FINISH, values: layer.finish.values };
	for (const term of document.layers.flatMap((layer) => layer.mask ?? [])) yield { step: masked(term.kind), values: term.values };
}

export function isTie(value: unknown): value is Tie | Follow {
	return typeof value === 'object' && value !== null && !Array.isArray(value) && 'parameter' in value;
}

export function parameterOf(document: MaterialDocument, tie: Follow): Parameter | undefined {
	return document.parameters?.find((one) => one.id === tie.parameter);
}

/** What a number comes to now, tied or not. */
export function numberOf(document: MaterialDocument, value: unknown, control: NumberControl): number {
	if (typeof value === 'number') return value;
	const parameter = isTie(value) ? parameterOf(document, value) : undefined;
	if (!isNumber(parameter)) return control.default;
	const { factor = 1, offset = 0 } = value as Partial<Tie>;
	const held = Math.min(control.hard[1]!, Math.max(control.hard[0]!, parameter.value * factor + offset));
	return control.whole ? Math.floor(held + 0.5) : held;
}

/** What any other value comes to now: its own, or that of the parameter that it follows. */
export function plainOf(document: MaterialDocument, value: unknown, fallback: Value): Value {
	if (!isTie(value)) return (value ?? fallback) as Value;
	return parameterOf(document, value)?.value ?? fallback;
}

/** The name of the map set of a layer; empty for constants. */
export function setOf(document: MaterialDocument, layer: Layer): string {
	return String(plainOf(document, layer.set, ''));
}

/** The whole number that a seed comes to where it follows a parameter. */
export function seedOf(value: unknown): number {
	return Math.floor(Math.max(0, Number(value)) + 0.5);
}

/** What the parameter has to be for a tied number to come to a value; null if no value of it does that. */
export function backwards(tie: Tie, number: number): number | null {
	return tie.factor === 0 ? null : (number - tie.offset) / tie.factor;
}

/** The control that a number is changed by. */
export function controlOf(parameter: NumberParameter, value: NumberControl): NumberControl {
	return { ...value, label: parameter.name, unit: parameter.unit, soft: [parameter.min, parameter.max], hard: [parameter.min, parameter.max], step: parameter.step };
}

/** Puts an end to all ties to a parameter: values stay what they are. */
export function untieAll(document: MaterialDocument, id: string, control: (step: string, name: string) => Control | undefined): void {
	for (const { step, name, value, set } of [...valued(document)]) {
		const declared = isTie(value) && value.parameter === id ? control(step, name) : undefined;
		if (declared === undefined) continue;
		const plain = declared.type === 'number' ? numberOf(document, value, declared) : plainOf(document, value, declared.default as Value);
		set(Array.isArray(plain) ? [...plain] : declared.type === 'seed' ? seedOf(plain) : plain);
	}
}

/** How many values follow a parameter. */
export function uses(document: MaterialDocument, id: string): number {
	return [...valued(document)].filter(({ value }) => isTie(value) && value.parameter === id).length;
}

/** A value in words, for tables and lists. */
export function said(value: ParameterValue): string {
	if (Array.isArray(value)) return `#${value.map((part) => Math.round(part * 255).toString(16).padStart(2, '0')).join('')}`;
	return value === '' ? 'none' : typeof value === 'boolean' ? (value ? 'on' : 'off') : String(value);
}

/** An id that nobody has yet, made of a name. */
export function freshId(name: string, taken: string[]): string {
	const plain = name.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, '').slice(0, 40) || 'new';
	let id = plain;
	for (let n = 2; taken.includes(id); n++) id = `${plain}-${n}`;
	return id;
}

/** A name for one more of what is called so already: "Sand", "Sand 2", "Sand 3". */
export function freshName(name: string, taken: string[]): string {
	if (!taken.includes(name)) return name;
	const plain = name.replace(/ \d{1,2}$/, '').slice(0, 114);
	let n = 2;
	while (taken.includes(`${plain} ${n}`)) n++;
	return `${plain} ${n}`;
}
