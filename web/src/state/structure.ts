import type { components } from '../api/schema';

export type Structure = components['schemas']['Structure'];

/**
 * A document without the numbers that fill uniforms and without the words that only people read, as the core says which they are: as long
 * as two documents have the same outline by the structure that came with the code of one, it is the code of the other as well.
 */
export function outline(document: unknown, { numbers, words, rising }: Structure): string {
	const left = new Set(words);
	/** @param place the path with a star for each place of a list */
	const at = (value: unknown, path: string, place: string): unknown => {
		if (Array.isArray(value)) return !rises(value, rising[path]) ? value : value.map((one, i) => at(one, `${path}/${i}`, `${place}/*`));
		if (typeof value === 'object' && value !== null) {
			const out: Record<string, unknown> = {};
			for (const [key, one] of Object.entries(value)) {
				const kept = at(one, `${path}/${key}`, `${place}/${key}`);
				// A number that may be left out is left out.
				const optional = kept === '#' && (numbers[`${path}/${key}`]?.[3] ?? null) !== null;
				if (!left.has(`${place}/${key}`) && !optional) out[key] = kept;
			}
			return out;
		}
		if (typeof value !== 'number' && typeof value !== 'boolean') return value;
		const range = numbers[path];
		const number = Number(value);
		return range !== undefined && number >= range[0] && number <= range[1] && (!range[2] || Number.isInteger(number)) ? (typeof value === 'number' ? '#' : '?') : value;
	};
	return JSON.stringify(at(document, '', ''));
}

/** Whether the numbers of a column grow from row to row, as they have to. */
function rises(rows: unknown[], column: string | undefined): boolean {
	if (column === undefined) return true;
	const found = rows.map((row) => (row as Record<string, unknown> | null)?.[column]).filter((one) => typeof one === 'number');
	return found.every((one, i) => i === 0 || one > found[i - 1]!);
}

/** What is told of all below a path, by paths from there on. */
export function below({ numbers, rising }: Structure, path: string): Structure {
	const inside = <T>(all: Record<string, T>): Record<string, T> => Object.fromEntries(Object.entries(all).filter(([at]) => at.startsWith(`${path}/`)).map(([at, one]) => [at.slice(path.length), one]));
	return { numbers: inside(numbers), words: [], rising: inside(rising) };
}

/** A document with all its numbers alike: enough to tell a drag from another structure, while nobody knows yet which numbers are which. */
export function sketch(document: unknown): string {
	return JSON.stringify(document, (_, value: unknown) => (typeof value === 'number' ? 0 : value));
}
