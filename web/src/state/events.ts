const AGAIN = 4000;

/**
 * Hears what happens in a project, as it happens, until it is ended.
 *
 * @param query of the address, beginning with ? if there is one
 * @param open  called whenever it begins to hear: something may have happened while nobody was listening
 * @param away  called when it hears nothing any more; it tries again by itself
 * @param kinds what is heard, by the names of events
 * @returns what ends it
 */
export function heard(project: string, query: string, open: () => void, away: () => void, kinds: Record<string, (data: unknown) => void>): () => void {
	let source: EventSource;
	let later = 0;
	const join = (): void => {
		source = new EventSource(`/api/projects/${encodeURIComponent(project)}/events${query}`);
		const mine = source;
		source.addEventListener('open', open);
		source.addEventListener('error', () => {
			away();
			// The browser tries again by itself, but for what was refused: then it is asked anew from the start.
			if (mine.readyState === EventSource.CLOSED && mine === source) later = window.setTimeout(join, AGAIN);
		});
		for (const [kind, does] of Object.entries(kinds)) source.addEventListener(kind, (event) => does(JSON.parse((event as MessageEvent<string>).data)));
	};
	join();
	return () => {
		clearTimeout(later);
		source.close();
	};
}
