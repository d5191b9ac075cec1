<script lang="ts">
	import type { Parameter, ParameterValue, SetCard } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { controlOf, isNumber } from '../state/parameters';
	import type { Session } from '../state/session.svelte';
	import ColourField from './ColourField.svelte';
	import LibraryField from './LibraryField.svelte';
	import NumberField from './NumberField.svelte';

	/** What a parameter is, in the material or in a variant: a field of its kind. */
	let { session, parameter, value, set, sets, label = parameter.name }: { session: Session; parameter: Parameter; value: ParameterValue; set: (next: ParameterValue) => void; sets: SetCard[]; label?: string } = $props();

	const declared = $derived(catalogue.value?.parameter.find((one) => one.name === 'value'));
</script>

{#if isNumber(parameter)}
	{#if declared !== undefined}
		<NumberField compact control={{ ...controlOf(parameter, declared), label }} value={Number(value)} {set} hold={() => session.hold()} release={() => session.release()} />
	{/if}
{:else if parameter.kind === 'colour'}
	<ColourField {label} value={Array.isArray(value) ? value : [0, 0, 0]} {set} hold={() => session.hold()} release={() => session.release()} />
{:else if parameter.kind === 'switch'}
	<input type="checkbox" aria-label={label} checked={value === true} onchange={(e) => set(e.currentTarget.checked)} />
{:else}
	<LibraryField type={parameter.kind === 'map' ? 'map' : 'set'} {label} value={String(value)} {set} {sets} />
{/if}

<style>
	input {
		width: 16px;
		height: 16px;
		accent-color: var(--accent);
	}
</style>
