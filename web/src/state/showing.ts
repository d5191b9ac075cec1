import type { Program } from '../stage/program';
import type { TilePainter } from '../stage/tiles';

/** What panels show of the stage, and have it show. */
export type Showing = {
	program: Program | null;
	painter: TilePainter | null;
	/** Counts up when pictures have to be painted again. */
	tick: number;
	/** How much of what is seen layers and masks are, as last measured. */
	shares: Record<string, number>;
	/** What is shown on the stage. */
	view: string;
	show: (view: string) => void;
};
