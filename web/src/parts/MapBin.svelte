<script lang="ts">
	import { api, type BinnedMap } from '../api/client';
	import { failed } from '../state/notices.svelte';
	import Sheet from './Sheet.svelte';
	import { insisting } from '../state/pictures';

	/** Maps that were taken out of the library, and how they come back. */
	let { slug, brought, close }: { slug: string; brought: () => void; close: () => void } = $props();
	let maps = $state.raw<BinnedMap[] | null>(null);

	async function load(): Promise<void> {
		try {
			maps = await api.binnedMaps(slug);
		} catch (error) {
			failed('The bin did not open', error);
		}
	}
	void load();

	async function back(one: BinnedMap): Promise<void> {
		try {
			await api.bringBackMap(one.id);
			brought();
			await load();
		} catch (error) {
			failed(`${one.name} was not brought back`, error);
		}
	}
	const when = (iso: string): string => new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));
</script>

<Sheet title="Maps in the bin" {close}>
	{#if maps === null}
		<p aria-busy="true">Looking …</p>
	{:else if maps.length === 0}
		<p>Nothing was taken out in the last 30 days.</p>
	{:else}
		<ul>
			{#each maps as one (one.id)}
				<li>
					<img src={one.thumbnail} alt="" width="40" height="40" loading="lazy" {@attach insisting()} />
					<span class="words"><strong>{one.name}</strong><span class="dim">{one.file}, {when(one.deletedAt)}</span></span>
					<button class="tool plain" onclick={() => back(one)}>Bring back</button>
				</li>
			{/each}
		</ul>
	{/if}
	{#snippet actions()}
		<button class="tool plain" onclick={close}>Close</button>
	{/snippet}
</Sheet>

<style>
	ul {
		display: grid;
		gap: 8px;
		max-height: 50vh;
		overflow: auto;
	}
	li {
		display: grid;
		grid-template-columns: 40px minmax(0, 1fr) auto;
		gap: 12px;
		align-items: center;
	}
	.words {
		display: grid;
	}
	.dim {
		color: var(--dim);
		font-size: 12px;
	}
</style>
