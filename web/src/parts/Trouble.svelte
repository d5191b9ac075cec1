<script lang="ts">
	import { ApiError } from '../api/client';
	import { passes, pause } from '../state/retry';

	let { error, retry }: { error: unknown; retry: () => void } = $props();
	const title = $derived(error instanceof ApiError ? error.title : 'This did not work');
	const detail = $derived(error instanceof Error ? error.message : String(error));
	/** What passes by itself is tried again by itself. */
	const waits = $derived(passes(error));
	let tries = 0;
	$effect(() => {
		if (!waits) return;
		const later = window.setTimeout(retry, pause(tries++));
		return () => clearTimeout(later);
	});
</script>

<div role="alert">
	<h1>{title}</h1>
	<p>{detail}</p>
	{#if waits}<p class="dim">It is tried again by itself.</p>{/if}
	<button class="tool plain" onclick={retry}>Try again now</button>
</div>

<style>
	div {
		max-width: 480px;
		margin: 12vh auto 0;
		display: grid;
		gap: 12px;
		justify-items: center;
		text-align: center;
	}
	h1 {
		font-size: 20px;
		font-weight: 600;
	}
	.dim {
		color: var(--dim);
	}
</style>
