/** How a set of maps is cut, while people draw it; in percent of the map, snapped to texels. */
import type { SheetCut } from '../api/client';

export type Rectangle = SheetCut['rectangles'][number];
export type Texel = { width: number; height: number };
export type Grip = 'move' | 'corner';

/** The nearest border between texels, in percent. */
export function snapped(percent: number, texels: number): number {
	return (Math.min(texels, Math.max(0, Math.round((percent / 100) * texels))) / texels) * 100;
}

/** The rectangle between two corners, whichever way it was drawn; at least one texel. */
export function between(a: [number, number], b: [number, number], texel: Texel, name: string): Rectangle {
	const span = (p: number, q: number, texels: number): [number, number] => {
		const [low, high] = [snapped(Math.min(p, q), texels), snapped(Math.max(p, q), texels)];
		const least = 100 / texels;
		const from = Math.min(low, 100 - least);
		return [from, Math.max(high - from, least)];
	};
	const [x, width] = span(a[0], b[0], texel.width);
	const [y, height] = span(a[1], b[1], texel.height);
	return { name, x, y, width, height };
}

/** The rectangle moved, or drawn by its lower right corner, by so many percent; it stays in the map. */
export function dragged(from: Rectangle, grip: Grip, dx: number, dy: number, texel: Texel): Rectangle {
	if (grip === 'corner') return between([from.x, from.y], [Math.max(from.x, from.x + from.width + dx), Math.max(from.y, from.y + from.height + dy)], texel, from.name);
	return {
		...from,
		x: snapped(Math.min(100 - from.width, Math.max(0, from.x + dx)), texel.width),
		y: snapped(Math.min(100 - from.height, Math.max(0, from.y + dy)), texel.height)
	};
}

/** The rectangle with one of its measures typed, in texels: it ends where the map does. */
export function measured(from: Rectangle, measure: 'x' | 'y' | 'width' | 'height', texels: number, texel: Texel): Rectangle {
	const typed = { ...from, [measure]: Math.max(0, (texels * 100) / (measure === 'x' || measure === 'width' ? texel.width : texel.height)) };
	return between([typed.x, typed.y], [typed.x + typed.width, typed.y + typed.height], texel, from.name);
}

/** The part under a point, the last drawn first; -1 for none. */
export function partAt(cut: SheetCut, x: number, y: number): number {
	if (cut.columns > 0) {
		if (x < 0 || y < 0 || x >= 100 || y >= 100) return -1;
		return Math.floor((y / 100) * cut.rows) * cut.columns + Math.floor((x / 100) * cut.columns);
	}
	return cut.rectangles.findLastIndex((one) => x >= one.x && y >= one.y && x < one.x + one.width && y < one.y + one.height);
}
