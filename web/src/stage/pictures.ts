import { FloatType, Mesh, NearestFilter, SRGBColorSpace, WebGLRenderTarget, type Camera, type DirectionalLight, type Material, type Object3D, type Scene, type WebGLRenderer } from 'three';
import type { Difference } from '../state/comparing';
import type { Compared, TwoSides } from './compared';
import type { Contact } from './contact';
import type { Eye, Lookout } from './eye';
import { screen } from './frames';
import type { StageObjects } from './objects';
import { drawInto } from './readback';
import type { Sky } from './sky';
import type { Side, Wardrobe } from './wardrobe';

/** Pixels of the picture that shares are measured in. */
const MEASURED = [120, 76] as const;
/** Share of the resolution in which numbers are read. */
const READ = 0.25;
/** Share of the resolution in which two pictures are compared. */
const COMPARED = 0.5;
/** Metres up where no ground is. */
const NOWHERE = 1e7;

/** What pictures are made of. */
export type Parts = {
	renderer: WebGLRenderer; scene: Scene; eye: Eye; sun: DirectionalLight; sky: Sky; contact: Contact; objects: StageObjects; wardrobe: Wardrobe; compared: Compared;
	/** Pixels of the canvas. */
	size: () => { width: number; height: number };
};

/** Pictures of the stage that are not its own: to be measured, to be kept, or of something beside it. */
export class Pictures {
	constructor(private readonly parts: Parts) {}

	/** How different the two look that are compared, over what is seen of all that wears them; null if nothing of it is seen. */
	difference(comparison: TwoSides): Difference | null {
		const { width, height } = this.parts.size();
		const size = [width, height].map((side) => Math.max(1, Math.round(side * COMPARED))) as [number, number];
		const others = [...this.parts.objects.pieces()].filter(({ mesh }) => mesh.visible && !comparison.owns(mesh.userData.wears as number | null)).map(({ mesh }) => mesh);
		for (const mesh of others) mesh.visible = false;
		const [alpha, sky] = [this.parts.renderer.getClearAlpha(), this.parts.sky.backdrop.visible];
		this.parts.sky.backdrop.visible = false;
		const found = this.parts.compared.measure(size, (side) => this.parts.wardrobe.as(comparison[side], comparison.owns, () => {
			this.parts.wardrobe.rebase(this.parts.eye.camera.position);
			this.parts.renderer.setClearAlpha(0);
			this.parts.renderer.clear();
			this.objectsAlone();
		}));
		this.parts.renderer.setClearAlpha(alpha);
		this.parts.sky.backdrop.visible = sky;
		for (const mesh of others) mesh.visible = true;
		return found;
	}

	/**
	 * Draws the stage from a place into a canvas of its own size, with something in place of the open material.
	 *
	 * @param side null for the open material as it is
	 */
	from(side: Side | null, owns: (wears: number | null) => boolean, place: Lookout | null, canvas: HTMLCanvasElement): void {
		const [here, { aspect }] = [this.parts.eye.place, this.parts.eye.camera];
		if (place !== null) this.parts.eye.look(place);
		this.parts.eye.shape(canvas.width / canvas.height);
		this.parts.sky.backdrop.visible = this.parts.sky.shown && this.parts.wardrobe.lit;
		drawInto(canvas, this.parts.renderer, () => this.parts.wardrobe.as(side, owns, () => {
			this.parts.wardrobe.rebase(this.parts.eye.camera.position);
			this.parts.renderer.render(this.parts.scene, this.parts.eye.camera);
		}), screen());
		this.parts.eye.shape(aspect);
		if (place !== null) this.parts.eye.look(here);
	}

	/**
	 * The mean of a picture over all that is seen of the objects: red, green and blue, 0…1.
	 *
	 * @param encoded whether the numbers that the screen would show are meant, and not the light
	 */
	mean(picture: string, encoded: boolean): [number, number, number] {
		const [width, height] = MEASURED;
		const pixels = new Uint8Array(width * height * 4);
		this.read(picture, new WebGLRenderTarget(width, height, encoded ? { colorSpace: SRGBColorSpace } : {}), pixels);
		const sum: [number, number, number] = [0, 0, 0];
		let count = 0;
		for (let i = 0; i < pixels.length; i += 4) {
			if (pixels[i + 3]! < 128) continue;
			count += 1;
			for (const c of [0, 1, 2] as const) sum[c] += pixels[i + c]! / 255;
		}
		return count === 0 ? [0, 0, 0] : (sum.map((one) => one / count) as [number, number, number]);
	}

