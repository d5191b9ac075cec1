<script lang="ts">
	import { Flame } from '@lucide/svelte';
	import type { Variant } from '../api/client';
	import { account } from '../state/account.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import type { Deliveries } from '../state/deliveries.svelte';
	import { prefixOf, type HandOver } from '../state/handover.svelte';
	import DeliverFields from './DeliverFields.svelte';
	import Segments from './Segments.svelte';

	/** What is handed over, and how. */
	let { over, deliveries, name, variants, shown, save, bake }: {
		over: HandOver;
		deliveries: Deliveries;
		/** Of the material. */
		name: string;
		variants: Variant[];
		/** The variant that is shown; "" for the material as it is written. */
		shown: string;
		/** Has all changes stored: what is stored is delivered. */
		save: () => Promise<unknown>;
		bake: () => void;
	} = $props();

	const TEXTURES = [{ value: 'arrays', label: 'Arrays', help: 'Maps of one size and format lie in one array texture' }, { value: 'single', label: 'Single', help: 'Each map is a texture of its own' }] as const;
	const languages = $derived(catalogue.value?.languages ?? []);
	const shades = $derived(languages.find((one) => one.value === over.language)?.textures ?? true);
</script>

<aside aria-label="What is handed over">
	<DeliverFields {deliveries} {name} {variants} {shown} {save} />
	<h2 class="heading">Images alone</h2>
	<button class="tool plain" title="Computes its channels to images, for where a game cannot run the function" disabled={!account.may('bake')} onclick={bake}><Flame size={14} /> Bake …</button>
	<h2 class="heading">Code alone</h2>
	<fieldset>
		<legend>Language</legend>
		{#each languages as one (one.value)}
			<label><input type="radio" name="language" value={one.value} bind:group={over.language} /> {one.label}</label>
		{/each}
	</fieldset>
	<label class="stacked"><span>Names begin with</span><input class="field" maxlength="24" spellcheck="false" placeholder={prefixOf(name)} bind:value={over.said} /></label>
	{#if shades}
		<Segments label="Textures" options={TEXTURES} value={over.arrays ? 'arrays' : 'single'} choose={(next) => (over.arrays = next === 'arrays')} />
		<label title="A fragment that calls it, so that any compiler takes the file as it is"><input type="checkbox" bind:checked={over.harness} /> With an entry</label>
	{/if}
</aside>

<style>
	aside {
		display: flex;
		flex-direction: column;
		gap: 10px;
		min-height: 0;
		padding: 12px;
		overflow-y: auto;
		background: var(--panel);
		border-right: 1px solid var(--line);
		font-size: 13px;
	}
	aside > :global(*) {
		flex: none;
	}
	fieldset {
		display: grid;
		gap: 4px;
		min-width: 0;
	}
	legend,
	.stacked span {
		margin-bottom: 4px;
		color: var(--dim);
	}
	label {
		display: flex;
		align-items: center;
		gap: 6px;
		min-height: 24px;
	}
	.stacked {
		display: block;
	}
	.stacked .field {
		width: 100%;
		margin-top: 4px;
		font-family: var(--font-figures);
	}
	.tool {
		display: flex;
		align-items: center;
		gap: 4px;
		align-self: start;
		border: 1px solid var(--line);
	}
	aside > h2:not(:first-child) {
		margin-top: 8px;
		padding-top: 12px;
		border-top: 1px solid var(--line);
	}
</style>
