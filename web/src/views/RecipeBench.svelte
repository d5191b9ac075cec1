<script lang="ts">
	import { Copy, CopyPlus, Dices, Flame, Plus, Redo2, Trash2, Undo2 } from '@lucide/svelte';
	import { Popover, Portal } from '@skeletonlabs/skeleton-svelte';
	import { onMount, tick } from 'svelte';
	import { api, type Bake, type Project, type RecipeCoat, type Role } from '../api/client';
	import ConflictSheet from '../parts/ConflictSheet.svelte';
	import ControlField from '../parts/ControlField.svelte';
	import IngredientFields from '../parts/IngredientFields.svelte';
	import OutputFields from '../parts/OutputFields.svelte';
	import RecipePreview from '../parts/RecipePreview.svelte';
	import SavingMark from '../parts/SavingMark.svelte';
	import Sheet from '../parts/Sheet.svelte';
	import TopBar from '../parts/TopBar.svelte';
	import Trouble from '../parts/Trouble.svelte';
	import { addIngredient, duplicateIngredient, moveIngredient, objection, removeIngredient, starting } from '../recipes/edits';
	import type { RecipePainter, Spread } from '../recipes/painter';
	import { account } from '../state/account.svelte';
	import { followed } from '../state/baking';
	import { commands, VALUES } from '../state/commands.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { done, failed, offered } from '../state/notices.svelte';
	import { RecipeSession, type Chosen } from '../state/recipe.svelte';
	import { router } from '../state/route.svelte';

	const address: { project: string; recipe: number } = $props();
	// What it was opened for stays what it is while the view is taken down.
	// svelte-ignore state_referenced_locally
	const { project: slug, recipe: id } = address;
	let session = $state.raw<RecipeSession | null>(null);
	let project = $state.raw<Project | null>(null);
	let trouble = $state<unknown>(null);
	let chosen = $state<Chosen>({ kind: 'ingredient', id: '' });
	let painter = $state.raw<RecipePainter | null>(null);
	let preview = $state<RecipePreview>();
	let spreads = $state.raw<Record<string, Spread>>({});
	let count = $state(0);
	let picking = $state(false);
	let adding = $state(false);
	let varying = $state(false);
	let variations = $state(3);
	let bake = $state<Bake | null>(null);
	let dragged = $state(-1);
	let over = $state(-1);
	const pictures = new Map<string, HTMLCanvasElement>();

	const kitchen = $derived(catalogue.value?.recipe);
	const label = (role: string): string => catalogue.value?.roles.find((one) => one.value === role)?.label ?? role;
	const sourceLabel = (name: string): string => kitchen?.sources.find((one) => one.name === name)?.label ?? name;
	const nameOf = (one: string | undefined): string => session?.document.ingredients.find((other) => other.id === one)?.name ?? one ?? '';
	const index = $derived(chosen.kind === 'ingredient' ? (session?.document.ingredients.findIndex((one) => chosen.kind === 'ingredient' && one.id === chosen.id) ?? -1) : -1);
	const output = $derived(chosen.kind === 'map' ? (session?.document.outputs.findIndex((one) => chosen.kind === 'map' && one.role === chosen.role) ?? -1) : -1);
	const missing = $derived((kitchen?.outputs ?? []).filter((one) => session?.document.outputs.every((other) => other.role !== one.role)));

	async function load(): Promise<void> {
		trouble = null;
		try {
			const [opened, found] = await Promise.all([RecipeSession.open(slug, id), api.project(slug)]);
			[session, project] = [opened, found];
			chosen = { kind: 'ingredient', id: opened.document.ingredients.at(-1)!.id };
			opened.onNumbers = () => preview?.again();
			await opened.lower();
		} catch (error) {
			trouble = error;
		}
	}
	$effect(() => {
		if (session === null) return;
		session.onOver = (by, back) => offered(`${by === '' ? 'Somebody' : by} has set what you had set`, 'Take mine back', async () => back());
		return session.listen();
	});
	onMount(() => {
		void load();
		return () => {
			gone = true;
			void session?.save(true).catch(() => {});
		};
	});
	// A chosen thing that is no longer there, after an undo for example, gives way to one that is.
	$effect(() => {
		if (session === null) return;
		if ((chosen.kind === 'ingredient' ? index : output) < 0) chosen = { kind: 'ingredient', id: session.document.ingredients.at(-1)!.id };
	});

	/** Small pictures are painted one a frame, the chosen one first, and only what the last change left. */
	let queue: string[] = [];
	let painting = 0;
	function refresh(): void {
		if (session === null) return;
		const first = chosen.kind === 'ingredient' ? `ingredient ${chosen.id}` : `map ${chosen.role}`;
		queue = [first, ...[...pictures.keys()].filter((key) => key !== first)];
		count++;
		cancelAnimationFrame(painting);
		painting = requestAnimationFrame(next);
	}
	function next(): void {
		const key = queue.shift();
		if (key === undefined || painter === null || session === null) return;
		const canvas = pictures.get(key);
		const [kind, name] = [key.split(' ')[0], key.slice(key.indexOf(' ') + 1)];
		try {
			if (canvas !== undefined && painter.has(key)) painter.paint(key, canvas, kind === 'map' && kitchen?.outputs.find((one) => one.role === name)?.colour === true);
			if (kind === 'ingredient' && painter.has(key)) spreads = { ...spreads, [name]: painter.spread(name) };
		} catch (error) {
			failed('A picture cannot be drawn', error);
		}
		if (queue.length > 0) painting = requestAnimationFrame(next);
	}
	function pictured(key: string): (canvas: HTMLCanvasElement) => () => void {
		return (canvas) => {
			pictures.set(key, canvas);
			queue.push(key);
			cancelAnimationFrame(painting);
			painting = requestAnimationFrame(next);
			return () => void (pictures.get(key) === canvas && pictures.delete(key));
		};
	}

	function add(name: string): void {
		const source = kitchen?.sources.find((one) => one.name === name);
		picking = false;
		if (session === null || source === undefined || kitchen === undefined) return;
		let made = '';
		session.edit((document) => (made = addIngredient(document, source, starting(kitchen.term))));
		chosen = { kind: 'ingredient', id: made };
	}
	function addMap(role: Role): void {
		adding = false;
		const kind = kitchen?.outputs.find((one) => one.role === role);
		const last = session?.document.ingredients.at(-1)?.id;
		if (session === null || kind === undefined || kitchen === undefined || last === undefined) return;
		const stops = [{ at: 0, colour: [0, 0, 0] }, { at: 1, colour: [1, 1, 1] }];
		session.edit((document) => {
			document.outputs.push(kind.colour ? { role, alpha: '', coats: [{ ...starting<RecipeCoat>(kitchen.coat), of: last, stops }] } : { role, of: last, values: {} });
		});
		chosen = { kind: 'map', role };
	}
	function remove(which: string): void {
		if (session === null || session.document.ingredients.length < 2) return;
		const at = session.document.ingredients.findIndex((one) => one.id === which);
		session.edit((document) => removeIngredient(document, which));
		chosen = { kind: 'ingredient', id: session.document.ingredients[Math.max(0, at - 1)]!.id };
	}
	function move(from: number, to: number): void {
		if (session === null || to < 0 || to >= session.document.ingredients.length || to === from) return;
		const why = objection(session.document, from, to);
		if (why !== null) {
			failed('It stays where it is', new Error(why));
			return;
		}
		session.edit((document) => moveIngredient(document, from, to));
		void tick().then(() => document.querySelector<HTMLElement>('.ingredient.chosen .face')?.focus());
	}
	function key(event: KeyboardEvent, at: number, which: string): void {
		if (event.altKey && event.key === 'ArrowUp') move(at, at - 1);
		else if (event.altKey && event.key === 'ArrowDown') move(at, at + 1);
		else if (event.key === 'Delete' || event.key === 'Backspace') remove(which);
		else return;
		event.preventDefault();
	}

	let gone = false;
	async function cook(): Promise<void> {
		if (session === null) return;
		try {
			await session.stored();
			const done = await followed(await api.cookRecipe(session.id), (now) => (bake = now), () => !gone && bake?.state !== 'cancelled');
			if (done.state === 'done') offered(`${done.facts.set} is in the library`, 'Show it', () => Promise.resolve(router.go(`/${slug}/maps`)));
			else if (done.state === 'failed') failed('The maps were not made', new Error(done.failure));
		} catch (error) {
			failed('The maps could not be asked for', error);
		}
		bake = null;
	}
	async function stop(): Promise<void> {
		if (bake !== null) bake = await api.cancelBake(bake.id);
	}
	async function duplicate(): Promise<void> {
		if (session === null) return;
		try {
			await session.stored();
			const [made] = await api.repeatRecipe(session.id, 1, false);
			if (made !== undefined) router.go(`/${slug}/recipes/${made.id}`);
		} catch (error) {
			failed('The recipe was not duplicated', error);
		}
	}
	/** Others of the same kind, and their maps. */
	async function vary(): Promise<void> {
		if (session === null) return;
		varying = false;
		try {
			await session.stored();
			const made = await api.repeatRecipe(session.id, variations, true);
			for (const one of made) await api.cookRecipe(one.id);
			done(`${made.length} variations are being made`, made.map((one) => one.name).join(', '));
		} catch (error) {
			failed('No variations were made', error);
		}
	}

	$effect(() => commands.offer('recipe', () => [
		{ group: 'Recipe', label: 'Undo', keys: 'Ctrl+Z', run: () => session?.undo() },
		{ group: 'Recipe', label: 'Redo', keys: 'Ctrl+Shift+Z', run: () => session?.redo() },
		{ group: 'Recipe', label: 'Save', keys: 'Ctrl+S', run: () => void session?.save().catch((e: unknown) => failed('Not saved', e)) },
		{ group: 'Recipe', label: 'Make the maps', can: session !== null && session.trouble.length === 0 && bake === null, run: () => void cook() },
		{ group: 'Recipe', label: 'Duplicate the recipe', run: () => void duplicate() },
		{ group: 'Recipe', label: 'Vary', run: () => (varying = true) },
		{ group: 'Go to', label: 'Values of what is chosen', lands: VALUES, run: () => undefined },
		...(session === null || kitchen === undefined ? [] : [
			...session.document.ingredients.map((one) => ({ group: 'Ingredient', label: one.name, lands: '.ingredient.chosen .face', run: () => (chosen = { kind: 'ingredient', id: one.id }) })),
			...session.document.outputs.map((one) => ({ group: 'Map', label: label(one.role), lands: '.map.chosen', run: () => (chosen = { kind: 'map', role: one.role }) })),
			...kitchen.sources.map((one) => ({ group: 'Add an ingredient', label: one.label, can: session!.document.ingredients.length < kitchen.limits.ingredients, lands: '.ingredient.chosen .face', run: () => add(one.name) })),
			...missing.map((one) => ({ group: 'Add a map', label: label(one.role), lands: '.map.chosen', run: () => addMap(one.role) }))
		])
	]));
	function leave(event: BeforeUnloadEvent): void {
		if (account.leaving || session === null || !session.pending) return;
		void session.save(true).catch(() => {});
		event.preventDefault();
	}
	const part = (one: Spread | undefined): number => (one === undefined ? 0 : one.below + one.above);
