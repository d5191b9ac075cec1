<script lang="ts">
	import { Plus } from '@lucide/svelte';
	import { api, type Project } from '../api/client';
	import NewMaterial from '../parts/NewMaterial.svelte';
	import Swatch from '../parts/Swatch.svelte';
	import TopBar from '../parts/TopBar.svelte';
	import Trouble from '../parts/Trouble.svelte';
	import { router } from '../state/route.svelte';

	let { project: slug }: { project: string | null } = $props();
	let project = $state<Project | null>(null);
	let trouble = $state<unknown>(null);
	let creating = $state(false);

	async function load(): Promise<void> {
		trouble = null;
		try {
			const chosen = slug ?? (await api.projects())[0]?.slug;
			if (chosen === undefined) throw new Error('There is no project yet. Load the demo with: bin/rilta demo');
			if (slug === null) {
				router.go(`/${chosen}`);
				return;
			}
			project = await api.project(chosen);
		} catch (error) {
			trouble = error;
		}
	}
	$effect(() => void load());

	const when = (iso: string): string =>
		new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));
</script>

<svelte:head><title>{project?.name ?? 'Shelf'} · Rilta</title></svelte:head>
<TopBar project={slug} projectName={project?.name ?? ''} view="shelf">
	<span class="about">{project?.about ?? ''}</span>
	<span class="gap"></span>
	{#if project !== null}
		<button class="tool main" onclick={() => (creating = true)}><Plus size={16} /> New material</button>
	{/if}
</TopBar>

<main>
	{#if trouble !== null}
		<Trouble error={trouble} retry={load} />
	{:else if project === null}
		<ul aria-busy="true" aria-label="Loading the materials">
			{#each { length: 6 }, i (i)}<li class="blank"></li>{/each}
		</ul>
	{:else if project.materials.length === 0}
		<div class="empty">
			<h1>The shelf is empty.</h1>
			<p>A material needs maps to read. Import a set, then make a material from it.</p>
			<a class="tool main" href="/{project.slug}/maps">Import maps</a>
		</div>
	{:else}
		<ul>
			{#each project.materials as material (material.id)}
				<li>
					<a href="/{project.slug}/materials/{material.id}">
						<Swatch url={material.swatch} name={material.name} />
						<div class="label">
							<h2>{material.name}</h2>
							<p class="sentence">{material.sentence}</p>
							<p class="when">Changed {when(material.changedAt)}</p>
						</div>
					</a>
				</li>
			{/each}
		</ul>
	{/if}
</main>

{#if creating && project !== null}
	<NewMaterial {project} close={() => (creating = false)} />
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
	ul {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
		gap: 24px;
		max-width: 1680px;
		margin: 0 auto;
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
	.when {
		color: var(--dim);
		font-size: 12px;
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
