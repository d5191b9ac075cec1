/** Files as readers that are not ours find them. */
import { read } from 'ktx-parse';
import { SRGBColorSpace, WebGLRenderer, type DataTexture } from 'three';
import { KTX2Loader } from 'three/examples/jsm/loaders/KTX2Loader.js';
import { bytes } from '../../web/src/stage/parity';

/** VK_FORMAT_R16_UNORM */
const R16 = 70;

export type PictureFile = { name: string; file: string; width: number; height: number; layers: number; srgb: boolean; levels: string[] };

let loader: KTX2Loader | null = null;
/** By three's loader. */
function loaded(file: Uint8Array): Promise<DataTexture> {
	loader ??= new KTX2Loader().detectSupport(new WebGLRenderer());
	return new Promise((resolve, reject) => loader!.parse(file.buffer as ArrayBuffer, resolve as never, reject));
}

/** What is wrong with a KTX2 file, in words; empty if three's loader and ktx-parse find what was written. */
export async function pictureFile(one: PictureFile): Promise<string> {
	const file = bytes(one.file);
	const container = read(file);
	const told = [container.pixelWidth, container.pixelHeight, container.layerCount, container.levels.length, container.dataFormatDescriptor[0]?.transferFunction, container.keyValue.KTXorientation];
	const wanted = [one.width, one.height, one.layers, one.levels.length, one.srgb ? 2 : 1, 'rd'];
	if (JSON.stringify(told) !== JSON.stringify(wanted)) return `${JSON.stringify(told)} in place of ${JSON.stringify(wanted)}`;
	const same = (found: { buffer: ArrayBufferLike; byteOffset: number; byteLength: number } | undefined, wants: string): boolean => {
		const expected = bytes(wants);
		return found?.byteLength === expected.length && new Uint8Array(found.buffer, found.byteOffset, found.byteLength).every((byte, i) => byte === expected[i]);
	};
	if (container.supercompressionScheme === 0) {
		for (const [level, wants] of one.levels.entries()) if (!same(container.levels[level]?.levelData, wants)) return `level ${level} differs`;
	}
	// Of 16 bits three's loader knows floats alone.
	if (container.vkFormat === R16) return '';
	const texture = await loaded(file);
	if ((texture.colorSpace === SRGBColorSpace) !== one.srgb) return `its colour space is "${texture.colorSpace}"`;
	for (const [level, wants] of one.levels.entries()) {
		if (!same((texture.mipmaps?.[level] as { data?: Uint8Array } | undefined)?.data, wants)) return `level ${level} differs for three's loader`;
	}
	return '';
}

export type BlockFile = { name: string; kind: 'bc4' | 'bc5' | 'bc7'; file: string; width: number; height: number; srgb: boolean; texels: string };

/** Numbers of Vulkan's formats, and of WebGL's: colours are compared as they are stored, on their curve. */
const KINDS = {
	bc4: { vulkan: 139, extension: 'EXT_texture_compression_rgtc', format: 0x8dbb, parts: 1 },
	bc5: { vulkan: 141, extension: 'EXT_texture_compression_rgtc', format: 0x8dbd, parts: 2 },
	bc7: { vulkan: 145, extension: 'EXT_texture_compression_bptc', format: 0x8e8c, parts: 3 }
};

/** How near a device comes to what was put into blocks, in decibels of the peak; alpha is the largest by which it is off. Text if it is another file than it should be. */
export async function unpacked(one: BlockFile): Promise<{ decibels: number; alpha: number } | string> {
	const kind = KINDS[one.kind];
	const container = read(bytes(one.file));
	if (container.vkFormat !== kind.vulkan + (one.srgb ? 1 : 0)) return `format ${container.vkFormat}`;
	const texture = await loaded(bytes(one.file));
	if ((texture.colorSpace === SRGBColorSpace) !== one.srgb) return `its colour space is "${texture.colorSpace}"`;
	const level = (texture.mipmaps?.[0] as { data: Uint8Array } | undefined)?.data;
	const gl = document.createElement('canvas').getContext('webgl2');
	if (gl?.getExtension(kind.extension) == null || level === undefined) return `no ${kind.extension}`;
	gl.bindTexture(gl.TEXTURE_2D, gl.createTexture());
	gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.NEAREST);
	gl.compressedTexImage2D(gl.TEXTURE_2D, 0, kind.format, one.width, one.height, 0, level);
	const program = gl.createProgram();
	for (const [type, code] of [
		[gl.VERTEX_SHADER, 'void main() { gl_Position = vec4(gl_VertexID == 1 ? 3.0 : -1.0, gl_VertexID == 2 ? 3.0 : -1.0, 0.0, 1.0); }'],
		[gl.FRAGMENT_SHADER, 'precision highp float; uniform sampler2D map; out vec4 seen; void main() { seen = texelFetch(map, ivec2(gl_FragCoord.xy), 0); }']
	] as const) {
		const shader = gl.createShader(type)!;
		gl.shaderSource(shader, `#version 300 es\n${code}`);
		gl.compileShader(shader);
		gl.attachShader(program, shader);
	}
	gl.linkProgram(program);
	gl.useProgram(program);
	gl.bindFramebuffer(gl.FRAMEBUFFER, gl.createFramebuffer());
	gl.bindRenderbuffer(gl.RENDERBUFFER, gl.createRenderbuffer());
	gl.renderbufferStorage(gl.RENDERBUFFER, gl.RGBA8, one.width, one.height);
	gl.framebufferRenderbuffer(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.RENDERBUFFER, gl.getParameter(gl.RENDERBUFFER_BINDING) as WebGLRenderbuffer);
	gl.viewport(0, 0, one.width, one.height);
	gl.drawArrays(gl.TRIANGLES, 0, 3);
	const seen = new Uint8Array(4 * one.width * one.height);
	gl.readPixels(0, 0, one.width, one.height, gl.RGBA, gl.UNSIGNED_BYTE, seen);
	const wanted = bytes(one.texels);
	const samples = wanted.length / (one.width * one.height);
	let [squares, alpha] = [0, 0];
	for (let i = 0; i < one.width * one.height; i++) {
		for (let c = 0; c < kind.parts; c++) squares += (seen[4 * i + c]! - wanted[samples * i + c]!) ** 2;
		if (one.kind === 'bc7') alpha = Math.max(alpha, Math.abs(seen[4 * i + 3]! - wanted[4 * i + 3]!));
	}
	gl.getExtension('WEBGL_lose_context')?.loseContext();
	return { decibels: squares === 0 ? 99 : 10 * Math.log10((255 * 255 * kind.parts * one.width * one.height) / squares), alpha };
}
