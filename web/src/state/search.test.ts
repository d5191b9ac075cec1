import { describe, expect, it } from 'vitest';
import { foundBy } from './search';

const STEPS = [
	{ label: 'Cell', help: 'by hand, by number, by place' },
	{ label: 'Replace', help: '' },
	{ label: 'Place', help: 'rectangles of the surface' },
	{ label: 'Turn', help: 'about a pivot' }
];
const found = (typed: string): string[] => foundBy(STEPS, typed, (one) => one.label, (one) => one.help).map((one) => one.label);

describe('What is searched for', () => {
	it('is found by name before it is found by what is said of it', () => {
		expect(found('place')).toEqual(['Place', 'Replace', 'Cell']);
		expect(found(' Pla ')).toEqual(['Place', 'Replace', 'Cell']);
	});
	it('has every word, in any order', () => {
		expect(found('surface place')).toEqual(['Place']);
		expect(found('pivot')).toEqual(['Turn']);
		expect(found('nothing such')).toEqual([]);
	});
	it('is all, as it was, while nothing is typed', () => {
		expect(found('')).toEqual(['Cell', 'Replace', 'Place', 'Turn']);
	});
});
