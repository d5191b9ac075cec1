import { describe, expect, it } from 'vitest';
import type { RecipeDocument, RecipeTerm } from '../api/client';
import { addIngredient, duplicateIngredient, moveIngredient, objection, removeIngredient, starting } from './edits';
import { spreadOf } from './painter';

const term: RecipeTerm = { of: '', how: 'mix', amount: 100, mask: '' };
const noise = (id: string): RecipeDocument['ingredients'][number] => ({ id, name: id.toUpperCase(), source: 'gradient', values: {} });
function recipe(): RecipeDocument {
	return {
		format: 'rilta-recipe/1', name: 'R', size: 64, extent: 1, relief: 0.1, seed: 0,
		ingredients: [
			noise('a'),
			{ ...noise('b'), values: { bend: 'ingredient', bendBy: 'a' } },
			{ ...noise('c'), source: 'blend', terms: [{ ...term, of: 'a' }, { ...term, of: 'b', mask: 'a' }] }
		],
		outputs: [
			{ role: 'height', of: 'c', values: {} },
			{ role: 'base-colour', alpha: 'a', coats: [{ ...term, of: 'b', between: 'linear', space: 'oklab', stops: [] }] }
		]
	};
}

describe('edits of a recipe', () => {
	it('adds ingredients with ids and names of their own', () => {
		const document = recipe();
		expect(addIngredient(document, { name: 'fbm', label: 'Cloudy noise (fBm)', blend: false }, term)).toBe('cloudy-noise');
		expect(addIngredient(document, { name: 'fbm', label: 'Cloudy noise (fBm)', blend: false }, term)).toBe('cloudy-noise-2');
		addIngredient(document, { name: 'blend', label: 'Blend', blend: true }, term);
		expect(document.ingredients.slice(3).map((one) => [one.name, one.terms?.map((t) => t.of)])).toEqual([['Cloudy noise (fBm)', undefined], ['Cloudy noise (fBm) 2', undefined], ['Blend 2', ['cloudy-noise-2']]]);
	});

	it('takes one out and lets what was made of it go on with another', () => {
		const document = recipe();
		removeIngredient(document, 'a');
		expect(document.ingredients.map((one) => [one.id, one.values.bend ?? '', one.terms ?? null])).toEqual([['b', 'none', null], ['c', '', [{ ...term, of: 'b' }]]]);
		expect([document.outputs[0]!.of, document.outputs[1]!.alpha]).toEqual(['c', '']);
		removeIngredient(document, 'c');
		expect(document.outputs[0]!.of).toBe('b');
		removeIngredient(document, 'b');
		expect(document.ingredients.length).toBe(1);
	});

	it('never leaves a blend of itself', () => {
		const document = { ...recipe(), ingredients: [noise('a'), { ...noise('c'), source: 'blend', terms: [{ ...term, of: 'a' }] }] };
		removeIngredient(document, 'a');
		expect(document.ingredients).toEqual([{ ...noise('c') }]);
	});

	it('copies one right after it, with values of its own', () => {
		const document = recipe();
		expect(duplicateIngredient(document, 'b')).toBe('b-2');
		expect(document.ingredients.map((one) => one.id)).toEqual(['a', 'b', 'b-2', 'c']);
		document.ingredients[2]!.values.bend = 'none';
		expect(document.ingredients[1]!.values.bend).toBe('ingredient');
	});

	it('moves one only where all that it is made of comes before', () => {
		const document = recipe();
		expect(objection(document, 2, 1)).toBe('C is made of B, which has to come before it.');
		expect(objection(document, 0, 1)).toBe('B is made of A, which has to come before it.');
		document.ingredients[1]!.values = {};
		expect(objection(document, 0, 1)).toBeNull();
		moveIngredient(document, 0, 1);
		expect(document.ingredients.map((one) => one.id)).toEqual(['b', 'a', 'c']);
	});

	it('begins rows as their controls say', () => {
		expect(starting([{ name: 'of', default: '' }, { name: 'amount', default: 100 }])).toEqual({ of: '', amount: 100 });
	});
});

describe('the spread of values', () => {
	it('counts what lies outside and where values are', () => {
		const places = [-0.5, 0.1, 0.1, 0.9, 1.2, 1.4, 5, -9];
		const spread = spreadOf(new Float32Array(places.flatMap((at) => [0, at, 0, 1])));
		expect([spread.below, spread.above]).toEqual([2 / 8, 3 / 8]);
		expect(spread.bins.reduce((sum, n) => sum + n, 0)).toBe(8);
		expect(spread.bins[Math.floor(((0.1 - spread.from) / (spread.to - spread.from)) * spread.bins.length)]).toBe(2);
		expect([spread.bins[0], spread.bins.at(-1)]).toEqual([1, 1]);
	});
});
