import { Box3, BoxGeometry, BufferAttribute, ClampToEdgeWrapping, Color, GLSL3, LinearFilter, LinearMipmapLinearFilter, LinearSRGBColorSpace, Matrix4, Mesh, MirroredRepeatWrapping, NearestFilter, NearestMipmapNearestFilter, PerspectiveCamera, RawShaderMaterial, RepeatWrapping, Scene, Sphere, SRGBColorSpace, Vector3, WebGLRenderer, type BufferGeometry, type Object3D, type Texture, type Wrapping } from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { mergeGeometries } from 'three/examples/jsm/utils/BufferGeometryUtils.js';
import { TextureFiles } from '../maps/texturefiles';
import { BakedScene } from './baked';
import { fragment, inVariant, ticks, VERTEX, VIEWS, type Sidecar, type View } from './sidecar';
import { WgslDrawing } from './wgsl';

export type Manifest = { material: string; variant: string; profile: string; files: { path: string; meaning: string }[] };
/** What of a delivery is seen. */
export type As = 'glsl' | 'wgsl' | 'baked';

const FOLDER = 'delivery/';
const GROUND = new Color();
const GROUND_HEX = 0x24272b;
const WRAPS: Record<string, Wrapping> = { repeat: RepeatWrapping, edge: ClampToEdgeWrapping, mirror: MirroredRepeatWrapping };

async function fetched(path: string): Promise<Response> {
	const answer = await fetch(FOLDER + path);
	if (!answer.ok) throw new Error(`${path} is not in the delivery.`);
	return answer;
}

/** Plays a delivery: it knows nothing but its files. */
export class Player {
	readonly renderer: WebGLRenderer;
	readonly camera = new PerspectiveCamera(40, 1, 0.02, 200);
	readonly controls: OrbitControls;
	private readonly scene = new Scene();
	private readonly files: TextureFiles;
	private glsl: { told: Sidecar; mesh: Mesh<BufferGeometry, RawShaderMaterial> } | null = null;
	private wgsl: WgslDrawing | null = null;
	baked: BakedScene | null = null;
	/** Why something of it is not played. */
	readonly notes: string[] = [];
	/** Numbers as they are now, by their paths in the document. */
	private readonly now = new Map<string, number>();
	private variant = '';
	/** Where the code's mesh stands. */
	private readonly place = new Matrix4();
	/** Pictures that were drawn. */
	frames = 0;
	private frame = 0;
	private shown: As = 'baked';
	private view: View = 'lit';
	private stopped = false;
	private readonly started = performance.now();

