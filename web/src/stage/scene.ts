import { Color, DirectionalLight, MathUtils, Mesh, Scene, Sphere, Vector3, WebGLRenderTarget, type BufferGeometry, type Camera, type IUniform, type Material, type PerspectiveCamera, type WebGLRenderer } from 'three';
import type { MultipassPlan, StageDocument, StageObject, Triple } from '../api/client';
import type { Difference } from '../state/comparing';
import type { Frame } from '../state/handles';
import { Ahead } from './ahead';
import { facesWithin } from './brush';
import { ChosenFaces } from './chosen';
import { Compared, type TwoSides } from './compared';
import { Contact } from './contact';
import { Eye, type Lookout, type Sight } from './eye';
import { Frames } from './frames';
import { Handles, type Tool } from './handles';
import { lightPart, type StageLight } from './light';
import { sectionsOf } from './meshes';
import { MultipassRunner } from './multipass';
import { sharedOf, StageObjects } from './objects';
import type { Program } from './program';
import { Painter } from './painter';
import { Pictures } from './pictures';
import { Sky } from './sky';
import { Walk } from './walk';
import { Wardrobe, type Passes } from './wardrobe';

/** Metres around what is looked at in which shadows are thrown, at most; and at least. */
const SHADED = 60;
const LEAST_SHADED = 2;
/** Texels to a side of what shadows are read from. */
const SHADOW = 2048;

/** The stage: objects, light, eye. Draws only when something has changed. */
export class StageScene {
	readonly eye: Eye;
	readonly handles: Handles;
	readonly painter: Painter;
	readonly walk: Walk;
	private readonly drawing: Frames;
	readonly multipass: MultipassRunner;
	private readonly sky = new Sky();
	private readonly contact: Contact;
	/** What all that is lit reads. */
	readonly surroundings: Record<string, IUniform>;
	private readonly objects: StageObjects;
	private readonly wardrobe: Wardrobe;
	private readonly ahead: Ahead;
	private readonly scene = new Scene();
	private readonly chosen = new ChosenFaces();
	private readonly sun = new DirectionalLight(0xffffff);
	/** Around where shadows are thrown, if that is not around all objects. */
	private shaded: Vector3 | null = null;
	/** Since the ground beside objects was shaded. */
	private moved = true;
	/** Numbers that the left half of the picture is drawn with, by uniform. */
	private before: Record<string, number> | null = null;
	/** What is looked at beside something else. */
	private comparison: TwoSides | null = null;
	private readonly compared: Compared;
	readonly pictures: Pictures;
	/** Whether what is seen is drawn by the program before, with numbers that make it look right. */
	standing = false;
	/** How often it came to hold what a document says, for tests. */
	shown = 0;
	/** How often it was made ready for other orders of steps, for tests and measurements. */
	trained = 0;
	onError: (message: string) => void = () => {};
	/** Other things are drawn by themselves than before: what they wear has to be said again. */
	onPieces: () => void = () => {};

	constructor(readonly renderer: WebGLRenderer) {
		const canvas = renderer.domElement;
		const redraw = (): void => this.redraw();
		this.multipass = new MultipassRunner(renderer);
		this.contact = new Contact(renderer);
		this.surroundings = { ...this.sky.uniforms, ...this.contact.uniforms };
		this.renderer.debug.onShaderError = (gl, program, vertex, fragment) => {
			this.onError(describeFailure(gl, vertex, fragment) ?? gl.getProgramInfoLog(program) ?? 'The shader does not link.');
		};
		// The light itself is a part of the code; this one throws the shadows.
		this.sun.castShadow = true;
		this.sun.shadow.mapSize.set(SHADOW, SHADOW);
		this.scene.add(this.sun, this.sun.target, this.sky.backdrop, this.chosen.shown);

		const frameOf = (material: Material, mesh: Mesh, camera: Camera): void => this.wardrobe.frameOf(material, mesh, camera);
		this.eye = new Eye(canvas, redraw);
		this.handles = new Handles(this.scene, this.eye.camera, canvas, this.eye.orbit, redraw, () => this.rearranged());
		this.objects = new StageObjects(this.scene, frameOf, (mesh) => this.handles.release(mesh), redraw);
		this.painter = new Painter(canvas, this.eye, this.objects, this.scene, redraw);
		this.wardrobe = new Wardrobe(this.objects, () => this.reshade());
		this.objects.onPieces = () => {
			this.wardrobe.assign();
			this.onPieces();
			this.redraw();
		};
		this.compared = new Compared(renderer);
		this.pictures = new Pictures({ renderer, scene: this.scene, eye: this.eye, sun: this.sun, sky: this.sky, contact: this.contact, objects: this.objects, wardrobe: this.wardrobe, compared: this.compared, size: () => this.drawing.size });
		this.ahead = new Ahead(renderer, this.scene, this.camera, this.sun, this.objects, frameOf, () => this.program);
		this.walk = new Walk(canvas, this.eye, (x, z, from) => this.objects.below(x, z, from, null), redraw, () => this.eye.rest());
		this.drawing = new Frames(renderer, {
			ready: () => this.program !== null,
			complete: () => !this.wardrobe.waits,
			passTaps: () => (this.wardrobe.passes === null ? null : this.multipass.tapsOf(this.wardrobe.passes.plan)),
			room: (width, height) => (this.wardrobe.passes === null ? 1 : this.multipass.room(this.wardrobe.passes.plan, width, height)),
			render: (target) => this.render(target)
		});
	}

