import type { Lowered } from '../api/client';

type Prelude = Lowered['prelude'];
type Value = number[];

const round = (x: number): number => x >>> 0;
const each = (a: Value, b: Value, of: (x: number, y: number) => number): Value => (a.length >= b.length ? a.map((x, i) => of(x, b[b.length === 1 ? 0 : i]!)) : b.map((y, i) => of(a[a.length === 1 ? 0 : i]!, y)));
const two = (of: (x: number, y: number) => number) => (args: Value[]): Value => each(args[0]!, args[1]!, of);
const one = (of: (x: number) => number) => (args: Value[]): Value => args[0]!.map(of);
const whether = (of: (x: number, y: number) => boolean) => two((x, y) => Number(of(x, y)));
const clamp = (x: number, low: number, high: number): number => Math.min(Math.max(x, low), high);

/** What each operation of the core's graph means, on doubles; those that begin with "u" on whole numbers of 32 bits. */
const OPERATIONS: Record<string, (args: Value[]) => Value> = {
	add: two((x, y) => x + y),
	sub: two((x, y) => x - y),
	mul: two((x, y) => x * y),
	uadd: two((x, y) => round(x + y)),
	usub: two((x, y) => round(x - y)),
	umul: two((x, y) => round(Math.imul(x, y))),
	div: two((x, y) => x / y),
	min: two(Math.min),
	max: two(Math.max),
	pow: two(Math.pow),
	atan2: two(Math.atan2),
	neg: one((x) => -x),
	abs: one(Math.abs),
	floor: one(Math.floor),
	fract: one((x) => x - Math.floor(x)),
	sqrt: one(Math.sqrt),
	exp2: one((x) => 2 ** x),
	log2: one(Math.log2),
	sin: one(Math.sin),
	cos: one(Math.cos),
	mix: ([a, b, t]) => each(each(b!, a!, (y, x) => y - x), t!, (d, s) => d * s).map((d, i) => a![a!.length === 1 ? 0 : i]! + d),
	clamp: ([x, low, high]) => x!.map((v, i) => clamp(v, low![low!.length === 1 ? 0 : i]!, high![high!.length === 1 ? 0 : i]!)),
	smoothstep: ([from, to, x]) => x!.map((v, i) => {
		const [a, b] = [from![from!.length === 1 ? 0 : i]!, to![to!.length === 1 ? 0 : i]!];
		const t = clamp((v - a) / (b - a), 0, 1);
		return t * t * (3 - 2 * t);
	}),
	less: whether((x, y) => x < y),
	lessEqual: whether((x, y) => x <= y),
	and: whether((x, y) => x !== 0 && y !== 0),
	or: whether((x, y) => x !== 0 || y !== 0),
	not: one((x) => Number(x === 0)),
	select: ([condition, then, otherwise]) => (condition![0] !== 0 ? then! : otherwise!),
	vec: (args) => args.flat(),
	length: ([a]) => [Math.hypot(...a!)],
	dot: ([a, b]) => [a!.reduce((sum, x, i) => sum + x * b![i]!, 0)],
	xor: two((x, y) => round(x ^ y)),
	bitAnd: two((x, y) => round(x & y)),
	shiftRight: two((x, y) => x >>> y),
	// Modulo 2^32 in two halves: a double that is larger would lose its lowest bits.
	toUint: one((x) => round(Math.floor(x) % 2 ** 32)),
	toFloat: one((x) => x)
};

/** The uniforms that follow from others, computed in double precision. */
export function prepared(prelude: Prelude, uniforms: (name: string) => number): Record<string, number> {
	const known: Value[] = [];
	for (const [operation, places, data] of prelude.operations as [string, number[], unknown][]) {
		if (operation === 'constant') known.push((data as (number | boolean)[]).map(Number));
		else if (operation === 'uniform') known.push([uniforms(data as string)]);
		else if (operation === 'pick') known.push((data as number[]).map((place) => known[places[0]!]![place]!));
		else known.push(OPERATIONS[operation]!(places.map((place) => known[place]!)));
	}
	return Object.fromEntries(Object.entries(prelude.results).map(([name, place]) => [name, known[place as number]![0]!]));
}
