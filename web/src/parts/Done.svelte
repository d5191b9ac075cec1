<script lang="ts">
	import { api, type AuditEntry } from '../api/client';
	import { failed } from '../state/notices.svelte';

	/** Who did what, when, and from where: in a project, or outside of all. */
	let { of }: { of: string | null } = $props();
	let entries = $state.raw<AuditEntry[] | null>(null);
	let words = $state('');
	const when = (iso: string): string => new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));
	const table = $derived(`${of === null ? '/api' : `/api/projects/${of}`}/audit.csv?words=${encodeURIComponent(words)}`);
	$effect(() => {
		const asked = words;
		const later = window.setTimeout(() => void api.audit(of, asked).then((found) => (entries = found), (error: unknown) => failed('What was done could not be read', error)), 200);
		return () => clearTimeout(later);
	});
</script>

<div class="search"><input class="field" type="search" aria-label="Search" placeholder="Who, or what" bind:value={words} /><a class="tool plain" href={table}>Save as CSV</a></div>
<table aria-label="What was done">
	<tbody>
		{#each entries ?? [] as one, i (i)}
			<tr><td class="when">{when(one.at)}</td><th scope="row">{one.who}</th><td>{one.what}{one.times > 1 ? ` × ${one.times}` : ''}</td><td class="help">{one.target}</td><td class="help figures">{one.address}</td></tr>
		{:else}
			{#if entries !== null}<tr><td class="help">{words === '' ? 'Nothing was done yet.' : `Nothing with “${words}” was done.`}</td></tr>{/if}
		{/each}
	</tbody>
</table>

<style>
	.search {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 8px;
		padding-top: 8px;
	}
	table {
		width: 100%;
		margin-top: 8px;
		border-collapse: collapse;
	}
	th,
	td {
		padding: 6px 12px 6px 0;
		border-bottom: 1px solid var(--line);
		text-align: left;
		font-weight: 400;
		overflow-wrap: anywhere;
	}
	.help,
	.when {
		color: var(--dim);
		font-size: 12px;
	}
	.when {
		white-space: nowrap;
	}
</style>
