/** Numbers as people write them. Values in documents are in the control's own unit. */
import jsep, { type Expression } from 'jsep';

const FACTORS: Record<string, Record<string, number>> = {
	m: { m: 1, cm: 0.01, mm: 0.001, km: 1000 },
	'°': { '°': 1, deg: 1, rad: 180 / Math.PI },
	'%': { '%': 1 },
	's': { s: 1, ms: 0.001, min: 60 },
	'/s': { '/s': 1 },
	'': {}
};

/** Four figures, or as many as there are before the point. */
export function format(value: number): string {
	return Math.abs(value) >= 10000 ? String(Math.round(value)) : String(Number(value.toPrecision(4)));
}

/** What a control says of how its number grows. */
type Scale = { soft: number[]; hard: number[]; step: number; ratio: boolean; whole?: boolean };

/** Without what adding in binary leaves behind. */
const clean = (x: number): number => Number(x.toPrecision(12));

/** The largest of 1, 2 and 5 times a power of ten that is not above a number. */
function round(x: number): number {
	const power = 10 ** Math.floor(Math.log10(x) + 1e-9);
	return clean(power * [5, 2, 1].find((one) => one * power <= x * (1 + 1e-9))!);
}

/** Steps over the range that people usually want. */
const STEPS = 200;

/** How far one step goes from a value: of a size, about a hundredth of it; of anything else the same everywhere. */
function stepAt(control: Scale, value: number): number {
	const step = control.ratio && value > 0 ? round(value / 100) : round((control.soft[1]! - control.soft[0]!) / STEPS);
	return control.whole === true ? Math.max(1, step) : step;
}

/**
 * Where a value comes by so many pixels, each of which is one step; with Shift a tenth of one. On the way it stands on whole steps, and
 * going back leads to where it came from.
 */
export function scrubbed(control: Scale, from: number, pixels: number, fine: boolean): number {
	const way = Math.sign(pixels);
	let value = from;
	for (let left = Math.abs(Math.trunc(pixels)); left > 0; left--) {
		// Downwards a step is as long as it is below: 1 goes to 0.995, not to 0.99.
		const step = stepAt(control, way < 0 && control.ratio ? value * (1 - 1e-6) : value) * (fine && control.whole !== true ? 0.1 : 1);
		const next = clean(Math.round(value / step + (Math.abs(value / step - Math.round(value / step)) < 1e-6 ? way : way * 0.5)) * step);
		value = Math.min(control.hard[1]!, Math.max(control.hard[0]!, next));
	}
	return value;
}

/** What an arrow key makes of a value: one of the control's own steps; of a size, about a twentieth. */
export function stepped(control: Scale, value: number, by: number): number {
	const step = control.whole === true ? Math.max(1, control.step) : control.ratio && value > 0 ? round(value / 20) : control.step;
	return Math.min(control.hard[1]!, Math.max(control.hard[0]!, clean(value + by * step)));
}

/** The number in the control's unit, or null if it cannot be read: arithmetic with units, "250 cm", "1/3", "2*0.45". */
export function parse(text: string, unit: string): number | null {
	const units = FACTORS[unit] ?? {};
	const names = Object.keys(units).sort((a, b) => b.length - a.length).map((name) => name.replace(/[/]/g, '\\/'));
	let plain = text.replace(/(\d),(\d)/g, '$1.$2').trim();
	// A unit right after a number is a factor.
	if (names.length > 0) plain = plain.replace(new RegExp(`(\\d\\.?|\\.\\d)\\s*(${names.join('|')})(?![a-z])`, 'gi'), (_, n: string, name: string) => `${n}*${units[name.toLowerCase()]}`);
	try {
		const number = evaluate(jsep(plain));
		return Number.isFinite(number) ? Number(number.toPrecision(12)) : null;
	} catch {
		return null;
	}
}

function evaluate(node: Expression): number {
	if (node.type === 'Literal' && typeof node.value === 'number') return node.value;
	if (node.type === 'UnaryExpression') {
		const value = evaluate(node.argument as Expression);
		return node.operator === '-' ? -value : node.operator === '+' ? value : Number.NaN;
	}
	if (node.type === 'BinaryExpression') {
		const [a, b] = [evaluate(node.left as Expression), evaluate(node.right as Expression)];
		const of: Record<string, number> = { '+': a + b, '-': a - b, '*': a * b, '/': a / b };
		return of[String(node.operator)] ?? Number.NaN;
	}
	return Number.NaN;
}