	private constructor(canvas: HTMLCanvasElement, private readonly second: HTMLCanvasElement, readonly manifest: Manifest) {
		this.renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true });
		this.renderer.outputColorSpace = LinearSRGBColorSpace;
		this.files = new TextureFiles(this.renderer);
		this.controls = new OrbitControls(this.camera, canvas.parentElement ?? canvas);
		this.controls.addEventListener('change', () => this.draw());
	}

	/**
	 * @param canvas of WebGL
	 * @param second of WebGPU, over it
	 *
	 * @throws if the folder is no delivery, or what belongs to it is missing
	 */
	static async open(canvas: HTMLCanvasElement, second: HTMLCanvasElement): Promise<Player> {
		const manifest = (await (await fetched('manifest.json')).json()) as Manifest & { format: string };
		if (manifest.format !== 'rilta-manifest/1') throw new Error(`manifest.json: expected the format rilta-manifest/1, found ${manifest.format}.`);
		const player = new Player(canvas, second, manifest);
		await player.load();
		return player;
	}

	get plays(): As[] {
		return [...(this.glsl === null ? [] : (['glsl'] as const)), ...(this.wgsl === null ? [] : (['wgsl'] as const)), ...(this.baked === null ? [] : (['baked'] as const))];
	}

	/** What is told of the code. */
	get sidecar(): Sidecar | null {
		return this.glsl?.told ?? this.wgsl?.told ?? null;
	}

	private async load(): Promise<void> {
		const glb = this.manifest.files.find((one) => one.path.endsWith('.glb'));
		const box = new Box3();
		let geometry: BufferGeometry = new BoxGeometry(1, 1, 1);
		if (glb !== undefined) {
			this.baked = await BakedScene.read(await (await fetched(glb.path)).arrayBuffer(), glb.path, this.renderer.capabilities.getMaxAnisotropy());
			this.scene.add(this.baked.root);
			box.setFromObject(this.baked.root);
		}
		const code = await Promise.all(['glsl', 'wgsl'].map((language) => this.code(language)));
		if (code.some((one) => one !== null)) {
			if (this.baked !== null) {
				// Its sections wear one material, which may tell them apart by their number.
				for (const [i, one] of this.baked.meshes.entries()) one.geometry.setAttribute('_section', new BufferAttribute(new Float32Array(one.geometry.getAttribute('position').count).fill(i), 1));
				geometry = mergeGeometries(this.baked.meshes.map((one) => one.geometry));
			}
			geometry.computeBoundingBox();
			box.union(geometry.boundingBox!);
		}
		const [glsl, wgsl] = code;
		if (glsl != null) {
			this.glsl = { told: glsl.told, mesh: new Mesh(geometry, await this.material(glsl.told, glsl.text)) };
			this.glsl.mesh.matrixAutoUpdate = false;
			this.scene.add(this.glsl.mesh);
		}
		if (wgsl != null) {
			// Whatever this browser cannot run is no reason not to play the rest.
			this.wgsl = await WgslDrawing.open(this.second, wgsl.told, wgsl.text, geometry, async (path) => (await fetched(path)).arrayBuffer()).catch((error: unknown) => (this.notes.push(error instanceof Error ? error.message : String(error)), null));
			if (this.wgsl === null && this.notes.length === 0) this.notes.push('This browser has no WebGPU: the WGSL of it is not played.');
		}
		if (this.plays.length === 0) throw new Error(this.notes[0] ?? 'There is neither GLSL ES nor WGSL nor a GLB file in this delivery: it has nothing that this page can play.');
		const sphere = box.getBoundingSphere(new Sphere());
		this.controls.target.copy(sphere.center);
		this.camera.far = Math.max(200, 20 * sphere.radius);
		this.camera.position.copy(sphere.center).add(new Vector3(0.55, 0.4, 0.75).normalize().multiplyScalar(3.4 * sphere.radius));
		this.controls.update();
		await this.wear('');
		this.show(this.plays[0]!, 'lit');
	}

	/** Code of the delivery in a language, with what is told of it; null if there is none. */
	private async code(language: string): Promise<{ told: Sidecar; text: string } | null> {
		const told = this.manifest.files.find((one) => one.path.endsWith(`.${language}.json`));
		if (told === undefined) return null;
		const sidecar = (await (await fetched(told.path)).json()) as Sidecar;
		return sidecar.language === language ? { told: sidecar, text: await (await fetched(told.path.replace(/\.json$/, ''))).text() } : null;
	}

	private async material(told: Sidecar, code: string): Promise<RawShaderMaterial> {
		const uniforms: Record<string, { value: unknown }> = { objectFrame: { value: new Matrix4() }, eye: { value: new Vector3() }, view: { value: 0 } };
		for (const one of told.numbers) uniforms[one.name] = { value: one.value };
		for (const one of told.textures) {
			const file = one.layers[0]?.file;
			if (file == null) throw new Error(`No file of ${one.name} is in the delivery: its profile brings code without maps.`);
			const path = file.replace(/^\.\.\//, '');
			const texture = await this.files.read(await (await fetched(path)).arrayBuffer(), path);
			const { filter, mips, wrapU, wrapV, anisotropy } = one.sampling;
			[texture.wrapS, texture.wrapT] = [WRAPS[wrapU] ?? RepeatWrapping, WRAPS[wrapV] ?? RepeatWrapping];
			texture.magFilter = filter === 'sharp' ? NearestFilter : LinearFilter;
			texture.minFilter = mips ? (filter === 'sharp' ? NearestMipmapNearestFilter : LinearMipmapLinearFilter) : filter === 'sharp' ? NearestFilter : LinearFilter;
			texture.anisotropy = anisotropy;
			// Files without a word about it are told by the sidecar.
			if (!path.endsWith('.ktx2')) {
				if (one.encoding === 'colour') texture.colorSpace = SRGBColorSpace;
				texture.generateMipmaps = mips;
			}
			uniforms[one.name] = { value: texture };
		}
		return new RawShaderMaterial({ glslVersion: GLSL3, vertexShader: VERTEX, fragmentShader: fragment(code, told), uniforms, transparent: told.outputs.some((one) => one.name === 'coverage') });
	}

	/** The variants that what is played can be switched to. */
	variants(as: As): { id: string; name: string }[] {
		return as === 'baked' ? (this.baked?.variants ?? []).map((name) => ({ id: name, name })) : (this.sidecar?.variants.filter((one) => !one.otherCode) ?? []);
	}

	show(as: As, view: View): void {
		[this.shown, this.view] = [as, view];
		if (this.glsl !== null) this.glsl.mesh.visible = as === 'glsl';
		if (this.baked !== null) {
			this.baked.root.visible = as === 'baked';
			this.baked.show(view);
		}
		this.second.style.visibility = as === 'wgsl' ? 'visible' : 'hidden';
		this.draw();
	}

	/** Another value of what may change while it runs, by its path in the document. */
	set(path: string, value: number): void {
		this.now.set(path, value);
		this.draw();
	}

	/** Everything as a variant has it: its id, or its name for what was baked. */
	async wear(variant: string): Promise<void> {
		this.now.clear();
		this.variant = variant;
		await this.baked?.wear(variant);
		this.draw();
	}

	/** A number of the code as it is now. */
	private number(one: Sidecar['numbers'][number]): number {
		const each = ticks(one);
		return each !== null ? (this.stopped ? 0 : Math.floor((each * (performance.now() - this.started)) / 1000)) : (this.now.get(one.path ?? '') ?? inVariant(one, this.variant));
	}

	/** Seen as somebody else sees it, and where the code's mesh stands there, when the clock begins: matrices as three has them. */
	look(projection: number[], view: number[], width: number, height: number, place: number[]): void {
		this.controls.enabled = false;
		this.stopped = true;
		this.place.fromArray(place);
		if (this.baked !== null) {
			this.baked.root.matrixAutoUpdate = false;
			this.baked.root.matrix.copy(this.place);
		}
		this.renderer.setPixelRatio(1);
		this.renderer.setSize(width, height, false);
		[this.second.width, this.second.height] = [width, height];
		this.camera.projectionMatrix.fromArray(projection);
		this.camera.projectionMatrixInverse.copy(this.camera.projectionMatrix).invert();
		this.camera.matrixWorldInverse.fromArray(view);
		this.camera.matrixWorld.copy(this.camera.matrixWorldInverse).invert();
		this.camera.matrixAutoUpdate = this.camera.matrixWorldAutoUpdate = false;
		this.render();
	}

	resize(width: number, height: number): void {
		this.renderer.setPixelRatio(devicePixelRatio);
		this.renderer.setSize(width, height, false);
		[this.second.width, this.second.height] = [Math.max(1, Math.round(width * devicePixelRatio)), Math.max(1, Math.round(height * devicePixelRatio))];
		this.camera.aspect = width / Math.max(1, height);
		this.camera.updateProjectionMatrix();
		this.draw();
	}

	/** At the next opportunity; again and again where something runs with the clock. */
	draw(): void {
		cancelAnimationFrame(this.frame);
		this.frame = requestAnimationFrame(() => {
			this.render();
			if (!this.stopped && this.shown !== 'baked' && this.sidecar?.numbers.some((one) => ticks(one) !== null) === true) this.draw();
		});
	}

	render(): void {
		const view = VIEWS.findIndex((one) => one.value === this.view);
		if (this.shown === 'wgsl' && this.wgsl !== null) {
			this.camera.updateMatrixWorld();
			this.wgsl.draw(this.camera, this.place, view, this.wgsl.told.numbers.map((one) => this.number(one)), GROUND_HEX);
			this.frames += 1;
			return;
		}
		if (this.glsl !== null) {
			const { mesh, told } = this.glsl;
			const { uniforms } = mesh.material;
			mesh.matrix.copy(this.place);
			mesh.updateMatrixWorld(true);
			(uniforms.objectFrame!.value as Matrix4).copy(this.place);
			(uniforms.eye!.value as Vector3).setFromMatrixPosition(this.camera.matrixWorld);
			uniforms.view!.value = view;
			for (const one of told.numbers) uniforms[one.name]!.value = this.number(one);
		}
		// What the code tells is written as it is; three puts its own light on the curve.
		const own = this.shown === 'baked' && this.view === 'lit' ? SRGBColorSpace : LinearSRGBColorSpace;
		this.renderer.outputColorSpace = own;
		this.renderer.setClearColor(GROUND.setHex(GROUND_HEX, own));
		this.renderer.render(this.scene, this.camera);
		this.frames += 1;
	}

	/** What is seen, four bytes a pixel, rows from below. */
	async pixels(): Promise<Uint8Array> {
		if (this.shown === 'wgsl' && this.wgsl !== null) return this.wgsl.pixels();
		const gl = this.renderer.getContext();
		const found = new Uint8Array(4 * gl.drawingBufferWidth * gl.drawingBufferHeight);
		gl.readPixels(0, 0, gl.drawingBufferWidth, gl.drawingBufferHeight, gl.RGBA, gl.UNSIGNED_BYTE, found);
		return found;
	}

	/** The sun and the sky of baked materials, which three lights. */
	light(lights: Object3D[], environment: Texture): void {
		this.scene.add(...lights);
		this.scene.environment = environment;
		this.draw();
	}
}
