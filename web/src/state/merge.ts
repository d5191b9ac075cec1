import { valueAt } from './pointer';

/**
 * Brings together what two sides made of the same JSON; where both changed the same value, the second counts. The rules are the core's
 * (core/src/Format/Merge.php), and held against it by its vectors.
 */
export function merge<T>(base: T, first: T, second: T): T {
	return value(base, first, second) as T;
}

const ABSENT = Symbol('nothing');
type Parts = Map<string, unknown>;

/** Whether two values mean the same: the order of an object's keys means nothing. */
export function same(a: unknown, b: unknown): boolean {
	if (a === b) return true;
	if (Array.isArray(a) || Array.isArray(b)) return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((one, i) => same(one, b[i]));
	if (!isObject(a) || !isObject(b)) return false;
	const keys = Object.keys(a);
	return keys.length === Object.keys(b).length && keys.every((key) => key in b && same(a[key], b[key]));
}

function value(base: unknown, first: unknown, second: unknown): unknown {
	if (same(first, second) || same(base, second)) return first;
	if (same(base, first)) return second;
	const parts = partsOf([first, second], base);
	if (parts === null) return second;
	const [ones, others] = parts as [Parts, Parts];
	const before = partsOf([base, first])?.[0] ?? new Map<string, unknown>();
	const merged: Parts = new Map();
	for (const key of order([...ones.keys()], [...others.keys()])) {
		const one = value(under(before, key), under(ones, key), under(others, key));
		if (one !== ABSENT) merged.set(key, one);
	}
	if (isObject(first)) return Object.fromEntries(merged);
	return arranged([...merged.keys()], [...before.keys()], [...ones.keys()], [...others.keys()]).map((key) => merged.get(key));
}

function arranged(all: string[], before: string[], ones: string[], others: string[]): string[] {
	const shared = ones.filter((key) => others.includes(key));
	const [b, o, t] = [before, ones, others].map((keys) => keys.filter((key) => shared.includes(key))) as [string[], string[], string[]];
	const asBefore = (keys: string[]): boolean => same(keys, b.filter((key) => keys.includes(key)));
	// Where both moved something, the second counts.
	const lead = same(o, t) || (!asBefore(o) && asBefore(t));
	return order(lead ? ones : others, lead ? others : ones).filter((key) => all.includes(key));
}

/** One sequence, with what only another has put in behind what it follows there. */
function order(lead: string[], more: string[]): string[] {
	const all = [...lead];
	more.forEach((key, i) => {
		if (!all.includes(key)) all.splice(i === 0 ? 0 : all.indexOf(more[i - 1]!) + 1, 0, key);
	});
	return all;
}

/** What values consist of by key, if all have keys of one kind. */
function partsOf(values: unknown[], base?: unknown): Parts[] | null {
	if (values.every(isObject)) return values.map((one) => new Map(Object.entries(one as Record<string, unknown>)));
	if (!values.every(Array.isArray)) return null;
	const lists = values as unknown[][];
	for (const by of ['id', 'name', null]) {
		const keyed = lists.map((list) => keyedBy(list, by));
		if (keyed.every((one) => one !== null)) return keyed;
	}
	const kinds = (Array.isArray(base) ? [...lists, base as unknown[]] : lists).map(kindsOf);
	if (kinds.some((one) => one === null)) return null;
	const known = kinds as string[][];
	if (known.every((one) => new Set(one).size === one.length)) return lists.map((list, i) => new Map(list.map((one, n) => [known[i]![n]!, one])));
	return known.every((one) => same(one, known[0])) ? lists.map((list) => new Map(list.map((one, n) => [String(n), one]))) : null;
}

/** The words in each member of a list of objects, which tell what it is. */
function kindsOf(list: unknown[]): string[] | null {
	const kinds: string[] = [];
	for (const one of list) {
		const words = isObject(one) ? Object.entries(one).filter(([, word]) => typeof word === 'string') : [];
		if (words.length === 0 || words.some(([name]) => name === 'id' || name === 'name')) return null;
		kinds.push(words.sort(([a], [b]) => (a < b ? -1 : 1)).map(([, word]) => word).join(' '));
	}
	return kinds;
}

function keyedBy(list: unknown[], by: string | null): Parts | null {
	const keyed: Parts = new Map();
	for (const one of list) {
		const key = by === null ? one : isObject(one) ? one[by] : null;
		if (typeof key !== 'string' || keyed.has(key)) return null;
		keyed.set(key, one);
	}
	return keyed;
}

/** The JSON Pointer of a place that is told by the names of members: as it is in this document; null if it is not there. */
export function pointerOf(document: unknown, path: string): string | null {
	let pointer = '';
	let at = document;
	for (const word of path.split('/').slice(1)) {
		const parts = partsOf([at])?.[0];
		if (parts === undefined) return null;
		const found = [...parts.keys()].indexOf(word);
		if (found < 0) return null;
		pointer += `/${Array.isArray(at) ? found : word}`;
		at = parts.get(word);
	}
	return pointer;
}

/** Of values that somebody else has set: where those are that lie as they were set here, and what they were. */
export function stillMine(document: unknown, over: readonly { path: string; was: unknown }[]): { pointer: string; was: unknown }[] {
	return over.flatMap(({ path, was }) => {
		const pointer = pointerOf(document, path);
		return pointer !== null && same(valueAt(document, pointer), was) ? [{ pointer, was }] : [];
	});
}

/** Earlier and later states, as JSON, with what others have made of the document: going back to one undoes what was done here alone. */
export function rebased(states: readonly string[], base: unknown, theirs: unknown): string[] {
	return states.map((text) => JSON.stringify(merge(base, theirs, JSON.parse(text))));
}

const under = (parts: Parts, key: string): unknown => (parts.has(key) ? parts.get(key) : ABSENT);
const isObject = (one: unknown): one is Record<string, unknown> => typeof one === 'object' && one !== null && !Array.isArray(one);
