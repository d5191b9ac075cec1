<script lang="ts">
	import { failed } from '../state/notices.svelte';
	import Sheet from './Sheet.svelte';

	/** Asks for a name. */
	let { title, label = 'Name', value = '', like = '', act, close, take }: {
		title: string;
		label?: string;
		value?: string;
		/** A name that somebody might give. */
		like?: string;
		/** What the button does. */
		act: string;
		close: () => void;
		take: (name: string) => Promise<void>;
	} = $props();
	// svelte-ignore state_referenced_locally
	let name = $state(value);
	let busy = $state(false);

	async function submit(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		busy = true;
		try {
			await take(name.trim());
			close();
		} catch (error) {
			failed(`${act}: not possible`, error);
		}
		busy = false;
	}
</script>

<Sheet {title} {close}>
	<form id="name-sheet" onsubmit={submit}>
		<label>{label} <input class="field" maxlength="120" required pattern=".*\S.*" placeholder={like === '' ? '' : `like “${like}”`} bind:value={name} /></label>
	</form>
	{#snippet actions()}
		<button class="tool plain" onclick={close}>Cancel</button>
		<button class="tool main" form="name-sheet" disabled={busy}>{act}</button>
	{/snippet}
</Sheet>

<style>
	label {
		display: grid;
		gap: 4px;
	}
</style>
