import { describe, expect, it } from 'vitest';
import { Rows, inRows } from './rows';

const declarations = `struct RiltaSurface { vec3 position; };
uniform float size;
uniform uint seed;
uniform bool mirrored;
uniform int riltaWidth;
uniform float last;
uniform ivec2 riltaLane0;
uniform highp sampler2DArray maps0; // wall/base-colour
float twice(float x) { return 2.0 * x; }
`;

describe('numbers in rows', () => {
	it('are uniforms of an object alone, and read from its row where many are drawn at once', () => {
		const { code, numbers } = inRows(declarations);
		expect(numbers.map(({ name, type }) => `${type} ${name}`)).toEqual(['float size', 'uint seed', 'bool mirrored', 'int riltaWidth', 'float last']);
		const [before, many, alone] = code.split(/#ifdef USE_INSTANCING|#else/);
		expect(before).toBe('struct RiltaSurface { vec3 position; };\n');
		expect(many).toContain('	size = uintBitsToFloat(w.x);\n	seed = w.y;\n	mirrored = w.z != 0u;\n	riltaWidth = int(w.w);\n	w = texelFetch(riltaRows, ivec2(1, vRiltaRow), 0);\n	last = uintBitsToFloat(w.x);\n');
		expect(alone).toContain('uniform float size;\nuniform uint seed;\nuniform bool mirrored;\nuniform int riltaWidth;\nuniform float last;\n#define RILTA_WEAR\n#endif\n');
		// What is no number stays where it stands.
		expect(alone).toMatch(/#endif\nuniform ivec2 riltaLane0;\nuniform highp sampler2DArray maps0; \/\/ wall\/base-colour\nfloat twice/);
		expect(inRows('float twice;\n').code).toMatch(/#endif\nfloat twice;\n$/);
	});

	it('have the bits of their uniforms, and are handed over when one changes', () => {
		const rows = new Rows();
		const { numbers } = inRows(declarations);
		const uniforms = Object.fromEntries(numbers.map(({ name }) => [name, { value: 0 as number | boolean }]));
		const fill = (...sizes: number[]) => rows.fill(numbers, uniforms, sizes.length, (row) => {
			for (const [name, value] of Object.entries({ size: sizes[row]!, seed: 4294967291, mirrored: row === 1, riltaWidth: -3, last: 1e-30 })) uniforms[name]!.value = value;
		});
		const texture = fill(0.1, 7);
		const bits = texture.image.data as unknown as Uint32Array;
		const floats = new Float32Array(bits.buffer);
		expect([texture.image.width, texture.image.height]).toEqual([2, 2]);
		expect([floats[0], floats[8], floats[4], floats[12]]).toEqual([0.1, 7, 1e-30, 1e-30].map(Math.fround));
		expect([bits[1], bits[2], bits[10], bits[3]]).toEqual([4294967291, 0, 1, 4294967293]);
		const { version } = texture;
		expect(fill(0.1, 7).version).toBe(version);
		expect(fill(0.1, 8).version).toBe(version + 1);
		expect(floats[8]).toBe(8);
		expect(fill(0.1, 8, 9)).not.toBe(texture);
	});
});
