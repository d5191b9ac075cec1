import { describe, expect, it } from 'vitest';
import type { Control, MaterialDocument, StepUse } from '../api/client';
import { framed, frameOf, handlePaths } from './handles';

const face = { help: '', structural: false, unit: 'm', soft: [-1, 1], hard: [-9, 9], step: 0.1, ratio: false, whole: false };
const number = (name: string, handle: string, fallback: number): Control => ({ ...face, type: 'number', name, label: name, default: fallback, handle }) as unknown as Control;
const controls: Control[] = [
	{ type: 'choice', name: 'space', label: 'Space', help: '', options: [], default: 'world', structural: true, handle: 'space' },
	...['X', 'Y', 'Z'].flatMap((axis, i) => [number(`position${axis}`, `place${axis}`, 0), number(`angle${axis}`, `turn${axis}`, 10 * i)])
];
const use: StepUse = { step: 'origin', on: true, values: { space: 'object', positionX: 1.5, positionY: { parameter: 'high', factor: 2, offset: 1 } } };
const document: MaterialDocument = {
	format: 'rilta-material/2',
	name: '',
	parameters: [{ id: 'high', name: 'High', kind: 'number', unit: 'm', min: 0, max: 4, step: 0.1, value: 0.25 }],
	lanes: [],
	layers: []
};

describe('a frame on the stage', () => {
	it('stands where the values say, those that follow a parameter too', () => {
		expect(frameOf(document, use, controls)).toEqual({ space: 'object', place: [1.5, 1.5, 0], turn: [0, 10, 20] });
	});

	it('is there only when all of its controls are shown', () => {
		expect(frameOf(document, use, controls.slice(0, -1))).toBeNull();
		expect(frameOf(document, use, controls.slice(1))).toBeNull();
	});

	it('sets what was dragged, and leaves what follows a parameter', () => {
		const paths = handlePaths('/lanes/0/steps/0', controls);
		expect(paths.placeX).toBe('/lanes/0/steps/0/values/positionX');
		const values: Record<string, unknown> = { '/lanes/0/steps/0/values/positionY': { parameter: 'high', factor: 2, offset: 1 } };
		expect(framed(paths, { place: [1, 2, 3], turn: [4, 5, 6] }, (path) => values[path])).toEqual([
			['/lanes/0/steps/0/values/positionX', 1],
			['/lanes/0/steps/0/values/positionZ', 3],
			['/lanes/0/steps/0/values/angleX', 4],
			['/lanes/0/steps/0/values/angleY', 5],
			['/lanes/0/steps/0/values/angleZ', 6]
		]);
	});
});
