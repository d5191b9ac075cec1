import { untrack } from 'svelte';
import type { Trail } from '../api/client';
import type { Sight } from '../stage/eye';

/** Milliseconds of rest until a point is read again. */
const CALM = 500;
/** And until it is tried again, if it could not be. */
const PAUSE = 4000;

/** The point that was clicked: its trail stays that of what is seen. */
export class Probing {
	trail = $state.raw<Trail | null>(null);
	/** Whether the trail is of what is seen now, where it was clicked last. */
	current = $state(true);
	/** The line of sight that was clicked. */
	sight = $state.raw<Sight | null>(null);
	private read: ((sight: Sight) => Promise<Trail>) | null = null;
	private timer = 0;
	private readings = 0;

	/** What is seen is another: it is read so from now on, and the point that was clicked once more, when it has come to rest. What cannot be read stays, says that it is old, and is tried again. */
	follow(read: (sight: Sight) => Promise<Trail>): void {
		this.read = read;
		clearTimeout(this.timer);
		if (untrack(() => this.sight) === null) return;
		this.readings++;
		this.current = false;
		this.later(CALM);
	}

	/**
	 * A point is clicked.
	 *
	 * @throws if it cannot be read; it is tried again
	 */
	async click(sight: Sight): Promise<void> {
		clearTimeout(this.timer);
		[this.sight, this.current] = [sight, false];
		await this.ask();
	}

	close(): void {
		this.readings++;
		clearTimeout(this.timer);
		[this.trail, this.sight, this.current] = [null, null, true];
	}

	private later(pause: number): void {
		clearTimeout(this.timer);
		this.timer = window.setTimeout(() => void this.ask().catch(() => {}), pause);
	}

	private async ask(): Promise<void> {
		if (this.sight === null || this.read === null) return;
		const mine = ++this.readings;
		try {
			const trail = await this.read(this.sight);
			if (mine === this.readings) [this.trail, this.current] = [trail, true];
		} catch (error) {
			if (mine === this.readings) this.later(PAUSE);
			throw error;
		}
	}
}
