<script lang="ts">
	import type { Saving } from '../state/editing.svelte';

	let { state, reason = '' }: { state: Saving; reason?: string } = $props();
	const words: Record<Saving, string> = {
		saved: 'Saved',
		changed: 'Not saved yet',
		saving: 'Saving …',
		offline: 'No connection: kept in this browser, trying again',
		failing: 'The server cannot store it now: kept in this browser, trying again',
		refused: 'Not stored: kept in this browser',
		conflict: 'Changed somewhere else',
		looking: 'Looking: what you try stays in this tab'
	};
</script>

<span role="status" class={state} data-testid="saving" title={reason || undefined}>{words[state]}</span>

<style>
	span {
		color: var(--dim);
		font-size: 12px;
		white-space: nowrap;
	}
	.offline,
	.failing,
	.refused,
	.conflict {
		color: var(--amber);
	}
</style>
