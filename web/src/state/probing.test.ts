import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { Trail } from '../api/client';
import type { Sight } from '../stage/eye';
import { Probing } from './probing.svelte';

const trail = (text: string): Trail => ({ object: null, text, stops: [] }) as unknown as Trail;
const sight = (x: number): Sight => ({ eye: [x, 0, 0], ray: [0, 0, 1], rayRight: [0, 0, 1], rayDown: [0, 0, 1] });
/** Answers when it is told to. */
function held(): { read: () => Promise<Trail>; answer: (trail: Trail) => void } {
	let answer: (trail: Trail) => void = () => {};
	const given = new Promise<Trail>((resolve) => { answer = resolve; });
	return { read: () => given, answer };
}

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
	probing.follow(read);
	await vi.advanceTimersByTimeAsync(5000);
	expect(read).not.toHaveBeenCalled();

	await probing.click(sight(7));
	expect([probing.current, probing.trail?.text]).toEqual([true, 'at 7']);
	const other = vi.fn(() => Promise.resolve(trail('changed')));
	for (let i = 0; i < 10; i++) {
		probing.follow(other);
		await vi.advanceTimersByTimeAsync(100);
		expect([probing.current, probing.trail?.text]).toEqual([false, 'at 7']);
	}
	await vi.advanceTimersByTimeAsync(5000);
	expect([probing.current, probing.trail?.text, other.mock.calls.length]).toEqual([true, 'changed', 1]);

	// Closed, it is read no more.
	probing.follow(other);
	probing.close();
	await vi.advanceTimersByTimeAsync(5000);
	expect([probing.trail, other.mock.calls.length]).toEqual([null, 1]);
});

test('what was asked before a change, or before another click, is not shown as what is seen now', async () => {
	const probing = new Probing();
	const [before, slow] = [held(), held()];
	probing.follow(before.read);
	const clicked = probing.click(sight(1));
	probing.follow(() => Promise.resolve(trail('after')));
	before.answer(trail('before'));
	await clicked;
	expect([probing.current, probing.trail]).toEqual([false, null]);
	await vi.advanceTimersByTimeAsync(1000);
	expect([probing.current, probing.trail?.text]).toEqual([true, 'after']);

	probing.follow(slow.read);
	await vi.advanceTimersByTimeAsync(1000);
	probing.follow((at) => Promise.resolve(trail(`at ${at.eye[0]}`)));
	await probing.click(sight(2));
	slow.answer(trail('late'));
	await vi.advanceTimersByTimeAsync(1000);
	expect([probing.current, probing.trail?.text]).toEqual([true, 'at 2']);
});

test('what cannot be read is told and tried again, and what was read before says that it is old', async () => {
	const probing = new Probing();
	probing.follow(() => Promise.resolve(trail('first')));
	await probing.click(sight(1));
	let back = false;
	const away = (at: Sight) => (back ? Promise.resolve(trail(`at ${at.eye[0]}`)) : Promise.reject(new Error('The server is away.')));
	probing.follow(away);
	await vi.advanceTimersByTimeAsync(1000);
	expect([probing.current, probing.trail?.text]).toEqual([false, 'first']);
	await expect(probing.click(sight(2))).rejects.toThrow('The server is away.');
	await vi.advanceTimersByTimeAsync(10_000);
	expect([probing.current, probing.trail?.text]).toEqual([false, 'first']);
	back = true;
	await vi.advanceTimersByTimeAsync(10_000);
	expect([probing.current, probing.trail?.text]).toEqual([true, 'at 2']);
});
