<script lang="ts">
	import { failed } from '../state/notices.svelte';
	import type { RecipeSession } from '../state/recipe.svelte';
	import type { Session } from '../state/session.svelte';
	import { differences } from '../state/differences';
	import Sheet from './Sheet.svelte';

	let { session, what = 'material' }: { session: Session | RecipeSession; what?: 'material' | 'recipe' } = $props();
	const rows = $derived(session.theirs === null ? [] : differences($state.snapshot(session.document), session.theirs.document));
	let busy = $state(false);

	async function settle(how: () => Promise<unknown>): Promise<void> {
		busy = true;
		try {
			await how();
		} catch (error) {
			failed('The conflict is not settled yet', error);
		}
		busy = false;
	}
</script>

<Sheet title="Changed somewhere else" close={() => {}}>
	<p>This {what} was saved from another tab since you opened it. {what === 'material' ? 'Whatever you choose, both versions stay in its history.' : 'If you take theirs, yours is kept as a recipe of its own.'}</p>
	{#if rows.length > 0}
		<table>
			<thead><tr><th>Place</th><th>Yours</th><th>Theirs</th></tr></thead>
			<tbody>
				{#each rows as row (row.path)}
					<tr><td class="figures">{row.path}</td><td class="figures">{row.mine}</td><td class="figures">{row.theirs}</td></tr>
				{/each}
			</tbody>
		</table>
	{/if}
	{#snippet actions()}
		{#if what === 'material'}<button class="tool plain" disabled={busy} onclick={() => settle(() => session.keepBoth())}>Keep both as two materials</button>{/if}
		<button class="tool plain" disabled={busy} onclick={() => settle(() => session.settle('theirs'))}>Take theirs</button>
		<button class="tool main" disabled={busy} onclick={() => settle(() => session.settle('mine'))}>Keep mine</button>
	{/snippet}
</Sheet>

<style>
	table {
		width: 100%;
	}
	th {
		text-align: left;
		color: var(--dim);
		font-size: 12px;
	}
	td {
		border-top: 1px solid var(--line);
		padding: 2px 8px 2px 0;
	}
</style>
