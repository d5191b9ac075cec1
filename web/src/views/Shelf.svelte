<script lang="ts">
	import { AlertTriangle, MonitorCheck, Plus, Trash2 } from '@lucide/svelte';
	import { api, type MaterialCard, type Project, type ShelfPage } from '../api/client';
	import Acts from '../parts/Acts.svelte';
	import FirstJobOffer from '../parts/FirstJobOffer.svelte';
	import NameSheet from '../parts/NameSheet.svelte';
	import NewMaterial from '../parts/NewMaterial.svelte';
	import Swatch from '../parts/Swatch.svelte';
	import TopBar from '../parts/TopBar.svelte';
	import Trouble from '../parts/Trouble.svelte';
	import { account } from '../state/account.svelte';
	import { commands } from '../state/commands.svelte';
	import { firstJob } from '../state/firstjob.svelte';
	import { failed, offered } from '../state/notices.svelte';
	import { router } from '../state/route.svelte';
	import { ahead } from './lazy';

	const address: { project: string } = $props();
	// What it was opened for stays what it is while the view is taken down.
	// svelte-ignore state_referenced_locally
	const { project: slug } = address;
	let shelf = $state.raw<ShelfPage | null>(null);
	/** What a new material may start from; asked for when it is wanted. */
	let project = $state.raw<Project | null>(null);
	let trouble = $state<unknown>(null);
	let renaming = $state<MaterialCard | null>(null);
	let words = $state('');
	let sort = $state<'made' | 'name' | 'changed'>('made');
	let bin = $state(false);
	let page = $state(1);
	const WAIT = 180;

	let asked = 0;
	async function load(): Promise<void> {
		const mine = ++asked;
		trouble = null;
		try {
			const found = await api.shelf(slug, { q: words, sort, bin, page });
			if (mine === asked) shelf = found;
		} catch (error) {
			if (mine === asked) trouble = error;
		}
	}
	let typed = 0;
	$effect(() => {
		void [words, sort, bin, page];
		clearTimeout(typed);
		typed = window.setTimeout(() => void load(), shelf === null ? 0 : WAIT);
		return () => clearTimeout(typed);
	});

	async function start(): Promise<void> {
		try {
			project = await api.project(slug);
		} catch (error) {
			failed('A new material cannot be begun', error);
		}
	}
	async function act(what: string, how: () => Promise<unknown>): Promise<void> {
		try {
			await how();
			await load();
		} catch (error) {
			failed(what, error);
		}
	}
	const remove = (one: MaterialCard): Promise<void> =>
		act(`${one.name} was not deleted`, async () => {
			await api.deleteMaterial(one.id);
			offered(`${one.name} is in the bin for 30 days`, 'Bring back', () => act('Not brought back', () => api.bringMaterialBack(one.id)));
		});
	const acts = (one: MaterialCard) => [
		{ value: 'open', label: 'Open', do: () => router.go(`/${slug}/materials/${one.id}`) },
		{ value: 'rename', label: 'Rename …', do: () => (renaming = one) },
		{ value: 'copy', label: 'Duplicate', do: () => void act(`${one.name} was not duplicated`, () => api.duplicateMaterial(one.id)) },
		{ value: 'delete', label: 'Delete', do: () => void remove(one) }
	];
	$effect(() => commands.offer('shelf', () => [
		{ group: 'Shelf', label: 'New material', can: account.may('write'), run: () => void start() },
		{ group: 'Maps', label: 'Import maps', can: account.may('write'), run: () => router.go(`/${slug}/maps`) },
		{ group: 'Shelf', label: 'Search materials', lands: '.search', run: () => undefined },
		{ group: 'Shelf', label: bin ? 'Leave the bin' : 'Bin', run: () => { bin = !bin; page = 1; } },
		...(shelf?.materials ?? []).filter((one) => one.deletedAt === null).map((one) => ({ group: 'Open', label: one.name, run: () => router.go(`/${slug}/materials/${one.id}`) }))
	]));

	const when = (iso: string): string =>
		new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));
</script>

<svelte:head><title>{shelf?.name ?? 'Shelf'} · Rilta</title></svelte:head>
<TopBar project={slug} projectName={shelf?.name ?? ''} view="shelf">
	<span class="about">{shelf?.about ?? ''}</span>
	<span class="gap"></span>
	<a class="tool" href="/{slug}/device" title="Whether your graphics device shows what is computed" aria-label="Check this device"><MonitorCheck size={16} /></a>
	<input class="field search" type="search" placeholder="Search materials" aria-label="Search materials" bind:value={words} oninput={() => (page = 1)} />
	<select class="field" aria-label="Sort" bind:value={sort} onchange={() => (page = 1)}>
		<option value="made">As they were made</option>
		<option value="changed">Changed last</option>
		<option value="name">By name</option>
	</select>
	<button class="tool" aria-pressed={bin} title="What was deleted in the last 30 days" onclick={() => { bin = !bin; page = 1; }}><Trash2 size={16} /> Bin{shelf !== null && shelf.binned > 0 ? ` ${shelf.binned}` : ''}</button>
	<button class="tool main" disabled={!account.may('write')} onclick={start}><Plus size={16} /> New material</button>
