<script lang="ts">
	import { BadgeCheck, Check, MapPin, RotateCcw, Trash2, X } from '@lucide/svelte';
	import type { Comment, CommentPin, MaterialDocument } from '../api/client';
	import { account } from '../state/account.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { differences } from '../state/differences';
	import { placeOf } from '../state/history';
	import { failed } from '../state/notices.svelte';
	import type { Reviews, Thread } from '../state/reviews.svelte';

	/** What people say of the material, each of what it is of. */
	let { reviews, place, point, version, document, save, go, close }: {
		reviews: Reviews;
		/** What is selected in the document, if anything is. */
		place: CommentPin | null;
		/** The point that was probed, if one was. */
		point: CommentPin | null;
		version: number;
		document: MaterialDocument;
		/** Has the material stored. */
		save: () => Promise<unknown>;
		/** Goes to what a comment is of. */
		go: (pin: CommentPin) => void;
		close: () => void;
	} = $props();

	let text = $state('');
	// Whoever has just probed a point wants to speak of it.
	let of = $derived<'whole' | 'place' | 'point'>(point !== null ? 'point' : 'whole');
	let answering = $state<number | null>(null);
	let answer = $state('');
	let busy = $state(false);
	/** What has changed since the last approval, in words. */
	const since = $derived(reviews.approved === null ? [] : differences(reviews.approved.document, $state.snapshot(document) as MaterialDocument));
	const label = (step: string, control: string): string => (control === '' ? (catalogue.step(step)?.label ?? step) : (catalogue.control(step, control)?.label ?? control));
	const MOST = 6;
	const may = $derived(account.may('comment'));
	const chosen = $derived(of === 'place' ? place : of === 'point' ? point : null);
	const when = (iso: string): string => new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));
	const called = (pin: CommentPin): string => pin.label ?? (pin.object === undefined ? 'A point' : `A point of ${pin.object}`);

	async function attempt(what: () => Promise<void>, then: () => void = () => {}): Promise<void> {
		busy = true;
		try {
			await what();
			then();
		} catch (error) {
			failed('It was not stored', error, true);
		} finally {
			busy = false;
		}
	}
</script>

