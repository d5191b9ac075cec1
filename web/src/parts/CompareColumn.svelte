<script lang="ts">
	import { ArrowLeftRight } from '@lucide/svelte';
	import { onMount } from 'svelte';
	import { api, type Revision } from '../api/client';
	import { HANDS, type Choice, type Comparison, type Hand } from '../state/comparison.svelte';
	import { landmarks } from '../state/history';
	import { allMaterials } from '../state/materials';
	import { failed } from '../state/notices.svelte';

	/** What is compared: two of anything. */
	let { comparison, slug }: { comparison: Comparison; slug: string } = $props();

	const { session } = $derived(comparison);
	let revisions = $state.raw<Revision[]>([]);
	let materials = $state.raw<{ id: number; name: string }[]>([]);
	/** Variants of another material, by its id. */
	let variants = $state.raw<Record<number, { id: string; name: string }[]>>({});
	onMount(() => {
		void (async () => {
			try {
				[revisions, materials] = await Promise.all([api.revisions(session.id), allMaterials(slug)]);
			} catch (error) {
				failed('What could be compared did not come', error);
			}
		})();
	});
	const KINDS = { open: 'As it is shown', before: 'Before the last change', variant: 'A variant', revision: 'A revision', material: 'Another material', offer: 'An offer' } as const;
	const others = $derived(materials.filter((one) => one.id !== session.id));
	const listed = $derived(landmarks(revisions));
	const title = (one: Revision): string => (one.name === '' ? `Version ${one.version}` : one.name);

	function kind(hand: Hand, value: string): void {
		const [first, other] = [listed[0], others[0]];
		if (value === 'open' || value === 'before') comparison.choose(hand, { kind: value });
		else if (value === 'variant') comparison.choose(hand, { kind: value, variant: session.document.variants?.[0]?.id ?? '' });
		else if (value === 'revision' && first !== undefined) comparison.choose(hand, { kind: value, id: first.id, name: title(first) });
		else if (value === 'material' && other !== undefined) material(hand, other.id);
	}
	function revision(hand: Hand, id: number): void {
		const found = listed.find((one) => one.id === id);
		if (found !== undefined) comparison.choose(hand, { kind: 'revision', id, name: title(found) });
	}
	function material(hand: Hand, id: number, variant = ''): void {
		const found = others.find((one) => one.id === id);
		if (found === undefined) return;
		const worn = variants[id]?.find((one) => one.id === variant);
		comparison.choose(hand, { kind: 'material', id, variant, name: worn === undefined ? found.name : `${found.name}, ${worn.name}` });
		if (variants[id] === undefined) api.material(id).then((one) => (variants = { ...variants, [id]: one.document.variants ?? [] }), () => {});
	}
	const can = (value: keyof typeof KINDS): boolean => (value === 'variant' ? (session.document.variants ?? []).length > 0 : value === 'before' ? session.past.length > 0 : value === 'revision' ? listed.length > 0 : value === 'material' ? others.length > 0 : value !== 'offer');
</script>

{#snippet side(hand: Hand, choice: Choice)}
	<fieldset>
		<legend class="heading">{hand === 'left' ? 'Left' : 'Right'}</legend>
		<select class="field" aria-label="What is on the {hand}" value={choice.kind} onchange={(e) => kind(hand, e.currentTarget.value)}>
			{#each Object.entries(KINDS).filter(([value]) => value !== 'offer' || choice.kind === 'offer') as [value, label] (value)}<option {value} disabled={!can(value as keyof typeof KINDS)}>{label}</option>{/each}
		</select>
		{#if choice.kind === 'variant'}
			<select class="field" aria-label="Variant on the {hand}" value={choice.variant} onchange={(e) => comparison.choose(hand, { kind: 'variant', variant: e.currentTarget.value })}>
				<option value="">As written</option>
				{#each session.document.variants ?? [] as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
			</select>
		{:else if choice.kind === 'revision'}
			<select class="field" aria-label="Revision on the {hand}" value={String(choice.id)} onchange={(e) => revision(hand, Number(e.currentTarget.value))}>
				{#each listed as one (one.id)}<option value={String(one.id)}>{title(one)}</option>{/each}
			</select>
		{:else if choice.kind === 'material'}
			<select class="field" aria-label="Material on the {hand}" value={String(choice.id)} onchange={(e) => material(hand, Number(e.currentTarget.value))}>
				{#each others as one (one.id)}<option value={String(one.id)}>{one.name}</option>{/each}
			</select>
			{#if (variants[choice.id] ?? []).length > 0}
				<select class="field" aria-label="Variant of the material on the {hand}" value={choice.variant} onchange={(e) => material(hand, choice.id, e.currentTarget.value)}>
					<option value="">As written</option>
					{#each variants[choice.id] ?? [] as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
				</select>
			{/if}
		{/if}
	</fieldset>
{/snippet}

<aside aria-label="What is compared">
	<h2 class="heading">Compare</h2>
	{#each HANDS as hand (hand)}
		{@render side(hand, comparison.choices[hand])}
		{#if hand === 'left'}<button class="tool plain swap" onclick={() => comparison.swap()}><ArrowLeftRight size={14} /> Swap</button>{/if}
	{/each}
	<p>Both lie on what wears this material, before one eye and in one light.</p>
</aside>

<style>
	aside {
		display: flex;
		flex-direction: column;
		gap: 8px;
		min-height: 0;
		padding: 12px;
		overflow-y: auto;
		background: var(--panel);
		border-right: 1px solid var(--line);
	}
	fieldset {
		display: grid;
		gap: 4px;
		min-width: 0;
	}
	legend {
		margin-bottom: 4px;
	}
	.swap {
		display: flex;
		align-items: center;
		gap: 4px;
		align-self: start;
		border: 1px solid var(--line);
	}
	p {
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
	}
</style>
