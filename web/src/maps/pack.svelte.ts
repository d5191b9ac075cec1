import { api, type MapInfo, type MapSet, type Packing, type Role } from '../api/client';
import { Texels } from './texels';

export type Target = { map: number | null; channel: number; inverted: boolean; low: number; high: number; used: boolean };
const PREVIEW = 64;
const empty = (used: boolean): Target => ({ map: null, channel: 0, inverted: false, low: used ? 0 : 1, high: 1, used });

/** What goes into which channel of a new map. */
export class Pack {
	targets = $state<Target[]>([empty(true), empty(true), empty(true), empty(false)]);
	loaded = $state(0);
	private readonly known: MapInfo[] = [];
	private readonly texels = new Map<number, Texels>();

	constructor(private readonly set: MapSet) {
		this.load(set);
	}

	/** Has the maps of a set at hand, to show what becomes of them. */
	load(set: MapSet): void {
		this.known.push(...set.maps);
		for (const map of set.maps) {
			void api.texels(map.texels).then(
				(buffer) => {
					this.texels.set(map.id, new Texels(new Uint8Array(buffer)));
					this.loaded += 1;
				},
				() => {}
			);
		}
	}

	get possible(): boolean {
		return this.targets.some((target) => target.map !== null) && this.targets.every((target) => target.map === null || Math.abs(target.high - target.low) > 0.001);
	}

	/** @param key id of a map and number of its channel */
	put(place: number, key: string): void {
		const [map, channel] = key.split(' ').map(Number);
		if (map !== undefined && channel !== undefined) this.targets[place] = { map, channel, inverted: this.stored(map), low: 0, high: 1, used: true };
	}

	/** Whether a map holds the opposite of roughness: packed, it becomes roughness unless something else is chosen. */
	private stored(id: number): boolean {
		const map = this.known.find((one) => one.id === id);
		return map?.role === 'roughness' && map.inverted;
	}

	clear(place: number): void {
		this.targets[place] = empty(place < 3);
	}

	/** Roles that a preset takes, and the set does not have. */
	lacking(preset: Packing): string[] {
		return [...new Set(preset.wishes.map((wish) => wish.role).filter((role) => this.of(role) === undefined))];
	}

	take(preset: Packing): void {
		preset.wishes.forEach((wish, i) => {
			const map = this.of(wish.role);
			// What is stored the other way round is turned.
			if (map !== undefined) this.targets[i] = { map: map.id, channel: wish.channel, inverted: wish.inverted !== map.inverted, low: 0, high: 1, used: true };
		});
		for (let i = preset.wishes.length; i < 4; i++) this.clear(i);
	}

	/** What the server is asked for. */
	body(): { map?: number; channel?: 'x' | 'y' | 'z' | 'w'; inverted?: boolean; low: number; high?: number }[] {
		return this.targets
			.filter((target, i) => i < 3 || target.used)
			.map((target) => (target.map === null ? { low: target.low } : { map: target.map, channel: (['x', 'y', 'z', 'w'] as const)[target.channel] ?? 'x', inverted: target.inverted, low: target.low, high: target.high }));
	}

	/** What is saved: map reads per place. */
	summary(set: MapSet): string {
		const taken = new Set(this.targets.map((target) => target.map).filter((id) => id !== null));
		const roles = [...taken].map((id) => set.maps.find((one) => one.id === id)?.role);
		const before = new Set(set.roles.filter((one) => one.role !== 'packed').map((one) => one.from)).size;
		const replaced = [...taken].filter((id) => {
			const map = set.maps.find((one) => one.id === id);
			// A normal of which only one channel is taken is still read from its own map.
			return map !== undefined && map.role !== 'base-colour' && (map.role !== 'normal' || this.targets.filter((target) => target.map === id).length > 1);
		}).length;
		if (taken.size === 0) return 'Drag a channel onto a target, or choose it and then the target; or take a preset.';
		return `${roles.length} map${roles.length === 1 ? '' : 's'} in one: ${before} map reads a place before, ${before - replaced + 1} after. The maps stay as they are; materials read the packed one.`;
	}

	/** A small picture of one channel as it will be. */
	paint(target: Target, canvas: HTMLCanvasElement): void {
		const context = canvas.getContext('2d');
		if (context === null) return;
		const image = context.createImageData(PREVIEW, PREVIEW);
		const texels = target.map === null ? undefined : this.texels.get(target.map);
		const level = texels === undefined ? 0 : Math.max(0, texels.levels.findIndex((one) => one.width <= 2 * PREVIEW));
		for (let i = 0; i < PREVIEW * PREVIEW; i++) {
			const grey = Math.round(255 * channelValue(target, texels, level, (i % PREVIEW) / PREVIEW, Math.floor(i / PREVIEW) / PREVIEW));
			image.data.set([grey, grey, grey, target.used ? 255 : 0], 4 * i);
		}
		context.putImageData(image, 0, 0);
	}

	private of(role: Role): MapInfo | undefined {
		return this.set.maps.find((one) => one.role === role);
	}
}

/** The value 0…1 of a target at a place 0…1 of the map. */
export function channelValue(target: Target, texels: Texels | undefined, level: number, u: number, v: number): number {
	const within = (x: number): number => Math.min(1, Math.max(0, x));
	if (texels === undefined) return within(target.low);
	const size = texels.levels[level]!;
	const stored = texels.at(level, u * size.width, v * size.height);
	const raw = stored.length === 1 ? (target.channel === 3 ? 1 : stored[0]! / texels.most) : stored[target.channel]! / texels.most;
	const levelled = within((raw - target.low) / (target.high - target.low || 1e-6));
	return target.inverted ? 1 - levelled : levelled;
}
