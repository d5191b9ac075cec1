/** Those that have all words that were typed, in their name or in what is said of them; those whose name begins as typed come first. */
export function foundBy<T>(all: readonly T[], typed: string, nameOf: (one: T) => string, about: (one: T) => string): T[] {
	const start = typed.trim().toLowerCase();
	const words = start.split(/\s+/);
	const found = all.filter((one) => words.every((word) => `${nameOf(one)} ${about(one)}`.toLowerCase().includes(word)));
	const rank = (one: T): number => (nameOf(one).toLowerCase().startsWith(start) ? 0 : nameOf(one).toLowerCase().includes(start) ? 1 : 2);
	return found.sort((a, b) => rank(a) - rank(b));
}
