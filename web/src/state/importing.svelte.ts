import { api, ApiError, type Alternates, type Encoding, type Looked, type Role, type Upload, type Ware } from '../api/client';
import { catalogue } from './catalogue.svelte';
import { passes, pause } from './retry';

const MOST_TRIES = 20;

/** `picture` is the address of a small one, where browsers read the file. */
export type Item = Upload & { key: number; state: 'ready'; picture: string | null };
type Waiting = { key: number; file: string; state: 'waiting' | 'sending'; sent: number };

/** Requests that are under way at a time. */
const AT_ONCE = 4;
const ARCHIVE = /\.zip$/i;
/** Pixels a side of small pictures. */
const SMALL = 72;

/** Files on their way into the library: sent, looked at, reviewed, kept. */
export class Importing {
	items = $state<(Item | Waiting)[]>([]);
	refused = $state<{ file: string; reason: string }[]>([]);
	extents = $state<Record<string, number>>({});
	busy = $state(false);
	/** What looks like alternates, and whether it is to become a family. */
	families = $state<(Alternates & { wanted: boolean })[]>([]);
	private asked = '';
	private next = 1;
	private readonly queue: { file: File; key: number }[] = [];
	private readonly under = new Map<number, AbortController>();
	private running = 0;

	constructor(readonly project: string) {}

	get ready(): Item[] {
		return this.items.filter((item): item is Item => item.state === 'ready');
	}

	get sets(): string[] {
		return [...new Set(this.ready.map((item) => item.set))];
	}

	async add(files: File[]): Promise<void> {
		const limits = (await catalogue.load()).limits;
		for (const file of files) {
			const key = this.next++;
			if (file.size > limits.bytes && !ARCHIVE.test(file.name)) {
				// The server would say the same, after the whole upload.
				this.refused.push({ file: file.name, reason: `${file.name} has ${(file.size / 1048576).toFixed(1)} MiB; a map may have ${limits.bytes / 1048576} MiB.` });
				continue;
			}
			this.items.push({ key, file: file.name, state: 'waiting', sent: 0 });
			this.queue.push({ file, key });
		}
		await Promise.all(Array.from({ length: AT_ONCE - this.running }, () => this.work()));
	}

	/** Whether a set of this name, of this or of other files, gets two maps of one role. */
	clash(item: Item): boolean {
		return this.ready.some((other) => other !== item && other.set === item.set && other.role === item.role);
	}

	/** A role brings its encoding. */
	role(item: Item, role: Role): void {
		const known = catalogue.value?.roles.find((r) => r.value === role);
		item.role = role;
		item.encoding = known?.encoding ?? item.encoding;
		item.inverted = item.inverted && known?.scalar === true;
	}

	encoding(item: Item, encoding: Encoding): void {
		item.encoding = encoding;
	}

	/** Leaves a file out, also while it is being sent. */
	drop(key: number): void {
		this.under.get(key)?.abort();
		this.items = this.items.filter((item) => item.key !== key);
	}

	clear(): void {
		for (const one of this.under.values()) one.abort();
		this.queue.length = 0;
		this.items = [];
		this.refused = [];
	}

	/** Asks which of the sets are alternates, if their names are others than the last time. */
	async group(): Promise<void> {
		const sets = this.sets.filter((set) => set.trim() !== '');
		const key = [...sets].sort().join('/');
		if (key === this.asked) return;
		this.asked = key;
		const found = sets.length === 0 ? [] : await api.alternates(this.project, sets).catch(() => []);
		if (key !== this.asked) return;
		this.families = found.map((one) => ({ ...one, wanted: this.families.find((other) => other.name === one.name)?.wanted ?? true }));
	}

