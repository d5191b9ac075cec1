<script lang="ts">
	import { Archive, Plus, Upload } from '@lucide/svelte';
	import { api, type ProjectCard } from '../api/client';
	import Acts from '../parts/Acts.svelte';
	import NameSheet from '../parts/NameSheet.svelte';
	import Swatch from '../parts/Swatch.svelte';
	import TopBar from '../parts/TopBar.svelte';
	import Trouble from '../parts/Trouble.svelte';
	import { commands } from '../state/commands.svelte';
	import { done, failed, offered } from '../state/notices.svelte';
	import { router } from '../state/route.svelte';

	let projects = $state.raw<ProjectCard[] | null>(null);
	let archived = $state(false);
	let trouble = $state<unknown>(null);
	let creating = $state(false);
	let renaming = $state<ProjectCard | null>(null);
	let importing = $state(false);
	let chooser = $state<HTMLInputElement>();

	async function load(): Promise<void> {
		trouble = null;
		try {
			projects = await api.projects(archived);
		} catch (error) {
			trouble = error;
		}
	}
	$effect(() => {
		void archived;
		void load();
	});

	async function put(one: ProjectCard, away: boolean): Promise<void> {
		try {
			await api.changeProject(one.slug, { archived: away });
			await load();
			if (away) offered(`${one.name} is in the archive`, 'Bring back', () => put(one, false));
		} catch (error) {
			failed(`${one.name} was not moved`, error);
		}
	}
	async function take(file: File | undefined): Promise<void> {
		if (file === undefined) return;
		importing = true;
		try {
			const made = await api.importProject(file);
			done('Imported', made.name);
			await load();
		} catch (error) {
			failed(`${file.name} was not imported`, error);
		}
		importing = false;
		if (chooser !== undefined) chooser.value = '';
	}
	const acts = (one: ProjectCard) => [
		{ value: 'rename', label: 'Rename …', do: () => (renaming = one) },
		{ value: 'export', label: 'Export as one file', do: () => void (location.href = `/api/projects/${one.slug}/parcel.zip`) },
		{ value: 'archive', label: one.archived ? 'Bring back' : 'Archive', do: () => void put(one, !one.archived) }
	];
	$effect(() => commands.offer('projects', () => [
		{ group: 'Projects', label: 'New project', run: () => (creating = true) },
		{ group: 'Projects', label: 'Import a project', can: !importing, run: () => chooser?.click() },
		{ group: 'Projects', label: archived ? 'Leave the archive' : 'Archive', run: () => (archived = !archived) },
		...(projects ?? []).map((one) => ({ group: 'Open', label: one.name, run: () => router.go(`/${one.slug}`) }))
	]));
	const when = (iso: string | null): string => (iso === null ? 'Nothing in it yet' : `Changed ${new Intl.DateTimeFormat(undefined, { dateStyle: 'medium' }).format(new Date(iso))}`);
	const count = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;
</script>

<svelte:head><title>Projects · Rilta</title></svelte:head>
<TopBar project={null} projectName="" view="projects">
	<span class="gap"></span>
	<button class="tool" aria-pressed={archived} title="Projects that were put out of the way" onclick={() => (archived = !archived)}><Archive size={16} /> Archive</button>
	<button class="tool plain" disabled={importing} title="A project that was exported as one file" onclick={() => chooser?.click()}><Upload size={16} /> {importing ? 'Importing …' : 'Import a project'}</button>
	<input bind:this={chooser} type="file" accept=".zip,application/zip" hidden aria-label="Project file" onchange={(e) => void take(e.currentTarget.files?.[0])} />
	<button class="tool main" onclick={() => (creating = true)}><Plus size={16} /> New project</button>
</TopBar>

<main>
	<h1>{archived ? 'Archived projects' : 'Projects'}</h1>
	{#if trouble !== null}
		<Trouble error={trouble} retry={load} />
	{:else if projects !== null && projects.length === 0}
		<p class="dim">{archived ? 'Nothing is in the archive.' : 'There is no project yet. Make one, or load the demo with: bin/rilta demo'}</p>
	{:else}
		<ul aria-busy={projects === null}>
			{#each projects ?? [] as one (one.slug)}
				<li>
					<a href="/{one.slug}">
						<div class="pictures" class:none={one.pictures.length === 0}>
							{#each one.pictures as url (url)}<div class="picture"><Swatch {url} name="" /></div>{/each}
						</div>
						<div class="label">
							<h2>{one.name}</h2>
							<p class="about">{one.about}</p>
							<p class="dim">{count(one.materials, 'material', 'materials')}, {count(one.sets, 'map set', 'map sets')}, {count(one.recipes, 'recipe', 'recipes')}. {when(one.changedAt)}</p>
						</div>
					</a>
					<div class="act"><Acts of={one.name} acts={acts(one)} /></div>
				</li>
			{/each}
		</ul>
	{/if}
</main>

{#if creating}
	<NameSheet title="New project" act="Create" like="Harbour light" close={() => (creating = false)} take={async (name) => router.go(`/${(await api.createProject(name)).slug}`)} />
{/if}
{#if renaming !== null}
	{@const one = renaming}
	<NameSheet title="Rename {one.name}" act="Rename" value={one.name} close={() => (renaming = null)} take={async (name) => { await api.changeProject(one.slug, { name }); await load(); }} />
{/if}

<style>
	main {
		height: calc(100% - 44px);
		overflow: auto;
		padding: 24px;
	}
	h1 {
		max-width: 1680px;
		margin: 0 auto 16px;
		font-size: 20px;
		font-weight: 600;
	}
	.gap {
		flex: 1;
	}
	.dim {
		color: var(--dim);
		font-size: 12px;
	}
	main > .dim {
		max-width: 1680px;
		margin: 0 auto;
	}
	ul {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(360px, 1fr));
		gap: 24px;
		max-width: 1680px;
		margin: 0 auto;
	}
	li {
		position: relative;
	}
	li > a {
		display: block;
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 4px;
		overflow: hidden;
	}
	li > a:hover {
		border-color: var(--accent);
	}
	.pictures {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 1px;
		background: var(--line);
	}
	.picture {
		position: relative;
	}
	.none {
		aspect-ratio: 4 / 3;
		background: var(--well);
	}
	.label {
		padding: 12px 16px;
	}
	h2 {
		font-size: 15px;
		font-weight: 600;
		line-height: 20px;
	}
	.about {
		min-height: 20px;
	}
	.act {
		position: absolute;
		top: 8px;
		right: 8px;
	}
</style>
