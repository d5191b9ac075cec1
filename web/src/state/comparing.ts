/** How two pictures are looked at. */
export const WAYS = [
	{ value: 'divider', label: 'Divider', help: 'One picture, left and right of a line that can be dragged' },
	{ value: 'beside', label: 'Side by side', help: 'Two pictures from one eye' },
	{ value: 'blink', label: 'Blink', help: 'One after the other in the same place' },
	{ value: 'difference', label: 'Difference', help: 'How different each pixel looks' }
] as const;
export type Way = (typeof WAYS)[number]['value'];

/** How different two pictures look: CIEDE2000 in the mean, what 95 of 100 pixels stay under, the largest, and the share of pixels in which it is seen at all. */
export type Difference = { mean: number; high: number; most: number; share: number };

/** Of a pixel that is there, be it translucent. */
const THERE = 0.02;

/**
 * What the differences of pixels come to.
 *
 * @param pixels four numbers each: the difference first, last how much is there
 * @param least  from which on one is seen
 */
export function summed(pixels: Float32Array, least: number): Difference | null {
	const all = Float32Array.from({ length: pixels.length / 4 }, (_, i) => (pixels[4 * i + 3]! >= THERE ? pixels[4 * i]! : -1)).filter((one) => one >= 0).sort();
	const { length } = all;
	if (length === 0) return null;
	const seen = all.findIndex((one) => one > least);
	return {
		mean: all.reduce((sum, one) => sum + one, 0) / length,
		high: all[Math.min(length - 1, Math.ceil(0.95 * length) - 1)]!,
		most: all[length - 1]!,
		share: seen < 0 ? 0 : (length - seen) / length
	};
}
