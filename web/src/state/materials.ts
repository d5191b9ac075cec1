import { api, type MaterialCard } from '../api/client';

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
