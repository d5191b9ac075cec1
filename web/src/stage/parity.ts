/** Runs fields of materials in shaders, and compares them with what the core's kernel makes of the same points. */
import type { Sampling } from '../api/client';
import { uploadArray } from './textures';

export type Case = {
	count: number;
	outputs: string[];
	code: string;
	uniforms: Record<string, number>;
	arrays: { uniform: string; key: string; slots: string[]; sampling: Sampling }[];
	expected: string;
	/** How much each output changes when the inputs of a point are moved by a few roundings. */
	borders: string;
};
export type Points = { count: number; rows: number; values: string };
/** shown: samples of what is seen, and of those how many differ by more than 1/255 */
export type Comparison = { pixels: number; shown: number; shownOff: number; off: number; far: number; worst: { output: string; difference: number } | null; error: string | null };

/** How near the two have to be, by kind of output. */
const NEAR: Record<string, number> = {
	coordinate: 1e-4,
	derivative: 1e-4,
	weight: 1e-4,
	direction: 2 / 255,
	value: 1 / 255
};

export function bytes(text: string): Uint8Array {
	return Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
}

export const floats = (text: string): Float32Array => new Float32Array(bytes(text).buffer);

/** What comes of a program that a device does not take. */
export const refused = (error: string): Comparison => ({ pixels: 0, shown: 0, shownOff: 0, off: 0, far: 0, worst: null, error });

/**
 * What was found against what the kernel finds.
 *
 * @param found four numbers for each point of each output, one output after another
 * @param only the outputs that were computed, all of them if it is not said
 */
export function compared(one: Pick<Case, 'count' | 'outputs' | 'expected' | 'borders'>, found: Float32Array, only: string[] = one.outputs): Comparison {
	const expected = floats(one.expected);
	const borders = floats(one.borders);
	let [off, far, shown, shownOff] = [0, 0, 0, 0];
	let worst: Comparison['worst'] = null;
	only.forEach((output, at) => {
		const o = one.outputs.indexOf(output);
		const near = NEAR[output.split(' ')[0] ?? ''] ?? 0;
		for (let i = 0; i < one.count; i++) {
			let difference = 0;
			for (let c = 0; c < 4; c++) {
				const a = found[4 * (at * one.count + i) + c] ?? Number.NaN;
				const b = expected[(4 * o + c) * one.count + i] ?? Number.NaN;
				// Coordinates far out have fewer digits behind the point.
				// What glows is a map times a strength, here up to ten.
				const scale = output === 'value emission' ? Math.max(4, Math.abs(b)) : output.startsWith('value') ? Math.max(1, Math.abs(b)) : Math.max(1, Math.abs(b) / 16);
				const d = Math.abs(a - b) / scale;
				difference = Number.isNaN(d) ? Number.POSITIVE_INFINITY : Math.max(difference, d);
			}
			if (difference > near) off += 1;
			if (output.startsWith('value')) {
				shown += 1;
				if (difference > near) shownOff += 1;
			}
			// Further off than a few roundings of its inputs could bring it.
			const border = borders[o * one.count + i] ?? 0;
			if (!(difference <= near + 2 * border)) {
				far += 1;
				if (difference / near > (worst?.difference ?? 0)) worst = { output, difference: difference / near };
			}
		}
	});
	return { pixels: one.count * only.length, shown, shownOff, off, far, worst, error: null };
}

/** A program that draws one triangle over all of a picture, or what is wrong with it. */
export function linked(gl: WebGL2RenderingContext, fragment: string): WebGLProgram | string {
	const program = gl.createProgram();
	const vertex = `#version 300 es
void main() { gl_Position = vec4(gl_VertexID == 1 ? 3.0 : -1.0, gl_VertexID == 2 ? 3.0 : -1.0, 0.0, 1.0); }`;
	for (const [type, source] of [
		[gl.VERTEX_SHADER, vertex],
		[gl.FRAGMENT_SHADER, fragment]
	] as const) {
		const shader = gl.createShader(type);
		if (shader === null) return 'No shader.';
		gl.shaderSource(shader, source);
		gl.compileShader(shader);
		gl.attachShader(program, shader);
		if (gl.getShaderParameter(shader, gl.COMPILE_STATUS) !== true) return `${gl.getShaderInfoLog(shader)}\n${source}`;
		gl.deleteShader(shader);
	}
	gl.linkProgram(program);
	return gl.getProgramParameter(program, gl.LINK_STATUS) === true ? program : (gl.getProgramInfoLog(program) ?? 'It does not link.');
}

