<script lang="ts">
	import { RotateCcw } from '@lucide/svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import type { Session } from '../state/session.svelte';
	import ControlField from './ControlField.svelte';

	/** What a layer does to what it read. What is left alone costs nothing. */
	let { session, index }: { session: Session; index: number } = $props();

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
</script>

<section aria-label="Finish">
	<h3 class="heading">Finish</h3>
	<div class="channels" role="group" aria-label="What is finished">
		{#each groups as group (group.name)}
			<button class="tool" class:touched={changed(group).length > 0} aria-pressed={open === group.name} onclick={() => (open = group.name)}>{group.label}</button>
		{/each}
	</div>
	{#each groups.filter((one) => one.name === open) as group (group.name)}
		{#each group.controls as control (control.name)}<ControlField {session} {control} path="{path}/{control.name}" brief />{/each}
		<button class="tool plain" disabled={changed(group).length === 0} onclick={() => leave(changed(group))}><RotateCcw size={14} /> {group.label} as it was read</button>
	{/each}
</section>

<style>
	section {
		display: grid;
		gap: 8px;
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
