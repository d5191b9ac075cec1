<script lang="ts">
	import type { Control, Family, SetCard, StageObject, StepUse } from '../api/client';
	import type { Showing } from '../state/showing';
	import { catalogue } from '../state/catalogue.svelte';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import type { StageState } from '../state/stage.svelte';
	import ControlField from './ControlField.svelte';
	import GroupFields from './GroupFields.svelte';
	import LayerFields from './LayerFields.svelte';
	import ParameterFields from './ParameterFields.svelte';
	import SurfaceFields from './SurfaceFields.svelte';
	import PlaceFields from './PlaceFields.svelte';

	let { session, stage, sets, families, showing, selection, select, moved }: {
		session: Session;
		stage: StageState;
		sets: SetCard[];
		families: Family[];
		showing: Showing;
		selection: Selection;
		select: (selection: Selection) => void;
		moved: (object: StageObject) => void;
	} = $props();

	const use = $derived(selection.kind === 'step' ? (session.value(selection.path) as StepUse | undefined) : undefined);
	const kind = $derived(use === undefined ? undefined : catalogue.step(use.step));
	const layer = $derived(selection.kind === 'layer' ? session.document.layers[selection.index] : undefined);
	/** Steps of many controls say their help one at a time. */
	const brief = $derived(use !== undefined && catalogue.shown(use).length > 4);
	const object = $derived(selection.kind === 'object' ? stage.object(selection.id) : undefined);

	const parameter = $derived(selection.kind === 'parameter' ? session.document.parameters?.find((one) => one.id === selection.id) : undefined);
	const home: Selection = { kind: 'step', path: '/lanes/0/steps/0' };
	const problems = $derived(selection.kind === 'step' ? (session.lowered?.problems ?? []).filter((one) => `${one.path}/`.startsWith(`${selection.path}/`)) : []);
	const pickPath = (control: Control): string | null =>
		control.type === 'rows' && typeof control.picks === 'string' && selection.kind === 'step' && catalogue.shown(use!).some((one) => one.name === control.picks) ? `${selection.path}/values/${control.picks}` : null;
	/** A number that is picked in a list of rows has no field of its own. */
	const listed = $derived(use === undefined ? [] : catalogue.shown(use).filter((control) => !catalogue.shown(use).some((other) => other.type === 'rows' && other.picks === control.name)));
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
		{#each problems as problem (problem.path + problem.message)}<p class="problem">{problem.message}</p>{/each}
		{#each listed as control (control.name)}
			<ControlField {session} {control} {brief} {sets} {families} path="{selection.kind === 'step' ? selection.path : ''}/values/{control.name}" pickPath={pickPath(control)} />
		{/each}
	{:else if use !== undefined}
		<h2 class="heading">Step</h2>
		<h3>{use.step}</h3>
		<p class="help">This version does not know the step. It is left out of the picture and kept in the document, with all its values.</p>
	{:else if layer !== undefined && selection.kind === 'layer'}
		<LayerFields {session} index={selection.index} {sets} {showing} gone={() => select(home)} />
	{:else if selection.kind === 'group'}
		<GroupFields {session} id={selection.id} gone={() => select(home)} />
	{:else if parameter !== undefined}
		<ParameterFields {session} {parameter} {sets} gone={() => select(home)} />
	{:else if selection.kind === 'surface'}
		<SurfaceFields {session} />
	{:else if object !== undefined}
		<h2 class="heading">Object</h2>
		<h3>{object.name}</h3>
		<PlaceFields {object} {place} variants={session.document.variants ?? []} />
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
	.problem {
		padding: 4px 8px;
		border-left: 3px solid var(--brick);
		background: var(--well);
		font-size: 12px;
		line-height: 16px;
	}
</style>
