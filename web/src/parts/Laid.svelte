<script lang="ts">
	import { Trash2 } from '@lucide/svelte';
	import type { Snippet } from 'svelte';

	/** One of several things that lie over one another, with what changes it and what takes it away. */
	let { legend, away, remove, children }: {
		legend: string;
		/** what the button that takes it away is called */
		away: string;
		/** null where it has to stay */
		remove: (() => void) | null;
		children: Snippet;
	} = $props();
</script>

<fieldset>
	<legend>{legend}</legend>
	{@render children()}
	{#if remove !== null}<button class="tool" aria-label={away} title="Take it out" onclick={remove}><Trash2 size={14} /></button>{/if}
</fieldset>

<style>
	fieldset {
		position: relative;
		display: grid;
		gap: 6px;
		padding: 4px 8px 8px;
		border: 1px solid var(--line);
		border-radius: 4px;
		min-width: 0;
	}
	legend {
		padding: 0 4px;
		font-size: 12px;
		color: var(--dim);
	}
	button {
		position: absolute;
		right: 2px;
		top: -26px;
		background: var(--panel);
	}
</style>
