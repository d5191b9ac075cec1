<script lang="ts">
	import { Download } from '@lucide/svelte';
	import { onDestroy } from 'svelte';
	import { api, type Bake, type MaterialDocument } from '../api/client';
	import { followed } from '../state/baking';
	import { catalogue } from '../state/catalogue.svelte';
	import { failed } from '../state/notices.svelte';
	import Sheet from './Sheet.svelte';

	let { project, document, shown, close }: { project: string; document: () => MaterialDocument; shown: string; close: () => void } = $props();
	let size = $state(1024);
	// svelte-ignore state_referenced_locally
	let variant = $state(shown);
	const variants = $derived(document().variants ?? []);
	let bake = $state<Bake | null>(null);
	let gone = false;
	onDestroy(() => (gone = true));

	async function start(): Promise<void> {
		try {
			await followed(await api.askBake(project, document(), size, variant), (now) => (bake = now), () => !gone && bake?.state !== 'cancelled');
		} catch (error) {
			failed('The bake could not be started', error);
		}
	}

	async function cancel(): Promise<void> {
		if (bake !== null) bake = await api.cancelBake(bake.id);
	}
	const metres = (x: number | undefined): string => String(Number((x ?? 0).toPrecision(4)));
</script>

<Sheet title="Bake to a tile" {close}>
	{#if bake === null}
		<p>Computes base colour, normal, roughness, metallic and occlusion, and the height in 16 bits where a map tells it, over one repeat of the lane, on the server, to PNG files.</p>
		{#if variants.length > 0}
			<label class="size">Variant
				<select class="field" bind:value={variant}>
					<option value="">As written</option>
					{#each variants as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
				</select>
			</label>
		{/if}
		<label class="size">Pixels a side
			<select class="field figures" bind:value={size}>
				{#each catalogue.value?.bakeSizes ?? [] as one (one)}<option value={one}>{one}</option>{/each}
			</select>
		</label>
	{:else if bake.state === 'waiting'}
		<p>Baking <strong>{bake.name}</strong></p>
		<progress value={bake.regions.done} max={bake.regions.all} aria-label="Progress"></progress>
		<p class="figures">{bake.regions.done} of {bake.regions.all} regions</p>
	{:else if bake.state === 'done'}
		<p data-testid="bake-facts"><strong>{bake.name}</strong>: {bake.size} × {bake.size} px, {metres(bake.facts.width)} × {metres(bake.facts.height)} m,
			{bake.facts.seamless ? 'a seamless tile' : `not seamless: ${bake.facts.obstacle}`}.</p>
		<ul>
			{#each bake.files as file (file.channel)}
				<li>
					<img src={file.url} alt={file.channel} width="88" height="88" />
					<a href={file.url} download={file.name} target="_self" class="tool plain" title={file.name}><Download size={14} /> {file.channel}</a>
				</li>
			{/each}
		</ul>
	{:else}
		<p role="alert">{bake.state === 'failed' ? `The bake failed: ${bake.failure}` : 'The bake was cancelled.'}</p>
	{/if}
	{#snippet actions()}
		{#if bake?.state === 'waiting'}
			<button class="tool plain" onclick={cancel}>Cancel the bake</button>
		{:else}
			<button class="tool plain" onclick={close}>Close</button>
		{/if}
		{#if bake === null}<button class="tool main" onclick={start}>Bake</button>{/if}
	{/snippet}
</Sheet>

<style>
	.size {
		display: flex;
		justify-content: space-between;
		align-items: center;
	}
	progress {
		width: 100%;
		height: 8px;
		accent-color: var(--accent);
	}
	ul {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(128px, 1fr));
		gap: 12px;
	}
	li {
		display: grid;
		gap: 4px;
		justify-items: stretch;
	}
	img {
		width: 100%;
		height: auto;
		aspect-ratio: 1;
		border-radius: 3px;
	}
</style>
