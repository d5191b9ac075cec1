import { beforeAll, describe, expect, it, vi } from 'vitest';
import type { MaterialDocument, StepUse } from '../api/client';

vi.mock('../api/client', () => ({
	api: {
		catalogue: async () => ({
			steps: [
				{ name: 'origin', idle: null, controls: [] },
				{ name: 'turn', idle: { angle: 0 }, controls: [{ name: 'angle', default: 0 }] },
				{ name: 'scatter', idle: { shift: 0, flip: false }, controls: [{ name: 'shift', default: 100 }, { name: 'flip', default: false }] },
				{ name: 'mirror', idle: null, controls: [] }
			]
		})
	}
}));
const { catalogue } = await import('./catalogue.svelte');
const { standIn } = await import('./standin');

const turn = (angle: unknown, on = true): StepUse => ({ step: 'turn', on, values: { angle } }) as StepUse;
const origin: StepUse = { step: 'origin', on: true, values: {} };
const mirror: StepUse = { step: 'mirror', on: true, values: {} };
const scatter = (flip: boolean): StepUse => ({ step: 'scatter', on: true, values: { shift: 40, flip } });
const material = (steps: StepUse[], opacity = 100): MaterialDocument => ({
	format: 'rilta-material/2',
	name: 'Wall',
	lanes: [{ id: 'main', name: 'Main', steps: [origin, ...steps] }],
	layers: [{ id: 'ground', name: 'Ground', lane: 'main', set: 'rock', opacity }]
});
const steps = (document: MaterialDocument | null): StepUse[] | undefined => document?.lanes[0]?.steps.slice(1);

describe('what stands in for a structure whose code is awaited', () => {
	beforeAll(async () => void (await catalogue.load()));

	it('has steps idle that are gone or off', () => {
		expect(steps(standIn(material([turn(20), mirror]), material([mirror])))).toEqual([turn(0), mirror]);
		expect(steps(standIn(material([turn(20), mirror]), material([turn(20, false), mirror])))).toEqual([turn(0), mirror]);
		expect(steps(standIn(material([turn(20), turn(20), turn(5)]), material([turn(20), turn(5)])))).toEqual([turn(20), turn(0), turn(5)]);
		expect(steps(standIn(material([scatter(false)]), material([])))).toEqual([{ step: 'scatter', on: true, values: { shift: 0, flip: false } }]);
	});

	it('lets what follows a parameter follow it by nothing', () => {
		const tied = { parameter: 'lean', factor: 2, offset: 7 };
		expect(steps(standIn(material([turn(tied)]), material([])))).toEqual([turn({ parameter: 'lean', factor: 0, offset: 0 })]);
	});

	it('is what is shown where new steps do nothing', () => {
		expect(steps(standIn(material([mirror]), material([turn(0), mirror])))).toEqual([mirror]);
		expect(steps(standIn(material([turn(0), mirror]), material([mirror])))).toEqual([turn(0), mirror]);
	});

	it('has hidden layers of no opacity, but for the lowest', () => {
		const layers = (...all: [string, object][]): MaterialDocument => ({ ...material([]), layers: all.map(([id, more]) => ({ id, name: id, lane: 'main', set: 'rock', opacity: 60, ...more })) });
		expect(standIn(layers(['a', {}], ['b', {}], ['c', {}]), layers(['a', {}], ['b', { on: false }], ['c', {}]))?.layers.map((one) => one.opacity)).toEqual([60, 0, 60]);
		const tied = { parameter: 'wet', factor: 2, offset: 5 };
		expect(standIn(layers(['a', {}], ['b', { on: true, opacity: tied }]), layers(['a', {}], ['b', { on: false, opacity: tied }]))?.layers[1]?.opacity).toEqual({ parameter: 'wet', factor: 0, offset: 0 });
		expect(standIn(layers(['a', {}], ['b', {}]), layers(['a', { on: false }], ['b', {}])), 'the lowest').toBeNull();
		expect(standIn(layers(['a', {}], ['b', { on: false }]), layers(['a', {}], ['b', { on: true }])), 'shown again').toBeNull();
		expect(standIn(layers(['a', {}], ['b', {}]), layers(['a', {}])), 'deleted: others may be masked by it').toBeNull();
		expect(standIn(layers(['a', {}], ['b', {}]), layers(['a', {}], ['b', { on: false, set: 'salt' }])), 'another set').toBeNull();
	});

	it('is not there where it takes other code', () => {
		expect(standIn(material([mirror, turn(20)]), material([turn(20)])), 'a step that cannot idle').toBeNull();
		expect(standIn(material([turn(20)]), material([turn(20), turn(5)])), 'a new one that does something').toBeNull();
		expect(standIn(material([turn(20), turn(5)]), material([turn(5), turn(20)])), 'another order').toBeNull();
		expect(standIn(material([turn(20)]), material([turn(30)])), 'another number').toBeNull();
		expect(standIn(material([scatter(true)]), material([])), 'a switch that may be code').toBeNull();
		expect(standIn(material([turn(20)]), material([], 50)), 'another layer').toBeNull();
	});
});
