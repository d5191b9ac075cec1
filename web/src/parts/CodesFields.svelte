<script lang="ts">
	import { api } from '../api/client';
	import { account } from '../state/account.svelte';

	/** One-time codes beside a password: turned on with an app, and off. */
	let { attempt, then }: {
		/** tries something, and says what was wrong with it */
		attempt: (what: () => Promise<unknown>) => Promise<unknown>;
		/** where turning them on is a step on the way to something else */
		then?: () => void;
	} = $props();
	const person = $derived(account.me?.person ?? null);
	let offered = $state.raw<{ secret: string; address: string } | null>(null);
	let recovery = $state.raw<string[]>([]);
	/** A one-time code. */
	let shown = $state('');
	/** The password again, for what an open browser should not be enough for. */
	let proof = $state('');
</script>

{#if recovery.length > 0}
	<p role="status">On. Write these down: each lets you in once, if your device is lost.</p>
	<p class="figures paper">{recovery.join('  ')}</p>
	{#if then}<button class="tool main" onclick={then}>I have written them down</button>{/if}
{:else if person?.codes}
	<form class="line" onsubmit={(e) => { e.preventDefault(); void attempt(async () => { await api.endCodes(shown); shown = ''; }); }}>
		<p>A code is asked for beside your password.</p>
		<input class="field figures" aria-label="A code, to turn them off" placeholder="A code" maxlength="40" required bind:value={shown} />
		<button class="tool plain">Turn them off</button>
	</form>
{:else if offered === null}
	<div class="line"><p>An app on your device shows six digits that are asked for beside your password.</p><button class="tool plain" onclick={() => void attempt(async () => { offered = await api.offerCodes(); })}>Turn them on</button></div>
{:else}
	<form class="begin" onsubmit={(e) => { e.preventDefault(); void attempt(async () => { ({ recovery } = await api.beginCodes(shown, proof)); shown = proof = ''; offered = null; }); }}>
		<p>Give your app this: <a href={offered.address}><code class="figures">{offered.secret}</code></a>, and show what it shows.</p>
		<input class="field figures" aria-label="The code that the app shows" placeholder="Six digits" inputmode="numeric" maxlength="10" required bind:value={shown} />
		{#if person?.password}<input class="field" type="password" aria-label="Your password, to turn them on" placeholder="Your password" autocomplete="current-password" bind:value={proof} />{/if}
		<button class="tool plain">Turn them on</button>
	</form>
{/if}

<style>
	/* What the app is given above, what it shows below. */
	.begin {
		display: grid;
		grid-template-columns: 110px 1fr auto;
		gap: 8px;
		align-items: center;
	}
	.begin p {
		grid-column: 1 / -1;
	}
	.begin button {
		grid-column: 3;
	}
	.line {
		display: grid;
		grid-template-columns: 1fr 110px auto;
		gap: 8px;
		align-items: center;
	}
	div.line {
		grid-template-columns: 1fr auto;
	}
	p {
		color: var(--dim);
		font-size: 12px;
	}
	.paper {
		user-select: all;
	}
	code {
		overflow-wrap: anywhere;
		user-select: all;
	}
</style>
