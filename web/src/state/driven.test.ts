import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import type { MaterialDocument, NumberControl } from '../api/client';
import { backwards, numberOf, seedOf } from './parameters';
import { numbersOf, valuesOf } from './variants';

// Made by the core, whose own tests hold the file to what the code makes of it.
const vectors = JSON.parse(readFileSync(new URL('../../../core/tests/Material/driven.json', import.meta.url), 'utf8')) as {
	ties: { hard: [number, number]; whole: boolean; default: number; parameter: number; factor: number; offset: number; number: number }[];
	seeds: [number, number][];
	variants: { document: MaterialDocument; id: string; values: Record<string, unknown>; numbers: Record<string, number> }[];
};

describe('what follows parameters', () => {
	it('comes to what the core makes of it', () => {
		expect(vectors.ties.length).toBeGreaterThan(40);
		for (const { hard, whole, default: usual, parameter, factor, offset, number } of vectors.ties) {
			const document = { parameters: [{ id: 'p', name: 'P', kind: 'number', unit: '', min: -10, max: 10, step: 0.1, value: parameter }] } as unknown as MaterialDocument;
			const found = numberOf(document, { parameter: 'p', factor, offset }, { hard, whole, default: usual } as unknown as NumberControl);
			expect(Math.abs(found - number)).toBeLessThanOrEqual(1e-12 * Math.max(1, Math.abs(number)));
			// Where nothing holds it, it leads back to the parameter.
			if (!whole && factor !== 0 && found > hard[0] && found < hard[1]) expect(backwards({ parameter: 'p', factor, offset }, found)).toBeCloseTo(parameter, 9);
		}
	});

	it('comes to the same seeds', () => expect(vectors.seeds.map(([value]) => [value, seedOf(value)])).toEqual(vectors.seeds));

	it('is the same in variants', () => {
		for (const { document, id, values, numbers } of vectors.variants) {
			expect(valuesOf(document, id), id).toEqual(values);
			expect(numbersOf(document, id), id).toEqual(numbers);
		}
	});
});
