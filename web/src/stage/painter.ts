import { BufferGeometry, DoubleSide, Float32BufferAttribute, LineBasicMaterial, LineLoop, MOUSE, Matrix3, Matrix4, Quaternion, Ray, Raycaster, TOUCH, Triangle, Vector2, Vector3, type BufferAttribute, type Mesh, type Scene } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { longestEdge, pressed, Stroke, type Brush } from './brush';
import type { Eye } from './eye';
import { PAINT } from './meshes';
import { sharedOf, type StageObjects } from './objects';

/** Corners of the ring that shows a brush. */
const CORNERS = 64;
/** Of its radius, how far a brush that refines moves before that counts as another place. */
const APART = 0.5;
/** How far above the surface the ring is drawn, of its radius. */
const ABOVE = 0.02;
/** Colours of vertices, as code calls them. */
const COLOURS = 'rilta_COLOR_0';
const FRONT = new Vector3(0, 0, 1);

/** A ball in the coordinates of a mesh: its centre, and its radius. */
export type Ball = [x: number, y: number, z: number, radius: number];
/** What the pointer does: paint, take the value that is there, or have the mesh refined. */
export type BrushMode = 'paint' | 'pick' | 'refine';

type Spot = { mesh: Mesh; point: Vector3; normal: Vector3; corners: [number, number, number]; weights: Vector3 };

/** Paints on objects with the pointer: what is under it, where the brush goes, what becomes of the vertices. */
export class Painter {
	/** What is painted with; null if the pointer is for something else. */
	private brush: Brush | null = null;
	private mode: BrushMode = 'paint';
	private refined: { mesh: Mesh; balls: Ball[] } | null = null;
	private readonly ring = new LineLoop(new BufferGeometry(), new LineBasicMaterial({ color: 0xffffff, depthTest: false, transparent: true }));
	private readonly indices = new WeakMap<BufferGeometry, MeshBVH>();
	private stroke: { mesh: Mesh; way: Stroke; attribute: BufferAttribute; last: Vector3; corners: Spot['corners'] } | null = null;
	private readonly left = new AbortController();
	/** A stroke has ended on an object. */
	onStroke: (id: string, paint: Uint8Array) => void = () => {};
	/** A stroke on an object met no vertex; its edges are so long there, metres. */
	onMissed: (id: string, edge: number) => void = () => {};
	/** A value was picked, 0…1. */
	onPick: (value: number) => void = () => {};
	/** An object is to be refined where the brush was; lengths of its mesh are so many times as long on the stage. */
	onRefine: (id: string, balls: Ball[], scale: number) => void = () => {};
	/** What is painted under the pointer, 0…1; null for nothing. */
	onHover: (value: number | null) => void = () => {};

	constructor(private readonly canvas: HTMLCanvasElement, private readonly eye: Eye, private readonly objects: StageObjects, private readonly scene: Scene, private readonly redraw: () => void) {
		const around = Array.from({ length: CORNERS }, (_, i) => (2 * Math.PI * i) / CORNERS).flatMap((a) => [Math.cos(a), Math.sin(a), 0]);
		this.ring.geometry.setAttribute('position', new Float32BufferAttribute(around, 3));
		this.ring.visible = false;
		this.ring.renderOrder = 10;
		scene.add(this.ring);
		const { signal } = this.left;
		canvas.addEventListener('pointerdown', (event) => this.begin(event), { signal });
		canvas.addEventListener('pointermove', (event) => this.move(event), { signal });
		for (const name of ['pointerup', 'pointercancel'] as const) canvas.addEventListener(name, () => this.end(), { signal });
		canvas.addEventListener('pointerleave', () => this.hover(null), { signal });
	}

	/** Paints from now on, or no more. The eye is turned with the other buttons meanwhile. */
	take(brush: Brush | null, mode: BrushMode = 'paint'): void {
		this.brush = brush;
		this.mode = mode;
		this.eye.orbit.mouseButtons.LEFT = brush === null ? MOUSE.ROTATE : null;
		this.eye.orbit.touches.ONE = brush === null ? TOUCH.ROTATE : null;
		if (brush === null) {
			this.end();
			this.hover(null);
		}
	}

