/** Runs materials as they are delivered in other languages, with an entry that fills the surface from a table of points. */
import type { Sampling } from '../../web/src/api/client';
import { bytes, compared, floats, linked, refused, type Case, type Comparison, type Points } from '../../web/src/stage/parity';
import { uploadArray } from '../../web/src/stage/textures';

/** A material in one of them; numbers and outputs with their types and widths. */
export type Language = { code: string; numbers: [string, string][]; arrays: Case['arrays']; outputs: [string, number][] };
export type Languages = Pick<Case, 'count' | 'outputs' | 'uniforms' | 'expected' | 'borders'> & { hlsl: Language; wgsl: Language; /** where it is timed */ glsl?: Language };

type Texels = (slot: string) => Uint8Array;

/** The numbers of a document, as they lie in a block: 32 bits each, one after another. */
function block(one: Languages, { numbers }: Language): ArrayBuffer {
	const view = new DataView(new ArrayBuffer(16 * Math.max(1, Math.ceil(numbers.length / 4))));
	numbers.forEach(([name, type], i) => {
		const value = one.uniforms[name];
		if (value === undefined) throw new Error(`There is no number for ${name}.`);
		if (type === 'float') view.setFloat32(4 * i, value, true);
		else view.setUint32(4 * i, value, true);
	});
	return view.buffer;
}

/** Of rows of packed numbers, one a point: four for each point of each output. */
function unpacked(one: Languages, { outputs }: Language, number: (point: number, at: number) => number): Float32Array {
	const found = new Float32Array(4 * outputs.length * one.count);
	for (let i = 0; i < one.count; i++) {
		let at = 0;
		outputs.forEach(([, width], o) => {
			for (let c = 0; c < width; c++) found[4 * (o * one.count + i) + c] = number(i, at++);
		});
	}
	return found;
}

const names = ({ outputs }: Language): string[] => outputs.map(([name]) => name);
const rows = ({ outputs }: Language): number => Math.ceil(outputs.reduce((sum, [, width]) => sum + width, 0) / 4);

/** GLSL ES that others have made of HLSL. */
export class HlslMachine {
	private readonly gl: WebGL2RenderingContext;
	private readonly arrays = new Map<string, WebGLTexture>();

	constructor(points: Points, private readonly texels: Texels) {
		const gl = document.createElement('canvas').getContext('webgl2');
		if (gl === null || gl.getExtension('EXT_color_buffer_float') === null) throw new Error('No float buffers.');
		this.gl = gl;
		gl.activeTexture(gl.TEXTURE0);
		gl.bindTexture(gl.TEXTURE_2D, gl.createTexture());
		gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA32F, points.count, points.rows, 0, gl.RGBA, gl.FLOAT, floats(points.values));
		gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.NEAREST);
		gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, gl.NEAREST);
	}

	compare(one: Languages): Comparison {
		const found = this.drawn(one, one.hlsl, 1);
		return typeof found === 'string' ? refused(found) : compared(one, found, names(one.hlsl));
	}

	/** What comes out, drawn so many times over; or what is wrong with the code. */
	drawn(one: Languages, language: Language, times: number): Float32Array | string {
		const { gl } = this;
		const program = linked(gl, language.code);
		if (typeof program === 'string') return program;
		const buffer = gl.createBuffer();
		gl.bindBufferBase(gl.UNIFORM_BUFFER, 0, buffer);
		gl.bufferData(gl.UNIFORM_BUFFER, block(one, language), gl.STATIC_DRAW);
		gl.useProgram(program);
		for (let i = 0; i < gl.getProgramParameter(program, gl.ACTIVE_UNIFORM_BLOCKS); i++) gl.uniformBlockBinding(program, i, 0);
		for (let i = 0; i < gl.getProgramParameter(program, gl.ACTIVE_UNIFORMS); i++) {
			const active = gl.getActiveUniform(program, i)!;
			if (active.type === gl.SAMPLER_2D) gl.uniform1i(gl.getUniformLocation(program, active.name), 0);
			// Where numbers lie in no block, each is set.
			const number = one.uniforms[active.name];
			if (number !== undefined && active.type === gl.FLOAT) gl.uniform1f(gl.getUniformLocation(program, active.name), number);
			if (number !== undefined && active.type === gl.UNSIGNED_INT) gl.uniform1ui(gl.getUniformLocation(program, active.name), number);
			// Where textures and samplers are apart, what brings them together names both.
			const place = language.arrays.findIndex((array) => active.name === array.uniform || active.name.includes(`${array.uniform}_sampler`));
			if (place >= 0) gl.uniform1i(gl.getUniformLocation(program, active.name), 1 + place);
		}
		language.arrays.forEach((array, i) => {
			gl.activeTexture(gl.TEXTURE1 + i);
			gl.bindTexture(gl.TEXTURE_2D_ARRAY, this.array(array));
		});
		const frame = gl.createFramebuffer();
		gl.bindFramebuffer(gl.FRAMEBUFFER, frame);
		const targets = [...Array(rows(language)).keys()].map((place) => {
			const target = gl.createRenderbuffer();
			gl.bindRenderbuffer(gl.RENDERBUFFER, target);
			gl.renderbufferStorage(gl.RENDERBUFFER, gl.RGBA32F, one.count, times);
			gl.framebufferRenderbuffer(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0 + place, gl.RENDERBUFFER, target);
			return target;
		});
		gl.drawBuffers(targets.map((_, place) => gl.COLOR_ATTACHMENT0 + place));
		// Each row is of the same points.
		gl.viewport(0, 0, one.count, times);
		gl.drawArrays(gl.TRIANGLES, 0, 3);
		const out = targets.map((_, place) => {
			const four = new Float32Array(4 * one.count);
			gl.readBuffer(gl.COLOR_ATTACHMENT0 + place);
			gl.readPixels(0, 0, one.count, 1, gl.RGBA, gl.FLOAT, four);
			return four;
		});
		gl.deleteFramebuffer(frame);
		for (const target of targets) gl.deleteRenderbuffer(target);
		gl.deleteBuffer(buffer);
		gl.deleteProgram(program);
		return unpacked(one, language, (i, at) => out[at >> 2]![4 * i + (at & 3)]!);
	}

	private array(array: Case['arrays'][number]): WebGLTexture {
		const key = [array.key, ...array.slots].join(' ');
		// Slanted footprints are none of the kernel's.
		const texture = this.arrays.get(key) ?? uploadArray(this.gl, { ...array, sampling: { ...array.sampling, anisotropy: 1 } }, array.slots.map(this.texels));
		this.arrays.set(key, texture);
		return texture;
	}
}