export class Machine {
	private readonly gl: WebGL2RenderingContext;
	private readonly arrays = new Map<string, WebGLTexture>();
	private last: { code: string; program: WebGLProgram } | null = null;

	/** @param packs texel packs, by slot */
	constructor(points: Points, private readonly packs: (slot: string) => Uint8Array) {
		const gl = document.createElement('canvas').getContext('webgl2');
		if (gl === null || gl.getExtension('EXT_color_buffer_float') === null) throw new Error('No float buffers.');
		this.gl = gl;
		const texture = gl.createTexture();
		gl.activeTexture(gl.TEXTURE0);
		gl.bindTexture(gl.TEXTURE_2D, texture);
		gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA32F, points.count, points.rows, 0, gl.RGBA, gl.FLOAT, floats(points.values));
		gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.NEAREST);
		gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, gl.NEAREST);
	}

	compare(one: Case): Comparison {
		// The same document at other places is the same code.
		if (this.last?.code !== one.code) {
			this.gl.deleteProgram(this.last?.program ?? null);
			this.last = null;
			const program = this.program(one.code);
			if (typeof program === 'string') return refused(program);
			this.last = { code: one.code, program };
		}
		return compared(one, this.run(this.last.program, one));
	}

	/** What is wrong with the code of a whole program, or null. */
	wrong(code: string): string | null {
		const program = linked(this.gl, code);
		if (typeof program === 'string') return program;
		this.gl.deleteProgram(program);
		return null;
	}

	/** Lets go of all textures. */
	forget(): void {
		for (const texture of this.arrays.values()) this.gl.deleteTexture(texture);
		this.arrays.clear();
	}

	/** What the device is called, as far as the browser tells. */
	device(): string {
		const told = this.gl.getExtension('WEBGL_debug_renderer_info');
		return String(this.gl.getParameter(told === null ? this.gl.RENDERER : told.UNMASKED_RENDERER_WEBGL));
	}

	dispose(): void {
		this.gl.getExtension('WEBGL_lose_context')?.loseContext();
	}

	private program(code: string): WebGLProgram | string {
		return linked(this.gl, `#version 300 es
precision highp float; precision highp int;
uniform highp sampler2D points;
out vec4 colour;
${code}
void main() { colour = riltaOutput(riltaPoint(int(gl_FragCoord.x)), int(gl_FragCoord.y)); }`);
	}

	private run(program: WebGLProgram, one: Case): Float32Array {
		const gl = this.gl;
		const [width, height] = [one.count, one.outputs.length];
		const target = gl.createRenderbuffer();
		gl.bindRenderbuffer(gl.RENDERBUFFER, target);
		gl.renderbufferStorage(gl.RENDERBUFFER, gl.RGBA32F, width, height);
		const frame = gl.createFramebuffer();
		gl.bindFramebuffer(gl.FRAMEBUFFER, frame);
		gl.framebufferRenderbuffer(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.RENDERBUFFER, target);
		gl.viewport(0, 0, width, height);
		gl.useProgram(program);
		gl.uniform1i(gl.getUniformLocation(program, 'points'), 0);
		for (let i = 0; i < gl.getProgramParameter(program, gl.ACTIVE_UNIFORMS); i++) {
			const active = gl.getActiveUniform(program, i);
			const value = one.uniforms[active?.name ?? ''];
			if (active === null || value === undefined) continue;
			const at = gl.getUniformLocation(program, active.name);
			if (active.type === gl.UNSIGNED_INT) gl.uniform1ui(at, value);
			else gl.uniform1f(at, value);
		}
		one.arrays.forEach((array, i) => {
			gl.activeTexture(gl.TEXTURE1 + i);
			gl.bindTexture(gl.TEXTURE_2D_ARRAY, this.array(array));
			gl.uniform1i(gl.getUniformLocation(program, array.uniform), 1 + i);
		});
		gl.drawArrays(gl.TRIANGLES, 0, 3);
		const out = new Float32Array(4 * width * height);
		gl.readPixels(0, 0, width, height, gl.RGBA, gl.FLOAT, out);
		gl.deleteFramebuffer(frame);
		gl.deleteRenderbuffer(target);
		return out;
	}

	private array(array: Case['arrays'][number]): WebGLTexture {
		const key = [array.key, ...array.slots].join(' ');
		let texture = this.arrays.get(key);
		if (texture === undefined) {
			// What looks straight at the surface, as the core does, reads no slanted footprints.
			texture = uploadArray(this.gl, { ...array, sampling: { ...array.sampling, anisotropy: 1 } }, array.slots.map(this.packs));
			this.arrays.set(key, texture);
		}
		return texture;
	}
}

