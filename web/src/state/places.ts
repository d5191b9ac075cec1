import type { MaterialDocument } from '../api/client';

/** Places of a document as people know them: by the names of lanes and layers. */
export function namedPlaces(text: string, { lanes, layers }: Pick<MaterialDocument, 'lanes' | 'layers'>): string {
	return text
		.replace(/ ?\(?\/lanes\/(\d+)\/steps\/(\d+)\)?/g, (_, lane: string, step: string) => ` (step ${Number(step) + 1} of the lane ${lanes[Number(lane)]?.name ?? lane})`)
		.replace(/ ?\(?\/layers\/(\d+)[^\s),]*\)?/g, (_, layer: string) => ` (layer ${layers[Number(layer)]?.name ?? layer})`);
}
