import { DataTexture, RGBAIntegerFormat, UnsignedIntType, type IUniform } from 'three';

/**
 * Numbers of the document where many objects are drawn at once that wear it in several variants: a row of a texture for each variant, and
 * each object says which is its own. Each number has the 32 bits that its uniform would have.
 */
const SCALAR = /^uniform (float|int|uint|bool) (\w+);\n/gm;
const PARTS = ['x', 'y', 'z', 'w'] as const;
const FROM_BITS: Record<string, (bits: string) => string> = { float: (bits) => `uintBitsToFloat(${bits})`, int: (bits) => `int(${bits})`, uint: (bits) => bits, bool: (bits) => `${bits} != 0u` };

/** A number of the document, as code calls it, and the keyword of its type. */
export type RowNumber = { name: string; type: string };

/** Where an object's row comes from: to be declared, and to be done for each vertex. */
export const ROW = `
#ifdef USE_INSTANCING
in float riltaOwn_row;
flat out int vRiltaRow;
#define RILTA_ROW vRiltaRow = int(riltaOwn_row);
#else
#define RILTA_ROW
#endif
`;

/** Declarations whose numbers are read from the row of an object where many are drawn at once; RILTA_WEAR, which reads them, comes first in `main`. */
export function inRows(declarations: string): { code: string; numbers: RowNumber[] } {
	const numbers = [...declarations.matchAll(SCALAR)].map(([, type, name]) => ({ name: name!, type: type! }));
	const read = numbers.map(({ name, type }, i) => `${i % 4 === 0 ? `	w = texelFetch(riltaRows, ivec2(${i / 4}, vRiltaRow), 0);\n` : ''}	${name} = ${FROM_BITS[type]!(`w.${PARTS[i % 4]!}`)};\n`);
	const many = `uniform highp usampler2D riltaRows;
flat in int vRiltaRow;
${numbers.map(({ name, type }) => `${type} ${name};\n`).join('')}void riltaWear() {
	uvec4 w;
${read.join('')}}
#define RILTA_WEAR riltaWear();`;
	const code = declarations.replace(SCALAR, '');
	const at = code.length === declarations.length ? 0 : declarations.search(SCALAR);
	return {
		code: `${code.slice(0, at)}#ifdef USE_INSTANCING
${many}
#else
${numbers.map(({ name, type }) => `uniform ${type} ${name};\n`).join('')}#define RILTA_WEAR
#endif
${code.slice(at)}`,
		numbers
	};
}

/** The rows of objects that are drawn at once. */
export class Rows {
	private texture: DataTexture | null = null;

	/**
	 * Takes what variants come to.
	 *
	 * @param each gives a program the numbers of a row, whose uniforms are read then
	 */
	fill(numbers: readonly RowNumber[], uniforms: Record<string, IUniform>, rows: number, each: (row: number) => void): DataTexture {
		const width = Math.max(1, Math.ceil(numbers.length / 4));
		const bits = new Uint32Array(4 * width * rows);
		const floats = new Float32Array(bits.buffer);
		for (let row = 0; row < rows; row++) {
			each(row);
			for (const [i, { name, type }] of numbers.entries()) {
				const value = Number(uniforms[name]!.value);
				if (type === 'float') floats[4 * width * row + i] = value;
				else bits[4 * width * row + i] = value;
			}
		}
		const known = this.texture;
		if (known?.image.width === width && known.image.height === rows) {
			const before = known.image.data as unknown as Uint32Array;
			if (bits.every((one, i) => one === before[i])) return known;
			before.set(bits);
			known.needsUpdate = true;
			return known;
		}
		known?.dispose();
		const made = new DataTexture(bits, width, rows, RGBAIntegerFormat, UnsignedIntType);
		made.internalFormat = 'RGBA32UI';
		made.needsUpdate = true;
		return (this.texture = made);
	}

	dispose(): void {
		this.texture?.dispose();
	}
}
