<script lang="ts">
	import { Eye, EyeOff, Focus, Plus } from '@lucide/svelte';
	import { tick } from 'svelte';
	import type { Layer, SetCard } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { addLayer, moveLayer, removeLayer, toggleLayer } from '../state/layers.svelte';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import type { StageState } from '../state/stage.svelte';

	let { session, stage, sets, selection, select }: {
		session: Session;
		stage: StageState;
		sets: SetCard[];
		selection: Selection;
		select: (selection: Selection) => void;
	} = $props();
	const picture = (name: string): string => sets.find((set) => set.name === name)?.maps.find((m) => m.role === 'base-colour')?.thumbnail ?? '';
	/** What a layer without maps looks like: its tint. */
	function colour(layer: Layer): string {
		const tint = layer.finish?.values?.tint;
		return Array.isArray(tint) ? `rgb(${tint.map((one) => Math.round(Number(one) * 255)).join(' ')})` : '#fff';
	}
	/** As the core is drilled: the top first. */
	const bands = $derived(session.document.layers.map((layer, index) => ({ layer, index })).reverse());
	const covers = $derived(catalogue.value?.surface ?? []);
	/** What the surface is, in the words of its controls. */
	const kind = $derived(
		covers.flatMap((control) => (control.type === 'choice' ? [control.options.find((one) => one.value === (session.document.surface?.values?.[control.name] ?? control.default))?.label.toLowerCase() ?? ''] : [])).join(', ')
	);
	const many = $derived(bands.length > 1);
	let dragged = $state(-1);
	let over = $state(-1);

	function add(): void {
		const on = selection.kind === 'layer' ? selection.index : session.document.layers.length - 1;
		const used = session.document.layers.map((layer) => layer.set);
		const set = (sets.find((one) => !used.includes(one.name)) ?? sets[0])?.name;
		if (set !== undefined) select({ kind: 'layer', index: addLayer(session, on, set) });
	}
	function move(from: number, to: number): void {
		select({ kind: 'layer', index: moveLayer(session, from, to) });
		// The keyboard stays with the layer.
		void tick().then(() => document.querySelector<HTMLElement>('.band.selected .face')?.focus());
	}
	/** One layer alone on the stage, or all again. */
	function alone(id: string): void {
		session.solo = session.solo === id ? '' : id;
	}
	function key(event: KeyboardEvent, index: number): void {
		if (event.altKey && event.key === 'ArrowUp') move(index, index + 1);
		else if (event.altKey && event.key === 'ArrowDown') move(index, index - 1);
		else if (many && (event.key === 'Delete' || event.key === 'Backspace')) {
			removeLayer(session, index);
			select({ kind: 'layer', index: Math.max(0, index - 1) });
		} else if (event.key.toLowerCase() === 'o' && !event.ctrlKey && !event.metaKey) toggleLayer(session, index);
		else if (many && event.key.toLowerCase() === 's' && !event.ctrlKey && !event.metaKey) alone(session.document.layers[index]?.id ?? '');
		else return;
		event.preventDefault();
	}
</script>

<aside aria-label="Layers and objects">
	<header>
		<h2 class="heading">Layers</h2>
		<button class="tool" disabled={session.document.layers.length >= (catalogue.value?.limits.layers ?? 0)} title="Add a layer over the selected one" aria-label="Add a layer" onclick={add}><Plus size={14} /></button>
	</header>
	<div class="core">
		{#each bands as { layer, index } (layer.id)}
			<div class="band" class:selected={selection.kind === 'layer' && selection.index === index} class:off={session.solo === '' ? layer.on === false : session.solo !== layer.id} class:over={over === index && dragged !== index}
				style:background-image={layer.set === '' ? undefined : `url(${picture(layer.set)})`} style:background-color={layer.set === '' ? colour(layer) : undefined} draggable={many} role="group" aria-label="Layer {layer.name}"
				ondragstart={(e) => { e.dataTransfer?.setData('text/plain', layer.id); dragged = index; }} ondragend={() => (dragged = over = -1)}
				ondragover={(e) => { if (dragged >= 0) { e.preventDefault(); over = index; } }} ondrop={(e) => { e.preventDefault(); if (dragged >= 0 && dragged !== index) move(dragged, index); }}>
				<span class="shade"></span>
				<button class="face" onclick={() => select({ kind: 'layer', index })} onkeydown={(e) => key(e, index)} aria-pressed={selection.kind === 'layer' && selection.index === index}
					aria-label="{layer.name}, layer" title="Drag to move. Alt+↑ ↓, O for on and off, S for this one alone, Delete">
					<span class="label"><strong>{layer.name}</strong><span>{layer.set === '' ? 'constants' : layer.set}</span></span>
				</button>
				{#if many}
					<button class="eye solo" aria-pressed={session.solo === layer.id} title={session.solo === layer.id ? 'Show all layers again (S)' : 'This layer alone (S)'} aria-label="{layer.name} alone" onclick={() => alone(layer.id)}><Focus size={14} /></button>
				{/if}
				<button class="eye" aria-pressed={layer.on !== false} title={layer.on === false ? 'Show (O)' : 'Hide (O)'} aria-label="{layer.on === false ? 'Show' : 'Hide'} {layer.name}" onclick={() => toggleLayer(session, index)}>
					{#if layer.on === false}<EyeOff size={14} />{:else}<Eye size={14} />{/if}
				</button>
			</div>
		{/each}
	</div>
	<button class="surface tool" aria-pressed={selection.kind === 'surface'} title="Closed, cut out or translucent; one side or two" onclick={() => select({ kind: 'surface' })}><span>Surface</span><span class="kind">{kind}</span></button>
	<h2 class="heading">Objects</h2>
	<ul>
		{#each stage.document.objects as object (object.id)}
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

<style>
	aside {
		display: flex;
		flex-direction: column;
		gap: 8px;
		padding: 12px;
		background: var(--panel);
		border-right: 1px solid var(--line);
		overflow: auto;
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
	.core {
		height: 240px;
		flex: none;
		display: flex;
		flex-direction: column;
		margin: 0 12px 12px;
		border-radius: 50% 50% 50% 50% / 18px 18px 18px 18px;
		overflow: hidden;
		border: 1px solid var(--line);
	}
	.band {
		position: relative;
		flex: 1;
		min-height: 0;
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
		inset: 0;
		display: grid;
		place-items: center;
		padding: 18px 0 0;
		border: 0;
		background: none;
		cursor: pointer;
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
