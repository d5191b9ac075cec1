import { untrack } from 'svelte';
import { api, type LayersAt, type MaterialDocument } from '../api/client';
import { readPoints } from './lookup';

const CALM = 400;

/** Points that were asked about, and which layers of the open material lie there. */
export class Lookup {
	text = $state('');
	/** The direction that surfaces face where a line does not say. */
	facing = $state('0,1,0');
	found = $state.raw<(LayersAt & { points: number[][] }) | null>(null);
	trouble = $state('');
	busy = $state(false);

	constructor(private readonly slug: string) {}

	/** Asks whenever the points or the document change, once they rest. */
	follow(document: () => MaterialDocument): void {
		$effect(() => {
			const asked = document();
			const [text, facing] = [this.text, this.facing];
			const left = new AbortController();
			const later = setTimeout(() => untrack(() => void this.ask(asked, text, facing, left.signal)), CALM);
			return () => {
				clearTimeout(later);
				left.abort();
			};
		});
	}

	private async ask(document: MaterialDocument, text: string, facing: string, signal: AbortSignal): Promise<void> {
		const { points, wrong } = readPoints(text);
		this.trouble = wrong ?? '';
		if (wrong !== null || points.length === 0) {
			this.found = null;
			return;
		}
		this.busy = true;
		try {
			const said = points.map((one) => (one.length === 6 ? one : [...one, ...facing.split(',').map(Number)]));
			const found = await api.layersAt(this.slug, { document, points: said }, signal);
			if (!signal.aborted) this.found = { ...found, points: said };
		} catch (error) {
			if (!signal.aborted) [this.found, this.trouble] = [null, error instanceof Error ? error.message : String(error)];
		} finally {
			if (!signal.aborted) this.busy = false;
		}
	}
}
