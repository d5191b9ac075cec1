<script lang="ts">
	import type { Lowered } from '../api/client';
	import { light } from '../stage/light';

	/** What is looked at: the lit material, a part of its light, or a picture of what it is made of. */
	let { views, view = $bindable() }: { views: Lowered['views']; view: string } = $props();

	// Measured and read, and not looked at.
	const shown = $derived(views.filter((one) => !/^(shares|term|area):/.test(one.name)));
	const named = $derived(shown.find((one) => one.name === view)?.label ?? light.parts.find((one) => one.value === view)?.label ?? 'Lit');
	const groups = $derived([...new Set(shown.map((one) => one.group))]);
</script>

<select class="field" aria-label="View" title="What is looked at: {named}" bind:value={view}>
	<optgroup label="Light">
		<option value="lit">Lit</option>
		{#each light.parts as one (one.value)}<option value={one.value} title={one.help}>{one.label}</option>{/each}
	</optgroup>
	{#each groups as group (group)}
		<optgroup label={group}>
			{#each shown.filter((one) => one.group === group) as one (one.name)}
				<option value={one.name}>{one.path === '' ? one.label : `After ${one.label}`}</option>
			{/each}
		</optgroup>
	{/each}
</select>

<style>
	select {
		flex: 0 1 auto;
		min-width: 72px;
		max-width: 150px;
		background: var(--panel);
	}
</style>
