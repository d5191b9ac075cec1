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

export function format(value: number): string {
	return String(Number(value.toPrecision(4)));
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