	/** Gives a channel of a whole object one value. */
	fill(id: string, channel: number, value: number): void {
		this.whole(id, (paint) => {
			for (let i = channel; i < paint.length; i += 4) paint[i] = Math.round(255 * value);
		});
	}

	/** Whether the vertices of an object had colours in their file. */
	coloured(id: string): boolean {
		const mesh = this.objects.get(id);
		return mesh !== undefined && sharedOf(mesh).hasAttribute(COLOURS);
	}

	/** Takes the colours that vertices had in their file for what is painted: red, green, blue and alpha for the four channels. */
	fromColours(id: string): void {
		const mesh = this.objects.get(id);
		if (mesh === undefined || !this.coloured(id)) return;
		const colours = sharedOf(mesh).getAttribute(COLOURS);
		this.whole(id, (paint) => {
			for (let i = 0; i < paint.length; i++) paint[i] = Math.round(255 * Math.min(1, Math.max(0, colours.getComponent(i >> 2, i & 3))));
		});
	}

	private whole(id: string, change: (paint: Uint8Array) => void): void {
		const mesh = this.objects.get(id);
		if (mesh === undefined) return;
		const attribute = this.objects.canvas(mesh);
		const paint = attribute.array as Uint8Array;
		change(paint);
		attribute.clearUpdateRanges();
		attribute.needsUpdate = true;
		this.redraw();
		this.onStroke(id, paint.slice());
	}

	/** What is painted on an object now has a name. */
	kept(id: string, name: string): void {
		const mesh = this.objects.get(id);
		if (mesh !== undefined) mesh.userData.paint = name;
	}

	dispose(): void {
		this.left.abort();
		this.scene.remove(this.ring);
		this.ring.geometry.dispose();
		this.ring.material.dispose();
	}

	private begin(event: PointerEvent): void {
		if (this.brush === null || event.button !== 0) return;
		const spot = this.under(event);
		if (spot === null) return;
		if (this.mode === 'pick') {
			this.onPick(this.value(spot));
			return;
		}
		this.canvas.setPointerCapture(event.pointerId);
		if (this.mode === 'refine') {
			this.refined = { mesh: spot.mesh, balls: [] };
			this.ball(spot);
			return;
		}
		const shared = sharedOf(spot.mesh);
		const attribute = this.objects.canvas(spot.mesh);
		const brush = pressed(this.brush, event);
		const way = new Stroke({ positions: shared.getAttribute('position').array, normals: shared.getAttribute('normal').array, scale: spot.mesh.scale.toArray(), paint: attribute.array as Uint8Array }, brush);
		this.stroke = { mesh: spot.mesh, way, attribute, last: spot.point.clone(), corners: spot.corners };
		this.dab(spot.point, spot.normal);
	}

	private move(event: PointerEvent): void {
		if (this.brush === null) return;
		const spot = this.under(event);
		this.hover(spot);
		if (spot !== null && spot.mesh === this.refined?.mesh) this.ball(spot);
		const { stroke } = this;
		if (stroke === null || spot === null || spot.mesh !== stroke.mesh) return;
		// In between as well, in steps that follow the surface from here to there.
		const scale = stroke.mesh.scale;
		const steps = Math.ceil(spot.point.clone().sub(stroke.last).multiply(scale).length() / (this.brush.spacing * this.brush.radius));
		for (let i = 1; i <= steps; i++) this.dab(stroke.last.clone().lerp(spot.point, i / steps), spot.normal);
		stroke.last.copy(spot.point);
	}

	private end(): void {
		const { stroke, refined } = this;
		[this.stroke, this.refined] = [null, null];
		if (refined !== null) this.onRefine(String(refined.mesh.userData.id), refined.balls, sizeOf(refined.mesh));
		if (stroke === null) return;
		const id = String(stroke.mesh.userData.id);
		if (stroke.way.met) this.onStroke(id, (stroke.attribute.array as Uint8Array).slice());
		else this.onMissed(id, longestEdge(sharedOf(stroke.mesh).getAttribute('position').array, stroke.corners, stroke.mesh.scale.toArray()));
	}

