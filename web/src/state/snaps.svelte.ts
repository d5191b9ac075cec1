const NAME = 'rilta-snaps';

/** The steps that what is dragged stops at: metres and degrees, 0 for none. Kept for the person, in their browser. */
class Snaps {
	metres = $state(0);
	degrees = $state(0);

	constructor() {
		try {
			const kept = JSON.parse(localStorage.getItem(NAME) ?? '{}') as { metres?: unknown; degrees?: unknown };
			if (typeof kept.metres === 'number' && kept.metres >= 0) this.metres = kept.metres;
			if (typeof kept.degrees === 'number' && kept.degrees >= 0) this.degrees = kept.degrees;
		} catch {
			// Without a place for them there are none.
		}
	}

	put(metres: number, degrees: number): void {
		[this.metres, this.degrees] = [metres, degrees];
		try {
			localStorage.setItem(NAME, JSON.stringify({ metres, degrees }));
		} catch {
			// They hold as long as the page does.
		}
	}
}

export const snaps = new Snaps();
