<script lang="ts">
	import { Plus, Trash2 } from '@lucide/svelte';
	import type { RecipeCoat } from '../api/client';
	import type { RecipePainter } from '../recipes/painter';
	import { catalogue } from '../state/catalogue.svelte';
	import type { RecipeSession } from '../state/recipe.svelte';
	import ControlField from './ControlField.svelte';
	import GradientBar from './GradientBar.svelte';

	/** The gradient of a coat. Its line is drawn by the code that draws the map. */
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
	let chosen = $state(0);
	const at = $derived(Math.min(chosen, coat.stops.length - 1));

	$effect(() => {
		void count;
		if (canvas === undefined || painter === null || !painter.has(bar)) return;
		painter.paint(bar, canvas, true);
	});
	/** A stop keeps between its neighbours. */
	function move(index: number, to: number): void {
		const low = coat.stops[index - 1]?.at ?? 0;
		const high = coat.stops[index + 1]?.at ?? 1;
		session.set(`${path}/stops/${index}/at`, Number(Math.min(high, Math.max(low, to)).toFixed(3)));
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
	/** Between two stops, in the widest gap. */
	function addOne(): void {
		const places = [0, ...coat.stops.map((stop) => stop.at), 1];
		const gap = places.slice(1).reduce((best, to, i) => (to - places[i]! > best.to - best.from ? { from: places[i]!, to } : best), { from: 0, to: 0 });
		add((gap.from + gap.to) / 2);
	}
</script>

<div class="gradient">
	<GradientBar stops={coat.stops} bind:chosen={() => at, (next) => (chosen = next)} {add} {move} {remove} hold={() => session.hold()} release={() => session.release()}>
		<canvas bind:this={canvas} width="256" height="1"></canvas>
	</GradientBar>
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
	canvas {
		display: block;
		width: 100%;
		height: 100%;
		image-rendering: auto;
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
