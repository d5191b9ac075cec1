import { describe, expect, it } from 'vitest';
import type { Control, MaterialDocument, NumberControl } from '../api/client';
import { backwards, controlOf, FINISH, freshId, freshName, isNumber, isTie, LAYER, numberOf, plainOf, said, seedOf, setOf, untieAll, uses } from './parameters';

const size: NumberControl = { type: 'number', name: 'u', label: 'Size', help: '', unit: 'm', default: 1, soft: [0.1, 10], hard: [0.01, 20], step: 0.1, ratio: true, structural: false, whole: false };
const tie = (factor: number, offset: number) => ({ parameter: 'wide', factor, offset });

function document(...values: unknown[]): MaterialDocument {
	return {
		format: 'rilta-material/2',
		name: 'Wall',
		parameters: [{ id: 'wide', name: 'Wide', kind: 'number', unit: 'm', min: 0, max: 5, step: 0.5, value: 2 }],
		lanes: [{ id: 'main', name: 'Main', steps: values.map((u) => ({ step: 'size', on: true, values: { u: u as number, linked: true } })) }],
		layers: []
	};
}

describe('numbers that follow a parameter', () => {
	it('are factor times parameter plus offset, held in their range', () => {
		const of = (value: unknown, control = size): number => numberOf(document(), value, control);
		expect([of(3), of(tie(2, 1)), of(tie(100, 0)), of(tie(-1, 0))]).toEqual([3, 5, 20, 0.01]);
		expect(of(tie(0.8, 0), { ...size, whole: true })).toBe(2);
		expect(of({ parameter: 'nobody', factor: 1, offset: 0 })).toBe(1);
	});

	it('lead back to the parameter, unless nothing of it is in them', () => {
		expect(backwards(tie(2, 1), 5)).toBe(2);
		expect(backwards(tie(0, 1), 5)).toBeNull();
	});

	it('are found in the finish of layers as well', () => {
		const all = document(3);
		all.layers = [{ id: 'low', name: 'Low', lane: 'main', set: 'rock', finish: { values: { hue: tie(2, 1) } } }];
		expect(uses(all, 'wide')).toBe(1);
		untieAll(all, 'wide', (step, name) => (step === FINISH && name === 'hue' ? { ...size, name: 'hue' } : undefined));
		expect(all.layers[0]?.finish?.values?.hue).toBe(5);
	});

	it('are counted, and stay what they are when the parameter goes', () => {
		const all = document(tie(2, 1), 3, tie(1, 0));
		expect(uses(all, 'wide')).toBe(2);
		untieAll(all, 'wide', (_, name) => (name === 'u' ? size : undefined));
		expect(all.lanes[0]?.steps.map((use) => use.values.u)).toEqual([5, 3, 2]);
		expect(uses(all, 'wide')).toBe(0);
	});

	it('may be of other kinds', () => {
		const all = document(3);
		all.parameters!.push({ id: 'paint', name: 'Paint', kind: 'colour', value: [1, 0, 0.5] }, { id: 'stuff', name: 'Stuff', kind: 'set', value: 'sand' });
		all.layers = [{ id: 'low', name: 'Low', lane: 'main', set: { parameter: 'stuff' }, finish: { values: { tint: { parameter: 'paint' } } } }];
		expect([uses(all, 'paint'), uses(all, 'stuff'), setOf(all, all.layers[0]!)]).toEqual([1, 1, 'sand']);
		expect(plainOf(all, { parameter: 'paint' }, '')).toEqual([1, 0, 0.5]);
		expect(plainOf(all, { parameter: 'nobody' }, 'none')).toBe('none');
		expect([said([1, 0, 0.5]), said(true), said(''), said(2.5)]).toEqual(['#ff0080', 'on', 'none', '2.5']);
		untieAll(all, 'stuff', (step, name) => (step === LAYER && name === 'set' ? ({ type: 'set', default: '' } as Control) : undefined));
		untieAll(all, 'paint', (step) => (step === FINISH ? ({ type: 'colour', default: [0, 0, 0] } as unknown as Control) : undefined));
		expect([all.layers[0]!.set, all.layers[0]!.finish?.values?.tint]).toEqual(['sand', [1, 0, 0.5]]);
	});

	it('may stand in rows, and be seeds', () => {
		const all = document(3);
		all.lanes[0]!.steps.push({ step: 'place', on: true, values: { more: [{ u: tie(2, 1), v: 3 }], seed: { parameter: 'wide' } } });
		expect(uses(all, 'wide')).toBe(2);
		untieAll(all, 'wide', (step, name) => (name === 'more/u' ? size : name === 'seed' ? ({ type: 'seed', default: 1 } as unknown as Control) : undefined));
		expect(all.lanes[0]!.steps[1]!.values).toEqual({ more: [{ u: 5, v: 3 }], seed: 2 });
		expect([seedOf(2.5), seedOf(-4), seedOf(7)]).toEqual([3, 0, 7]);
	});

	it('are told from lists and plain values', () => {
		expect([tie(1, 0), 2, 'x', [1, 2, 3], [{ x: 1 }], null].map(isTie)).toEqual([true, false, false, false, false, false]);
	});

	it('are changed by a control that has the range of the parameter', () => {
		const [wide] = document().parameters!;
		if (!isNumber(wide)) throw new Error('It is a number.');
		expect(controlOf(wide, size)).toMatchObject({ label: 'Wide', soft: [0, 5], hard: [0, 5], step: 0.5, unit: 'm' });
	});

	it('get ids and names that nobody has', () => {
		expect([freshId('Tide level', []), freshId('Tide level', ['tide-level']), freshId('%', [])]).toEqual(['tide-level', 'tide-level-2', 'new']);
		expect([freshName('Sand', []), freshName('Sand', ['Sand']), freshName('Sand 2', ['Sand', 'Sand 2', 'Sand 3']), freshName('Weir 1984', ['Weir 1984'])]).toEqual(['Sand', 'Sand 2', 'Sand 4', 'Weir 1984 2']);
	});
});
