import { describe, expect, it } from 'vitest';
import { differences } from './differences';
import { setAt, valueAt } from './pointer';

describe('JSON Pointers', () => {
	const document = { lanes: [{ steps: [{ values: { u: 2 } }] }], 'a/b': { '~': 1 } };
	it('finds values', () => {
		expect(valueAt(document, '/lanes/0/steps/0/values/u')).toBe(2);
		expect(valueAt(document, '/a~1b/~0')).toBe(1);
		expect(valueAt(document, '/lanes/7/steps')).toBeUndefined();
		expect(valueAt(document, '')).toBe(document);
	});
	it('sets values, and refuses places that are not there', () => {
		const copy = structuredClone(document);
		setAt(copy, '/lanes/0/steps/0/values/u', 5);
		expect(copy.lanes[0]?.steps[0]?.values.u).toBe(5);
		expect(() => setAt(copy, '/lanes/9/name', 'x')).toThrow('/lanes/9/name');
	});
});

describe('differences', () => {
	it('names every leaf that differs', () => {
		expect(differences({ a: 1, b: { c: [1, 2] } }, { a: 1, b: { c: [1, 3] }, d: 'x' })).toEqual([
			{ path: '/b/c/1', mine: '2', theirs: '3' },
			{ path: '/d', mine: 'missing', theirs: '"x"' }
		]);
	});
	it('finds none in equal documents', () => expect(differences({ a: [1] }, { a: [1] })).toEqual([]));
});
