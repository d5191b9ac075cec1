<script lang="ts">
	import { RotateCcw } from '@lucide/svelte';
	import { onMount } from 'svelte';
	import { api, type MaterialDocument, type Revision } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { differences } from '../state/differences';
	import { landmarks, placeOf } from '../state/history';
	import { done, failed } from '../state/notices.svelte';
	import type { Session } from '../state/session.svelte';
	import Differences from './Differences.svelte';
	import Sheet from './Sheet.svelte';

	/** What the material was: name it, compare it, go back to it. */
	let { session, close }: { session: Session; close: () => void } = $props();

	type Whole = Revision & { document: MaterialDocument };
	let revisions = $state.raw<Revision[]>([]);
	let all = $state(false);
	let chosen = $state.raw<Whole | null>(null);
	/** What it is compared with; null for the document as it is now. */
	let against = $state.raw<Whole | null>(null);
	const listed = $derived(all ? revisions : landmarks(revisions));
	const now = $derived($state.snapshot(session.document) as MaterialDocument);
	const rows = $derived(chosen === null ? [] : differences(against?.document ?? now, chosen.document));

	onMount(() => {
		void (async () => {
			try {
				await session.stored();
				revisions = await api.revisions(session.id);
			} catch (error) {
				failed('The history did not come', error);
			}
		})();
	});

	async function whole(id: number): Promise<Whole | null> {
		try {
			return await api.revision(id);
		} catch (error) {
			failed('The revision did not come', error);
			return null;
		}
	}
	async function name(revision: Revision, said: string): Promise<void> {
		try {
			const named = await api.nameRevision(revision.id, said.trim());
			revisions = revisions.map((one) => (one.id === named.id ? { ...one, name: named.name } : one));
			if (chosen?.id === named.id) chosen = { ...chosen, name: named.name };
		} catch (error) {
			failed('The name was not kept', error);
		}
	}
	function restore(revision: Whole): void {
		session.become(structuredClone(revision.document));
		done('Restored', `${title(revision)}; undo brings back what was here`);
		close();
	}
	const when = (iso: string): string => new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));
	const title = (revision: Revision): string => (revision.name === '' ? `Version ${revision.version}` : revision.name);
	const label = (step: string, control: string): string => (control === '' ? (catalogue.step(step)?.label ?? step) : (catalogue.control(step, control)?.label ?? control));
	const place = (path: string): string => placeOf(now, path, label);
</script>

<Sheet title="What {session.document.name} was" wide {close}>
	<div class="split">
		<div>
			<ul aria-label="Revisions">
				{#each listed as revision (revision.id)}
					<li>
						<button class:chosen={chosen?.id === revision.id} aria-pressed={chosen?.id === revision.id} onclick={async () => (chosen = await whole(revision.id))}>
							<strong>{title(revision)}</strong>{#if revision.version === session.version && !revision.aside}<span class="tag">now</span>{/if}{#if revision.aside}<span class="tag">set aside</span>{/if}{#if revision.approvedBy !== ''}<span class="tag" title="By {revision.approvedBy}">approved</span>{/if}
							<span class="when">{when(revision.savedAt)}</span>
						</button>
					</li>
				{:else}
					<li class="dim" aria-busy="true">Reading the history …</li>
				{/each}
			</ul>
			{#if revisions.length > landmarks(revisions).length}
				<label class="all"><input type="checkbox" bind:checked={all} /> every save, all {revisions.length} of them</label>
			{/if}
		</div>
		<div class="one">
			{#if chosen === null}
				<p class="dim">Choose a revision to see which values differ from now.</p>
			{:else}
				{@const revision = chosen}
				<div class="line">
					<input class="field" aria-label="Name of version {revision.version}" placeholder="Name this version" maxlength="120" value={revision.name} onchange={(e) => void name(revision, e.currentTarget.value)} />
					<label>compared with
						<select class="field" value={against === null ? '' : String(against.id)} onchange={async (e) => { const id = e.currentTarget.value; against = id === '' ? null : await whole(Number(id)); }}>
							<option value="">now</option>
							{#each listed.filter((other) => other.id !== revision.id) as other (other.id)}<option value={String(other.id)}>{title(other)}</option>{/each}
						</select>
					</label>
				</div>
				{#if rows.length === 0}
					<p class="dim">No value differs.</p>
				{:else}
					<div class="scroll"><Differences {rows} {place} mine={against === null ? 'Now' : title(against)} theirs={title(revision)} /></div>
				{/if}
			{/if}
		</div>
	</div>
	{#snippet actions()}
		<button class="tool plain" onclick={close}>Close</button>
		{#if chosen !== null}
			{@const revision = chosen}
			<button class="tool main" disabled={against === null && rows.length === 0} onclick={() => restore(revision)}><RotateCcw size={14} /> Restore {title(revision)}</button>
		{/if}
	{/snippet}
</Sheet>

<style>
	.split {
		display: grid;
		grid-template-columns: 250px minmax(0, 1fr);
		gap: 20px;
		min-height: 320px;
	}
	ul {
		display: grid;
		align-content: start;
		gap: 2px;
		max-height: 52vh;
		overflow: auto;
	}
	li button {
		width: 100%;
		display: grid;
		grid-template-columns: minmax(0, 1fr) auto;
		gap: 0 8px;
		padding: 6px 8px;
		border: 1px solid transparent;
		border-radius: 3px;
		background: none;
		color: inherit;
		text-align: left;
		cursor: pointer;
	}
	li button:hover {
		background: var(--raised);
	}
	li button.chosen {
		background: var(--accent-soft);
		border-color: var(--accent);
	}
	strong {
		font-weight: 600;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.tag {
		font-size: 12px;
		color: var(--accent);
	}
	.when {
		grid-column: 1 / -1;
		font-size: 12px;
		color: var(--dim);
	}
	.all {
		display: flex;
		align-items: center;
		gap: 8px;
		min-height: 32px;
		margin-top: 12px;
		font-size: 12px;
		color: var(--dim);
	}
	.all input {
		width: 24px;
		height: 24px;
		accent-color: var(--accent);
	}
	.one {
		display: grid;
		align-content: start;
		gap: 12px;
	}
	.line {
		display: flex;
		gap: 16px;
		align-items: center;
		flex-wrap: wrap;
	}
	.line > .field {
		width: 220px;
	}
	.line label {
		display: flex;
		gap: 8px;
		align-items: center;
		color: var(--dim);
	}
	.line select {
		max-width: 220px;
	}
	.scroll {
		max-height: 46vh;
		overflow: auto;
	}
	.dim {
		color: var(--dim);
	}
</style>
