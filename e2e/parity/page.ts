/** Runs in the browser: computes the cases of the parity suite in shaders and compares them with the kernel's values. */
import type { Sampling } from '../../web/src/api/client';
import { uploadArray } from '../../web/src/stage/textures';
import { compareRecipe } from './recipes';

export type Case = {
	name: string;
	count: number;
	outputs: string[];
	code: string;
	uniforms: Record<string, number>;
	arrays: { uniform: string; key: string; slots: string[]; sampling: Sampling }[];
	expected: string;
	/** From the world's origin; and whether the core says that it is as exact there as near it. */
	kilometres?: number;
	exact?: boolean;
	/** How much each output changes when the inputs of a point are moved by a few roundings. */
	borders: string;
};
export type Cases = {
	points: { count: number; rows: number; values: string };
	packs: Record<string, string>;
	cases: Case[];
	/** Steps as passes of multipass. */
	passes: StepPass[];
};
export type StepPass = { name: string; code: string; origin: boolean };
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

function bytes(text: string): Uint8Array {
	return Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
}

const floats = (text: string): Float32Array => new Float32Array(bytes(text).buffer);

class Machine {
	private readonly gl: WebGL2RenderingContext;
	private readonly arrays = new Map<string, WebGLTexture>();
	private last: { code: string; program: WebGLProgram } | null = null;

	constructor(private readonly all: Cases) {
		const gl = document.createElement('canvas').getContext('webgl2');
		if (gl === null || gl.getExtension('EXT_color_buffer_float') === null) throw new Error('No float buffers.');
		this.gl = gl;
		const points = gl.createTexture();
		gl.activeTexture(gl.TEXTURE0);
		gl.bindTexture(gl.TEXTURE_2D, points);
		gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA32F, all.points.count, all.points.rows, 0, gl.RGBA, gl.FLOAT, floats(all.points.values));
		gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.NEAREST);
		gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, gl.NEAREST);
	}

	compare(one: Case): Comparison {
		// The same document at other places is the same code.
		if (this.last?.code !== one.code) {
			this.gl.deleteProgram(this.last?.program ?? null);
			this.last = null;
			const program = this.program(one.code);
			if (typeof program === 'string') return { pixels: 0, shown: 0, shownOff: 0, off: 0, far: 0, worst: null, error: program };
			this.last = { code: one.code, program };
		}
		const found = this.run(this.last.program, one);
		const expected = floats(one.expected);
		const borders = floats(one.borders);
		let off = 0;
		let far = 0;
		let shown = 0;
		let shownOff = 0;
		let worst: Comparison['worst'] = null;
		one.outputs.forEach((output, o) => {
			const near = NEAR[output.split(' ')[0] ?? ''] ?? 0;
			for (let i = 0; i < one.count; i++) {
				let difference = 0;
				for (let c = 0; c < 4; c++) {
					const a = found[4 * (o * one.count + i) + c] ?? Number.NaN;
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
		return { pixels: one.count * one.outputs.length, shown, shownOff, off, far, worst, error: null };
	}

	/** What is wrong with the code of a pass, or null. */
	stepPass(one: StepPass): string | null {
		const start = '#version 300 es\nprecision highp float; precision highp int;\n';
		const program = this.linked(one.origin ? `${start}${one.code}\nuniform RiltaSurface here;\nvoid main() { riltaStart(here); }` : one.code);
		if (typeof program === 'string') return program;
		this.gl.deleteProgram(program);
		return null;
	}

	private program(code: string): WebGLProgram | string {
		return this.linked(`#version 300 es
precision highp float; precision highp int;
uniform highp sampler2D points;
out vec4 colour;
${code}
void main() { colour = riltaOutput(riltaPoint(int(gl_FragCoord.x)), int(gl_FragCoord.y)); }`);
	}

	private linked(fragment: string): WebGLProgram | string {
		const gl = this.gl;
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
			texture = uploadArray(this.gl, array, array.slots.map((slot) => bytes(this.all.packs[slot] ?? '')));
			this.arrays.set(key, texture);
		}
		return texture;
	}
}

let machine: Machine | null = null;
const page = window as unknown as { riltaParity: { load: (all: Cases) => void; compare: (one: Case) => Comparison; stepPass: (one: StepPass) => string | null; recipe: typeof compareRecipe } };
page.riltaParity = {
	load: (all) => (machine = new Machine(all)),
	compare: (one) => {
		if (machine === null) throw new Error('Nothing is loaded.');
		return machine.compare(one);
	},
	stepPass: (one) => {
		if (machine === null) throw new Error('Nothing is loaded.');
		return machine.stepPass(one);
	},
	recipe: compareRecipe
};
