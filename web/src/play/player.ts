import { BoxGeometry, BufferAttribute, ClampToEdgeWrapping, Color, GLSL3, LinearFilter, LinearMipmapLinearFilter, LinearSRGBColorSpace, Matrix4, Mesh, MeshStandardMaterial, MirroredRepeatWrapping, NearestFilter, NearestMipmapNearestFilter, PerspectiveCamera, RawShaderMaterial, RepeatWrapping, Scene, SRGBColorSpace, Vector3, WebGLRenderer, type BufferGeometry, type Object3D, type Texture, type Wrapping } from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { mergeGeometries } from 'three/examples/jsm/utils/BufferGeometryUtils.js';
import { TextureFiles } from '../maps/texturefiles';
import { clocks, fragment, inVariant, VERTEX, VIEWS, type Sidecar, type View } from './sidecar';

export type Manifest = { material: string; variant: string; profile: string; files: { path: string; meaning: string }[] };

const FOLDER = 'delivery/';
const GROUND = new Color();
const WRAPS: Record<string, Wrapping> = { repeat: RepeatWrapping, clamp: ClampToEdgeWrapping, mirror: MirroredRepeatWrapping };

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
	private mesh: Mesh<BufferGeometry, RawShaderMaterial> | null = null;
	/** As glTF has it: what was baked, on its mesh. */
	private baked: { mesh: Mesh; maps: Record<string, { texture: Texture; channel: number; curved: boolean } | null>; unlit: RawShaderMaterial } | null = null;
	sidecar: Sidecar | null = null;
	/** Pictures that were drawn. */
	frames = 0;
	private frame = 0;
	private shown: 'shader' | 'baked' = 'shader';
	private view: View = 'lit';
	private stopped = false;
	private readonly started = performance.now();

	private constructor(canvas: HTMLCanvasElement, readonly manifest: Manifest) {
		this.renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true });
		this.renderer.outputColorSpace = LinearSRGBColorSpace;
		this.files = new TextureFiles(this.renderer);
		this.camera.position.set(1.6, 1.2, 2);
		this.controls = new OrbitControls(this.camera, canvas);
		this.controls.addEventListener('change', () => this.draw());
	}

	/** @throws if the folder is no delivery, or what belongs to it is missing */
	static async open(canvas: HTMLCanvasElement): Promise<Player> {
		const manifest = (await (await fetched('manifest.json')).json()) as Manifest & { format: string };
		if (manifest.format !== 'rilta-manifest/1') throw new Error(`manifest.json: expected the format rilta-manifest/1, found ${manifest.format}.`);
		const player = new Player(canvas, manifest);
		await player.load();
		return player;
	}

	get plays(): { shader: boolean; baked: boolean } {
		return { shader: this.mesh !== null, baked: this.baked !== null };
	}

	private async load(): Promise<void> {
		const glb = this.manifest.files.find((one) => one.path.endsWith('.glb'));
		let geometry: BufferGeometry = new BoxGeometry(1, 1, 1);
		if (glb !== undefined) {
			const { scene } = await new GLTFLoader().parseAsync(await (await fetched(glb.path)).arrayBuffer(), '');
			const found: Mesh[] = [];
			scene.traverse((one: Object3D) => one instanceof Mesh && found.push(one));
			if (found[0] === undefined) throw new Error(`There is no mesh in ${glb.path}.`);
			// Its sections wear one material, which may tell them apart by their number.
			for (const [i, one] of found.entries()) one.geometry.setAttribute('_section', new BufferAttribute(new Float32Array(one.geometry.getAttribute('position').count).fill(i), 1));
			geometry = mergeGeometries(found.map((one) => one.geometry));
			const mesh = new Mesh(geometry, found[0].material);
			this.baked = this.prepared(mesh);
			this.scene.add(mesh);
		}
		const told = this.manifest.files.find((one) => one.path.endsWith('.glsl.json'));
		if (told !== undefined) {
			const sidecar = (await (await fetched(told.path)).json()) as Sidecar;
			if (sidecar.language === 'glsl') {
				this.sidecar = sidecar;
				this.mesh = new Mesh(geometry, await this.material(sidecar, await (await fetched(told.path.replace(/\.json$/, ''))).text()));
				this.scene.add(this.mesh);
			}
		}
		if (this.mesh === null && this.baked === null) throw new Error('There is neither GLSL ES nor a GLB file in this delivery: it has nothing that this page can play.');
		geometry.computeBoundingSphere();
		const sphere = geometry.boundingSphere!;
		this.controls.target.copy(sphere.center);
		this.camera.position.copy(sphere.center).add(new Vector3(0.55, 0.4, 0.75).normalize().multiplyScalar(3.4 * sphere.radius));
		this.controls.update();
		this.show(this.mesh !== null ? 'shader' : 'baked', 'lit');
	}

	private async material(told: Sidecar, code: string): Promise<RawShaderMaterial> {
		const uniforms: Record<string, { value: unknown }> = { objectFrame: { value: new Matrix4() }, eye: { value: new Vector3() }, view: { value: 0 } };
		for (const one of told.numbers) uniforms[one.name] = { value: one.value };
		const curve = new Set<Texture>();
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
			curve.add(texture);
			uniforms[one.name] = { value: texture };
		}
		return new RawShaderMaterial({ glslVersion: GLSL3, vertexShader: VERTEX, fragmentShader: fragment(code, told), uniforms, transparent: told.outputs.some((one) => one.name === 'coverage') });
	}

	/** What of a baked material is seen without light. */
	private prepared(mesh: Mesh): NonNullable<Player['baked']> {
		const material = mesh.material as MeshStandardMaterial;
		const of = (texture: Texture | null, channel: number, curved: boolean) => (texture === null ? null : { texture, channel, curved });
		const maps = { baseColour: of(material.map, -1, true), roughness: of(material.roughnessMap, 1, false), metallic: of(material.metalnessMap, 2, false), occlusion: of(material.aoMap, 0, false), normal: of(material.normalMap, -1, false), emission: of(material.emissiveMap, -1, true) };
		const set = material.map?.channel ?? 0;
		const unlit = new RawShaderMaterial({
			glslVersion: GLSL3,
			vertexShader: `in vec3 position; in vec2 ${set === 0 ? 'uv' : `uv${set}`}; uniform mat4 modelMatrix, viewMatrix, projectionMatrix; uniform mat3 laid; out vec2 at; void main() { at = (laid * vec3(${set === 0 ? 'uv' : `uv${set}`}, 1.0)).xy; gl_Position = projectionMatrix * viewMatrix * modelMatrix * vec4(position, 1.0); }`,
			fragmentShader: 'precision highp float; uniform sampler2D map; uniform int channel; uniform bool curved; in vec2 at; out vec4 seen; vec3 onCurve(vec3 c) { return mix(c * 12.92, 1.055 * pow(c, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, c)); } void main() { vec4 texel = texture(map, at); vec3 c = channel < 0 ? texel.rgb : vec3(texel[channel]); seen = vec4(curved ? onCurve(c) : c, 1.0); }',
			uniforms: { map: { value: null }, channel: { value: -1 }, curved: { value: false }, laid: { value: null } }
		});
		return { mesh, maps, unlit };
	}

	show(as: 'shader' | 'baked', view: View): void {
		[this.shown, this.view] = [as, view];
		if (this.mesh !== null) this.mesh.visible = as === 'shader';
		if (this.baked !== null) {
			const { mesh, maps, unlit } = this.baked;
			mesh.visible = as === 'baked';
			const map = maps[view] ?? null;
			(mesh as Mesh & { own?: Mesh['material'] }).own ??= mesh.material;
			if (view !== 'lit' && map !== null) {
				map.texture.updateMatrix();
				Object.assign(unlit.uniforms.map!, { value: map.texture });
				Object.assign(unlit.uniforms.channel!, { value: map.channel });
				Object.assign(unlit.uniforms.curved!, { value: map.curved });
				Object.assign(unlit.uniforms.laid!, { value: map.texture.matrix });
				mesh.material = unlit;
			} else mesh.material = (mesh as Mesh & { own?: Mesh['material'] }).own!;
		}
		this.draw();
	}

	/** Another value of what may change while it runs. */
	set(name: string, value: number): void {
		if (this.mesh !== null) this.mesh.material.uniforms[name]!.value = value;
		this.draw();
	}

	/** All numbers as a variant has them. */
	wear(variant: string): void {
		for (const one of this.sidecar?.numbers ?? []) if (this.mesh !== null) this.mesh.material.uniforms[one.name]!.value = inVariant(one, variant);
		this.draw();
	}

	/** Seen as somebody else sees it, and where it stands there, when the clock begins: matrices as three has them. */
	look(projection: number[], view: number[], width: number, height: number, place: number[]): void {
		this.controls.enabled = false;
		this.stopped = true;
		for (const one of [this.mesh, this.baked?.mesh]) {
			if (one == null) continue;
			one.matrixAutoUpdate = false;
			one.matrix.fromArray(place);
		}
		this.renderer.setPixelRatio(1);
		this.renderer.setSize(width, height, false);
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
		this.camera.aspect = width / Math.max(1, height);
		this.camera.updateProjectionMatrix();
		this.draw();
	}

	/** At the next opportunity; again and again where something runs with the clock. */
	draw(): void {
		cancelAnimationFrame(this.frame);
		this.frame = requestAnimationFrame(() => {
			this.render();
			if (!this.stopped && this.shown === 'shader' && this.sidecar !== null && clocks(this.sidecar).length > 0) this.draw();
		});
	}

	render(): void {
		if (this.mesh !== null) {
			const { uniforms } = this.mesh.material;
			this.mesh.updateMatrixWorld(true);
			(uniforms.objectFrame!.value as Matrix4).copy(this.mesh.matrixWorld);
			(uniforms.eye!.value as Vector3).setFromMatrixPosition(this.camera.matrixWorld);
			uniforms.view!.value = VIEWS.findIndex((one) => one.value === this.view);
			for (const one of this.sidecar === null ? [] : clocks(this.sidecar)) uniforms[one.name]!.value = this.stopped ? 0 : (performance.now() - this.started) / 1000;
		}
		// What the code tells is written as it is; three puts its own light on the curve.
		const own = this.shown === 'baked' && this.view === 'lit' ? SRGBColorSpace : LinearSRGBColorSpace;
		this.renderer.outputColorSpace = own;
		this.renderer.setClearColor(GROUND.setHex(0x24272b, own));
		this.renderer.render(this.scene, this.camera);
		this.frames += 1;
	}

	/** The sun and the sky of baked materials, which three lights. */
	light(lights: Object3D[], environment: Texture): void {
		this.scene.add(...lights);
		this.scene.environment = environment;
		this.draw();
	}
}
