import {
	AxesHelper,
	Box3,
	BufferGeometry,
	Color,
	DirectionalLight,
	FloatType,
	Group,
	MathUtils,
	Mesh,
	MeshBasicMaterial,
	NearestFilter,
	Object3D,
	PerspectiveCamera,
	Raycaster,
	SRGBColorSpace,
	Scene,
	ShaderMaterial,
	Sphere,
	Vector2,
	Vector3,
	WebGLRenderTarget,
	type Camera,
	type IUniform,
	type Material as ThreeMaterial,
	type WebGLRenderer
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { TransformControls } from 'three/addons/controls/TransformControls.js';
import { api, type MultipassPlan, type StageDocument, type StageObject, type Triple } from '../api/client';
import type { Frame } from '../state/handles';
import type { Plan } from '../state/multipass';
import { light } from './light';
import { behind, readMesh } from './meshes';
import { setFrame, type Program } from './program';
import { MultipassRunner } from './multipass';

export type Tool = 'probe' | 'move' | 'turn' | 'scale';
type Sight = { eye: Triple; ray: Triple; rayRight: Triple; rayDown: Triple };

/** Where the world begins. */
const HERE = new Vector3();
/** Metres that the eye may be from where places are counted from. */
const FAR = 250;
/** Degrees seen from top to bottom, on stages at least so many times as wide as high. */
const FIELD = 38;
const WIDEST = 1.42;
/** Milliseconds a frame may take while something moves. */
const SLOW = 45;
const COARSEST = 0.25;
/** Shares of the resolution that coarse pictures are drawn in: few, since every other size takes room of its own. */
const SHARES = [1, 0.7, 0.5, 0.35, COARSEST];
/** The same for pictures that are drawn pass by pass, of which each takes longer, and stands for less long. */
const FIRST_SHARES = [...SHARES, 0.2, 1 / 6, 1 / 8];
/** Milliseconds that the first picture of other code may take. */
const FIRST = 75;
/** Milliseconds after which code that has not come is not waited for. */
const OVERDUE = 2500;
/** Milliseconds after which nobody waits for a picture: pages that are not seen draw none. */
const LATE = 400;
/** How many times as long one takes for each of its taps as one by a program for the whole, before it was measured. */
const BY_LEGS = 1.2;
/** Share of the resolution before anything was measured. */
const UNKNOWN = 0.5;
/** Milliseconds of rest before the fine picture is drawn. */
const REST = 180;
/** Pixels of the picture that shares are measured in. */
const MEASURED = [120, 76] as const;

/** Share of the resolution in which numbers are read. */
const READ = 0.25;

/** Metres to the sun, for shadows. */
const SUN = 13;

/** How much room is left around what is framed. */
const FRAMED = 1.12;

/** The stage: objects, light, camera. Draws only when something has changed. */
export class StageScene {
	readonly camera = new PerspectiveCamera(FIELD, 1, 0.05, 400);
	readonly orbit: OrbitControls;
	private readonly gizmo: TransformControls;
	private readonly canvas: HTMLCanvasElement;
	private readonly scene = new Scene();
	private readonly sun = new DirectionalLight(0xffffff);
	private readonly objects = new Map<string, Mesh>();
	private readonly meshes = new Map<string, Promise<BufferGeometry>>();
	private program: Program | null = null;
	/** Programs of objects that wear what needs other code or other maps, by their ids. */
	private readonly worn = new Map<string, Program>();
	/** Numbers that the left half of the picture is drawn with, by uniform. */
	private before: Record<string, number> | null = null;
	private two: { none: Color; all: Color } | null = null;
	/** What is drawn pass by pass, in place of the program, until the code of another is there. */
	private passes: { plan: Plan; end: Program } | null = null;
	readonly multipass: MultipassRunner;
	private readonly watchers: (() => void)[] = [];
	private picture = '';
	private waiting = 0;
	private refining = 0;
	private size = { width: 1, height: 1 };
	private readonly drawn = new Vector2();
	/** Pictures of all sizes are drawn into targets of one kind, so that no size needs code of its own, and then over the canvas. */
	private readonly fine = screen();
	private readonly coarse = screen();
	/** Milliseconds that a frame takes at full resolution, as last measured; and one that is drawn pass by pass, for each of its taps. */
	private cost = 0;
	private costByPasses = 0;
	private readonly blank = new MeshBasicMaterial({ color: 0x777777 });

	/** The frame of a projection, in the world's or an object's. */
	private readonly base = new Group();
	private readonly axes = new AxesHelper(0.6);
	private readonly warmed = new WeakSet<Program>();
	/** One triangle behind the eye. */
	private readonly scrap: Mesh;
	private readonly pixel = new Uint8Array(4);
	private fresh = true;
	/** Where places are counted from, in whole metres. */
	private readonly origin = new Vector3();
	/** Share of the full resolution in which the last frame was drawn. */
	lastRatio = 1;
	/** The smallest and the largest factor that an object may be scaled by. */
	scales: [number, number] = [1, 1];
	/** Whether what is seen is drawn by the program before, with numbers that make it look right. */
	standing = false;
	/** Frames drawn so far, and how often it was made ready for other orders of steps, for tests and measurements. */
	frames = 0;
	trained = 0;
	/** A frame is being dragged, or (final) was. */
	onFrame: (frame: Pick<Frame, 'place' | 'turn'>, final: boolean) => void = () => {};
	onGrasp: () => void = () => {};
	onObject: (id: string, change: Pick<StageObject, 'position' | 'turn' | 'scale'>, final: boolean) => void = () => {};
	onCamera: (camera: NonNullable<StageDocument['camera']>) => void = () => {};
	onError: (message: string) => void = () => {};
	/** A fine picture was drawn. */
	onPicture: () => void = () => {};

	constructor(readonly renderer: WebGLRenderer) {
		this.canvas = renderer.domElement;
		this.multipass = new MultipassRunner(renderer);
		this.renderer.debug.onShaderError = (gl, program, vertex, fragment) => {
			this.onError(describeFailure(gl, vertex, fragment) ?? gl.getProgramInfoLog(program) ?? 'The shader does not link.');
		};
		// The light itself is a part of the code; this one throws the shadows.
		this.sun.position.set(...light.sun).multiplyScalar(SUN);
		this.sun.castShadow = true;
		this.sun.shadow.mapSize.set(1024, 1024);
		this.sun.shadow.bias = -0.0004;
		this.sun.shadow.normalBias = 0.02;
		const area = this.sun.shadow.camera;
		[area.left, area.right, area.top, area.bottom, area.far] = [-8, 8, 8, -8, 40];
		this.scene.add(this.sun);

		this.orbit = new OrbitControls(this.camera, this.canvas);
		this.orbit.maxPolarAngle = Math.PI * 0.495;
		this.orbit.minDistance = 0.3;
		this.orbit.maxDistance = 120;
		this.orbit.addEventListener('change', () => this.redraw());
		this.orbit.addEventListener('end', () =>
			this.onCamera({ position: this.camera.position.toArray(), target: this.orbit.target.toArray() })
		);
		this.gizmo = new TransformControls(this.camera, this.canvas);
		this.gizmo.setSize(0.8);
		this.gizmo.addEventListener('dragging-changed', (event) => {
			this.orbit.enabled = event.value !== true;
			if (event.value !== true) this.report(true);
			else if (this.gizmo.object === this.axes) this.onGrasp();
		});
		this.gizmo.addEventListener('objectChange', () => this.report(false));
		this.gizmo.addEventListener('change', () => this.redraw());
		this.scene.add(this.gizmo.getHelper());
		this.axes.renderOrder = 1;
		(this.axes.material as ThreeMaterial).depthTest = false;
		this.base.add(this.axes);
		this.scene.add(this.base);
		this.scrap = new Mesh(behind(undefined));
		this.scrap.frustumCulled = false;
		this.scrap.receiveShadow = true;
		this.scrap.onBeforeRender = (_r, _s, camera, _g, material) => {
			// Wherever the eye is.
			this.scrap.matrixWorld.copy(camera.matrixWorld);
			this.frameFor(material, this.scrap, camera);
		};
		this.scrap.matrixWorldAutoUpdate = false;
	}

	/** Whether a full frame takes longer than what moves can wait for. */
	get slow(): boolean {
		return this.cost > SLOW;
	}

	background(colour: string): void {
		this.scene.background = new Color(colour);
		this.redraw();
	}

	resize(width: number, height: number): void {
		if (width < 1 || height < 1) return;
		this.size = { width, height };
		this.camera.aspect = width / height;
		// On a narrow stage the picture grows smaller, so that what stood at the sides stays in view.
		const half = Math.tan((FIELD * Math.PI) / 360) * Math.max(1, WIDEST / this.camera.aspect);
		this.camera.fov = (Math.atan(half) * 360) / Math.PI;
		this.camera.updateProjectionMatrix();
		this.redraw();
	}

	/** Puts the eye somewhere. */
	look(eye: NonNullable<StageDocument['camera']>): void {
		this.camera.position.fromArray(eye.position);
		this.orbit.target.fromArray(eye.target);
		this.orbit.update();
	}

	/** Moves the eye, without turning it, to where it sees some of the objects, or all of them. */
	frame(ids: string[] | null): void {
		const box = new Box3();
		for (const [id, mesh] of this.objects) if (ids?.includes(id) ?? mesh.castShadow) box.expandByObject(mesh);
		if (box.isEmpty()) for (const mesh of this.objects.values()) box.expandByObject(mesh);
		if (box.isEmpty()) return;
		const ball = box.getBoundingSphere(new Sphere());
		const half = (Math.min(this.camera.fov, (2 * Math.atan(Math.tan((this.camera.fov * Math.PI) / 360) * this.camera.aspect) * 180) / Math.PI) * Math.PI) / 360;
		const away = Math.min(this.orbit.maxDistance, Math.max(this.orbit.minDistance, (ball.radius * FRAMED) / Math.sin(half)));
		const from = this.camera.position.clone().sub(this.orbit.target).normalize();
		this.orbit.target.copy(ball.center);
		this.camera.position.copy(ball.center).addScaledVector(from, away);
		this.orbit.update();
		this.onCamera({ position: this.camera.position.toArray(), target: this.orbit.target.toArray() });
		this.redraw();
	}

	async show(stage: StageDocument): Promise<void> {
		for (const [id, mesh] of this.objects) {
			if (stage.objects.some((object) => object.id === id)) continue;
			if (this.gizmo.object === mesh) this.gizmo.detach();
			this.scene.remove(mesh);
			this.objects.delete(id);
		}
		for (const object of stage.objects) {
			let mesh = this.objects.get(object.id);
			if (mesh === undefined) {
				mesh = new Mesh(await this.geometry(object.mesh), this.blank);
				mesh.userData.id = object.id;
				mesh.castShadow = object.mesh !== 'floor';
				mesh.receiveShadow = true;
				// The program is shared by all objects; each draws with its own frame.
				mesh.onBeforeRender = (_r, _s, camera, _g, material) => this.frameFor(material, mesh as Mesh, camera);
				mesh.onBeforeShadow = (_r, _o, camera, _l, _g, material) => this.frameFor(material, mesh as Mesh, camera);
				this.objects.set(object.id, mesh);
				this.scene.add(mesh);
			}
			place(mesh, object);
		}
		this.assign();
		this.renderer.shadowMap.needsUpdate = true;
		this.redraw();
	}

	/** Takes over a program; what does not compile is reported through onError. */
	use(program: Program): void {
		this.program = program;
		this.passes = null;
		this.fresh = true;
		this.assign();
		if (!this.standing) {
			this.redraw();
			return;
		}
		// The picture stands; the fine one is drawn by the new code when all rests.
		this.standing = false;
		clearTimeout(this.refining);
		this.refining = window.setTimeout(() => this.draw(1), REST);
	}

	/** Tells whether the program has numbers that make it look like the one that is being made; if so, that is drawn. */
	stand(there: boolean): void {
		this.standing = there;
		this.run(null);
		if (there) this.redraw();
	}

	/** Answers when something has been drawn; soon, if nothing is to be. */
	drawnNext(): Promise<void> {
		return new Promise((resolve) => {
			const late = setTimeout(resolve, LATE);
			this.watchers.push(() => { clearTimeout(late); resolve(); });
		});
	}

	/** Whether the picture is drawn pass by pass. */
	get running(): boolean {
		return this.passes !== null;
	}

	/** Draws a plan pass by pass in place of the program, until there is another. */
	run(passes: { plan: Plan; end: Program } | null): void {
		if (passes === null && this.passes === null) return;
		this.passes = passes;
		this.assign();
		if (passes === null) return;
		this.standing = true;
		this.redraw();
	}

	/** Has all that a plan is drawn with compiled ahead of its use, piece by piece. */
	async train({ plan, end }: { plan: Plan; end: Program }, pause: () => Promise<void>): Promise<void> {
		await this.prepare(plan.multipass, pause);
		if (this.multipass.over) return;
		const { width, height } = this.target(Math.min(this.firstShare(plan), this.multipass.room(plan, this.size.width, this.size.height)));
		this.carry({ plan, end }, width, height);
		await pause();
		await this.warm(end);
	}

	/** Has passes compiled ahead of their use. */
	prepare(multipass: MultipassPlan, pause: () => Promise<void>): Promise<void> {
		return this.multipass.prepare(multipass, pause, (material) => this.objectsIn(material));
	}

	/** Share of the resolution in which a plan is drawn while its code is awaited. */
	private firstShare(plan: Plan): number {
		return bearable(FIRST_SHARES, this.multipass.tapsOf(plan) * (this.costByPasses || BY_LEGS * this.cost), FIRST);
	}

	/** Runs the passes of a plan over a picture of so many pixels, and hands what they come to over to its end. */
	private carry({ plan, end }: { plan: Plan; end: Program }, width: number, height: number): void {
		const clock = end.uniforms[end.lowered.clock.uniform]!.value as number;
		const found = this.multipass.run(plan, width, height, clock, (material) => this.objectsIn(material));
		for (const [name, value] of Object.entries(found)) if (end.uniforms[name] !== undefined) end.uniforms[name].value = value;
	}

	/**
	 * Has a program compiled ahead of its use. Drivers finish code only when something is drawn with it: a triangle that
	 * lies behind the eye is, into the picture that stands there.
	 */
	async warm(program: Program): Promise<void> {
		if (program === this.program || this.warmed.has(program)) return;
		this.warmed.add(program);
		const [like] = this.meshes.values();
		if (like !== undefined && this.scrap.geometry.getAttribute('rilta_SECTION') === undefined) this.scrap.geometry = behind(await like);
		const material = program.litFor('');
		this.scrap.material = material;
		this.renderer.setRenderTarget(this.coarse);
		const compiled = this.renderer.compileAsync(this.scrap, this.camera, this.scene);
		// The others are of the same code, but each is prepared for it.
		for (const id of this.objects.keys()) {
			this.scrap.material = program.litFor(id);
			this.renderer.compile(this.scrap, this.camera, this.scene);
		}
		this.renderer.setRenderTarget(null);
		await compiled;
		if (program === this.program) return;
		const background = this.scene.background;
		const shown = this.scene.children.filter((child) => child.visible && child !== this.sun);
		for (const child of shown) child.visible = false;
		this.scrap.material = material;
		this.scene.add(this.scrap);
		this.scene.background = null;
		this.renderer.autoClear = false;
		this.renderer.setRenderTarget(this.coarse);
		this.renderer.render(this.scene, this.camera);
		this.renderer.setRenderTarget(null);
		this.renderer.autoClear = true;
		this.scene.background = background;
		this.scene.remove(this.scrap);
		for (const child of shown) child.visible = true;
	}

	/** Shows a picture of the program instead of the lit material, by name; "" for lit. In two colours (sRGB, 0…1), if any are given. */
	view(picture: string, two: { none: number[]; all: number[] } | null = null): void {
		this.picture = picture;
		const colour = ([r = 0, g = 0, b = 0]: number[]): Color => new Color().setRGB(r, g, b, SRGBColorSpace);
		this.two = two === null ? null : { none: colour(two.none), all: colour(two.all) };
		this.assign();
		this.redraw();
	}

	/** Draws the left half with other numbers than the right one, for as long as there are any. */
	split(before: Record<string, number> | null): void {
		if (this.before === before) return;
		this.before = before;
		this.redraw();
	}

	/**
	 * The mean of a picture over all that is seen of the objects: red, green and blue, 0…1.
	 *
	 * @param encoded whether the numbers that the screen would show are meant, and not the light
	 */
	mean(picture: string, encoded: boolean): [number, number, number] {
		const [width, height] = MEASURED;
		const target = new WebGLRenderTarget(width, height, encoded ? { colorSpace: SRGBColorSpace } : {});
		const pixels = new Uint8Array(width * height * 4);
		this.apart(picture, target, () => this.renderer.readRenderTargetPixels(target, 0, 0, width, height, pixels));
		const sum: [number, number, number] = [0, 0, 0];
		let count = 0;
		for (let i = 0; i < pixels.length; i += 4) {
			if (pixels[i + 3]! < 128) continue;
			count += 1;
			for (const c of [0, 1, 2] as const) sum[c] += pixels[i + c]! / 255;
		}
		return count === 0 ? [0, 0, 0] : (sum.map((one) => one / count) as [number, number, number]);
	}

	/** The numbers of a picture that is not for the eye: four for each pixel, rows from below, the last 1 where there is an object; as they are, not clamped. */
	numbers(picture: string): { width: number; height: number; values: Float32Array } {
		const [width, height] = [Math.max(1, Math.round(this.size.width * READ)), Math.max(1, Math.round(this.size.height * READ))];
		const target = new WebGLRenderTarget(width, height, { type: FloatType, minFilter: NearestFilter, magFilter: NearestFilter });
		const values = new Float32Array(width * height * 4);
		this.apart(picture, target, () => this.renderer.readRenderTargetPixels(target, 0, 0, width, height, values));
		return { width, height, values };
	}

	/** Draws a picture of the objects alone into a target, which is gone after it was read. */
	private apart(picture: string, target: WebGLRenderTarget, read: () => void): void {
		const [shown, alpha, passes] = [this.picture, this.renderer.getClearAlpha(), this.passes];
		this.passes = null;
		this.dressUp(picture, null);
		for (const program of this.programs()) program.uniforms.riltaCut!.value = 1;
		this.rebase();
		this.renderer.setClearAlpha(0);
		this.renderer.setRenderTarget(target);
		this.renderer.clear();
		this.objectsAlone();
		read();
		this.renderer.setRenderTarget(null);
		this.renderer.setClearAlpha(alpha);
		for (const program of this.programs()) program.uniforms.riltaCut!.value = 0;
		this.passes = passes;
		this.dressUp(shown, this.two);
		target.dispose();
	}

	/** Draws the objects, and nothing around them, into what is set. */
	private objectsAlone(): void {
		const background = this.scene.background;
		const handles = this.scene.children.filter((child) => child.visible && child !== this.sun && !(child instanceof Mesh));
		for (const child of handles) child.visible = false;
		this.scene.background = null;
		this.renderer.render(this.scene, this.camera);
		this.scene.background = background;
		for (const child of handles) child.visible = true;
	}

	/** The same with one material for all of them, over what is there. */
	private objectsIn(material: ThreeMaterial): void {
		this.scene.overrideMaterial = material;
		this.renderer.autoClear = false;
		this.objectsAlone();
		this.renderer.autoClear = true;
		this.scene.overrideMaterial = null;
	}

	/** Puts handles on the selected object or on the frame of a projection. Frames show their axes with every tool. */
	grasp(id: string | null, frame: (Frame & { anchor: string | null }) | null, tool: Tool): void {
		const mesh = id === null || tool === 'probe' ? undefined : this.objects.get(id);
		this.axes.visible = frame !== null;
		if (frame !== null && !this.gizmo.dragging) {
			const anchor = this.objects.get(frame.anchor ?? '') ?? this.objects.values().next().value;
			if (frame.space === 'object' && anchor !== undefined) {
				this.base.position.copy(anchor.position);
				this.base.quaternion.copy(anchor.quaternion);
			} else {
				this.base.position.set(0, 0, 0);
				this.base.quaternion.identity();
			}
			this.axes.position.fromArray(frame.place);
			this.axes.rotation.fromArray(frame.turn.map(MathUtils.degToRad) as Triple);
			this.base.updateMatrixWorld(true);
		}
		const held = mesh ?? (frame !== null && (tool === 'move' || tool === 'turn') ? this.axes : undefined);
		if (held === undefined) {
			this.gizmo.detach();
		} else {
			this.gizmo.setMode(tool === 'turn' ? 'rotate' : tool === 'scale' ? 'scale' : 'translate');
			this.gizmo.setSpace(tool === 'scale' || held === this.axes ? 'local' : 'world');
			this.gizmo.attach(held);
		}
		this.redraw();
	}

	/** What each object wears, by its id. */
	variants(): Record<string, string> {
		return Object.fromEntries([...this.objects].map(([id, mesh]) => [id, String(mesh.userData.variant)]));
	}

	/** Gives every object the numbers of what it wears, and a program where numbers alone do not do. */
	dress(worn: (id: string, variant: string) => { program: Program | null; numbers: Record<string, number> }): void {
		let others = false;
		for (const [id, mesh] of this.objects) {
			const { program, numbers } = worn(id, String(mesh.userData.variant));
			mesh.userData.worn = numbers;
			others ||= (this.worn.get(id) ?? null) !== program;
			if (program === null) this.worn.delete(id);
			else this.worn.set(id, program);
		}
		if (others) this.assign();
		this.redraw();
	}

	place(object: StageObject): void {
		const mesh = this.objects.get(object.id);
		if (mesh === undefined) return;
		place(mesh, object);
		this.renderer.shadowMap.needsUpdate = true;
		this.redraw();
	}

	/** The object under a point of the canvas, in CSS pixels. */
	objectAt(x: number, y: number): string | null {
		const caster = new Raycaster();
		caster.setFromCamera(this.toDevice(x, y), this.camera);
		const hit = caster.intersectObjects([...this.objects.values()], false)[0];
		return hit === undefined ? null : String(hit.object.userData.id);
	}

	/** The lines of sight through a point of the canvas and its neighbouring pixels. */
	sight(x: number, y: number): Sight {
		const ray = (px: number, py: number): Triple => {
			const v = this.toDevice(px, py);
			return new Vector3(v.x, v.y, 0.5).unproject(this.camera).sub(this.camera.position).normalize().toArray();
		};
		return {
			eye: this.camera.position.toArray(),
			ray: ray(x, y),
			rayRight: ray(x + 1, y),
			rayDown: ray(x, y + 1)
		};
	}

	/**
	 * Draws with the next frame. Where a full frame takes long, what moves is drawn coarsely first and finely
	 * as soon as it rests.
	 */
	redraw(): void {
		clearTimeout(this.refining);
		// Before there is a program, there is nothing to be seen.
		if (this.waiting !== 0 || this.program === null) return;
		this.waiting = requestAnimationFrame(() => {
			this.waiting = 0;
			// How long the first frame takes nobody knows; better soon than sharp.
			if (this.passes !== null) {
				// It is drawn finely by the code that comes; if none does, pass by pass as well.
				this.draw(this.firstShare(this.passes.plan));
				this.refining = window.setTimeout(() => this.draw(1), OVERDUE);
				return;
			}
			const coarse = this.cost > SLOW || this.frames === 0;
			this.draw(!coarse ? 1 : this.cost === 0 ? UNKNOWN : bearable(SHARES, this.cost, SLOW));
			if (coarse) this.refining = window.setTimeout(() => this.draw(1), REST);
		});
	}

	draw(wanted: number): void {
		for (const program of this.programs()) program.uniforms.riltaForm!.value = 0;
		this.rebase();
		const start = performance.now();
		const { passes } = this;
		const ratio = passes === null ? wanted : Math.min(wanted, this.multipass.room(passes.plan, this.size.width, this.size.height));
		// Another size empties the picture and waits for the device: only right before something is drawn.
		const { width, height } = this.renderer.getSize(this.drawn);
		if (width !== this.size.width || height !== this.size.height) this.renderer.setDrawingBufferSize(this.size.width, this.size.height, 1);
		const target = this.target(ratio);
		if (passes !== null) this.carry(passes, target.width, target.height);
		this.renderer.setRenderTarget(target);
		this.render(target);
		this.stretch(target);
		// Reading one pixel waits for the picture, so that slow devices never queue up frames.
		const gl = this.renderer.getContext();
		gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, this.pixel);
		// The first frame of a program compiles; that is no measure.
		const took = (performance.now() - start) / (ratio * ratio);
		if (passes !== null) this.costByPasses = took / this.multipass.tapsOf(passes.plan);
		else if (!this.fresh) this.cost = took;
		this.fresh = false;
		this.frames += 1;
		this.lastRatio = ratio;
		for (const tell of this.watchers.splice(0)) tell();
		if (ratio === 1) this.onPicture();
	}

	/** Puts a picture over the whole canvas, whatever its size. */
	private stretch(target: WebGLRenderTarget): void {
		const gl = this.renderer.getContext() as WebGL2RenderingContext;
		const { __webglFramebuffer: from } = this.renderer.properties.get(target) as { __webglFramebuffer: WebGLFramebuffer };
		this.renderer.setRenderTarget(null);
		gl.bindFramebuffer(gl.READ_FRAMEBUFFER, from);
		gl.blitFramebuffer(0, 0, target.width, target.height, 0, 0, this.canvas.width, this.canvas.height, gl.COLOR_BUFFER_BIT, target.width === this.canvas.width ? gl.NEAREST : gl.LINEAR);
		gl.bindFramebuffer(gl.READ_FRAMEBUFFER, null);
	}

	/** What a picture of a share of the resolution is drawn into; the coarse and the fine one stay, as long as they have their size. */
	private target(ratio: number): WebGLRenderTarget {
		const [width, height] = [Math.max(1, Math.round(this.size.width * ratio)), Math.max(1, Math.round(this.size.height * ratio))];
		const target = ratio === 1 ? this.fine : this.coarse;
		target.setSize(width, height);
		return target;
	}

	/** The whole picture, or its left half with the numbers of before and its right half with those of now. */
	private render(target: WebGLRenderTarget): void {
		const { program, before } = this;
		if (program === null || before === null) {
			this.renderer.render(this.scene, this.camera);
			return;
		}
		const half = Math.round(target.width / 2);
		target.scissorTest = true;
		for (const [numbers, from, to] of [[before, 0, half], [null, half, target.width]] as const) {
			if (numbers === null) program.undress();
			else program.wear(numbers);
			target.scissor.set(from, 0, to - from, target.height);
			this.renderer.setRenderTarget(target);
			this.renderer.render(this.scene, this.camera);
		}
		target.scissorTest = false;
	}

	/** Gives a material what is an object's own. */
	private frameFor(material: ThreeMaterial, mesh: Mesh, camera: Camera): void {
		const uniforms = material instanceof ShaderMaterial ? material.uniforms : (material.userData.uniforms as Record<string, IUniform> | undefined);
		if (uniforms?.riltaObject === undefined) return;
		const program = this.passes === null ? (this.worn.get(String(mesh.userData.id)) ?? this.program) : this.passes.end;
		setFrame(uniforms, mesh, camera, this.originOf(program));
		program?.wear((mesh.userData.worn ?? {}) as Record<string, number>);
		(material as ShaderMaterial).uniformsNeedUpdate = true;
	}

	/** Has places counted from near the eye, before something is drawn. */
	private rebase(): void {
		if (this.camera.position.distanceTo(this.origin) > FAR) this.origin.copy(this.camera.position).round();
		for (const program of this.programs()) program.rebase(this.originOf(program));
	}

	/** Where a program's places are counted from. */
	originOf(program: Program | null): Vector3 {
		return program?.lowered.far === true ? this.origin : HERE;
	}

	private programs(): Set<Program> {
		return new Set([...(this.program === null ? [] : [this.program]), ...this.worn.values()]);
	}

	dispose(): void {
		cancelAnimationFrame(this.waiting);
		clearTimeout(this.refining);
		this.multipass.dispose();
		this.fine.dispose();
		this.coarse.dispose();
		this.orbit.dispose();
		this.gizmo.detach();
		this.gizmo.dispose();
		// The renderer goes to the next stage; what is this one's alone goes with it.
		for (const geometry of this.meshes.values()) void geometry.then((one) => one.dispose(), () => {});
		this.scrap.geometry.dispose();
		this.axes.dispose();
		this.blank.dispose();
		this.sun.dispose();
	}

	geometry(name: string): Promise<BufferGeometry> {
		let geometry = this.meshes.get(name);
		if (geometry === undefined) {
			geometry = api.mesh(name).then(readMesh);
			this.meshes.set(name, geometry);
		}
		return geometry;
	}

	private toDevice(x: number, y: number): Vector2 {
		return new Vector2((x / this.canvas.clientWidth) * 2 - 1, 1 - (y / this.canvas.clientHeight) * 2);
	}

	private assign(): void {
		if (this.program === null) return;
		this.dressUp(this.picture, this.two);
		for (const [id, mesh] of this.objects) {
			const shadow = (this.worn.get(id) ?? this.program).shadowFor(id) ?? undefined;
			// Closed surfaces throw the same shadow whatever they are made of.
			if (shadow !== mesh.customDepthMaterial) this.renderer.shadowMap.needsUpdate = true;
			if (shadow === undefined) delete mesh.customDepthMaterial;
			else mesh.customDepthMaterial = shadow;
		}
	}

	/** Has all objects drawn with a picture, or lit if it is "" or none of their program's. */
	private dressUp(picture: string, two: { none: Color; all: Color } | null): void {
		for (const program of this.programs()) {
			const index = program.lowered.views.findIndex((one) => one.name === picture);
			if (index >= 0) program.uniforms.riltaView!.value = index;
			program.uniforms.riltaTwo!.value = two === null ? 0 : 1;
			if (two !== null) [program.uniforms.riltaNone!.value, program.uniforms.riltaAll!.value] = [two.none, two.all];
		}
		for (const [id, mesh] of this.objects) {
			if (this.passes !== null) {
				mesh.material = this.passes.end.litFor(id);
				continue;
			}
			const program = this.worn.get(id) ?? this.program!;
			mesh.material = program.lowered.views.some((one) => one.name === picture) ? program.pictures : program.litFor(id);
		}
	}

	private report(final: boolean): void {
		const held = this.gizmo.object;
		if (!(held instanceof Object3D)) return;
		const degrees = (r: number): number => Math.round(MathUtils.radToDeg(r) * 1000) / 1000;
		const metres = (m: number): number => Math.round(m * 10000) / 10000;
		const position = held.position.toArray().map(metres) as Triple;
		const turn: Triple = [degrees(held.rotation.x), degrees(held.rotation.y), degrees(held.rotation.z)];
		if (held === this.axes) {
			this.onFrame({ place: position, turn }, final);
			return;
		}
		held.scale.clampScalar(...this.scales);
		this.renderer.shadowMap.needsUpdate = true;
		this.onObject(String(held.userData.id), { position, turn, scale: held.scale.toArray().map(metres) as Triple }, final);
	}
}

