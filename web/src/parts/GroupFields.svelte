<script lang="ts">
	import { Ungroup } from '@lucide/svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { ungroup } from '../state/layers.svelte';
	import type { Session } from '../state/session.svelte';
	import ControlField from './ControlField.svelte';

	/** A group of layers: its name and how much of it is seen. */
	let { session, id, gone }: { session: Session; id: string; gone: () => void } = $props();

	const at = $derived((session.document.groups ?? []).findIndex((one) => one.id === id));
	const group = $derived((session.document.groups ?? [])[at]);
	const members = $derived(session.document.layers.filter((layer) => layer.group === id));
	const control = $derived(catalogue.value?.layer.group);
</script>

{#if group !== undefined}
	<h2 class="heading">Group</h2>
	<label>Name
		<input class="field" maxlength="120" value={group.name} onchange={(e) => { if (e.currentTarget.value.trim() !== '') session.set(`/groups/${at}/name`, e.currentTarget.value.trim()); else e.currentTarget.value = group.name; }} />
	</label>
	{#if control !== undefined}<ControlField {session} {control} path="/groups/{at}/opacity" />{/if}
	<p class="help">{members.map((layer) => layer.name).join(', ')}. What they make together is mixed with what lies below.</p>
	<button class="tool plain" onclick={() => { ungroup(session, id); gone(); }}><Ungroup size={14} /> Ungroup</button>
{/if}

<style>
	label {
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 8px;
	}
	label .field {
		width: 164px;
	}
	button {
		justify-self: start;
	}
</style>
