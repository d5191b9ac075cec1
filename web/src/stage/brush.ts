/** How a brush paints. */
export type Brush = {
	/** 0 for the first. */
	channel: number;
	/** 0…1, what it paints with. */
	value: number;
	/** m */
	radius: number;
	/** 0…1: the share of the radius within which it paints with all its strength. */
	hardness: number;
	/** 0…1 */
	strength: number;
	/** Share of its radius that it moves from dab to dab. */
	spacing: number;
	/** Whether it evens out what is there, instead. */
	smooths: boolean;
};

/** Vertices of an object, as a brush sees them: in the object's own coordinates, with the factors that scale it. */
export type Canvas = { positions: ArrayLike<number>; normals: ArrayLike<number>; scale: readonly [number, number, number]; paint: Uint8Array };

/** Vertices whose normals turn away from the one under the pointer are behind an edge. */
const SIDE = 0;

/**
 * One stroke: wherever the pointer has been, what was there before is mixed with the brush's value once, by the largest share that the
 * brush had there. So it makes no difference how often a place is passed, or in how many steps.
 */
export class Stroke {
	private readonly before: Uint8Array;
	private readonly covered: Float32Array;

	constructor(private readonly canvas: Canvas, private readonly brush: Brush) {
		this.before = canvas.paint.slice();
		this.covered = new Float32Array(canvas.positions.length / 3);
	}

	/**
	 * Paints around a place of the object.
	 *
	 * @returns the first and the last vertex that became another; null if none did
	 */
	dab([x, y, z]: readonly [number, number, number], [nx, ny, nz]: readonly [number, number, number]): [number, number] | null {
		const { positions, normals, paint, scale: [sx, sy, sz] } = this.canvas;
		const { channel, radius, hardness, strength, smooths } = this.brush;
		const reach = radius * radius;
		const value = smooths ? this.mean(x, y, z) : this.brush.value * 255;
		let [first, last] = [-1, -1];
		for (let v = 0, p = 0; v < this.covered.length; v++, p += 3) {
			const [dx, dy, dz] = [(positions[p]! - x) * sx, (positions[p + 1]! - y) * sy, (positions[p + 2]! - z) * sz];
			const away = dx * dx + dy * dy + dz * dz;
			if (away >= reach || normals[p]! * nx + normals[p + 1]! * ny + normals[p + 2]! * nz <= SIDE) continue;
			const share = falloff(Math.sqrt(away) / radius, hardness) * strength;
			if (share <= this.covered[v]!) continue;
			this.covered[v] = share;
			const at = 4 * v + channel;
			paint[at] = Math.round(this.before[at]! + (value - this.before[at]!) * share);
			if (first < 0) first = v;
			last = v;
		}
		return first < 0 ? null : [first, last];
	}

	/** Whether it came so near to any vertex that it painted there. */
	get met(): boolean {
		return this.covered.some((share) => share > 0);
	}

	/** Of what was there before, around a place. */
	private mean(x: number, y: number, z: number): number {
		const { positions, scale: [sx, sy, sz] } = this.canvas;
		const { channel, radius } = this.brush;
		let [sum, count] = [0, 0];
		for (let v = 0, p = 0; v < this.covered.length; v++, p += 3) {
			const [dx, dy, dz] = [(positions[p]! - x) * sx, (positions[p + 1]! - y) * sy, (positions[p + 2]! - z) * sz];
			if (dx * dx + dy * dy + dz * dz >= radius * radius) continue;
			sum += this.before[4 * v + channel]!;
			count++;
		}
		return count === 0 ? 0 : sum / count;
	}
}

/** The longest edge of a triangle, metres. */
export function longestEdge(positions: ArrayLike<number>, corners: readonly [number, number, number], [sx, sy, sz]: readonly [number, number, number]): number {
	const side = (a: number, b: number): number => Math.hypot((positions[3 * a]! - positions[3 * b]!) * sx, (positions[3 * a + 1]! - positions[3 * b + 1]!) * sy, (positions[3 * a + 2]! - positions[3 * b + 2]!) * sz);
	const [a, b, c] = corners;
	return Math.max(side(a, b), side(b, c), side(c, a));
}

/** A pen paints as strongly as it is pressed (Pointer Events: 0…1); one that does not tell, and all else, paints as the brush says. */
export function pressed(brush: Brush, { pointerType, pressure }: Pick<PointerEvent, 'pointerType' | 'pressure'>): Brush {
	return pointerType === 'pen' && pressure > 0 ? { ...brush, strength: brush.strength * pressure } : brush;
}

/** 1 within the hard part, and from there smoothly to 0 at the rim. */
export function falloff(share: number, hardness: number): number {
	if (share <= hardness) return 1;
	if (share >= 1) return 0;
	const t = (share - hardness) / (1 - hardness);
	return 1 - t * t * (3 - 2 * t);
}

/**
 * The faces of a mesh whose middle is no further than a reach from a place on it, but for those that look away from there.
 *
 * @param scale of the object: the place is in its mesh's own coordinates, the reach in metres
 */
export function facesWithin(positions: ArrayLike<number>, corners: ArrayLike<number>, [sx, sy, sz]: readonly [number, number, number], [x, y, z]: readonly [number, number, number], [nx, ny, nz]: readonly [number, number, number], reach: number): number[] {
	const found: number[] = [];
	for (let t = 0; 3 * t < corners.length; t++) {
		const [a, b, c] = [3 * corners[3 * t]!, 3 * corners[3 * t + 1]!, 3 * corners[3 * t + 2]!];
		const middle = (k: number): number => (positions[a + k]! + positions[b + k]! + positions[c + k]!) / 3;
		if (Math.hypot((middle(0) - x) * sx, (middle(1) - y) * sy, (middle(2) - z) * sz) > reach) continue;
		const side = (from: number, k: number): number => positions[from + k]! - positions[a + k]!;
		const [ux, uy, uz, vx, vy, vz] = [side(b, 0), side(b, 1), side(b, 2), side(c, 0), side(c, 1), side(c, 2)];
		if ((uy * vz - uz * vy) * nx + (uz * vx - ux * vz) * ny + (ux * vy - uy * vx) * nz > SIDE) found.push(t);
	}
	return found;
}
