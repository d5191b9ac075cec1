import { api, type MaterialCard, type SetCard } from '../api/client';

/** What stands for a set in small: its colours, or whatever else it has. */
export const setPicture = (set: SetCard | undefined): string => (set?.maps.find((map) => map.role === 'base-colour') ?? set?.maps[0])?.thumbnail ?? '';

/** All materials of a project, by name. */
export async function allMaterials(project: string): Promise<MaterialCard[]> {
	const found: MaterialCard[] = [];
	for (let page = 1, pages = 1; page <= pages; page++) {
		const shelf = await api.shelf(project, { q: '', sort: 'name', bin: false, page });
		found.push(...shelf.materials);
		pages = shelf.pages;
	}
	return found;
}
