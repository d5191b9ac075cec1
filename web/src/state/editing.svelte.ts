import { ApiError } from '../api/client';
import { account } from './account.svelte';
import { drafts, saveKey, type Draft } from './drafts';
import { merge, rebased, same, stillMine } from './merge';
import { setAt, valueAt } from './pointer';
import { passes, pause } from './retry';
import { sketch } from './structure';

const SAVE_AFTER = 700;
/** While others look on. */
const SAVE_SOON = 200;
const DRAFT_AFTER = 150;
const MOST_UNDO = 200;
const MOST_KNOWN = 12;

/** offline: no connection; failing: the server answers, but cannot store; refused: it will not take this document as it is. */
export type Saving = 'saved' | 'changed' | 'saving' | 'offline' | 'failing' | 'refused' | 'conflict' | 'looking';
type Stored<D> = { version: number; document: D; savedBy: string };
/** That somebody has stored something, and what somebody else had in those places that both changed. */
export type Heard = { version: number; key: string; by: string; over?: { path: string; was: unknown }[] };

/** One open document: its values, undo and redo, saving, and the code that the server makes of its structure. */
export abstract class Editing<D extends object, C, S extends Stored<D>> {
	document: D;
	saving = $state<Saving>('saved');
	lowered = $state.raw<C | null>(null);
	/** Why nothing of the document could be lowered, in words. What is wrong with parts of it, its lowered form tells. */
	trouble = $state<{ path: string; message: string }[]>([]);
	theirs = $state.raw<S | null>(null);
	/** Why the document is not stored, in words; "" if it is, or only waits. */
	reason = $state('');
	version = $state(0);
	past = $state.raw<string[]>([]);
	future = $state.raw<string[]>([]);

	/** Called after every change of numbers alone. */
	onNumbers: () => void = () => {};
	/** Something was changed that can be taken back. */
	onChange: () => void = () => {};
	/** Called when somebody else has set what was set here: by whom, and what takes it back. */
	onOver: (by: string, back: () => void) => void = () => {};
	/** Whether others are heard as they change things: of two who change the same value then, the later counts. */
	live = false;
	/** Whether somebody else has it open: they see what is stored, and the sooner it is, the better. */
	accompanied = false;
	/** What the server and this page had in common last. */
	private base = '';
	/** Called with code that is likely to be shown soon. */
	onForeseen: (lowered: C) => void = () => {};

	private tries = 0;
	/** What was last sent, and what that save is called: sent again, it is the same save. */
	private sent = { text: '', version: 0, key: '' };
	private readonly keys = new Set<string>();
	private drafting = 0;
	private held = false;
	/** Whether what was stored last was on the way of a drag. */
	private passing = false;
	private timer = 0;
	private remembered = false;
	/** Code that was seen lately, and the outlines of the documents that it is of. */
	private known: { outline: string; code: C }[] = [];
	/** Sketches of documents whose code is being asked for ahead of time. */
	private readonly foreseen = new Set<string>();
	/** A sketch of the document whose code is on its way; "" if none is. */
	private asking = '';
	private asksAgain = 0;
	private misses = 0;
	private aborter: AbortController | null = null;
	/** The outline of the document that the code at hand is of, and the document as it was when it was last seen. */
	private loweredOutline = '';
	private last: D | null = null;
	/** Whether the code at hand is that of the document as it is. */
	current = false;
	private running: Promise<void> | null = null;

	constructor(
		readonly id: number,
		readonly project: string,
		document: D
	) {
		this.document = $state(document);
		this.base = JSON.stringify(document);
	}

	/** The document as it is shown, if that differs from what is written. */
	protected worn(document: D): D {
		return document;
	}

	/** What of a document is structure, as code says that was made of one like it: as long as this is the same, so is the code. */
	protected abstract outline(document: D, code: C): string;
	protected abstract code(document: D, signal?: AbortSignal): Promise<C>;
	/** What its draft is kept under. */
	protected abstract get draftName(): string;
	/** @param passing whether something is being dragged, and more will come */
	protected abstract store(version: number, document: D, key: string, keepalive: boolean, passing: boolean): Promise<S>;
	/** Keeps a document that loses a conflict. */
	protected abstract setAside(document: D): Promise<unknown>;
	protected abstract copy(document: D): Promise<S>;

	value(path: string): unknown {
		return valueAt(this.document, path);
	}

	/** Changes one value. All changes of one drag are one step of undo. */
	set(path: string, value: unknown): void {
		if (this.value(path) === value) return;
		if (!(this.held && this.remembered)) this.remember();
		this.remembered = this.held;
		setAt(this.document, path, value);
		this.changed();
	}

