<script lang="ts">
	import { insisting } from '../state/pictures';

	let { url, name }: { url: string; name: string } = $props();

	/** Swatches are computed one at a time; whoever comes too early asks again. */
	const MOST = 80;
	let tries = $state(0);
	let ready = $state(false);
</script>

<img src={url} alt="{name}, lit" width="400" height="300" loading="lazy" class:ready onload={() => (ready = true)} {@attach insisting(MOST, (now) => (tries = now))} />
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
