const NAME = 'rilta-panels';

/** Panels that fold, and what opens by itself: not where the window is low. */
const USUAL = { strip: (): boolean => window.innerHeight >= 760 };

/** Which panels are open. Kept for the person, in their browser. */
class Panels {
	private kept = $state<Record<string, boolean>>({});

	constructor() {
		try {
			this.kept = JSON.parse(localStorage.getItem(NAME) ?? '{}') as Record<string, boolean>;
		} catch {
			// Without a place for them they are as usual.
		}
	}

	open(name: keyof typeof USUAL): boolean {
		const kept = this.kept[name];
		return typeof kept === 'boolean' ? kept : USUAL[name]();
	}

	put(name: keyof typeof USUAL, open: boolean): void {
		this.kept = { ...this.kept, [name]: open };
		try {
			localStorage.setItem(NAME, JSON.stringify(this.kept));
		} catch {
			// They hold as long as the page does.
		}
	}
}

export const panels = new Panels();
