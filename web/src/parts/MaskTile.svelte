<script lang="ts">
	import { ArrowDown, ArrowUp, Eye, Trash2 } from '@lucide/svelte';
	import type { Program } from '../stage/program';
	import type { TilePainter } from '../stage/tiles';
	import { theme } from '../state/theme.svelte';

	/** One term of a mask: what the mask is once it has been laid over those before it. */
	let { label, how, views, chosen, first, last, program, painter, tick, shown, show, choose, move, remove }: {
		label: string;
		how: string;
		/** Names of its picture, of which the program has one. */
		views: string[];
		chosen: boolean;
		first: boolean;
		last: boolean;
		program: Program | null;
		painter: TilePainter | null;
		tick: number;
		shown: string;
		show: (view: string) => void;
		choose: () => void;
		move: (by: 1 | -1) => void;
		remove: () => void;
	} = $props();

	let canvas = $state<HTMLCanvasElement>();
	const view = $derived(views.find((name) => program?.lowered.views.some((one) => one.name === name)));
	$effect(() => {
		void tick;
		void theme.mode;
		if (canvas === undefined || program === null || painter === null || view === undefined) return;
		const [at, on, picture] = [program, canvas, program.lowered.views.findIndex((one) => one.name === view)];
		const later = window.setTimeout(() => void painter.paint(at, picture, on, theme.colour('raised')), painter.patience);
		return () => clearTimeout(later);
	});
	function key(event: KeyboardEvent): void {
		if (event.altKey && event.key === 'ArrowUp' && !first) move(-1);
		else if (event.altKey && event.key === 'ArrowDown' && !last) move(1);
		else if (event.key === 'Delete' || event.key === 'Backspace') remove();
		else return;
		event.preventDefault();
	}
</script>

<li class:chosen>
	<button class="face" aria-pressed={chosen} aria-label="{label}, term of the mask" title="Alt+↑ ↓ to move, Delete" onclick={choose} onkeydown={key}>
		<canvas bind:this={canvas} width="96" height="72" aria-hidden="true"></canvas>
		<span class="text"><strong>{label}</strong>{#if !first}<span class="how">{how}</span>{/if}</span>
	</button>
	<div class="tools">
		<button class="tool" disabled={view === undefined} aria-pressed={view !== undefined && shown === view} title="Show the mask up to here on the stage" aria-label="Show {label} on the stage" onclick={() => { if (view !== undefined) show(shown === view ? 'lit' : view); }}><Eye size={14} /></button>
		<button class="tool" disabled={first} title="Earlier" aria-label="Move {label} up" onclick={() => move(-1)}><ArrowUp size={14} /></button>
		<button class="tool" disabled={last} title="Later" aria-label="Move {label} down" onclick={() => move(1)}><ArrowDown size={14} /></button>
		<button class="tool" title="Take it out" aria-label="Take {label} out of the mask" onclick={remove}><Trash2 size={14} /></button>
	</div>
</li>

<style>
	li {
		display: flex;
		align-items: center;
		border: 1px solid var(--line);
		border-radius: 3px;
		background: var(--raised);
		overflow: hidden;
	}
	li.chosen {
		border-color: var(--accent);
		background: var(--accent-soft);
	}
	.face {
		flex: 1;
		min-width: 0;
		display: flex;
		gap: 8px;
		padding: 0;
		align-items: center;
		text-align: left;
		border: 0;
		background: none;
		cursor: pointer;
	}
	canvas {
		width: 48px;
		height: 36px;
		flex: none;
	}
	.text {
		display: grid;
		min-width: 0;
		line-height: 16px;
	}
	.text > * {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
		font-weight: 400;
	}
	.how {
		font-size: 12px;
		color: var(--dim);
	}
	.tools {
		display: grid;
		grid-template-columns: auto auto;
	}
	.tools .tool {
		width: 22px;
		height: 18px;
		padding: 0;
		justify-content: center;
	}
</style>
