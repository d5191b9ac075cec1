export type Difference = { path: string; mine: string; theirs: string };

/** Where two documents differ, leaf by leaf. */
export function differences(mine: unknown, theirs: unknown, path = ''): Difference[] {
	if (isBranch(mine) && isBranch(theirs)) {
		const keys = new Set([...Object.keys(mine), ...Object.keys(theirs)]);
		return [...keys].flatMap((key) => differences(mine[key], theirs[key], `${path}/${key}`));
	}
	const [a, b] = [show(mine), show(theirs)];
	return a === b ? [] : [{ path, mine: a, theirs: b }];
}

function isBranch(value: unknown): value is Record<string, unknown> {
	return typeof value === 'object' && value !== null;
}

function show(value: unknown): string {
	return value === undefined ? 'missing' : JSON.stringify(value);
}
