<script lang="ts">
	import { Plus } from '@lucide/svelte';
	import type { Control, Ingredient } from '../api/client';
	import { starting } from '../recipes/edits';
	import type { Spread } from '../recipes/painter';
	import { catalogue, meaningful } from '../state/catalogue.svelte';
	import type { RecipeSession } from '../state/recipe.svelte';
	import ControlField from './ControlField.svelte';
	import Laid from './Laid.svelte';
	import RangeField from './RangeField.svelte';

	let { session, index, spread }: { session: RecipeSession; index: number; spread: Spread | null } = $props();

	const recipe = $derived(catalogue.value?.recipe);
	const ingredient = $derived(session.document.ingredients[index]!);
	const source = $derived(recipe?.sources.find((one) => one.name === ingredient.source));
	/** Those that this one may be made of. */
	const before = $derived(session.document.ingredients.slice(0, index));
	const path = $derived(`/ingredients/${index}`);
	const sources = $derived((recipe?.sources ?? []).filter((one) => !one.blend || index > 0));

	const shown = (all: Control[]): Control[] => meaningful(all, ingredient.values);

	/** Another source keeps what it has in common with the one before. */
	function become(name: string): void {
		const next = recipe?.sources.find((one) => one.name === name);
		if (next === undefined || recipe === undefined) return;
		session.edit((document) => {
			const one = document.ingredients[index]!;
			const known = [...next.own, ...next.bend, ...next.range, ...next.levels].map((control) => control.name);
			one.values = Object.fromEntries(Object.entries(one.values).filter(([key]) => known.includes(key) && !['black', 'white'].includes(key))) as Ingredient['values'];
			one.source = name;
			if (next.blend) one.terms = [{ ...starting(recipe.term), of: document.ingredients[index - 1]!.id }];
			else delete one.terms;
		});
	}
	function addTerm(): void {
		if (recipe === undefined) return;
		session.edit((document) => {
			const terms = document.ingredients[index]!.terms ?? [];
			const used = terms.map((term) => term.of);
			const next = before.find((one) => !used.includes(one.id)) ?? before[0];
			if (next !== undefined) terms.push({ ...starting(recipe.term), of: next.id });
		});
	}
</script>

{#if recipe !== undefined && source !== undefined}
	<input class="field name" aria-label="Name of the ingredient" maxlength="120" value={ingredient.name}
		onchange={(e) => { if (e.currentTarget.value.trim() === '') e.currentTarget.value = ingredient.name; else session.set(`${path}/name`, e.currentTarget.value.trim()); }} />
	<label class="line">Made of
		<select class="field" value={ingredient.source} onchange={(e) => become(e.currentTarget.value)}>
			{#each sources as one (one.name)}<option value={one.name}>{one.label}</option>{/each}
		</select>
	</label>
	<p class="help">{source.help}</p>
	{#each shown(source.own) as control (control.name)}<ControlField {session} {control} path="{path}/values/{control.name}" brief />{/each}

	{#if ingredient.terms !== undefined}
		{#each ingredient.terms as term, i (i)}
			<Laid legend={i === 0 ? 'At the bottom' : `Over it, ${i}`} away="Take {before.find((one) => one.id === term.of)?.name ?? term.of} out of the blend"
				remove={ingredient.terms.length > 1 ? () => session.edit((d) => void d.ingredients[index]!.terms!.splice(i, 1)) : null}>
				{#each recipe.term as control (control.name)}
					{#if i > 0 || control.name === 'of'}<ControlField {session} {control} ingredients={before} path="{path}/terms/{i}/{control.name}" brief />{/if}
				{/each}
			</Laid>
		{/each}
		<button class="tool plain" disabled={ingredient.terms.length >= recipe.limits.terms} onclick={addTerm}><Plus size={14} /> Lay another over it</button>
	{/if}

	<h3 class="heading">Range</h3>
	<RangeField {session} path="{path}/values" controls={source.range} {spread} />
	<h3 class="heading">Levels</h3>
	{#each source.levels as control (control.name)}<ControlField {session} {control} path="{path}/values/{control.name}" brief />{/each}
	<h3 class="heading">Warp</h3>
	{#each shown(source.bend) as control (control.name)}<ControlField {session} {control} ingredients={before} path="{path}/values/{control.name}" brief />{/each}
{/if}

<style>
	.name {
		font-weight: 600;
		font-size: 15px;
		width: 100%;
	}
	.line {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 8px;
	}
	.line select {
		max-width: 190px;
	}
	h3 {
		margin-top: 8px;
	}
</style>
