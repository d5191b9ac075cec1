<script lang="ts">
	import { api, type NumberControl, type StageObject } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { failed } from '../state/notices.svelte';
	import type { StageState } from '../state/stage.svelte';
	import NumberField from './NumberField.svelte';

	/** Copies of an object all over the surface of another. */
	let { stage, object, done }: { stage: StageState; object: StageObject; done: () => void } = $props();

	type Name = 'count' | 'slope' | 'turn' | 'size';
	const controls = (catalogue.value?.scatter ?? []) as (NumberControl & { name: Name })[];
	const others = $derived(stage.document.objects.filter((one) => one.id !== object.id));
	let over = $state('');
	$effect(() => { if (!others.some((one) => one.id === over)) over = others[0]?.id ?? ''; });
	let numbers = $state(Object.fromEntries(controls.map((one) => [one.name, one.default])) as Record<Name, number>);
	let leans = $state(false);
	let seed = $state(1);
	let busy = $state(false);

	async function scatter(): Promise<void> {
		const target = stage.object(over);
		if (target === undefined) return;
		busy = true;
		try {
			const { objects } = await api.scatter(stage.project, { object: $state.snapshot(object) as StageObject, over: $state.snapshot(target) as StageObject, ...numbers, leans, seed, taken: stage.document.objects.map((one) => one.id) });
			stage.add(objects);
			done();
		} catch (error) {
			failed('Nothing was scattered', error);
		} finally {
			busy = false;
		}
	}
</script>

<fieldset class="boxed">
	<legend>Copies over a surface</legend>
	<label class="labelled row">Over
		<select class="field" aria-label="Over which object" bind:value={over}>{#each others as one (one.id)}<option value={one.id}>{one.name}</option>{/each}</select>
	</label>
	{#each controls as control (control.name)}
		<NumberField {control} value={numbers[control.name]} set={(v) => (numbers[control.name] = v)} hold={() => {}} release={() => {}} />
	{/each}
	<label class="check"><input type="checkbox" bind:checked={leans} /> Along the surface, and not upright</label>
	<div class="buttons">
		<button class="tool plain" onclick={() => (seed = (seed + 1) % 1000)} title="Other places">Seed {seed}</button>
		<button class="tool main" disabled={busy || over === ''} onclick={() => void scatter()}>Scatter {numbers.count} copies</button>
	</div>
</fieldset>

<style>
	.row .field {
		width: 170px;
	}
	.check {
		display: flex;
		gap: 8px;
	}
</style>
