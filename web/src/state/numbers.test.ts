import { describe, expect, it } from 'vitest';
import { format, parse, scrubbed, stepped } from './numbers';

describe('typed numbers', () => {
	it.each([
		['2.5', 'm', 2.5],
		['250 cm', 'm', 2.5],
		['12mm', 'm', 0.012],
		['1,5', 'm', 1.5],
		['-.5', '', -0.5],
		['1e-3', 'm', 0.001],
		['90 deg', '°', 90],
		['3.14159265 rad', '°', 180],
		['1/3', '', 1 / 3],
		['2*0.45', 'm', 0.9],
		['(1 + 2) * 50cm', 'm', 1.5],
		['1 m - 20 cm', 'm', 0.8],
		['-45°', '°', -45]
	])('reads %s in %s', (text, unit, value) => expect(parse(text, unit)).toBeCloseTo(value, 6));
	it.each([
		['', 'm'],
		['wide', 'm'],
		['5 m', '°'],
		['5 parsec', 'm'],
		['1.2.3', ''],
		['1/0', ''],
		['alert(1)', ''],
		['2 +', 'm'],
		['1e999', '']
	])('does not read %s in %s', (text, unit) => expect(parse(text, unit)).toBeNull());
	it('shows four digits', () => expect([format(1 / 3), format(1234.56), format(2)]).toEqual(['0.3333', '1235', '2']));
});

describe('scrubbing', () => {
	const size = { soft: [0.05, 10], hard: [0.001, 10000], step: 0.1, ratio: true };
	const angle = { soft: [-180, 180], hard: [-36000, 36000], step: 5, ratio: false };

	it('takes one readable step a pixel', () => {
		expect([1, 2, 3].map((n) => scrubbed(size, 2, n, false))).toEqual([2.02, 2.04, 2.06]);
		expect(scrubbed(size, 0.77, 60, false)).toBeCloseTo(1.14, 9);
		expect(scrubbed(angle, 0, 7, false)).toBe(7);
		expect(scrubbed(size, 0.7713, 1, false)).toBe(0.775);
	});

	it('goes back to where it came from, over all sizes', () => {
		for (const from of [0.05, 0.1, 0.99, 1, 4.9, 10, 990]) {
			const there = scrubbed(size, from, 40, false);
			expect(there).toBeGreaterThan(from);
			expect(scrubbed(size, there, -40, false)).toBeCloseTo(from, 6);
		}
		expect(scrubbed(size, 1, -1, false)).toBe(0.995);
	});

	it('goes a tenth as far with Shift, in whole numbers where there are only those, and no further than it may', () => {
		expect(scrubbed(size, 2, 5, true)).toBe(2.01);
		expect(scrubbed({ soft: [1, 16], hard: [1, 256], step: 1, ratio: false, whole: true }, 4, 3, true)).toBe(7);
		expect(scrubbed(angle, 35999, 10, false)).toBe(36000);
	});

	it('does not stick at large numbers', () => {
		expect(stepped(angle, 12345, 1)).toBe(12350);
		expect(stepped({ soft: [-10, 10], hard: [-1e5, 1e5], step: 0.1, ratio: false }, 99999.1, 1)).toBe(99999.2);
		expect(stepped(size, 9876.5, 1)).toBe(10000);
		expect([format(12345.678), format(1234.5678), format(0.00012346)]).toEqual(['12346', '1235', '0.0001235']);
	});
});
