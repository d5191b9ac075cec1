<script lang="ts">
	import { Plus, Trash2 } from '@lucide/svelte';
	import type { RecipeCoat } from '../api/client';
	import type { RecipePainter } from '../recipes/painter';
	import { catalogue } from '../state/catalogue.svelte';
	import type { RecipeSession } from '../state/recipe.svelte';
	import ControlField from './ControlField.svelte';

	/** Colours along a line: click adds one, drag moves it, Delete takes it away. The line is drawn by the code that draws the map. */
	let { session, path, bar, painter, count }: {
		session: RecipeSession;
		path: string;
		/** what the painter calls the gradient */
		bar: string;
		painter: RecipePainter | null;
		/** counts what was drawn, so that the line follows */
		count: number;
	} = $props();

	const coat = $derived(session.value(path) as RecipeCoat);
	const most = $derived(catalogue.value?.recipe.limits.stops ?? 0);
	const controls = $derived(catalogue.value?.recipe.stop ?? []);
	let canvas = $state<HTMLCanvasElement>();
	let line = $state<HTMLDivElement>();
	let chosen = $state(0);
	let dragging = $state(false);
	const at = $derived(Math.min(chosen, coat.stops.length - 1));

	$effect(() => {
		void count;
		if (canvas === undefined || painter === null || !painter.has(bar)) return;
		painter.paint(bar, canvas, true);
	});
	const css = (colour: number[]): string => `rgb(${colour.map((c) => Math.round(c * 255)).join(' ')})`;
	function share(event: PointerEvent | MouseEvent): number {
		const box = line!.getBoundingClientRect();
		return Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
	}
	/** A stop keeps between its neighbours. */
	function move(index: number, to: number): void {
		const low = coat.stops[index - 1]?.at ?? 0;
		const high = coat.stops[index + 1]?.at ?? 1;
		session.set(`${path}/stops/${index}/at`, Number(Math.min(high, Math.max(low, to)).toFixed(3)));
	}
	function drag(event: PointerEvent): void {
		if (dragging) move(at, share(event));
	}
	/** A new stop has the colour that is there already. */
	function add(where: number): void {
		if (coat.stops.length >= most) return;
		const pixel = canvas?.getContext('2d')?.getImageData(Math.min(canvas.width - 1, Math.floor(where * canvas.width)), 0, 1, 1).data;
		const colour = pixel === undefined ? [0.5, 0.5, 0.5] : [...pixel.slice(0, 3)].map((c) => Number((c / 255).toFixed(4)));
		const index = coat.stops.filter((stop) => stop.at <= where).length;
		session.edit((document) => {
			const stops = (session.value(path) as RecipeCoat).stops;
			void document;
			stops.splice(index, 0, { at: Number(where.toFixed(3)), colour });
		});
		chosen = index;
	}
	function remove(index: number): void {
		if (coat.stops.length < 2) return;
		session.edit(() => void (session.value(path) as RecipeCoat).stops.splice(index, 1));
		chosen = Math.max(0, index - 1);
	}
	function key(event: KeyboardEvent, index: number): void {
		const by = (event.shiftKey ? 0.1 : 0.01) * ({ ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key] ?? 0);
		if (by !== 0) move(index, coat.stops[index]!.at + by);
		else if (event.key === 'Delete' || event.key === 'Backspace') remove(index);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
	/** Between two stops, in the widest gap. */
	function addOne(): void {
		const places = [0, ...coat.stops.map((stop) => stop.at), 1];
		const gap = places.slice(1).reduce((best, to, i) => (to - places[i]! > best.to - best.from ? { from: places[i]!, to } : best), { from: 0, to: 0 });
		add((gap.from + gap.to) / 2);
	}
</script>

<div class="gradient">
	<div class="line" bind:this={line} role="presentation" onpointermove={drag} onpointerup={() => { if (dragging) session.release(); dragging = false; }}>
		<canvas bind:this={canvas} width="256" height="1" title="Click to add a colour" onclick={(e) => add(share(e))} aria-hidden="true"></canvas>
		{#each coat.stops as stop, i (i)}
			<button class="stop" class:chosen={i === at} role="slider" aria-label="Colour {i + 1} at" aria-valuenow={stop.at} aria-valuemin={0} aria-valuemax={1}
				style:left="{stop.at * 100}%" style:--colour={css(stop.colour)} title="Drag, or use the arrow keys. Delete takes it away"
				onpointerdown={(e) => { chosen = i; dragging = true; session.hold(); e.currentTarget.setPointerCapture(e.pointerId); }} onfocus={() => (chosen = i)} onkeydown={(e) => key(e, i)}></button>
		{/each}
	</div>
	<div class="one">
		<div class="fields">
			{#each controls as control (control.name)}
				<ControlField {session} {control} path="{path}/stops/{at}/{control.name}" brief />
			{/each}
		</div>
		<button class="tool" disabled={coat.stops.length >= most} onclick={addOne} title="Add a colour" aria-label="Add a colour"><Plus size={14} /></button>
		<button class="tool" disabled={coat.stops.length < 2} onclick={() => remove(at)} title="Take this colour away" aria-label="Take colour {at + 1} away"><Trash2 size={14} /></button>
	</div>
</div>

<style>
	.gradient {
		display: grid;
		gap: 6px;
	}
	.line {
		position: relative;
		height: 44px;
		margin: 0 10px;
		touch-action: none;
	}
	canvas {
		width: 100%;
		height: 24px;
		border-radius: 3px;
		cursor: copy;
		image-rendering: auto;
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
	.one {
		display: flex;
		gap: 4px;
		align-items: start;
	}
	.fields {
		flex: 1;
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 8px;
		align-items: center;
	}
</style>
