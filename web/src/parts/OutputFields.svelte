<script lang="ts">
	import { Plus, Trash2 } from '@lucide/svelte';
	import type { RecipeCoat } from '../api/client';
	import { starting } from '../recipes/edits';
	import type { RecipePainter } from '../recipes/painter';
	import { catalogue } from '../state/catalogue.svelte';
	import type { RecipeSession } from '../state/recipe.svelte';
	import ControlField from './ControlField.svelte';
	import GradientField from './GradientField.svelte';
	import Laid from './Laid.svelte';

	/** One map of a recipe: what it is made of, and how. */
	let { session, index, painter, count, gone }: { session: RecipeSession; index: number; painter: RecipePainter | null; count: number; gone: () => void } = $props();

	const recipe = $derived(catalogue.value?.recipe);
	const output = $derived(session.document.outputs[index]!);
	const kind = $derived(recipe?.outputs.find((one) => one.role === output.role));
	const label = $derived(catalogue.value?.roles.find((one) => one.value === output.role)?.label ?? output.role);
	const ingredients = $derived(session.document.ingredients);
	const path = $derived(`/outputs/${index}`);

	function addCoat(): void {
		if (recipe === undefined) return;
		session.edit((document) => {
			const stop = { at: 0, colour: [0.35, 0.34, 0.32] };
			document.outputs[index]!.coats!.push({ ...starting<RecipeCoat>(recipe.coat), of: ingredients[0]!.id, amount: 50, mask: ingredients[0]!.id, stops: [stop] });
		});
	}
</script>

{#if recipe !== undefined && kind !== undefined}
	<header>
		<h3>{label}</h3>
		<button class="tool" disabled={session.document.outputs.length < 2} onclick={() => { session.edit((d) => void d.outputs.splice(index, 1)); gone(); }} aria-label="Leave {label} out of the recipe" title="Leave this map out"><Trash2 size={14} /></button>
	</header>
	{#if output.coats !== undefined}
		{#each output.coats as coat, i (i)}
			<Laid legend={i === 0 ? 'Colours at the bottom' : `Colours over them, ${i}`} away="Take colours {i + 1} away ({coat.of})"
				remove={output.coats.length > 1 ? () => session.edit((d) => void d.outputs[index]!.coats!.splice(i, 1)) : null}>
				<GradientField {session} {painter} {count} path="{path}/coats/{i}" bar="bar {output.role} {i}" />
				{#each recipe.coat as control (control.name)}
					{#if i > 0 || !['how', 'amount', 'mask'].includes(control.name)}
						<ControlField {session} control={control.name === 'of' ? { ...control, label: 'Along' } : control} {ingredients} path="{path}/coats/{i}/{control.name}" brief />
					{/if}
				{/each}
			</Laid>
		{/each}
		<button class="tool plain" disabled={output.coats.length >= recipe.limits.coats} onclick={addCoat}><Plus size={14} /> Lay other colours over them</button>
		<label class="line">Alpha
			<select class="field" value={output.alpha ?? ''} onchange={(e) => session.set(`${path}/alpha`, e.currentTarget.value)}>
				<option value="">none</option>
				{#each ingredients as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
			</select>
		</label>
	{:else}
		<label class="line">Made of
			<select class="field" value={output.of} onchange={(e) => session.set(`${path}/of`, e.currentTarget.value)}>
				{#each ingredients as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
			</select>
		</label>
		{#if kind.relief}<p class="help">Follows from the heights of the ingredient; the relief of the tile says how high they are.</p>{/if}
		{#each kind.controls as control (control.name)}<ControlField {session} {control} path="{path}/values/{control.name}" />{/each}
	{/if}
{/if}

<style>
	header,
	.line {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 8px;
	}
	h3 {
		font-size: 15px;
		font-weight: 600;
	}
	.line select {
		max-width: 190px;
	}
</style>