{#snippet words(one: Comment, top: boolean)}
	<header><strong>{one.who === '' ? 'Whoever was here' : one.who}</strong> <small title={one.at}>{when(one.at)}</small>
		{#if top && one.version !== version}<small title="The material has changed since">version {one.version}</small>{/if}
		{#if one.yours || account.may('own')}<button class="tool mini" aria-label="Take it back" title="Take it back" disabled={busy} onclick={() => void attempt(() => reviews.take(one))}><Trash2 size={12} /></button>{/if}
	</header>
	<p>{one.text}</p>
{/snippet}

{#snippet thread(one: Thread)}
	<li aria-label="Comment by {one.who}">
		{@render words(one, true)}
		{#if one.pin}{@const pin = one.pin}<button class="pin" title="Goes there" onclick={() => go(pin)}><MapPin size={12} /> {called(pin)}</button>{/if}
		{#each one.replies as reply (reply.id)}<div class="reply">{@render words(reply, false)}</div>{/each}
		{#if may}
			<div class="acts">
				{#if answering === one.id}
					<form onsubmit={(e) => { e.preventDefault(); void attempt(() => reviews.say(answer, null, one.id), () => { answer = ''; answering = null; }); }}>
						<textarea class="field" aria-label="Answer" rows="2" maxlength="4000" required bind:value={answer}></textarea>
						<button class="tool plain" disabled={busy || answer.trim() === ''}>Answer</button>
					</form>
				{:else}
					<button class="tool" onclick={() => { answering = one.id; answer = ''; }}>Answer</button>
				{/if}
				{#if one.resolved}<button class="tool" disabled={busy} onclick={() => void attempt(() => reviews.resolve(one, false))}><RotateCcw size={12} /> Open again</button>
				{:else}<button class="tool" disabled={busy} onclick={() => void attempt(() => reviews.resolve(one, true))}><Check size={12} /> Resolve</button>{/if}
			</div>
		{/if}
		{#if one.resolved}<small>Resolved{one.resolvedBy === '' ? '' : ` by ${one.resolvedBy}`}</small>{/if}
	</li>
{/snippet}

<section aria-label="Comments">
	<header class="top"><h2 class="heading">Comments</h2><button class="tool mini" aria-label="Close the comments" onclick={close}><X size={14} /></button></header>
	<div class="approval" role="group" aria-label="Approval">
		{#if reviews.approved === null}
			<p>No version is approved yet.</p>
		{:else if since.length === 0}
			<p class="good"><BadgeCheck size={14} /> As it is, approved by {reviews.approved.approvedBy}</p>
		{:else}
			<p>Version {reviews.approved.version} was approved by {reviews.approved.approvedBy}. Changed since:</p>
			<ul class="since">{#each since.slice(0, MOST) as row (row.path)}<li>{placeOf(document, row.path, label)}</li>{/each}{#if since.length > MOST}<li>and {since.length - MOST} more</li>{/if}</ul>
		{/if}
		{#if may && !(account.me?.person?.guest ?? false)}
			{#if reviews.approved !== null && since.length === 0}<button class="tool" disabled={busy} onclick={() => void attempt(() => reviews.approve(reviews.approved?.version ?? 0, false))}>Take it back</button>
			{:else}<button class="tool plain" disabled={busy} onclick={() => void attempt(async () => { await save(); await reviews.approve(version, true); })}><BadgeCheck size={14} /> Approve it as it is</button>{/if}
		{/if}
	</div>
	{#if may}
		<form onsubmit={(e) => { e.preventDefault(); void attempt(() => reviews.say(text, chosen), () => (text = '')); }}>
			<textarea class="field" aria-label="Comment" rows="3" maxlength="4000" required placeholder="What is there to say? @Name tells somebody." bind:value={text}></textarea>
			<div class="of">
				<select class="field" aria-label="Of what" bind:value={of}>
					<option value="whole">Of the material</option>
					{#if place !== null}<option value="place">{place.label}</option>{/if}
					<option value="point" disabled={point === null}>{point === null ? 'A point: probe one' : called(point)}</option>
				</select>
				<button class="tool main" disabled={busy || text.trim() === ''}>Say it</button>
			</div>
		</form>
	{/if}
	<ul>{#each reviews.threads.open as one (one.id)}{@render thread(one)}{:else}<li class="none">{may ? 'Nothing is open.' : 'Nothing was said.'}</li>{/each}</ul>
	{#if reviews.threads.resolved.length > 0}
		<details><summary>Resolved ({reviews.threads.resolved.length})</summary><ul>{#each reviews.threads.resolved as one (one.id)}{@render thread(one)}{/each}</ul></details>
	{/if}
</section>

<style>
	section {
		padding: 8px 12px 16px;
	}
	header {
		display: flex;
		align-items: baseline;
		gap: 8px;
	}
	.top {
		align-items: center;
		justify-content: space-between;
	}
	header .mini {
		margin-left: auto;
	}
	.mini {
		width: 24px;
		height: 24px;
		padding: 0;
	}
	form {
		display: grid;
		gap: 8px;
		width: 100%;
	}
	textarea {
		width: 100%;
		padding: 6px 8px;
		height: auto;
		resize: vertical;
	}
	.of {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 8px;
	}
	.of select {
		min-width: 0;
	}
	li {
		display: grid;
		gap: 4px;
		padding: 12px 0;
		border-bottom: 1px solid var(--line);
	}
	li p {
		white-space: pre-wrap;
		overflow-wrap: anywhere;
	}
	small,
	.none,
	summary {
		color: var(--dim);
	}
	.approval {
		display: grid;
		gap: 6px;
		justify-items: start;
		padding: 4px 0 12px;
		font-size: 12px;
	}
	.good {
		display: flex;
		align-items: center;
		gap: 6px;
		color: var(--accent);
	}
	.since li {
		display: list-item;
		padding: 0;
		margin-left: 16px;
		border: 0;
		list-style: disc;
		color: var(--dim);
	}
	.reply {
		margin-left: 8px;
		padding-left: 10px;
		border-left: 2px solid var(--line);
	}
	.pin {
		display: inline-flex;
		align-items: center;
		gap: 4px;
		justify-self: start;
		padding: 2px 8px;
		border: 1px solid var(--line);
		border-radius: 12px;
		color: var(--accent);
		font-size: 12px;
		cursor: pointer;
	}
	.acts {
		display: flex;
		flex-wrap: wrap;
		gap: 4px;
	}
	.acts .tool {
		padding: 0 8px 0 0;
		color: var(--dim);
	}
	summary {
		padding-top: 12px;
		cursor: pointer;
	}
</style>
