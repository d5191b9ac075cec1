import type { Trail } from '../api/client';

type Stop = Trail['stops'][number];
type Reading = Stop['readings'][number];
/** One line of two trails side by side: a heading, or a value of both. */
export type Line = { stop: string } | { name: string; unit: string; left: string; right: string; differs: boolean };

/** Of numbers that are the same but for rounding. */
const SAME = 5e-4;

/** What is larger has no end: how much longer than wide a texel is, where a projection lies edge-on. */
const ENDLESS = 1e8;

/** A value as people read it. */
export const said = (value: number): string => (Math.abs(value) > ENDLESS ? '∞' : Number.isInteger(value) && Math.abs(value) > 1 ? String(value) : value.toFixed(3));
const told = (reading: Reading | undefined): string => reading?.values.map(said).join(' ') ?? '–';
const same = (one: Reading | undefined, other: Reading | undefined): boolean =>
	one !== undefined && other !== undefined && one.values.length === other.values.length && one.values.every((value, i) => Math.abs(value - other.values[i]!) <= SAME * Math.max(1, Math.abs(value)));

/** Two trails side by side: stops that are called the same beside each other, in the order of the left one, and of the right one where that has more. */
export function lines(left: Trail, right: Trail): { lines: Line[]; first: number | null } {
	const found: Line[] = [];
	const open = [...right.stops];
	const pairs: [Stop | undefined, Stop | undefined][] = [];
	for (const stop of left.stops) {
		const at = open.findIndex((one) => one.label === stop.label);
		// What comes before it on the right alone stands before it here.
		for (const alone of at > 0 ? open.splice(0, at) : []) pairs.push([undefined, alone]);
		pairs.push([stop, at < 0 ? undefined : open.shift()]);
	}
	for (const stop of open) pairs.push([undefined, stop]);
	for (const [one, other] of pairs) {
		found.push({ stop: (one ?? other)!.label });
		const names = [...new Set([...(one?.readings ?? []), ...(other?.readings ?? [])].map((reading) => reading.name))];
		for (const name of names) {
			const [mine, theirs] = [one, other].map((stop) => stop?.readings.find((reading) => reading.name === name));
			found.push({ name, unit: (mine ?? theirs)?.unit ?? '', left: told(mine), right: told(theirs), differs: !same(mine, theirs) });
		}
	}
	const first = found.findIndex((line) => 'differs' in line && line.differs);
	return { lines: found, first: first < 0 ? null : first };
}
