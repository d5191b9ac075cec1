<script lang="ts">
	import { onMount } from 'svelte';
	import { Portraits } from '../stage/portraits';
	import type { StageScene } from '../stage/scene';
	import { catalogue } from '../state/catalogue.svelte';
	import { theme } from '../state/theme.svelte';

	/** The meshes that there are; a click puts one on the stage. */
	let { scene, add }: { scene: StageScene | null; add: (mesh: string, label: string) => void } = $props();

	const meshes = $derived(catalogue.value?.meshes ?? []);
	const canvases: Record<string, HTMLCanvasElement> = $state({});
	let portraits = $state.raw<Portraits | null>(null);
	onMount(() => () => portraits?.dispose());
	$effect(() => {
		if (scene !== null && portraits === null) portraits = new Portraits(scene);
	});
	$effect(() => {
		void theme.mode;
		const painter = portraits;
		if (painter === null) return;
		for (const { value } of meshes) {
			const canvas = canvases[value];
			// A mesh that cannot be had leaves its card without a picture.
			if (canvas !== undefined) painter.paint(value, canvas, theme.colour('well')).catch(() => {});
		}
	});
</script>

<section aria-label="Meshes">
	<header>
		<h2 class="heading">Meshes</h2>
		<p>Click one to put it where the stage is looked at.</p>
	</header>
	<ul>
		{#each meshes as mesh (mesh.value)}
			<li>
				<button onclick={() => add(mesh.value, mesh.label)} aria-label="Add: {mesh.label}">
					<canvas bind:this={canvases[mesh.value]} width="224" height="176" aria-hidden="true"></canvas>
					<span>{mesh.label}</span>
				</button>
			</li>
		{/each}
	</ul>
</section>

<style>
	section {
		display: flex;
		flex-direction: column;
		min-height: 0;
		background: var(--panel);
		border-top: 1px solid var(--line);
		padding: 8px 12px;
		gap: 8px;
	}
	header {
		display: flex;
		align-items: baseline;
		gap: 12px;
	}
	p {
		color: var(--dim);
		font-size: 12px;
	}
	ul {
		display: flex;
		gap: 8px;
		overflow-x: auto;
		padding: 2px;
	}
	button {
		display: grid;
		gap: 4px;
		width: 114px;
		padding: 0 0 4px;
		border: 1px solid var(--line);
		border-radius: 4px;
		background: var(--raised);
		font-size: 12px;
		text-align: center;
		cursor: pointer;
	}
	button:hover {
		border-color: var(--accent);
	}
	canvas {
		display: block;
		width: 112px;
		height: 88px;
		border-radius: 3px 3px 0 0;
		background: var(--well);
	}
	span {
		padding: 0 4px;
		white-space: nowrap;
		overflow: hidden;
		text-overflow: ellipsis;
	}
</style>
