import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { behind, inCode, readMesh } from './meshes';

// Made by the core, whose own tests hold the file.
const file = readFileSync(new URL('../../../core/tests/Format/cube.glb', import.meta.url));
const cube = (): Promise<Awaited<ReturnType<typeof readMesh>>> => readMesh(file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer);

describe('a mesh of the core', () => {
	it('is one geometry, its primitives are groups', async () => {
		const geometry = await cube();
		expect(geometry.groups.map(({ start, count, materialIndex }) => [start, count, materialIndex])).toEqual([0, 1, 2, 3, 4, 5].map((i) => [6 * i, 6, i]));
		expect(geometry.index!.count).toBe(36);
		geometry.computeBoundingBox();
		expect(geometry.boundingBox!.min.toArray()).toEqual([-0.5, 0, -0.5]);
		expect(geometry.boundingBox!.max.toArray()).toEqual([0.5, 1, 0.5]);
	});

	it('has the attributes that the code asks for, by their names there', async () => {
		const { attributes } = await cube();
		const sets = [0, 1, 2, 3].flatMap((set) => [`rilta_TEXCOORD_${set}`, `rilta_TEXCOORD_${set}_U`, `rilta_TEXCOORD_${set}_V`]);
		expect(Object.keys(attributes).sort()).toEqual(['normal', 'position', 'rilta_SECTION', ...sets].sort());
		expect(Object.values(attributes).every((one) => one.count === 24)).toBe(true);
		expect(Array.from({ length: 24 }, (_, i) => attributes.rilta_SECTION!.getX(i))).toEqual([0, 1, 2, 3, 4, 5].flatMap((section) => [section, section, section, section]));
		expect(['uv', 'uv3', '_texcoord_2_v', 'color', 'position'].map(inCode)).toEqual(['rilta_TEXCOORD_0', 'rilta_TEXCOORD_3', 'rilta_TEXCOORD_2_V', 'rilta_COLOR_0', 'position']);
	});

	it('lends its attributes to the triangle that code is tried out with', async () => {
		const geometry = await cube();
		const triangle = behind(geometry);
		expect(triangle.getAttribute('rilta_TEXCOORD_1')).toBe(geometry.getAttribute('rilta_TEXCOORD_1'));
		expect([triangle.getAttribute('position').count, triangle.index!.count]).toEqual([3, 3]);
		expect(Object.keys(behind(undefined).attributes)).toEqual(['position', 'normal']);
	});

	it('that is none is refused', async () => {
		const json = JSON.stringify({ asset: { version: '2.0' }, scene: 0, scenes: [{ nodes: [] }] });
		await expect(readMesh(new TextEncoder().encode(json).buffer)).rejects.toThrow('There is no mesh in the file.');
	});
});
