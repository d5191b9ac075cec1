import { api, ApiError, type Place, type Stage, type StageDocument, type StageObject } from '../api/client';
import type { StageLight } from '../stage/light';
import { account } from './account.svelte';
import { drafts, saveKey } from './drafts';
import type { Heard } from './editing.svelte';
import { merge, rebased, same, stillMine } from './merge';
import { setAt } from './pointer';
import { passes, pause } from './retry';

const SAVE_AFTER = 900;
/** While others look on. */
const SAVE_SOON = 200;
const DRAFT_AFTER = 150;
const MOST_UNDO = 100;
/** Metres from the world's origin at which a place is still known to a sixteenth of a millimetre. */
const FAR = 1000;
/** Changes of one object that follow each other so closely, ms, are one. */
const ONE_CHANGE = 700;

const alike = (a: object | undefined, b: object | undefined): boolean => JSON.stringify(a) === JSON.stringify(b);

type Kept = { mine: StageDocument; base: StageDocument };

/** A stage of the project. Changes from another tab are merged object by object; nothing is lost. */
export class StageState {
	document = $state<StageDocument>({ format: 'rilta-stage/2', objects: [] });
	onProblem: (message: string) => void = () => {};
	onMerged: () => void = () => {};
	/** Called when somebody else has set what was set here: by whom, and what takes it back. */
	onOver: (by: string, back: () => void) => void = () => {};
	/** Whether others are heard as they change things, and whether somebody else has it open. */
	live = false;
	accompanied = false;
	/** Something was changed that can be taken back. */
	onChange: () => void = () => {};
	/** Whether something is not stored yet. */
	pending = $state(false);
	private past: string[] = [];
	private future: string[] = [];
	private last = { what: '', at: 0 };
	private held = false;
	private remembered = false;
	private tries = 0;
	private sent = { text: '', version: 0, key: '' };
	private readonly keys = new Set<string>();
	private running: Promise<void> | null = null;
	version = 0;
	/** What was stored when this tab last agreed with the server. */
	private base: StageDocument = { format: 'rilta-stage/2', objects: [] };
	private timer = 0;
	private drafting = 0;

	/** @param id its number */
	constructor(readonly project: string, readonly id: number, readonly name: string) {}

	static async open(project: string, which: Parameters<typeof api.stage>[1]): Promise<StageState> {
		const stage = await api.stage(project, which);
		const state = new StageState(project, stage.id, stage.name);
		state.document = stage.document;
		state.base = structuredClone(stage.document);
		state.version = stage.version;
		await state.resume();
		return state;
	}

	/** Takes up what was not stored when the page was last left. */
	private async resume(): Promise<void> {
		const draft = await drafts.get<Kept>(this.draftName);
		if (draft === null) return;
		const theirs = this.snapshot();
		this.document = draft.document.mine;
		this.base = draft.document.base;
		this.merge(theirs);
		this.base = theirs;
		this.schedule();
	}

	private get draftName(): string {
		return `stage ${this.project} ${this.id}`;
	}

	/** Whether anything lies so far from the world's origin that single precision shows it. */
	get far(): boolean {
		const { objects, camera } = this.document;
		return [...objects.map((object) => object.position), ...(camera === undefined ? [] : [camera.position])].some((place) => Math.hypot(...place) > FAR);
	}

	has(id: string): boolean {
		return this.document.objects.some((object) => object.id === id);
	}

	object(id: string): StageObject | undefined {
		return this.document.objects.find((object) => object.id === id);
	}

	change(id: string, change: Partial<StageObject>): void {
		this.changeAll([{ id, change }]);
	}

	/** Changes several at once: one step back, and none if all is as it was. */
	changeAll(changes: { id: string; change: Partial<StageObject> }[]): void {
		const known = changes.filter(({ id }) => this.has(id));
		if (known.every(({ id, change }) => alike({ ...this.object(id), ...change }, this.object(id)))) return;
		this.remember(known.map(({ id, change }) => `${id} ${Object.keys(change).join(' ')}`).join(', '));
		for (const { id, change } of known) Object.assign(this.object(id)!, change);
		this.schedule();
	}

	/** Moves one as it was dragged, and others along with it: by the same way, the same turn, the same factor. */
	drag(id: string, change: Pick<StageObject, 'position' | 'turn' | 'scale'>, also: string[]): StageObject[] {
		const before = this.object(id);
		if (before === undefined) return [];
		const [way, turn, factor] = [0, 1, 2].map((axis) => [change.position[axis]! - before.position[axis]!, change.turn[axis]! - before.turn[axis]!, change.scale[axis]! / before.scale[axis]!]).reduce<[number[], number[], number[]]>((all, [a, b, c]) => [[...all[0], a!], [...all[1], b!], [...all[2], c!]], [[], [], []]);
		const rounded = (number: number): number => Math.round(number * 1e4) / 1e4;
		const others = also.map((one) => this.object(one)).filter((one) => one !== undefined && one.locked !== true) as StageObject[];
		this.changeAll([{ id, change }, ...others.map((one) => ({ id: one.id, change: {
			position: one.position.map((metres, axis) => rounded(metres + way[axis]!)),
			turn: one.turn.map((degrees, axis) => rounded(degrees + turn[axis]!)),
			scale: one.scale.map((times, axis) => rounded(times * factor[axis]!))
		} as Partial<StageObject> }))]);
		return others;
	}

