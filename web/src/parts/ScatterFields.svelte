<script lang="ts">
	import { api, type NumberControl, type StageObject } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { failed } from '../state/notices.svelte';
	import type { StageState } from '../state/stage.svelte';
	import NumberField from './NumberField.svelte';

	/** Copies of an object all over the surface of another. */
	let { stage, object, done }: { stage: StageState; object: StageObject; done: () => void } = $props();

	const controls = Object.fromEntries((catalogue.value?.copies ?? []).map((one) => [one.name, one])) as Record<string, NumberControl>;
	const others = $derived(stage.document.objects.filter((one) => one.id !== object.id));
	let over = $state('');
	$effect(() => { if (!others.some((one) => one.id === over)) over = others[0]?.id ?? ''; });
	let numbers = $state({ over: controls.over!.default, slope: controls.slope!.default, turn: 180, size: controls.size!.default });
	let leans = $state(false);
	let seed = $state(1);
	let busy = $state(false);

	async function scatter(): Promise<void> {
		const target = stage.object(over);
		if (target === undefined) return;
		busy = true;
		try {
			const { objects } = await api.scatter(stage.project, { object: $state.snapshot(object) as StageObject, over: $state.snapshot(target) as StageObject, count: numbers.over, slope: numbers.slope, leans, turn: numbers.turn, size: numbers.size, seed, taken: stage.document.objects.map((one) => one.id) });
			stage.add(objects);
			done();
		} catch (error) {
			failed('Nothing was scattered', error);
		} finally {
			busy = false;
		}
	}
</script>

<fieldset>
	<legend>Copies over a surface</legend>
	<label class="row">Over
		<select class="field" aria-label="Over which object" bind:value={over}>{#each others as one (one.id)}<option value={one.id}>{one.name}</option>{/each}</select>
	</label>
	{#each ['over', 'slope', 'turn', 'size'] as const as name (name)}
		<NumberField control={controls[name]!} value={numbers[name]} set={(v) => (numbers[name] = v)} hold={() => {}} release={() => {}} />
	{/each}
	<label class="check"><input type="checkbox" bind:checked={leans} /> Along the surface, and not upright</label>
	<div class="acts">
		<button class="tool plain" onclick={() => (seed = (seed + 1) % 1000)} title="Other places">Seed {seed}</button>
		<button class="tool main" disabled={busy || over === ''} onclick={() => void scatter()}>Scatter {numbers.over} copies</button>
	</div>
</fieldset>

<style>
	fieldset {
		display: grid;
		gap: 8px;
		padding: 8px;
		border: 1px solid var(--line);
		border-radius: 4px;
	}
	.row {
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 8px;
	}
	.row .field {
		width: 170px;
	}
	.check {
		display: flex;
		gap: 8px;
	}
	.acts {
		display: flex;
		gap: 4px;
	}
	.acts .plain {
		border: 1px solid var(--line);
	}
</style>
