<script lang="ts">
	import { Plus, Trash2 } from '@lucide/svelte';
	import type { Snippet } from 'svelte';

	/** Colours along a line: click adds one, drag moves it, Delete takes it away. */
	let { stops, chosen = $bindable(), least, most, add, move, remove, hold, release, children, fields }: {
		/** Where each stands, 0…1, and its colour, sRGB-encoded. */
		stops: { at: number; colour: number[] }[];
		/** The one that is worked on. */
		chosen: number;
		/** How many there have to be, and may be. */
		least: number;
		most: number;
		add: (at: number) => void;
		move: (index: number, to: number) => void;
		remove: (index: number) => void;
		hold: () => void;
		release: () => void;
		/** The line itself. */
		children: Snippet;
		/** Where the colour that is worked on is told in numbers. */
		fields: Snippet;
	} = $props();

	let track = $state<HTMLDivElement>();
	let dragging = $state(false);
	const css = (colour: number[]): string => `rgb(${colour.map((c) => Math.round(c * 255)).join(' ')})`;
	function share(event: PointerEvent | MouseEvent): number {
		const box = track!.getBoundingClientRect();
		return Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
	}
	function drop(index: number): void {
		if (stops.length <= least) return;
		remove(index);
		chosen = Math.max(0, index - 1);
	}
	function put(at: number): void {
		if (stops.length < most) add(at);
	}
	/** Between two, in the widest gap. */
	function putOne(): void {
		const places = [0, ...stops.map((stop) => stop.at), 1];
		const gap = places.slice(1).reduce((best, to, i) => (to - places[i]! > best.to - best.from ? { from: places[i]!, to } : best), { from: 0, to: 0 });
		put((gap.from + gap.to) / 2);
	}
	function key(event: KeyboardEvent, index: number): void {
		const by = (event.shiftKey ? 0.1 : 0.01) * ({ ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key] ?? 0);
		if (by !== 0) move(index, stops[index]!.at + by);
		else if (event.key === 'Delete' || event.key === 'Backspace') drop(index);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<div class="track" bind:this={track} role="presentation" onpointermove={(e) => { if (dragging) move(chosen, share(e)); }} onpointerup={() => { if (dragging) release(); dragging = false; }}>
	<div class="bar" title="Click to add a colour" onclick={(e) => put(share(e))} aria-hidden="true">{@render children()}</div>
	{#each stops as stop, i (i)}
		<button class="stop" class:chosen={i === chosen} role="slider" aria-label="Colour {i + 1} at" aria-valuenow={stop.at} aria-valuemin={0} aria-valuemax={1}
			style:left="{stop.at * 100}%" style:--colour={css(stop.colour)} title="Drag, or use the arrow keys. Delete takes it away"
			onpointerdown={(e) => { chosen = i; dragging = true; hold(); e.currentTarget.setPointerCapture(e.pointerId); }} onfocus={() => (chosen = i)} onkeydown={(e) => key(e, i)}></button>
	{/each}
</div>
<div class="one">
	{@render fields()}
	<button class="tool" disabled={stops.length >= most} onclick={putOne} title="Add a colour" aria-label="Add a colour"><Plus size={14} /></button>
	<button class="tool" disabled={stops.length <= least} onclick={() => drop(chosen)} title="Take this colour away" aria-label="Take colour {chosen + 1} away"><Trash2 size={14} /></button>
</div>

<style>
	.one {
		display: flex;
		gap: 4px;
		align-items: center;
		justify-content: flex-end;
	}
	.track {
		position: relative;
		height: 44px;
		margin: 0 10px;
		touch-action: none;
	}
	.bar {
		height: 24px;
		border-radius: 3px;
		overflow: hidden;
		cursor: copy;
	}
	.stop {
		position: absolute;
		top: 18px;
		width: 24px;
		height: 24px;
		margin-left: -12px;
		cursor: ew-resize;
		touch-action: none;
	}
	.stop::before {
		content: '';
		position: absolute;
		inset: 5px;
		border-radius: 3px 3px 50% 50%;
		background: var(--colour);
		border: 1px solid var(--text);
		box-shadow: 0 0 0 1px var(--panel);
	}
	.stop.chosen::before {
		inset: 3px;
		border-color: var(--accent);
		border-width: 2px;
	}
</style>
