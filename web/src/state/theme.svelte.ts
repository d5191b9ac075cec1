/** Dark or light, kept in the browser. */
type Mode = 'dark' | 'light';

function first(): Mode {
	const kept = localStorage.getItem('rilta-mode');
	return kept === 'light' || kept === 'dark' ? kept : 'dark';
}

class Theme {
	mode = $state<Mode>(first());

	constructor() {
		document.documentElement.dataset.mode = this.mode;
	}

	toggle(): void {
		this.mode = this.mode === 'dark' ? 'light' : 'dark';
		localStorage.setItem('rilta-mode', this.mode);
		document.documentElement.dataset.mode = this.mode;
	}

	/** A colour of the style sheet, as it is now. */
	colour(name: string): string {
		return getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();
	}
}

export const theme = new Theme();
