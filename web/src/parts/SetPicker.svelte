<script lang="ts">
	import type { SetCard } from '../api/client';
	import { setPicture } from '../state/materials';
	import { foundBy } from '../state/search';
	import { insisting } from '../state/pictures';

	/** Map sets with their pictures, found by words of their names and tags. */
	let { sets, value, pick, none = false }: { sets: SetCard[]; value: string; pick: (set: string) => void; /** whether there may be no set */ none?: boolean } = $props();
	let words = $state('');
	const found = $derived(foundBy(sets, words, (one) => one.name, (one) => one.tags.join(' ')));
	/** Enter chooses the first that was found; what is chosen already goes with the form. */
	function key(event: KeyboardEvent): void {
		if (event.key !== 'Enter' || words.trim() === '' || found[0]?.name === value) return;
		event.preventDefault();
		if (found[0] !== undefined) pick(found[0].name);
	}
</script>

<input class="field find" type="search" aria-label="Search map sets" placeholder="Search map sets" bind:value={words} onkeydown={key} />
<div class="sets" role="radiogroup" aria-label="Map set">
	{#if none && words === ''}
		<label class="set" class:chosen={value === ''}>
			<input type="radio" name="set" value="" checked={value === ''} onclick={() => pick('')} />
			<span class="blank"></span>
			<span>Without maps</span>
			<span class="dim">constants alone</span>
		</label>
	{/if}
	{#each found as one (one.id)}
		<label class="set" class:chosen={one.name === value}>
			<input type="radio" name="set" value={one.name} checked={one.name === value} onclick={() => pick(one.name)} />
			<img src={setPicture(one)} alt="" width="96" height="96" {@attach insisting()} />
			<span>{one.name}</span>
			<span class="figures dim">{one.extent} m</span>
		</label>
	{:else}
		<p class="dim">No set is called that.</p>
	{/each}
</div>

<style>
	.find {
		width: 100%;
		margin: 4px 0;
	}
	.sets {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
		gap: 8px;
		margin-top: 4px;
	}
	.set {
		display: grid;
		align-content: start;
		border: 1px solid var(--line);
		border-radius: 4px;
		padding: 4px;
		cursor: pointer;
		font-size: 12px;
	}
	.set:has(:focus-visible) {
		outline: 2px solid var(--accent);
	}
	.chosen {
		border-color: var(--accent);
		background: var(--accent-soft);
	}
	.set input {
		position: absolute;
		opacity: 0;
	}
	.set img,
	.blank {
		width: 100%;
		aspect-ratio: 1;
		border-radius: 2px;
	}
	.blank {
		background: linear-gradient(135deg, var(--raised), var(--well));
	}
	.dim {
		color: var(--dim);
	}
</style>
