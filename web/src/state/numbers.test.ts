import { describe, expect, it } from 'vitest';
import { format, parse } from './numbers';

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
