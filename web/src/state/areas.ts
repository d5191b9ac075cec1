/** Rectangles of a lane's coordinate that are dragged on the stage. */
import type { Control, MaterialDocument, Row, StepUse } from '../api/client';
import { numberOf } from './parameters';

/** A rectangle: its centre and size in the coordinate before its step, v downwards; degrees, counter-clockwise. */
export type Area = { u: number; v: number; width: number; height: number; turn: number };
/** One that stands in a document: where its numbers are, and from what to what they go. */
export type PlacedArea = { area: Area; paths: Record<keyof Area, string>; limits: Record<keyof Area, [number, number]> };
/** Numbers of a small picture, rows from below: u, v, which tap it is, and 1 where there is an object. */
type Picture = { width: number; height: number; values: Float32Array };
/** The same with how u and v grow from each pixel to the next on the right and the next above; not a number at the rim of a face. */
export type Spots = Picture & { slopes: Float32Array };
/** What is held: the centre, a corner by its number, or what turns it. */
export type Grip = 'centre' | 'turn' | 0 | 1 | 2 | 3;
type Point = [number, number];
type Number = Extract<Control, { type: 'number' }>;

const PARTS = { areaU: 'u', areaV: 'v', areaWidth: 'width', areaHeight: 'height', areaTurn: 'turn' } as const;
const CORNERS: Point[] = [[-1, -1], [1, -1], [1, 1], [-1, 1]];
/** Where the handle that turns stands above the rectangle, as a share of its longer side. */
const ABOVE = 0.5;
/** Pixels from the middle of one within which it speaks for a coordinate. */
const NEXT = 0.75;

/** The rectangles of a step, with the path of each of their parts; none for steps without. */
export function areasOf(document: MaterialDocument, step: string, use: StepUse, controls: Control[]): PlacedArea[] {
	const from = (numbers: Control[], values: Record<string, unknown>, path: string): PlacedArea | null => {
		const parts = numbers.filter((one): one is Number => one.type === 'number' && one.handle !== undefined && one.handle in PARTS);
		if (parts.length < Object.keys(PARTS).length) return null;
		const entries = parts.map((one) => [PARTS[one.handle as keyof typeof PARTS], one] as const);
		return {
			area: Object.fromEntries(entries.map(([part, one]) => [part, numberOf(document, values[one.name], one)])) as Area,
			paths: Object.fromEntries(entries.map(([part, one]) => [part, `${path}/${one.name}`])) as PlacedArea['paths'],
			limits: Object.fromEntries(entries.map(([part, one]) => [part, one.hard])) as PlacedArea['limits']
		};
	};
	const path = `${step}/values`;
	const first = from(controls, use.values, path);
	const more = controls.flatMap((control) =>
		control.type === 'rows' ? ((use.values[control.name] ?? control.default) as Row[]).map((row, i) => from(control.columns, row, `${path}/${control.name}/${i}`)) : []
	);
	return [first, ...more].filter((one) => one !== null);
}

/** A place of the rectangle, counted from its centre in halves of its sides, as a coordinate. */
function out({ u, v, width, height, turn }: Area, [x, y]: Point): Point {
	const [sin, cos] = [Math.sin((turn * Math.PI) / 180), Math.cos((turn * Math.PI) / 180)];
	const [a, b] = [(x * width) / 2, (y * height) / 2];
	return [u + cos * a + sin * b, v - sin * a + cos * b];
}

/** Where its handles are. */
export function gripsOf(area: Area): [Grip, Point][] {
	const above = -1 - (2 * ABOVE * Math.max(area.width, area.height)) / area.height;
	return [['centre', [area.u, area.v]], ...CORNERS.map((corner, i): [Grip, Point] => [i as Grip, out(area, corner)]), ['turn', out(area, [0, above])]];
}

/** Places along its edges, in order, the first again as the last. */
export function edgeOf(area: Area, each: number): Point[] {
	const along = (from: Point, to: Point): Point[] => Array.from({ length: each }, (_, i) => out(area, [from[0] + ((to[0] - from[0]) * i) / each, from[1] + ((to[1] - from[1]) * i) / each]));
	return [...CORNERS.flatMap((corner, i) => along(corner, CORNERS[(i + 1) % 4]!)), out(area, CORNERS[0]!)];
}

/**
 * The rectangle after a handle came to a coordinate: its size changes about its centre.
 *
 * @param grabbed where the handle was taken, seen from where it stands
 */
