import { describe, expect, it } from 'vitest';
import { selectedObjects, toggled } from './selection';

describe('several objects', () => {
	it('come one after another, and the first is the one that is taken hold of', () => {
		const one = toggled({ kind: 'surface' }, 'a');
		expect(one).toEqual({ kind: 'object', id: 'a' });
		const three = toggled(toggled(one, 'b'), 'c');
		expect(three).toEqual({ kind: 'object', id: 'a', also: ['b', 'c'] });
		expect(selectedObjects(three)).toEqual(['a', 'b', 'c']);
		expect(toggled(three, 'a')).toEqual({ kind: 'object', id: 'b', also: ['c'] });
		expect(toggled(one, 'a')).toEqual({ kind: 'surface' });
		expect(selectedObjects({ kind: 'layer', index: 2 })).toEqual([]);
	});
});
