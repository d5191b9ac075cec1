import { describe, expect, it } from 'vitest';
import type { MaterialDocument, SetCard } from '../api/client';
import { catalogue } from './catalogue.svelte';
import { addLayer, changeSet, duplicateLayers, groupLayers, looks, moveLayers, removeLayers, toggleLayers, ungroup } from './layers.svelte';
import { ownLane, riders } from './lanes.svelte';
import type { Session } from './session.svelte';

catalogue.value = { limits: { layers: 8, groups: 8 }, layer: { opacity: { default: 100 }, group: { default: 100 }, masks: [{ name: 'noise', along: { space: 'lane' } }, { name: 'map', along: {} }] }, steps: [{ name: 'size', controls: [{ name: 'u', default: 1 }, { name: 'v', default: 1 }] }, { name: 'origin', origin: true, controls: [] }] } as unknown as typeof catalogue.value;

/** What the changes need of a session. */
function session(...ids: string[]): Session {
	const document: MaterialDocument = {
		format: 'rilta-material/2',
		name: 'Test',
		lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: {} }, { step: 'size', on: true, values: { u: 1.5, v: 2, countU: 4 } }] }],
		// "b.wet" is layer b of the group wet.
		layers: ids.map((said) => {
			const [id = '', group] = said.split('.');
			return { id, name: id.toUpperCase(), lane: 'main', set: id, ...(group === undefined ? {} : { group }) };
		})
	};
	const groups = [...new Set(ids.flatMap((said) => said.split('.').slice(1)))];
	if (groups.length > 0) document.groups = groups.map((id) => ({ id, name: id }));
	return { document, edit: (change: (document: MaterialDocument) => void) => change(document) } as unknown as Session;
}
const stack = (one: Session): string => one.document.layers.map((layer) => (layer.group === undefined ? layer.id : `${layer.id}.${layer.group}`)).join(' ');

const card = (name: string, alpha = false): SetCard => ({ id: 1, name, extent: 1, sheet: null, tags: [], maps: [{ id: 1, name: `${name}/base-colour`, role: 'base-colour', file: `${name}.png`, width: 4, height: 4, alpha, thumbnail: '' }] });