export function dragged(area: Area, grip: Grip, [u, v]: Point, grabbed: Point): Partial<Area> {
	const [du, dv] = [u - grabbed[0] - area.u, v - grabbed[1] - area.v];
	const short = (value: number): number => Number(value.toFixed(4));
	if (grip === 'centre') return { u: short(area.u + du), v: short(area.v + dv) };
	if (grip === 'turn') return { turn: Number(((Math.atan2(-du, -dv) * 180) / Math.PI).toFixed(1)) };
	const [sin, cos] = [Math.sin((area.turn * Math.PI) / 180), Math.cos((area.turn * Math.PI) / 180)];
	return { width: short(2 * Math.abs(cos * du - sin * dv)), height: short(2 * Math.abs(sin * du + cos * dv)) };
}

export function spotsOf(picture: Picture): Spots {
	const { width, height, values } = picture;
	const slopes = new Float32Array(values.length).fill(NaN);
	const seen = (p: number): boolean => values[4 * p + 3]! > 0.5;
	/** From a pixel to the neighbour on either side to which it is nearer: not over an edge, where coordinates jump. */
	const along = (p: number, by: number, ahead: boolean, behind: boolean): Point | null => {
		let found: Point | null = null;
		for (const q of [ahead ? p + by : p, behind ? p - by : p]) {
			if (q === p || !seen(q) || values[4 * q + 2] !== values[4 * p + 2]) continue;
			const sign = q > p ? 1 : -1;
			const step: Point = [sign * (values[4 * q]! - values[4 * p]!), sign * (values[4 * q + 1]! - values[4 * p + 1]!)];
			if (found === null || Math.hypot(...step) < Math.hypot(...found)) found = step;
		}
		return found;
	};
	for (let p = 0; p < width * height; p++) {
		if (!seen(p)) continue;
		const [x, y] = [p % width, Math.floor(p / width)];
		const [right, up] = [along(p, 1, x + 1 < width, x > 0), along(p, width, y + 1 < height, y > 0)];
		if (right !== null && up !== null) slopes.set([...right, ...up], 4 * p);
	}
	return { ...picture, slopes };
}

/** The coordinate at a place of the picture, 0…1 from the left and from above; null where there is nothing. */
export function coordinateAt({ width, height, values, slopes }: Spots, x: number, y: number): Point | null {
	const [px, py] = [x * width - 0.5, (1 - y) * height - 0.5];
	const [cx, cy] = [Math.min(width - 1, Math.max(0, Math.round(px))), Math.min(height - 1, Math.max(0, Math.round(py)))];
	const p = 4 * (cy * width + cx);
	if (!(values[p + 3]! > 0.5)) return null;
	const grown = (part: number): number => values[p + part]! + (px - cx) * (slopes[p + part]! || 0) + (py - cy) * (slopes[p + 2 + part]! || 0);
	return [grown(0), grown(1)];
}

/**
 * Where a coordinate is seen, 0…1 from the left and from above; null if nowhere. Of several places the one where it is seen largest; or, of those on
 * the same face as another place, the one nearest to that.
 */
export function placeOf({ width, height, values, slopes }: Spots, [u, v]: Point, near: Point | null): Point | null {
	let found: Point | null = null;
	let least = Infinity;
	const by = near === null ? -1 : Math.floor((1 - near[1]) * height) * width + Math.floor(near[0] * width);
	const face = values[4 * by + 3]! > 0.5 ? values[4 * by + 2] : undefined;
	for (let p = 0; p < width * height; p++) {
		if (face !== undefined && values[4 * p + 2] !== face) continue;
		const [ru, rv, uu, uv] = [slopes[4 * p]!, slopes[4 * p + 1]!, slopes[4 * p + 2]!, slopes[4 * p + 3]!];
		const det = ru * uv - uu * rv;
		const [du, dv] = [u - values[4 * p]!, v - values[4 * p + 1]!];
		// How many pixels further it would be: only from pixels next to it.
		const [dx, dy] = [(du * uv - uu * dv) / det, (ru * dv - du * rv) / det];
		if (!(Math.abs(dx) <= NEXT && Math.abs(dy) <= NEXT)) continue;
		const place: Point = [((p % width) + 0.5 + dx) / width, 1 - (Math.floor(p / width) + 0.5 + dy) / height];
		const far = near === null ? Math.abs(det) : Math.hypot(place[0] - near[0], place[1] - near[1]);
		if (far < least) [found, least] = [place, far];
	}
	return found;
}
