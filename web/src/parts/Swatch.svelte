<script lang="ts">
	let { url, name }: { url: string; name: string } = $props();

	/** Swatches are computed one at a time; whoever comes too early asks again. */
	const AGAIN = 1500;
	const MOST = 80;
	let tries = $state(0);
	let ready = $state(false);
	const address = $derived(tries === 0 ? url : `${url}?try=${tries}`);

	function later(): void {
		if (tries < MOST) setTimeout(() => (tries += 1), AGAIN * Math.min(4, 1 + tries / 4) * (0.75 + 0.5 * Math.random()));
	}
</script>

<img src={address} alt="{name}, lit" width="400" height="300" loading="lazy" class:ready onload={() => (ready = true)} onerror={later} />
{#if !ready}<span class="wait" aria-hidden="true">{tries < MOST ? 'Computing the swatch …' : 'No swatch'}</span>{/if}

<style>
	img {
		display: block;
		background: #5b5b5b;
		width: 100%;
		height: auto;
		aspect-ratio: 4 / 3;
		opacity: 0;
	}
	.ready {
		opacity: 1;
	}
	.wait {
		position: absolute;
		inset: 0 0 auto 0;
		aspect-ratio: 4 / 3;
		display: grid;
		place-items: center;
		color: var(--dim);
	}
</style>
