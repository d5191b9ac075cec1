<script lang="ts">
	import type { Other } from '../state/company.svelte';

	/** Who else has this material open. */
	let { others }: { others: Other[] } = $props();
	const MOST = 4;
	const name = (one: Other): string => (one.who === '' ? 'Another window' : one.who);
	/** Of each person one, far apart: the golden angle. */
	const hue = (one: Other): number => ((one.person === 0 ? [...one.page].reduce((sum, letter) => sum + letter.charCodeAt(0), 0) : one.person) * 137.508) % 360;
	const initials = (one: Other): string => (one.who === '' ? '·' : one.who.split(/\s+/).map((word) => word[0] ?? '').slice(0, 2).join('').toUpperCase());
</script>

{#if others.length > 0}
	<ul aria-label="Who else is here">
		{#each others.slice(0, MOST) as one (one.page)}<li style:--hue={hue(one)} title="{name(one)} has this material open"><span aria-hidden="true">{initials(one)}</span><span class="sr-only">{name(one)}</span></li>{/each}
		{#if others.length > MOST}<li class="more" title={others.slice(MOST).map(name).join(', ')}>+{others.length - MOST}</li>{/if}
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
