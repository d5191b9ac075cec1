<script lang="ts">
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
		session.edit(() => void (session.value(path) as RecipeCoat).stops.splice(index, 1));
	}
</script>

<div class="gradient">
	<GradientBar stops={coat.stops} bind:chosen={() => at, (next) => (chosen = next)} least={1} {most} {add} {move} {remove} hold={() => session.hold()} release={() => session.release()}>
		<canvas bind:this={canvas} width="256" height="1"></canvas>
		{#snippet fields()}
			<div class="fields">
				{#each controls as control (control.name)}
					<ControlField {session} {control} path="{path}/stops/{at}/{control.name}" brief />
				{/each}
			</div>
		{/snippet}
	</GradientBar>
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
	.fields {
		flex: 1;
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 8px;
		align-items: center;
	}
</style>
