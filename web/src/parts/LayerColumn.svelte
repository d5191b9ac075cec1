<script lang="ts">
	import { Copy, Eye, EyeOff, Focus, Group, Plus, Trash2 } from '@lucide/svelte';
	import { tick } from 'svelte';
	import type { SetCard } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { commands, VALUES } from '../state/commands.svelte';
	import { findingsHere, SEVERITIES } from '../state/findings.svelte';
	import { addLayer, duplicateLayers, groupLayers, looks, moveLayers, removeLayers, toggleLayers, ungroup } from '../state/layers.svelte';
	import { goAlong } from '../state/regions';
	import { setPicture } from '../state/materials';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import type { StageState } from '../state/stage.svelte';
	import Mark from './Mark.svelte';
	import SetPicker from './SetPicker.svelte';
	import Sheet from './Sheet.svelte';

	let { session, stage, sets, shares, selection, select }: {
		session: Session;
		stage: StageState;
		sets: SetCard[];
		/** How much of the stage each layer is, 0…1, by its place; as last measured. */
		shares: Record<string, number>;
		selection: Selection;
		select: (selection: Selection) => void;
	} = $props();
	const picture = (name: string): string => setPicture(sets.find((set) => set.name === name));
	/** As the core is drilled: the top first. */
	const bands = $derived(session.document.layers.map((layer, index) => ({ layer, index, ...looks(session.dressed, layer) })).reverse());
	const covers = $derived(catalogue.value?.surface ?? []);
	/** What the surface is, in the words of its controls. */
	const kind = $derived(
		covers.flatMap((control) => (control.type === 'choice' ? [control.options.find((one) => one.value === (session.document.surface?.values?.[control.name] ?? control.default))?.label.toLowerCase() ?? ''] : [])).join(', ')
	);
	const findings = findingsHere();
	/** How grave what is found in a layer is. */
	const grave = (index: number): (typeof SEVERITIES)[number] | undefined => SEVERITIES.find((one) => one.value === findings?.().at(`/layers/${index}`));
	/** What it would save to hide a layer, in words. */
	function saved(index: number): string {
		const saves = findings?.().costs?.saves[`/layers/${index}`];
		return saves === undefined ? '' : ` Hiding it saves ${saves.fetches} map reads and ${saves.operations} operations a pixel.`;
	}
	const many = $derived(bands.length > 1);
	let dragged = $state<string[]>([]);
	let over = $state(-1);

	/** Layers beside the selected one that were chosen with it, by id. */
	let more = $state<string[]>([]);
	const main = $derived(selection.kind === 'layer' ? (session.document.layers[selection.index]?.id ?? '') : '');
	const chosen = $derived(selection.kind === 'layer' ? session.document.layers.filter((layer) => layer.id === main || more.includes(layer.id)).map((layer) => layer.id) : []);
	const full = $derived(session.document.layers.length >= (catalogue.value?.limits.layers ?? 0));
	const grouped = $derived(session.document.groups ?? []);
	/** From the topmost band of each group on: how many of it there are. */
	const brackets = $derived(
		grouped.map((group) => {
			const own = bands.flatMap(({ layer }, i) => (layer.group === group.id ? [i] : []));
			return { group, from: own[0] ?? 0, count: own.length };
		})
	);
	const percent = (index: number): string | null => {
		const share = shares[`/layers/${index}`];
		return share === undefined ? null : share > 0 && share < 0.01 ? '< 1 %' : `${Math.round(share * 100)} %`;
	};
	/** In pixels: how high the core is at least, what a band needs to be read and grasped, how far beds bend. */
	const CORE = 260;
	const READABLE = 44;
	const BEND = 18;
	/** More objects than these are left to the view that arranges them. */
	const MOST_LISTED = 40;
	/** What is seen of each band, in pixels: what it needs, and the rest by its share of the stage. */
	const seen = $derived.by(() => {
		const all = bands.map(({ index }) => shares[`/layers/${index}`] ?? 1 / bands.length);
		const whole = Math.max(all.reduce((sum, one) => sum + one, 0), 1e-6);
		const rest = Math.max(CORE - BEND - READABLE * bands.length, 8 * bands.length);
		return all.map((one) => READABLE + (rest * one) / whole);
	});
	/** Where each band begins, and where the last ends, in pixels. */
	const edges = $derived(seen.reduce<number[]>((list, one) => [...list, list.at(-1)! + one], [BEND / 2]));

	function pick(event: MouseEvent, index: number, id: string): void {
		if ((event.ctrlKey || event.metaKey) && selection.kind === 'layer' && id !== main) {
			more = more.includes(id) ? more.filter((one) => one !== id) : [...more, id];
			return;
		}
		if (event.shiftKey && selection.kind === 'layer') {
			const [from, to] = [Math.min(index, selection.index), Math.max(index, selection.index)];
			more = session.document.layers.slice(from, to + 1).map((layer) => layer.id);
			return;
		}
		more = [];
		select({ kind: 'layer', index });
	}
	/** Chooses the next layer above or below those that are chosen as well. */
	function widen(by: 1 | -1): void {
		const places = session.document.layers.flatMap((layer, i) => (chosen.includes(layer.id) ? [i] : []));
		const next = session.document.layers[by > 0 ? Math.max(...places) + 1 : Math.min(...places) - 1];
		if (next !== undefined) more = [...more, next.id];
	}
	/** Goes to the layer of an id, wherever it lies now; the keyboard stays with it. */
	function go(id: string): void {
		const index = session.document.layers.findIndex((layer) => layer.id === id);
		select({ kind: 'layer', index: Math.max(0, index) });
		void tick().then(() => document.querySelector<HTMLElement>('.band.selected .face')?.focus());
	}
	let asking = $state(false);
	/** Whether one was added just now: the keyboard goes on at its values. */
	let added = false;
	function ask(): void {
		added = false;
		asking = true;
	}
	/** A new layer is made of a set, and called after it. */
	function add(name: string): void {
		asking = false;
		added = true;
		const on = selection.kind === 'layer' ? selection.index : session.document.layers.length - 1;
		const lane = selection.kind === 'step' ? session.document.lanes[Number(selection.path.split('/')[2])]?.id : undefined;
		more = [];
		select({ kind: 'layer', index: addLayer(session, on, sets.find((one) => one.name === name), lane) });
	}
	$effect(() => commands.offer('layers', () => [
		...session.document.layers.map((layer, index) => ({ group: 'Layer', label: layer.name, lands: '.band.selected .face', run: () => { more = []; select({ kind: 'layer', index }); } })),
		...(stage.document.objects.length > MOST_LISTED ? [] : stage.document.objects.map((object) => ({ group: 'Object', label: object.name, lands: VALUES, run: () => select({ kind: 'object', id: object.id }) }))),
		{ group: 'Material', label: 'Surface', lands: VALUES, run: () => select({ kind: 'surface' }) },
		{ group: 'Layers', label: 'Add a layer', can: !full, run: ask }
	]));
	/** With all that are chosen, if it is one of them. */
	const withOthers = (id: string): string[] => (chosen.includes(id) ? chosen : [id]);
	function move(ids: string[], to: number): void {
		if (to < 0 || to > session.document.layers.length) return;
		const lead = ids.includes(main) ? main : ids[0]!;
		moveLayers(session, ids, to);
		go(lead);
	}
	/** One step up or down, all that are chosen together. */
	function step(ids: string[], by: 1 | -1): void {
		const at = ids.map((id) => session.document.layers.findIndex((layer) => layer.id === id));
		move(ids, by > 0 ? Math.max(...at) + 2 : Math.min(...at) - 1);
	}
	function duplicate(ids: string[]): void {
		const made = duplicateLayers(session, ids);
		more = made.slice(1);
		if (made[0] !== undefined) go(made[0]);
	}
	function remove(ids: string[]): void {
		const at = session.document.layers.findIndex((layer) => layer.id === ids[0]);
		removeLayers(session, ids);
		more = [];
		select({ kind: 'layer', index: Math.max(0, Math.min(at, session.document.layers.length - 1) - (at > 0 ? 1 : 0)) });
	}
	function group(ids: string[]): void {
		select({ kind: 'group', id: groupLayers(session, ids) });
	}
	/** One layer alone on the stage, or all again. */
	function alone(id: string): void {
		session.solo = session.solo === id ? '' : id;
	}
	function key(event: KeyboardEvent, index: number, id: string): void {
		const ids = withOthers(id);
		const command = event.ctrlKey || event.metaKey;
		const letter = event.key.toLowerCase();
		if (event.altKey && event.key === 'ArrowUp') step(ids, 1);
		else if (event.altKey && event.key === 'ArrowDown') step(ids, -1);
		else if (event.shiftKey && event.key === 'ArrowUp') widen(1);
		else if (event.shiftKey && event.key === 'ArrowDown') widen(-1);
		else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') goAlong(event.currentTarget as HTMLElement, '.band .face', event.key === 'ArrowUp' ? -1 : 1);
		else if (many && (event.key === 'Delete' || event.key === 'Backspace')) remove(ids);
		else if (command && letter === 'd' && !full) duplicate(ids);
		else if (command && letter === 'a') more = session.document.layers.map((layer) => layer.id);
		else if (command && letter === 'g') group(ids);
		else if (letter === 'o' && !command) toggleLayers(session, ids);
		else if (many && letter === 's' && !command) alone(session.document.layers[index]?.id ?? '');
		else return;
		event.preventDefault();
	}