const WRAPS = { repeat: 'repeat', mirror: 'mirror-repeat', edge: 'clamp-to-edge' } as const;

/** The browser's WebGPU. */
export class WgslMachine {
	private readonly arrays = new Map<string, GPUTexture>();

	private constructor(private readonly device: GPUDevice, private readonly points: GPUTexture, private readonly texels: Texels) {}

	static async made(points: Points, texels: Texels): Promise<WgslMachine> {
		const adapter = await navigator.gpu?.requestAdapter();
		if (!adapter) throw new Error('No WebGPU.');
		// Maps of 16 bits are floats there, which have to be read between texels.
		const device = await adapter.requestDevice({
			requiredFeatures: ['float32-filterable'],
			requiredLimits: { maxSampledTexturesPerShaderStage: adapter.limits.maxSampledTexturesPerShaderStage, maxSamplersPerShaderStage: adapter.limits.maxSamplersPerShaderStage }
		});
		const texture = device.createTexture({ size: [points.count, points.rows], format: 'rgba32float', usage: GPUTextureUsage.TEXTURE_BINDING | GPUTextureUsage.COPY_DST });
		device.queue.writeTexture({ texture }, new Float32Array(floats(points.values)), { bytesPerRow: 16 * points.count }, [points.count, points.rows]);
		return new WgslMachine(device, texture, texels);
	}

	async compare(one: Languages): Promise<Comparison> {
		const found = await this.computed(one, 1);
		return typeof found === 'string' ? refused(found) : compared(one, found, names(one.wgsl));
	}

