/** JSON Pointers (RFC 6901) into documents. */

function keys(path: string): string[] {
	const all = path
		.split('/')
		.slice(1)
		.map((key) => key.replaceAll('~1', '/').replaceAll('~0', '~'));
	// What all objects share is no part of any document.
	if (all.includes('__proto__')) throw new Error(`There is no ${path}.`);
	return all;
}

export function valueAt(document: unknown, path: string): unknown {
	let at = document;
	for (const key of keys(path)) {
		if (typeof at !== 'object' || at === null) return undefined;
		at = (at as Record<string, unknown>)[key];
	}
	return at;
}

export function setAt(document: unknown, path: string, value: unknown): void {
	const all = keys(path);
	const last = all.pop();
	let parent = document;
	for (const key of all) {
		if (typeof parent !== 'object' || parent === null) break;
		const inside = parent as Record<string, unknown>;
		// What a document leaves out is begun; entries of lists are not.
		if (inside[key] === undefined && !Array.isArray(parent)) inside[key] = {};
		parent = inside[key];
	}
	if (last === undefined || typeof parent !== 'object' || parent === null) throw new Error(`There is no ${path}.`);
	(parent as Record<string, unknown>)[last] = value;
}

function removeAt(document: unknown, path: string): void {
	const all = keys(path);
	const last = all.pop();
	const parent = valueAt(document, path.slice(0, path.lastIndexOf('/')));
	if (last === undefined || typeof parent !== 'object' || parent === null) throw new Error(`There is no ${path}.`);
	if (Array.isArray(parent)) parent.splice(Number(last), 1);
	else Reflect.deleteProperty(parent, last);
}

function addAt(document: unknown, path: string, value: unknown): void {
	const list = valueAt(document, path.slice(0, path.lastIndexOf('/')));
	const last = keys(path).pop();
	if (Array.isArray(list)) list.splice(last === '-' ? list.length : Number(last), 0, value);
	else setAt(document, path, value);
}

/** A change of a document, as RFC 6902 (JSON Patch) writes it. */
export type Operation = { op: 'add' | 'replace' | 'remove'; path: string; value?: unknown };

/** Changes a document. */
export function patch(document: unknown, operations: readonly Operation[]): void {
	for (const { op, path, value } of operations) {
		if (op === 'remove') removeAt(document, path);
		else if (op === 'add') addAt(document, path, structuredClone(value));
		else setAt(document, path, structuredClone(value));
	}
}
