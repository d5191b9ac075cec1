<script lang="ts">
	import { Plus } from '@lucide/svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { controlOf, freshId, uses } from '../state/parameters';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import NumberField from './NumberField.svelte';

	/** The parameters of the material: what it is driven by from outside. */
	let { session, selection, select }: { session: Session; selection: Selection; select: (selection: Selection) => void } = $props();

	const parameters = $derived(session.document.parameters ?? []);
	const declared = $derived(catalogue.value?.parameter.find((one) => one.name === 'value'));
	const most = $derived(catalogue.value?.limits.parameters ?? 0);

	function add(): void {
		const id = freshId('parameter', parameters.map((one) => one.id));
		const of = (name: string): number => catalogue.value?.parameter.find((one) => one.name === name)?.default ?? 0;
		session.edit((document) => {
			(document.parameters ??= []).push({ id, name: `Parameter ${parameters.length + 1}`, unit: '', min: of('min'), max: of('max'), step: of('step'), value: of('value') });
		});
		select({ kind: 'parameter', id });
	}
</script>

<section aria-label="Parameters">
	<header>
		<h2 class="heading">Parameters</h2>
		<button class="tool" disabled={parameters.length >= most} title="Add a parameter" aria-label="Add a parameter" onclick={add}><Plus size={14} /></button>
	</header>
	{#each parameters as parameter, i (parameter.id)}
		<div class="one" class:selected={selection.kind === 'parameter' && selection.id === parameter.id}>
			<button class="name" title="Name, range and unit" aria-pressed={selection.kind === 'parameter' && selection.id === parameter.id} onclick={() => select({ kind: 'parameter', id: parameter.id })}>{parameter.name}</button>
			<span class="uses" title="Numbers that follow it">{uses(session.document, parameter.id)}×</span>
			{#if declared !== undefined}
				<div class="value"><NumberField compact control={controlOf(parameter, declared)} value={parameter.value} set={(v) => session.set(`/parameters/${i}/value`, v)} hold={() => session.hold()} release={() => session.release()} /></div>
			{/if}
		</div>
	{:else}
		<p class="none">None yet. The link beside a number makes one of it.</p>
	{/each}
</section>

<style>
	section {
		display: grid;
		gap: 4px;
		padding: 8px 12px 12px;
		border-top: 1px solid var(--line);
	}
	header,
	.one {
		display: flex;
		align-items: center;
		gap: 8px;
	}
	header {
		justify-content: space-between;
	}
	.name {
		flex: 1;
		min-width: 0;
		height: 24px;
		padding: 0 4px;
		border: 0;
		border-radius: 3px;
		background: none;
		color: inherit;
		text-align: left;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
		cursor: pointer;
	}
	.name:hover {
		background: var(--raised);
	}
	.selected .name {
		background: var(--accent-soft);
		color: var(--accent);
	}
	.uses,
	.none {
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
	}
	.value {
		width: 96px;
	}
</style>