	/** Keeps what was reviewed. Returns the names of the sets that grew. */
	async keep(): Promise<string[]> {
		this.busy = true;
		try {
			const kept = await api.keepMaps(
				this.project,
				this.ready.map(({ file, sha256, set, role, encoding, inverted, channels }) => ({ file, sha256, set, extent: this.extents[set] ?? 1, role, encoding, inverted, channels })),
				this.families.filter((one) => one.wanted).map(({ name, sets }) => ({ name, sets }))
			);
			this.items = this.items.filter((item) => item.state !== 'ready');
			this.families = [];
			this.asked = '';
			this.refused = [...this.refused, ...kept.refused];
			return kept.sets.map((set) => set.name);
		} finally {
			this.busy = false;
		}
	}

	private async work(): Promise<void> {
		this.running += 1;
		for (let one = this.queue.shift(); one !== undefined; one = this.queue.shift()) await this.send(one.file, one.key);
		this.running -= 1;
	}

	/** Large images are read a few at a time: whoever finds no place, or no server, comes again. */
	private async send(file: File, key: number): Promise<void> {
		await this.take(file.name, key, async (waiting, signal) => {
			for (let tries = 0; ; tries++) {
				try {
					return await api.upload(this.project, file, (share) => (waiting.sent = share), signal);
				} catch (error) {
					if (signal.aborted || !passes(error) || tries >= MOST_TRIES) throw error;
					await new Promise((resolve) => setTimeout(resolve, pause(tries)));
				}
			}
		}, ARCHIVE.test(file.name) ? null : await small(file));
	}

	/** Fetches a supplier's ware; what it holds is reviewed like files. */
	async fetch(ware: Ware, side: number): Promise<void> {
		const key = this.next++;
		this.items.push({ key, file: `${ware.title}, ${side} px`, state: 'waiting', sent: 0 });
		await this.take(ware.title, key, async (waiting, signal) => {
			waiting.sent = 0.5;
			const found = await api.fetchWare(this.project, ware.id, side, signal);
			for (const map of found.maps) this.extents[map.set] = ware.extent;
			return found;
		});
	}

	private async take(name: string, key: number, look: (waiting: Waiting, signal: AbortSignal) => Promise<Looked>, picture: string | null = null): Promise<void> {
		const waiting = this.items.find((item) => item.key === key);
		if (waiting === undefined || waiting.state === 'ready') return;
		waiting.state = 'sending';
		const aborter = new AbortController();
		this.under.set(key, aborter);
		try {
			const found = await look(waiting, aborter.signal);
			const place = this.items.findIndex((item) => item.key === key);
			if (place < 0) return;
			// An archive becomes all that was in it.
			this.items.splice(place, 1, ...found.maps.map((map) => ({ ...map, key: this.next++, state: 'ready' as const, picture })));
			this.refused.push(...found.refused);
		} catch (error) {
			if (aborter.signal.aborted) return;
			this.items = this.items.filter((item) => item.key !== key);
			this.refused.push({ file: name, reason: error instanceof ApiError ? error.message : String(error) });
		} finally {
			this.under.delete(key);
		}
	}
}

async function small(file: File): Promise<string | null> {
	try {
		const image = await createImageBitmap(file, { resizeWidth: SMALL, resizeHeight: SMALL, resizeQuality: 'medium' });
		const canvas = Object.assign(document.createElement('canvas'), { width: SMALL, height: SMALL });
		canvas.getContext('2d')?.drawImage(image, 0, 0);
		image.close();
		return canvas.toDataURL();
	} catch {
		return null;
	}
}

/** All files of what was dropped, those in folders as well. */
export async function dropped(transfer: DataTransfer): Promise<File[]> {
	const entries = [...transfer.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
	if (entries.length === 0) return [...transfer.files];
	return (await Promise.all(entries.map(inside))).flat();
}

async function inside(entry: FileSystemEntry): Promise<File[]> {
	if (entry.isFile) return [await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject))];
	const reader = (entry as FileSystemDirectoryEntry).createReader();
	const all: FileSystemEntry[] = [];
	for (;;) {
		// A folder hands out its entries a hundred at a time.
		const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
		if (some.length === 0) break;
		all.push(...some);
	}
	return (await Promise.all(all.filter((one) => !one.name.startsWith('.')).map(inside))).flat();
}
