<script lang="ts">
	import type { MaterialCard } from '../api/client';
	import { allMaterials } from '../state/materials';
	import { failed } from '../state/notices.svelte';
	import Sheet from './Sheet.svelte';

	/** Several materials of the project at once, under the profile that is chosen. */
	let { slug, profile, deliver, close }: {
		slug: string;
		/** What people call it. */
		profile: string;
		/** With all variants, or as they are written. */
		deliver: (materials: number[], all: boolean) => Promise<void>;
		close: () => void;
	} = $props();

	let cards = $state.raw<MaterialCard[] | null>(null);
	let chosen = $state<number[]>([]);
	let all = $state(false);
	// svelte-ignore state_referenced_locally
	allMaterials(slug).then((found) => (cards = found), (error: unknown) => failed('The materials did not come', error));
	const flip = (id: number): void => void (chosen = chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id]);
	async function go(): Promise<void> {
		await deliver(chosen, all);
		close();
	}
</script>

<Sheet title="Deliver several materials" {close}>
	<p>Each is delivered as it is stored, under the profile <strong>{profile}</strong>. Deliveries are listed with their materials, in <em>Output</em>.</p>
	<div class="heads">
		<button class="tool plain" disabled={cards === null} onclick={() => (chosen = cards?.map((one) => one.id) ?? [])}>All</button>
		<button class="tool plain" disabled={chosen.length === 0} onclick={() => (chosen = [])}>None</button>
		<label><input type="checkbox" bind:checked={all} /> With all their variants</label>
	</div>
	<ul aria-label="Materials">
		{#each cards ?? [] as card (card.id)}
			<li><label><input type="checkbox" checked={chosen.includes(card.id)} onchange={() => flip(card.id)} /> {card.name}</label></li>
		{:else}<li>{cards === null ? 'Looking …' : 'There are none.'}</li>{/each}
	</ul>
	{#snippet actions()}
		<button class="tool plain" onclick={close}>Close</button>
		<button class="tool main" disabled={chosen.length === 0} onclick={() => void go()}>Deliver {chosen.length === 0 ? '' : chosen.length}</button>
	{/snippet}
</Sheet>

<style>
	.heads {
		display: flex;
		gap: 8px;
		align-items: center;
	}
	label {
		display: flex;
		align-items: center;
		gap: 6px;
	}
	ul {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 2px 16px;
		max-height: 320px;
		overflow-y: auto;
	}
	li {
		min-height: 24px;
	}
</style>
