import { expect, test } from 'vitest';
import type { Trail } from '../api/client';
import { lines, said } from './trails';

const trail = (stops: [string, [string, number[]][]][]): Trail => ({ object: null, text: '', stops: stops.map(([label, readings]) => ({ label, readings: readings.map(([name, values]) => ({ name, unit: 'm', values })) })) }) as unknown as Trail;

test('two trails stand side by side, and the first difference is known', () => {
	const found = lines(
		trail([['Surface', [['position', [1, 2, 3]]]], ['Size', [['u', [0.5]]]], ['Colour', [['red', [0.2]]]]]),
		trail([['Surface', [['position', [1, 2, 3.0000001]]]], ['Breakup', [['cell', [7]]]], ['Size', [['u', [0.75]]]], ['Colour', [['red', [0.3]]]]])
	);
	expect(found.lines.map((line) => ('stop' in line ? line.stop : `${line.name} ${line.left} | ${line.right}${line.differs ? ' !' : ''}`))).toEqual([
		'Surface', 'position 1.000 2 3 | 1.000 2 3.000', 'Breakup', 'cell – | 7 !', 'Size', 'u 0.500 | 0.750 !', 'Colour', 'red 0.200 | 0.300 !'
	]);
	expect(found.first).toBe(3);
});

test('what is the same has no difference', () => {
	const one = trail([['Surface', [['position', [1, 2, 3]]]]]);
	expect(lines(one, one).first).toBeNull();
});

test('what only one of them has stands at its end', () => {
	const found = lines(trail([['A', [['x', [1]]]], ['C', [['x', [2]]]]]), trail([['A', [['x', [1]]]], ['D', [['x', [2]]]]]));
	expect(found.lines.filter((line) => 'stop' in line)).toEqual([{ stop: 'A' }, { stop: 'C' }, { stop: 'D' }]);
});

test('values are said with three decimals, whole numbers as they are, and what has no end as such', () => {
	expect([0.5, 12, 1, -3.14159, 65_536_000_000].map(said)).toEqual(['0.500', '12', '1.000', '-3.142', '∞']);
});
