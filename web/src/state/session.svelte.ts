import { api, ApiError, type Lowered, type Material, type MaterialDocument, type Value } from '../api/client';
import { catalogue } from './catalogue.svelte';
import { setAt, valueAt } from './pointer';
import { isTie } from './parameters';

const SAVE_AFTER = 700;
const RETRY_AFTER = 4000;
const MOST_UNDO = 200;
const MOST_KNOWN = 12;

export type Saving = 'saved' | 'changed' | 'saving' | 'offline' | 'conflict';

/** One open material: its document, undo and redo, saving, and its lowered form. */
export class Session {
	document = $state<MaterialDocument>({ format: 'rilta-material/1', name: '', parameters: [], lanes: [], layers: [] });
	saving = $state<Saving>('saved');
	lowered = $state.raw<Lowered | null>(null);
	/** Why nothing of the document could be lowered, in words. What is wrong with parts of it, its lowered form tells. */
	trouble = $state<{ path: string; message: string }[]>([]);
	theirs = $state.raw<Material | null>(null);
	version = $state(0);
	past = $state.raw<string[]>([]);
	future = $state.raw<string[]>([]);

	/** Called after every change of numbers alone. */
	onNumbers: () => void = () => {};
	/** Called with code that is likely to be shown soon. */
	onForeseen: (lowered: Lowered) => void = () => {};

	private held = false;
	private timer = 0;
	private remembered = false;
	private lowerKey = '';
	private readonly known = new Map<string, Lowered>();
	/** Structures whose code is being asked for ahead of time. */
	private readonly foreseen = new Set<string>();
	private aborter: AbortController | null = null;
	private running: Promise<void> | null = null;

	constructor(
		readonly id: number,
		readonly project: string
	) {}

	static async open(project: string, id: number): Promise<Session> {
		const [material] = await Promise.all([api.material(id), catalogue.load()]);
		const session = new Session(id, project);
		session.document = material.document;
		session.version = material.version;
		return session;
	}

	value(path: string): unknown {
		return valueAt(this.document, path);
	}

	/** Changes one value. All changes of one drag are one step of undo. */
	set(path: string, value: Value): void {
		if (this.value(path) === value) return;
		if (!(this.held && this.remembered)) this.remember();
		this.remembered = this.held;
		setAt(this.document, path, value);
		this.changed();
	}

	/** A change of structure: one step of undo. */
	edit(change: (document: MaterialDocument) => void): void {
		this.remember();
		this.remembered = false;
		change(this.document);
		this.changed();
	}

	/** While a value is being dragged nothing is sent. */
	hold(): void {
		this.held = true;
		this.remembered = false;
		clearTimeout(this.timer);
	}

	release(): void {
		this.held = false;
		this.remembered = false;
		if (this.saving === 'changed') this.schedule(SAVE_AFTER);
	}

	undo(): void {
		const last = this.past.at(-1);
		if (last === undefined) return;
		this.future = [...this.future, JSON.stringify(this.document)];
		this.past = this.past.slice(0, -1);
		this.replace(JSON.parse(last) as MaterialDocument);
	}

	redo(): void {
		const next = this.future.at(-1);
		if (next === undefined) return;
		this.past = [...this.past, JSON.stringify(this.document)];
		this.future = this.future.slice(0, -1);
		this.replace(JSON.parse(next) as MaterialDocument);
	}

	/** Asks for new code if the structure has changed since the last time. */
	async lower(): Promise<void> {
		const key = this.structure(this.document);
		if (key === this.lowerKey) return;
		this.lowerKey = key;
		this.aborter?.abort();
		const known = this.known.get(key);
		if (known !== undefined) {
			this.lowered = known;
			this.trouble = [];
			return;
		}
		const aborter = new AbortController();
		this.aborter = aborter;
		try {
			const lowered = await api.lower(this.project, $state.snapshot(this.document) as MaterialDocument, aborter.signal);
			this.lowered = lowered;
			this.trouble = [];
			this.keep(key, lowered);
		} catch (error) {
			if (aborter.signal.aborted) return;
			this.lowerKey = '';
			const problems = error instanceof ApiError ? error.problems : [];
			this.trouble = problems.length > 0 ? problems : [{ path: '', message: String(error instanceof Error ? error.message : error) }];
		}
	}

	/** Has the code made of a document after a change that is likely to come; nothing changes, and what fails is of no matter yet. */
	async foresee(change: (document: MaterialDocument) => void): Promise<void> {
		const draft = structuredClone($state.snapshot(this.document)) as MaterialDocument;
		change(draft);
		const key = this.structure(draft);
		if (key === this.lowerKey || this.foreseen.has(key)) return;
		this.foreseen.add(key);
		try {
			const lowered = this.known.get(key) ?? (await api.lower(this.project, draft));
			this.keep(key, lowered);
			this.onForeseen(lowered);
		} catch {
			// It will be asked for again when it is wanted, and fail in sight.
		} finally {
			this.foreseen.delete(key);
		}
	}

