import { beforeEach, describe, expect, it } from 'vitest';
import type { Vector3 } from 'three';
import { light, lightValue, lowestSun } from './light';
import { Sky } from './sky';

const number = (name: string, value: number): object => ({ name, type: 'number', default: value, soft: [1, 90] });
/** As the core sends it: here the sun stands at its numbers, the colour is dimmed, and the rest is what it is. */
const prelude = {
	operations: [...['turn', 'height', 'strength', 'colour/0', 'colour/1', 'colour/2', 'brightness', 'exposure'].map((name) => ['uniform', [], name]), ['constant', [], [0.5]], ['mul', [4, 8], null]],
	results: { 'sun/0': 0, 'sun/1': 1, 'sun/2': 2, 'sunColour/0': 3, 'sunColour/1': 9, 'sunColour/2': 5, 'sunStrength/0': 2, 'brightness/0': 6, exposure: 7 }
};
beforeEach(() => {
	const sky = (value: string, strength: number): object => ({
		value, label: value, fields: { sun: [0, 1, 0], sunColour: [1, 0.5, 0.25], sunStrength: [strength], brightness: [1], level0: [0.1, 0.2, 0.3], edges: [1, 2, 3, 4] }, prelude,
		controls: [number('turn', 90), number('height', 30), number('strength', strength), number('brightness', 100), number('exposure', 0), { name: 'colour', type: 'colour', default: [1, 1, 1] }, { name: 'shown', type: 'switch', default: true }]
	});
	Object.assign(light, { code: '', fixed: '', prefix: 'sky_', exposure: 'exposure', skies: [sky('day', 3), sky('dusk', 2)] });
});

describe('the light of a stage', () => {
	it('is that of its sky where it says nothing', () => {
		expect(lightValue(undefined, 'strength')).toBe(3);
		expect(lightValue({ sky: 'dusk' }, 'strength')).toBe(2);
		expect(lightValue({ sky: 'dusk', strength: 0 }, 'strength')).toBe(0);
		expect(lightValue({ sky: 'gone', height: 7 }, 'turn')).toBe(90);
		expect(lowestSun()).toBe(1);
	});

	it('fills the uniforms that the code reads', () => {
		const sky = new Sky();
		const value = (name: string): unknown => sky.uniforms[name]!.value;
		sky.show({ sky: 'dusk', turn: 7, height: 9, colour: [1, 0.5, 0], brightness: 50, exposure: 1 });
		expect([value('exposure'), value('sky_brightness'), value('sky_sunStrength')]).toEqual([1, 50, 2]);
		expect((value('sky_sun') as Vector3).toArray()).toEqual([7, 9, 2]);
		expect(sky.sun.toArray(), 'shadows fall as the light does').toEqual([7, 9, 2]);
		// The colour is of the screen: a half is a fifth of the light.
		const [r, g, b] = (value('sky_sunColour') as Vector3).toArray();
		expect([r, b]).toEqual([1, 0]);
		expect(g).toBeCloseTo(0.5 * 0.2140411, 6);
		expect((value('sky_level0') as Vector3).toArray()).toEqual([0.1, 0.2, 0.3]);
		sky.show(undefined);
		expect([value('exposure'), value('sky_brightness'), value('sky_sunStrength')]).toEqual([0, 100, 3]);
		sky.dispose();
	});
});
