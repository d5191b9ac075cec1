import { ExternalTexture, type WebGLRenderer } from 'three';
import { api, type Lowered, type Sampling } from '../api/client';

/** Milliseconds that drafts have for themselves before what replaces them is asked for. */
const DRAFTS_FOR = 1200;

/**
 * Array textures of a lowered material. Maps of one size and format share a texture; every level comes from the
 * server, so that the browser reads the same numbers as the kernels do.
 */
export class MapTextures {
	private readonly packs = new Map<string, Promise<Uint8Array>>();
	private readonly arrays = new Map<string, ExternalTexture>();

	constructor(private readonly renderer: WebGLRenderer) {}

	/**
	 * The textures by uniform name; loads what is missing. What the server is still making is shown by small drafts first;
	 * `better` is called with the textures that take their place.
	 */
	async of(lowered: Lowered, better: (textures: Map<string, ExternalTexture>) => void = () => {}): Promise<Map<string, ExternalTexture>> {
		const out = new Map<string, ExternalTexture>();
		const later: (() => void)[] = [];
		await Promise.all(
			lowered.arrays.map(async (array) => {
				const maps = array.slots.map((slot) => lowered.maps[slot]);
				const urls = maps.map((map) => map?.url ?? '');
				const drafts = maps.map((map) => map?.draft ?? null);
				// All layers of a texture have one size, so a draft of one needs a draft of each.
				if (drafts.every((draft) => draft !== null) && !this.arrays.has([array.key, ...urls].join(' '))) {
					out.set(array.uniform, await this.array(array, drafts));
					later.push(() => void this.array(array, urls).then((texture) => better(new Map([[array.uniform, texture]])), () => {}));
				} else {
					out.set(array.uniform, await this.array(array, urls));
				}
			})
		);
		// The first picture goes before.
		if (later.length > 0) window.setTimeout(() => { for (const one of later) one(); }, DRAFTS_FOR);
		return out;
	}

	private async array(array: Layers, urls: string[]): Promise<ExternalTexture> {
		const key = [array.key, ...urls].join(' ');
		let texture = this.arrays.get(key);
		if (texture === undefined) {
			const packs = await Promise.all(urls.map((url) => this.pack(url)));
			texture = this.arrays.get(key) ?? this.upload(array, packs);
			this.arrays.set(key, texture);
		}
		return texture;
	}

	dispose(): void {
		const gl = this.renderer.getContext();
		for (const texture of this.arrays.values()) gl.deleteTexture(texture.sourceTexture as WebGLTexture);
		this.arrays.clear();
	}

	private pack(url: string): Promise<Uint8Array> {
		let pack = this.packs.get(url);
		if (pack === undefined) {
			pack = api.texels(url).then((buffer) => new Uint8Array(buffer));
			pack.catch(() => this.packs.delete(url));
			this.packs.set(url, pack);
		}
		return pack;
	}

	private upload(array: Layers, packs: Uint8Array[]): ExternalTexture {
		const gl = this.renderer.getContext() as WebGL2RenderingContext;
		const texture = uploadArray(gl, array, packs);
		this.renderer.resetState();
		return new ExternalTexture(texture);
	}
}

/** What of an array texture tells how to make it; sampled as usual where nothing is said. */
export type Layers = { key: string; sampling?: Sampling };

/** Values of 16 bits as 0…1. */
function unit(bytes: Uint8Array): Float32Array {
	const from = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	return Float32Array.from({ length: bytes.byteLength / 2 }, (_, i) => from.getUint16(2 * i, true) / 65535);
}

/** One array texture from texel packs of one size: a header of 16 bytes, then the levels, largest first. */
export function uploadArray(gl: WebGL2RenderingContext, { key, sampling }: Layers, packs: Uint8Array[]): WebGLTexture {
	const first = packs[0];
	if (first === undefined) throw new Error('An array texture needs at least one map.');
	const head = new DataView(first.buffer, first.byteOffset, 16);
	const [width, height, samples] = [head.getUint32(4, true), head.getUint32(8, true), head.getUint32(12, true)];
	const levels = Math.floor(Math.log2(Math.max(width, height))) + 1;
	const deep = /-r16\b/.test(key);
	if (deep) gl.getExtension('OES_texture_float_linear');
	const [internal, format] = deep
		? [gl.R32F, gl.RED]
		: /-r8\b/.test(key)
		? [gl.R8, gl.RED]
		: /-srgb8\b/.test(key)
			? [gl.SRGB8_ALPHA8, gl.RGBA]
			: [gl.RGBA8, gl.RGBA];
	const texture = gl.createTexture();
	gl.bindTexture(gl.TEXTURE_2D_ARRAY, texture);
	gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1);
	gl.pixelStorei(gl.UNPACK_FLIP_Y_WEBGL, false);
	gl.pixelStorei(gl.UNPACK_PREMULTIPLY_ALPHA_WEBGL, false);
	gl.texStorage3D(gl.TEXTURE_2D_ARRAY, levels, internal, width, height, packs.length);
	packs.forEach((pack, layer) => {
		let [w, h, at] = [width, height, 16];
		for (let level = 0; level < levels; level++) {
			const size = w * h * samples;
			const bytes = pack.subarray(at, at + size);
			gl.texSubImage3D(
				gl.TEXTURE_2D_ARRAY, level, 0, 0, layer, w, h, 1, format, deep ? gl.FLOAT : gl.UNSIGNED_BYTE, deep ? unit(bytes) : bytes
			);
			at += size;
			[w, h] = [Math.max(1, w >> 1), Math.max(1, h >> 1)];
		}
	});
	const wraps = { repeat: gl.REPEAT, mirror: gl.MIRRORED_REPEAT, edge: gl.CLAMP_TO_EDGE };
	const sharp = sampling?.filter === 'sharp';
	const near = sharp ? gl.NEAREST : gl.LINEAR;
	const far = sharp ? gl.NEAREST_MIPMAP_LINEAR : gl.LINEAR_MIPMAP_LINEAR;
	gl.texParameteri(gl.TEXTURE_2D_ARRAY, gl.TEXTURE_MIN_FILTER, sampling?.mips === false ? near : far);
	gl.texParameteri(gl.TEXTURE_2D_ARRAY, gl.TEXTURE_MAG_FILTER, near);
	gl.texParameteri(gl.TEXTURE_2D_ARRAY, gl.TEXTURE_WRAP_S, wraps[sampling?.wrapU ?? 'repeat']);
	gl.texParameteri(gl.TEXTURE_2D_ARRAY, gl.TEXTURE_WRAP_T, wraps[sampling?.wrapV ?? 'repeat']);
	const slanted = gl.getExtension('EXT_texture_filter_anisotropic');
	if (slanted !== null && sampling !== undefined && sampling.anisotropy > 1) {
		const most = Number(gl.getParameter(slanted.MAX_TEXTURE_MAX_ANISOTROPY_EXT));
		gl.texParameterf(gl.TEXTURE_2D_ARRAY, slanted.TEXTURE_MAX_ANISOTROPY_EXT, Math.min(most, sampling.anisotropy));
	}
	gl.bindTexture(gl.TEXTURE_2D_ARRAY, null);
	return texture;
}