	/** Forgets the code of other structures: maps may have been changed elsewhere. */
	forget(): void {
		this.known.clear();
	}

	/** Code of structures that were seen lately: switching a step off and on again, or undoing, asks nobody. */
	private keep(key: string, lowered: Lowered): void {
		this.known.set(key, lowered);
		const oldest = this.known.keys().next().value;
		if (this.known.size > MOST_KNOWN && oldest !== undefined) this.known.delete(oldest);
	}

	/** Saves now, if there is something to save. */
	async save(keepalive = false): Promise<void> {
		clearTimeout(this.timer);
		if (this.running !== null) await this.running;
		if (this.saving !== 'changed' && this.saving !== 'offline') return;
		this.running = this.send(keepalive).finally(() => (this.running = null));
		await this.running;
	}

	/** Settles a conflict: mine over theirs, or theirs with mine kept aside. Both stay in the history. */
	async settle(choice: 'mine' | 'theirs'): Promise<void> {
		const theirs = this.theirs;
		if (theirs === null) return;
		const mine = $state.snapshot(this.document) as MaterialDocument;
		if (choice === 'theirs') {
			await api.setAside(this.id, mine);
			this.remember();
			this.document = theirs.document;
		}
		this.version = theirs.version;
		this.theirs = null;
		this.saving = choice === 'mine' ? 'changed' : 'saved';
		this.onNumbers();
		await this.lower();
		if (choice === 'mine') await this.save();
	}

	/** Keeps my version as a material of its own and takes theirs here. Returns the new material. */
	async keepBoth(): Promise<Material | null> {
		const theirs = this.theirs;
		if (theirs === null) return null;
		const mine = $state.snapshot(this.document) as MaterialDocument;
		const copy = await api.createMaterial(this.project, { ...mine, name: `${mine.name} (my version)`.slice(0, 120) });
		await this.settle('theirs');
		return copy;
	}

	private async send(keepalive: boolean): Promise<void> {
		const document = $state.snapshot(this.document) as MaterialDocument;
		this.saving = 'saving';
		try {
			const stored = await api.saveMaterial(this.id, this.version, document, keepalive);
			this.version = stored.version;
			const same = JSON.stringify(document) === JSON.stringify($state.snapshot(this.document));
			this.saving = same ? 'saved' : 'changed';
			if (!same) this.schedule(SAVE_AFTER);
		} catch (error) {
			if (error instanceof ApiError && error.status === 412) {
				this.theirs = error.theirs as Material;
				this.saving = 'conflict';
			} else if (error instanceof ApiError && error.unreachable) {
				this.saving = 'offline';
				this.schedule(RETRY_AFTER);
			} else {
				this.saving = 'changed';
				throw error;
			}
		}
	}

	private changed(): void {
		if (this.saving !== 'conflict') this.saving = 'changed';
		// With another structure the next picture is one of other code; drawing the old one again would only delay it.
		if (this.structure(this.document) === this.lowerKey) this.onNumbers();
		else void this.lower();
		if (!this.held) this.schedule(SAVE_AFTER);
	}

	private replace(document: MaterialDocument): void {
		this.document = document;
		this.remembered = false;
		this.changed();
	}

	private remember(): void {
		this.past = [...this.past.slice(-MOST_UNDO), JSON.stringify(this.document)];
		this.future = [];
	}

	private schedule(after: number): void {
		clearTimeout(this.timer);
		if (this.saving === 'conflict') return;
		this.timer = window.setTimeout(() => void this.save().catch(() => {}), after);
	}

	/** What of a value is structure. A number that cannot be used is: code with another in its place has to be asked for. */
	private skeleton(step: string, name: string, value: Value): unknown {
		const control = catalogue.control(step, name);
		if (control?.structural !== false) return value;
		const beyond = control.type === 'number' && typeof value === 'number' && !(value >= control.hard[0]! && value <= control.hard[1]!);
		return beyond ? value : shape(value);
	}

	/** The document without the values that are uniforms: as long as this is the same, so is the code. */
	private structure(document: MaterialDocument): string {
		const { lanes, layers, parameters } = document;
		const skeleton = lanes.map((lane) => ({
			...lane,
			name: '',
			steps: lane.steps.map((use) => ({
				...use,
				values: Object.entries(use.values).map(([name, value]) => [name, this.skeleton(use.step, name, value)])
			}))
		}));
		return JSON.stringify([
			skeleton,
			layers.map((layer) => [layer.id, layer.lane, layer.set, layer.on, layer.faces]),
			(parameters ?? []).map((parameter) => parameter.id)
		]);
	}
}

/** What of a value is structure: which parameter it follows, how many rows it has and how they are called. */
function shape(value: Value): unknown {
	if (Array.isArray(value)) return value.map((row) => (typeof row === 'object' ? (row.name ?? '') : 0));
	return isTie(value) ? value.parameter : typeof value;
}
