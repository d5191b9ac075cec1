import { expect, test } from 'vitest';
import { agrees, totals } from './device.svelte';

const found = (pixels: number, off: number, far = 0, worst: number | null = null, error: string | null = null) => ({ pixels, shown: pixels, shownOff: off, off, far, worst: worst === null ? null : { output: 'value roughness', difference: worst }, error });

test('what materials come to is their sum, and what could not be run is told apart', () => {
	const all = totals([
		{ id: 1, name: 'Wall', found: found(1000, 2) },
		{ id: 2, name: 'Roof', found: found(500, 1, 1, 2.55) },
		{ id: 3, name: 'Dome', found: found(0, 0, 0, null, 'It does not link.') },
		{ id: 4, name: 'Later', found: null }
	]);
	expect(all).toEqual({ materials: 3, samples: 1500, off: 3, far: 1, worst: 2.55, failed: 1 });
	expect(agrees(all)).toBe(false);
	expect(agrees({ ...all, failed: 0 })).toBe(true);
	expect(agrees({ samples: 1500, far: 16, worst: 0, failed: 0 })).toBe(false);
	expect(agrees({ samples: 1500, far: 15, worst: 4, failed: 0 })).toBe(false);
	expect(agrees(totals([]))).toBe(false);
});
