import { describe, expect, it } from 'vitest';
import { curvePath } from './curves';

const at = (a: number, b: number, c: number, d: number, t: number): number =>
	a * (1 - t) ** 3 + 3 * b * t * (1 - t) ** 2 + 3 * c * t * t * (1 - t) + d * t ** 3;

describe('the line through points', () => {
	it('is level outside and straight between', () => {
		expect(curvePath([[10, 5], [40, 20]], [0, 60], false)).toBe('M0,5L10,5L40,20L60,20');
		expect(curvePath([], [0, 1], true)).toBe('');
	});
	it('eases as the core does', () => {
		const numbers = /C(.*?)L/.exec(curvePath([[10, 5], [40, 20]], [0, 60], true))?.[1]?.split(',').map(Number) ?? [];
		const [bx, by, cx, cy, x, y] = numbers as [number, number, number, number, number, number];
		expect([x, y]).toEqual([40, 20]);
		for (const t of [0, 0.1, 0.25, 0.5, 0.8, 1]) {
			expect(at(10, bx, cx, x, t)).toBeCloseTo(10 + 30 * t, 9);
			expect(at(5, by, cy, y, t)).toBeCloseTo(5 + 15 * (3 * t * t - 2 * t ** 3), 9);
		}
	});
});