	/** Takes several away: one step back. */
	removeAll(ids: string[]): void {
		this.remember(`remove ${ids.join(' ')}`);
		this.document.objects = this.document.objects.filter((one) => !ids.includes(one.id));
		this.onMerged();
		this.schedule();
	}

	/** Puts more objects on the stage. */
	add(objects: StageObject[]): void {
		this.remember(`add ${objects.map((one) => one.id).join(' ')}`);
		this.document.objects.push(...objects);
		this.onMerged();
		this.schedule();
	}

	/** Takes an object away. */
	remove(id: string): void {
		this.remember(`remove ${id}`);
		this.document.objects = this.document.objects.filter((one) => one.id !== id);
		this.onMerged();
		this.schedule();
	}

	/** An id that no object has, and none of some others, like a name. */
	freshId(like: string, taken: string[] = []): string {
		const stem = like.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, '').slice(0, 50) || 'object';
		const free = (id: string): boolean => !this.has(id) && !taken.includes(id);
		if (free(stem)) return stem;
		let number = 2;
		while (!free(`${stem}-${number}`)) number++;
		return `${stem}-${number}`;
	}

	/** Changes the light; what is dragged is one step back. */
	relight(change: StageLight): void {
		if (alike({ ...this.document.light, ...change }, this.document.light ?? {})) return;
		this.remember('light');
		this.document.format = 'rilta-stage/2';
		this.document.light = { ...this.document.light, ...change };
		this.schedule();
	}

	/** Another sky, with the sun that belongs to it; how bright the picture is stays. */
	sky(value: string): void {
		this.remember(`sky ${value}`);
		const { exposure, shown } = this.document.light ?? {};
		this.document.format = 'rilta-stage/2';
		this.document.light = { sky: value, ...(exposure === undefined ? {} : { exposure }), ...(shown === undefined ? {} : { shown }) };
		this.schedule();
	}

	/** Remembers a place of the eye; one of that name becomes another. */
	keepPlace(place: Place): void {
		this.remember(`place ${place.name}`);
		this.document.format = 'rilta-stage/2';
		this.document.places = [...(this.document.places ?? []).filter((one) => one.name !== place.name), place];
		this.schedule();
	}

	dropPlace(name: string): void {
		this.remember(`without place ${name}`);
		this.document.places = (this.document.places ?? []).filter((one) => one.name !== name);
		this.schedule();
	}

	undo(): void {
		this.step(this.past, this.future);
	}

	redo(): void {
		this.step(this.future, this.past);
	}

	private step(from: string[], to: string[]): void {
		const other = from.pop();
		if (other === undefined) return;
		to.push(JSON.stringify(this.document));
		this.document = JSON.parse(other) as StageDocument;
		this.last = { what: '', at: 0 };
		this.onMerged();
		this.schedule();
	}

	/** What is dragged is one step back, however long it rests on the way. */
	hold(): void {
		this.held = true;
		this.remembered = false;
	}

	release(): void {
		this.held = false;
		this.last = { what: '', at: 0 };
	}

	/** Changes of one drag are one step back, and so are those of one thing that follow each other closely. */
	private remember(what: string): void {
		const now = performance.now();
		const same = this.last.what === what && (this.held ? this.remembered : now - this.last.at < ONE_CHANGE);
		this.last = { what, at: now };
		this.remembered = this.held;
		if (same) return;
		this.past = [...this.past.slice(-MOST_UNDO), JSON.stringify(this.document)];
		this.future = [];
		this.onChange();
	}

	/** As the core has to know it to judge a material: what wears that wears what is seen here, stored or not. */
	judged(material: number): StageDocument {
		const document = this.snapshot();
		for (const one of document.objects.flatMap((object) => [object, ...(object.sections ?? [])])) if (one.wears === material) delete one.wears;
		return document;
	}

	snapshot(): StageDocument {
		return $state.snapshot(this.document) as StageDocument;
	}

	async save(keepalive = false): Promise<void> {
		clearTimeout(this.timer);
		if (this.running !== null) await this.running.catch(() => {});
		if (!this.pending) return;
		this.running = this.send(keepalive).finally(() => (this.running = null));
		await this.running;
	}

	private async send(keepalive: boolean): Promise<void> {
		const mine = this.snapshot();
		const text = JSON.stringify(mine);
		if (this.sent.text !== text || this.sent.version !== this.version) this.sent = { text, version: this.version, key: saveKey() };
		try {
			this.keys.add(this.sent.key);
			const version = this.version;
			const stored = await api.saveStage(this.project, this.id, version, mine, this.sent.key, keepalive, this.live);
			// What others have stored meanwhile was merged with it.
			const others = stored.version > version + 1;
			if (others) this.adopt(mine, stored.document);
			this.version = stored.version;
			this.base = others ? structuredClone(stored.document) : mine;
			this.tries = 0;
			this.pending = others ? !same(stored.document, this.snapshot()) : JSON.stringify(this.snapshot()) !== text;
			if (this.pending) this.schedule();
			else void drafts.drop(this.draftName);
		} catch (error) {
			this.failed(error);
		}
	}

	/** Somebody has stored something. What is not stored here is merged with it, by the server if it has to be stored anyhow. */
	async hear(heard: Heard): Promise<void> {
		if (heard.version <= this.version || this.keys.has(heard.key)) return;
		if (this.running !== null) await this.running.catch(() => {});
		if (heard.version <= this.version) return;
		const mine = this.keys.size > 0 ? stillMine(this.document, heard.over ?? []) : [];
		if (this.pending) {
			await this.save();
		} else {
			const stored = await api.stage(this.project, { stage: this.id });
			if (stored.version <= this.version) return;
			this.adopt(this.base, stored.document);
			this.version = stored.version;
			this.base = structuredClone(stored.document);
		}
		if (mine.length === 0) return;
		this.onOver(heard.by, () => {
			this.remember(`back ${heard.version}`);
			for (const { pointer, was } of mine) setAt(this.document, pointer, was);
			this.onMerged();
			this.schedule();
		});
	}

	/** After nobody was listening for a while. */
	async catchUp(): Promise<void> {
		const { version, savedBy } = await api.stage(this.project, { stage: this.id });
		await this.hear({ version, key: savedBy, by: '' });
	}

	/** What others made of it, here and in all that can be taken back: that undoes what was done here alone. */
	private adopt(base: StageDocument, theirs: StageDocument): void {
		[this.past, this.future] = [rebased(this.past, base, theirs), rebased(this.future, base, theirs)];
		const mine = this.snapshot();
		const next = merge(base, theirs, mine);
		if (same(next, mine)) return;
		this.document = next;
		this.onMerged();
	}

	private failed(error: unknown): void {
		if (error instanceof ApiError && error.status === 412) {
			const theirs = error.theirs as Stage;
			const doubled = this.merge(theirs.document);
			this.version = theirs.version;
			this.base = structuredClone(theirs.document);
			this.onMerged();
			if (doubled.length > 0) {
				this.onProblem(`Moved here and in another tab: ${doubled.join(', ')}. The other tab's stands beside yours.`);
			}
			this.schedule();
		} else if (passes(error)) {
			this.schedule(pause(this.tries++));
		} else {
			throw error;
		}
	}

	/** Mine where I changed it, theirs elsewhere; what both changed stands twice. Returns the names of the doubled. */
	private merge(theirs: StageDocument): string[] {
		const mine = this.snapshot();
		const before = new Map(this.base.objects.map((object) => [object.id, JSON.stringify(object)]));
		const doubled: string[] = [];
		const objects: StageObject[] = [];
		for (const other of theirs.objects) {
			const own = mine.objects.find((object) => object.id === other.id);
			const iChanged = own !== undefined && JSON.stringify(own) !== before.get(own.id);
			const theyChanged = JSON.stringify(other) !== before.get(other.id);
			// What I took away stays away, unless it was worked on meanwhile.
			if (own === undefined && before.has(other.id) && !theyChanged) continue;
			objects.push(iChanged ? own : other);
			if (iChanged && theyChanged && JSON.stringify(own) !== JSON.stringify(other)) {
				doubled.push(other.name);
				objects.push({ ...other, id: `${other.id}-${theirs.objects.length + doubled.length}`, name: `${other.name} (other tab)` });
			}
		}
		for (const own of mine.objects) {
			if (!theirs.objects.some((object) => object.id === own.id) && !before.has(own.id)) objects.push(own);
		}
		const { light: ownLight, places: ownPlaces, ...rest } = mine;
		const chosen = <T>(own: T, before: T, other: T): T => (JSON.stringify(own) === JSON.stringify(before) ? other : own);
		const light = chosen(ownLight, this.base.light, theirs.light);
		const places = chosen(ownPlaces, this.base.places, theirs.places);
		const later = light !== undefined || places !== undefined;
		this.document = { ...rest, ...(later ? { format: 'rilta-stage/2' as const } : {}), objects, ...(light === undefined ? {} : { light }), ...(places === undefined ? {} : { places }) };
		return doubled;
	}

	/** Keeps what is not stored in the browser: at once, and then no more often than a large stage can be copied. */
	private draft(): void {
		if (this.drafting !== 0) return;
		const put = (): void => void drafts.put<Kept>(this.draftName, { version: this.version, document: { mine: this.snapshot(), base: structuredClone(this.base) }, key: '', at: Date.now() });
		put();
		this.drafting = window.setTimeout(() => {
			this.drafting = 0;
			if (this.pending) put();
		}, DRAFT_AFTER);
	}

	private schedule(after = this.accompanied ? SAVE_SOON : SAVE_AFTER): void {
		// Whoever only looks moves things about for themselves.
		if (!account.may('write')) return;
		this.pending = true;
		this.draft();
		clearTimeout(this.timer);
		this.timer = window.setTimeout(() => void this.save().catch((e: unknown) => this.onProblem(String(e))), after);
	}
}