</TopBar>

{#if firstJob.asks && !bin && shelf !== null && shelf.total > 0}<FirstJobOffer project={slug} />{/if}
<main>
	{#if trouble !== null}
		<Trouble error={trouble} retry={load} />
	{:else if shelf === null}
		<ul aria-busy="true" aria-label="Loading the materials">
			{#each { length: 6 }, i (i)}<li class="blank"></li>{/each}
		</ul>
	{:else if shelf.total === 0}
		<div class="empty">
			{#if bin}
				<h1>The bin is empty.</h1>
				<p>What is deleted stays here for 30 days.</p>
			{:else if words.trim() !== ''}
				<h1>No material is called that, or reads that.</h1>
				<button class="tool plain" onclick={() => (words = '')}>Show all</button>
			{:else}
				<h1>The shelf is empty.</h1>
				<p>A material needs maps to read. Import a set, then make a material from it.</p>
				<a class="tool main" href="/{slug}/maps">Import maps</a>
			{/if}
		</div>
	{:else}
		<ul>
			{#each shelf.materials as material (material.id)}
				<li>
					<a onpointerenter={() => ahead('workbench')} onfocus={() => ahead('workbench')} href="/{slug}/materials/{material.id}" class:wrong={material.problems > 0}>
						<Swatch url={material.swatch} name={material.name} />
						<div class="label">
							<h2>{material.name}</h2>
							{#if material.problems > 0}
								<p class="sentence problem" title={material.problem}><AlertTriangle size={13} /> {material.problems === 1 ? 'A mistake' : `${material.problems} mistakes`}: {material.problem}</p>
							{:else}
								<p class="sentence">{material.sentence}</p>
							{/if}
							<p class="when">{material.deletedAt === null ? `Changed ${when(material.changedAt)}` : `Deleted ${when(material.deletedAt)}`}</p>
						</div>
					</a>
					<div class="act">
						{#if material.deletedAt === null}
							<Acts of={material.name} acts={acts(material)} />
						{:else}
							<button class="tool plain back" onclick={() => act('Not brought back', () => api.bringMaterialBack(material.id))}>Bring back</button>
						{/if}
					</div>
				</li>
			{/each}
		</ul>
		{#if shelf.pages > 1}
			<nav class="pages" aria-label="Pages">
				<button class="tool plain" disabled={shelf.page <= 1} onclick={() => (page = (shelf?.page ?? 1) - 1)}>Before</button>
				<span class="figures">{shelf.page} of {shelf.pages}, {shelf.total} materials</span>
				<button class="tool plain" disabled={shelf.page >= shelf.pages} onclick={() => (page = (shelf?.page ?? 1) + 1)}>Next</button>
			</nav>
		{/if}
	{/if}
</main>

{#if project !== null}
	<NewMaterial {project} close={() => (project = null)} />
{/if}
{#if renaming !== null}
	{@const one = renaming}
	<NameSheet title="Rename {one.name}" act="Rename" value={one.name} close={() => (renaming = null)} take={async (name) => { await api.renameMaterial(one.id, name); await load(); }} />
{/if}

<style>
	main {
		height: calc(100% - 44px);
		overflow: auto;
		padding: 24px;
	}
	.about {
		color: var(--dim);
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.gap {
		flex: 1;
	}
	.search {
		width: 200px;
	}
	ul {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
		gap: 24px;
		max-width: 1680px;
		margin: 0 auto;
	}
	li {
		position: relative;
	}
	li > a {
		position: relative;
		display: block;
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 4px;
		overflow: hidden;
		transition: border-color 0.12s;
	}
	li > a:hover {
		border-color: var(--accent);
	}
	li > a.wrong {
		border-left: 3px solid var(--amber);
	}
	.act {
		position: absolute;
		top: 8px;
		right: 8px;
		opacity: 0;
	}
	li:hover .act,
	li:focus-within .act,
	.act:has(.back) {
		opacity: 1;
	}
	.back {
		background: var(--panel);
	}
	.label {
		padding: 12px 16px;
	}
	h2 {
		font-size: 15px;
		font-weight: 600;
		line-height: 20px;
	}
	.sentence {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.problem {
		color: var(--amber);
	}
	.problem :global(svg) {
		display: inline;
		vertical-align: -2px;
	}
	.when {
		color: var(--dim);
		font-size: 12px;
	}
	.pages {
		display: flex;
		justify-content: center;
		align-items: center;
		gap: 16px;
		margin-top: 24px;
	}
	.blank {
		aspect-ratio: 4 / 3.9;
		background: var(--panel);
		border-radius: 4px;
		animation: breathe 1.4s ease-in-out infinite alternate;
	}
	@keyframes breathe {
		to {
			opacity: 0.5;
		}
	}
	.empty {
		max-width: 420px;
		margin: 12vh auto 0;
		text-align: center;
		display: grid;
		gap: 12px;
		justify-items: center;
	}
	.empty h1 {
		font-size: 20px;
		font-weight: 600;
	}
</style>
