<script lang="ts">
	import type { Saving } from '../state/editing.svelte';

	let { state }: { state: Saving } = $props();
	const words: Record<Saving, string> = {
		saved: 'Saved',
		changed: 'Not saved yet',
		saving: 'Saving …',
		offline: 'No connection: kept here, trying again',
		conflict: 'Changed somewhere else'
	};
</script>

<span role="status" class={state} data-testid="saving">{words[state]}</span>

<style>
	span {
		color: var(--dim);
		font-size: 12px;
		white-space: nowrap;
	}
	.offline,
	.conflict {
		color: var(--amber);
	}
</style>
