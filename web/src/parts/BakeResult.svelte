<script lang="ts">
	import { Download } from '@lucide/svelte';
	import type { Bake } from '../api/client';
	import Mark from './Mark.svelte';

	let { bake, named }: {
		/** That is done. */
		bake: Bake;
		/** Places of the document by the names that people know. */
		named: (text: string) => string;
	} = $props();
	const share = (x: number): string => `${(100 * x).toFixed(x < 0.0995 ? 1 : 0)} %`;
	const metres = (x: number | undefined): string => String(Number((x ?? 0).toPrecision(4)));
</script>

{#if bake.facts.objects !== undefined}
	<p data-testid="bake-facts"><strong>{bake.name}</strong>: {bake.facts.objects} objects with {bake.facts.parts} baked surfaces of {bake.size} × {bake.size} px, as one GLB file of {metres((bake.facts.bytes ?? 0) / 1048576)} MiB{(bake.facts.variants ?? []).length === 0 ? '' : `, which can be switched to ${bake.facts.variants?.join(', ')}`}.</p>
	{#each bake.facts.doubled ?? [] as one (one.object)}<p class="doubtful"><Mark severity="doubtful" /><span>{one.object}: {share(one.share)} of what it covers is covered twice, and the first is baked. Another UV set, or <em>Unwrap</em> in the view Stage, parts them.</span></p>{/each}
	<p class="help">glTF cannot say: {bake.facts.notInGltf?.join('; ')}.</p>
{:else if bake.facts.layout !== undefined}
	<p data-testid="bake-facts"><strong>{bake.name}</strong>: {bake.size} × {bake.size} px, of which {share(bake.facts.layout.covered)} are covered, {metres(bake.facts.layout.density.median)} px a metre. The ZIP has the object with it, as GLB, if its normals lie along the surface.</p>
{:else}
	<p data-testid="bake-facts"><strong>{bake.name}</strong>: {bake.size} × {bake.size} px, {metres(bake.facts.width)} × {metres(bake.facts.height)} m,
		{named(bake.facts.verdict ?? '') || (bake.facts.seamless ? 'a seamless tile' : 'not seamless')}.</p>
{/if}
{#if (bake.facts.glow ?? 1) > 1}<p class="help">Emission goes above 1: multiply its picture by <span class="figures">{metres(bake.facts.glow)}</span>, in linear light.</p>{/if}
{#if bake.archive !== null}<a href={bake.archive} class="tool plain all" target="_self" download><Download size={14} /> All files as a ZIP</a>{/if}
<ul>
	{#each bake.files as file (file.channel)}
		<li>
			<img src={file.picture} alt={file.channel} width="88" height="88" />
			<a href={file.url} download={file.name} target="_self" class="tool plain" title={file.name}><Download size={14} /> {file.channel}</a>
			{#if bake.facts.wrap?.[file.channel] !== undefined}<span class="wrap figures" title="The step across its edges, as many times the largest step inside. Up to 1 nothing shows.">edge {bake.facts.wrap[file.channel]!.toFixed(2)}</span>{/if}
		</li>
	{/each}
</ul>

<style>
	.doubtful {
		display: flex;
		gap: 8px;
		align-items: baseline;
	}
	.all {
		justify-self: start;
	}
	.wrap {
		font-size: 11px;
		color: var(--dim);
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