	/** Frames drawn so far. */
	get frames(): number {
		return this.drawing.count;
	}

	/** Share of the full resolution in which the last frame was drawn. */
	get lastRatio(): number {
		return this.drawing.lastRatio;
	}

	/** Whether anything is bare as long as its program is on its way. */
	get waits(): boolean {
		return this.wardrobe.waits;
	}

	/** Whether all is dressed, and nothing is going to be drawn as things are. */
	get rests(): boolean {
		return !this.waits && this.drawing.rests;
	}

	/** Whether a full frame takes longer than what moves can wait for. */
	get slow(): boolean {
		return this.drawing.slow;
	}

	get program(): Program | null {
		return this.wardrobe.program;
	}

	get camera(): PerspectiveCamera {
		return this.eye.camera;
	}

	background(colour: string): void {
		this.scene.background = new Color(colour);
		this.redraw();
	}

	resize(width: number, height: number): void {
		if (width < 1 || height < 1) return;
		this.drawing.size = { width, height };
		this.eye.shape(width / height);
		this.redraw();
	}

	/** Moves the eye, without turning it, to where it sees some of the objects, or all of them. */
	frame(ids: string[] | null): void {
		const room = this.objects.room(ids);
		if (room.isEmpty()) return;
		this.eye.frame(room);
		this.redraw();
	}

	/** Goes to a place, and stays there. */
	look(place: Lookout): void {
		this.eye.go(place);
		this.redraw();
	}

	/** Goes, without turning, so many times as far away as what throws shadows is wide. */
	away(times: number): void {
		this.eye.frame(this.objects.room(null), times);
		this.redraw();
	}

	/** Where the eye is. */
	get seen(): Lookout {
		return this.eye.place;
	}

	/** Answers why meshes could not be had; all else stands there. */
	async show(stage: StageDocument): Promise<unknown[]> {
		const failures = await this.objects.show(stage);
		this.shown += 1;
		this.wardrobe.assign();
		this.rearranged();
		this.redraw();
		return failures;
	}

	place(object: StageObject): void {
		if (!this.objects.place(object)) return;
		this.rearranged();
		this.redraw();
	}

	/** A fine picture was drawn. */
	onPicture(told: () => void): void {
		this.drawing.onPicture = told;
	}

	/** Answers when something has been drawn; soon, if nothing is to be. */
	drawnNext(): Promise<void> {
		return this.drawing.next();
	}

	/** Lights the stage as it says. */
	light(one: StageLight | undefined): void {
		this.sky.show(one);
		this.reshade();
		this.redraw();
	}

	/** Takes over a program; what does not compile is reported through onError. */
	use(program: Program): void {
		this.wardrobe.program = program;
		this.wardrobe.passes = null;
		this.drawing.renew();
		this.wardrobe.assign();
		// A picture that stands is drawn finely by the new code when all rests.
		if (this.standing) this.drawing.refine();
		else this.redraw();
		this.standing = false;
	}

	/** Tells whether the program has numbers that make it look like the one that is being made; if so, that is drawn. */
	stand(there: boolean): void {
		this.standing = there;
		this.run(null);
		if (there) this.redraw();
	}

