/** Milliseconds before a picture that did not come is asked for again, at first. */
const AGAIN = 1500;

/**
 * A picture that did not come, since the server is busy or what it stands on is away, is asked for again: with growing pauses,
 * `most` times, and then let go.
 *
 * @param told how often it was asked for again, each time
 */
export const insisting = (most = 10, told: (tries: number) => void = () => undefined) => (image: HTMLImageElement): (() => void) => {
	let tries = 0;
	let timer = 0;
	const again = (): void => {
		const address = new URL(image.src);
		address.searchParams.set('try', String(tries));
		image.src = address.href;
	};
	const missed = (): void => {
		if (tries === most || timer !== 0) return;
		timer = window.setTimeout(() => {
			timer = 0;
			tries += 1;
			told(tries);
			again();
		}, AGAIN * Math.min(4, 1 + tries / 4) * (0.75 + 0.5 * Math.random()));
	};
	image.addEventListener('error', missed);
	return () => {
		clearTimeout(timer);
		image.removeEventListener('error', missed);
	};
};
