<script lang="ts">
	import { tick as settled } from 'svelte';
	import { CopyPlus, Eye, Power, Trash2 } from '@lucide/svelte';
	import type { StepUse } from '../api/client';
	import type { Program } from '../stage/program';
	import type { TilePainter } from '../stage/tiles';
	import { catalogue } from '../state/catalogue.svelte';
	import { TILE } from '../state/commands.svelte';
	import { duplicated, duplicateStep, foreseeing, moveStep, obstacle, removed, removeStep, toggled, toggleStep } from '../state/lanes.svelte';
	import { failed } from '../state/notices.svelte';
	import { goAlong } from '../state/regions';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import { theme } from '../state/theme.svelte';
	import { findingsHere, SEVERITIES } from '../state/findings.svelte';
	import Mark from './Mark.svelte';
	import TieField from './TieField.svelte';

	let { session, use, lane, index, main, selected, select, program, painter, tick, shown, show, grab }: {
		session: Session;
		use: StepUse;
		lane: number;
		index: number;
		main: string | null;
		selected: boolean;
		select: (selection: Selection) => void;
		program: Program | null;
		painter: TilePainter | null;
		tick: number;
		shown: string;
		show: (view: string) => void;
		/** The tile is being dragged, or no longer. */
		grab: (on: boolean) => void;
	} = $props();

	const path = $derived(`/lanes/${lane}/steps/${index}`);
	const here = $derived<Selection>({ kind: 'step', path });

	function move(by: number): void {
		const whole = session.document.lanes[lane];
		const to = by < 0 ? index - 1 : index + 2;
		if (whole === undefined || to > whole.steps.length) return;
		const why = obstacle(whole, index, to);
		if (why !== null) failed('It cannot stand there', new Error(why));
		else go(moveStep(session, lane, index, to));
	}
	/** Goes to a step of the lane; the keyboard goes with it. */
	function go(at: number): void {
		select({ kind: 'step', path: `/lanes/${lane}/steps/${at}` });
		void settled().then(() => document.querySelector<HTMLElement>(TILE)?.focus());
	}

	function remove(): void {
		removeStep(session, lane, index);
		go(index - 1);
	}

	function key(event: KeyboardEvent): void {
		const command = event.ctrlKey || event.metaKey;
		if (event.altKey && event.key === 'ArrowLeft') move(-1);
		else if (event.altKey && event.key === 'ArrowRight') move(1);
		else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') goAlong(event.currentTarget as HTMLElement, '.tile .face', event.key === 'ArrowLeft' ? -1 : 1);
		else if (index > 0 && (event.key === 'Delete' || event.key === 'Backspace')) remove();
		else if (index > 0 && command && event.key.toLowerCase() === 'd') duplicateStep(session, lane, index);
		else if (index > 0 && event.key.toLowerCase() === 'o' && !command) toggleStep(session, lane, index);
		else return;
		event.preventDefault();
	}
	let canvas = $state<HTMLCanvasElement>();
	const kind = $derived(catalogue.step(use.step));
	const control = $derived(main === null ? undefined : catalogue.control(use.step, main));
	const view = $derived(`station:${path}`);
	const findings = findingsHere();
	const found = $derived(findings?.().at(path) ?? null);
	/** What it saves to switch it off. */
	const saves = $derived(use.on ? findings?.().costs?.saves[path] : undefined);

	$effect(() => {
		void tick;
		void theme.mode;
		if (canvas === undefined || program === null || painter === null) return;
		const picture = program.lowered.views.findIndex((one) => one.name === view);
		if (picture < 0) return;
		// Where drawing is slow the stage comes first.
		const [at, on] = [program, canvas];
		const later = window.setTimeout(() => void painter.paint(at, picture, on, theme.colour('raised')), painter.patience);
		return () => clearTimeout(later);
	});
</script>

