import { api, ApiError, type Encoding, type Role, type Upload } from '../api/client';
import { catalogue } from './catalogue.svelte';

export type Item = Upload & { key: number; state: 'ready' };
type Waiting = { key: number; file: string; state: 'waiting' | 'sending' };

/** Files on their way into the library: sent one by one, looked at, reviewed, kept. */
export class Importing {
	items = $state<(Item | Waiting)[]>([]);
	refused = $state<{ file: string; reason: string }[]>([]);
	extents = $state<Record<string, number>>({});
	busy = $state(false);
	private next = 1;

	constructor(readonly project: string) {}

	get ready(): Item[] {
		return this.items.filter((item): item is Item => item.state === 'ready');
	}

	get sets(): string[] {
		return [...new Set(this.ready.map((item) => item.set))];
	}

	async add(files: File[]): Promise<void> {
		const limits = (await catalogue.load()).limits;
		const queue = files.map((file) => ({ file, key: this.next++ }));
		this.items.push(...queue.map(({ file, key }) => ({ key, file: file.name, state: 'waiting' as const })));
		for (const { file, key } of queue) {
			const place = this.items.findIndex((item) => item.key === key);
			if (place < 0) continue;
			if (file.size > limits.bytes) {
				// The server would say the same, after the whole upload.
				this.refuse(key, file.name, `${file.name} has ${(file.size / 1048576).toFixed(1)} MiB; a map may have ${limits.bytes / 1048576} MiB.`);
				continue;
			}
			this.items[place] = { key, file: file.name, state: 'sending' };
			try {
				const found = await api.upload(this.project, file);
				const now = this.items.findIndex((item) => item.key === key);
				if (now >= 0) this.items[now] = { ...found, key, state: 'ready' };
				this.extents[found.set] ??= 1;
			} catch (error) {
				this.refuse(key, file.name, error instanceof ApiError ? error.message : String(error));
			}
		}
	}

	/** A role brings its encoding. */
	role(item: Item, role: Role): void {
		item.role = role;
		item.encoding = catalogue.value?.roles.find((r) => r.value === role)?.encoding ?? item.encoding;
	}

	encoding(item: Item, encoding: Encoding): void {
		item.encoding = encoding;
	}

	drop(key: number): void {
		this.items = this.items.filter((item) => item.key !== key);
	}

	clear(): void {
		this.items = [];
		this.refused = [];
	}

	/** Keeps what was reviewed. Returns the names of the sets that grew. */
	async keep(): Promise<string[]> {
		this.busy = true;
		try {
			const kept = await api.keepMaps(
				this.project,
				this.ready.map((item) => ({
					file: item.file,
					sha256: item.sha256,
					set: item.set,
					extent: this.extents[item.set] ?? 1,
					role: item.role,
					encoding: item.encoding
				}))
			);
			this.items = this.items.filter((item) => item.state !== 'ready');
			this.refused = [...this.refused, ...kept.refused];
			return kept.sets.map((set) => set.name);
		} finally {
			this.busy = false;
		}
	}

	private refuse(key: number, file: string, reason: string): void {
		this.drop(key);
		this.refused.push({ file, reason });
	}
}
