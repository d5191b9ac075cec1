import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { merge, pointerOf, same } from './merge';

type Vector = { name: string; base: unknown; first: unknown; second: unknown; merged: unknown };
const vectors = JSON.parse(readFileSync(new URL('../../../core/tests/Format/merge.json', import.meta.url), 'utf8')) as Vector[];

it.each(vectors.map((one) => [one.name, one] as const))('merges as the core does: %s', (_, { base, first, second, merged }) => {
	const found = merge(base, first, second);
	expect(same(found, merged), `${JSON.stringify(found)} for ${JSON.stringify(merged)}`).toBe(true);
});

it('finds places by the names in their paths', () => {
	const document = { lanes: [{ id: 'a', steps: [] }, { id: 'main', steps: [{ step: 'origin', values: {} }, { step: 'size', values: { u: 2 } }] }] };
	expect(pointerOf(document, '/lanes/main/steps/size/values/u')).toBe('/lanes/1/steps/1/values/u');
	expect(pointerOf(document, '/lanes/gone/steps')).toBeNull();
	expect(pointerOf(document, '/lanes/main/steps/size/values/u/x')).toBeNull();
});