	/** What comes out, computed so many times over; or what is wrong with the code. */
	async computed(one: Languages, times: number): Promise<Float32Array | string> {
		const { device } = this;
		const language = one.wgsl;
		device.pushErrorScope('validation');
		const module = device.createShaderModule({ code: language.code });
		const wrong = (await module.getCompilationInfo()).messages.filter((message) => message.type === 'error').map((message) => `${message.lineNum}: ${message.message}`);
		if (wrong.length > 0) {
			await device.popErrorScope();
			return wrong.join('\n');
		}
		// What a document declares and does not read is not bound by itself.
		const entries: GPUBindGroupLayoutEntry[] = language.numbers.length === 0 ? [] : [{ binding: 0, visibility: GPUShaderStage.COMPUTE, buffer: {} }];
		const bound: GPUBindGroupEntry[] = [];
		if (language.numbers.length > 0) {
			const numbers = block(one, language);
			const buffer = device.createBuffer({ size: numbers.byteLength, usage: GPUBufferUsage.UNIFORM | GPUBufferUsage.COPY_DST });
			device.queue.writeBuffer(buffer, 0, numbers);
			bound.push({ binding: 0, resource: { buffer } });
		}
		language.arrays.forEach((array, i) => {
			entries.push({ binding: 2 * i + 1, visibility: GPUShaderStage.COMPUTE, texture: { viewDimension: '2d-array' } }, { binding: 2 * i + 2, visibility: GPUShaderStage.COMPUTE, sampler: {} });
			bound.push({ binding: 2 * i + 1, resource: this.array(array).createView({ dimension: '2d-array' }) }, { binding: 2 * i + 2, resource: this.sampler(array.sampling) });
		});
		const layout = device.createBindGroupLayout({ entries });
		const out = device.createBindGroupLayout({
			entries: [
				{ binding: 0, visibility: GPUShaderStage.COMPUTE, texture: { sampleType: 'unfilterable-float' } },
				{ binding: 1, visibility: GPUShaderStage.COMPUTE, buffer: { type: 'storage' } }
			]
		});
		const size = 16 * rows(language) * one.count;
		const found = device.createBuffer({ size, usage: GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_SRC });
		const read = device.createBuffer({ size, usage: GPUBufferUsage.MAP_READ | GPUBufferUsage.COPY_DST });
		const pipeline = await device.createComputePipelineAsync({ layout: device.createPipelineLayout({ bindGroupLayouts: [layout, out] }), compute: { module, entryPoint: 'main' } });
		const commands = device.createCommandEncoder();
		const pass = commands.beginComputePass();
		pass.setPipeline(pipeline);
		pass.setBindGroup(0, device.createBindGroup({ layout, entries: bound }));
		pass.setBindGroup(1, device.createBindGroup({ layout: out, entries: [{ binding: 0, resource: this.points.createView() }, { binding: 1, resource: { buffer: found } }] }));
		pass.dispatchWorkgroups(Math.ceil(one.count / 64), times);
		pass.end();
		commands.copyBufferToBuffer(found, 0, read, 0, size);
		device.queue.submit([commands.finish()]);
		await read.mapAsync(GPUMapMode.READ);
		const values = new Float32Array(read.getMappedRange().slice(0));
		for (const buffer of [found, read]) buffer.destroy();
		const error = await device.popErrorScope();
		if (error !== null) return error.message;
		return unpacked(one, language, (i, at) => values[4 * rows(language) * i + at]!);
	}

	private sampler(sampling: Sampling): GPUSampler {
		const filter = sampling.filter === 'sharp' ? 'nearest' : 'linear';
		return this.device.createSampler({ magFilter: filter, minFilter: filter, mipmapFilter: 'linear', lodMaxClamp: sampling.mips ? 32 : 0, addressModeU: WRAPS[sampling.wrapU], addressModeV: WRAPS[sampling.wrapV] });
	}

	private array(array: Case['arrays'][number]): GPUTexture {
		const key = [array.key, ...array.slots].join(' ');
		const known = this.arrays.get(key);
		if (known !== undefined) return known;
		const packs = array.slots.map(this.texels);
		const head = new DataView(packs[0]!.buffer, packs[0]!.byteOffset, 16);
		const [width, height, samples] = [head.getUint32(4, true), head.getUint32(8, true), head.getUint32(12, true)];
		const levels = Math.floor(Math.log2(Math.max(width, height))) + 1;
		const deep = /-r16\b/.test(array.key);
		const format: GPUTextureFormat = deep ? 'r32float' : /-r8\b/.test(array.key) ? 'r8unorm' : /-srgb8\b/.test(array.key) ? 'rgba8unorm-srgb' : 'rgba8unorm';
		const texture = this.device.createTexture({ size: [width, height, packs.length], format, mipLevelCount: levels, usage: GPUTextureUsage.TEXTURE_BINDING | GPUTextureUsage.COPY_DST });
		packs.forEach((pack, layer) => {
			let [w, h, at] = [width, height, 16];
			for (let level = 0; level < levels; level++) {
				const part = pack.slice(at, at + w * h * samples);
				const texels = deep ? Float32Array.from(new Uint16Array(part.buffer), (x) => x / 65535) : part;
				this.device.queue.writeTexture({ texture, mipLevel: level, origin: [0, 0, layer] }, texels, { bytesPerRow: (deep ? 4 : samples) * w }, [w, h]);
				at += w * h * samples;
				[w, h] = [Math.max(1, w >> 1), Math.max(1, h >> 1)];
			}
		});
		this.arrays.set(key, texture);
		return texture;
	}
}

export const texelsOf = (packs: Record<string, string>): Texels => (slot) => bytes(packs[slot] ?? '');
