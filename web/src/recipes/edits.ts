import type { Ingredient, RecipeDocument, RecipeOutput, RecipeTerm } from '../api/client';
import { freshId } from '../state/parameters';

type Mention = { by: Ingredient | RecipeOutput; id: string; rename: (id: string) => void; optional: boolean };

/** Everything in a recipe that names an ingredient, and how to let it name another. */
function mentions(document: RecipeDocument): Mention[] {
	const out: Mention[] = [];
	const of = (by: Ingredient | RecipeOutput, one: { of?: string; mask?: string }): void => {
		if (one.of !== undefined) out.push({ by, id: one.of, rename: (id) => (one.of = id), optional: false });
		if (one.mask !== undefined) out.push({ by, id: one.mask, rename: (id) => (one.mask = id), optional: true });
	};
	for (const ingredient of document.ingredients) {
		const { bendBy } = ingredient.values;
		if (typeof bendBy === 'string') out.push({ by: ingredient, id: bendBy, rename: (id) => (ingredient.values.bendBy = id), optional: true });
		for (const term of ingredient.terms ?? []) of(ingredient, term);
	}
	for (const output of document.outputs) {
		if (output.coats === undefined) of(output, output);
		for (const coat of output.coats ?? []) of(output, coat);
		if (output.alpha !== undefined) out.push({ by: output, id: output.alpha, rename: (id) => (output.alpha = id), optional: true });
	}
	return out;
}

/** Puts a new ingredient at the end, and says its id. A blend begins with the one before it. */
export function addIngredient(document: RecipeDocument, source: { name: string; label: string; blend: boolean }, term: RecipeTerm): string {
	const taken = document.ingredients.map((one) => one.id);
	const id = freshId(source.label.replace(/\(.*\)/, ''), taken);
	const count = document.ingredients.filter((one) => one.source === source.name).length;
	document.ingredients.push({
		id,
		name: count === 0 ? source.label : `${source.label} ${count + 1}`,
		source: source.name,
		values: {},
		...(source.blend ? { terms: [{ ...term, of: taken.at(-1) ?? '' }] } : {})
	});
	return id;
}

/** A copy right after it; what used the first still does. */
export function duplicateIngredient(document: RecipeDocument, id: string): string {
	const at = document.ingredients.findIndex((one) => one.id === id);
	const copy = JSON.parse(JSON.stringify(document.ingredients[at])) as Ingredient;
	copy.id = freshId(copy.id, document.ingredients.map((one) => one.id));
	copy.name = `${copy.name} copy`.slice(0, 120);
	document.ingredients.splice(at + 1, 0, copy);
	return copy.id;
}

/** Takes an ingredient out. What was made of it is made of the nearest before it that is left. */
export function removeIngredient(document: RecipeDocument, id: string): void {
	const at = document.ingredients.findIndex((one) => one.id === id);
	if (at < 0 || document.ingredients.length < 2) return;
	document.ingredients.splice(at, 1);
	for (const ingredient of document.ingredients) {
		const kept = ingredient.terms?.filter((term) => term.of !== id) ?? [];
		if (kept.length > 0) ingredient.terms = kept;
		if (ingredient.values.bendBy === id) ingredient.values.bend = 'none';
	}
	const left = document.ingredients;
	for (const one of mentions(document)) if (one.id === id) one.rename(one.optional ? '' : left[Math.max(0, at - 1)]!.id);
	for (const [place, ingredient] of left.entries()) {
		// A blend with nothing before it would be made of itself: it becomes plain noise.
		if (ingredient.terms !== undefined && ingredient.terms.some((term) => left.findIndex((other) => other.id === term.of) >= place)) {
			ingredient.source = 'gradient';
			delete ingredient.terms;
		}
	}
}

/** Why an ingredient cannot stand at another place; null if it can. */
export function objection(document: RecipeDocument, from: number, to: number): string | null {
	const order = document.ingredients.map((one) => one.id);
	const [moved] = order.splice(from, 1);
	order.splice(to, 0, moved!);
	for (const { by, id } of mentions(document)) {
		if ('role' in by || id === '' || order.indexOf(id) < order.indexOf(by.id)) continue;
		return `${by.name} is made of ${document.ingredients.find((one) => one.id === id)?.name ?? id}, which has to come before it.`;
	}
	return null;
}

export function moveIngredient(document: RecipeDocument, from: number, to: number): void {
	const [moved] = document.ingredients.splice(from, 1);
	document.ingredients.splice(to, 0, moved!);
}

/** What a row begins with, as its controls say. */
export function starting<T>(controls: { name: string; default?: unknown }[]): T {
	return Object.fromEntries(controls.map((control) => [control.name, control.default])) as T;
}
