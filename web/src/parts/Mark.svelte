<script lang="ts">
	import type { Severity } from '../state/findings.svelte';

	/** Says how grave a finding is, by shape and colour; the words stand beside it or in its title. */
	let { severity, title = '' }: { severity: Severity; title?: string } = $props();
</script>

<svg class={severity} viewBox="0 0 12 12" width="12" height="12" role={title === '' ? 'presentation' : 'img'} aria-label={title === '' ? undefined : title}>
	{#if title !== ''}<title>{title}</title>{/if}
	{#if severity === 'wrong'}<path d="M3.5 0.5h5l3 3v5l-3 3h-5l-3-3v-5z" />{:else if severity === 'doubtful'}<path d="M6 0.8 11.6 11H0.4z" />{:else}<circle cx="6" cy="6" r="4" />{/if}
</svg>

<style>
	svg {
		flex: none;
	}
	.wrong {
		fill: var(--brick);
	}
	.doubtful {
		fill: var(--amber);
	}
	.note {
		fill: none;
		stroke: var(--dim);
		stroke-width: 1.5;
	}
</style>