	/** Whether the picture is drawn pass by pass. */
	get running(): boolean {
		return this.wardrobe.passes !== null;
	}

	/** Draws a plan pass by pass in place of the program, until there is another. */
	run(passes: Passes | null): void {
		if (passes === null && !this.running) return;
		this.wardrobe.passes = passes;
		this.wardrobe.assign();
		if (passes === null) return;
		this.standing = true;
		this.redraw();
	}

	/** Has all that a plan is drawn with compiled ahead of its use, piece by piece. */
	async train({ plan, end }: Passes, pause: () => Promise<void>): Promise<void> {
		await this.prepare(plan.multipass, pause);
		if (this.multipass.over) return;
		const { width, height } = this.drawing.pixels;
		const target = this.drawing.target(Math.min(this.drawing.firstShare(this.multipass.tapsOf(plan)), this.multipass.room(plan, width, height)));
		this.carry({ plan, end }, target.width, target.height);
		await pause();
		await this.warm(end);
	}

	/** Has passes compiled ahead of their use. */
	prepare(multipass: MultipassPlan, pause: () => Promise<void>): Promise<void> {
		return this.multipass.prepare(multipass, pause, (material) => this.pictures.objectsIn(material));
	}

	/** Has a program compiled ahead of its use. */
	warm(program: Program): Promise<void> {
		return this.ahead.warm(program, this.drawing.coarse);
	}

	/** Shows a picture of the program instead of the lit material, by name; "" for lit, or a part of the light. In two colours (sRGB, 0…1), if any are given. */
	view(picture: string, two: { none: number[]; all: number[] } | null = null): void {
		const part = lightPart(picture);
		this.sky.part(part?.shown);
		this.wardrobe.view(part === undefined ? picture : '', two);
		this.redraw();
	}

	/** Draws the left half with other numbers than the right one, for as long as there are any. */
	split(before: Record<string, number> | null): void {
		if (this.before === before) return;
		this.before = before;
		this.redraw();
	}

	/** Looks at two things in place of one, or at one again. */
	compare(comparison: TwoSides | null): void {
		if (comparison !== null) this.run(null);
		this.comparison = comparison;
		this.redraw();
	}

	/** How different the two look that are compared; null if nothing of them is seen. */
	difference(): Difference | null {
		return this.comparison === null || this.program === null ? null : this.pictures.difference(this.comparison);
	}

	get compares(): boolean {
		return this.comparison !== null;
	}

	/** Variants that anything wears. */
	variants(): string[] {
		return this.objects.variants();
	}

	/** Gives everything the numbers of what it wears, and a program where numbers alone do not do. */
	dress(worn: Parameters<Wardrobe['dress']>[0], soon = true): void {
		this.wardrobe.dress(worn);
		if (soon) this.redraw();
		else this.later();
	}

	/** Draws what came by itself, and may wait. */
	later(): void {
		this.drawing.later();
	}

	/** Where a program's places are counted from. */
	originOf(program: Program | null): Vector3 {
		return this.wardrobe.originOf(program);
	}

	/** Puts handles on the selected object or on the frame of a projection. Frames show their axes with every tool. */
	grasp(id: string | null, frame: (Frame & { anchor: string | null }) | null, tool: Tool): void {
		const [first] = this.objects.values();
		this.handles.grasp(this.objects.get(id), frame, this.objects.get(frame?.anchor ?? null) ?? first, tool);
		this.redraw();
	}

	/** The object under a point of the canvas, in CSS pixels. */
	objectAt(x: number, y: number): string | null {
		const hit = this.within(x, (inside) => this.eye.at(inside, y, this.objects.free()));
		return hit === undefined ? null : String(hit.userData.id);
	}

	/**
	 * The face of an object under a point of the canvas: its number in the mesh, the way it faces in the mesh's own coordinates, and it with those
	 * around it; null if something else is there.
	 *
	 * @param reach metres
	 */
	faceAt(x: number, y: number, id: string, reach = 0): { triangle: number; normal: Triple; around: number[] } | null {
		const mesh = this.objects.get(id);
		const hit = mesh === undefined ? undefined : this.eye.hits(x, y, [mesh])[0];
		if (mesh === undefined || hit?.faceIndex == null || hit.face == null) return null;
		const normal = hit.face.normal.toArray();
		const shared = sharedOf(mesh);
		const others = reach <= 0 || shared.index === null ? [] : facesWithin(shared.getAttribute('position').array, shared.index.array, mesh.scale.toArray(), mesh.worldToLocal(hit.point.clone()).toArray(), normal, reach);
		return { triangle: hit.faceIndex, normal, around: [...new Set([hit.faceIndex, ...others])] };
	}

