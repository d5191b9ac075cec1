<script lang="ts">
	import { Bookmark } from '@lucide/svelte';
	import { api, type Project } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { failed } from '../state/notices.svelte';
	import { router } from '../state/route.svelte';
	import BringMaterials from './BringMaterials.svelte';
	import SetPicker from './SetPicker.svelte';
	import Sheet from './Sheet.svelte';

	let { project, close }: { project: Project; close: () => void } = $props();
	let name = $state('');
	// svelte-ignore state_referenced_locally
	let set = $state(project.sets[0]?.name ?? '');
	/** What it is for, or "template 7". */
	let start = $state('plain');
	let busy = $state(false);
	const starts = $derived(catalogue.value?.starts ?? []);
	const templates = $derived(project.templates);
	void catalogue.load();
	const chosen = $derived(project.sets.find((s) => s.name === set));
	/** What it is called if nobody says anything else: "Sea wall" of the set sea-wall, "Sand floor" of sand. */
	const usual = $derived.by(() => {
		const template = templates.find((one) => start === `template ${one.id}`);
		if (template !== undefined) return template.name;
		const words = set.replaceAll('-', ' ');
		const kind = start === 'plain' ? '' : (starts.find((one) => one.value === start)?.label.toLowerCase() ?? '');
		return words.charAt(0).toUpperCase() + words.slice(1) + (kind === '' || words.endsWith(kind) ? '' : ` ${kind}`);
	});

	async function create(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		if (chosen === undefined) return;
		const called = name.trim() || usual;
		busy = true;
		try {
			const template = /^template (\d+)$/.exec(start)?.[1];
			const material = template === undefined
				? await api.startMaterial(project.slug, called, chosen.name, start)
				: await api.createMaterial(project.slug, { ...(await api.material(Number(template))).document, name: called });
			router.go(`/${project.slug}/materials/${material.id}`);
		} catch (error) {
			failed('The material could not be made', error);
			busy = false;
		}
	}
</script>

<Sheet title="New material" {close}>
	{#if project.sets.length === 0}
		<p>A material reads a map set, and this project has none yet.</p>
		<a class="tool main" href="/{project.slug}/maps">Import maps</a>
		<BringMaterials slug={project.slug} />
	{:else}
		<form id="new-material" onsubmit={create}>
			<label>Name <input class="field" bind:value={name} maxlength="120" placeholder={usual} /></label>
			<fieldset>
				<legend>Start from</legend>
				<div class="starts">
					{#each starts as one (one.value)}
						<label class="start" class:chosen={start === one.value} title={one.help}><input type="radio" name="start" value={one.value} bind:group={start} />{one.label}</label>
					{/each}
					{#each templates as one (one.id)}
						<label class="start" class:chosen={start === `template ${one.id}`} title="A template"><input type="radio" name="start" value="template {one.id}" bind:group={start} /><Bookmark size={12} /> {one.name}</label>
					{/each}
				</div>
				<p class="dim help">{starts.find((one) => one.value === start)?.help ?? 'A copy of the template, on the map sets that it reads.'}</p>
				<BringMaterials slug={project.slug} />
			</fieldset>
			<fieldset disabled={start.startsWith('template')}>
				<legend>Map set</legend>
				<SetPicker sets={project.sets} value={set} pick={(next) => (set = next)} />
			</fieldset>
		</form>
	{/if}
	{#snippet actions()}
		<button class="tool plain" onclick={close}>Cancel</button>
		{#if project.sets.length > 0}
			<button class="tool main" form="new-material" disabled={busy}>Create</button>
		{/if}
	{/snippet}
</Sheet>

<style>
	form,
	label {
		display: grid;
		gap: 4px;
	}
	form {
		gap: 16px;
	}
	.starts {
		display: flex;
		flex-wrap: wrap;
		gap: 4px;
		margin: 4px 0;
	}
	.start {
		display: inline-flex;
		align-items: center;
		gap: 4px;
		min-height: 28px;
		padding: 0 10px;
		border: 1px solid var(--line);
		border-radius: 3px;
		cursor: pointer;
	}
	.start:has(:focus-visible) {
		outline: 2px solid var(--accent);
	}
	.start input {
		position: absolute;
		opacity: 0;
	}
	.help {
		font-size: 12px;
		line-height: 16px;
		min-height: 32px;
	}
	fieldset:disabled {
		opacity: 0.5;
	}
	.chosen {
		border-color: var(--accent);
		background: var(--accent-soft);
	}
	.dim {
		color: var(--dim);
	}
</style>