<div class="tile" class:selected class:off={!use.on} draggable={index > 0} role="group" aria-label="{kind?.label ?? use.step}, step {index + 1}"
	ondragstart={(e) => { if ((e.target as HTMLElement).closest('.value') !== null) { e.preventDefault(); return; } e.dataTransfer?.setData('text/plain', path); grab(true); }} ondragend={() => grab(false)}>
	<button class="face" onclick={() => select(here)} onkeydown={key} aria-pressed={selected} aria-label="{kind?.label ?? use.step}, step of the lane"
		title={index > 0 ? 'Drag to move. Alt+← →, Ctrl+D to duplicate, O for on and off, Delete' : ''}>
		{#if kind === undefined}
			<span class="unknown">This version does not know the step “{use.step}”. It is kept, and left out of the picture.</span>
		{/if}
		<canvas bind:this={canvas} width="272" height="152" aria-hidden="true" hidden={kind === undefined}></canvas>
		{#if found !== null}<span class="grave"><Mark severity={found} title="{SEVERITIES.find((one) => one.value === found)?.label}: see Findings" /></span>{/if}
		{#if saves !== undefined && saves.fetches > 0}<span class="costs figures" title="What it saves to switch it off">+{saves.fetches} reads</span>{/if}
	</button>
	{#if index > 0}
		<div class="tools">
			<button class="tool mini" aria-pressed={use.on} title={use.on ? 'Switch off (O)' : 'Switch on (O)'} aria-label="{use.on ? 'Switch off' : 'Switch on'} {kind?.label}" {@attach foreseeing(session, () => toggled(lane, index))} onclick={() => toggleStep(session, lane, index)}><Power size={13} /></button>
			<button class="tool mini" title="Duplicate (Ctrl+D)" aria-label="Duplicate {kind?.label}" {@attach foreseeing(session, () => duplicated(lane, index))} onclick={() => duplicateStep(session, lane, index)}><CopyPlus size={13} /></button>
			<button class="tool mini" title="Delete" aria-label="Delete {kind?.label}" {@attach foreseeing(session, () => removed(lane, index))} onclick={remove}><Trash2 size={13} /></button>
		</div>
	{/if}
	<div class="foot">
		<span class="name">{kind?.label ?? use.step}</span>
		{#if control?.type === 'number' && main !== null}
			<div class="value">
				<TieField {session} {control} compact path="{path}/values/{main}" />
			</div>
		{/if}
		<button class="tool small" aria-pressed={shown === view} title="Show here: the coordinates after this step, on the stage"
			aria-label="Show {kind?.label ?? use.step} on the stage" onclick={() => show(shown === view ? 'lit' : view)}><Eye size={14} /></button>
	</div>
</div>

<style>
	.tile {
		position: relative;
		width: 176px;
		border: 1px solid var(--line);
		border-radius: 4px;
		background: var(--raised);
		overflow: hidden;
	}
	.grave {
		position: absolute;
		left: 6px;
		top: 6px;
	}
	.costs {
		position: absolute;
		left: 6px;
		bottom: 4px;
		padding: 0 4px;
		border-radius: 2px;
		background: color-mix(in srgb, var(--panel) 75%, transparent);
		font-size: 11px;
		color: var(--dim);
	}
	.off canvas {
		opacity: 0.3;
	}
	.off .name {
		color: var(--dim);
		text-decoration: line-through;
	}
	.tools {
		position: absolute;
		top: 4px;
		right: 4px;
		display: flex;
		gap: 2px;
		opacity: 0;
	}
	.tile:hover .tools,
	.tile:focus-within .tools,
	.selected .tools,
	.off .tools {
		opacity: 1;
	}
	.mini {
		height: 22px;
		width: 22px;
		padding: 0;
		justify-content: center;
		background: color-mix(in oklch, var(--panel), transparent 15%);
	}
	.selected {
		border-color: var(--accent);
		box-shadow: 0 0 0 1px var(--accent);
	}
	.face {
		position: relative;
		display: block;
		width: 100%;
		padding: 0;
		border: 0;
		cursor: pointer;
		background: none;
	}
	canvas {
		display: block;
		width: 100%;
		height: 94px;
	}
	.unknown {
		display: block;
		height: 94px;
		padding: 8px;
		border-left: 3px solid var(--amber);
		text-align: left;
		font-size: 12px;
		line-height: 16px;
		color: var(--dim);
	}
	.foot {
		display: flex;
		align-items: center;
		gap: 4px;
		height: 30px;
		padding: 0 4px 0 8px;
		border-top: 1px solid var(--line);
	}
	.name {
		font-weight: 600;
		flex: 1;
	}
	.value {
		width: 82px;
	}
	.small {
		height: 24px;
		padding: 0 4px;
	}
</style>
