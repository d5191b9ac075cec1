import { Vector3, type BufferGeometry } from 'three';
import type { Triple } from '../api/client';
import type { Run } from '../state/shaping.svelte';

/** What of the plane is seen: pixels, the middle, and pixels to a unit. */
export type UvSight = { width: number; height: number; u: number; v: number; scale: number };
export type UvColours = { line: string; chosen: string; well: string; border: string };

/** More triangles than this are drawn as a share of them. */
const MOST_LINES = 40_000;

/** The triangles of a mesh as they lie in a set of UVs. */
export class UvPlan {
	readonly triangles: number;
	/** Least u and v, most u and v; null if there is nothing. */
	readonly box: [number, number, number, number] | null;
	private readonly uvs: ArrayLike<number>;
	private readonly corners: ArrayLike<number>;

	/** @param set 0 for the first */
	constructor(private readonly geometry: BufferGeometry, set: number) {
		this.uvs = geometry.hasAttribute(`rilta_TEXCOORD_${set}`) ? geometry.getAttribute(`rilta_TEXCOORD_${set}`).array : [];
		this.corners = this.uvs.length === 0 ? [] : geometry.index!.array;
		this.triangles = this.corners.length / 3;
		let box: [number, number, number, number] | null = null;
		for (let i = 0; i < this.uvs.length; i += 2) {
			const [u, v] = [this.uvs[i]!, this.uvs[i + 1]!];
			box = box === null ? [u, v, u, v] : [Math.min(box[0], u), Math.min(box[1], v), Math.max(box[2], u), Math.max(box[3], v)];
		}
		this.box = box;
	}

	/** U and v of the corners of a triangle. */
	at(triangle: number): [number, number, number, number, number, number] {
		const [a, b, c] = [0, 1, 2].map((k) => 2 * this.corners[3 * triangle + k]!) as [number, number, number];
		return [this.uvs[a]!, this.uvs[a + 1]!, this.uvs[b]!, this.uvs[b + 1]!, this.uvs[c]!, this.uvs[c + 1]!];
	}

	/** The way a triangle faces. */
	normal(triangle: number): Triple {
		const place = this.geometry.getAttribute('position');
		const [a, b, c] = [0, 1, 2].map((k) => new Vector3().fromBufferAttribute(place, this.corners[3 * triangle + k]!)) as [Vector3, Vector3, Vector3];
		return b.sub(a).cross(c.sub(a)).normalize().toArray();
	}

	/**
	 * Draws the plane with maps in all its squares, the triangles, and those that are chosen, moved as they are being dragged.
	 */
	static draw(context: CanvasRenderingContext2D, sight: UvSight, plan: UvPlan | null, runs: readonly Run[], shift: readonly [number, number] | null, image: HTMLImageElement | null, colours: UvColours): void {
		const { width, height, u, v, scale } = sight;
		const [x, y] = [(at: number): number => width / 2 + (at - u) * scale, (at: number): number => height / 2 + (at - v) * scale];
		context.fillStyle = colours.well;
		context.fillRect(0, 0, width, height);
		if (image !== null && scale > 16) {
			context.globalAlpha = 0.55;
			for (let i = Math.floor(u - width / 2 / scale); i < u + width / 2 / scale; i++) {
				for (let j = Math.floor(v - height / 2 / scale); j < v + height / 2 / scale; j++) context.drawImage(image, x(i), y(j), scale, scale);
			}
			context.globalAlpha = 1;
		}
		context.lineWidth = 1.5;
		context.strokeStyle = colours.border;
		context.strokeRect(x(0), y(0), scale, scale);
		if (plan === null) return;
		const trace = (triangle: number, du = 0, dv = 0): void => {
			const [au, av, bu, bv, cu, cv] = plan.at(triangle);
			context.moveTo(x(au + du), y(av + dv));
			context.lineTo(x(bu + du), y(bv + dv));
			context.lineTo(x(cu + du), y(cv + dv));
			context.closePath();
		};
		const step = Math.max(1, Math.ceil(plan.triangles / MOST_LINES));
		context.beginPath();
		for (let t = 0; t < plan.triangles; t += step) trace(t);
		context.lineWidth = 0.5;
		context.strokeStyle = colours.line;
		context.stroke();
		context.beginPath();
		for (const [first, count] of runs) for (let t = first; t < Math.min(first + count, plan.triangles); t += step) trace(t, shift?.[0], shift?.[1]);
		context.fillStyle = context.strokeStyle = colours.chosen;
		context.globalAlpha = 0.28;
		context.fill();
		context.globalAlpha = 1;
		context.lineWidth = 0.8;
		context.stroke();
	}
}

/** The triangle that lies at a place of the plane, the last one if there are several; null for none. */
export function triangleAt(plan: UvPlan, u: number, v: number): number | null {
	for (let t = plan.triangles - 1; t >= 0; t--) {
		const [au, av, bu, bv, cu, cv] = plan.at(t);
		const [a, b, c] = [side(au, av, bu, bv, u, v), side(bu, bv, cu, cv, u, v), side(cu, cv, au, av, u, v)];
		if ((a >= 0 && b >= 0 && c >= 0) || (a <= 0 && b <= 0 && c <= 0)) return t;
	}
	return null;
}

const side = (au: number, av: number, bu: number, bv: number, u: number, v: number): number => (bu - au) * (v - av) - (bv - av) * (u - au);