</script>

<svelte:window onbeforeunload={leave} />
<svelte:head><title>{session?.document.name ?? 'Recipe'} · Rilta</title></svelte:head>

<div class="bench">
	<TopBar project={slug} projectName={project?.name ?? ''} view="recipe">
		{#if session !== null}
			<input class="title" aria-label="Name of the recipe" maxlength="120" value={session.document.name}
				onchange={(e) => { if (e.currentTarget.value.trim() === '') e.currentTarget.value = session?.document.name ?? ''; else session?.set('/name', e.currentTarget.value.trim()); }} />
			<button class="tool" onclick={() => session?.undo()} disabled={session.past.length === 0} title="Undo (Ctrl+Z)" aria-label="Undo"><Undo2 size={16} /></button>
			<button class="tool" onclick={() => session?.redo()} disabled={session.future.length === 0} title="Redo (Ctrl+Shift+Z)" aria-label="Redo"><Redo2 size={16} /></button>
			<SavingMark state={session.saving} reason={session.reason} />
			<span class="gap"></span>
			<button class="tool" onclick={duplicate} title="The same recipe again, to change"><Copy size={16} /> Duplicate</button>
			<button class="tool" onclick={() => (varying = true)} title="The same recipe with other seeds"><Dices size={16} /> Vary …</button>
			{#if bake !== null}
				<span class="cooking" role="status">Making {bake.name}: <span class="figures">{bake.regions.done}/{bake.regions.all}</span>
					<progress value={bake.regions.done} max={bake.regions.all} aria-label="Progress"></progress></span>
				<button class="tool plain" onclick={stop}>Cancel</button>
			{:else}
				<button class="tool main" onclick={cook} disabled={session.trouble.length > 0}><Flame size={16} /> Make the maps</button>
			{/if}
		{/if}
	</TopBar>

	{#if trouble !== null}
		<div class="wrong"><Trouble error={trouble} retry={load} /></div>
	{:else if session !== null && kitchen !== undefined}
		<aside aria-label="Ingredients and maps">
			<header>
				<h2 class="heading">Ingredients</h2>
				<Popover open={picking} onOpenChange={(d) => (picking = d.open)} positioning={{ placement: 'bottom-start' }}>
					<Popover.Trigger class="tool" title="Add an ingredient" aria-label="Add an ingredient"><Plus size={14} /></Popover.Trigger>
					<Portal>
						<Popover.Positioner class="picker-place">
							<Popover.Content class="pick">
								<Popover.Title class="heading">Made of</Popover.Title>
								{#each kitchen.sources as one (one.name)}
									<button class="choice" disabled={session.document.ingredients.length >= kitchen.limits.ingredients} onclick={() => add(one.name)}><strong>{one.label}</strong><span>{one.help}</span></button>
								{/each}
							</Popover.Content>
						</Popover.Positioner>
					</Portal>
				</Popover>
			</header>
			<ul>
				{#each session.document.ingredients as one, at (one.id)}
					<li class="ingredient" class:chosen={chosen.kind === 'ingredient' && chosen.id === one.id} class:over={over === at && dragged !== at} draggable="true"
						ondragstart={(e) => { e.dataTransfer?.setData('text/plain', one.id); dragged = at; }} ondragend={() => (dragged = over = -1)}
						ondragover={(e) => { if (dragged >= 0) { e.preventDefault(); over = at; } }} ondrop={(e) => { e.preventDefault(); if (dragged >= 0) move(dragged, at); }}>
						<button class="face" aria-pressed={chosen.kind === 'ingredient' && chosen.id === one.id} onclick={() => (chosen = { kind: 'ingredient', id: one.id })} onkeydown={(e) => key(e, at, one.id)}
							title="Drag to move. Alt+↑ ↓, Delete">
							<canvas width="48" height="48" aria-hidden="true" {@attach pictured(`ingredient ${one.id}`)}></canvas>
							<span class="words"><strong>{one.name}</strong>
								<span>{one.terms === undefined ? sourceLabel(one.source) : `${one.terms.map((term) => nameOf(term.of)).join(', ')}`}</span>
								{#if part(spreads[one.id]) >= 0.005}<span class="outside figures">{Math.round(100 * part(spreads[one.id]))} % outside</span>{/if}
							</span>
						</button>
						{#if chosen.kind === 'ingredient' && chosen.id === one.id}
							<span class="acts">
								<button class="tool" title="Duplicate" aria-label="Duplicate {one.name}" onclick={() => { let made = ''; session?.edit((d) => (made = duplicateIngredient(d, one.id))); chosen = { kind: 'ingredient', id: made }; }}><CopyPlus size={14} /></button>
								<button class="tool" title="Take it out (Delete)" aria-label="Take {one.name} out" disabled={session.document.ingredients.length < 2} onclick={() => remove(one.id)}><Trash2 size={14} /></button>
							</span>
						{/if}
					</li>
				{/each}
			</ul>
			<header>
				<h2 class="heading">Maps</h2>
				<Popover open={adding} onOpenChange={(d) => (adding = d.open)} positioning={{ placement: 'bottom-start' }}>
					<Popover.Trigger class="tool" disabled={missing.length === 0} title="Add a map" aria-label="Add a map"><Plus size={14} /></Popover.Trigger>
					<Portal>
						<Popover.Positioner class="picker-place">
							<Popover.Content class="pick">
								<Popover.Title class="heading">Map</Popover.Title>
								{#each missing as one (one.role)}<button class="choice" onclick={() => addMap(one.role)}><strong>{label(one.role)}</strong></button>{/each}
							</Popover.Content>
						</Popover.Positioner>
					</Portal>
				</Popover>
			</header>
			<ul class="maps">
				{#each session.document.outputs as one (one.role)}
					<li>
						<button class="map" class:chosen={chosen.kind === 'map' && chosen.role === one.role} aria-pressed={chosen.kind === 'map' && chosen.role === one.role} onclick={() => (chosen = { kind: 'map', role: one.role })}
							title="Made of {one.coats === undefined ? nameOf(one.of) : one.coats.map((coat) => nameOf(coat.of)).join(', ')}">
							<canvas width="70" height="70" aria-hidden="true" {@attach pictured(`map ${one.role}`)}></canvas>
							<span>{label(one.role)}</span>
						</button>
					</li>
				{/each}
			</ul>
			<h2 class="heading">Tile</h2>
			<div class="tile">
				<label class="line">Pixels a side
					<select class="field figures" value={session.document.size} onchange={(e) => session?.set('/size', Number(e.currentTarget.value))}>
						{#each kitchen.sizes as one (one)}<option value={one}>{one}</option>{/each}
					</select>
				</label>
				{#each kitchen.controls as control (control.name)}<ControlField {session} {control} path="/{control.name}" brief />{/each}
			</div>
		</aside>
		<RecipePreview bind:this={preview} {session} {chosen} ready={(one) => (painter = one)} drawn={refresh} />
		<section class="values" aria-label="Values">
			{#each session.trouble as problem (problem.path)}<p class="problem">{problem.path}: {problem.message}</p>{/each}
			{#if index >= 0 && chosen.kind === 'ingredient'}
				{#key chosen.id}<IngredientFields {session} {index} spread={spreads[chosen.id] ?? null} />{/key}
			{:else if output >= 0 && chosen.kind === 'map'}
				{#key chosen.role}<OutputFields {session} index={output} {painter} {count} gone={() => (chosen = { kind: 'ingredient', id: '' })} />{/key}
			{/if}
		</section>
	{:else}
		<p class="hint" aria-busy="true">Loading the recipe …</p>
	{/if}
</div>

{#if varying}
	<Sheet title="Vary {session?.document.name ?? ''}" close={() => (varying = false)}>
		<p>Makes recipes that differ from this one by their seed alone, and their maps. Their names count up, so that the library offers them as a family.</p>
		<label class="line">How many <input class="field figures" type="number" min="1" max={kitchen?.limits.copies} bind:value={variations} /></label>
		{#snippet actions()}
			<button class="tool plain" onclick={() => (varying = false)}>Cancel</button>
			<button class="tool main" disabled={!(variations >= 1 && variations <= (kitchen?.limits.copies ?? 0))} onclick={vary}>Make variations</button>
		{/snippet}
	</Sheet>
{/if}
{#if session?.saving === 'conflict'}<ConflictSheet {session} what="recipe" />{/if}

<style>
	.bench {
		display: grid;
		grid-template: 44px minmax(0, 1fr) / 252px minmax(0, 1fr) 300px;
		height: 100%;
	}
	.bench > :global(header) {
		grid-column: 1 / -1;
	}
	.title {
		font-weight: 600;
		width: 170px;
		height: 28px;
		padding: 0 6px;
		background: none;
		border: 1px solid transparent;
		border-radius: 3px;
	}
	.title:hover,
	.title:focus {
		border-color: var(--line);
	}
	.gap {
		flex: 1;
	}
	.cooking {
		display: flex;
		gap: 6px;
		align-items: center;
	}
	.cooking progress {
		width: 80px;
	}
	.wrong {
		grid-column: 1 / -1;
	}
	aside,
	.values {
		display: flex;
		flex-direction: column;
		gap: 8px;
		padding: 12px;
		background: var(--panel);
		overflow: auto;
	}
	aside {
		border-right: 1px solid var(--line);
	}
	.values {
		border-left: 1px solid var(--line);
	}
	aside header {
		display: flex;
		align-items: center;
		justify-content: space-between;
	}
	ul {
		display: grid;
		gap: 2px;
	}
	.ingredient {
		position: relative;
		border-radius: 4px;
		border: 1px solid transparent;
	}
	.ingredient:hover {
		background: var(--raised);
	}
	.ingredient.chosen {
		background: var(--accent-soft);
		border-color: var(--accent);
	}
	.ingredient.over {
		border-top-color: var(--accent);
	}
	.face {
		display: flex;
		gap: 8px;
		width: 100%;
		padding: 3px;
		text-align: left;
		align-items: center;
	}
	.face canvas {
		width: 48px;
		height: 48px;
		border-radius: 3px;
		background: var(--well);
		flex: none;
	}
	.words {
		display: grid;
		min-width: 0;
		line-height: 16px;
		font-size: 12px;
		color: var(--dim);
	}
	.words > * {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.words strong {
		font-size: 13px;
		color: var(--text);
	}
	.outside {
		padding-left: 5px;
		border-left: 3px solid var(--amber);
	}
	.acts {
		position: absolute;
		right: 2px;
		bottom: 2px;
		display: flex;
		border-radius: 3px;
		background: var(--panel);
	}
	.maps {
		grid-template-columns: repeat(3, minmax(0, 1fr));
		gap: 4px;
	}
	.map {
		display: grid;
		justify-items: center;
		width: 100%;
		padding: 2px;
		border: 1px solid transparent;
		border-radius: 4px;
		font-size: 12px;
		line-height: 16px;
	}
	.map canvas {
		width: 100%;
		aspect-ratio: 1;
		border-radius: 3px;
		background: var(--well);
	}
	.map:hover {
		background: var(--raised);
	}
	.map.chosen {
		background: var(--accent-soft);
		border-color: var(--accent);
	}
	.tile {
		display: grid;
		gap: 4px;
	}
	.line {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 8px;
	}
	.line input {
		width: 72px;
	}
	.problem {
		border-left: 3px solid var(--brick);
		padding-left: 8px;
	}
	.hint {
		padding: 24px;
		color: var(--dim);
	}
	:global(.pick) {
		display: grid;
		gap: 2px;
		width: 300px;
		max-height: 70vh;
		overflow: auto;
		padding: 8px;
		background: var(--raised);
		border: 1px solid var(--line);
		border-radius: 6px;
		box-shadow: var(--shadow);
	}
	:global(.pick .choice) {
		display: grid;
		padding: 4px 6px;
		text-align: left;
		border-radius: 3px;
		cursor: pointer;
	}
	:global(.pick .choice span) {
		font-size: 12px;
		line-height: 15px;
		color: var(--dim);
	}
	:global(.pick .choice:hover) {
		background: var(--accent-soft);
	}
</style>
