/** Changes of layers, as people make them on the core. Layers are kept from the ground up. */
import { catalogue } from './catalogue.svelte';
import { freshId } from './parameters';
import type { Session } from './session.svelte';

/** A new layer over the one at a place, on the same lane. Returns its index. */
export function addLayer(session: Session, over: number, set: string): number {
	const at = over + 1;
	session.edit((document) => {
		const name = set.charAt(0).toUpperCase() + set.slice(1).replaceAll('-', ' ');
		document.layers.splice(at, 0, {
			id: freshId(set, document.layers.map((layer) => layer.id)),
			name,
			on: true,
			lane: document.layers[over]?.lane ?? document.lanes[0]?.id ?? '',
			set,
			opacity: catalogue.value?.layer.opacity.default ?? 100,
			faces: {}
		});
	});
	return at;
}

export function removeLayer(session: Session, at: number): void {
	session.edit((document) => document.layers.splice(at, 1));
}

/** Moves a layer up or down. Returns where it lies then. */
export function moveLayer(session: Session, from: number, to: number): number {
	const target = Math.max(0, Math.min(session.document.layers.length - 1, to));
	if (target === from) return from;
	session.edit((document) => {
		const [layer] = document.layers.splice(from, 1);
		if (layer !== undefined) document.layers.splice(target, 0, layer);
	});
	return target;
}

export function toggleLayer(session: Session, at: number): void {
	session.edit((document) => {
		const layer = document.layers[at];
		if (layer !== undefined) layer.on = layer.on === false;
	});
}
