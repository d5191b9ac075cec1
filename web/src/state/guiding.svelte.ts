/** Whether the guide is open, and at which word. */
class Guiding {
	/** What is looked up, "" for the beginning; null if it is closed. */
	term = $state<string | null>(null);

	show(term = ''): void {
		this.term = term;
	}
}

export const guiding = new Guiding();
