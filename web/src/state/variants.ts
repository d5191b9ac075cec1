/** Variants of a document: what they make of its parameters, and how they are changed. */
import type { MaterialDocument, Parameter, Variant } from '../api/client';
import { freshId } from './parameters';

export function variantOf(document: MaterialDocument, id: string): Variant | undefined {
	return document.variants?.find((one) => one.id === id);
}

/** Every parameter as a variant has it: its own, or that of the nearest it builds on, or the material's. */
export function valuesOf(document: MaterialDocument, id: string): Record<string, number> {
	const values: Record<string, number> = {};
	const seen = new Set<string>();
	for (let at = variantOf(document, id); at !== undefined && !seen.has(at.id); at = variantOf(document, at.base)) {
		seen.add(at.id);
		for (const [parameter, value] of Object.entries(at.values)) values[parameter] ??= value;
	}
	for (const parameter of document.parameters ?? []) values[parameter.id] ??= parameter.value;
	return values;
}

/** The same by JSON Pointer, which is where uniforms take them from. */
export function numbersOf(document: MaterialDocument, id: string): Record<string, number> {
	const values = valuesOf(document, id);
	return Object.fromEntries((document.parameters ?? []).map((parameter, i) => [`/parameters/${i}/value`, values[parameter.id] ?? parameter.value]));
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
	const copy = addVariant(document, like.base, `${like.name} (copy)`.slice(0, 120));
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

/**
 * Numbers from a spreadsheet, laid over the table from one cell on; empty cells and what is no number change nothing.
 * A row "" is the material itself.
 */
export function paste(document: MaterialDocument, rows: string[], from: { row: number; column: number }, text: string): number {
	const parameters = document.parameters ?? [];
	let changed = 0;
	text.replace(/\r?\n$/, '').split(/\r?\n/).forEach((line, r) => {
		line.split('\t').forEach((cell, c) => {
			const parameter = parameters[from.column + c];
			const row = rows[from.row + r];
			const number = Number(cell.trim().replace(',', '.'));
			if (parameter === undefined || row === undefined || cell.trim() === '' || !Number.isFinite(number)) return;
			const value = Math.min(parameter.max, Math.max(parameter.min, number));
			const variant = variantOf(document, row);
			if (variant === undefined) parameter.value = value;
			else variant.values[parameter.id] = value;
			changed += 1;
		});
	});
	return changed;
}
