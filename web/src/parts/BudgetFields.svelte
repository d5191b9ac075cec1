<script lang="ts">
	import { Plus, Trash2 } from '@lucide/svelte';
	import { api, type Budget } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { failed } from '../state/notices.svelte';
	import NumberField from './NumberField.svelte';

	/** Which budget has to be kept; those of the project's own are made and changed here. */
	let { slug, budgets, chosen, choose, changed }: {
		slug: string;
		/** Those of the project's own. */
		budgets: Budget[];
		/** "" for none. */
		chosen: string;
		choose: (name: string) => void;
		/** There are others, or their limits are. */
		changed: () => Promise<void>;
	} = $props();

	const ready = $derived(catalogue.value?.budgets ?? []);
	const all = $derived([...ready, ...budgets]);
	/** As it was last changed here, whether it is stored yet or not. */
	let changing = $state.raw<Budget | null>(null);
	const budget = $derived(changing?.name === chosen ? changing : (all.find((one) => one.name === chosen) ?? null));
	let queue: Promise<void> = Promise.resolve();
	const own = $derived(budget !== null && !ready.some((one) => one.name === budget.name));
	const limits = $derived(catalogue.value?.budget ?? []);
	type Limit = 'mapReads' | 'maps' | 'mebibytes' | 'operations';
	const still = { hold: () => {}, release: () => {} };

	/** One after the other, so that the last change is the last that is stored. */
	function put(next: Budget): Promise<void> {
		if (next.name === chosen) changing = next;
		queue = queue.then(async () => {
			try {
				await api.putBudget(slug, next);
				await changed();
				choose(next.name);
			} catch (error) {
				failed('The budget was not kept', error);
			} finally {
				if (changing === next) changing = null;
			}
		});
		return queue;
	}
	/** Milliseconds of rest until a limit that is dragged is stored. */
	const CALM = 400;
	let resting = 0;
	/** Another limit: seen at once, and stored when it rests. */
	function limit(next: Budget): void {
		changing = next;
		clearTimeout(resting);
		resting = window.setTimeout(() => void put(next), CALM);
	}
	/** Another like the one that is chosen, or like the first. */
	async function add(): Promise<void> {
		const like = budget ?? ready[0];
		if (like === undefined) return;
		let n = 1;
		while (budgets.some((one) => one.name === `own-${n}`)) n += 1;
		await put({ ...like, help: '', name: `own-${n}`, label: `${like.label}, our own`.slice(0, 120) });
	}
	async function remove(): Promise<void> {
		if (budget === null) return;
		try {
			await api.deleteBudget(slug, budget.name);
			choose('');
			await changed();
		} catch (error) {
			failed('The budget was not deleted', error);
		}
	}
</script>

<div class="budget">
	<label>Budget
		<select class="field" value={chosen} title={budget?.help ?? ''} onchange={(e) => choose(e.currentTarget.value)}>
			<option value="">None</option>
			{#each all as one (one.name)}<option value={one.name} title={one.help}>{one.label}</option>{/each}
		</select>
	</label>
	<button class="tool mini" aria-label="New budget" title="A budget of the project's own, like the one that is chosen" onclick={() => void add()}><Plus size={14} /></button>
	{#if own}<button class="tool mini" aria-label="Delete the budget" title="Delete it" onclick={() => void remove()}><Trash2 size={14} /></button>{/if}
</div>
{#if own && budget !== null}
	<div class="limits" role="group" aria-label="Limits of the budget">
		<input class="field" aria-label="Name of the budget" maxlength="120" value={budget.label} onchange={(e) => { const label = e.currentTarget.value.trim(); if (label !== '') void put({ ...budget, label }); else e.currentTarget.value = budget.label; }} />
		{#each limits as control (control.name)}
			<NumberField {control} value={budget[control.name as Limit]} set={(value) => limit({ ...budget, [control.name]: value })} {...still} />
		{/each}
	</div>
{/if}

<style>
	.budget,
	label {
		display: flex;
		align-items: center;
		gap: 8px;
	}
	.budget {
		padding-bottom: 8px;
	}
	label {
		flex: 1;
	}
	select {
		flex: 1;
		min-width: 0;
	}
	.limits {
		display: grid;
		gap: 4px;
		padding-bottom: 12px;
	}
</style>
