/** What people call the browser that says this of itself; what nobody knows as it says it. */
export function browserName(agent: string): string {
	// Each says that it is those after it as well.
	const kind = [['Edg', 'Edge'], ['OPR', 'Opera'], ['Firefox', 'Firefox'], ['Chromium', 'Chromium'], ['Chrome', 'Chrome'], ['Safari', 'Safari']].find(([sign]) => agent.includes(`${sign}/`));
	const system = [['Windows', 'Windows'], ['Android', 'Android'], ['iPhone', 'iPhone'], ['iPad', 'iPad'], ['Mac OS', 'macOS'], ['Linux', 'Linux']].find(([sign]) => agent.includes(sign!));
	return kind === undefined ? agent.slice(0, 60) || 'A browser' : `${kind[1]}${system === undefined ? '' : ` on ${system[1]}`}`;
}
