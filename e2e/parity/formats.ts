/** Files as readers that are not ours find them. */
import { read } from 'ktx-parse';
import { SRGBColorSpace, WebGLRenderer, type DataTexture } from 'three';
import { KTX2Loader } from 'three/examples/jsm/loaders/KTX2Loader.js';
import { bytes } from '../../web/src/stage/parity';

/** VK_FORMAT_R16_UNORM */
const R16 = 70;

export type PictureFile = { name: string; file: string; width: number; height: number; layers: number; srgb: boolean; levels: string[] };

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
	const loader = new KTX2Loader().detectSupport(new WebGLRenderer());
	const texture = await new Promise<DataTexture>((resolve, reject) => loader.parse(file.buffer as ArrayBuffer, resolve as never, reject));
	if ((texture.colorSpace === SRGBColorSpace) !== one.srgb) return `its colour space is "${texture.colorSpace}"`;
	for (const [level, wants] of one.levels.entries()) {
		if (!same((texture.mipmaps?.[level] as { data?: Uint8Array } | undefined)?.data, wants)) return `level ${level} differs for three's loader`;
	}
	return '';
}
