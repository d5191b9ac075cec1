/** Changes of layers, as people make them on the core. Layers are kept from the ground up; those of a group lie next to each other. */
import type { Layer, MaskTerm, MaterialDocument, SetCard } from '../api/client';
import { catalogue } from './catalogue.svelte';
import { freshId, freshName, plainOf, setOf } from './parameters';
import type { Session } from './session.svelte';

/** What a layer of a set is called until somebody calls it otherwise. */
export const nameOf = (set: string): string => (set === '' ? 'Constants' : set.charAt(0).toUpperCase() + set.slice(1).replaceAll('-', ' '));

/** Covers where the base colour of the set does, if that says so. */
function alphaOf(set: SetCard | undefined): MaskTerm[] {
	return set?.maps.some((map) => map.role === 'base-colour' && map.alpha) === true ? [{ kind: 'map', values: { map: `${set.name}/base-colour`, reads: 'alpha' } }] : [];
}

/** A new layer over the one at a place, in the same group and on the same lane, or on a lane at hand that no layer rides on yet. Returns its index. */
export function addLayer(session: Session, over: number, set: SetCard | undefined, hand?: string): number {
	const at = over + 1;
	session.edit((document) => {
		const below = document.layers[over];
		const bare = hand !== undefined && !document.layers.some((layer) => layer.lane === hand);
		const layer: Layer = {
			id: freshId(set?.name ?? 'constants', document.layers.map((layer) => layer.id)),
			name: nameOf(set?.name ?? ''),
			on: true,
			lane: bare ? hand : below?.lane ?? document.lanes[0]?.id ?? '',
			set: set?.name ?? '',
			opacity: catalogue.value?.layer.opacity.default ?? 100,
			faces: {}
		};
		const covers = alphaOf(set);
		if (covers.length > 0) layer.mask = covers;
		// Over the last of a group one may want to be out of it; within it, nobody can be.
		if (below?.group !== undefined && below.group === document.layers[at]?.group) layer.group = below.group;
		document.layers.splice(at, 0, layer);
	});
	return at;
}

/** Another set for a layer: its name goes along while it is the set's, and its cover while it is nothing but the set's alpha. */
export function changeSet(session: Session, index: number, sets: readonly SetCard[], name: string): void {
	session.edit((document) => {
		const layer = document.layers[index];
		if (layer === undefined) return;
		const before = typeof layer.set === 'string' ? layer.set : '';
		const own = alphaOf(sets.find((one) => one.name === before));
		if (layer.name === nameOf(before)) layer.name = nameOf(name);
		if (index > 0 && JSON.stringify(layer.mask ?? []) === JSON.stringify(own)) {
			const covers = alphaOf(sets.find((one) => one.name === name));
			if (covers.length > 0) layer.mask = covers;
			else delete layer.mask;
		}
		layer.set = name;
	});
}

const chosen = (document: MaterialDocument, ids: string[]): Layer[] => document.layers.filter((layer) => ids.includes(layer.id));

/** Groups that have layers; those of a group that were torn apart belong to none. */
function tidy(document: MaterialDocument): void {
	const left = new Set<string>();
	let last = '';
	for (const layer of document.layers) {
		const group = layer.group ?? '';
		if (group !== '' && left.has(group)) delete layer.group;
		if (last !== '' && last !== group) left.add(last);
		last = layer.group ?? '';
	}
	const used = new Set(document.layers.map((layer) => layer.group));
	const groups = (document.groups ?? []).filter((group) => used.has(group.id));
	if (groups.length === 0) delete document.groups;
	else document.groups = groups;
}

/** Takes layers away, but never the last one. */
export function removeLayers(session: Session, ids: string[]): void {
	session.edit((document) => {
		const left = document.layers.filter((layer) => !ids.includes(layer.id));
		document.layers = left.length > 0 ? left : document.layers.slice(0, 1);
		tidy(document);
	});
}

/** Copies above the uppermost of them, on the same lanes. Returns their ids. */
export function duplicateLayers(session: Session, ids: string[]): string[] {
	const made: string[] = [];
	session.edit((document) => {
		const from = chosen(document, ids);
		const at = document.layers.indexOf(from.at(-1)!) + 1;
		const room = (catalogue.value?.limits.layers ?? 0) - document.layers.length;
		const names = document.layers.map((layer) => layer.name);
		const copies = from.slice(0, room).map((layer): Layer => {
			const id = freshId(layer.id, [...document.layers.map((one) => one.id), ...made]);
			made.push(id);
			names.push(freshName(layer.name, names));
			return { ...($state.snapshot(layer) as Layer), id, name: names.at(-1)! };
		});
		document.layers.splice(at, 0, ...copies);
		tidy(document);
	});
	return made;
}

/** Moves layers, in their order, before the one that lies at a place now; between two of a group they join it, elsewhere they leave theirs. */
export function moveLayers(session: Session, ids: string[], to: number): void {
	session.edit((document) => {
		const moved = chosen(document, ids);
		const before = document.layers.slice(0, to).filter((layer) => !ids.includes(layer.id)).length;
		const rest = document.layers.filter((layer) => !ids.includes(layer.id));
		const [under, over] = [rest[before - 1]?.group, rest[before]?.group];
		for (const layer of moved) {
			if (under !== undefined && under === over) layer.group = under;
			else if (layer.group !== under && layer.group !== over) {
				// A whole group stays one wherever it goes.
				if (rest.some((one) => one.group === layer.group)) delete layer.group;
			}
		}
		rest.splice(before, 0, ...moved);
		document.layers = rest;
		tidy(document);
	});
}

/** Shows layers, or hides them if all are shown. */
export function toggleLayers(session: Session, ids: string[]): void {
	session.edit((document) => {
		const some = chosen(document, ids);
		const on = some.some((layer) => layer.on === false);
		for (const layer of some) layer.on = on;
	});
}

/** Makes a group of layers, which come to lie together where the uppermost of them is. Returns its id. */
export function groupLayers(session: Session, ids: string[]): string {
	const id = freshId('group', (session.document.groups ?? []).map((group) => group.id));
	session.edit((document) => {
		const some = chosen(document, ids);
		const rest = document.layers.filter((layer) => !ids.includes(layer.id));
		const top = document.layers.indexOf(some.at(-1)!);
		const at = document.layers.slice(0, top).filter((layer) => !ids.includes(layer.id)).length;
		for (const layer of some) layer.group = id;
		// Inside of another group they would tear it apart; above it they do not.
		let place = at;
		while (place > 0 && rest[place - 1]?.group !== undefined && rest[place - 1]?.group === rest[place]?.group) place += 1;
		rest.splice(place, 0, ...some);
		document.layers = rest;
		document.groups ??= [];
		document.groups.push({ id, name: `Group ${document.groups.length + 1}`, opacity: catalogue.value?.layer.group.default ?? 100 });
		tidy(document);
	});
	return id;
}

/** Puts an end to a group; its layers stay where they are. */
export function ungroup(session: Session, id: string): void {
	session.edit((document) => {
		for (const layer of document.layers) if (layer.group === id) delete layer.group;
		tidy(document);
	});
}

/** What a layer looks like in short: its set, or its tint. */
export function looks(document: MaterialDocument, layer: Layer): { set: string; tint: string } {
	const tint = plainOf(document, layer.finish?.values?.tint, '');
	return { set: setOf(document, layer), tint: Array.isArray(tint) ? `rgb(${tint.map((one) => Math.round(Number(one) * 255)).join(' ')})` : '#fff' };
}
