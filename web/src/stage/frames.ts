import { Camera, Mesh, ShaderMaterial, SRGBColorSpace, Vector2, WebGLRenderTarget, type WebGLRenderer } from 'three';
import { covering } from './meshes';

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
const BY_PASSES = 1.2;
/** Share of the resolution before anything was measured. */
const UNKNOWN = 0.5;
/** Milliseconds of rest before the fine picture is drawn. */
const REST = 180;

/** What a frame shows, and how. */
export type Drawing = {
	/** Whether there is anything to be seen. */
	ready: () => boolean;
	/** Whether all that is seen is as it will be: until then a fine picture would be drawn for nothing. */
	complete: () => boolean;
	/** How many taps are drawn pass by pass; null where a program draws the whole. */
	passTaps: () => number | null;
	/** The share of the resolution that there is room for. */
	room: (width: number, height: number) => number;
	/** Draws into a target. */
	render: (target: WebGLRenderTarget) => void;
};

/** When a frame is drawn, and in which share of the resolution: what moves coarsely where a full frame takes long, what rests finely. */
export class Frames {
	size = { width: 1, height: 1 };
	/** Share of the full resolution in which the last frame was drawn. */
	lastRatio = 1;
	/** Frames drawn so far. */
	count = 0;
	/** A fine picture was drawn. */
	onPicture: () => void = () => {};
	/** Pictures of all sizes are drawn into targets of one kind, so that no size needs code of its own, and then over the canvas. */
	readonly fine = screen();
	readonly coarse = screen();
	/** Milliseconds that a frame takes at full resolution, as last measured; and one that is drawn pass by pass, for each of its taps. */
	private cost = 0;
	private costByPasses = 0;
	private fresh = true;
	private waiting = 0;
	private refining = 0;
	private coming = 0;
	/** When what came by itself may be drawn. */
	private free = 0;
	private readonly watchers: (() => void)[] = [];
	private readonly drawn = new Vector2();
	private readonly pixel = new Uint8Array(4);
	private readonly flat = new Camera();
	private readonly over = new Mesh(covering(), new ShaderMaterial({
		uniforms: { picture: { value: null } },
		depthTest: false,
		depthWrite: false,
		vertexShader: 'varying vec2 at; void main() { at = 0.5 * position.xy + 0.5; gl_Position = vec4(position.xy, 0.0, 1.0); }',
		// As it is: it was made for the screen.
		fragmentShader: 'uniform sampler2D picture; varying vec2 at; void main() { gl_FragColor = texture2D(picture, at); }'
	}));

	constructor(private readonly renderer: WebGLRenderer, private readonly drawing: Drawing) {
		this.over.frustumCulled = false;
	}

	/** How many pixels the full resolution has: where a point of the page is less than one of the screen, more would be seen by nobody. */
	get pixels(): { width: number; height: number } {
		const density = Math.min(1, window.devicePixelRatio);
		return { width: this.size.width * density, height: this.size.height * density };
	}

	/** Whether a full frame takes longer than what moves can wait for. */
	get slow(): boolean {
		return this.cost > SLOW;
	}

	/** Whether nothing is going to be drawn as things are. */
	get rests(): boolean {
		return this.waiting === 0 && this.coming === 0 && this.refining === 0;
	}

	/** The first frame of a program compiles; that is no measure. */
	renew(): void {
		this.fresh = true;
	}

	/** Answers when something has been drawn; soon, if nothing is to be. */
	next(): Promise<void> {
		return new Promise((resolve) => {
			const late = setTimeout(resolve, LATE);
			this.watchers.push(() => { clearTimeout(late); resolve(); });
		});
	}

	/** Share of the resolution in which so many taps are drawn pass by pass while their code is awaited. */
	firstShare(taps: number): number {
		return bearable(FIRST_SHARES, taps * (this.costByPasses || BY_PASSES * this.cost), FIRST);
	}

	/**
	 * Draws with the next frame. Where a full frame takes long, what moves is drawn coarsely first and finely
	 * as soon as it rests.
	 */
	redraw(): void {
		this.still();
		if (this.waiting !== 0 || !this.drawing.ready()) return;
		this.waiting = requestAnimationFrame(() => {
			this.waiting = 0;
			const taps = this.drawing.passTaps();
			// How long the first frame takes nobody knows; better soon than sharp.
			if (taps !== null) {
				// It is drawn finely by the code that comes; if none does, pass by pass as well.
				this.draw(this.firstShare(taps));
				this.refineIn(OVERDUE);
				return;
			}
			const coarse = this.cost > SLOW || this.cost === 0;
			this.draw(!coarse ? 1 : this.cost === 0 ? UNKNOWN : bearable(SHARES, this.cost, SLOW));
			if (coarse) this.refineIn(REST);
		});
	}

