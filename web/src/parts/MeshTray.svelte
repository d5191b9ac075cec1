<script lang="ts">
	import { Upload, X } from '@lucide/svelte';
	import { onMount, type Snippet } from 'svelte';
	import { Portraits } from '../stage/portraits';
	import type { StageScene } from '../stage/scene';
	import { catalogue } from '../state/catalogue.svelte';
	import { commands, VALUES } from '../state/commands.svelte';
	import { dropped } from '../state/importing.svelte';
	import type { Meshes } from '../state/meshes.svelte';
	import { theme } from '../state/theme.svelte';

	/** The meshes that there are; a click puts one on the stage. Files of others are dropped here. */
	let { scene, meshes, add, lead }: { scene: StageScene | null; meshes: Meshes; add: (mesh: string, label: string) => void; lead: Snippet } = $props();

	const all = $derived([
		...meshes.own.filter((one) => !one.worked).map((one) => ({ value: one.name, label: one.label, own: true, edition: one.number, grave: one.findings.filter((finding) => finding.grave).length })),
		...(catalogue.value?.meshes ?? []).map((one) => ({ ...one, own: false, edition: 1, grave: 0 }))
	]);
	const canvases: Record<string, HTMLCanvasElement> = $state({});
	let portraits = $state.raw<Portraits | null>(null);
	let over = $state(false);
	let input = $state<HTMLInputElement>();
	onMount(() => () => portraits?.dispose());
	$effect(() => {
		if (scene !== null && portraits === null) portraits = new Portraits(scene);
	});
	const painted = new Map<string, string>();
	$effect(() => {
		const background = theme.colour('well');
		void theme.mode;
		const painter = portraits;
		if (painter === null) return;
		for (const { value, edition } of all) {
			const canvas = canvases[value];
			const state = `${edition} ${background}`;
			if (canvas === undefined || painted.get(value) === state) continue;
			painted.set(value, state);
			// A mesh that cannot be had leaves its card without a picture.
			painter.paint(value, canvas, background).catch(() => painted.delete(value));
		}
	});
	$effect(() => commands.offer('meshes', () => [
		{ group: 'Stage', label: 'Bring meshes of your own', can: meshes.sent === null, run: () => input?.click() },
		...all.map((mesh) => ({ group: 'Put on the stage', label: mesh.label, lands: VALUES, run: () => add(mesh.value, mesh.label) }))
	]));
	async function bring(files: File[]): Promise<void> {
		const found = await meshes.bring(files);
		// Whoever brings one wants to see it.
		if (found.length === 1) add(found[0]!.name, found[0]!.label);
	}
	async function drop(event: DragEvent): Promise<void> {
		over = false;
		if (event.dataTransfer === null) return;
		event.preventDefault();
		await bring(await dropped(event.dataTransfer));
	}
</script>

<section class="board" aria-label="Meshes" class:over ondragover={(e) => { if (e.dataTransfer?.types.includes('Files') === true) { e.preventDefault(); over = true; } }} ondragleave={() => (over = false)} ondrop={(e) => void drop(e)}>
	<header>
		{@render lead()}
		<button class="tool plain" disabled={meshes.sent !== null} onclick={() => input?.click()} title="GLB, glTF or OBJ, with the files that belong to it, or a ZIP of all"><Upload size={14} /> Bring your own</button>
		{#if meshes.sent !== null}
			<p role="status">{meshes.sent < 1 ? `Sending, ${Math.round(100 * meshes.sent)} %` : 'Reading the mesh …'}</p>
		{:else}
			<p>Click one to put it where the stage is looked at. Files of your own can be dropped here.</p>
		{/if}
		<input bind:this={input} type="file" aria-label="Files of meshes" multiple accept=".glb,.gltf,.obj,.bin,.mtl,.zip" hidden
			onchange={(e) => { const files = [...(e.currentTarget.files ?? [])]; e.currentTarget.value = ''; void bring(files); }} />
	</header>
	{#if meshes.refused.length > 0}
		<div class="refused" role="alert">
			<ul class="reasons">{#each meshes.refused as one (one.file)}<li>{one.reason}</li>{/each}</ul>
			<button class="tool" aria-label="Read it" onclick={() => (meshes.refused = [])}><X size={14} /></button>
		</div>
	{/if}
	<ul class="cards">
		{#each all as mesh (mesh.value)}
			<li>
				<button class="card" class:own={mesh.own} onclick={() => add(mesh.value, mesh.label)} aria-label="Add: {mesh.label}">
					<canvas bind:this={canvases[mesh.value]} width="224" height="176" aria-hidden="true"></canvas>
					<span>{mesh.label}</span>
					{#if mesh.grave > 0}<span class="mark" title="{mesh.grave} {mesh.grave === 1 ? 'thing is' : 'things are'} wrong with it: put it on the stage to see what">!</span>{/if}
				</button>
			</li>
		{/each}
	</ul>
</section>

<style>
	header {
		display: flex;
		align-items: center;
		gap: 12px;
	}
	p {
		color: var(--dim);
		font-size: 12px;
	}
	.cards {
		display: flex;
		gap: 8px;
		overflow-x: auto;
		padding: 2px;
	}
	.card {
		position: relative;
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
	.card:hover {
		border-color: var(--accent);
	}
	canvas {
		display: block;
		width: 112px;
		height: 88px;
		border-radius: 3px 3px 0 0;
		background: var(--well);
	}
	.over {
		outline: 2px solid var(--accent);
		outline-offset: -2px;
	}
	.own {
		border-color: var(--accent);
	}
	.mark {
		position: absolute;
		right: 4px;
		top: 4px;
		width: 18px;
		line-height: 18px;
		border-radius: 9px;
		background: var(--amber);
		color: var(--on-accent);
		font-weight: 600;
	}
	.refused {
		display: flex;
		align-items: start;
		max-height: 84px;
		overflow-y: auto;
		padding: 4px 8px;
		border-left: 3px solid var(--brick);
		background: var(--well);
		font-size: 12px;
	}
	.reasons {
		flex: 1;
	}
	.card > span {
		padding: 0 4px;
		white-space: nowrap;
		overflow: hidden;
		text-overflow: ellipsis;
	}
</style>