	/** The colour of what is lit under a point of the canvas, 0…255, as the screen shows it; null where nothing stands. */
	colourAt(x: number, y: number): number[] | null {
		if (this.parts.eye.at(x, y, this.parts.objects.values()) === undefined) return null;
		const { width, height } = this.parts.size();
		// As many pixels as derivatives are taken over, seen as in the whole picture.
		const target = new WebGLRenderTarget(2, 2, { colorSpace: SRGBColorSpace });
		const pixels = new Uint8Array(16);
		this.parts.eye.camera.setViewOffset(width, height, Math.floor(x), Math.floor(y), 2, 2);
		this.parts.wardrobe.rebase(this.parts.eye.camera.position);
		this.parts.renderer.setRenderTarget(target);
		this.objectsAlone();
		this.parts.renderer.readRenderTargetPixels(target, 0, 0, 2, 2, pixels);
		this.parts.renderer.setRenderTarget(null);
		this.parts.eye.camera.clearViewOffset();
		target.dispose();
		// Rows are counted from below.
		return [...pixels.subarray(8, 11)];
	}

	/** The numbers of a picture that is not for the eye: four for each pixel, rows from below, the last 1 where there is an object; as they are, not clamped. */
	numbers(picture: string): { width: number; height: number; values: Float32Array } {
		const [width, height] = [this.parts.size().width, this.parts.size().height].map((side) => Math.max(1, Math.round(side * READ))) as [number, number];
		const values = new Float32Array(width * height * 4);
		this.read(picture, new WebGLRenderTarget(width, height, { type: FloatType, minFilter: NearestFilter, magFilter: NearestFilter }), values);
		return { width, height, values };
	}

	/** Draws something beside the stage, in its light and in nothing's shadow, into a canvas. */
	beside(what: Object3D, canvas: HTMLCanvasElement, camera: Camera): void {
		const { needsUpdate } = this.parts.renderer.shadowMap;
		const floor = this.parts.contact.uniforms.riltaContactFloor!;
		const ground = floor.value as number;
		const others = this.parts.scene.children.filter((child) => child.visible && child !== this.parts.sun);
		for (const one of others) one.visible = false;
		this.parts.renderer.shadowMap.needsUpdate = false;
		floor.value = NOWHERE;
		this.parts.scene.add(what);
		drawInto(canvas, this.parts.renderer, () => this.parts.renderer.render(this.parts.scene, camera));
		this.parts.scene.remove(what);
		floor.value = ground;
		for (const one of others) one.visible = true;
		this.parts.renderer.shadowMap.needsUpdate = needsUpdate;
	}

	/** Draws a picture of the objects alone into a target, which is gone after it was read. */
	private read(picture: string, target: WebGLRenderTarget, into: Uint8Array | Float32Array): void {
		const alpha = this.parts.renderer.getClearAlpha();
		this.parts.wardrobe.apart(picture, () => {
			this.parts.wardrobe.rebase(this.parts.eye.camera.position);
			this.parts.renderer.setClearAlpha(0);
			this.parts.renderer.setRenderTarget(target);
			this.parts.renderer.clear();
			this.objectsAlone();
			this.parts.renderer.readRenderTargetPixels(target, 0, 0, target.width, target.height, into);
			this.parts.renderer.setRenderTarget(null);
			this.parts.renderer.setClearAlpha(alpha);
		});
		target.dispose();
	}

	/** Draws the objects, and nothing around them, into what is set. */
	private objectsAlone(): void {
		const { background } = this.parts.scene;
		const handles = this.parts.scene.children.filter((child) => child.visible && child !== this.parts.sun && !(child instanceof Mesh));
		for (const child of handles) child.visible = false;
		this.parts.scene.background = null;
		this.parts.renderer.render(this.parts.scene, this.parts.eye.camera);
		this.parts.scene.background = background;
		for (const child of handles) child.visible = true;
	}

	/** The same with one material for all of them, over what is there. */
	objectsIn(material: Material): void {
		this.parts.scene.overrideMaterial = material;
		this.parts.renderer.autoClear = false;
		this.objectsAlone();
		this.parts.renderer.autoClear = true;
		this.parts.scene.overrideMaterial = null;
	}
}
