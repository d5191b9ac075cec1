import { describe, expect, it } from 'vitest';
import type { MaterialDocument } from '../api/client';
import { addVariant, bases, dressed, duplicateVariant, forgetParameter, numbersOf, paste, pathOf, removeVariant, valuesOf } from './variants';

const parameter = (id: string, value: number) => ({ id, name: id, kind: 'number' as const, unit: '', min: 0, max: 100, step: 1, value });

/** The same as in the core's VariantTest. */
function document(): MaterialDocument {
	return {
		format: 'rilta-material/2',
		name: 'Test',
		parameters: [parameter('size', 2), parameter('turn', 0)],
		lanes: [],
		layers: [],
		variants: [
			{ id: 'wet', name: 'Wet', base: '', values: { size: 4 } },
			{ id: 'flooded', name: 'Flooded', base: 'wet', values: { turn: 90 } },
			{ id: 'drained', name: 'Drained', base: 'flooded', values: { size: 0.5 } }
		]
	};
}

describe('variants', () => {
	it('have their own numbers, then those of their base, then the material\'s', () => {
		expect(['', 'wet', 'flooded', 'drained'].map((id) => valuesOf(document(), id))).toEqual([
			{ size: 2, turn: 0 }, { size: 4, turn: 0 }, { size: 4, turn: 90 }, { size: 0.5, turn: 90 }
		]);
		expect(numbersOf(document(), 'drained')).toEqual({ '/parameters/0/value': 0.5, '/parameters/1/value': 90 });
		expect(dressed(document(), 'flooded').parameters?.map((one) => one.value)).toEqual([4, 90]);
		expect(valuesOf(document(), 'nobody')).toEqual({ size: 2, turn: 0 });
	});

	it('that go round in a circle come to an end', () => {
		const round = document();
		round.variants![0]!.base = 'drained';
		expect(valuesOf(round, 'wet')).toEqual({ size: 4, turn: 90 });
	});

	it('build on all but themselves and what builds on them', () => {
		expect(['wet', 'flooded', 'drained'].map((id) => bases(document(), id).map((one) => one.id))).toEqual([[], ['wet'], ['wet', 'flooded']]);
	});

	it('are where a parameter is changed while they are shown', () => {
		expect([pathOf(document(), 'flooded', 'size'), pathOf(document(), '', 'turn')]).toEqual(['/variants/1/values/size', '/parameters/1/value']);
	});

	it('are added and doubled under ids of their own', () => {
		const all = document();
		expect(addVariant(all, 'wet')).toBe('variant-4');
		expect(duplicateVariant(all, 'drained')).toBe('drained-2');
		expect(all.variants?.at(-1)).toEqual({ id: 'drained-2', name: 'Drained 2', base: 'flooded', values: { size: 0.5 } });
	});

	it('leave what they gave to those that build on them', () => {
		const all = document();
		const before = valuesOf(all, 'drained');
		removeVariant(all, 'flooded');
		expect(all.variants?.map((one) => [one.id, one.base])).toEqual([['wet', ''], ['drained', 'wet']]);
		expect(valuesOf(all, 'drained')).toEqual(before);
	});

	it('forget a parameter that goes', () => {
		const all = document();
		forgetParameter(all, 'size');
		expect(all.variants?.map((one) => one.values)).toEqual([{}, { turn: 90 }, {}]);
	});

	it('hold values of every kind, of which maps are no uniforms', () => {
		const all = document();
		all.parameters = [{ id: 'paint', name: 'Paint', kind: 'colour', value: [1, 0.5, 0] }, { id: 'over', name: 'Over', kind: 'switch', value: false }, { id: 'stuff', name: 'Stuff', kind: 'set', value: 'sand' }];
		all.variants = [{ id: 'other', name: 'Other', base: '', values: { paint: [0, 0, 1], over: true, stuff: '' } }];
		expect(valuesOf(all, 'other')).toEqual({ paint: [0, 0, 1], over: true, stuff: '' });
		expect(numbersOf(all, '')).toEqual({ '/parameters/0/value/0': 1, '/parameters/0/value/1': 0.5, '/parameters/0/value/2': 0, '/parameters/1/value': 0 });
		expect(numbersOf(all, 'other')).toEqual({ '/parameters/0/value/0': 0, '/parameters/0/value/1': 0, '/parameters/0/value/2': 1, '/parameters/1/value': 1 });
		expect(paste(all, ['', 'other'], { row: 0, column: 0 }, '#00ff00\ton\tgravel\nred\tmaybe\tnone')).toBe(4);
		expect(all.parameters.map((one) => one.value)).toEqual([[0, 1, 0], true, 'gravel']);
		expect(all.variants[0]?.values).toEqual({ paint: [0, 0, 1], over: true, stuff: '' });
	});

	it('take numbers from a spreadsheet, held in their ranges', () => {
		const all = document();
		expect(paste(all, ['', 'wet', 'flooded', 'drained'], { row: 0, column: 0 }, '3\t10\r\n\t12,5\r\n400\tno\n')).toBe(4);
		expect(all.parameters?.map((one) => one.value)).toEqual([3, 10]);
		expect(all.variants?.map((one) => one.values)).toEqual([{ size: 4, turn: 12.5 }, { size: 100, turn: 90 }, { size: 0.5 }]);
	});
});
