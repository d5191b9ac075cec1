<script lang="ts">
	import type { Lookup } from '../state/lookups.svelte';
	import { shares } from '../state/lookup';

	/** What lies at all points together. */
	let { lookup }: { lookup: Lookup } = $props();

	const found = $derived(lookup.found);
	const all = $derived(found === null ? [] : shares(found.layers, found.weights));
	const share = (x: number): string => `${(100 * x).toFixed(1)} %`;
</script>

<section class="facts" aria-label="What lies at all points">
	<h2 class="heading">What lies there</h2>
	{#if found === null}
		<p>Nothing is asked yet.</p>
	{:else}
		<dl><dt>Points</dt><dd>{found.points.length}</dd></dl>
		<h3 title="At so many of the points more is seen of it than of any other">Seen the most</h3>
		<table><tbody>{#each found.layers as one, i (one.id)}<tr><th scope="row">{one.name}</th><td>{share(all[i]!.first)}</td></tr>{/each}</tbody></table>
		<h3>Of all that is seen</h3>
		<table><tbody>{#each found.layers as one, i (one.id)}<tr><th scope="row">{one.name}</th><td>{share(all[i]!.mean)}</td></tr>{/each}</tbody></table>
	{/if}
</section>
