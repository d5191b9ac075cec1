/** What the values panel shows. Of several objects the first is the one that is taken hold of. */
export type Selection = { kind: 'step'; path: string } | { kind: 'layer'; index: number } | { kind: 'group'; id: string } | { kind: 'object'; id: string; also?: string[] } | { kind: 'parameter'; id: string } | { kind: 'surface' };

/** The objects that are selected, that which is taken hold of first. */
export const selectedObjects = (selection: Selection): string[] => (selection.kind === 'object' ? [selection.id, ...(selection.also ?? [])] : []);

/** The selection with one object more, or without it. */
export function toggled(selection: Selection, id: string): Selection {
	const all = selectedObjects(selection);
	const [first, ...also] = all.includes(id) ? all.filter((one) => one !== id) : [...all, id];
	return first === undefined ? { kind: 'surface' } : { kind: 'object', id: first, ...(also.length === 0 ? {} : { also }) };
}
