import { api } from '../api/client';

/** What was painted on objects, four bytes a vertex, by the names that objects have for it. Never changed once it is here. */
const all = new Map<string, Uint8Array>();

export const paints = {
	/** What is here already. */
	known: (name: string): Uint8Array | undefined => all.get(name),
	async load(name: string): Promise<Uint8Array> {
		const paint = all.get(name) ?? new Uint8Array(await api.paint(name));
		all.set(name, paint);
		return paint;
	},
	/** Has the server keep it. */
	async keep(project: string, paint: Uint8Array): Promise<string> {
		const kept = paint.slice();
		const name = (await api.keepPaint(project, kept)).paint;
		all.set(name, kept);
		return name;
	}
};