</script>

<aside aria-label="Layers and objects">
	<header>
		<h2 class="heading">Layers</h2>
		<div class="acts">
			<button class="tool" disabled={chosen.length === 0 || full} title="Duplicate (Ctrl+D)" aria-label="Duplicate the layer" onclick={() => duplicate(chosen)}><Copy size={14} /></button>
			<button class="tool" disabled={chosen.length === 0 || grouped.length >= (catalogue.value?.limits.groups ?? 0)} title="Group what is chosen (Ctrl+G). Ctrl+click chooses several" aria-label="Group the chosen layers" onclick={() => group(chosen)}><Group size={14} /></button>
			<button class="tool" disabled={chosen.length === 0 || !many} title="Delete" aria-label="Delete the chosen layers" onclick={() => remove(chosen)}><Trash2 size={14} /></button>
			<button class="tool" disabled={full} title="Add a layer over the selected one" aria-label="Add a layer" onclick={ask}><Plus size={14} /></button>
		</div>
	</header>
	<div class="drill">
		<div class="core">
			{#each bands as { layer, index, set, tint }, i (layer.id)}
				{@const mark = grave(index)}
				<div class="band" class:selected={chosen.includes(layer.id)} class:off={session.solo === '' ? layer.on === false : session.solo !== layer.id} class:over={over === index && !dragged.includes(layer.id)}
					style:height="{(seen[i] ?? READABLE) + BEND}px" style:background-image={set === '' ? undefined : `url(${picture(set)})`} style:background-color={set === '' ? tint : undefined} draggable={many} role="group" aria-label="Layer {layer.name}"
					ondragstart={(e) => { e.dataTransfer?.setData('text/plain', layer.id); dragged = withOthers(layer.id); }} ondragend={() => { dragged = []; over = -1; }}
					ondragover={(e) => { if (dragged.length > 0) { e.preventDefault(); over = index; } }}
					ondrop={(e) => {
						e.preventDefault();
						const from = session.document.layers.findIndex((one) => one.id === dragged[0]);
						if (dragged.length > 0 && !dragged.includes(layer.id)) move(dragged, from < index ? index + 1 : index);
					}}>
					<span class="shade"></span>
					<button class="face" onclick={(e) => pick(e, index, layer.id)} onkeydown={(e) => key(e, index, layer.id)} aria-pressed={chosen.includes(layer.id)}
						aria-label="{layer.name}, layer" title="Drag to move. Alt+↑ ↓, Ctrl+click and Shift+click for several, Ctrl+D, Ctrl+G, O for on and off, S for this one alone, Delete.{saved(index)}">
						<span class="label"><strong>{#if mark !== undefined}<Mark severity={mark.value} title="{mark.label}: see Findings" /> {/if}{layer.name}</strong><span>{percent(index) === null ? '' : `${percent(index)} · `}{set === '' ? 'constants' : set}</span></span>
					</button>
					{#if many}
						<button class="eye solo" aria-pressed={session.solo === layer.id} title={session.solo === layer.id ? 'Show all layers again (S)' : 'This layer alone (S)'} aria-label="{layer.name} alone" onclick={() => alone(layer.id)}><Focus size={14} /></button>
					{/if}
					<button class="eye" aria-pressed={layer.on !== false} title={layer.on === false ? 'Show (O)' : 'Hide (O)'} aria-label="{layer.on === false ? 'Show' : 'Hide'} {layer.name}" onclick={() => toggleLayers(session, [layer.id])}>
						{#if layer.on === false}<EyeOff size={14} />{:else}<Eye size={14} />{/if}
					</button>
				</div>
			{/each}
		</div>
		{#each brackets as { group: one, from, count } (one.id)}
			<button class="bracket" aria-pressed={selection.kind === 'group' && selection.id === one.id} aria-label="{one.name}, group of layers" title="{one.name}: click for its opacity, Delete to ungroup"
				style:top="{edges[from]}px" style:height="{(edges[from + count] ?? 0) - (edges[from] ?? 0)}px"
				onclick={() => select({ kind: 'group', id: one.id })} onkeydown={(e) => { if (e.key === 'Delete' || e.key === 'Backspace') { ungroup(session, one.id); select({ kind: 'surface' }); } }}><span>{one.name}</span></button>
		{/each}
	</div>
	<button class="surface tool" aria-pressed={selection.kind === 'surface'} title="Closed, cut out or translucent; one side or two" onclick={() => select({ kind: 'surface' })}><span>Surface</span><span class="kind">{kind}</span></button>
	<h2 class="heading">Objects</h2>
	{#if stage.document.objects.length > MOST_LISTED}<p class="many">{stage.document.objects.length.toLocaleString('en')} stand on {stage.name}. The view Stage lists them.</p>{/if}
	<ul>
		{#each stage.document.objects.slice(0, stage.document.objects.length > MOST_LISTED ? 0 : MOST_LISTED) as object (object.id)}
			<li>
				<button class="object" aria-pressed={selection.kind === 'object' && selection.id === object.id}
					onclick={() => select({ kind: 'object', id: object.id })}>
					<span>{object.name}</span>
					<span class="figures">{object.scale.map((s) => Number(s.toFixed(2))).join('×')}</span>
				</button>
			</li>
		{/each}
	</ul>
</aside>

{#if asking}
	<Sheet title="A new layer of" close={() => (asking = false)} wide={sets.length > 12} next={() => (added ? document.querySelector<HTMLElement>(VALUES) : null)}>
		<SetPicker {sets} value="?" pick={add} none />
		{#snippet actions()}<button class="tool plain" onclick={() => (asking = false)}>Cancel</button>{/snippet}
	</Sheet>
{/if}

<style>
	.many {
		padding: 0 8px;
		color: var(--dim);
		font-size: 12px;
	}
	aside {
		display: flex;
		flex-direction: column;
		gap: 8px;
		padding: 12px;
		background: var(--panel);
		border-right: 1px solid var(--line);
		overflow: hidden auto;
	}
	.surface {
		justify-content: space-between;
		padding: 0 8px;
	}
	.kind {
		font-size: 12px;
		color: var(--dim);
	}
	header {
		display: flex;
		align-items: center;
		justify-content: space-between;
	}
	.acts {
		display: flex;
	}
	.drill {
		position: relative;
		flex: none;
		margin: 0 14px 12px;
	}
	.core {
		display: flex;
		flex-direction: column;
		border-radius: 50% 50% 50% 50% / 18px 18px 18px 18px;
		overflow: hidden;
		border: 1px solid var(--line);
	}
	/* A clamp around the layers of a group. */
	.bracket {
		position: absolute;
		right: -14px;
		width: 15px;
		padding: 0;
		border: 2px solid var(--dim);
		border-left: 0;
		border-radius: 0 4px 4px 0;
		background: none;
		cursor: pointer;
		overflow: hidden;
	}
	.bracket span {
		writing-mode: vertical-rl;
		font-size: 11px;
		line-height: 11px;
		color: var(--dim);
		white-space: nowrap;
	}
	.bracket:hover,
	.bracket[aria-pressed='true'] {
		border-color: var(--accent);
	}
	.bracket[aria-pressed='true'] span {
		color: var(--accent);
	}
	.band {
		position: relative;
		flex: none;
		transition: height 0.25s;
		background-size: 120px;
	}
	/* Beds of the core bend with its round. */
	.band:not(:first-child) {
		margin-top: -18px;
		border-radius: 50% 50% 0 0 / 0 0 0 0;
		mask-image: radial-gradient(ellipse 50% 18px at 50% 0, transparent 97%, #000 100%);
	}
	/* The core is round: it darkens to both sides. */
	.shade {
		position: absolute;
		inset: 0;
		background: linear-gradient(90deg, rgb(0 0 0 / 0.62), rgb(0 0 0 / 0.06) 34%, rgb(255 255 255 / 0.06) 46%, rgb(0 0 0 / 0.12) 62%, rgb(0 0 0 / 0.68));
	}
	/* Its end is lit. */
	.band:first-child .shade {
		background:
			radial-gradient(ellipse 50% 18px at 50% 18px, rgb(255 255 255 / 0.28) 98%, transparent 100%),
			linear-gradient(90deg, rgb(0 0 0 / 0.62), rgb(0 0 0 / 0.06) 34%, rgb(255 255 255 / 0.06) 46%, rgb(0 0 0 / 0.12) 62%, rgb(0 0 0 / 0.68));
	}
	.selected .shade {
		box-shadow: inset 4px 0 0 var(--accent), inset -4px 0 0 var(--accent);
	}
	.off {
		filter: grayscale(1) brightness(0.45);
	}
	.over .shade {
		background: var(--accent);
		opacity: 0.35;
	}
	.face {
		position: absolute;
		/* Where the bed above bends into this one, it is the one that is clicked. */
		inset: 18px 0 0;
		display: grid;
		place-items: center;
		padding: 0;
		border: 0;
		background: none;
		cursor: pointer;
	}
	.band {
		pointer-events: none;
	}
	.band > * {
		pointer-events: auto;
	}
	.band > .shade {
		pointer-events: none;
	}
	.band:first-child .face {
		inset: 0;
		padding-top: 18px;
	}
	/* The bed below bends into it from both sides. */
	.band:first-child:not(:last-of-type) .face {
		inset: 0 0 9px;
		padding-top: 11px;
	}
	/* The core's end is round: what is written there stands above it. */
	.band:last-of-type:not(:first-child) .face {
		bottom: 10px;
	}
	.face:focus-visible {
		outline-offset: -4px;
	}
	.label {
		display: grid;
		padding: 3px 8px;
		max-width: 130px;
		background: rgb(0 0 0 / 0.68);
		color: #f2f2f2;
		border-radius: 3px;
		font-size: 12px;
		line-height: 15px;
		white-space: nowrap;
	}
	.label > * {
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.label span {
		color: #cfcfcf;
	}
	.eye {
		position: absolute;
		right: 6px;
		top: calc(50% - 3px);
		display: grid;
		place-items: center;
		width: 24px;
		height: 24px;
		padding: 0;
		border: 0;
		border-radius: 3px;
		background: rgb(0 0 0 / 0.55);
		color: #f2f2f2;
		cursor: pointer;
		opacity: 0;
	}
	.solo {
		right: auto;
		left: 6px;
	}
	.solo[aria-pressed='true'] {
		opacity: 1;
		color: var(--accent);
	}
	.band:hover .eye,
	.band:focus-within .eye,
	.off .eye {
		opacity: 1;
	}
	.object {
		display: flex;
		justify-content: space-between;
		gap: 8px;
		width: 100%;
		min-height: 24px;
		padding: 2px 8px;
		border: 0;
		border-radius: 3px;
		text-align: left;
		line-height: 18px;
		background: none;
		cursor: pointer;
	}
	.object span:last-child {
		color: var(--dim);
		white-space: nowrap;
	}
	.object:hover {
		background: var(--raised);
	}
	.object[aria-pressed='true'] {
		background: var(--accent-soft);
		color: var(--accent);
	}
</style>
