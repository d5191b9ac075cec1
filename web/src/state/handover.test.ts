import { describe, expect, it } from 'vitest';
import { prefixOf } from './handover.svelte';

describe('the prefix of a material', () => {
	it('is its name as code writes it', () => {
		expect(prefixOf('Quay paving')).toBe('quayPaving');
		expect(prefixOf('  Sea wall, 2nd  ')).toBe('seaWall2nd');
		expect(prefixOf('Flüstergang é')).toBe('flustergangE');
	});
	it('is one that every language takes', () => {
		expect(prefixOf('')).toBe('material');
		expect(prefixOf('塩')).toBe('material');
		expect(prefixOf('3 D')).toBe('d');
		expect(prefixOf('Glazed slate')).toBe('material');
		expect(prefixOf('A'.repeat(60))).toMatch(/^a{24}$/);
		for (const name of ['Quay', '2 Bricks', '--', 'É']) expect(prefixOf(name)).toMatch(/^[a-z][A-Za-z0-9]{0,23}$/);
	});
});