	/** A change of structure: one step of undo. */
	edit(change: (document: D) => void): void {
		this.leave();
		this.remember();
		this.remembered = false;
		change(this.document);
		this.changed();
	}

	/** Takes another document's place; one step of undo. */
	become(document: D): void {
		this.remember();
		this.replace(document);
	}

	get dragging(): boolean {
		return this.held;
	}

	/** While a value is being dragged nothing is sent; but others who look on see it move. */
	hold(): void {
		this.held = true;
		this.remembered = false;
		this.unschedule();
	}

	release(): void {
		this.held = false;
		this.remembered = false;
		// What it ended with stays, even if it was seen on the way.
		if (this.passing && this.saving === 'saved') this.saving = 'changed';
		if (this.saving !== 'saved') this.schedule(this.tries > 0 ? pause(this.tries - 1) : this.soon);
	}

	undo(): void {
		const last = this.past.at(-1);
		if (last === undefined) return;
		this.future = [...this.future, JSON.stringify(this.document)];
		this.past = this.past.slice(0, -1);
		this.replace(JSON.parse(last) as D);
	}

	redo(): void {
		const next = this.future.at(-1);
		if (next === undefined) return;
		this.past = [...this.past, JSON.stringify(this.document)];
		this.future = this.future.slice(0, -1);
		this.replace(JSON.parse(next) as D);
	}

	/** Asks for new code if the structure has changed since the last time. */
	async lower(): Promise<void> {
		const wanted = this.worn(this.document);
		this.current = this.alike(wanted);
		const asked = this.manner + sketch(wanted);
		if (!this.current && this.asking === asked) return;
		this.aborter?.abort();
		clearTimeout(this.asksAgain);
		this.asking = '';
		if (this.current) {
			this.trouble = [];
			return;
		}
		const known = this.find(wanted);
		if (known !== undefined) {
			this.take(wanted, known);
			return;
		}
		const aborter = new AbortController();
		this.aborter = aborter;
		this.asking = asked;
		try {
			await this.leisure();
			if (aborter.signal.aborted) return;
			const document = this.worn(this.snapshot());
			const lowered = await this.code(document, aborter.signal);
			if (aborter.signal.aborted) return;
			this.asking = '';
			this.keep(document, lowered);
			this.take(document, lowered);
			// What was a drag for all that was known may have been more.
			await this.lower();
		} catch (error) {
			if (aborter.signal.aborted) return;
			this.asking = '';
			const problems = error instanceof ApiError ? error.problems : [];
			// What passes is asked for again by itself, until the document is another.
			if (passes(error)) this.asksAgain = window.setTimeout(() => void this.lower(), pause(this.misses++));
			this.trouble = problems.length > 0 ? problems : [{ path: '', message: String(error instanceof Error ? error.message : error) }];
		}
	}

	private take(document: D, lowered: C): void {
		this.loweredOutline = this.outline(document, lowered);
		this.lowered = lowered;
		this.misses = 0;
		this.current = this.alike(this.worn(this.document));
		this.trouble = [];
	}

	/** What code of the same document differs in. */
	protected get manner(): string {
		return '';
	}

	/** Called while a document waits for code, with the one that the code at hand is of. */
	protected bridge(_last: D): void {}

	/** Whatever comes before code is asked for. */
	protected leisure(): Promise<void> {
		return Promise.resolve();
	}

	/** Has the code made of a document after a change that is likely to come; nothing changes, and what fails is of no matter yet. */
	async foresee(change: (document: D) => void): Promise<void> {
		const draft = structuredClone(this.snapshot());
		change(draft);
		const worn = this.worn(draft);
		if (!this.drawable(worn)) await this.prepare(worn);
	}

	/** Whether a document can be drawn as soon as it is wanted, before there is code for it. */
	protected drawable(_document: D): boolean {
		return false;
	}

	/** Has the code of a document that may be shown soon made ahead of time. */
	protected async prepare(draft: D): Promise<void> {
		const asked = sketch(draft);
		if (this.alike(draft) || this.asking === asked || this.foreseen.has(asked)) return;
		this.foreseen.add(asked);
		try {
			this.onForeseen(await this.codeOf(draft));
		} catch {
			// It will be asked for again when it is wanted, and fail in sight.
		} finally {
			this.foreseen.delete(asked);
		}
	}

	/** The code of a document like this one, whether it is shown or not. */
	protected async codeOf(document: D): Promise<C> {
		const code = this.find(document) ?? (await this.code(document));
		this.keep(document, code);
		return code;
	}

