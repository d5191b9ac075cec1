import { generateTangents } from 'mikktspace';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';

/** Meshes whose corners follow one after another, with the tangents that the core bakes normals in. */
const vectors = JSON.parse(readFileSync(new URL('../../../core/tests/Mesh/tangents.json', import.meta.url), 'utf8')) as Record<string, { positions: number[]; normals: number[]; uvs: number[]; tangents: number[] }>;

describe('tangents', () => {
	it.each(Object.keys(vectors))('of the core are those of the reference: %s', (name) => {
		const { positions, normals, uvs, tangents } = vectors[name]!;
		// The reference has v upwards.
		const upwards = uvs.map((value, i) => (i % 2 === 0 ? value : 1 - value));
		const reference = generateTangents(new Float32Array(positions), new Float32Array(normals), new Float32Array(upwards));
		const corners = tangents.length / 4;
		expect(corners).toBeGreaterThan(30);
		let flipped = 0;
		for (let c = 0; c < corners; c++) {
			const [mine, theirs] = [tangents.slice(4 * c, 4 * c + 4), [...reference.slice(4 * c, 4 * c + 4)]];
			for (let k = 0; k < 4; k++) expect(Math.abs(mine[k]! - theirs[k]!), `corner ${c}: ${mine.join(' ')} and ${theirs.join(' ')}`).toBeLessThan(2e-3);
			if (mine[3]! < 0) flipped++;
		}
		if (name === 'net') expect(flipped).toBeGreaterThan(20);
	});
});
