<script lang="ts">
	import { hueOf, initialsOf, nameOf, type Other } from '../state/company.svelte';

	/** Who else has this material open. */
	let { others }: { others: Other[] } = $props();
	const MOST = 4;
</script>

{#if others.length > 0}
	<ul aria-label="Who else is here">
		{#each others.slice(0, MOST) as one (one.page)}<li style:--hue={hueOf(one)} title="{nameOf(one)} has this material open"><span aria-hidden="true">{initialsOf(one)}</span><span class="sr-only">{nameOf(one)}</span></li>{/each}
		{#if others.length > MOST}<li class="more" title={others.slice(MOST).map(nameOf).join(', ')}>+{others.length - MOST}</li>{/if}
	</ul>
{/if}

<style>
	ul {
		display: flex;
		padding: 0 4px;
	}
	li {
		display: grid;
		place-content: center;
		width: 24px;
		height: 24px;
		margin-left: -4px;
		border: 2px solid var(--panel);
		border-radius: 50%;
		background: oklch(0.52 0.11 var(--hue));
		color: #fff;
		font-size: 10px;
		font-weight: 650;
	}
	.more {
		background: var(--raised);
		color: var(--text);
	}
</style>
