import { describe, expect, it } from 'vitest';
import type { Control, MaterialDocument, StepUse } from '../api/client';
import { areasOf, coordinateAt, dragged, edgeOf, gripsOf, placeOf, spotsOf, type Area } from './areas';

const number = (name: string, handle: string): Control => ({ type: 'number', name, label: name, help: '', structural: false, unit: '', soft: [-5, 5], hard: [-9, 9], step: 0.1, ratio: false, whole: false, default: 1, handle }) as unknown as Control;
const columns = [number('u', 'areaU'), number('v', 'areaV'), number('width', 'areaWidth'), number('height', 'areaHeight'), number('turn', 'areaTurn')];
const controls = [...columns, { type: 'rows', name: 'more', default: [], columns } as unknown as Control];
const use: StepUse = { step: 'place', on: true, values: { u: 2, v: { parameter: 'down', factor: 2, offset: 0 }, width: 3, height: 1, turn: 90, more: [{ u: 5, v: 6, width: 1, height: 1, turn: 0 }] } };
const document: MaterialDocument = { format: 'rilta-material/2', name: '', parameters: [{ id: 'down', name: 'Down', kind: 'number', unit: '', min: 0, max: 4, step: 0.1, value: 0.5 }], lanes: [], layers: [] };
const area: Area = { u: 2, v: 1, width: 3, height: 1, turn: 90 };
const near = (a: number[], b: number[]): void => a.forEach((one, i) => expect(one).toBeCloseTo(b[i]!, 4));

describe('rectangles on the stage', () => {
	it('are read from a step and its rows, with the paths of their numbers', () => {
		const found = areasOf(document, '/lanes/0/steps/1', use, controls);
		expect(found.map((one) => one.area)).toEqual([area, { u: 5, v: 6, width: 1, height: 1, turn: 0 }]);
		expect(found[0]!.limits.width).toEqual([-9, 9]);
		expect(found[1]!.paths.width).toBe('/lanes/0/steps/1/values/more/0/width');
		expect(areasOf(document, '/lanes/0/steps/1', use, columns.slice(1))).toEqual([]);
	});

	it('turn counter-clockwise with v downwards: after 90 degrees the right edge is above', () => {
		const corners = gripsOf(area).slice(1, 5).map(([, place]) => place);
		// Half the height to the sides, half the width up and down.
		near(corners[1]!, [1.5, -0.5]);
		near(corners[2]!, [2.5, -0.5]);
		near(edgeOf(area, 2)[0]!, corners[0]!);
		expect(edgeOf(area, 2)).toHaveLength(9);
	});

	it('follow what is dragged', () => {
		expect(dragged(area, 'centre', [2.6, 1.4], [0.1, 0.2])).toEqual({ u: 2.5, v: 1.2 });
		for (const [grip, place] of gripsOf(area).slice(1, 5)) expect(dragged(area, grip, place, [0, 0])).toEqual({ width: 3, height: 1 });
		expect(dragged(area, 2, [3, -1], [0, 0])).toEqual({ width: 4, height: 2 });
		expect(dragged(area, 'turn', gripsOf(area)[5]![1], [0, 0])).toEqual({ turn: 90 });
		expect(dragged({ ...area, turn: 0 }, 'turn', [1, 1], [0, 0])).toEqual({ turn: 90 });
	});

	it('are found in a picture of their coordinate, finer than its pixels', () => {
		// u = 2x + 0.5y, v = 3 - y over 8 x 4 pixels; an object of another face in the last column, nothing in the first.
		const values = new Float32Array(8 * 4 * 4);
		for (let y = 0; y < 4; y++) for (let x = 0; x < 8; x++) values.set([2 * x + 0.5 * y, 3 - y, x === 7 ? 1 : 0, x === 0 ? 0 : 1], 4 * (8 * y + x));
		const spots = spotsOf({ width: 8, height: 4, values });
		near(coordinateAt(spots, 3.7 / 8, 1 - 2.1 / 4)!, [2 * 3.2 + 0.5 * 1.6, 3 - 1.6]);
		expect(coordinateAt(spots, 0.5 / 8, 0.5)).toBeNull();
		near(placeOf(spots, [2 * 3.2 + 0.5 * 1.6, 1.4], [0.5, 0.5])!, [3.7 / 8, 1 - 2.1 / 4]);
		expect(placeOf(spots, [40, 1], [0.5, 0.5])).toBeNull();
		// On another face than what it is asked beside, it is not looked for.
		const [u, v] = coordinateAt(spots, 7.5 / 8, 1 - 2.5 / 4)!;
		for (const x of [6, 7]) values[4 * (8 * 1 + x) + 2] = 1;
		for (let y = 0; y < 4; y++) values[4 * (8 * y + 6) + 2] = 1;
		const two = spotsOf({ width: 8, height: 4, values });
		near(placeOf(two, [u!, v!], null)!, [7.5 / 8, 1 - 2.5 / 4]);
		expect(placeOf(two, [u!, v!], [3.5 / 8, 0.5])).toBeNull();
	});
});
