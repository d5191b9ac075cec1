/** How a mask is shown alone on the stage: in grey, or in two plain colours. Remembered by the browser. */
const KEY = 'rilta-mask-colours';

class MaskColours {
	two = $state(false);
	/** Where there is nothing of the layer, and where there is all of it: sRGB, 0…1. */
	none = $state.raw<number[]>([0.12, 0.16, 0.3]);
	all = $state.raw<number[]>([0.96, 0.72, 0.2]);

	constructor() {
		try {
			const kept = JSON.parse(localStorage.getItem(KEY) ?? 'null') as { two?: unknown; none?: unknown; all?: unknown } | null;
			if (kept === null) return;
			this.two = kept.two === true;
			if (isColour(kept.none)) this.none = kept.none;
			if (isColour(kept.all)) this.all = kept.all;
		} catch {
			// What cannot be read is as if it were not there.
		}
	}

	keep(change: Partial<Pick<MaskColours, 'two' | 'none' | 'all'>>): void {
		Object.assign(this, change);
		try {
			localStorage.setItem(KEY, JSON.stringify({ two: this.two, none: this.none, all: this.all }));
		} catch {
			// They hold until the page is left.
		}
	}
}

function isColour(value: unknown): value is number[] {
	return Array.isArray(value) && value.length === 3 && value.every((one) => typeof one === 'number' && one >= 0 && one <= 1);
}

export const maskColours = new MaskColours();

/** Whether a view is a mask, or one that is not finished yet. */
export const isMask = (view: string): boolean => view.startsWith('mask:') || view.startsWith('term:');
