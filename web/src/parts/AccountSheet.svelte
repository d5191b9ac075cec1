<script lang="ts">
	import { onMount } from 'svelte';
	import { api, ApiError, type AccessToken, type SignedIn } from '../api/client';
	import { browserName } from '../state/browsername';
	import { account } from '../state/account.svelte';
	import { done, failed } from '../state/notices.svelte';
	import CodesFields from './CodesFields.svelte';
	import Sheet from './Sheet.svelte';

	/** Name and password, where one is signed in, and what lets programs in. */
	let { close }: { close: () => void } = $props();
	const person = $derived(account.me?.person ?? null);
	// svelte-ignore state_referenced_locally
	let name = $state(person?.name ?? '');
	// svelte-ignore state_referenced_locally
	let email = $state(person?.email ?? '');
	let before = $state('');
	let password = $state('');
	let wrong = $state('');
	let signIns = $state.raw<SignedIn[]>([]);
	let tokens = $state.raw<AccessToken[]>([]);
	let token = $state({ name: '', days: 90, scopes: ['read'] as string[] });
	/** What a new token shows, this once. */
	let secret = $state('');
	const SCOPES = [['read', 'Look'], ['write', 'Change'], ['bake', 'Bake'], ['deliver', 'Deliver']] as const;
	const when = (iso: string): string => new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));

	async function load(): Promise<void> {
		[signIns, tokens] = await Promise.all([api.signIns(), api.tokens()]);
	}
	onMount(() => void load().catch((error: unknown) => failed('Your account could not be read', error)));

	async function attempt(what: () => Promise<unknown>, then = ''): Promise<void> {
		wrong = '';
		try {
			await what();
			await Promise.all([account.load(), load()]);
			if (then !== '') done(then);
		} catch (error) {
			wrong = error instanceof ApiError && error.problems.length > 0 ? `${error.message} ${error.problems.map((one) => one.message).join('; ')}.` : error instanceof Error ? error.message : String(error);
		}
	}
	const store = () => attempt(async () => {
		await api.changeAccount({ ...(name !== person?.name && { name }), ...(email !== person?.email && { email }), ...(password !== '' && { password }), ...(before !== '' && { before }) });
		password = before = '';
	}, 'Your account is changed');
	const order = () => attempt(async () => {
		secret = (await api.makeToken(token.name, token.scopes, token.days)).secret ?? '';
		token.name = '';
	});
</script>

<Sheet title="Your account" {close}>
	<form id="account" onsubmit={(e) => { e.preventDefault(); void store(); }}>
		<label>Name <input class="field" maxlength="120" required bind:value={name} /></label>
		<label>E-mail address <input class="field" type="email" maxlength="190" autocomplete="username" required bind:value={email} /></label>
		{#if person?.password}<label>Password until now <input class="field" type="password" autocomplete="current-password" bind:value={before} /></label>{/if}
		<label>{person?.password ? 'Another password' : 'A password, for the next time'} <input class="field" type="password" autocomplete="new-password" placeholder="12 characters or more; several words will do" bind:value={password} /></label>
	</form>
	{#if wrong !== ''}<p class="wrong" role="alert">{wrong}</p>{/if}
	<h3 class="heading">One-time codes</h3>
	<CodesFields {attempt} />
	<h3 class="heading">Where you are signed in</h3>
	<ul>
		{#each signIns as one (one.id)}
			<li><span><strong>{browserName(one.browser)}</strong><small>{one.address}, seen {when(one.seen)}</small></span>
				{#if one.here}<small>Here</small>{:else}<button class="tool plain" onclick={() => void attempt(() => api.endSignIn(one.id))}>Sign out there</button>{/if}</li>
		{/each}
	</ul>
	<h3 class="heading">Tokens for programs</h3>
	<ul>
		{#each tokens as one (one.id)}
			<li><span><strong>{one.name}</strong><small>{one.scopes.join(', ')}; until {when(one.until)}{one.seen === null ? ', not used yet' : `, used ${when(one.seen)}`}</small></span>
				<button class="tool plain" aria-label="Take {one.name} away" onclick={() => void attempt(() => api.endToken(one.id))}>Take away</button></li>
		{/each}
	</ul>
	{#if secret !== ''}<p role="status">Copy it now, it is not shown again: <code class="figures">{secret}</code></p>{/if}
	<form class="token" onsubmit={(e) => { e.preventDefault(); void order(); }}>
		<input class="field" aria-label="Name of the token" maxlength="80" required placeholder="For what it is" bind:value={token.name} />
		<label>Days <input class="field figures" type="number" min="1" max="366" required bind:value={token.days} /></label>
		<span class="scopes">{#each SCOPES as [value, label] (value)}<label><input type="checkbox" {value} bind:group={token.scopes} /> {label}</label>{/each}</span>
		<button class="tool plain" disabled={token.scopes.length === 0}>Make a token</button>
	</form>
	{#snippet actions()}
		<button class="tool plain" onclick={close}>Close</button>
		<button class="tool main" form="account">Keep</button>
	{/snippet}
</Sheet>

<style>
	form,
	form > label {
		display: grid;
		gap: 4px;
	}
	form {
		gap: 8px;
	}
	h3 {
		padding-top: 16px;
	}
	li {
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 12px;
		min-height: 40px;
		border-bottom: 1px solid var(--line);
	}
	li small {
		display: block;
		color: var(--dim);
	}
	.token {
		grid-template-columns: 1fr 96px;
		align-items: end;
		padding-top: 12px;
	}
	.scopes {
		display: flex;
		gap: 12px;
	}
	.scopes label {
		display: flex;
		align-items: center;
		gap: 4px;
	}
	code {
		overflow-wrap: anywhere;
		user-select: all;
	}
	.wrong {
		color: var(--brick);
	}
</style>
