/** Numbers as people write them. Values in documents are in the control's own unit. */

const FACTORS: Record<string, Record<string, number>> = {
	m: { m: 1, cm: 0.01, mm: 0.001, km: 1000 },
	'°': { '°': 1, deg: 1, rad: 180 / Math.PI },
	'': {}
};

export function format(value: number): string {
	return String(Number(value.toPrecision(4)));
}

/** The number in the control's unit, or null if it cannot be read. */
export function parse(text: string, unit: string): number | null {
	const match = /^\s*([-+]?(?:\d+[.,]?\d*|[.,]\d+)(?:e[-+]?\d+)?)\s*([a-z°]*)\s*$/i.exec(text);
	if (match === null) return null;
	const factor = match[2] === '' ? 1 : FACTORS[unit]?.[(match[2] ?? '').toLowerCase()];
	const number = Number((match[1] ?? '').replace(',', '.')) * (factor ?? Number.NaN);
	return Number.isFinite(number) ? Number(number.toPrecision(12)) : null;
}
