<script lang="ts">
	import { failed } from '../state/notices.svelte';
	import type { RecipeSession } from '../state/recipe.svelte';
	import type { Session } from '../state/session.svelte';
	import { differences } from '../state/differences';
	import Differences from './Differences.svelte';
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
		<Differences {rows} mine="Yours" theirs="Theirs" />
	{/if}
	{#snippet actions()}
		{#if what === 'material'}<button class="tool plain" disabled={busy} onclick={() => settle(() => session.keepBoth())}>Keep both as two materials</button>{/if}
		<button class="tool plain" disabled={busy} onclick={() => settle(() => session.settle('theirs'))}>Take theirs</button>
		<button class="tool main" disabled={busy} onclick={() => settle(() => session.settle('mine'))}>Keep mine</button>
	{/snippet}
</Sheet>
