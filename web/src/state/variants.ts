/** Variants of a document: what they make of its parameters, and how they are changed. */
import type { MaterialDocument, Parameter, ParameterValue, Variant } from '../api/client';
import { freshId, freshName, isNumber } from './parameters';

export function variantOf(document: MaterialDocument, id: string): Variant | undefined {
	return document.variants?.find((one) => one.id === id);
}

/** Every parameter as a variant has it: its own, or that of the nearest it builds on, or the material's. */
export function valuesOf(document: MaterialDocument, id: string): Record<string, ParameterValue> {
	const values: Record<string, ParameterValue> = {};
	const seen = new Set<string>();
	for (let at = variantOf(document, id); at !== undefined && !seen.has(at.id); at = variantOf(document, at.base)) {
		seen.add(at.id);
		for (const [parameter, value] of Object.entries(at.values)) values[parameter] ??= value;
	}
	for (const parameter of document.parameters ?? []) values[parameter.id] ??= parameter.value;
	return values;
}

/** The same as numbers, by JSON Pointer, which is where uniforms take them from: three of a colour, 0 or 1 of a switch, none of a map. */
export function numbersOf(document: MaterialDocument, id: string): Record<string, number> {
	const values = valuesOf(document, id);
	return Object.fromEntries(
		(document.parameters ?? []).flatMap((parameter, i) => {
			const value = values[parameter.id] ?? parameter.value;
			const path = `/parameters/${i}/value`;
			if (Array.isArray(value)) return value.map((part, at): [string, number] => [`${path}/${at}`, part]);
			return typeof value === 'string' ? [] : [[path, Number(value)] as [string, number]];
		})
	);
}

/** The document with its parameters as a variant has them. Nothing of it is changed. */
export function dressed(document: MaterialDocument, id: string): MaterialDocument {
	if (variantOf(document, id) === undefined) return document;
	const values = valuesOf(document, id);
	return { ...document, parameters: (document.parameters ?? []).map((parameter): Parameter => ({ ...parameter, value: values[parameter.id] ?? parameter.value })) };
}

/** Variants that a variant may build on: all that do not build on it. */
export function bases(document: MaterialDocument, id: string): Variant[] {
	const leads = (from: string): boolean => {
		const seen = new Set<string>();
		for (let at = from; at !== '' && !seen.has(at); at = variantOf(document, at)?.base ?? '') {
			if (at === id) return true;
			seen.add(at);
		}
		return false;
	};
	return (document.variants ?? []).filter((one) => !leads(one.id));
}

/** Where a parameter is changed while a variant is shown: in the variant, or in the material itself. */
export function pathOf(document: MaterialDocument, id: string, parameter: string): string {
	const at = (document.variants ?? []).findIndex((one) => one.id === id);
	return at < 0 ? `/parameters/${(document.parameters ?? []).findIndex((one) => one.id === parameter)}/value` : `/variants/${at}/values/${parameter}`;
}

/** A new variant that builds on one, or on the material. */
export function addVariant(document: MaterialDocument, base: string, name = ''): string {
	// Read again: what an assignment gives back is not what the document watches.
	document.variants ??= [];
	const all = document.variants;
	const called = name === '' ? `Variant ${all.length + 1}` : name;
	const id = freshId(called, all.map((one) => one.id));
	all.push({ id, name: called, base, values: {} });
	return id;
}

/** A variant with the same overrides beside it. */
export function duplicateVariant(document: MaterialDocument, id: string): string {
	const like = variantOf(document, id);
	if (like === undefined) return id;
	const copy = addVariant(document, like.base, freshName(like.name, (document.variants ?? []).map((one) => one.name)));
	variantOf(document, copy)!.values = { ...like.values };
	return copy;
}

/** Takes a variant away; those that build on it keep what they had from it. */
export function removeVariant(document: MaterialDocument, id: string): void {
	const gone = variantOf(document, id);
	if (gone === undefined) return;
	for (const one of document.variants ?? []) {
		if (one.base !== id) continue;
		one.base = gone.base;
		one.values = { ...gone.values, ...one.values };
	}
	document.variants = (document.variants ?? []).filter((one) => one.id !== id);
}

/** No variant overrides it any more. */
export function forgetParameter(document: MaterialDocument, parameter: string): void {
	for (const one of document.variants ?? []) one.values = Object.fromEntries(Object.entries(one.values).filter(([name]) => name !== parameter));
}

/** What a cell of a table says for a parameter; undefined if it says nothing that can be used. */
export function read(parameter: Parameter, cell: string): ParameterValue | undefined {
	const text = cell.trim();
	if (text === '') return undefined;
	if (isNumber(parameter)) {
		const number = Number(text.replace(',', '.'));
		return Number.isFinite(number) ? Math.min(parameter.max, Math.max(parameter.min, number)) : undefined;
	}
	if (parameter.kind === 'switch') return { true: true, false: false, on: true, off: false, '1': true, '0': false }[text.toLowerCase()];
	if (parameter.kind !== 'colour') return text === 'none' ? '' : text;
	const hex = /^#?([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(text);
	return hex === null ? undefined : hex.slice(1).map((part) => Number((parseInt(part, 16) / 255).toFixed(4)));
}

/**
 * Cells from a spreadsheet, laid over the table from one cell on; empty cells and what cannot be used change nothing.
 * A row "" is the material itself.
 */
export function paste(document: MaterialDocument, rows: string[], from: { row: number; column: number }, text: string): number {
	const parameters = document.parameters ?? [];
	let changed = 0;
	text.replace(/\r?\n$/, '').split(/\r?\n/).forEach((line, r) => {
		line.split('\t').forEach((cell, c) => {
			const parameter = parameters[from.column + c];
			const row = rows[from.row + r];
			if (parameter === undefined || row === undefined) return;
			const value = read(parameter, cell);
			if (value === undefined) return;
			const variant = variantOf(document, row);
			if (variant === undefined) parameter.value = value;
			else variant.values[parameter.id] = value;
			changed += 1;
		});
	});
	return changed;
}
