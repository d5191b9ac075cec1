<script lang="ts">
	import { Eye, EyeOff, Lock, LockOpen } from '@lucide/svelte';
	import type { StageObject } from '../api/client';
	import type { Meshes } from '../state/meshes.svelte';
	import { commands } from '../state/commands.svelte';
	import { selectedObjects, toggled, type Selection } from '../state/selection';
	import { snaps } from '../state/snaps.svelte';
	import type { StageState } from '../state/stage.svelte';
	import StageMenu from './StageMenu.svelte';

	/** What stands on the stage. */
	let { stage, meshes, selection, select, change, remove, judge }: {
		stage: StageState;
		meshes: Meshes;
		selection: Selection;
		select: (selection: Selection) => void;
		change: (id: string, change: Partial<StageObject>) => void;
		remove: (ids: string[]) => void;
		/** Another stage is looked at. */
		judge: (id: number) => Promise<void>;
	} = $props();

	const chosen = $derived(selectedObjects(selection));
	const METRES = [0, 0.1, 0.25, 0.5, 1];
	const DEGREES = [0, 5, 15, 45, 90];
	$effect(() => commands.offer('objects', () => stage.document.objects.map((object) => ({ group: 'Object', label: object.name, lands: '.object[aria-pressed="true"]', run: () => select({ kind: 'object', id: object.id }) }))));
</script>

<aside aria-label="Objects">
	<h2 class="heading">Stage</h2>
	<StageMenu {stage} {judge} />
	<div class="snaps">
		<span>Snap to</span>
		<select class="field" aria-label="Snap to metres" title="What is dragged stops at whole steps of this" value={String(snaps.metres)} onchange={(e) => snaps.put(Number(e.currentTarget.value), snaps.degrees)}>{#each METRES as one (one)}<option value={String(one)}>{one === 0 ? 'off' : `${one} m`}</option>{/each}</select>
		<select class="field" aria-label="Snap to degrees" title="What is turned stops at whole steps of this" value={String(snaps.degrees)} onchange={(e) => snaps.put(snaps.metres, Number(e.currentTarget.value))}>{#each DEGREES as one (one)}<option value={String(one)}>{one === 0 ? 'off' : `${one}°`}</option>{/each}</select>
	</div>
	<h2 class="heading">Objects</h2>
	<ul>
		{#each stage.document.objects as object (object.id)}
			<li class:chosen={chosen.includes(object.id)} class:hidden={object.hidden === true}>
				<button class="object" aria-pressed={chosen.includes(object.id)} onclick={(e) => select(e.shiftKey || e.ctrlKey || e.metaKey ? toggled(selection, object.id) : { kind: 'object', id: object.id })}
					onkeydown={(e) => { if ((e.key === 'Delete' || e.key === 'Backspace') && object.locked !== true) { e.preventDefault(); remove(chosen.includes(object.id) ? chosen : [object.id]); } }}>
					<span>{object.name}</span>
					<span class="kind">{meshes.label(object.mesh)}</span>
				</button>
				<button class="tool" aria-pressed={object.hidden === true} aria-label={object.hidden === true ? `Show ${object.name}` : `Hide ${object.name}`} title={object.hidden === true ? 'Show it' : 'Hide it'} onclick={() => change(object.id, { hidden: object.hidden !== true })}>
					{#if object.hidden === true}<EyeOff size={14} />{:else}<Eye size={14} />{/if}
				</button>
				<button class="tool" aria-pressed={object.locked === true} aria-label={object.locked === true ? `Unlock ${object.name}` : `Lock ${object.name}`} title={object.locked === true ? 'Let it be taken hold of' : 'Keep it from being moved or deleted'} onclick={() => change(object.id, { locked: object.locked !== true })}>
					{#if object.locked === true}<Lock size={14} />{:else}<LockOpen size={14} />{/if}
				</button>
			</li>
		{:else}
			<li class="none">Nothing stands here. Take a mesh from below.</li>
		{/each}
	</ul>
</aside>

<style>
	aside {
		display: flex;
		flex-direction: column;
		gap: 4px;
		min-height: 0;
		padding: 12px 8px;
		background: var(--panel);
		border-right: 1px solid var(--line);
		overflow-y: auto;
	}
	.heading {
		padding: 0 4px;
	}
	.heading:not(:first-child) {
		margin-top: 8px;
	}
	li {
		/* Of thousands, those in sight are laid out. */
		content-visibility: auto;
		contain-intrinsic-size: auto 40px;
		display: flex;
		align-items: center;
		border-radius: 3px;
	}
	li.chosen {
		background: var(--accent-soft);
	}
	.object {
		flex: 1;
		min-width: 0;
		display: grid;
		padding: 4px;
		text-align: left;
		line-height: 16px;
		cursor: pointer;
	}
	.object span {
		overflow: hidden;
		white-space: nowrap;
		text-overflow: ellipsis;
	}
	.snaps {
		display: grid;
		grid-template-columns: auto 1fr 1fr;
		align-items: center;
		gap: 4px;
		padding-left: 4px;
		color: var(--dim);
		font-size: 12px;
	}
	.snaps select {
		min-width: 0;
		padding: 0 2px;
	}
	.kind,
	.none {
		color: var(--dim);
		font-size: 12px;
	}
	.hidden .object {
		opacity: 0.55;
	}
	.tool {
		flex: none;
		width: 24px;
		height: 24px;
		padding: 0;
		color: var(--dim);
	}
	.tool[aria-pressed='true'] {
		color: var(--accent);
	}
</style>
