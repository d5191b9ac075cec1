import { read } from 'ktx-parse';
import { TGALoader } from 'three/examples/jsm/loaders/TGALoader.js';
import { ZSTDDecoder } from 'three/examples/jsm/libs/zstddec.module.js';
import type { Sidecar } from './sidecar';

type Told = Sidecar['textures'][number];
type Format = { format: GPUTextureFormat; /** bytes of a texel, or of a block of 4 x 4 */ bytes: number; blocks?: boolean };

/** Vulkan's numbers of the formats that deliveries have. */
const FORMATS: Record<number, Format> = {
	9: { format: 'r8unorm', bytes: 1 },
	16: { format: 'rg8unorm', bytes: 2 },
	37: { format: 'rgba8unorm', bytes: 4 },
	43: { format: 'rgba8unorm-srgb', bytes: 4 },
	70: { format: 'r32float', bytes: 4 },
	139: { format: 'bc4-r-unorm', bytes: 8, blocks: true },
	141: { format: 'bc5-rg-unorm', bytes: 16, blocks: true },
	145: { format: 'bc7-rgba-unorm', bytes: 16, blocks: true },
	146: { format: 'bc7-rgba-unorm-srgb', bytes: 16, blocks: true }
};
const R16 = 70;
export const FEATURES: GPUFeatureName[] = ['float32-filterable', 'texture-compression-bc'];

/** A texture of a delivery for WebGPU. */
export async function texture(device: GPUDevice, bytes: ArrayBuffer, path: string, told: Told): Promise<GPUTexture> {
	return path.endsWith('.ktx2') ? levels(device, bytes, path) : picture(device, bytes, path, told);
}

async function levels(device: GPUDevice, bytes: ArrayBuffer, path: string): Promise<GPUTexture> {
	const file = read(new Uint8Array(bytes));
	const known = FORMATS[file.vkFormat];
	if (known === undefined) throw new Error(`${path} is of a format that this page does not know (${file.vkFormat}).`);
	if ((known.blocks && !device.features.has('texture-compression-bc')) || (file.vkFormat === R16 && !device.features.has('float32-filterable'))) throw new Error(`This device reads no ${known.format} from ${path}.`);
	const unpacker = new ZSTDDecoder();
	if (file.supercompressionScheme !== 0) await unpacker.init();
	const layers = Math.max(1, file.layerCount);
	const made = device.createTexture({ size: [file.pixelWidth, file.pixelHeight, layers], format: known.format, mipLevelCount: file.levels.length, usage: GPUTextureUsage.TEXTURE_BINDING | GPUTextureUsage.COPY_DST });
	file.levels.forEach(({ levelData, uncompressedByteLength }, mipLevel) => {
		let data: Uint8Array = file.supercompressionScheme === 0 ? levelData : unpacker.decode(levelData, uncompressedByteLength);
		// Values of 16 bits are read as floats.
		if (file.vkFormat === R16) data = new Uint8Array(Float32Array.from(new Uint16Array(data.slice().buffer), (value) => value / 65535).buffer);
		const [width, height] = [Math.max(1, file.pixelWidth >> mipLevel), Math.max(1, file.pixelHeight >> mipLevel)];
		const [across, down] = known.blocks ? [Math.ceil(width / 4), Math.ceil(height / 4)] : [width, height];
		// Of blocks whole ones are written, also where a level is smaller.
		device.queue.writeTexture({ texture: made, mipLevel }, data as Uint8Array<ArrayBuffer>, { bytesPerRow: known.bytes * across, rowsPerImage: down }, known.blocks ? [4 * across, 4 * down, layers] : [width, height, layers]);
	});
	return made;
}

/** PNG and TGA say nothing of their colour space or levels: the sidecar does. */
async function picture(device: GPUDevice, bytes: ArrayBuffer, path: string, told: Told): Promise<GPUTexture> {
	let source: ImageBitmap | ImageData;
	if (path.endsWith('.tga')) {
		const { data, width, height } = new TGALoader().parse(bytes) as { data: Uint8Array; width: number; height: number };
		source = new ImageData(new Uint8ClampedArray(data), width, height);
	} else source = await createImageBitmap(new Blob([bytes]), { colorSpaceConversion: 'none', premultiplyAlpha: 'none' });
	const { width, height } = source;
	const mipLevelCount = told.sampling.mips ? 1 + Math.floor(Math.log2(Math.max(width, height))) : 1;
	const format: GPUTextureFormat = told.encoding === 'colour' ? 'rgba8unorm-srgb' : 'rgba8unorm';
	const made = device.createTexture({ size: [width, height], format, mipLevelCount, usage: GPUTextureUsage.TEXTURE_BINDING | GPUTextureUsage.COPY_DST | GPUTextureUsage.RENDER_ATTACHMENT });
	device.queue.copyExternalImageToTexture({ source }, { texture: made }, [width, height]);
	const code = device.createShaderModule({
		code: `@group(0) @binding(0) var above: texture_2d<f32>;
@group(0) @binding(1) var smooth_: sampler;
struct At { @builtin(position) at: vec4f, @location(0) uv: vec2f }
@vertex fn corner(@builtin(vertex_index) i: u32) -> At { let uv = vec2f(f32(i << 1u & 2u), f32(i & 2u)); return At(vec4f(uv * 2.0 - 1.0, 0.0, 1.0), vec2f(uv.x, 1.0 - uv.y)); }
@fragment fn mean(v: At) -> @location(0) vec4f { return textureSampleLevel(above, smooth_, v.uv, 0.0); }`
	});
	const pipeline = device.createRenderPipeline({ layout: 'auto', vertex: { module: code }, fragment: { module: code, targets: [{ format }] } });
	const sampler = device.createSampler({ magFilter: 'linear', minFilter: 'linear' });
	const commands = device.createCommandEncoder();
	for (let level = 1; level < mipLevelCount; level++) {
		const pass = commands.beginRenderPass({ colorAttachments: [{ view: made.createView({ baseMipLevel: level, mipLevelCount: 1 }), loadOp: 'clear', storeOp: 'store' }] });
		pass.setPipeline(pipeline);
		pass.setBindGroup(0, device.createBindGroup({ layout: pipeline.getBindGroupLayout(0), entries: [{ binding: 0, resource: made.createView({ baseMipLevel: level - 1, mipLevelCount: 1 }) }, { binding: 1, resource: sampler }] }));
		pass.draw(3);
		pass.end();
	}
	device.queue.submit([commands.finish()]);
	return made;
}
