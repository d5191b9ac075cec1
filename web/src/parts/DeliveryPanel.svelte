<script lang="ts">
	import { api, type MaterialDocument } from '../api/client';
	import { namedPlaces } from '../state/places';
	import { weight, taken } from '../state/delivered';
	import type { Deliveries } from '../state/deliveries.svelte';

	/** What the delivery that is looked at weighs, and what its manifest says of the whole. */
	let { deliveries, document }: { deliveries: Deliveries; document: MaterialDocument } = $props();

	type Manifest = { document: string; tile?: { width: number; height: number; seamless: boolean; said: string }; edges?: Record<string, number>; notInGltf?: string[]; notInMaterialX?: string[]; emissionTimes?: number; overBudget?: string[] };
	const chosen = $derived(deliveries.chosen);
	const all = $derived(taken(chosen?.files ?? []));
	const url = $derived(chosen?.files.find((one) => one.path === 'manifest.json')?.url ?? null);
	let manifest = $state.raw<Manifest | null>(null);
	$effect(() => {
		manifest = null;
		const asked = url;
		if (asked === null) return;
		api.deliveredFile(asked).then((bytes) => {
			if (asked === url) manifest = JSON.parse(new TextDecoder().decode(bytes)) as Manifest;
		}, () => {});
	});
	const metres = (x: number): string => String(Number(x.toPrecision(4)));
</script>

<section class="facts" aria-label="What came out">
	<h2 class="heading">What came out</h2>
	{#if chosen === null}
		<p>Nothing yet.</p>
	{:else}
		<h3 class="name">{chosen.name}</h3>
		<p>{chosen.profileLabel}</p>
		<dl>
			<dt>Files</dt><dd>{chosen.files.length}</dd>
			<dt>On disk</dt><dd>{weight(all.disk)}</dd>
			<dt title="Of all its pictures, with all mip levels, as a device keeps them">In memory</dt><dd>{weight(all.memory)}</dd>
			{#if manifest?.tile !== undefined}<dt>A tile spans</dt><dd>{metres(manifest.tile.width)} × {metres(manifest.tile.height)} m</dd>{/if}
		</dl>
		{#each manifest?.overBudget ?? [] as one (one)}<p class="over" role="alert">Over its limit: {one}.</p>{/each}
		{#if chosen.unchanged}<p>Nothing that it follows from had changed: these are the files of before.</p>{/if}
		{#if manifest?.tile !== undefined && !manifest.tile.seamless}<p>Its copies do not line up: {namedPlaces(manifest.tile.said, document)}.</p>{/if}
		{#if manifest?.edges !== undefined}
			<h3 title="The step across the edges, as many times the largest step inside. Up to 1 nothing shows.">Steps across the edges</h3>
			<table><tbody>{#each Object.entries(manifest.edges) as [channel, step] (channel)}<tr><th scope="row">{channel}</th><td>{step.toFixed(2)}</td></tr>{/each}</tbody></table>
		{/if}
		{#if manifest?.notInGltf !== undefined}
			<h3>What glTF cannot say</h3>
			<ul>{#each manifest.notInGltf as one (one)}<li>{one}</li>{/each}</ul>
		{/if}
		{#if manifest?.notInMaterialX !== undefined}
			<h3>What is not alive in MaterialX</h3>
			<ul>{#each manifest.notInMaterialX as one (one)}<li>{one}</li>{/each}</ul>
		{/if}
		{#if manifest?.emissionTimes !== undefined}<p>Emission goes above 1: its image counts times <span class="figures">{metres(manifest.emissionTimes)}</span>, in linear light.</p>{/if}
		{#if manifest !== null}<p class="proof" title="SHA-256 of document.json">Document <span class="figures">{manifest.document.slice(0, 16)}</span></p>{/if}
	{/if}
</section>

<style>
	.name {
		overflow-wrap: anywhere;
	}
	ul {
		padding-left: 16px;
		list-style: disc;
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
	}
	.over {
		color: var(--brick);
	}
	.proof {
		margin-top: 12px;
	}
</style>
