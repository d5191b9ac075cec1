<script lang="ts">
	import { RotateCcw, SplitSquareHorizontal } from '@lucide/svelte';
	import type { MaterialDocument, SetCard, Value } from '../api/client';
	import { catalogue, meaningful } from '../state/catalogue.svelte';
	import { commands, FIELD } from '../state/commands.svelte';
	import { isTie } from '../state/parameters';
	import type { Session } from '../state/session.svelte';
	import ControlField from './ControlField.svelte';

	/** What a layer does to what it read. What is left alone costs nothing. */
	let { session, index, sets }: { session: Session; index: number; sets: SetCard[] } = $props();

	const groups = $derived(catalogue.value?.layer.finish ?? []);
	const values = $derived(session.document.layers[index]?.finish?.values ?? {});
	const path = $derived(`/layers/${index}/finish/values`);
	let open = $state('colour');

	const changed = (group: (typeof groups)[number]): string[] => group.controls.map((one) => one.name).filter((name) => name in values);
	/** As it was read: the document says nothing about it any more. */
	function leave(names: string[]): void {
		session.edit((document) => {
			const layer = document.layers[index];
			if (layer?.finish?.values === undefined) return;
			const left = Object.entries(layer.finish.values).filter(([name]) => !names.includes(name));
			if (left.length === 0) delete layer.finish;
			else layer.finish.values = Object.fromEntries(left);
		});
	}
	/** The document with all numbers and colours of the finish as if they changed nothing. */
	function unfinished(): MaterialDocument {
		const document = structuredClone($state.snapshot(session.dressed)) as MaterialDocument;
		const finish = document.layers[index]?.finish?.values ?? {};
		for (const control of groups.flatMap((group) => group.controls)) {
			const said = finish[control.name];
			if (said === undefined || (control.type !== 'number' && control.type !== 'colour')) continue;
			// Numbers that follow a parameter are uniforms in parts.
			finish[control.name] = isTie(said) && control.type === 'number' ? { parameter: said.parameter, factor: 0, offset: control.default } : (control.default as Value);
		}
		return document;
	}
	$effect(() => commands.offer('finish', () => groups.map((group) => ({ group: 'Finish', label: group.label, lands: `[aria-label="Finish"] .channels ~ * ${FIELD}`, run: () => (open = group.name) }))));
</script>

<section aria-label="Finish">
	<header>
		<h3 class="heading">Finish</h3>
		<button class="tool" disabled={Object.keys(values).length === 0} title="While it is held, the left half of the stage shows the layer without its finish"
			onpointerdown={() => (session.before = unfinished())} onpointerup={() => (session.before = null)} onpointerleave={() => (session.before = null)}
			onkeydown={(e) => { if (e.key === ' ' || e.key === 'Enter') session.before = unfinished(); }} onkeyup={() => (session.before = null)} onblur={() => (session.before = null)}><SplitSquareHorizontal size={14} /> Hold for before</button>
	</header>
	<div class="channels" role="group" aria-label="What is finished">
		{#each groups as group (group.name)}
			<button class="tool" class:touched={changed(group).length > 0} aria-pressed={open === group.name} onclick={() => (open = group.name)}>{group.label}</button>
		{/each}
	</div>
	{#each groups.filter((one) => one.name === open) as group (group.name)}
		{#each meaningful(group.controls, values) as control (control.name)}<ControlField {session} {control} {sets} path="{path}/{control.name}" brief compare reset={() => leave([control.name])} />{/each}
		<button class="tool plain" disabled={changed(group).length === 0} onclick={() => leave(changed(group))}><RotateCcw size={14} /> {group.label} as it was read</button>
	{/each}
</section>

<style>
	section {
		display: grid;
		gap: 8px;
	}
	header {
		display: flex;
		align-items: center;
		justify-content: space-between;
	}
	.channels {
		display: flex;
		flex-wrap: wrap;
		gap: 2px;
	}
	/* What differs from the maps is marked. */
	.touched::after {
		content: '';
		width: 6px;
		height: 6px;
		border-radius: 50%;
		background: var(--accent);
	}
	section > button {
		justify-self: start;
	}
</style>
