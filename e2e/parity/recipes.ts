/** Runs in the browser: draws the pictures of recipes as their preview does, and compares them with what the bake makes. */
import type { RecipeDocument, RecipeView } from '../../web/src/api/client';
import { RecipePainter } from '../../web/src/recipes/painter';

export type RecipeCase = {
	name: string;
	document: RecipeDocument;
	views: RecipeView[];
	outside: Record<string, { below: number; above: number }>;
	images: { name: string; channels: number; bytes: string }[];
};
export type RecipeComparison = { samples: number; off: number; worst: { image: string; difference: number }; outside: number; error: string | null };

/** Steps of a byte: one for rounding; two for slopes, whose heights have 16 bits in the one and 24 in the other. */
const NEAR = 1;
const NEAR_OF_SLOPES = 2;

let painter: RecipePainter | null = null;

function stored(images: RecipeCase['images'][number]): number[] {
	const bytes = Uint8Array.from(atob(images.bytes), (c) => c.charCodeAt(0));
	if (images.channels !== 2) return [...bytes];
	return Array.from({ length: bytes.length / 2 }, (_, i) => (bytes[2 * i]! * 256 + bytes[2 * i + 1]!) / 257);
}

/** One context for all: of too many, a browser takes the oldest away. */
function ready(): RecipePainter {
	const gl = document.createElement('canvas').getContext('webgl2');
	if (gl === null) throw new Error('No WebGL 2.');
	return new RecipePainter(gl);
}

export function compareRecipe(side: number, one: RecipeCase): RecipeComparison {
	const result: RecipeComparison = { samples: 0, off: 0, worst: { image: '', difference: 0 }, outside: 0, error: null };
	try {
		painter ??= ready();
		painter.load({ views: one.views });
		painter.fill(one.document);
		for (const image of one.images) {
			const ground = image.name.startsWith('ground-');
			const key = ground ? `ingredient ${image.name.slice(7)}` : `map ${image.name}`;
			const colour = ['base-colour', 'emission'].includes(image.name);
			const expected = stored(image);
			const channels = image.channels === 2 ? 1 : image.channels;
			const deep = ground || image.channels === 2;
			const drawn = deep ? painter.numbers(key, side) : painter.bytes(key, side, side, colour);
			const near = ['normal', 'occlusion'].includes(image.name) ? NEAR_OF_SLOPES : NEAR;
			for (let i = 0; i < side * side; i++) {
				for (let c = 0; c < channels; c++) {
					const difference = Math.abs(drawn[4 * i + c]! * (deep ? 255 : 1) - expected[channels * i + c]!);
					result.samples++;
					if (difference > near) result.off++;
					if (difference > result.worst.difference) result.worst = { image: image.name, difference };
				}
			}
		}
		for (const [id, share] of Object.entries(one.outside)) {
			const found = painter.spread(id);
			result.outside = Math.max(result.outside, Math.abs(found.below - share.below), Math.abs(found.above - share.above));
		}
	} catch (error) {
		result.error = String(error);
	}
	return result;
}
