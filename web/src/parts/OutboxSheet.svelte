<script lang="ts">
	import { onMount } from 'svelte';
	import { api, type OutboxMail } from '../api/client';
	import { failed } from '../state/notices.svelte';
	import Sheet from './Sheet.svelte';

	/** Mails that this server has kept, since nobody told it of a mail server. */
	let { close }: { close: () => void } = $props();
	let mails = $state.raw<OutboxMail[] | null>(null);
	onMount(() => void api.outbox().then((found) => (mails = found), (error: unknown) => failed('The outbox could not be read', error)));
	const when = (iso: string): string => new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));
</script>

<Sheet title="Outbox" {close} wide>
	<p>This server has no mail server yet, so it keeps what it would send. Hand the links over yourself, or set RILTA_MAILER.</p>
	{#each mails ?? [] as one (one.id)}
		<article aria-label="Mail to {one.to}">
			<header><strong>{one.to}</strong> <span>{one.subject}</span> <small>{when(one.at)}</small></header>
			<pre>{one.text}</pre>
		</article>
	{:else}
		{#if mails !== null}<p>Nothing was sent yet.</p>{/if}
	{/each}
	{#snippet actions()}<button class="tool main" onclick={close}>Close</button>{/snippet}
</Sheet>

<style>
	p,
	small {
		color: var(--dim);
	}
	article {
		margin-top: 12px;
		padding: 12px;
		border: 1px solid var(--line);
		border-radius: 4px;
	}
	header {
		display: flex;
		gap: 12px;
	}
	small {
		margin-left: auto;
	}
	pre {
		padding-top: 8px;
		font-size: 12px;
		white-space: pre-wrap;
		overflow-wrap: anywhere;
		user-select: text;
	}
</style>
