import { Matrix4, type BufferGeometry, type PerspectiveCamera } from 'three';
import { FEATURES, texture } from './gputextures';
import type { Sidecar } from './sidecar';
import { module, VERTEX_FLOATS } from './wgslcode';

const WRAPS: Record<string, GPUAddressMode> = { repeat: 'repeat', clamp: 'clamp-to-edge', edge: 'clamp-to-edge', mirror: 'mirror-repeat' };
const SAMPLES = 4;
/** Four matrices, the eye, the view. */
const SEEN_FLOATS = 68;

/**
 * Draws WGSL of a delivery with the browser's WebGPU. What is drawn is read back and put on a plain canvas: a canvas of WebGPU's own ends the whole
 * device where Chromium draws in software.
 */
export class WgslDrawing {
	private readonly context: CanvasRenderingContext2D;
	/** The last picture, four bytes a pixel, rows from above; when it is there. */
	private last: Promise<Uint8ClampedArray<ArrayBuffer>> = Promise.resolve(new Uint8ClampedArray());
	private targets: { picture: GPUTexture; many: GPUTexture; depth: GPUTexture } | null = null;

	private constructor(
		private readonly canvas: HTMLCanvasElement,
		private readonly device: GPUDevice,
		readonly told: Sidecar,
		private readonly pipeline: GPURenderPipeline,
		private readonly vertices: GPUBuffer,
		private readonly corners: GPUBuffer,
		private readonly numbers: GPUBuffer,
		private readonly seen: GPUBuffer,
		private readonly bound: [GPUBindGroup, GPUBindGroup]
	) {
		this.context = canvas.getContext('2d')!;
	}

