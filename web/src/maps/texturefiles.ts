import { read } from 'ktx-parse';
import { DataTexture, FloatType, NoColorSpace, RedFormat, TextureLoader, type Texture, type WebGLRenderer } from 'three';
import { KTX2Loader } from 'three/examples/jsm/loaders/KTX2Loader.js';
import { ZSTDDecoder } from 'three/examples/jsm/libs/zstddec.module.js';
import { TGALoader } from 'three/examples/jsm/loaders/TGALoader.js';

/** Files of textures, read by three's loaders as a game's would be. */
export class TextureFiles {
	private readonly ktx2: KTX2Loader;

	constructor(renderer: WebGLRenderer) {
		this.ktx2 = new KTX2Loader().detectSupport(renderer);
	}

	/** Rows from the top. PNG and TGA say nothing of their colour space: they come as they are stored. */
	async read(bytes: ArrayBuffer, name: string): Promise<Texture> {
		if (name.endsWith('.ktx2')) return (await deep(bytes)) ?? new Promise((resolve, reject) => this.ktx2.parse(bytes, resolve as (texture: unknown) => void, reject));
		if (name.endsWith('.tga')) {
			const { data, width, height } = new TGALoader().parse(bytes) as { data: Uint8Array; width: number; height: number };
			const texture = new DataTexture(data, width, height);
			texture.needsUpdate = true;
			return texture;
		}
		const url = URL.createObjectURL(new Blob([bytes]));
		try {
			const texture = await new TextureLoader().loadAsync(url);
			[texture.colorSpace, texture.flipY] = [NoColorSpace, false];
			return texture;
		} finally {
			URL.revokeObjectURL(url);
		}
	}

	close(): void {
		this.ktx2.dispose();
	}
}

/** VK_FORMAT_R16_UNORM, which three's loader does not read. */
const R16 = 70;

/** A picture of one value of 16 bits, as floats; null for any other. */
async function deep(bytes: ArrayBuffer): Promise<DataTexture | null> {
	const file = read(new Uint8Array(bytes));
	if (file.vkFormat !== R16 || file.layerCount > 0) return null;
	const unpacker = new ZSTDDecoder();
	await unpacker.init();
	const levels = file.levels.map(({ levelData, uncompressedByteLength }, i) => {
		const data = file.supercompressionScheme === 0 ? levelData : unpacker.decode(levelData, uncompressedByteLength);
		const values = new DataView(data.buffer, data.byteOffset, data.byteLength);
		return { data: Float32Array.from({ length: data.byteLength / 2 }, (_, at) => values.getUint16(2 * at, true) / 65535), width: Math.max(1, file.pixelWidth >> i), height: Math.max(1, file.pixelHeight >> i) };
	});
	const texture = new DataTexture(levels[0]!.data, file.pixelWidth, file.pixelHeight, RedFormat, FloatType);
	texture.mipmaps = levels;
	texture.needsUpdate = true;
	return texture;
}
