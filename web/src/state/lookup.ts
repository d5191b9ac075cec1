/** Points of surfaces as people write them. */
export type Read = { points: number[][]; wrong: string | null };

/**
 * Points from text: in each line x, y, z in metres, and after them, if it is not said for all, the direction that the surface faces there. Commas,
 * semicolons, tabs and blanks part numbers; a line of words at the top, and empty ones, are passed over.
 */
export function readPoints(text: string): Read {
	const points: number[][] = [];
	for (const [i, line] of text.split(/\r?\n/).entries()) {
		const parts = line.trim().split(/\s*[,;]\s*|\s+/).filter((one) => one !== '');
		if (parts.length === 0) continue;
		const numbers = parts.map(Number);
		if (i === 0 && numbers.every((one) => Number.isNaN(one))) continue;
		if ((numbers.length !== 3 && numbers.length !== 6) || numbers.some((one) => !Number.isFinite(one) || Math.abs(one) > 1e9)) return { points, wrong: `Line ${i + 1}: expected 3 numbers, or 6 with a direction, found “${line.trim().slice(0, 40)}”.` };
		if (numbers.length === 6 && numbers.slice(3).every((one) => one === 0)) return { points, wrong: `Line ${i + 1}: 0, 0, 0 is no direction.` };
		points.push(numbers);
	}
	return { points, wrong: null };
}

/** What was found as a table that others read: a line for each point, a column for each layer. */
export function asTable(points: readonly number[][], layers: readonly { name: string }[], weights: readonly number[][]): string {
	const quoted = (text: string): string => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
	return [['x', 'y', 'z', ...layers.map((one) => quoted(one.name))], ...points.map((point, i) => [...point.slice(0, 3), ...(weights[i] ?? []).map((share) => Number(share.toPrecision(9)))])].map((row) => row.join(',')).join('\n') + '\n';
}

/** How often each layer is the one that is seen the most, and how much of all points shows it: 0 to 1. */
export function shares(layers: readonly unknown[], weights: readonly number[][]): { first: number; mean: number }[] {
	return layers.map((_, layer) => ({
		first: weights.filter((of) => of[layer]! > 0 && of.every((share, other) => other === layer || share < of[layer]! || (share === of[layer] && other > layer))).length / Math.max(1, weights.length),
		mean: weights.reduce((sum, of) => sum + of[layer]!, 0) / Math.max(1, weights.length)
	}));
}