	/** Shows which faces of an object are chosen; none if there is no object. */
	choose(id: string | null, runs: readonly (readonly [number, number])[]): void {
		this.chosen.show(this.objects.get(id), runs);
		this.redraw();
	}

	/** Towards the eye, in the coordinates of an object's mesh. */
	towardEye(id: string): Triple | null {
		const mesh = this.objects.get(id);
		if (mesh === undefined) return null;
		return this.camera.position.clone().sub(this.eye.orbit.target).transformDirection(mesh.matrixWorld.clone().invert()).toArray();
	}

	/** The way the eye looks, degrees to the right of -z. */
	get toward(): number {
		const { position } = this.camera;
		const { target } = this.eye.orbit;
		return MathUtils.radToDeg(Math.atan2(target.x - position.x, position.z - target.z));
	}

	/**
	 * Where a lamp over a point of the canvas stands, for what is looked at: behind the eye over the middle, and lower the nearer to the rim.
	 *
	 * @returns degrees to the right of -z, and above the horizon
	 */
	over(x: number, y: number): { turn: number; height: number } {
		const { width, height } = this.drawing.size;
		const aside = new Vector3((2 * x) / width - 1, 1 - (2 * y) / height, 0);
		const from = aside.setZ(Math.sqrt(Math.max(0.02, 1 - Math.min(1, aside.lengthSq())))).applyQuaternion(this.camera.quaternion).normalize();
		const degrees = (radians: number): number => Math.round(MathUtils.radToDeg(radians) * 10) / 10;
		return { turn: degrees(Math.atan2(from.x, -from.z)), height: degrees(Math.asin(Math.max(0, from.y))) };
	}

	/** Where something new is put: on what is looked at, m. */
	get spot(): Triple {
		const { x, y, z } = this.eye.orbit.target;
		return [x, this.objects.below(x, z, y, null) ?? 0, z];
	}

	/** How high an object would have to be placed to stand on what lies below it; null where there is nothing. */
	restingHeight(id: string): number | null {
		return this.objects.restingHeight(id);
	}

	/** Meshes that all else stands on, by name. */
	set grounds(names: ReadonlySet<string>) {
		this.objects.grounds = names;
	}

	sight(x: number, y: number): Sight {
		return this.within(x, (inside, wide) => this.eye.sight(inside, y, wide));
	}

	/** Looks at what it looks at from so many metres away. */
	from(metres: number): void {
		this.eye.from(metres);
		this.redraw();
	}

	/** Draws now, in a share of the resolution. */
	draw(share: number): void {
		this.drawing.draw(share);
	}

	/** Draws with the next frame. */
	redraw(): void {
		this.drawing.redraw();
	}

	geometry(name: string): Promise<BufferGeometry> {
		return this.objects.geometry(name);
	}

	/** What the sections of a mesh are called. */
	async sections(mesh: string): Promise<string[]> {
		return sectionsOf(await this.objects.geometry(mesh));
	}

	/** Another file took the place of a mesh. */
	forget(name: string): void {
		this.objects.forget(name);
	}

	/** The renderer goes to the next stage; what is this one's alone goes with it. */
	dispose(): void {
		this.walk.take(false);
		for (const part of [this.sky, this.compared, this.chosen, this.contact, this.drawing, this.multipass, this.eye, this.handles, this.painter, this.objects, this.wardrobe, this.ahead, this.sun]) part.dispose();
	}

	/** Looks through a point of the canvas: of two pictures side by side, through the one that it is in, as if that were the whole. */
	private within<T>(x: number, look: (x: number, wide: number) => T): T {
		if (this.comparison?.way !== 'beside') return look(x, 1);
		const { aspect } = this.camera;
		this.eye.shape(aspect / 2);
		const found = look((2 * x) % this.drawing.size.width, 2);
		this.eye.shape(aspect);
		return found;
	}