	/** Whether a document like this one needs no other code than what is shown. */
	protected alike(document: D): boolean {
		return this.lowered !== null && this.outline(document, this.lowered) === this.loweredOutline;
	}

	/** Shows the document anew after what is worn of it has changed. */
	protected refresh(): void {
		// With another structure the next picture is one of other code; drawing the old one again would only delay it.
		const shown = this.lowered;
		void this.lower();
		if (this.current && this.lowered === shown) this.onNumbers();
	}

	/** Forgets the code of other structures: maps may have been changed elsewhere. */
	forget(): void {
		this.known = [];
	}

	/** Code that was seen lately: switching a step off and on again, or undoing, asks nobody. */
	private find(document: D): C | undefined {
		return this.known.find((one) => this.outline(document, one.code) === one.outline)?.code;
	}

	private keep(document: D, code: C): void {
		this.known = [...this.known.filter((one) => one.code !== code), { outline: this.outline(document, code), code }].slice(-MOST_KNOWN);
	}

	/** Saves now, if there is something to save. */
	async save(keepalive = false): Promise<void> {
		this.unschedule();
		if (this.running !== null) await this.running;
		if (this.saving === 'saved' || this.saving === 'conflict' || this.saving === 'looking') return;
		this.running = this.send(keepalive).finally(() => (this.running = null));
		await this.running;
	}

	/** Saves now; what comes next needs it to be stored. */
	async stored(): Promise<void> {
		await this.save();
		if (this.pending) throw new Error(this.reason === '' ? 'It is not stored yet.' : `It is not stored yet. ${this.reason}`);
	}

	/** Settles a conflict: mine over theirs, or theirs with mine kept aside. */
	async settle(choice: 'mine' | 'theirs'): Promise<void> {
		const theirs = this.theirs;
		if (theirs === null) return;
		if (choice === 'theirs') {
			await this.setAside(this.snapshot());
			this.remember();
			this.document = theirs.document;
		}
		this.version = theirs.version;
		this.base = JSON.stringify(theirs.document);
		this.theirs = null;
		if (choice === 'theirs') await drafts.drop(this.draftName);
		this.saving = choice === 'mine' ? 'changed' : 'saved';
		this.onNumbers();
		await this.lower();
		if (choice === 'mine') await this.save();
	}

	/** Keeps my version as a document of its own and takes theirs here. Returns the new one. */
	async keepBoth(): Promise<S | null> {
		if (this.theirs === null) return null;
		const copy = await this.copy(this.snapshot());
		await this.settle('theirs');
		return copy;
	}

	/** Takes up what was not stored when the page was last left, or the browser died. Tells whether there was anything. */
	async resume(stored: S): Promise<boolean> {
		const draft = await drafts.get<D>(this.draftName);
		if (draft === null) return false;
		if (JSON.stringify(draft.document) === JSON.stringify(stored.document) || (draft.key !== '' && stored.savedBy === draft.key)) {
			// It did arrive; only the answer was lost.
			await drafts.drop(this.draftName);
			return false;
		}
		this.remember();
		this.document = draft.document;
		if (draft.version === stored.version) {
			this.saving = 'changed';
			this.schedule(SAVE_AFTER);
		} else {
			this.theirs = stored;
			this.saving = 'conflict';
		}
		return true;
	}

	/** Whether leaving now would leave something behind that only this browser has. */
	get pending(): boolean {
		return this.saving !== 'saved';
	}

	/** Keeps what is not stored in the browser. */
	private draft(after = DRAFT_AFTER): void {
		clearTimeout(this.drafting);
		this.drafting = window.setTimeout(() => void drafts.put(this.draftName, this.drafted()), after);
	}

	private drafted(): Draft<D> {
		const document = this.snapshot();
		return { version: this.version, document, key: this.sent.text === JSON.stringify(document) && this.sent.version === this.version ? this.sent.key : '', at: Date.now() };
	}

	snapshot(): D {
		return $state.snapshot(this.document) as D;
	}

	private async send(keepalive: boolean): Promise<void> {
		const document = this.snapshot();
		const text = JSON.stringify(document);
		if (this.sent.text !== text || this.sent.version !== this.version) this.sent = { text, version: this.version, key: saveKey() };
		const { key, version } = this.sent;
		const passing = this.held;
		this.keys.add(key);
		this.saving = 'saving';
		try {
			const stored = await this.store(version, document, key, keepalive, passing);
			this.passing = passing;
			this.took(stored, text, version);
			if (passing && !this.held) this.release();
		} catch (error) {
			this.failed(error);
		}
	}

