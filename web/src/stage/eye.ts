import { MOUSE, MathUtils, PerspectiveCamera, Raycaster, Sphere, Spherical, Vector2, Vector3, type Box3, type Intersection, type Mesh } from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { StageDocument, Triple } from '../api/client';

/** Where the eye is and what it looks at, m. */
export type Lookout = NonNullable<StageDocument['camera']>;
/** How many times as far as all objects are seen from. */
export const DISTANCES = [{ label: 'Near', times: 0.45 }, { label: 'Middle', times: 1.2 }, { label: 'Far', times: 4 }] as const;
export type Sight = { eye: Triple; ray: Triple; rayRight: Triple; rayDown: Triple };

/** Degrees seen from top to bottom, on stages at least so many times as wide as high. */
const FIELD = 38;
const WIDEST = 1.42;
/** What keys do while the stage has them: degrees round and up, and how many times as far away. */
const KEYS: Record<string, readonly [number, number, number]> = { ArrowLeft: [-5, 0, 1], ArrowRight: [5, 0, 1], ArrowUp: [0, -5, 1], ArrowDown: [0, 5, 1], '+': [0, 0, 0.9], '-': [0, 0, 1 / 0.9] };
/** How much room is left around what is framed. */
const FRAMED = 1.12;
const FRONT = new Vector3(0.45, 0.4, 0.8).normalize();

/** Where the stage is seen from, and what is under a point of the picture. */
export class Eye {
	readonly camera = new PerspectiveCamera(FIELD, 1, 0.05, 1500);
	readonly orbit: OrbitControls;
	private readonly left = new AbortController();
	/** It came to rest at another place. */
	onRest: (place: Lookout) => void = () => {};

	constructor(private readonly canvas: HTMLCanvasElement, moved: () => void) {
		this.orbit = new OrbitControls(this.camera, canvas);
		this.orbit.maxPolarAngle = Math.PI * 0.495;
		this.orbit.minDistance = 0.3;
		this.orbit.maxDistance = 500;
		this.orbit.addEventListener('change', moved);
		this.orbit.addEventListener('end', () => this.rest());
		canvas.addEventListener('keydown', (event) => this.key(event), { signal: this.left.signal });
	}

	/** @param aspect of the picture, width by height */
	shape(aspect: number): void {
		this.camera.aspect = aspect;
		// On a narrow stage the picture grows smaller, so that what stood at the sides stays in view.
		const half = Math.tan(MathUtils.degToRad(FIELD) / 2) * Math.max(1, WIDEST / aspect);
		this.camera.fov = 2 * MathUtils.radToDeg(Math.atan(half));
		this.camera.updateProjectionMatrix();
	}

	/** Metres from the eye to what it looks at. */
	get distance(): number {
		return this.camera.position.distanceTo(this.orbit.target);
	}

	/** Goes, without turning, to where what it looks at is so many metres away. */
	from(metres: number): void {
		const towards = this.camera.position.clone().sub(this.orbit.target).normalize();
		this.camera.position.copy(this.orbit.target).addScaledVector(towards, MathUtils.clamp(metres, this.orbit.minDistance, this.orbit.maxDistance));
		this.orbit.update();
		this.rest();
	}

	/** Goes somewhere. */
	look(eye: Lookout): void {
		this.camera.position.fromArray(eye.position);
		this.orbit.target.fromArray(eye.target);
		this.orbit.update();
	}

	/** Goes somewhere, and that is remembered. */
	go(eye: Lookout): void {
		this.look(eye);
		this.rest();
	}

	get place(): Lookout {
		return { position: this.camera.position.toArray(), target: this.orbit.target.toArray() };
	}

