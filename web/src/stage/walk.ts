import { MathUtils, Vector3 } from 'three';
import type { Eye } from './eye';

/** Metres from the ground to the eye of whoever walks, metres a second, and how many times as fast with Shift. */
const TALL = 1.65;
const PACE = 1.6;
const FASTER = 3;
/** Radians a pixel of the pointer, and a second of a key. */
const TURN = 0.0035;
const KEY_TURN = 1.4;
/** Metres that are looked ahead, and how far up or down. */
const AHEAD = 3;
const STEEPEST = MathUtils.degToRad(80);

const FORWARD: Record<string, number> = { w: 1, arrowup: 1, s: -1, arrowdown: -1 };
const ASIDE: Record<string, number> = { d: 1, a: -1 };
const ROUND: Record<string, number> = { arrowright: 1, arrowleft: -1, e: 1, q: -1 };

/** Walks through the scene at eye height: W, A, S, D or the arrows go, the pointer or Q and E turn, Shift hurries. */
export class Walk {
	private readonly held = new Set<string>();
	private left: AbortController | null = null;
	private at = 0;
	private frame = 0;
	private pointer: number | null = null;

	/**
	 * @param below  the height of the ground under a place, seen from a height; null where there is none
	 * @param redraw the eye is elsewhere
	 * @param rest   it came to rest
	 */
	constructor(private readonly canvas: HTMLCanvasElement, private readonly eye: Eye, private readonly below: (x: number, z: number, from: number) => number | null, private readonly redraw: () => void, private readonly rest: () => void) {}

	get on(): boolean {
		return this.left !== null;
	}

	/** Walks from now on, or no more. */
	take(on: boolean): void {
		if (on === this.on) return;
		this.eye.orbit.enabled = !on;
		if (!on) {
			this.left?.abort();
			this.left = null;
			this.held.clear();
			cancelAnimationFrame(this.frame);
			return;
		}
		this.left = new AbortController();
		const { signal } = this.left;
		this.turn(0, 0);
		this.stand();
		this.canvas.tabIndex = 0;
		this.canvas.focus({ preventScroll: true });
		this.canvas.addEventListener('keydown', (event) => this.key(event, true), { signal });
		this.canvas.addEventListener('keyup', (event) => this.key(event, false), { signal });
		this.canvas.addEventListener('blur', () => this.held.clear(), { signal });
		this.canvas.addEventListener('pointerdown', (event) => { this.pointer = event.pointerId; this.canvas.setPointerCapture(event.pointerId); this.canvas.focus({ preventScroll: true }); }, { signal });
		this.canvas.addEventListener('pointermove', (event) => { if (this.pointer === event.pointerId) this.turn(event.movementX * TURN, -event.movementY * TURN); }, { signal });
		for (const name of ['pointerup', 'pointercancel'] as const) this.canvas.addEventListener(name, () => { this.pointer = null; this.rest(); }, { signal });
	}

	/** Goes on for so many seconds with the keys that are held. */
	step(seconds: number): void {
		const sum = (keys: Record<string, number>): number => [...this.held].reduce((all, key) => all + (keys[key] ?? 0), 0);
		const round = sum(ROUND);
		if (round !== 0) this.turn(round * KEY_TURN * seconds, 0);
		const pace = PACE * seconds * (this.held.has('shift') ? FASTER : 1);
		const ahead = this.toward().setY(0).normalize();
		const aside = new Vector3(-ahead.z, 0, ahead.x);
		const way = ahead.multiplyScalar(sum(FORWARD) * pace).addScaledVector(aside, sum(ASIDE) * pace);
		this.eye.camera.position.add(way);
		this.eye.orbit.target.add(way);
		this.stand();
	}

	private key(event: KeyboardEvent, down: boolean): void {
		const key = event.key.toLowerCase();
		if (event.ctrlKey || event.metaKey || event.altKey || !(key in FORWARD || key in ASIDE || key in ROUND || key === 'shift')) return;
		event.preventDefault();
		event.stopPropagation();
		const idle = this.held.size === 0;
		if (down) this.held.add(key);
		else this.held.delete(key);
		if (idle && down) {
			this.at = performance.now();
			this.frame = requestAnimationFrame((now) => this.go(now));
		}
		if (this.held.size === 0) this.rest();
	}

	private go(now: number): void {
		if (this.held.size === 0) return;
		// A machine that draws slowly does not leap.
		this.step(Math.min(0.25, (now - this.at) / 1000));
		this.at = now;
		this.frame = requestAnimationFrame((next) => this.go(next));
	}

	private toward(): Vector3 {
		return this.eye.orbit.target.clone().sub(this.eye.camera.position).normalize();
	}

	/** Looks further to the right, and up. */
	private turn(right: number, up: number): void {
		const toward = this.toward();
		const heading = Math.atan2(toward.x, -toward.z) + right;
		const pitch = Math.min(STEEPEST, Math.max(-STEEPEST, Math.asin(toward.y) + up));
		const { position } = this.eye.camera;
		this.eye.orbit.target.set(position.x + AHEAD * Math.cos(pitch) * Math.sin(heading), position.y + AHEAD * Math.sin(pitch), position.z - AHEAD * Math.cos(pitch) * Math.cos(heading));
		this.eye.camera.lookAt(this.eye.orbit.target);
		this.redraw();
	}

	/** Has the eye be over what lies below it. */
	private stand(): void {
		const { position } = this.eye.camera;
		// Steps are climbed, and walls are walked through: it is for looking.
		const ground = this.below(position.x, position.z, position.y - TALL / 2) ?? 0;
		const by = ground + TALL - position.y;
		position.y += by;
		this.eye.orbit.target.y += by;
		this.eye.camera.lookAt(this.eye.orbit.target);
		this.redraw();
	}
}
