import { Mesh, type Camera, type DirectionalLight, type Material, type Scene, type WebGLRenderTarget, type WebGLRenderer } from 'three';
import { behind } from './meshes';
import type { FrameOf, StageObjects } from './objects';
import type { Program } from './program';

/** Has programs compiled ahead of their use. */
export class Ahead {
	private readonly warmed = new WeakSet<Program>();
	/** One triangle behind the eye. */
	private readonly scrap = new Mesh(behind(undefined));

	/** @param current the program that objects are drawn with */
	constructor(private readonly renderer: WebGLRenderer, private readonly scene: Scene, private readonly camera: Camera, private readonly sun: DirectionalLight, private readonly objects: StageObjects, frameOf: FrameOf, private readonly current: () => Program | null) {
		this.scrap.frustumCulled = false;
		this.scrap.receiveShadow = true;
		this.scrap.onBeforeRender = (_r, _s, camera, _g, material) => {
			// Wherever the eye is.
			this.scrap.matrixWorld.copy(camera.matrixWorld);
			frameOf(material, this.scrap, camera);
		};
		this.scrap.matrixWorldAutoUpdate = false;
	}

	/**
	 * Drivers finish code only when something is drawn with it: a triangle that lies behind the eye is, into a picture that stands there.
	 *
	 * @param target of the kind that it will draw into
	 */
	async warm(program: Program, target: WebGLRenderTarget): Promise<void> {
		if (program === this.current() || this.warmed.has(program)) return;
		this.warmed.add(program);
		const like = await this.objects.anyGeometry();
		if (like !== null && this.scrap.geometry.getAttribute('rilta_SECTION') === undefined) this.scrap.geometry = behind(like);
		const material = program.litFor('');
		this.scrap.material = material;
		this.renderer.setRenderTarget(target);
		const compiled = this.renderer.compileAsync(this.scrap, this.camera, this.scene);
		// The others are of the same code, but each is prepared for it.
		for (const { key } of this.objects.pieces()) {
			this.scrap.material = program.litFor(key);
			this.renderer.compile(this.scrap, this.camera, this.scene);
		}
		this.renderer.setRenderTarget(null);
		await compiled;
		if (program !== this.current()) this.draw(material, target);
	}

	dispose(): void {
		this.scrap.geometry.dispose();
	}

	private draw(material: Material, target: WebGLRenderTarget): void {
		const { background } = this.scene;
		const shown = this.scene.children.filter((child) => child.visible && child !== this.sun);
		for (const child of shown) child.visible = false;
		this.scrap.material = material;
		this.scene.add(this.scrap);
		this.scene.background = null;
		this.renderer.autoClear = false;
		this.renderer.setRenderTarget(target);
		this.renderer.render(this.scene, this.camera);
		this.renderer.setRenderTarget(null);
		this.renderer.autoClear = true;
		this.scene.background = background;
		this.scene.remove(this.scrap);
		for (const child of shown) child.visible = true;
	}
}