	/**
	 * Moves, without turning, to where it sees all of a box.
	 *
	 * @param times how many times as far away
	 */
	frame(box: Box3, times = 1): void {
		const ball = box.getBoundingSphere(new Sphere());
		const up = MathUtils.degToRad(this.camera.fov) / 2;
		const half = Math.min(up, Math.atan(Math.tan(up) * this.camera.aspect));
		const away = MathUtils.clamp((times * ball.radius * FRAMED) / Math.sin(half), this.orbit.minDistance, this.orbit.maxDistance);
		const from = this.camera.position.clone().sub(this.orbit.target).normalize();
		// Who has been nowhere yet comes from the front, a little above.
		if (from.lengthSq() < 0.5) from.copy(FRONT);
		this.orbit.target.copy(ball.center);
		this.camera.position.copy(ball.center).addScaledVector(from, away);
		this.orbit.update();
		this.rest();
	}

	/** Where a place in the world is on the canvas, in CSS pixels, be it beside it; null if it is behind, or nearer than a hand. */
	onCanvas(place: Triple): { x: number; y: number } | null {
		const at = new Vector3(...place);
		const before = at.clone().applyMatrix4(this.camera.matrixWorldInverse).z;
		if (before > -0.2) return null;
		at.project(this.camera);
		return { x: ((at.x + 1) / 2) * this.canvas.clientWidth, y: ((1 - at.y) / 2) * this.canvas.clientHeight };
	}

	/** The first of some meshes under a point of the canvas, in CSS pixels. */
	at(x: number, y: number, meshes: Iterable<Mesh>): Mesh | undefined {
		return this.hits(x, y, meshes)[0]?.object as Mesh | undefined;
	}

	/** Where some meshes are met under a point of the canvas, the nearest first. */
	hits(x: number, y: number, meshes: Iterable<Mesh>): Intersection[] {
		const caster = new Raycaster();
		caster.layers.enableAll();
		caster.setFromCamera(this.toDevice(x, y), this.camera);
		return caster.intersectObjects([...meshes], false);
	}

	/**
	 * The lines of sight through a point of the canvas and its neighbouring pixels.
	 *
	 * @param wide of the canvas by the picture that the point is in, where several stand side by side
	 */
	sight(x: number, y: number, wide = 1): Sight {
		const ray = (px: number, py: number): Triple => {
			const v = this.toDevice(px, py);
			return new Vector3(v.x, v.y, 0.5).unproject(this.camera).sub(this.camera.position).normalize().toArray();
		};
		return { eye: this.camera.position.toArray(), ray: ray(x, y), rayRight: ray(x + wide, y), rayDown: ray(x, y + 1) };
	}

	dispose(): void {
		this.orbit.dispose();
		this.left.abort();
	}

	/** Whether the first button of the pointer turns it. */
	turns(on: boolean): void {
		this.orbit.mouseButtons.LEFT = on ? MOUSE.ROTATE : null;
	}

	/** It stays here. */
	rest(): void {
		this.onRest(this.place);
	}

	/** Arrows turn it about what it looks at, + and - come closer and go away. */
	private key(event: KeyboardEvent): void {
		const step = KEYS[event.key];
		if (step === undefined || !this.orbit.enabled || event.ctrlKey || event.metaKey || event.altKey) return;
		const [round, up, times] = step;
		// While the first button is for something else, so are keys that say how large that is.
		if (times !== 1 && this.orbit.mouseButtons.LEFT === null) return;
		event.preventDefault();
		const away = new Spherical().setFromVector3(this.camera.position.clone().sub(this.orbit.target));
		away.theta += MathUtils.degToRad(round);
		away.phi = Math.min(this.orbit.maxPolarAngle, Math.max(0.02, away.phi + MathUtils.degToRad(up)));
		away.radius = Math.min(this.orbit.maxDistance, Math.max(this.orbit.minDistance, away.radius * times));
		this.camera.position.setFromSpherical(away).add(this.orbit.target);
		this.orbit.update();
		this.rest();
	}

	private toDevice(x: number, y: number): Vector2 {
		return new Vector2((x / this.canvas.clientWidth) * 2 - 1, 1 - (y / this.canvas.clientHeight) * 2);
	}
}
