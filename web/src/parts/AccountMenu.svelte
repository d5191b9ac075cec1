<script lang="ts">
	import { LockOpen, UserRound } from '@lucide/svelte';
	import { account } from '../state/account.svelte';
	import { failed } from '../state/notices.svelte';
	import Acts from './Acts.svelte';

	/** Whoever is signed in, and the people of the project that is open. */
	let { project }: { project: string | null } = $props();
	let sheet = $state<'account' | 'people' | 'sign-ins' | 'outbox' | null>(null);
	const person = $derived(account.me?.person ?? null);
	const acts = $derived([
		...(person?.guest ? [] : [{ value: 'account', label: 'Your account …', do: () => (sheet = 'account') }]),
		...(project === null ? [] : [{ value: 'people', label: 'People of the project …', do: () => (sheet = 'people') }]),
		...(person?.administrator ? [{ value: 'sign-ins', label: 'Sign-ins and accounts …', do: () => (sheet = 'sign-ins') }, { value: 'outbox', label: 'Outbox …', do: () => (sheet = 'outbox') }] : []),
		{ value: 'out', label: 'Sign out', do: () => void account.leave().catch((error: unknown) => failed('You are still signed in', error)) }
	]);
	const close = () => (sheet = null);
</script>

{#if account.me?.open}
	<span class="open" title="Whoever reaches this address may do everything. It is for one person’s own machine; bin/rilta start without --open asks who comes."><LockOpen size={14} aria-hidden="true" /> Open</span>
{:else if person !== null}
	<Acts of={person.name} {acts} label="You: {person.name}" title="{person.name}, {person.email}" plain><UserRound size={16} /></Acts>
{/if}
{#if sheet === 'account'}{#await import('./AccountSheet.svelte') then { default: AccountSheet }}<AccountSheet {close} />{/await}{/if}
{#if sheet === 'people' && project !== null}{#await import('./PeopleSheet.svelte') then { default: PeopleSheet }}<PeopleSheet {project} {close} />{/await}{/if}
{#if sheet === 'sign-ins'}{#await import('./SignInsSheet.svelte') then { default: SignInsSheet }}<SignInsSheet {close} />{/await}{/if}
{#if sheet === 'outbox'}{#await import('./OutboxSheet.svelte') then { default: OutboxSheet }}<OutboxSheet {close} />{/await}{/if}

<style>
	.open {
		display: inline-flex;
		align-items: center;
		gap: 4px;
		padding: 0 8px;
		color: var(--dim);
		font-size: 12px;
		cursor: help;
	}
</style>
