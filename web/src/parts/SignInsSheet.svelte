<script lang="ts">
	import { api } from '../api/client';
	import { done, failed } from '../state/notices.svelte';
	import Done from './Done.svelte';
	import Sheet from './Sheet.svelte';

	/** Who came in, and who tried to; and whoever is to be out: for whoever looks after the server. */
	let { close }: { close: () => void } = $props();
	let email = $state('');
	/** What was done is read anew after something was. */
	let times = $state(0);
	async function signOut(): Promise<void> {
		try {
			await api.signOutEverywhere(email);
			done(`${email} is signed out everywhere`);
			email = '';
			times++;
		} catch (error) {
			failed('Nobody was signed out', error);
		}
	}
</script>

<Sheet title="Sign-ins and accounts" {close} wide>
	<form onsubmit={(e) => { e.preventDefault(); void signOut(); }}>
		<label>Sign out everywhere <input class="field" type="email" aria-label="Whom to sign out: their e-mail address" placeholder="E-mail address" maxlength="190" required bind:value={email} /></label>
		<button class="tool plain">Sign out</button>
		<p>Out of every browser; tokens and links are taken away as well. What they have made stays, and they may sign in again.</p>
	</form>
	<p>Who signed in or could not, and what was done to accounts and tokens. What was done in a project stands under its people.</p>
	{#key times}<Done of={null} />{/key}
	{#snippet actions()}<button class="tool main" onclick={close}>Close</button>{/snippet}
</Sheet>

<style>
	p {
		color: var(--dim);
	}
	form {
		display: grid;
		grid-template-columns: auto auto 1fr;
		gap: 8px 12px;
		align-items: center;
		padding-bottom: 12px;
	}
	label {
		display: flex;
		align-items: center;
		gap: 12px;
	}
	input {
		width: 240px;
	}
	form p {
		font-size: 12px;
	}
</style>
