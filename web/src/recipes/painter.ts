import type { LoweredRecipe, RecipeDocument, RecipeView } from '../api/client';
import { link } from '../maps/lens';
import { valueAt } from '../state/pointer';

/** Rows of what is drawn run from the top, as in files. */
const FRAGMENT = (code: string): string => `#version 300 es
precision highp float; precision highp int; precision highp sampler2DArray;
${code}
uniform vec2 riltaSide;
out vec4 riltaColour;
void main() {
	RiltaPoint s;
	s.uv = gl_FragCoord.xy / riltaSide;
	riltaColour = riltaPicture(s);
}`;

type Format = 'bytes' | 'colour' | 'floats';
type Target = { texture: WebGLTexture; frame: WebGLFramebuffer; width: number; height: number };
/** How the values of an ingredient lie before what is outside is dealt with; 0 is black, 1 white. */
export type Spread = { below: number; above: number; bins: number[]; from: number; to: number };

/** A prime: a coarse grid must not keep step with waves and cells. */
const SPREAD_SIDE = 97;
const BINS = 90;

/**
 * Draws the pictures of a recipe from the code that the server made of it, each by a program of its own: a change of structure
 * compiles only what it changes.
 */
export class RecipePainter {
	/** Pixels a side of what is shown large. */
	side = 512;
	private readonly programs = new Map<string, WebGLProgram>();
	private readonly places = new WeakMap<WebGLProgram, Map<string, WebGLUniformLocation | null>>();
	private readonly targets = new Map<string, Target>();
	private views = new Map<string, RecipeView>();
	private document: RecipeDocument | null = null;
	/** Heights that are right for the numbers of now. */
	private readonly fresh = new Set<string>();

	constructor(readonly gl: WebGL2RenderingContext) {
		if (gl.getExtension('EXT_color_buffer_float') === null) throw new Error('This browser draws no numbers into textures (EXT_color_buffer_float).');
	}

	/** Takes new code. */
	load(lowered: Pick<LoweredRecipe, 'views'>): void {
		this.views = new Map(lowered.views.map((view) => [view.key, view]));
		const used = new Set(lowered.views.map((view) => view.code));
		for (const [code, program] of this.programs) {
			if (!used.has(code) && this.programs.size > 4 * used.size) {
				this.gl.deleteProgram(program);
				this.programs.delete(code);
			}
		}
		this.fresh.clear();
	}

	/** Takes the numbers of a document with the same structure. */
	fill(document: RecipeDocument): void {
		this.document = document;
		this.fresh.clear();
	}

	has(key: string): boolean {
		return this.views.has(key);
	}

	/** A picture as a texture with all levels, to be shown in any size. */
	texture(key: string, colour: boolean): WebGLTexture {
		const target = this.target(`large ${key}`, this.side, this.side, colour ? 'colour' : 'bytes');
		this.draw(key, target);
		const { gl } = this;
		gl.bindTexture(gl.TEXTURE_2D_ARRAY, target.texture);
		gl.texParameteri(gl.TEXTURE_2D_ARRAY, gl.TEXTURE_MIN_FILTER, gl.LINEAR_MIPMAP_LINEAR);
		gl.texParameteri(gl.TEXTURE_2D_ARRAY, gl.TEXTURE_MAG_FILTER, gl.LINEAR);
		gl.generateMipmap(gl.TEXTURE_2D_ARRAY);
		return target.texture;
	}

	/** Paints a small picture into a canvas of its own size. Greys are shown as they are stored. */
	paint(key: string, canvas: HTMLCanvasElement, colour: boolean): void {
		const { width, height } = canvas;
		const pixels = this.bytes(key, width, height, colour);
		// An ingredient has its value in red alone.
		if (key.startsWith('ingredient ')) for (let i = 0; i < pixels.length; i += 4) pixels[i + 1] = pixels[i + 2] = pixels[i]!;
		for (let i = 3; i < pixels.length; i += 4) pixels[i] = 255;
		canvas.getContext('2d')?.putImageData(new ImageData(pixels, width, height), 0, 0);
	}

	/** The bytes of a picture, four a pixel, rows from the top. */
	bytes(key: string, width: number, height: number, colour: boolean): Uint8ClampedArray<ArrayBuffer> {
		const format = colour ? 'colour' : 'bytes';
		this.draw(key, this.target(`small ${width}x${height} ${format}`, width, height, format));
		const pixels = new Uint8ClampedArray(width * height * 4);
		this.gl.readPixels(0, 0, width, height, this.gl.RGBA, this.gl.UNSIGNED_BYTE, pixels);
		return pixels;
	}

	/** The numbers of a picture, four a pixel, rows from the top. */
	numbers(key: string, side: number): Float32Array {
		this.draw(key, this.target(`numbers ${side}`, side, side, 'floats'));
		const numbers = new Float32Array(side * side * 4);
		this.gl.readPixels(0, 0, side, side, this.gl.RGBA, this.gl.FLOAT, numbers);
		return numbers;
	}