	private took(stored: S, text: string, sent: number): void {
		// What others have stored meanwhile was merged with it.
		const others = stored.version > sent + 1;
		if (others) this.adopt(JSON.parse(text) as D, stored.document);
		this.version = stored.version;
		this.base = others ? JSON.stringify(stored.document) : text;
		this.tries = 0;
		this.reason = '';
		const whole = others ? same(stored.document, this.snapshot()) : text === JSON.stringify(this.snapshot());
		this.saving = whole ? 'saved' : 'changed';
		clearTimeout(this.drafting);
		if (whole) {
			void drafts.drop(this.draftName);
		} else {
			this.draft();
			this.schedule(this.soon);
		}
	}

	/** Somebody has stored something. What is not stored here is merged with it, by the server if it has to be stored anyhow. */
	async hear(heard: Heard, fetch: () => Promise<S>): Promise<void> {
		if (heard.version <= this.version || this.keys.has(heard.key)) return;
		if (this.running !== null) await this.running.catch(() => {});
		if (heard.version <= this.version) return;
		const mine = this.keys.size > 0 ? stillMine(this.document, heard.over ?? []) : [];
		if (this.saving === 'changed') {
			await this.save();
		} else if (this.saving === 'saved' || this.saving === 'looking') {
			const stored = await fetch();
			if (stored.version <= this.version) return;
			const base = JSON.parse(this.base) as D;
			this.version = stored.version;
			this.base = JSON.stringify(stored.document);
			this.adopt(base, stored.document);
		}
		if (mine.length > 0) this.onOver(heard.by, () => mine.forEach(({ pointer, was }) => this.set(pointer, was)));
	}

	/** Whether a save of this name was sent from here. */
	protected isOwn(key: string): boolean {
		return this.keys.has(key);
	}

	/** What others made of a document, here and in all that can be taken back: that undoes what was done here alone. */
	private adopt(base: D, theirs: D): void {
		[this.past, this.future] = [rebased(this.past, base, theirs), rebased(this.future, base, theirs)];
		const mine = this.snapshot();
		const next = merge(base, theirs, mine);
		if (same(next, mine)) return;
		this.leave();
		this.document = next;
		this.refresh();
		if (this.last !== null && !this.current) this.bridge(this.last);
	}

	/** @throws the error, if neither time nor anybody's choice will mend it */
	private failed(error: unknown): void {
		if (error instanceof ApiError && error.status === 412) {
			const theirs = error.theirs as S;
			if (theirs.savedBy !== '' && this.keys.has(theirs.savedBy)) {
				// It is what this page sent before, and heard nothing of.
				this.version = theirs.version;
				this.saving = 'changed';
				this.schedule(0);
				return;
			}
			this.theirs = theirs;
			this.saving = 'conflict';
			return;
		}
		this.draft(0);
		this.reason = error instanceof Error ? error.message : String(error);
		if (passes(error)) {
			this.saving = error instanceof ApiError && error.unreachable ? 'offline' : 'failing';
			this.schedule(pause(this.tries++));
			return;
		}
		this.saving = 'refused';
		throw error;
	}

	/** Before a change of structure: what is seen now can be seen until there is code for what comes. */
	private leave(): void {
		if (this.current) this.last = this.snapshot();
	}

	private changed(): void {
		const stored = account.may('write');
		if (!stored) this.saving = 'looking';
		else if (this.saving !== 'conflict' && this.saving !== 'offline' && this.saving !== 'failing') this.saving = 'changed';
		if (stored) this.draft();
		this.refresh();
		if (this.last !== null && !this.current) this.bridge(this.last);
		if (!this.held) this.schedule(this.tries > 0 ? pause(this.tries - 1) : this.soon);
		// Whoever looks on sees a drag as it goes: what is on its way is not put off by what comes after it.
		else if (this.accompanied && this.tries === 0 && this.timer === 0 && this.running === null) this.schedule(SAVE_SOON);
	}

	private replace(document: D): void {
		this.leave();
		this.document = document;
		this.remembered = false;
		this.changed();
	}

	private remember(): void {
		this.past = [...this.past.slice(-MOST_UNDO), JSON.stringify(this.document)];
		this.future = [];
		this.onChange();
	}

	private get soon(): number {
		return this.accompanied ? SAVE_SOON : SAVE_AFTER;
	}

	private unschedule(): void {
		clearTimeout(this.timer);
		this.timer = 0;
	}

	private schedule(after: number): void {
		this.unschedule();
		if (this.saving === 'conflict' || this.saving === 'looking') return;
		this.timer = window.setTimeout(() => void this.save().catch(() => {}), after);
	}
}
