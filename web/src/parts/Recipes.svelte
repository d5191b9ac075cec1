<script lang="ts">
	import { ChefHat, Flame, Pencil, Plus, Trash2 } from '@lucide/svelte';
	import { onDestroy } from 'svelte';
	import { api, type Project, type RecipeCard } from '../api/client';
	import { commands } from '../state/commands.svelte';
	import { followed } from '../state/baking';
	import { done, failed, offered } from '../state/notices.svelte';
	import { router } from '../state/route.svelte';
	import NameSheet from './NameSheet.svelte';
	import Sheet from './Sheet.svelte';
	import { insisting } from '../state/pictures';

	/** The project's recipes, and whether their maps are what they make now. */
	let { project, reload }: { project: Project; reload: () => Promise<void> } = $props();

	let leaving = $state<RecipeCard | null>(null);
	let naming = $state(false);
	let renaming = $state<RecipeCard | null>(null);
	let bin = $state(false);
	const shown = $derived(project.recipes.filter((one) => (one.deletedAt !== null) === bin));
	const binned = $derived(project.recipes.filter((one) => one.deletedAt !== null).length);
	/** How far the maps of recipes are that are being made, by recipe. */
	let cooking = $state<Record<number, string>>({});
	let over = false;
	onDestroy(() => (over = true));

	async function cook(recipe: RecipeCard): Promise<void> {
		try {
			const bake = await followed(await api.cookRecipe(recipe.id), (now) => (cooking = { ...cooking, [recipe.id]: `${now.regions.done} of ${now.regions.all}` }), () => !over);
			if (bake.state === 'failed') failed(`The maps of ${recipe.name} were not made`, new Error(bake.failure));
			else if (!over) {
				done('Made', bake.facts.set ?? recipe.name);
				await reload();
			}
		} catch (error) {
			failed(`The maps of ${recipe.name} were not made`, error);
		}
		cooking = Object.fromEntries(Object.entries(cooking).filter(([id]) => Number(id) !== recipe.id));
	}
	$effect(() => commands.offer('recipes', () => [
		{ group: 'Recipes', label: 'New recipe', run: () => (naming = true) },
		...shown.filter((one) => one.deletedAt === null).map((one) => ({ group: 'Open the recipe', label: one.name, run: () => router.go(`/${project.slug}/recipes/${one.id}`) }))
	]));
	async function back(recipe: RecipeCard): Promise<void> {
		await api.bringRecipeBack(recipe.id);
		await reload();
	}
	async function remove(recipe: RecipeCard): Promise<void> {
		leaving = null;
		try {
			await api.deleteRecipe(recipe.id);
			await reload();
			offered(`${recipe.name} is in the bin for 30 days`, 'Bring back', () => back(recipe));
		} catch (error) {
			failed(`${recipe.name} was not deleted`, error);
		}
	}
</script>

<section aria-label="Recipes">
	<header>
		<h2>Recipes</h2>
		<span class="dim">Maps made of noise, gradients and heights; they stay tied to their recipe.</span>
		<span class="gap"></span>
		{#if binned > 0 || bin}<button class="tool" aria-pressed={bin} title="Recipes that were deleted in the last 30 days" onclick={() => (bin = !bin)}><Trash2 size={14} /> Bin {binned}</button>{/if}
		<button class="tool plain" onclick={() => (naming = true)}><Plus size={14} /> New recipe</button>
	</header>
	<ul>
		{#each shown as recipe (recipe.id)}
			<li>
				<a class="open" href="/{project.slug}/recipes/{recipe.id}" aria-label="Open the recipe {recipe.name}">
					{#if recipe.thumbnail !== null}<img src={recipe.thumbnail} alt="" width="96" height="60" loading="lazy" {@attach insisting()} />{:else}<span class="none"><ChefHat size={20} /></span>{/if}
				</a>
				<span class="words">
					<strong title={recipe.name}>{recipe.name}</strong>
					<span class="dim">{cooking[recipe.id] !== undefined ? `making, ${cooking[recipe.id]}` : recipe.set === null ? 'no maps yet' : recipe.current ? `made: ${recipe.set}` : 'changed since its maps were made'}</span>
					<span class="acts">
						{#if recipe.deletedAt !== null}
							<button class="link" onclick={() => back(recipe).catch((e: unknown) => failed('Not brought back', e))}>Bring back</button>
						{:else}
							<button class="link" disabled={cooking[recipe.id] !== undefined} onclick={() => cook(recipe)}><Flame size={12} /> {recipe.set === null ? 'Make' : 'Make again'}</button>
							<button class="link" aria-label="Rename the recipe {recipe.name}" title="Rename" onclick={() => (renaming = recipe)}><Pencil size={12} /></button>
							<button class="link" aria-label="Delete the recipe {recipe.name}" title="Delete" onclick={() => (leaving = recipe)}><Trash2 size={12} /></button>
						{/if}
					</span>
				</span>
			</li>
		{/each}
	</ul>
</section>

{#if naming}
	<NameSheet title="New recipe" act="Create" like="sea-wall" close={() => (naming = false)} take={async (name) => router.go(`/${project.slug}/recipes/${(await api.startRecipe(project.slug, name)).id}`)} />
{/if}
{#if renaming !== null}
	{@const recipe = renaming}
	<NameSheet title="Rename {recipe.name}" act="Rename" value={recipe.name} close={() => (renaming = null)} take={async (to) => { await api.renameRecipe(recipe.id, to); await reload(); }} />
{/if}
{#if leaving !== null}
	{@const recipe = leaving}
	<Sheet title="Delete {recipe.name}?" close={() => (leaving = null)}>
		<p>{recipe.set === null ? 'It has made no maps.' : `Its maps, ${recipe.set}, stay in the library, but can be made again only once the recipe is brought back.`}</p>
		{#snippet actions()}
			<button class="tool plain" onclick={() => (leaving = null)}>Keep it</button>
			<button class="tool main" onclick={() => remove(recipe)}>Delete it</button>
		{/snippet}
	</Sheet>
{/if}

<style>
	section {
		max-width: 1640px;
		margin: 0 auto 20px;
	}
	header {
		display: flex;
		align-items: center;
		gap: 4px 16px;
		padding-bottom: 6px;
	}
	h2 {
		font-size: 15px;
		font-weight: 600;
	}
	.gap {
		flex: 1;
	}
	.dim {
		color: var(--dim);
	}
	ul {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(248px, 1fr));
		gap: 8px;
	}
	li {
		display: flex;
		gap: 8px;
		border: 1px solid var(--line);
		border-radius: 4px;
		background: var(--panel);
		overflow: hidden;
	}
	img,
	.none {
		width: 96px;
		height: 68px;
		object-fit: cover;
		display: grid;
		place-items: center;
		background: var(--well);
		color: var(--dim);
	}
	.words {
		display: grid;
		min-width: 0;
		padding: 2px 6px 2px 0;
		line-height: 18px;
	}
	.words > strong,
	.words > .dim {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.acts {
		display: flex;
		gap: 12px;
	}
	.link {
		display: inline-flex;
		gap: 4px;
		align-items: center;
		min-height: 24px;
		min-width: 24px;
		color: var(--accent);
	}
	.link:disabled {
		color: var(--dim);
		opacity: 0.6;
	}
</style>