/** The largest of some shares of the resolution that takes no more than a time, where the whole takes so many milliseconds. */
function bearable(shares: readonly number[], cost: number, time: number): number {
	return shares.find((share) => share * share * cost <= time) ?? shares.at(-1) ?? 1;
}

/** A picture as it is drawn for the screen: tone-mapped and encoded as there. */
function screen(): WebGLRenderTarget {
	const target = new WebGLRenderTarget(1, 1, { samples: 4, colorSpace: SRGBColorSpace, internalFormat: 'RGBA8' });
	// What three calls so is drawn with the very programs that draw for the screen.
	(target as WebGLRenderTarget & { isXRRenderTarget?: boolean }).isXRRenderTarget = true;
	return target;
}

function place(mesh: Mesh, object: StageObject): void {
	const radians = (d: number): number => (d * Math.PI) / 180;
	mesh.position.fromArray(object.position);
	mesh.rotation.set(radians(object.turn[0] ?? 0), radians(object.turn[1] ?? 0), radians(object.turn[2] ?? 0), 'XYZ');
	mesh.scale.fromArray(object.scale);
	mesh.userData.seed = object.seed ?? 1;
	mesh.userData.value = object.value ?? 0;
	mesh.userData.variant = object.variant ?? '';
	mesh.updateMatrixWorld();
}

/** The first message of the compiler, with the line of code that it names. */
function describeFailure(gl: WebGLRenderingContext, vertex: WebGLShader, fragment: WebGLShader): string | null {
	for (const shader of [fragment, vertex]) {
		const log = (gl.getShaderInfoLog(shader) ?? '').trim();
		if (log === '') continue;
		const line = /ERROR:\s*\d+:(\d+)/.exec(log)?.[1];
		const source = (gl.getShaderSource(shader) ?? '').split('\n');
		const code = line === undefined ? '' : `\nLine ${line}: ${(source[Number(line) - 1] ?? '').trim()}`;
		return log.split('\n')[0] + code;
	}
	return null;
}
