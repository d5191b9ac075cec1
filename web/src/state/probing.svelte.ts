import { untrack } from 'svelte';
import type { Trail } from '../api/client';
import type { Sight } from '../stage/eye';

/** Milliseconds of rest until a point is read again. */
const CALM = 500;

/** The point that was clicked: its trail stays that of what is seen. */
export class Probing {
	trail = $state.raw<Trail | null>(null);
	/** Whether the trail is of what is seen now. */
	current = $state(true);
	/** The line of sight that was clicked. */
	sight = $state.raw<Sight | null>(null);
	private timer = 0;
	private readings = 0;

	/** A point was clicked, and read. */
	found(trail: Trail, sight: Sight): void {
		this.readings++;
		[this.trail, this.sight, this.current] = [trail, sight, true];
	}

	close(): void {
		this.readings++;
		clearTimeout(this.timer);
		[this.trail, this.sight, this.current] = [null, null, true];
	}

	/** What is seen is another: the same line of sight is read once more, when it has come to rest. What cannot be read stays, and says that it is old. */
	again(read: (sight: Sight) => Promise<Trail>): void {
		clearTimeout(this.timer);
		const sight = untrack(() => this.sight);
		if (sight === null) return;
		this.current = false;
		const mine = ++this.readings;
		this.timer = window.setTimeout(() => {
			read(sight).then(
				(trail) => { if (mine === this.readings) [this.trail, this.current] = [trail, true]; },
				() => {}
			);
		}, CALM);
	}
}