describe('layers', () => {
	it('are called after their set until somebody calls them otherwise', () => {
		const one = session('a');
		addLayer(one, 0, card('tidal-silt'));
		expect(one.document.layers[1]?.name).toBe('Tidal silt');
		changeSet(one, 1, [], 'sea-wall');
		expect(one.document.layers[1]).toMatchObject({ name: 'Sea wall', set: 'sea-wall' });
		one.document.layers[1]!.name = 'The wall';
		changeSet(one, 1, [], '');
		expect(one.document.layers[1]).toMatchObject({ name: 'The wall', set: '' });
		addLayer(one, 1, undefined);
		expect(one.document.layers[2]).toMatchObject({ name: 'Constants', set: '' });
	});

	it('cover where the alpha of their base colour says so, until their mask is another', () => {
		const one = session('a');
		const sets = [card('decal', true), card('sand')];
		addLayer(one, 0, sets[0]);
		const cover = [{ kind: 'map', values: { map: 'decal/base-colour', reads: 'alpha' } }];
		expect(one.document.layers[1]?.mask).toEqual(cover);
		changeSet(one, 1, sets, 'sand');
		expect(one.document.layers[1]?.mask).toBeUndefined();
		changeSet(one, 1, sets, 'decal');
		expect(one.document.layers[1]?.mask).toEqual(cover);
		one.document.layers[1]!.mask!.push({ kind: 'noise', values: {} });
		changeSet(one, 1, sets, 'sand');
		expect(one.document.layers[1]?.mask).toHaveLength(2);
		changeSet(one, 0, sets, 'decal');
		expect(one.document.layers[0]?.mask).toBeUndefined();
	});

	it('are added over the selected one, in its group only between two of it', () => {
		const one = session('a', 'b.wet', 'c.wet');
		expect(addLayer(one, 1, card('sand'))).toBe(2);
		expect(stack(one)).toBe('a b.wet sand.wet c.wet');
		addLayer(one, 3, card('sand'));
		expect(stack(one)).toBe('a b.wet sand.wet c.wet sand-2');
	});

	it('are added on the lane at hand, if no layer rides on it yet', () => {
		const one = session('a');
		const main = one.document.layers[0]!.lane;
		one.document.lanes.push({ id: 'fresh', name: 'Fresh', steps: [] });
		addLayer(one, 0, card('sand'), main);
		addLayer(one, 1, card('sand'), 'fresh');
		addLayer(one, 0, card('sand'), 'fresh');
		expect(one.document.layers.map((layer) => layer.lane)).toEqual([main, main, main, 'fresh']);
	});

	it('are duplicated together, above the uppermost, up to the most there may be', () => {
		const one = session('a', 'b', 'c');
		expect(duplicateLayers(one, ['a', 'b'])).toEqual(['a-2', 'b-2']);
		expect(stack(one)).toBe('a b a-2 b-2 c');
		expect(one.document.layers[2]?.name).toBe('A 2');
		duplicateLayers(one, ['a', 'b', 'a-2', 'b-2', 'c']);
		expect(one.document.layers).toHaveLength(8);
	});

	it('go away together, but never the last', () => {
		const one = session('a', 'b.wet', 'c.wet');
		removeLayers(one, ['b', 'c']);
		expect([stack(one), one.document.groups]).toEqual(['a', undefined]);
		removeLayers(one, ['a']);
		expect(stack(one)).toBe('a');
	});

	it('are hidden and shown together', () => {
		const one = session('a', 'b', 'c');
		toggleLayers(one, ['a', 'b']);
		expect(one.document.layers.map((layer) => layer.on)).toEqual([false, false, undefined]);
		toggleLayers(one, ['b', 'c']);
		expect(one.document.layers.map((layer) => layer.on)).toEqual([false, true, true]);
	});

	it('move together, and into or out of groups with where they lie', () => {
		const one = session('a', 'b.wet', 'c.wet', 'd');
		moveLayers(one, ['d'], 2);
		expect(stack(one)).toBe('a b.wet d.wet c.wet');
		moveLayers(one, ['b'], 0);
		expect(stack(one)).toBe('b a d.wet c.wet');
		moveLayers(one, ['a', 'b'], 4);
		expect(stack(one)).toBe('d.wet c.wet b a');
		moveLayers(one, ['d', 'c'], 4);
		expect(stack(one)).toBe('b a d.wet c.wet');
	});

	it('come to lie together in a group, and stay when it goes', () => {
		const one = session('a', 'b', 'c', 'd');
		const id = groupLayers(one, ['a', 'c']);
		expect(stack(one)).toBe(`b a.${id} c.${id} d`);
		expect(one.document.groups).toEqual([{ id, name: 'Group 1', opacity: 100 }]);
		ungroup(one, id);
		expect([stack(one), one.document.groups]).toEqual(['b a c d', undefined]);
	});

	it('do not tear a group apart when others are grouped over it', () => {
		const one = session('a.wet', 'b.wet', 'c.wet', 'd');
		const id = groupLayers(one, ['b', 'd']);
		expect(stack(one)).toBe(`a.wet c.wet b.${id} d.${id}`);
		const inner = session('a.wet', 'b.wet', 'c.wet');
		const made = groupLayers(inner, ['b']);
		expect(stack(inner)).toBe(`a.wet c.wet b.${made}`);
	});

	it('look like their set or their tint', () => {
		const one = session('a');
		one.document.layers[0]!.finish = { values: { tint: [1, 0.5, 0] } };
		expect(looks(one.document, one.document.layers[0]!)).toEqual({ set: 'a', tint: 'rgb(255 128 0)' });
	});
});

describe('a lane of a mask', () => {
	it('is a copy of what the term was read along, so many times as large', () => {
		const one = session('a', 'b');
		one.document.layers[1]!.mask = [{ kind: 'noise', values: {} }];
		ownLane(one, 1, 0, 8);
		expect(one.document.layers[1]!.mask).toEqual([{ kind: 'noise', lane: 'main-2', values: { space: 'lane' } }]);
		expect(one.document.lanes[1]).toMatchObject({ id: 'main-2', name: 'Mask of B', steps: [{ step: 'origin' }, { step: 'size', values: { u: 12, v: 16, countU: 0.5 } }] });
		expect(one.document.lanes[0]!.steps[1]!.values.u).toBe(1.5);
		expect(riders(one.document, one.document.lanes[1]!)).toEqual(['mask of B']);
	});

	it('has a size even where the lane had none, and keeps what follows a parameter tied', () => {
		const one = session('a', 'b');
		one.document.lanes[0]!.steps.splice(1, 1);
		one.document.layers[1]!.mask = [{ kind: 'map', values: {} }];
		ownLane(one, 1, 0, 8);
		expect(one.document.lanes[1]!.steps[1]).toMatchObject({ step: 'size', values: { u: 8, v: 8 } });
		const tied = session('a', 'b');
		tied.document.lanes[0]!.steps[1]!.values.u = { parameter: 'wide', factor: 2, offset: 1 };
		tied.document.layers[1]!.mask = [{ kind: 'map', values: {} }];
		ownLane(tied, 1, 0, 8);
		expect(tied.document.lanes[1]!.steps[1]!.values.u).toEqual({ parameter: 'wide', factor: 16, offset: 8 });
	});
});
