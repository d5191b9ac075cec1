import { describe, expect, it } from 'vitest';
import { facesWithin, falloff, longestEdge, pressed, Stroke, type Brush, type Canvas } from './brush';

/** A row of vertices, a tenth of a metre apart, that look up; every second one is stretched aside. */
const row = (scale: [number, number, number] = [1, 1, 1]): Canvas => ({
	positions: Float32Array.from({ length: 3 * 21 }, (_, i) => (i % 3 === 0 ? (i / 3 - 10) / 10 : 0)),
	normals: Float32Array.from({ length: 3 * 21 }, (_, i) => (i % 3 === 1 ? 1 : 0)),
	scale,
	paint: new Uint8Array(4 * 21)
});
const brush = (change: Partial<Brush> = {}): Brush => ({ channel: 0, value: 1, radius: 0.5, hardness: 1, strength: 1, spacing: 0.2, smooths: false, ...change });
const channel = (canvas: Canvas, at = 0): number[] => [...canvas.paint].filter((_, i) => i % 4 === at);
const UP = [0, 1, 0] as const;

describe('a stroke', () => {
	it('is as strong as the pen is pressed, and as the brush says for all else', () => {
		const strength = (pointerType: string, pressure: number): number => pressed(brush({ strength: 0.8 }), { pointerType, pressure }).strength;
		expect([strength('pen', 0.5), strength('pen', 0), strength('mouse', 0.5), strength('touch', 1)]).toEqual([0.4, 0.8, 0.8, 0.8]);
		const canvas = row();
		new Stroke(canvas, pressed(brush(), { pointerType: 'pen', pressure: 0.25 })).dab([0, 0, 0], UP);
		expect(Math.max(...channel(canvas))).toBe(64);
	});

	it('paints what lies within its radius, in metres however the object is scaled', () => {
		const canvas = row();
		expect(new Stroke(canvas, brush()).dab([0, 0, 0], UP)).toEqual([6, 14]);
		expect(channel(canvas).map((one) => one / 255)).toEqual([...Array(6).fill(0), ...Array(9).fill(1), ...Array(6).fill(0)]);
		const wide = row([2, 1, 1]);
		expect(new Stroke(wide, brush()).dab([0, 0, 0], UP)).toEqual([8, 12]);
	});

	it('mixes a place once, however often it is passed and in whatever steps', () => {
		const [slow, fast] = [row(), row()];
		for (const canvas of [slow, fast]) canvas.paint.fill(40);
		const half = brush({ channel: 2, value: 0.5, strength: 0.5, hardness: 0 });
		const stroke = new Stroke(slow, half);
		for (let i = 0; i <= 40; i++) stroke.dab([-0.4 + 0.02 * i, 0, 0], UP);
		for (let i = 40; i >= 0; i--) stroke.dab([-0.4 + 0.02 * i, 0, 0], UP);
		const quick = new Stroke(fast, half);
		for (let i = 0; i <= 8; i++) quick.dab([-0.4 + 0.1 * i, 0, 0], UP);
		// Halfway from 40 to 127.5 where the brush has all its strength.
		expect(channel(slow, 2)[10]).toBe(Math.round(40 + (127.5 - 40) * 0.5));
		expect(channel(fast, 2)).toEqual(channel(slow, 2));
		expect(channel(slow, 0)).toEqual(Array(21).fill(40));
	});

	it('leaves what looks away', () => {
		const canvas = row();
		(canvas.normals as Float32Array).set([0, -1, 0], 3 * 10);
		new Stroke(canvas, brush()).dab([0, 0, 0], UP);
		expect(channel(canvas).slice(9, 12)).toEqual([255, 0, 255]);
	});

	it('evens out', () => {
		const canvas = row();
		for (let v = 10; v < 21; v++) canvas.paint[4 * v] = 200;
		new Stroke(canvas, brush({ smooths: true, radius: 0.35, strength: 0.5 })).dab([0, 0, 0], UP);
		// Of seven, four are painted: their mean is 114.
		expect(channel(canvas).slice(6, 15)).toEqual([0, 57, 57, 57, 157, 157, 157, 157, 200]);
	});

	it('knows whether it met any vertex, and how long the edges are between which it was', () => {
		const stroke = new Stroke(row(), brush({ radius: 0.04 }));
		stroke.dab([0.05, 0, 0], UP);
		expect(stroke.met).toBe(false);
		stroke.dab([0.07, 0, 0], UP);
		expect(stroke.met).toBe(true);
		expect(longestEdge([0, 0, 0, 3, 0, 0, 0, 0, 2], [0, 1, 2], [2, 1, 4])).toBe(10);
	});

	it('fades from the hard part to the rim', () => {
		expect([0, 0.5, 0.75, 1, 2].map((share) => falloff(share, 0.5))).toEqual([1, 1, 0.5, 0, 0]);
		expect(falloff(1, 1)).toBe(1);
	});
});

describe('faces by hand', () => {
	// A strip of squares of a metre along x, seen from above, and the same from below under it.
	const positions = Array.from({ length: 6 }, (_, i) => [[i, 0, 0], [i, 0, 1], [i, -0.1, 0], [i, -0.1, 1]]).flat(2);
	const square = (i: number): number[] => [4 * i, 4 * i + 1, 4 * i + 4, 4 * i + 4, 4 * i + 1, 4 * i + 5];
	const corners = [0, 1, 2, 3, 4].flatMap((i) => [...square(i), ...square(i).reverse().map((v) => v + 2)]);
	const within = (reach: number, scale: [number, number, number] = [1, 1, 1]): number[] => facesWithin(positions, corners, scale, [2.5, 0, 0.5], UP, reach);

	it('are those whose middle lies within the reach, on the side that is seen', () => {
		// The middles of the two halves of a square lie at a third and two thirds of it.
		expect(within(0.2)).toEqual([]);
		expect(within(0.3)).toEqual([8, 9]);
		expect(within(1.2)).toEqual([4, 5, 8, 9, 12, 13]);
		expect(within(9)).toEqual([0, 1, 4, 5, 8, 9, 12, 13, 16, 17]);
	});

	it('are reached in metres, however the object is scaled', () => {
		expect(within(0.5, [1, 1, 1])).toEqual([8, 9]);
		expect(within(0.3, [4, 1, 4])).toEqual([]);
		expect(within(1, [4, 1, 4])).toEqual([8, 9]);
	});
});
