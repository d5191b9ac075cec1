<script lang="ts">
	import type { SetCard } from '../api/client';

	/** A map, or a map set, chosen from the library by name; empty for none. */
	let { type, value, set, sets, label, none = 'none' }: { type: 'map' | 'set'; value: string; set: (next: string) => void; sets: SetCard[]; label: string; none?: string } = $props();

	const there = $derived(value === '' || sets.some((one) => (type === 'set' ? one.name === value : one.maps.some((map) => `${one.name}/${map.role}` === value))));
</script>

<select class="field map" aria-label={label} {value} onchange={(e) => set(e.currentTarget.value)}>
	<option value="">{none}</option>
	{#if !there}<option {value}>{value} (gone)</option>{/if}
	{#each sets as one (one.id)}
		{#if type === 'set'}
			<option value={one.name}>{one.name}</option>
		{:else}
			<optgroup label={one.name}>
				{#each one.maps as map (map.id)}<option value="{one.name}/{map.role}">{one.name}: {map.role}</option>{/each}
			</optgroup>
		{/if}
	{/each}
</select>

<style>
	.map {
		max-width: 148px;
	}
</style>
