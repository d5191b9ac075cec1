import { describe, expect, it } from 'vitest';
import { asTable, readPoints, shares } from './lookup';

describe('points', () => {
	it('are read as people write them', () => {
		expect(readPoints('x,y,z\n1, 2, 3\n\n4;5;6\n-7.5\t8e-1 9 0 0 1\r\n')).toEqual({ points: [[1, 2, 3], [4, 5, 6], [-7.5, 0.8, 9, 0, 0, 1]], wrong: null });
		expect(readPoints('')).toEqual({ points: [], wrong: null });
	});
	it('name the line that is none', () => {
		expect(readPoints('1,2,3\n1,2').wrong).toBe('Line 2: expected 3 numbers, or 6 with a direction, found “1,2”.');
		expect(readPoints('1,2,3\nx,y,z').wrong).toContain('Line 2');
		expect(readPoints('1,2,3,0,0,0').wrong).toBe('Line 1: 0, 0, 0 is no direction.');
		expect(readPoints('1,2,1e10').wrong).toContain('Line 1');
	});
	it('come out as a table', () => {
		expect(asTable([[1, 2, 3, 0, 0, 1]], [{ name: 'Sand, wet' }, { name: 'Rock' }], [[0.25, 0.75]])).toBe('x,y,z,"Sand, wet",Rock\n1,2,3,0.25,0.75\n');
	});
	it('tell how often a layer is first', () => {
		expect(shares([0, 1, 2], [[0.5, 0.5, 0], [0.2, 0.8, 0], [0, 0, 0]])).toEqual([{ first: 1 / 3, mean: 0.7 / 3 }, { first: 1 / 3, mean: 1.3 / 3 }, { first: 0, mean: 0 }]);
	});
});
