import { BufferGeometry, Mesh } from 'three';
import { describe, expect, it } from 'vitest';
import type { StageObjects } from './objects';
import { Wardrobe } from './wardrobe';

describe('what waits for its program', () => {
	const piece = (key: string, wears: number | null) => ({ key, mesh: Object.assign(new Mesh(new BufferGeometry()), { userData: { wears, variant: '' } }) });

	it('waits as long as it stands on the stage and its program has not come', () => {
		let pieces = [piece('wall', null), piece('flat', 5), piece('post', 7)];
		const wardrobe = new Wardrobe({ pieces: () => pieces } as unknown as StageObjects, () => {});
		const dress = (...missing: number[]) => wardrobe.dress((material) => ({ program: null, numbers: {}, waits: missing.includes(material ?? 0) }));
		dress();
		expect(wardrobe.waits).toBe(false);
		dress(5, 7);
		expect(wardrobe.waits).toBe(true);
		dress(7);
		expect(wardrobe.waits).toBe(true);
		// It is deleted before its program comes: nothing is waited for any more.
		pieces = pieces.slice(0, 2);
		dress(7);
		expect(wardrobe.waits).toBe(false);
	});
});
