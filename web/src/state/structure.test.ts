import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { setAt, valueAt } from './pointer';
import { below, outline, sketch, type Structure } from './structure';

type Vector = Structure & { name: string; document: object; changes: { path: string; value?: unknown; alike: boolean }[] };
// Made by the core, whose own tests hold the file to the code that documents come to.
const vectors = JSON.parse(readFileSync(new URL('../../../core/tests/Lowering/structure.json', import.meta.url), 'utf8')) as Vector[];

function without(document: object, path: string): void {
	const at = path.lastIndexOf('/');
	const parent = valueAt(document, path.slice(0, at));
	if (Array.isArray(parent)) parent.splice(Number(path.slice(at + 1)), 1);
	else Reflect.deleteProperty(parent as object, path.slice(at + 1));
}

describe('what of a document is structure', () => {
	it.each(vectors.map((vector) => [vector.name, vector] as const))('%s', (_, vector) => {
		const whole = outline(vector.document, vector);
		expect(vector.changes.length).toBeGreaterThan(0);
		for (const change of vector.changes) {
			const changed = structuredClone(vector.document);
			if ('value' in change) setAt(changed, change.path, change.value);
			else without(changed, change.path);
			expect(outline(changed, vector) === whole, `${change.path} ${JSON.stringify(change.value)}`).toBe(change.alike);
		}
	});

	it('tells numbers from switches', () => {
		const structure: Structure = { numbers: { '/a': [0, 1, true, null] }, words: [], rising: {} };
		const of = (a: unknown): string => outline({ a }, structure);
		expect([of(0) === of(1), of(true) === of(false), of(1) === of(true)]).toEqual([true, true, false]);
	});

	it('of a part of it is told by paths from there on', () => {
		const structure: Structure = { numbers: { '/lanes/0/steps/1/values/u': [0, 1, false, null], '/lanes/0/steps/10/values/u': [0, 1, false, null] }, words: ['/name'], rising: {} };
		expect(below(structure, '/lanes/0/steps/1')).toEqual({ numbers: { '/values/u': [0, 1, false, null] }, words: [], rising: {} });
	});

	it('is guessed at by a sketch until it is told', () => {
		expect(sketch({ a: 1, b: ['x', 2] })).toBe(sketch({ a: 7, b: ['x', 0] }));
		expect(sketch({ a: 1, b: ['x', 2] })).not.toBe(sketch({ a: 1, b: ['y', 2] }));
	});
});
