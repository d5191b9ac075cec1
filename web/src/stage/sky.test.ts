import { beforeEach, describe, expect, it } from 'vitest';
import type { Vector3 } from 'three';
import { light, lightValue } from './light';
import { directionOf, Sky } from './sky';

const number = (name: string, value: number): object => ({ name, type: 'number', default: value });
beforeEach(() => {
	const sky = (value: string, strength: number): object => ({
		value, label: value, fields: { sun: [0, 1, 0], sunColour: [1, 0.5, 0.25], sunStrength: [strength], brightness: [1], level0: [0.1, 0.2, 0.3], edges: [1, 2, 3, 4] },
		controls: [number('turn', 90), number('height', 30), number('strength', strength), number('brightness', 100), number('exposure', 0), { name: 'colour', type: 'colour', default: [1, 1, 1] }, { name: 'shown', type: 'switch', default: true }]
	});
	Object.assign(light, { code: '', fixed: '', prefix: 'sky_', exposure: { uniform: 'exposure', value: 0.88 }, skies: [sky('day', 3), sky('dusk', 2)] });
});

describe('the light of a stage', () => {
	it('comes from where it is said to', () => {
		for (const [turn, height, expected] of [[0, 0, [0, 0, -1]], [90, 0, [1, 0, 0]], [-90, 0, [-1, 0, 0]], [180, 45, [0, Math.SQRT1_2, Math.SQRT1_2]], [33, 90, [0, 1, 0]]] as const) {
			directionOf(turn, height).toArray().forEach((part, i) => expect(part).toBeCloseTo(expected[i]!, 12));
		}
	});

	it('is that of its sky where it says nothing', () => {
		expect(lightValue(undefined, 'strength')).toBe(3);
		expect(lightValue({ sky: 'dusk' }, 'strength')).toBe(2);
		expect(lightValue({ sky: 'dusk', strength: 0 }, 'strength')).toBe(0);
		expect(lightValue({ sky: 'gone', height: 7 }, 'turn')).toBe(90);
	});

	it('fills the uniforms that the code reads', () => {
		const sky = new Sky();
		const value = (name: string): unknown => sky.uniforms[name]!.value;
		sky.show({ sky: 'dusk', turn: 0, height: 90, colour: [1, 0.5, 0], brightness: 50, exposure: 1 });
		expect(value('exposure')).toBeCloseTo(1.76, 12);
		expect(value('sky_brightness')).toBe(0.5);
		expect(value('sky_sunStrength')).toBe(2);
		expect((value('sky_sun') as Vector3).y).toBeCloseTo(1, 12);
		// The colour is of the screen: a half is a fifth of the light.
		const [r, g, b] = (value('sky_sunColour') as Vector3).toArray();
		expect([r, b]).toEqual([1, 0]);
		expect(g).toBeCloseTo(0.5 * 0.2140411, 6);
		expect((value('sky_level0') as Vector3).toArray()).toEqual([0.1, 0.2, 0.3]);
		sky.show(undefined);
		expect([value('exposure'), value('sky_brightness'), value('sky_sunStrength')]).toEqual([0.88, 1, 3]);
		sky.dispose();
	});
});
