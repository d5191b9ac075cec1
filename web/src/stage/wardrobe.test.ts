import { BufferGeometry, Mesh } from 'three';
import { describe, expect, it } from 'vitest';
import type { StageObjects } from './objects';
import type { Program } from './program';
import { Wardrobe } from './wardrobe';

describe('what waits for its program', () => {
	const piece = (key: string, wears: number | null) => ({ key, mesh: Object.assign(new Mesh(new BufferGeometry()), { userData: { wears, variant: '' } }) });

	it('waits as long as it stands on the stage and its program has not come', () => {
		let pieces = [piece('wall', null), piece('flat', 5), piece('post', 7)];
		const wardrobe = new Wardrobe({ pieces: () => pieces, sort: () => {} } as unknown as StageObjects, () => {});
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

describe('what can be drawn at once', () => {
	const program = (hash: string, kind: string) => ({ lowered: { hash, surface: { kind }, views: [] }, uniforms: {}, litFor: () => null, shadowFor: () => null }) as unknown as Program;

	it('is what one program draws, in whatever variants, and nothing that one sees through', () => {
		const sorts: ((wears: number | null, variant: string) => string | null)[] = [];
		const wardrobe = new Wardrobe({ pieces: () => [], sort: (by: (typeof sorts)[number]) => void sorts.push(by) } as unknown as StageObjects, () => {});
		wardrobe.program = program('open', 'opaque');
		const worn: Record<string, { program: Program | null; numbers: Record<string, number>; waits?: boolean }> = {
			'null ': { program: null, numbers: {} },
			'null wet': { program: null, numbers: { size: 2 } },
			'null glazed': { program: program('glazed', 'opaque'), numbers: {} },
			'5 ': { program: program('glass', 'translucent'), numbers: {} },
			'7 ': { program: null, numbers: {}, waits: true }
		};
		wardrobe.dress((material, variant) => worn[`${material} ${variant}`]!);
		const by = sorts.at(-1)!;
		expect([by(null, ''), by(null, 'wet'), by(null, 'glazed'), by(5, ''), by(7, '')]).toEqual(['', '', 'glazed', null, 'waits in ']);
		wardrobe.program = program('open', 'translucent');
		expect([by(null, 'wet'), by(null, 'glazed')]).toEqual([null, 'glazed']);
	});
});
