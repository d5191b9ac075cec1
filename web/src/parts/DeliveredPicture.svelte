<script lang="ts">
	import { onMount } from 'svelte';
	import { api, type DeliveredFile } from '../api/client';
	import { DeliveredPictures, type Part } from '../maps/delivered';
	import Segments from './Segments.svelte';

	/** A picture as it lies in its file, by its parts. */
	let { file, show }: { file: DeliveredFile; show: (channel: string) => void } = $props();

	const PARTS = [
		{ value: 'all', label: 'All' },
		{ value: 'red', label: 'R', help: 'Red alone' },
		{ value: 'green', label: 'G', help: 'Green alone' },
		{ value: 'blue', label: 'B', help: 'Blue alone' },
		{ value: 'alpha', label: 'A', help: 'Alpha alone' }
	] as const;
	let canvas = $state<HTMLCanvasElement>();
	let pictures = $state.raw<DeliveredPictures | null>(null);
	let part = $state<Part>('all');
	let layer = $state(0);
	let trouble = $state('');
	const layers = $derived(file.picture?.layers ?? 1);
	const channel = $derived(file.picture?.shows ?? '');
	const SIDE = 184;

	onMount(() => {
		let gone = false;
		let made: DeliveredPictures | null = null;
		void (async () => {
			try {
				const bytes = await api.deliveredFile(file.url);
				if (gone || canvas === undefined) return;
				made = new DeliveredPictures(canvas);
				await made.load(bytes, file.path);
				if (!gone) pictures = made;
			} catch (error) {
				trouble = error instanceof Error ? error.message : String(error);
			}
		})();
		return () => {
			gone = true;
			made?.close();
		};
	});
	$effect(() => pictures?.draw(part, layer, Math.round(SIDE * devicePixelRatio), Math.round(SIDE * devicePixelRatio)));
</script>

<figure>
	<canvas bind:this={canvas} width={SIDE} height={SIDE} aria-label="{file.path}, {part === 'all' ? 'all of it' : part}" data-drawn={pictures !== null}></canvas>
	{#if trouble !== ''}<p role="alert">It cannot be shown here: {trouble}</p>{/if}
	<Segments label="Parts" quiet options={PARTS} value={part} choose={(next) => (part = next as Part)} />
	<figcaption>
		<span class="figures">{file.picture?.width} × {file.picture?.height}</span>
		{#if channel !== ''}<button class="link" title="The same channel, as the stage computes it" onclick={() => show(channel)}>On the stage</button>{/if}
		{#if layers > 1}<label>Layer <input class="field figures" type="number" min="0" max={layers - 1} bind:value={layer} /></label>{/if}
	</figcaption>
</figure>

<style>
	figure {
		display: grid;
		gap: 4px;
		align-content: start;
		width: 184px;
		font-size: 12px;
	}
	canvas {
		width: 184px;
		height: 184px;
		border: 1px solid var(--line);
		border-radius: 3px;
		background: var(--well);
	}
	figcaption {
		display: flex;
		justify-content: space-between;
		align-items: center;
		color: var(--dim);
	}
	input {
		width: 48px;
		height: 22px;
	}
	.link {
		color: var(--accent);
	}
	p {
		color: var(--brick);
	}
</style>