	/** What stands on the stage has changed. */
	private rearranged(): void {
		this.objects.follow();
		this.moved = true;
		this.reshade();
	}

	/** What throws shadows, or the sun, has moved: shadows reach over all that throws some, as far as it is near the eye. */
	private reshade(): void {
		const ball = this.objects.room(null).getBoundingSphere(new Sphere());
		const wide = ball.radius > SHADED;
		if (wide) ball.set(this.eye.orbit.target, SHADED);
		const radius = Math.max(LEAST_SHADED, ball.radius);
		const { camera } = this.sun.shadow;
		[camera.left, camera.right, camera.top, camera.bottom, camera.near, camera.far] = [-radius, radius, radius, -radius, radius, 5 * radius];
		camera.updateProjectionMatrix();
		this.sun.target.position.copy(ball.center);
		this.sun.position.copy(ball.center).addScaledVector(this.sky.sun, 3 * radius);
		// A texel is so large that a plane at a slant would lie in its own shade.
		this.sun.shadow.normalBias = (2.5 * 2 * radius) / SHADOW;
		this.sun.shadow.bias = -0.0004;
		this.shaded = wide ? ball.center.clone() : null;
		this.renderer.shadowMap.needsUpdate = true;
	}

	private shadeGround(): void {
		const box = this.objects.room(null);
		if (box.isEmpty()) return;
		const hidden = [...this.objects.values(), ...[...this.objects.pieces()].map((piece) => piece.mesh)].filter((mesh) => mesh.visible && !mesh.castShadow);
		const others = this.scene.children.filter((child) => child.visible && !(child instanceof Mesh));
		for (const one of [...hidden, ...others]) one.visible = false;
		const { needsUpdate } = this.renderer.shadowMap;
		this.renderer.shadowMap.needsUpdate = false;
		this.contact.compute(this.scene, box);
		this.renderer.shadowMap.needsUpdate = needsUpdate;
		for (const one of [...hidden, ...others]) one.visible = true;
	}

	/** The whole picture, or its left half with the numbers of before and its right half with those of now. */
	private render(target: WebGLRenderTarget): void {
		const { program, passes } = this.wardrobe;
		for (const one of this.wardrobe.programs()) one.uniforms.riltaForm!.value = this.wardrobe.shaped ? 1 : 0;
		this.wardrobe.rebase(this.camera.position);
		if (this.shaded !== null && this.shaded.distanceTo(this.eye.orbit.target) > SHADED / 4) this.reshade();
		// Coarse pictures, and those while something is dragged where drawing is slow, make do with what the ground was.
		if (this.moved && target === this.drawing.fine) {
			this.shadeGround();
			this.moved = false;
		}
		// Stations are read by their colours: nothing else has any.
		this.sky.backdrop.visible = this.sky.shown && this.wardrobe.lit;
		if (passes !== null) this.carry(passes, target.width, target.height);
		this.renderer.setRenderTarget(target);
		const { comparison } = this;
		if (program !== null && comparison !== null) {
			this.compared.draw(comparison, target, this.eye, (side) => this.wardrobe.as(comparison[side], comparison.owns, () => {
				this.wardrobe.rebase(this.camera.position);
				this.renderer.render(this.scene, this.camera);
			}));
			return;
		}
		if (program === null || this.before === null) {
			this.renderer.render(this.scene, this.camera);
			return;
		}
		const half = Math.round(target.width / 2);
		target.scissorTest = true;
		for (const [numbers, from, to] of [[this.before, 0, half], [null, half, target.width]] as const) {
			program.stand(numbers);
			target.scissor.set(from, 0, to - from, target.height);
			this.renderer.setRenderTarget(target);
			this.renderer.render(this.scene, this.camera);
		}
		target.scissorTest = false;
	}

	/** Runs the passes of a plan over a picture of so many pixels, and hands what they come to over to its end. */
	private carry({ plan, end }: Passes, width: number, height: number): void {
		const clock = end.uniforms[end.lowered.clock.uniform]!.value as number;
		const found = this.multipass.run(plan, width, height, clock, (material) => this.pictures.objectsIn(material));
		for (const [name, value] of Object.entries(found)) if (end.uniforms[name] !== undefined) end.uniforms[name].value = value;
	}

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
