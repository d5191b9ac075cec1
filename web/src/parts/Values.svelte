<script lang="ts">
	import type { Control, Family, SetCard, StageObject, StepUse } from '../api/client';
	import type { Showing } from '../state/showing';
	import { BookOpen } from '@lucide/svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { guiding } from '../state/guiding.svelte';
	import type { Meshes } from '../state/meshes.svelte';
	import { selectedObjects, type Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import type { StageState } from '../state/stage.svelte';
	import ControlField from './ControlField.svelte';
	import GroupFields from './GroupFields.svelte';
	import LayerFields from './LayerFields.svelte';
	import ParameterFields from './ParameterFields.svelte';
	import SurfaceFields from './SurfaceFields.svelte';
	import ObjectFields from './ObjectFields.svelte';
	import SeveralFields from './SeveralFields.svelte';

	let { session, stage, meshes, sets, families, showing, selection, select, moved, restingHeight, sections }: {
		session: Session;
		stage: StageState;
		meshes: Meshes;
		sets: SetCard[];
		families: Family[];
		showing: Showing;
		selection: Selection;
		select: (selection: Selection) => void;
		moved: (object: StageObject) => void;
		/** How high an object stands on what lies below it, metres. */
		restingHeight: (id: string) => number | null;
		/** What the sections of a mesh are called. */
		sections: (mesh: string) => Promise<string[]>;
	} = $props();

	const use = $derived(selection.kind === 'step' ? (session.value(selection.path) as StepUse | undefined) : undefined);
	const kind = $derived(use === undefined ? undefined : catalogue.step(use.step));
	const layer = $derived(selection.kind === 'layer' ? session.document.layers[selection.index] : undefined);
	/** Steps of many controls say their help one at a time. */
	const brief = $derived(use !== undefined && catalogue.shown(use).length > 4);
	const object = $derived(selection.kind === 'object' ? stage.object(selection.id) : undefined);

	const parameter = $derived(selection.kind === 'parameter' ? session.document.parameters?.find((one) => one.id === selection.id) : undefined);
	const several = $derived(selectedObjects(selection).filter((id) => stage.has(id)));
	const home: Selection = { kind: 'step', path: '/lanes/0/steps/0' };
	const problems = $derived(selection.kind === 'step' ? (session.lowered?.problems ?? []).filter((one) => `${one.path}/`.startsWith(`${selection.path}/`)) : []);
	const pickPath = (control: Control): string | null =>
		control.type === 'rows' && typeof control.picks === 'string' && selection.kind === 'step' && catalogue.shown(use!).some((one) => one.name === control.picks) ? `${selection.path}/values/${control.picks}` : null;
	/** A number that is picked in a list of rows has no field of its own. */
	const listed = $derived(use === undefined ? [] : catalogue.shown(use).filter((control) => !catalogue.shown(use).some((other) => other.type === 'rows' && other.picks === control.name)));
	/** The help of the control that is used: at one place, so that nothing moves under the pointer. */
	let help = $state('');
	const told = (event: Event): void => void (help = (event.target as HTMLElement).closest<HTMLElement>('[data-help]')?.dataset.help ?? help);
	$effect(() => {
		void use?.step;
		help = '';
	});
	function place(change: Partial<StageObject>): void {
		if (object === undefined) return;
		stage.change(object.id, change);
		moved(object);
	}
</script>

<section aria-label="Values" onfocusin={told} onpointerover={told}>
	{#if use !== undefined && kind !== undefined}
		<div class="top">
			<h2 class="heading">Step</h2>
			<div class="named"><h3>{kind.label}</h3><button class="look" aria-label="{kind.label} in the guide" title="In the guide" onclick={() => guiding.show(kind.label)}><BookOpen size={14} /></button></div>
		</div>
		<p class="help">{kind.help}</p>
		{#each problems as problem (problem.path + problem.message)}<p class="problem">{problem.message}</p>{/each}
		{#each listed as control (control.name)}
			<ControlField {session} {control} {brief} {sets} {families} path="{selection.kind === 'step' ? selection.path : ''}/values/{control.name}" pickPath={pickPath(control)} />
		{/each}
		{#if brief}<p class="foot" aria-live="polite">{help === '' ? 'Point at a control to read what it does.' : help}</p>{/if}
	{:else if use !== undefined}
		<h2 class="heading">Step</h2>
		<h3>{use.step}</h3>
		<p class="help">This version does not know the step. It is left out of the picture and kept in the document, with all its values.</p>
	{:else if several.length > 1}
		<SeveralFields {stage} ids={several} {select} grounded={restingHeight} />
	{:else if layer !== undefined && selection.kind === 'layer'}
		<LayerFields {session} index={selection.index} {sets} {showing} gone={() => select(home)} />
	{:else if selection.kind === 'group'}
		<GroupFields {session} id={selection.id} gone={() => select(home)} />
	{:else if parameter !== undefined}
		<ParameterFields {session} {parameter} {sets} gone={() => select(home)} />
	{:else if selection.kind === 'surface'}
		<SurfaceFields {session} />
	{:else if object !== undefined}
		<ObjectFields {stage} {meshes} {sections} slug={stage.project} {object} {place} variants={session.document.variants ?? []} grounded={() => restingHeight(object.id)} chosen={(id) => select(id === null ? home : { kind: 'object', id })} />
	{/if}
</section>

<style>
	.named {
		display: flex;
		align-items: center;
		gap: 6px;
	}
	.look {
		color: var(--dim);
		cursor: pointer;
		vertical-align: -1px;
	}
	.look:hover {
		color: var(--accent);
	}
	section {
		display: flex;
		flex-direction: column;
		gap: 12px;
		padding: 12px;
	}
	section > :global(*) {
		flex: none;
	}
	h3 {
		font-size: 15px;
		font-weight: 600;
		margin-top: -8px;
	}
	/* What is selected stays in sight. */
	.top,
	section > :global(h2) {
		position: sticky;
		top: -12px;
		margin: -12px -12px 0;
		padding: 12px 12px 4px;
		background: var(--panel);
		z-index: 2;
	}
	.top h3 {
		margin-top: 0;
	}
	.foot {
		position: sticky;
		bottom: -12px;
		height: 45px;
		margin: auto -12px -12px;
		padding: 6px 12px;
		border-top: 1px solid var(--line);
		background: var(--panel);
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
		overflow: hidden;
		z-index: 2;
	}
	.help {
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
