import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { prepared } from './prelude';

type Vector = { name: string; prelude: Parameters<typeof prepared>[0]; uniforms: Record<string, number>; values: Record<string, number> };
// Made by the core, whose own tests hold the file to what it computes.
const vectors = JSON.parse(readFileSync(new URL('../../../core/tests/Field/prelude.json', import.meta.url), 'utf8')) as Vector[];

describe('what is computed once a picture', () => {
	it('has vectors', () => expect(vectors.length).toBeGreaterThan(20));
	it.each(vectors.map((vector) => [vector.name, vector] as const))('%s', (_, vector) => {
		const found = prepared(vector.prelude, (name) => vector.uniforms[name]!);
		expect(Object.keys(found)).toEqual(Object.keys(vector.values));
		for (const [name, value] of Object.entries(vector.values)) expect(Math.abs(found[name]! - value), name).toBeLessThanOrEqual(1e-12 * Math.max(1, Math.abs(value)));
	});
});
