import { DataTexture, NoColorSpace, TextureLoader, type Texture, type WebGLRenderer } from 'three';
import { KTX2Loader } from 'three/examples/jsm/loaders/KTX2Loader.js';
import { TGALoader } from 'three/examples/jsm/loaders/TGALoader.js';

/** Files of textures, read by three's loaders as a game's would be. */
export class TextureFiles {
	private readonly ktx2: KTX2Loader;

	constructor(renderer: WebGLRenderer) {
		this.ktx2 = new KTX2Loader().detectSupport(renderer);
	}

	/** Rows from the top. PNG and TGA say nothing of their colour space: they come as they are stored. */
	async read(bytes: ArrayBuffer, name: string): Promise<Texture> {
		if (name.endsWith('.ktx2')) return new Promise((resolve, reject) => this.ktx2.parse(bytes, resolve as (texture: unknown) => void, reject));
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
