import { expect, test } from 'vitest';
import { summed } from './comparing';

const pixels = (differences: number[], there = 1): number[] => differences.flatMap((one) => [one, 0, 0, there]);

test('differences are summed up over what is seen in both', () => {
	const hundred = Array.from({ length: 100 }, (_, i) => i / 10);
	const found = summed(new Float32Array([...pixels(hundred), ...pixels([50, 60], 0)]), 1);
	expect(found?.mean).toBeCloseTo(4.95, 5);
	expect(found?.high).toBeCloseTo(9.4, 5);
	expect(found?.most).toBeCloseTo(9.9, 5);
	// 1.1 and more.
	expect(found?.share).toBeCloseTo(0.89, 5);
});

test('what is seen through counts as what is whole', () => {
	expect(summed(new Float32Array([...pixels([2], 0.3), ...pixels([4])]), 3)).toMatchObject({ mean: 3, most: 4, share: 0.5 });
});

test('what is the same differs by nothing, and nothing by nothing that could be told', () => {
	expect(summed(new Float32Array(pixels([0, 0])), 1)).toEqual({ mean: 0, high: 0, most: 0, share: 0 });
	expect(summed(new Float32Array(pixels([3], 0)), 1)).toBeNull();
});
