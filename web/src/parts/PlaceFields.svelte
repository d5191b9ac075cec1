<script lang="ts">
	import type { NumberControl, StageObject, Triple, Variant } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import type { StageState } from '../state/stage.svelte';
	import NumberField from './NumberField.svelte';

	let { stage, object, variants, place }: {
		stage: StageState;
		object: StageObject;
		/** Those of the material that is shown. */
		variants: Variant[];
		place: (change: Partial<StageObject>) => void;
	} = $props();

	const largest = $derived(catalogue.value?.limits.objectSeed ?? 0);
	type Name = 'position' | 'turn' | 'scale';
	const rows = $derived((catalogue.value?.placement ?? []).map((control) => ({ control, name: control.name as Name })));
	const along = (control: NumberControl, axis: number): NumberControl => ({ ...control, label: `${control.label} ${'XYZ'[axis]}` });
	function set(name: Name, axis: number, value: number): void {
		const triple = [...object[name]] as Triple;
		triple[axis] = value;
		place({ [name]: triple });
	}
</script>

{#each rows as row (row.name)}
	<fieldset>
		<legend>{row.control.label}</legend>
		<div>
			{#each [0, 1, 2] as axis (axis)}
				<span class="axis">{'XYZ'[axis]}</span>
				<NumberField compact control={along(row.control, axis)} value={object[row.name][axis] ?? 0} set={(v) => set(row.name, axis, v)} hold={() => stage.hold()} release={() => stage.release()} />
			{/each}
		</div>
	</fieldset>
{/each}
{#if catalogue.value !== null}
	<NumberField control={catalogue.value.objectValue} value={object.value ?? 0} set={(value) => place({ value })} hold={() => stage.hold()} release={() => stage.release()} />
{/if}
{#if variants.length > 0}
	<label class="seed">Variant
		<select class="field" aria-label="Variant that it wears" value={variants.some((one) => one.id === object.variant) ? object.variant : ''} onchange={(e) => place({ variant: e.currentTarget.value })}>
			<option value="">what the stage shows</option>
			{#each variants as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
		</select>
	</label>
{/if}
<label class="seed">Seed
	<input class="field figures" type="number" min="0" max={largest} step="1" value={object.seed ?? 1} title="Tells this object apart where a step is random by object"
		onchange={(e) => { const seed = Math.trunc(Number(e.currentTarget.value)); if (seed >= 0 && seed <= largest) place({ seed }); }} />
</label>

<style>
	.seed {
		display: flex;
		align-items: center;
		justify-content: space-between;
	}
	.seed select {
		width: 160px;
	}
	.seed input {
		width: 120px;
	}
	div {
		display: grid;
		grid-template-columns: 12px 1fr;
		align-items: center;
		gap: 4px;
		margin-top: 4px;
	}
	.axis {
		color: var(--dim);
	}
</style>
