import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { Trail } from '../api/client';
import type { Sight } from '../stage/eye';
import { Probing } from './probing.svelte';

const trail = (text: string): Trail => ({ object: null, text, stops: [] }) as unknown as Trail;
const sight = (x: number): Sight => ({ eye: [x, 0, 0], ray: [0, 0, 1], rayRight: [0, 0, 1], rayDown: [0, 0, 1] });

beforeEach(() => {
	vi.stubGlobal('window', globalThis);
	vi.useFakeTimers();
});
afterEach(() => {
	vi.useRealTimers();
	vi.unstubAllGlobals();
});

test('a point that was clicked is read again when what is seen has changed and come to rest', async () => {
	const probing = new Probing();
	const read = vi.fn((at: Sight) => Promise.resolve(trail(`at ${at.eye[0]}`)));
	probing.again(read);
	await vi.advanceTimersByTimeAsync(5000);
	expect(read).not.toHaveBeenCalled();

	probing.found(trail('clicked'), sight(7));
	expect(probing.current).toBe(true);
	for (let i = 0; i < 10; i++) {
		probing.again(read);
		await vi.advanceTimersByTimeAsync(100);
		expect([probing.current, probing.trail?.text]).toEqual([false, 'clicked']);
	}
	await vi.advanceTimersByTimeAsync(5000);
	expect([probing.current, probing.trail?.text, read.mock.calls.length]).toEqual([true, 'at 7', 1]);

	// Closed, it is read no more.
	probing.again(read);
	probing.close();
	await vi.advanceTimersByTimeAsync(5000);
	expect([probing.trail, read.mock.calls.length]).toEqual([null, 1]);
});

test('what was read late, or cannot be read, is not shown as what is seen now', async () => {
	const probing = new Probing();
	probing.found(trail('first'), sight(1));
	let late: (trail: Trail) => void = () => {};
	probing.again(() => new Promise((resolve) => { late = resolve; }));
	await vi.advanceTimersByTimeAsync(1000);
	probing.found(trail('second'), sight(2));
	late(trail('late'));
	await vi.advanceTimersByTimeAsync(1000);
	expect([probing.current, probing.trail?.text]).toEqual([true, 'second']);

	probing.again(() => Promise.reject(new Error('The server is away.')));
	await vi.advanceTimersByTimeAsync(1000);
	expect([probing.current, probing.trail?.text]).toEqual([false, 'second']);
});
