import { api, type MaterialDocument, type RepeatSearch } from '../api/client';
import { insisted } from './retry';

/** Milliseconds between asking how far a search is. */
const PAUSE = 700;

/** A search for what hides the repeat of the open material; the workers do it. */
export class RepeatSearching {
	search = $state.raw<RepeatSearch | null>(null);
	trouble = $state('');
	/** What was searched for, as JSON: what is found is for that. */
	document = $state('');
	private asked = 0;

	constructor(private readonly project: string) {}

	get runs(): boolean {
		return this.search?.state === 'waiting';
	}

	/** Looks for what hides the repeat of a document, with so many map reads a pixel at most. */
	async start(document: MaterialDocument, fetches: number): Promise<void> {
		const mine = ++this.asked;
		[this.search, this.trouble, this.document] = [null, '', JSON.stringify(document)];
		try {
			let found = await api.searchRepeat(this.project, document, fetches);
			if (mine === this.asked) this.search = found;
			while (mine === this.asked && found.state === 'waiting') {
				await new Promise((resolve) => setTimeout(resolve, PAUSE));
				const { id } = found;
				found = await insisted(() => api.repeatSearch(id));
				if (mine === this.asked) this.search = found;
			}
			if (mine === this.asked && found.state === 'failed') this.trouble = found.failure;
		} catch (error) {
			if (mine === this.asked) this.trouble = error instanceof Error ? error.message : String(error);
		}
	}

	/** Nobody wants to know any more. */
	stop(): void {
		const { search } = this;
		this.asked += 1;
		this.search = null;
		if (search?.state === 'waiting') api.cancelRepeatSearch(search.id).catch(() => {
			// It comes to its end by itself.
		});
	}
}