	/** One pixel of a large picture, as it is stored. */
	pixel(key: string, x: number, y: number): number[] | null {
		const target = this.targets.get(`large ${key}`);
		if (target === undefined) return null;
		const { gl } = this;
		gl.bindFramebuffer(gl.FRAMEBUFFER, target.frame);
		const four = new Uint8Array(4);
		gl.readPixels(x, y, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, four);
		gl.bindFramebuffer(gl.FRAMEBUFFER, null);
		return [...four];
	}

	spread(id: string): Spread {
		return spreadOf(this.numbers(`ingredient ${id}`, SPREAD_SIDE));
	}

	dispose(): void {
		for (const program of this.programs.values()) this.gl.deleteProgram(program);
		for (const { texture, frame } of this.targets.values()) {
			this.gl.deleteTexture(texture);
			this.gl.deleteFramebuffer(frame);
		}
	}

	private draw(key: string, target: Target): void {
		const { gl } = this;
		const view = this.views.get(key);
		if (view === undefined) throw new Error(`The recipe has no ${key}.`);
		const heights = view.ground === null ? null : this.heights(view.ground, target.width, target.height);
		let program = this.programs.get(view.code);
		if (program === undefined) {
			program = link(gl, FRAGMENT(view.code));
			this.programs.set(view.code, program);
		}
		gl.bindFramebuffer(gl.FRAMEBUFFER, target.frame);
		gl.viewport(0, 0, target.width, target.height);
		gl.disable(gl.BLEND);
		gl.useProgram(program);
		gl.uniform2f(this.place(program, 'riltaSide'), target.width, target.height);
		if (heights !== null) {
			gl.activeTexture(gl.TEXTURE0);
			gl.bindTexture(gl.TEXTURE_2D_ARRAY, heights.texture);
			gl.uniform1i(this.place(program, 'heights'), 0);
			gl.uniform1f(this.place(program, 'side'), target.width);
		}
		for (const slot of view.slots) {
			const found = this.document === null ? undefined : valueAt(this.document, slot.path);
			const value = typeof found === 'number' ? found : slot.value;
			if (slot.type === 'uint') gl.uniform1ui(this.place(program, slot.uniform), value);
			else gl.uniform1f(this.place(program, slot.uniform), value);
		}
		gl.drawArrays(gl.TRIANGLES, 0, 3);
	}

	private heights(id: string, width: number, height: number): Target {
		const name = `heights ${id} ${width}x${height}`;
		const target = this.target(name, width, height, 'floats');
		if (!this.fresh.has(name)) {
			this.draw(`ingredient ${id}`, target);
			this.fresh.add(name);
		}
		return target;
	}

	private target(name: string, width: number, height: number, format: Format): Target {
		const known = this.targets.get(name);
		if (known !== undefined && known.width === width && known.height === height) return known;
		const { gl } = this;
		if (known !== undefined) {
			gl.deleteTexture(known.texture);
			gl.deleteFramebuffer(known.frame);
		}
		const [texture, frame] = [gl.createTexture(), gl.createFramebuffer()];
		const levels = format === 'floats' ? 1 : 1 + Math.floor(Math.log2(Math.max(width, height)));
		gl.activeTexture(gl.TEXTURE0);
		gl.bindTexture(gl.TEXTURE_2D_ARRAY, texture);
		gl.texStorage3D(gl.TEXTURE_2D_ARRAY, levels, { bytes: gl.RGBA8, colour: gl.SRGB8_ALPHA8, floats: gl.RGBA32F }[format], width, height, 1);
		for (const filter of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER]) gl.texParameteri(gl.TEXTURE_2D_ARRAY, filter, gl.NEAREST);
		gl.bindFramebuffer(gl.FRAMEBUFFER, frame);
		gl.framebufferTextureLayer(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, texture, 0, 0);
		const target = { texture, frame, width, height };
		this.targets.set(name, target);
		return target;
	}

	private place(program: WebGLProgram, name: string): WebGLUniformLocation | null {
		let places = this.places.get(program);
		if (places === undefined) {
			places = new Map();
			this.places.set(program, places);
		}
		if (!places.has(name)) places.set(name, this.gl.getUniformLocation(program, name));
		return places.get(name)!;
	}
}

/** Shares below black and above white, and how many values lie where, from pixels whose second number tells where they are. */
export function spreadOf(numbers: Float32Array): Spread {
	const [from, to] = [-1, 2];
	const bins = new Array<number>(BINS).fill(0);
	let below = 0;
	let above = 0;
	const count = numbers.length / 4;
	for (let i = 1; i < numbers.length; i += 4) {
		const at = numbers[i]!;
		if (at < 0) below++;
		if (at > 1) above++;
		bins[Math.min(BINS - 1, Math.max(0, Math.floor(((at - from) / (to - from)) * BINS)))]!++;
	}
	return { below: below / count, above: above / count, bins, from, to };
}
