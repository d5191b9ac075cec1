import { describe, expect, it } from 'vitest';
import type { MaterialDocument, Revision } from '../api/client';
import { differences } from './differences';
import { landmarks, placeOf } from './history';

const revision = (version: number, minute: number, more: Partial<Revision> = {}): Revision => ({ id: version, version, name: '', savedAt: new Date(Date.UTC(2026, 4, 1, 9, minute)).toISOString(), aside: false, approvedBy: '', approvedAt: null, ...more });
const document: MaterialDocument = {
	format: 'rilta-material/2',
	name: 'Wall',
	parameters: [{ id: 'damp', name: 'Damp reaches', kind: 'number', unit: 'm', min: 0, max: 3, step: 0.1, value: 1 }],
	lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: {} }, { step: 'size', on: true, values: { u: { parameter: 'damp', factor: 2, offset: 0 } } }] }],
	layers: [{ id: 'low', name: 'Plaster', lane: 'main', set: 'lime', finish: { values: { hue: 4, tint: [1, 1, 1] } }, mask: [{ kind: 'noise', values: { size: 3 } }] }],
	variants: [{ id: 'wet', name: 'Wet', base: '', values: { damp: 2 } }]
};
const label = (step: string, name: string): string => `${step}${name === '' ? '' : `:${name}`}`;

describe('what a material was', () => {
	it('is told by the last of each sitting, and by all that have names', () => {
		const all = [revision(7, 50), revision(6, 49), revision(5, 48, { name: 'signed off' }), revision(4, 30, { aside: true }), revision(3, 30), revision(2, 29), revision(1, 2)];
		expect(landmarks(all).map((one) => one.version)).toEqual([7, 5, 4, 3, 1]);
	});

	it('differs leaf by leaf where one has nothing', () => {
		const without = structuredClone(document);
		delete without.variants;
		expect(differences(document, without).map((one) => [placeOf(document, one.path, label), one.mine, one.theirs])).toEqual([
			['Wet › id', '"wet"', 'missing'], ['Wet › name', '"Wet"', 'missing'], ['Wet › base', '""', 'missing'], ['Wet › Damp reaches', '2', 'missing']
		]);
	});

	it('differs in places that have names', () => {
		const other = structuredClone(document);
		other.lanes[0]!.steps[1]!.values.u = { parameter: 'damp', factor: 3, offset: 0 };
		other.lanes[0]!.steps[0]!.on = false;
		other.layers[0]!.finish!.values!.hue = 9;
		other.layers[0]!.finish!.values!.tint = [1, 0.5, 1];
		other.layers[0]!.mask![0]!.values.size = 8;
		other.layers[0]!.opacity = 50;
		other.parameters![0]!.max = 4;
		other.variants![0]!.values.damp = 2.5;
		other.name = 'Old wall';
		expect(differences(document, other).map((one) => placeOf(document, one.path, label))).toEqual([
			'name', 'Damp reaches › max', 'Main › origin', 'Main › size › size:u factor', 'Plaster › finish:hue', 'Plaster › finish:tint 1', 'Plaster › mask 1 › mask noise:size', 'Plaster › opacity', 'Wet › Damp reaches'
		]);
	});
});
