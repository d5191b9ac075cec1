import { api, type MaterialDocument, type Repetition } from '../api/client';
import { passes, pause } from './retry';

/** Milliseconds after the last change until a curve is asked for, and after that until one from more distances is. */
const CALM = 700;
const LEISURE = 1500;

/** How much of the open material's surface comes again, as the core measures it. */
export class Judging {
	curve = $state.raw<Repetition | null>(null);
	/** Whether the curve is of the document as it is. */
	current = $state(false);
	/** Why there is none. */
	trouble = $state('');
	/** The same without one step each, by the place of the step. */
	without = $state.raw<Record<string, Repetition>>({});
	private asked = new AbortController();
	private timer = 0;
	private document: MaterialDocument | null = null;

	constructor(private readonly project: string) {}

	/** The document is another; its curve follows when it has come to rest. */
	follow(document: MaterialDocument): void {
		this.stop();
		this.document = document;
		this.current = false;
		this.without = {};
		this.timer = window.setTimeout(() => void this.ask(document, false), this.curve === null ? 0 : CALM);
	}

	/** Asks what the curve would be without each of some steps, one after the other. */
	async blame(paths: string[]): Promise<void> {
		const { document, asked } = this;
		if (document === null) return;
		for (const without of paths) {
			try {
				const found = await api.repetition(this.project, { document, without }, asked.signal);
				if (asked.signal.aborted) return;
				this.without = { ...this.without, [without]: found };
			} catch (error) {
				if (!asked.signal.aborted) this.trouble = error instanceof Error ? error.message : String(error);
				return;
			}
		}
	}

	stop(): void {
		clearTimeout(this.timer);
		this.asked.abort();
		this.asked = new AbortController();
	}

	private async ask(document: MaterialDocument, fine: boolean, tries = 0): Promise<void> {
		const { signal } = this.asked;
		try {
			const found = await api.repetition(this.project, { document, fine }, signal);
			if (signal.aborted) return;
			[this.curve, this.current, this.trouble] = [found, true, ''];
			if (!fine) this.timer = window.setTimeout(() => void this.ask(document, true), LEISURE);
		} catch (error) {
			if (signal.aborted) return;
			// Without more distances the first ones stand.
			if (!fine) this.trouble = error instanceof Error ? error.message : String(error);
			if (passes(error)) this.timer = window.setTimeout(() => void this.ask(document, fine, tries + 1), pause(tries));
		}
	}
}