	private dab(point: Vector3, normal: Vector3): void {
		if (this.stroke === null) return;
		const { way, attribute } = this.stroke;
		const changed = way.dab(point.toArray(), normal.toArray());
		if (changed === null) return;
		attribute.addUpdateRange(4 * changed[0], 4 * (changed[1] - changed[0] + 1));
		attribute.needsUpdate = true;
		this.redraw();
	}

	/** Shows the brush where the pointer is. */
	private hover(spot: Spot | null): void {
		const shown = spot !== null && this.brush !== null;
		if (shown !== this.ring.visible || shown) this.redraw();
		this.ring.visible = shown;
		if (!shown) {
			this.onHover(null);
			return;
		}
		const { mesh, point, normal } = spot;
		const upright = normal.clone().applyMatrix3(new Matrix3().getNormalMatrix(mesh.matrixWorld)).normalize();
		this.ring.quaternion.copy(new Quaternion().setFromUnitVectors(FRONT, upright));
		this.ring.position.copy(point).applyMatrix4(mesh.matrixWorld).addScaledVector(upright, ABOVE * this.brush!.radius);
		this.ring.scale.setScalar(this.brush!.radius);
		this.onHover(this.value(spot));
	}

	/** What is painted at a place, 0…1. */
	private value({ mesh, corners, weights }: Spot): number {
		const paint = mesh.geometry.hasAttribute(PAINT) ? (this.objects.canvas(mesh).array as Uint8Array) : null;
		const channel = this.brush?.channel ?? 0;
		return paint === null ? 0 : corners.reduce((sum, vertex, i) => sum + (weights.getComponent(i) * paint[4 * vertex + channel]!) / 255, 0);
	}

	/** The brush has been at a place that is to be refined. */
	private ball({ mesh, point }: Spot): void {
		const radius = this.brush!.radius / sizeOf(mesh);
		const last = this.refined?.balls.at(-1);
		if (last !== undefined && point.distanceTo(new Vector3(last[0], last[1], last[2])) < APART * radius) return;
		this.refined?.balls.push([point.x, point.y, point.z, radius]);
	}

	/** The nearest place of an object under the pointer, in the object's own coordinates. */
	private under(event: PointerEvent): Spot | null {
		const box = this.canvas.getBoundingClientRect();
		const caster = new Raycaster();
		caster.setFromCamera(new Vector2((2 * (event.clientX - box.left)) / box.width - 1, 1 - (2 * (event.clientY - box.top)) / box.height), this.eye.camera);
		let found: Spot | null = null;
		let far = Infinity;
		for (const mesh of this.objects.free()) {
			const hit = this.index(sharedOf(mesh)).raycastFirst(new Ray().copy(caster.ray).applyMatrix4(new Matrix4().copy(mesh.matrixWorld).invert()), DoubleSide);
			if (hit === null || hit.face == null) continue;
			const away = hit.point.clone().applyMatrix4(mesh.matrixWorld).distanceTo(caster.ray.origin);
			if (away >= far) continue;
			far = away;
			const corners: [number, number, number] = [hit.face.a, hit.face.b, hit.face.c];
			const place = sharedOf(mesh).getAttribute('position');
			const [a, b, c] = corners.map((vertex) => new Vector3().fromBufferAttribute(place, vertex)) as [Vector3, Vector3, Vector3];
			found = { mesh, point: hit.point, normal: hit.face.normal, corners, weights: Triangle.getBarycoord(hit.point, a, b, c, new Vector3()) ?? new Vector3(1, 0, 0) };
		}
		return found;
	}

	private index(geometry: BufferGeometry): MeshBVH {
		const known = this.indices.get(geometry) ?? new MeshBVH(geometry, { indirect: true });
		this.indices.set(geometry, known);
		return known;
	}
}

/** How many times as large as its mesh an object is, in the mean of the three directions. */
const sizeOf = (mesh: Mesh): number => Math.cbrt(Math.abs(mesh.scale.x * mesh.scale.y * mesh.scale.z));