	/** Draws what came by itself: where that takes long, not before the last picture has stood for twice as long as it took, so that whoever works is heard in between. */
	later(): void {
		if (!this.slow) return this.redraw();
		// It is drawn coarsely first: what was never drawn with takes long enough in that.
		this.still();
		if (this.coming === 0) this.coming = window.setTimeout(() => { this.coming = 0; this.redraw(); }, Math.max(0, this.free - performance.now()));
	}

	/** Has the fine picture drawn once all rests; nothing sooner. */
	refine(): void {
		this.still();
		this.refineIn(REST);
	}

	/** @param wanted share of the resolution */
	draw(wanted: number): void {
		const { renderer, size } = this;
		const start = performance.now();
		const taps = this.drawing.passTaps();
		const ratio = Math.min(wanted, this.drawing.room(this.pixels.width, this.pixels.height));
		// Another size empties the picture and waits for the device: only right before something is drawn.
		const { width, height } = renderer.getSize(this.drawn);
		if (width !== size.width || height !== size.height) renderer.setDrawingBufferSize(size.width, size.height, 1);
		const target = this.target(ratio);
		this.drawing.render(target);
		this.stretch(target);
		// Reading one pixel waits for the picture, so that slow devices never queue up frames.
		const gl = renderer.getContext();
		gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, this.pixel);
		const all = performance.now() - start;
		this.free = performance.now() + 2 * all;
		const took = all / (ratio * ratio);
		if (taps !== null) this.costByPasses = took / taps;
		// Never 0, which is unknown: clocks may be coarse.
		else if (!this.fresh) this.cost = Math.max(took, 0.01);
		this.fresh = false;
		this.count += 1;
		this.lastRatio = ratio;
		for (const tell of this.watchers.splice(0)) tell();
		if (ratio === 1) this.onPicture();
	}

	/** What a picture of a share of the resolution is drawn into; the coarse and the fine one stay, as long as they have their size. */
	target(ratio: number): WebGLRenderTarget {
		const [width, height] = [Math.max(1, Math.round(this.pixels.width * ratio)), Math.max(1, Math.round(this.pixels.height * ratio))];
		const target = ratio === 1 ? this.fine : this.coarse;
		target.setSize(width, height);
		return target;
	}

	dispose(): void {
		cancelAnimationFrame(this.waiting);
		this.still();
		clearTimeout(this.coming);
		this.fine.dispose();
		this.coarse.dispose();
		this.over.geometry.dispose();
		this.over.material.dispose();
	}

	/** No fine picture is drawn for now. */
	private still(): void {
		clearTimeout(this.refining);
		this.refining = 0;
	}

	private refineIn(milliseconds: number): void {
		this.refining = window.setTimeout(() => {
			this.refining = 0;
			if (this.drawing.complete() || (this.cost > 0 && !this.slow)) this.draw(1);
			else this.refineIn(milliseconds);
		}, milliseconds);
	}

	/** Puts a picture over the whole canvas, whatever its size. */
	private stretch(target: WebGLRenderTarget): void {
		this.over.material.uniforms.picture!.value = target.texture;
		this.renderer.setRenderTarget(null);
		this.renderer.render(this.over, this.flat);
	}
}

/** The largest of some shares of the resolution that takes no more than a time, where the whole takes so many milliseconds. */
function bearable(shares: readonly number[], cost: number, time: number): number {
	return shares.find((share) => share * share * cost <= time) ?? shares.at(-1) ?? 1;
}

/** A picture as it is drawn for the screen: tone-mapped and encoded as there. */
export function screen(): WebGLRenderTarget {
	const target = new WebGLRenderTarget(1, 1, { samples: 4, colorSpace: SRGBColorSpace, internalFormat: 'RGBA8' });
	// What three calls so is drawn with the very programs that draw for the screen.
	(target as WebGLRenderTarget & { isXRRenderTarget?: boolean }).isXRRenderTarget = true;
	return target;
}
