import type { WebGLRenderer } from 'three';
import { describe, expect, it } from 'vitest';
import type { MultipassPlan, StepPass } from '../api/client';
import type { Plan } from '../state/multipass';
import { MultipassRunner } from './multipass';

const GL = { MAX_DRAW_BUFFERS: 1, MAX_TEXTURE_SIZE: 2 };
function runner(buffers: number, largest: number): MultipassRunner {
	const gl = { ...GL, createVertexArray: () => null, getParameter: (what: number) => (what === GL.MAX_DRAW_BUFFERS ? buffers : largest) };
	return new MultipassRunner({ getContext: () => gl } as unknown as WebGLRenderer);
}
const plan = (...lanes: number[][]): Plan => ({ multipass: { carriers: 5 } as MultipassPlan, document: {} as Plan['document'], lanes: lanes.map((taps) => taps.map((n) => ({ leg: {}, stepPass: { taps: n, origin: false } as StepPass, use: { step: 'x', on: true, values: {} } }))) }) as unknown as Plan;

describe('what is drawn pass by pass', () => {
	it('needs a device that writes all carriers and the surface at once', () => {
		const { multipass } = plan([1]);
		expect([5, 6, 8].map((buffers) => runner(buffers, 4096).can(multipass))).toEqual([false, true, true]);
	});

	it('counts the taps that its lanes end with', () => {
		expect(runner(8, 4096).tapsOf(plan([3, 1, 4], [1, 2]))).toBe(14);
		expect(runner(8, 4096).tapsOf(plan())).toBe(1);
	});

	it('is drawn as large as the fields of all taps have room for', () => {
		expect(runner(8, 4096).room(plan([1]), 400, 300)).toBe(1);
		// 12 fields of 800 pixels are wider than the device's textures.
		expect(runner(8, 4096).room(plan([12]), 800, 10)).toBeCloseTo(4096 / 9600, 9);
	});
});
