/** Requests and files with one thing wrong, from a seed. */
export type Random = () => number;

/** Numbers in 0…1 that a seed decides (mulberry32). */
export function random(seed: number): Random {
	let state = seed >>> 0;
	return () => {
		state = (state + 0x6d2b79f5) >>> 0;
		let t = state;
		t = Math.imul(t ^ (t >>> 15), t | 1);
		t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	};
}

export const pick = <T>(from: readonly T[], by: Random): T => from[Math.floor(by() * from.length)]!;

const deep = (levels: number): unknown => (levels === 0 ? 1 : [deep(levels - 1)]);
const ODD: readonly unknown[] = [
	null, true, false, -1, 0, 1, 0.5, 3.7, 1e308, -1e308, 1e-308, 2 ** 53, -(2 ** 31), 65537, '', ' ', 'x', '0', '1e999', 'NaN', '=1+1', '../../etc/passwd', '<b>&amp;', 'a\u0000b', '\ud83e\uddf1', '\u202e', 'å'.repeat(300),
	'x'.repeat(70_000), [], {}, [[]], [null], { is: 'y' }, { parameter: 'nobody' }, deep(60), Array.from({ length: 3000 }, (_, i) => i)
];

type Place = { holder: unknown[] | Record<string, unknown>; key: string | number };
function places(value: unknown, found: Place[] = []): Place[] {
	if (value === null || typeof value !== 'object') return found;
	const keys = Array.isArray(value) ? value.map((_, i) => i) : Object.keys(value);
	for (const key of keys) {
		found.push({ holder: value as Place['holder'], key });
		places((value as Record<string | number, unknown>)[key], found);
	}
	return found;
}

/** A copy in which one place holds something odd, holds something of another place, is gone, or is there many times. */
export function mutated(body: unknown, by: Random): unknown {
	const copy = structuredClone(body);
	const all = places(copy);
	if (all.length === 0 || by() < 0.03) return pick(ODD, by);
	const { holder, key } = pick(all, by);
	const at = holder as Record<string | number, unknown>;
	const way = by();
	if (way < 0.6) at[key] = pick(ODD, by);
	else if (way < 0.75) {
		const other = pick(all, by);
		at[key] = structuredClone((other.holder as Record<string | number, unknown>)[other.key]);
	} else if (way < 0.9) {
		if (Array.isArray(holder)) holder.splice(key as number, 1);
		else Reflect.deleteProperty(holder, key);
	} else if (Array.isArray(holder)) holder.splice(key as number, 0, ...Array.from({ length: 1 + Math.floor(by() * 60) }, () => structuredClone(at[key])));
	else at[pick(['__proto__', 'constructor', '', '0', 'unknown', 'x'.repeat(300)], by)] = pick(ODD, by);
	return copy;
}

/** Bytes of which some are others, are gone, or come twice. */
export function damaged(bytes: Buffer, by: Random): Buffer {
	const at = Math.floor(by() * bytes.length);
	const way = by();
	if (way < 0.25) return bytes.subarray(0, at);
	if (way < 0.4) return Buffer.concat([bytes.subarray(0, at), bytes.subarray(Math.floor(by() * bytes.length))]);
	const copy = Buffer.from(bytes);
	// Headers are where decoders believe what they read.
	const where = (): number => (by() < 0.5 ? Math.floor(by() * Math.min(64, copy.length)) : Math.floor(by() * copy.length));
	for (let i = 0; i < 1 + Math.floor(by() * 8); i++) copy[where()] = pick([0, 1, 0x7f, 0x80, 0xff, Math.floor(by() * 256)], by);
	return copy;
}
