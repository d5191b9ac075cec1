<script lang="ts">
	import { Copy, PackageCheck, Pencil, Trash2 } from '@lucide/svelte';
	import type { DeliveryProfile, Variant } from '../api/client';
	import { account } from '../state/account.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { commands } from '../state/commands.svelte';
	import { wanted } from '../state/delivered';
	import type { Deliveries } from '../state/deliveries.svelte';
	import { failed } from '../state/notices.svelte';
	import DeliverSeveral from './DeliverSeveral.svelte';
	import ProfileSheet from './ProfileSheet.svelte';

	/** Under which profile the material is delivered, and as which of its variants. */
	let { deliveries, name, variants, shown, save }: {
		deliveries: Deliveries;
		/** Of the material. */
		name: string;
		variants: Variant[];
		shown: string;
		save: () => Promise<unknown>;
	} = $props();

	let which = $state<'shown' | 'all'>('shown');
	let busy = $state(false);
	let several = $state(false);
	let changing = $state.raw<DeliveryProfile | null>(null);
	const profile = $derived(deliveries.profile);
	const ready = $derived(deliveries.profiles.filter((one) => !one.own));
	const own = $derived(deliveries.profiles.filter((one) => one.own));
	const called = $derived(variants.find((one) => one.id === shown)?.name ?? 'As written');
	const label = (list: readonly { value: string; label: string }[] | undefined) => (value: string): string => list?.find((one) => one.value === value)?.label ?? value;
	const lines = $derived(profile === null ? [] : wanted(profile.profile, { language: label(catalogue.value?.languages), format: label(catalogue.value?.delivery.formats) }));

	async function deliver(materials: number[], of: string[] | null): Promise<void> {
		busy = true;
		try {
			await save();
			await deliveries.ask(materials, of);
		} catch (error) {
			failed('It was not delivered: the material could not be stored', error);
		} finally {
			busy = false;
		}
	}
	const one = (): void => void deliver([deliveries.material], which === 'all' && variants.length > 0 ? null : [shown]);
	const able = $derived(!busy && profile !== null && account.may('deliver'));
	$effect(() => commands.offer('deliver', () => deliveries.profiles.map(({ profile: { name, label } }) => ({ group: 'Deliver', label, can: able, run: () => { deliveries.choose(name); one(); } }))));
	/** One of the project's own, like the one that is chosen. */
	function copy(): void {
		if (profile === null) return;
		let n = 1;
		while (deliveries.profiles.some((one) => one.profile.name === `own-${n}`)) n += 1;
		changing = { ...profile.profile, name: `own-${n}`, label: `${profile.profile.label}, our own`.slice(0, 120), help: '' };
	}
</script>

<h2 class="heading">Deliver</h2>
<div class="choice">
	<select class="field" aria-label="Profile" title={profile?.profile.help ?? ''} value={profile?.profile.name ?? ''} onchange={(e) => deliveries.choose(e.currentTarget.value)}>
		{#each ready as { profile: one } (one.name)}<option value={one.name}>{one.label}</option>{/each}
		{#if own.length > 0}<optgroup label="This project’s own">{#each own as { profile: one } (one.name)}<option value={one.name}>{one.label}</option>{/each}</optgroup>{/if}
	</select>
	<button class="tool mini" aria-label="Copy the profile" title="A profile of this project’s own, like this one" disabled={profile === null} onclick={copy}><Copy size={14} /></button>
	{#if profile?.own}
		<button class="tool mini" aria-label="Change the profile" title="Change it" onclick={() => (changing = profile.profile)}><Pencil size={14} /></button>
		<button class="tool mini" aria-label="Delete the profile" title="Delete it; what was delivered stays" onclick={() => void deliveries.drop(profile.profile.name)}><Trash2 size={14} /></button>
	{/if}
</div>
<ul class="brings" aria-label="What the profile brings">{#each lines as line (line)}<li>{line}</li>{/each}</ul>
{#if variants.length > 0}
	<div class="which" role="radiogroup" aria-label="Variants that are delivered">
		<label><input type="radio" value="shown" bind:group={which} /> {called}</label>
		<label><input type="radio" value="all" bind:group={which} /> All variants <span class="figures">{variants.length + 1}</span></label>
	</div>
{/if}
<button class="tool main" disabled={!able} onclick={one}><PackageCheck size={14} /> Deliver</button>
<button class="tool plain" disabled={!able} onclick={() => (several = true)}>Several materials …</button>

{#if several}
	<DeliverSeveral slug={deliveries.slug} profile={profile?.profile.label ?? ''} deliver={(ids, all) => deliver(ids, all ? null : [''])} close={() => (several = false)} />
{/if}
{#if changing !== null}
	<ProfileSheet profile={changing} material={name} keep={(next) => deliveries.keep(next)} close={() => (changing = null)} />
{/if}

<style>
	.choice {
		display: flex;
		flex-wrap: wrap;
		gap: 2px;
		align-items: center;
	}
	select {
		flex: 1 1 110px;
		min-width: 0;
	}
	.mini {
		width: 28px;
		padding: 0;
	}
	.brings {
		display: grid;
		gap: 4px;
		padding: 0 0 0 12px;
		list-style: disc;
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
	}
	.which {
		display: grid;
	}
	.which label {
		display: flex;
		align-items: center;
		gap: 6px;
		min-height: 24px;
	}
</style>
