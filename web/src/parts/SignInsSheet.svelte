<script lang="ts">
	import Done from './Done.svelte';
	import Sheet from './Sheet.svelte';

	/** Who came in, and who tried to: for whoever looks after the server. */
	let { close }: { close: () => void } = $props();
</script>

<Sheet title="Sign-ins and accounts" {close} wide>
	<p>Who signed in or could not, and what was done to accounts and tokens. What was done in a project stands under its people.</p>
	<Done of={null} />
	{#snippet actions()}<button class="tool main" onclick={close}>Close</button>{/snippet}
</Sheet>

<style>
	p {
		color: var(--dim);
	}
</style>
