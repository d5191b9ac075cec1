import { expect, test } from 'vitest';
import { patch, setAt, valueAt } from './pointer';

test('a document is changed as its patch says, in order', () => {
	const document = { lanes: [{ steps: [{ step: 'origin' }, { step: 'turn' }, { step: 'turn' }] }], layers: [{ id: 'a', finish: { values: { relief: 0, hue: 3 } } }] };
	patch(document, [
		{ op: 'remove', path: '/lanes/0/steps/2' },
		{ op: 'remove', path: '/lanes/0/steps/1' },
		{ op: 'remove', path: '/layers/0/finish/values/relief' },
		{ op: 'replace', path: '/layers/0/on', value: false },
		{ op: 'replace', path: '/surface/values/kind', value: 'opaque' }
	]);
	expect(document).toEqual({ lanes: [{ steps: [{ step: 'origin' }] }], layers: [{ id: 'a', on: false, finish: { values: { hue: 3 } } }], surface: { values: { kind: 'opaque' } } });
});

test('what is not there cannot be taken away', () => {
	expect(() => patch({ a: 1 }, [{ op: 'remove', path: '/b/0' }])).toThrow('There is no /b/0.');
});

test('what is added comes in before what stands there, or at the end', () => {
	const document = { lanes: [{ steps: ['a', 'b'] }] };
	patch(document, [{ op: 'add', path: '/lanes/0/steps/-', value: 'c' }, { op: 'add', path: '/lanes/0/steps/0', value: 'z' }, { op: 'add', path: '/name', value: 'N' }]);
	expect(document).toEqual({ lanes: [{ steps: ['z', 'a', 'b', 'c'] }], name: 'N' });
});

test('no pointer reaches what all objects share', () => {
	expect(() => setAt({}, '/__proto__/polluted', true)).toThrow('There is no /__proto__/polluted.');
	expect(() => setAt({}, '/constructor/prototype/polluted', true)).toThrow('There is no');
	expect(() => valueAt({}, '/__proto__')).toThrow('There is no /__proto__.');
	expect(({} as Record<string, unknown>).polluted).toBeUndefined();
});
