import { describe, expect, it } from 'vitest';
import type { MapInfo } from '../api/client';
import { answers, channelNames, linear, Texels } from './texels';

function pack(width: number, height: number, size: number, bytes: number[]): Uint8Array {
	const out = new Uint8Array(16 + bytes.length);
	const head = new DataView(out.buffer);
	head.setUint32(0, 0x52545031, false);
	[width, height, size].forEach((n, i) => head.setUint32(4 + 4 * i, n, true));
	out.set(bytes, 16);
	return out;
}

describe('texels', () => {
	it('are found by level and place, and repeat', () => {
		const texels = new Texels(pack(4, 2, 1, [1, 2, 3, 4, 5, 6, 7, 8, 20, 30, 99]));
		expect(texels.levels.map((level) => [level.width, level.height, level.at])).toEqual([[4, 2, 16], [2, 1, 24], [1, 1, 26]]);
		expect([texels.at(0, 2, 1), texels.at(0, -1, -1), texels.at(0, 6, 2), texels.at(1, 1, 0), texels.at(9, 0, 0)]).toEqual([[7], [8], [3], [30], [99]]);
		expect(texels.key(false)).toBe('-r8');
	});
	it('have 16 bits or four channels', () => {
		const deep = new Texels(pack(1, 1, 2, [0x39, 0x30]));
		expect([deep.at(0, 0, 0), deep.most, deep.key(false)]).toEqual([[12345], 65535, '-r16']);
		const colour = new Texels(pack(1, 1, 4, [9, 8, 7, 6]));
		expect([colour.at(0, 5, 5), colour.key(true), colour.key(false)]).toEqual([[9, 8, 7, 6], '-srgb8', '-rgba8']);
	});
	it('are counted by value', () => {
		const texels = new Texels(pack(2, 2, 1, [0, 63, 64, 255, 96]));
		expect(texels.histogram(0, 4)).toEqual([[2, 1, 0, 1]]);
		expect(new Texels(pack(1, 1, 4, [0, 128, 255, 255])).histogram(0, 2)).toEqual([[1, 0], [0, 1], [0, 1], [0, 1]]);
	});
	it('are refused when they are broken off', () => {
		expect(() => new Texels(pack(2, 2, 1, [1, 2, 3]))).toThrow('not whole');
		expect(() => new Texels(new Uint8Array(20))).toThrow('no texel pack');
	});
});

describe('words', () => {
	it('turns letters into channels and encoded numbers into light', () => {
		expect([channelNames('xy'), channelNames('w')]).toEqual(['RG', 'A']);
		expect(linear(0.5)).toBeCloseTo(0.21404, 5);
		expect(linear(0.04045)).toBeCloseTo(0.0031308, 6);
	});
	it('finds maps by every word', () => {
		const map = { name: 'salt-crust/height', file: 'salt.png', role: 'height', encoding: 'data', width: 1024, bits: 16, inverted: false, findings: [{ code: 'seam', text: 'It jumps' }] } as unknown as MapInfo;
		expect([answers(map, ''), answers(map, 'salt height'), answers(map, '16 bit'), answers(map, 'SEAM'), answers(map, 'salt normal')]).toEqual([true, true, true, true, false]);
	});
});
