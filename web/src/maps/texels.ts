import type { MapInfo } from '../api/client';

/** The numbers of a map as everything reads them: the server's texel pack, level by level. */
export class Texels {
	readonly width: number;
	readonly height: number;
	/** Bytes a texel: 1, 2 (one value of 16 bits) or 4. */
	readonly size: number;
	readonly levels: { width: number; height: number; at: number }[] = [];

	constructor(readonly pack: Uint8Array) {
		const head = new DataView(pack.buffer, pack.byteOffset, pack.byteLength);
		if (pack.byteLength < 16 || head.getUint32(0, false) !== 0x52545031) throw new Error('This is no texel pack.');
		[this.width, this.height, this.size] = [head.getUint32(4, true), head.getUint32(8, true), head.getUint32(12, true)];
		let [width, height, at] = [this.width, this.height, 16];
		for (;;) {
			this.levels.push({ width, height, at });
			at += width * height * this.size;
			if (width === 1 && height === 1) break;
			[width, height] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
		}
		if (at !== pack.byteLength) throw new Error('This texel pack is not whole.');
	}

	/** How the browser names textures of such texels. */
	key(colour: boolean): string {
		return this.size === 1 ? '-r8' : this.size === 2 ? '-r16' : colour ? '-srgb8' : '-rgba8';
	}

	/** The largest stored number. */
	get most(): number {
		return this.size === 2 ? 65535 : 255;
	}

	/** The stored numbers of a texel; places outside repeat. One number, or red, green, blue and alpha. */
	at(level: number, x: number, y: number): number[] {
		const one = this.levels[Math.min(this.levels.length - 1, Math.max(0, level))]!;
		const wrap = (v: number, n: number): number => ((Math.floor(v) % n) + n) % n;
		const i = one.at + (wrap(y, one.height) * one.width + wrap(x, one.width)) * this.size;
		if (this.size === 2) return [this.pack[i]! | (this.pack[i + 1]! << 8)];
		return [...this.pack.subarray(i, i + this.size)];
	}

	/** How many texels of a level have each value, for each channel, in so many steps from 0 to the largest number. */
	histogram(level: number, steps: number): number[][] {
		const one = this.levels[Math.min(this.levels.length - 1, level)]!;
		const channels = this.size === 4 ? 4 : 1;
		const counts = Array.from({ length: channels }, () => new Array<number>(steps).fill(0));
		for (let i = 0; i < one.width * one.height; i++) {
			const at = one.at + i * this.size;
			for (let c = 0; c < channels; c++) {
				const value = this.size === 2 ? this.pack[at]! | (this.pack[at + 1]! << 8) : this.pack[at + c]!;
				counts[c]![Math.min(steps - 1, Math.floor((value / (this.most + 1)) * steps))]! += 1;
			}
		}
		return counts;
	}
}

/** A stored number 0…1 in linear light, by IEC 61966-2-1. */
export function linear(encoded: number): number {
	return encoded <= 0.04045 ? encoded / 12.92 : ((encoded + 0.055) / 1.055) ** 2.4;
}

export const LETTERS = ['R', 'G', 'B', 'A'] as const;

/** Channels in words: "xyz" is red, green and blue. */
export function channelNames(channels: string): string {
	return channels.replace(/[xyzw]/g, (letter) => LETTERS['xyzw'.indexOf(letter)]!);
}

/** Whether a map answers a search: every word is in its name, its file, its role, its families or what is wrong with it. */
export function answers(map: MapInfo, words: string, families = ''): boolean {
	const text = [map.name, families, map.file, map.role, map.encoding, `${map.width}`, `${map.bits} bit`, map.inverted ? 'smoothness' : '', ...map.findings.flatMap((one) => [one.code, one.text])].join(' ').toLowerCase();
	return words.toLowerCase().split(/\s+/).every((word) => text.includes(word));
}
