export type Difference = { path: string; mine: string; theirs: string };

/** Where two documents differ, leaf by leaf. */
export function differences(mine: unknown, theirs: unknown, path = ''): Difference[] {
	// What one of them lacks altogether is told leaf by leaf too.
	const [branched, alsoBranched] = [isBranch(mine) || (mine === undefined && isBranch(theirs)), isBranch(theirs) || (theirs === undefined && isBranch(mine))];
	if (branched && alsoBranched) {
		const [one, other] = [(mine ?? {}) as Record<string, unknown>, (theirs ?? {}) as Record<string, unknown>];
		const keys = new Set([...Object.keys(one), ...Object.keys(other)]);
		return [...keys].flatMap((key) => differences(one[key], other[key], `${path}/${key}`));
	}
	const said = [show(mine), show(theirs)] as const;
	return said[0] === said[1] ? [] : [{ path, mine: said[0], theirs: said[1] }];
}

function isBranch(value: unknown): value is Record<string, unknown> {
	return typeof value === 'object' && value !== null;
}

function show(value: unknown): string {
	return value === undefined ? 'missing' : JSON.stringify(value);
}
