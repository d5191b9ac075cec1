import { PerspectiveCamera, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import type { Eye } from './eye';
import { Walk } from './walk';

type Listener = (event: unknown) => void;

/** A walk over ground that rises by a step of 0.3 m where x is above 2. */
function walking() {
	const listeners = new Map<string, Listener>();
	const canvas = { tabIndex: -1, focus: () => {}, setPointerCapture: () => {}, addEventListener: (name: string, one: Listener) => listeners.set(name, one) } as unknown as HTMLCanvasElement;
	const camera = new PerspectiveCamera();
	camera.position.set(0, 9, 0);
	const orbit = { target: new Vector3(0, 9, -5), enabled: true };
	let rested = 0;
	const walk = new Walk(canvas, { camera, orbit } as unknown as Eye, (x) => (x > 2 ? 0.3 : 0), () => {}, () => rested++);
	globalThis.requestAnimationFrame = () => 0;
	globalThis.cancelAnimationFrame = () => {};
	const key = (name: string, down: boolean): void => listeners.get(down ? 'keydown' : 'keyup')?.({ key: name, preventDefault: () => {}, stopPropagation: () => {} });
	return { walk, camera, orbit, key, rested: () => rested };
}

describe('who walks', () => {
	it('stands at eye height, goes where they look, and hurries', () => {
		const { walk, camera, orbit, key, rested } = walking();
		walk.take(true);
		expect(orbit.enabled).toBe(false);
		expect(camera.position.y).toBeCloseTo(1.65, 9);
		key('w', true);
		walk.step(1);
		expect(camera.position.z).toBeCloseTo(-1.6, 6);
		key('Shift', true);
		walk.step(1);
		expect(camera.position.z).toBeCloseTo(-6.4, 6);
		key('w', false);
		key('Shift', false);
		expect(rested()).toBe(1);
		walk.step(1);
		expect(camera.position.z).toBeCloseTo(-6.4, 6);
	});

	it('turns, goes aside, and climbs steps', () => {
		const { walk, camera, orbit, key } = walking();
		walk.take(true);
		key('e', true);
		walk.step(Math.PI / 2 / 1.4);
		key('e', false);
		const toward = orbit.target.clone().sub(camera.position).normalize();
		expect(toward.x).toBeCloseTo(1, 6);
		key('ArrowUp', true);
		for (let i = 0; i < 4; i++) walk.step(0.5);
		expect(camera.position.x).toBeCloseTo(3.2, 6);
		expect(camera.position.y).toBeCloseTo(1.95, 6);
		key('ArrowUp', false);
		key('d', true);
		walk.step(1);
		expect(camera.position.z).toBeCloseTo(1.6, 6);
		walk.take(false);
		expect(orbit.enabled).toBe(true);
	});
});
