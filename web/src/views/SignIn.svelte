<script lang="ts">
	import { api, ApiError } from '../api/client';
	import { account } from '../state/account.svelte';
	import CodesFields from '../parts/CodesFields.svelte';
	import { router } from '../state/route.svelte';

	/** Signing in: by a password, by a link, or with one click on a machine on which nobody was before. */
	let { secret = '', look = false }: {
		secret?: string;
		/** Whether the link lets guests look. */
		look?: boolean;
	} = $props();
	let email = $state('');
	let password = $state('');
	let code = $state('');
	/** Whether a one-time code is asked for as well. */
	let second = $state(false);
	/** Of a link that was followed, until it has signed somebody in. */
	let followed = $state('');
	let wrong = $state('');
	let told = $state('');
	let busy = $state(false);
	// svelte-ignore state_referenced_locally
	let asks = $state<'password' | 'link' | 'choice' | 'code' | 'nothing'>(secret === '' ? 'password' : 'nothing');
	/** Whether they are in, and one-time codes are asked for here that they do not show yet. */
	const owes = $derived(account.owesCodes && asks === 'password');
	const fresh = $derived(account.me?.fresh ?? false);

	async function attempt(what: () => Promise<unknown>, then: () => Promise<void> | void = enter): Promise<void> {
		busy = true;
		wrong = told = '';
		try {
			await what();
			await then();
		} catch (error) {
			if (error instanceof ApiError && error.problems.some((one) => one.path === '/code')) {
				second = true;
				if (followed !== '') asks = 'code';
			}
			if (asks === 'nothing') asks = 'password';
			wrong = error instanceof ApiError && error.problems.length > 0 && asks === 'choice' ? `${error.message} ${error.problems.map((one) => one.message).join('; ')}.` : error instanceof Error ? error.message : String(error);
		} finally {
			busy = false;
		}
	}
	async function enter(): Promise<void> {
		await account.entered();
		if (router.route.view === 'sign-in') router.go('/');
	}
	function follow(): void {
		let has = true;
		void attempt(async () => (has = (await api.signInByLink(followed, code)).password), async () => {
			followed = '';
			if (has) return enter();
			// Whoever has no password yet chooses one, or goes on without until the next time.
			asks = 'choice';
			password = '';
		});
	}
	// svelte-ignore state_referenced_locally
	if (secret !== '') {
		const shown = secret;
		// It is not to stay in the history, though it counts once.
		history.replaceState(null, '', look ? '/look' : '/sign-in');
		if (look) {
			let leads = '/';
			void attempt(async () => (leads = (await api.lookByLink(shown)).path ?? '/'), async () => {
				await account.load();
				router.go(leads);
			});
		} else {
			followed = shown;
			follow();
		}
	}
</script>

{#snippet codeField()}<label>Code of your app, or one on paper <input class="field figures" autocomplete="one-time-code" inputmode="numeric" maxlength="40" required bind:value={code} /></label>{/snippet}

<svelte:head><title>Sign in · Rilta</title></svelte:head>
<main>
	<section aria-label="Sign in">
		<h1><img src="/icon.svg" alt="" width="28" height="28" /> Rilta</h1>
		{#if asks === 'choice'}
			<p>You are in. Choose a password for the next time, of at least 12 characters: several words will do.</p>
			<form onsubmit={(e) => { e.preventDefault(); void attempt(() => api.changeAccount({ password })); }}>
				<label>Password <input class="field" type="password" autocomplete="new-password" minlength="12" maxlength="128" required bind:value={password} /></label>
				<button class="tool main" disabled={busy}>Choose it, and go on</button>
			</form>
			<button class="tool plain" disabled={busy} onclick={() => void enter()}>Later</button>
		{:else if owes}
			<p>You are in. One-time codes are asked for here beside passwords: turn them on to go on.</p>
			<CodesFields attempt={(what) => attempt(what, () => {})} then={() => void enter()} />
			<button class="tool" onclick={() => void attempt(() => account.leave(), () => {})}>Sign out</button>
		{:else if asks === 'nothing'}
			<p aria-busy="true">Following the link …</p>
		{:else if asks === 'code'}
			<form onsubmit={(e) => { e.preventDefault(); follow(); }}>
				{@render codeField()}
				<button class="tool main" disabled={busy}>Go on</button>
			</form>
		{:else if asks === 'link'}
			<p>A link that signs you in once is sent to you. Choose another password then.</p>
			<form onsubmit={(e) => { e.preventDefault(); void attempt(() => api.forgotten(email), () => { told = 'If somebody has this address here, the link is on its way.'; }); }}>
				<label>E-mail address <input class="field" type="email" autocomplete="username" required bind:value={email} /></label>
				<button class="tool main" disabled={busy}>Send me a link</button>
			</form>
			<button class="tool plain" onclick={() => (asks = 'password')}>Back</button>
		{:else}
			{#if fresh}
				<p>Nobody has worked on this machine yet: you are its owner.</p>
				<button class="tool main" disabled={busy} onclick={() => void attempt(() => api.begin())}>Begin</button>
				<p class="or">or, with an account</p>
			{/if}
			<form onsubmit={(e) => { e.preventDefault(); void attempt(() => api.signIn(email, password, code)); }}>
				<label>E-mail address <input class="field" type="email" autocomplete="username" required bind:value={email} /></label>
				<label>Password <input class="field" type="password" autocomplete="current-password" required bind:value={password} /></label>
				{#if second}{@render codeField()}{/if}
				<button class="tool {fresh ? 'plain' : 'main'}" disabled={busy}>Sign in</button>
			</form>
			<button class="tool" onclick={() => (asks = 'link')}>Forgotten the password?</button>
		{/if}
		{#if wrong !== ''}<p class="wrong" role="alert">{wrong}</p>{/if}
		{#if told !== ''}<p role="status">{told}</p>{/if}
	</section>
</main>

<style>
	main {
		display: grid;
		place-content: center;
		height: 100%;
		padding: 24px;
		background: var(--app);
	}
	section {
		display: grid;
		gap: 12px;
		width: 340px;
		padding: 28px;
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 6px;
		box-shadow: var(--shadow);
	}
	h1 {
		display: flex;
		align-items: center;
		gap: 10px;
		font-size: 20px;
		font-weight: 650;
	}
	form,
	label {
		display: grid;
		gap: 4px;
	}
	form {
		gap: 12px;
	}
	p {
		color: var(--dim);
	}
	.or {
		padding-top: 4px;
		border-top: 1px solid var(--line);
		font-size: 12px;
	}
	.wrong {
		color: var(--brick);
	}
</style>
