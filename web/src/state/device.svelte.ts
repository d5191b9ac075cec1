import { api, type MaterialCard } from '../api/client';
import { Machine, type Comparison } from '../stage/parity';

/** A material as the device shows it: what was found, or null while nothing is. */
export type Checked = { id: number; name: string; found: Comparison | null };
/** worst: the largest difference that rounding does not explain, in times of what is allowed */
export type Totals = { materials: number; samples: number; off: number; far: number; worst: number; failed: number };

/** On a border rounding decides, on any device. Of all else so many values may be off, and no further than texture units, which weigh texels by eight bits, can bring them. */
const MOST_FAR = 0.01;
const FARTHEST = 4;

/** What all materials come to. */
export function totals(rows: Checked[]): Totals {
	const found = rows.flatMap((row) => (row.found === null ? [] : [row.found]));
	const good = found.filter((one) => one.error === null);
	const sum = (of: (one: Comparison) => number): number => good.reduce((all, one) => all + of(one), 0);
	return {
		materials: found.length,
		samples: sum((one) => one.pixels),
		off: sum((one) => one.off),
		far: sum((one) => one.far),
		worst: Math.max(0, ...good.map((one) => one.worst?.difference ?? 0)),
		failed: found.length - good.length
	};
}

/** Whether what is shown is what is computed. */
export const agrees = (one: Pick<Totals, 'samples' | 'far' | 'worst' | 'failed'>): boolean => one.failed === 0 && one.samples > 0 && one.far <= MOST_FAR * one.samples && one.worst < FARTHEST;

/** Checks this device on all materials of a project, one after another. */
export class DeviceCheck {
	rows = $state.raw<Checked[]>([]);
	running = $state(false);
	device = $state('');
	private over = false;

	constructor(private readonly project: string) {}

	async run(): Promise<void> {
		this.running = true;
		this.rows = [];
		let machine: Machine | null = null;
		const packs = new Map<string, Uint8Array>();
		try {
			for (const { id, name } of await this.materials()) {
				if (this.over) return;
				const check = await api.deviceCheck(id);
				machine ??= new Machine(check.points, (slot) => packs.get(slot) ?? new Uint8Array());
				this.device = machine.device();
				for (const slot of new Set(check.arrays.flatMap((array) => array.slots))) packs.set(slot, new Uint8Array(await api.texels(check.maps[slot]!.url)));
				const found = machine.compare(check);
				// Textures of all materials at once are more than many devices hold.
				machine.forget();
				packs.clear();
				this.rows = [...this.rows, { id, name, found }];
				// The page is drawn in between.
				await new Promise((resolve) => setTimeout(resolve));
			}
		} finally {
			machine?.dispose();
			this.running = false;
		}
	}

	leave(): void {
		this.over = true;
	}

	private async materials(): Promise<MaterialCard[]> {
		const all: MaterialCard[] = [];
		for (let page = 1, pages = 1; page <= pages; page++) {
			const found = await api.shelf(this.project, { q: '', sort: 'made', bin: false, page });
			pages = found.pages;
			all.push(...found.materials.filter((one) => one.problems === 0));
		}
		return all;
	}
}
