import { expect, test } from 'vitest';
import { curvePath, distanceAt, metres, nearest, placeOf, summary, wayOf } from './repetition';

const at = (distance: number, score: number, length = 2.39, direction = 0) => ({ distance, score, length, direction, contrast: 0.1 });

test('distances lie as far apart as they are times as far', () => {
	expect(placeOf(0.5)).toBe(0);
	expect(placeOf(500)).toBe(1);
	expect(placeOf(Math.sqrt(250))).toBeCloseTo(0.5, 12);
	expect(placeOf(0.01)).toBe(0);
	for (const place of [0, 0.2, 0.7, 1]) expect(placeOf(distanceAt(place))).toBeCloseTo(place, 12);
});

test('what a curve says is one sentence', () => {
	expect(summary({ noticed: null, worst: at(8, 0.1) })).toBe('Nothing is seen to come again.');
	expect(summary({ noticed: { from: 5.124, to: 500 }, worst: at(32, 1) })).toBe('Noticed from 5.12 m on: it comes again every 2.39 m to the right.');
	expect(summary({ noticed: { from: 0.5, to: 500 }, worst: at(32, 1, 0.16, -90) })).toBe('Noticed from everywhere: it comes again every 16 cm upwards.');
	expect(summary({ noticed: { from: 0.5, to: 83.2 }, worst: at(2, 1, 12.4, 45) })).toBe('Noticed up to 83 m: it comes again every 12 m 45° upwards.');
	expect(summary({ noticed: { from: 2, to: 83.2 }, worst: at(2, 1, 1, -30.4) })).toBe('Noticed from 2 m to 83 m: it comes again every 1 m 30° downwards.');
	expect(wayOf(0.4)).toBe('to the right');
	expect(metres(0.0042)).toBe('4.2 mm');
});

test('the curve is drawn from near to far, and the nearest place is told', () => {
	const places = [at(0.5, 0), at(8, 0.5), at(500, 1)];
	expect(curvePath(places, 100, 40, false)).toBe('M0.0 40.0 L40.1 20.0 L100.0 0.0');
	expect(curvePath(places, 100, 40, true)).toBe('M0 40 L0.0 40.0 L40.1 20.0 L100.0 0.0 L100 40 Z');
	expect(curvePath([], 100, 40, true)).toBe('');
	expect(nearest(places, 20)?.distance).toBe(8);
	expect(nearest(places, 200)?.distance).toBe(500);
	expect(nearest([], 1)).toBeUndefined();
});
