<script lang="ts">
	import type { MapSet, StageObject, StepUse, Value } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import type { StageState } from '../state/stage.svelte';
	import ControlField from './ControlField.svelte';
	import PlaceFields from './PlaceFields.svelte';

	let { session, stage, sets, selection, moved }: {
		session: Session;
		stage: StageState;
		sets: MapSet[];
		selection: Selection;
		moved: (object: StageObject) => void;
	} = $props();

	const use = $derived(selection.kind === 'step' ? (session.value(selection.path) as StepUse | undefined) : undefined);
	const kind = $derived(use === undefined ? undefined : catalogue.step(use.step));
	const layer = $derived(selection.kind === 'layer' ? session.document.layers[selection.index] : undefined);
	/** Steps of many controls say their help one at a time. */
	const brief = $derived(use !== undefined && catalogue.shown(use).length > 4);
	const object = $derived(selection.kind === 'object' ? stage.object(selection.id) : undefined);

	function set(name: string, value: Value): void {
		if (selection.kind === 'step') session.set(`${selection.path}/values/${name}`, value);
	}
	function place(change: Partial<StageObject>): void {
		if (object === undefined) return;
		stage.change(object.id, change);
		moved(object);
	}
</script>

<section aria-label="Values">
	{#if use !== undefined && kind !== undefined}
		<h2 class="heading">Step</h2>
		<h3>{kind.label}</h3>
		<p class="help">{kind.help}</p>
		{#each catalogue.shown(use) as control (control.name)}
			<ControlField {control} brief={brief} value={use.values[control.name] ?? control.default} set={(v) => set(control.name, v)}
				hold={() => session.hold()} release={() => session.release()} />
		{/each}
	{:else if layer !== undefined && selection.kind === 'layer'}
		<h2 class="heading">Layer</h2>
		<h3>{layer.name}</h3>
		<p class="help">All maps of the set are read along the lane “{session.document.lanes.find((l) => l.id === layer.lane)?.name ?? layer.lane}”.</p>
		<label>Map set
			<select class="field" value={layer.set} onchange={(e) => session.set(`/layers/${selection.index}/set`, e.currentTarget.value)}>
				{#each sets as one (one.id)}<option value={one.name}>{one.name}</option>{/each}
			</select>
		</label>
	{:else if object !== undefined}
		<h2 class="heading">Object</h2>
		<h3>{object.name}</h3>
		<PlaceFields {object} {place} />
	{/if}
</section>

<style>
	section {
		display: grid;
		align-content: start;
		gap: 12px;
		padding: 12px;
	}
	h3 {
		font-size: 15px;
		font-weight: 600;
		margin-top: -8px;
	}
	.help {
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
		margin-top: -8px;
	}
	label {
		display: grid;
		gap: 4px;
	}
</style>
