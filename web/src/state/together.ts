type Side = { undo(): void; redo(): void };

const MOST = 400;

/** One history of a document and of the stage that it is judged on: whatever was changed last is taken back first. */
export class Together {
	past: string[] = [];
	future: string[] = [];
	changed: () => void = () => {};

	constructor(private readonly sides: Record<string, Side>) {}

	/** Something has been changed on a side, which remembers how it was. */
	note(side: string): void {
		this.past = [...this.past.slice(-MOST), side];
		this.future = [];
		this.changed();
	}

	undo(): void {
		const side = this.past.at(-1);
		if (side === undefined) return;
		this.past = this.past.slice(0, -1);
		this.future = [...this.future, side];
		this.sides[side]!.undo();
		this.changed();
	}

	redo(): void {
		const side = this.future.at(-1);
		if (side === undefined) return;
		this.future = this.future.slice(0, -1);
		this.past = [...this.past, side];
		this.sides[side]!.redo();
		this.changed();
	}
}
