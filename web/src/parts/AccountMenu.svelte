<script lang="ts">
	import { LockOpen, UserRound } from '@lucide/svelte';
	import { account } from '../state/account.svelte';
	import { failed } from '../state/notices.svelte';
	import Acts from './Acts.svelte';
	import Sheet from './Sheet.svelte';

	/** Whoever is signed in, and the people of the project that is open. */
	let { project }: { project: string | null } = $props();
	let sheet = $state<'account' | 'people' | 'sign-ins' | 'outbox' | null>(null);
	const person = $derived(account.me?.person ?? null);
	const acts = $derived([
		...(person?.guest ? [] : [{ value: 'account', label: 'Your account …', do: () => (sheet = 'account') }]),
		...(project === null ? [] : [{ value: 'people', label: 'People of the project …', do: () => (sheet = 'people') }]),
		...(person?.administrator ? [{ value: 'sign-ins', label: 'Sign-ins and accounts …', do: () => (sheet = 'sign-ins') }, { value: 'outbox', label: 'Outbox …', do: () => (sheet = 'outbox') }] : []),
		{ value: 'out', label: 'Sign out', do: () => void leave() }
	]);
	const close = () => (sheet = null);
	/** What is not stored yet, before one goes. */
	let unstored = $state.raw<string[]>([]);
	/** What was changed a moment ago has this long to be stored by itself, in milliseconds. */
	const MOMENT = 3000;

	async function leave(): Promise<void> {
		const { drafts } = await import('../state/drafts');
		const until = Date.now() + MOMENT;
		let left = await drafts.names();
		for (; left.length > 0 && Date.now() < until; left = await drafts.names()) await new Promise((done) => setTimeout(done, 200));
		if (left.length === 0) await out();
		else unstored = left;
	}
	const out = () => account.leave().catch((error: unknown) => failed('You are still signed in', error));
	const counted = (kind: string): string => {
		const n = unstored.filter((one) => one.startsWith(kind)).length;
		return n === 0 ? '' : n === 1 ? `a ${kind}` : `${n} ${kind}s`;
	};
</script>

{#if account.me?.open}
	<span class="open" title="Whoever reaches this address may do everything. It is for one person’s own machine; bin/rilta start without --open asks who comes."><LockOpen size={14} aria-hidden="true" /> Open</span>
{:else if person !== null}
	<Acts of={person.name} {acts} label="You: {person.name}" title="{person.name}, {person.email}" look=""><UserRound size={16} /></Acts>
{/if}
{#if unstored.length > 0}
	<Sheet title="Not everything is stored" close={() => (unstored = [])}>
		<p>Changes of {new Intl.ListFormat('en').format(['material', 'recipe', 'stage'].map(counted).filter((one) => one !== ''))} are in this browser alone: the server was away, or somebody else has changed the same. Open it again to store them. Whoever signs out throws them away.</p>
		{#snippet actions()}
			<button class="tool plain" onclick={() => void out()}>Sign out and throw them away</button>
			<button class="tool main" onclick={() => (unstored = [])}>Stay</button>
		{/snippet}
	</Sheet>
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