	/**
	 * @param file reads one of the delivery
	 *
	 * @returns null where the browser has no WebGPU
	 * @throws if it refuses the code
	 */
	static async open(canvas: HTMLCanvasElement, told: Sidecar, code: string, geometry: BufferGeometry, file: (path: string) => Promise<ArrayBuffer>): Promise<WgslDrawing | null> {
		const adapter = await navigator.gpu?.requestAdapter();
		if (!adapter) return null;
		const { maxSampledTexturesPerShaderStage, maxSamplersPerShaderStage } = adapter.limits;
		const device = await adapter.requestDevice({ requiredFeatures: FEATURES.filter((one) => adapter.features.has(one)), requiredLimits: { maxSampledTexturesPerShaderStage, maxSamplersPerShaderStage } });
		device.pushErrorScope('validation');
		const shader = device.createShaderModule({ code: module(code, told) });
		const wrong = (await shader.getCompilationInfo()).messages.filter((one) => one.type === 'error');
		if (wrong.length > 0) throw new Error(`${told.file} was refused: ${wrong[0]!.message}`);
		const entries: GPUBindGroupLayoutEntry[] = [];
		const bound: GPUBindGroupEntry[] = [];
		const numbers = device.createBuffer({ size: 16 * Math.max(1, Math.ceil(told.numbers.length / 4)), usage: GPUBufferUsage.UNIFORM | GPUBufferUsage.COPY_DST });
		if (told.numbers.length > 0) {
			entries.push({ binding: 0, visibility: GPUShaderStage.FRAGMENT, buffer: {} });
			bound.push({ binding: 0, resource: { buffer: numbers } });
		}
		for (const [i, one] of told.textures.entries()) {
			const path = one.layers[0]?.file?.replace(/^\.\.\//, '');
			if (path === undefined) throw new Error(`No file of ${one.name} is in the delivery: its profile brings code without maps.`);
			const made = await texture(device, await file(path), path, one);
			const dimension = one.kind === 'array' ? '2d-array' : '2d';
			const filter = one.sampling.filter === 'sharp' ? 'nearest' : 'linear';
			// A device filters along a slant only what it filters all ways.
			const sampler = device.createSampler({ magFilter: filter, minFilter: filter, mipmapFilter: filter, lodMaxClamp: one.sampling.mips ? 32 : 0, addressModeU: WRAPS[one.sampling.wrapU], addressModeV: WRAPS[one.sampling.wrapV], maxAnisotropy: filter === 'linear' ? one.sampling.anisotropy : 1 });
			entries.push({ binding: 2 * i + 1, visibility: GPUShaderStage.FRAGMENT, texture: { viewDimension: dimension } }, { binding: 2 * i + 2, visibility: GPUShaderStage.FRAGMENT, sampler: {} });
			bound.push({ binding: 2 * i + 1, resource: made.createView({ dimension }) }, { binding: 2 * i + 2, resource: sampler });
		}
		const layout = device.createBindGroupLayout({ entries });
		const seenLayout = device.createBindGroupLayout({ entries: [{ binding: 0, visibility: GPUShaderStage.VERTEX | GPUShaderStage.FRAGMENT, buffer: {} }] });
		const covers = told.outputs.some((one) => one.name === 'coverage');
		const over: GPUBlendComponent = { srcFactor: 'src-alpha', dstFactor: 'one-minus-src-alpha' };
		const pipeline = await device.createRenderPipelineAsync({
			layout: device.createPipelineLayout({ bindGroupLayouts: [layout, seenLayout] }),
			vertex: { module: shader, entryPoint: 'host_vertex', buffers: [{ arrayStride: 4 * VERTEX_FLOATS, attributes: ([['float32x3', 0], ['float32x3', 3], ['float32x4', 6], ['float32x4', 10], ['float32', 14]] as const).map(([format, from], shaderLocation) => ({ format, offset: 4 * from, shaderLocation })) }] },
			fragment: { module: shader, entryPoint: 'host_fragment', targets: [{ format: 'rgba8unorm', ...(covers ? { blend: { color: over, alpha: over } } : {}) }] },
			primitive: { cullMode: 'back' },
			depthStencil: { format: 'depth24plus', depthWriteEnabled: true, depthCompare: 'less' },
			multisample: { count: SAMPLES }
		});
		const [vertices, corners] = buffers(device, geometry);
		const seen = device.createBuffer({ size: 4 * SEEN_FLOATS, usage: GPUBufferUsage.UNIFORM | GPUBufferUsage.COPY_DST });
		const groups: [GPUBindGroup, GPUBindGroup] = [device.createBindGroup({ layout, entries: bound }), device.createBindGroup({ layout: seenLayout, entries: [{ binding: 0, resource: { buffer: seen } }] })];
		const refused = await device.popErrorScope();
		if (refused !== null) throw new Error(`${told.file} was refused: ${refused.message}`);
		return new WgslDrawing(canvas, device, told, pipeline, vertices, corners, numbers, seen, groups);
	}

	/** @param values of all numbers, in their order: 32 bits each, one after another */
	draw(camera: PerspectiveCamera, model: Matrix4, view: number, values: number[], ground: number): void {
		const { device } = this;
		const block = new DataView(new ArrayBuffer(Math.max(4, 4 * values.length)));
		this.told.numbers.forEach(({ type }, i) => (type === 'float' ? block.setFloat32(4 * i, values[i]!, true) : block.setUint32(4 * i, values[i]!, true)));
		device.queue.writeBuffer(this.numbers, 0, block.buffer);
		const seen = new Float32Array(SEEN_FLOATS);
		seen.set(camera.projectionMatrix.elements, 0);
		seen.set(camera.matrixWorldInverse.elements, 16);
		seen.set(model.elements, 32);
		seen.set(new Matrix4().copy(model).invert().transpose().elements, 48);
		seen.set([camera.matrixWorld.elements[12]!, camera.matrixWorld.elements[13]!, camera.matrixWorld.elements[14]!, view], 64);
		device.queue.writeBuffer(this.seen, 0, seen);
		const { picture, many, depth } = this.sized();
		const commands = device.createCommandEncoder();
		const pass = commands.beginRenderPass({
			colorAttachments: [{ view: many.createView(), resolveTarget: picture.createView(), clearValue: [(ground >> 16) / 255, ((ground >> 8) & 255) / 255, (ground & 255) / 255, 1], loadOp: 'clear', storeOp: 'discard' }],
			depthStencilAttachment: { view: depth.createView(), depthClearValue: 1, depthLoadOp: 'clear', depthStoreOp: 'discard' }
		});
		pass.setPipeline(this.pipeline);
		pass.setBindGroup(0, this.bound[0]);
		pass.setBindGroup(1, this.bound[1]);
		pass.setVertexBuffer(0, this.vertices);
		pass.setIndexBuffer(this.corners, 'uint32');
		pass.drawIndexed(this.corners.size / 4);
		pass.end();
		device.queue.submit([commands.finish()]);
		this.last = this.read(picture);
		void this.last.then((rows) => rows.length === 4 * this.canvas.width * this.canvas.height && this.context.putImageData(new ImageData(rows, this.canvas.width), 0, 0));
	}

	/** What was drawn last, as WebGL has it: four bytes a pixel, rows from below. */
	async pixels(): Promise<Uint8Array> {
		const rows = await this.last;
		const stride = 4 * this.canvas.width;
		const found = new Uint8Array(rows.length);
		for (let at = 0; at < rows.length; at += stride) found.set(rows.subarray(at, at + stride), rows.length - stride - at);
		return found;
	}

	private async read(picture: GPUTexture): Promise<Uint8ClampedArray<ArrayBuffer>> {
		const { width, height } = picture;
		const stride = 256 * Math.ceil((4 * width) / 256);
		const buffer = this.device.createBuffer({ size: stride * height, usage: GPUBufferUsage.MAP_READ | GPUBufferUsage.COPY_DST });
		const commands = this.device.createCommandEncoder();
		commands.copyTextureToBuffer({ texture: picture }, { buffer, bytesPerRow: stride }, [width, height]);
		this.device.queue.submit([commands.finish()]);
		await buffer.mapAsync(GPUMapMode.READ);
		const rows = new Uint8Array(buffer.getMappedRange());
		const found = new Uint8ClampedArray(4 * width * height);
		for (let y = 0; y < height; y++) found.set(rows.subarray(y * stride, y * stride + 4 * width), 4 * width * y);
		buffer.destroy();
		return found;
	}

	private sized(): { picture: GPUTexture; many: GPUTexture; depth: GPUTexture } {
		const { width, height } = this.canvas;
		if (this.targets?.picture.width === width && this.targets.picture.height === height) return this.targets;
		for (const one of Object.values(this.targets ?? {})) one.destroy();
		const size = [width, height];
		this.targets = {
			picture: this.device.createTexture({ size, format: 'rgba8unorm', usage: GPUTextureUsage.RENDER_ATTACHMENT | GPUTextureUsage.COPY_SRC }),
			many: this.device.createTexture({ size, format: 'rgba8unorm', sampleCount: SAMPLES, usage: GPUTextureUsage.RENDER_ATTACHMENT }),
			depth: this.device.createTexture({ size, format: 'depth24plus', sampleCount: SAMPLES, usage: GPUTextureUsage.RENDER_ATTACHMENT })
		};
		return this.targets;
	}
}

function buffers(device: GPUDevice, geometry: BufferGeometry): [GPUBuffer, GPUBuffer] {
	const count = geometry.getAttribute('position').count;
	const numbers = new Float32Array(VERTEX_FLOATS * count);
	for (const [name, from, width] of [['position', 0, 3], ['normal', 3, 3], ['uv', 6, 2], ['uv1', 8, 2], ['uv2', 10, 2], ['uv3', 12, 2], ['_section', 14, 1]] as const) {
		if (!geometry.hasAttribute(name)) continue;
		const attribute = geometry.getAttribute(name);
		for (let i = 0; i < count; i++) for (let c = 0; c < width; c++) numbers[VERTEX_FLOATS * i + from + c] = attribute.getComponent(i, c);
	}
	const corners = Uint32Array.from(geometry.index?.array ?? Array.from({ length: count }, (_, i) => i));
	const put = (data: Float32Array<ArrayBuffer> | Uint32Array<ArrayBuffer>, usage: number): GPUBuffer => {
		const buffer = device.createBuffer({ size: data.byteLength, usage: usage | GPUBufferUsage.COPY_DST });
		device.queue.writeBuffer(buffer, 0, data);
		return buffer;
	};
	return [put(numbers, GPUBufferUsage.VERTEX), put(corners, GPUBufferUsage.INDEX)];
}
