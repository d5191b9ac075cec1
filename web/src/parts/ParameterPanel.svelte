<script lang="ts">
	import { Plus, RotateCcw } from '@lucide/svelte';
	import { commands, VALUES } from '../state/commands.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { freshId, uses } from '../state/parameters';
	import type { SetCard } from '../api/client';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import { valuesOf, variantOf } from '../state/variants';
	import ParameterValue from './ParameterValue.svelte';

	/** The parameters of the material: what it is driven by from outside. */
	let { session, sets, selection, select }: { session: Session; sets: SetCard[]; selection: Selection; select: (selection: Selection) => void } = $props();

	const parameters = $derived(session.document.parameters ?? []);
	const most = $derived(catalogue.value?.limits.parameters ?? 0);

	/** From so many on there is a search. */
	const SEARCHED = 6;
	let words = $state('');
	const values = $derived(valuesOf(session.document, session.variant));
	const found = $derived(parameters.filter((one) => `${one.name} ${one.group ?? ''} ${one.help ?? ''}`.toLowerCase().includes(words.trim().toLowerCase())));
	/** Those without a group come first. */
	const groups = $derived([...new Set(['', ...found.map((one) => one.group ?? '')])].map((name) => ({ name, parameters: found.filter((one) => (one.group ?? '') === name) })).filter((group) => group.parameters.length > 0));

	function add(): void {
		const id = freshId('parameter', parameters.map((one) => one.id));
		const of = (name: string): number => catalogue.value?.parameter.find((one) => one.name === name)?.default ?? 0;
		session.edit((document) => {
			(document.parameters ??= []).push({ id, name: `Parameter ${parameters.length + 1}`, kind: 'number', unit: '', min: of('min'), max: of('max'), step: of('step'), value: of('value') });
		});
		select({ kind: 'parameter', id });
	}
	$effect(() => commands.offer('parameters', () => [
		{ group: 'Parameters', label: 'Add a parameter', can: parameters.length < most, lands: VALUES, run: add },
		...parameters.map((one) => ({ group: 'Parameter', label: one.name, lands: VALUES, run: () => select({ kind: 'parameter', id: one.id }) }))
	]));
</script>

<section aria-label="Parameters">
	<header>
		<h2 class="heading">Parameters</h2>
		<button class="tool" disabled={parameters.length >= most} title="Add a parameter" aria-label="Add a parameter" onclick={add}><Plus size={14} /></button>
	</header>
	{#if parameters.length > SEARCHED}<input class="field" type="search" placeholder="Find a parameter" aria-label="Find a parameter" bind:value={words} />{/if}
	{#if session.variant !== ''}<p class="none">What is changed here is that of <strong>{variantOf(session.document, session.variant)?.name}</strong>.</p>{/if}
	{#each groups as group (group.name)}
		{#if group.name !== ''}<h3>{group.name}</h3>{/if}
		{#each group.parameters as parameter (parameter.id)}
			{@const overridden = variantOf(session.document, session.variant)?.values[parameter.id] !== undefined}
			<div class="one" class:selected={selection.kind === 'parameter' && selection.id === parameter.id} class:overridden>
				<button class="name" title={parameter.help ?? 'Name, range and unit'} aria-pressed={selection.kind === 'parameter' && selection.id === parameter.id} onclick={() => select({ kind: 'parameter', id: parameter.id })}>{parameter.name}</button>
				{#if overridden}
					<button class="tool back" title="Inherit it again" aria-label="Inherit {parameter.name} again" onclick={() => session.inherit(parameter.id)}><RotateCcw size={12} /></button>
				{:else if parameter.live === false}
					<span class="uses" title="Fixed: a game does not change it while it runs">fixed</span>
				{/if}
				<span class="uses" title="Values that follow it">{uses(session.document, parameter.id)}×</span>
				<div class="value"><ParameterValue {session} {parameter} {sets} value={values[parameter.id] ?? parameter.value} set={(v) => session.drive(parameter.id, v)} /></div>
			</div>
		{/each}
	{:else}
		<p class="none">{parameters.length === 0 ? 'None yet. The link beside a value makes one of it.' : `None is called “${words}”.`}</p>
	{/each}
</section>

<style>
	section {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		align-content: start;
		gap: 4px;
		padding: 0 12px 12px;
		border-top: 1px solid var(--line);
	}
	header {
		position: sticky;
		top: 0;
		padding: 8px 0 4px;
		background: var(--panel);
		z-index: 2;
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
	h3 {
		margin-top: 4px;
		font-size: 12px;
		font-weight: 600;
		color: var(--dim);
	}
	.overridden .name {
		font-weight: 600;
	}
	.overridden .value {
		box-shadow: inset 2px 0 0 var(--accent);
	}
	.back {
		height: 24px;
		padding: 0 6px;
		color: var(--accent);
	}
	.value :global(> *) {
		max-width: 100%;
	}
	.uses,
	.none {
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
	}
	.value {
		width: 96px;
		flex: none;
		display: flex;
		justify-content: end;
	}
</style>
