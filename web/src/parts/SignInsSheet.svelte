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
	<p>Who signed in or could not, and what was done to accounts and tokens. What was done in a project stands under its people.</p>
	{#key times}<Done of={null} />{/key}
	<h3 class="heading">Sign somebody out everywhere</h3>
	<form onsubmit={(e) => { e.preventDefault(); void signOut(); }}>
		<input class="field" type="email" aria-label="Whom to sign out: their e-mail address" placeholder="Their e-mail address" maxlength="190" required bind:value={email} />
		<button class="tool plain">Sign out</button>
		<p>Out of every browser; their tokens and links are taken away as well. What they have made stays, and they may sign in again.</p>
	</form>
	{#snippet actions()}<button class="tool main" onclick={close}>Close</button>{/snippet}
</Sheet>

<style>
	p {
		color: var(--dim);
	}
	h3 {
		padding-top: 16px;
	}
	form {
		display: grid;
		grid-template-columns: 320px auto 1fr;
		gap: 8px;
		align-items: center;
	}
	form p {
		font-size: 12px;
	}
</style>
