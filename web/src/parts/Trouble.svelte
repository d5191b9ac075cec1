<script lang="ts">
	import { ApiError } from '../api/client';

	let { error, retry }: { error: unknown; retry: () => void } = $props();
	const title = $derived(error instanceof ApiError ? error.title : 'This did not work');
	const detail = $derived(error instanceof Error ? error.message : String(error));
</script>

<div role="alert">
	<h1>{title}</h1>
	<p>{detail}</p>
	<button class="tool plain" onclick={retry}>Try again</button>
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
</style>
