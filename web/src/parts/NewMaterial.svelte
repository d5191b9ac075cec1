<script lang="ts">
	import { api, type Project } from '../api/client';
	import { failed } from '../state/notices.svelte';
	import { router } from '../state/route.svelte';
	import Sheet from './Sheet.svelte';

	let { project, close }: { project: Project; close: () => void } = $props();
	let name = $state('');
	// svelte-ignore state_referenced_locally
	let set = $state(project.sets[0]?.name ?? '');
	let busy = $state(false);
	const chosen = $derived(project.sets.find((s) => s.name === set));

	async function create(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		if (chosen === undefined || name.trim() === '') return;
		busy = true;
		try {
			const material = await api.startMaterial(project.slug, name.trim(), chosen.name);
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
	{:else}
		<form id="new-material" onsubmit={create}>
			<label>Name <input class="field" bind:value={name} required maxlength="120" placeholder="Tide gauge wall" /></label>
			<fieldset>
				<legend>Map set</legend>
				<div class="sets">
					{#each project.sets as one (one.id)}
						<label class="set" class:chosen={one.name === set}>
							<input type="radio" name="set" value={one.name} bind:group={set} />
							<img src={one.maps[0]?.thumbnail} alt="" width="96" height="96" />
							<span>{one.name}</span>
							<span class="figures dim">{one.extent} m</span>
						</label>
					{/each}
				</div>
			</fieldset>
		</form>
	{/if}
	{#snippet actions()}
		<button class="tool plain" onclick={close}>Cancel</button>
		{#if project.sets.length > 0}
			<button class="tool main" form="new-material" disabled={busy || name.trim() === ''}>Create</button>
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
	.sets {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
		gap: 8px;
		margin-top: 4px;
	}
	.set {
		border: 1px solid var(--line);
		border-radius: 4px;
		padding: 4px;
		cursor: pointer;
		gap: 0;
		font-size: 12px;
	}
	.set:has(:focus-visible) {
		outline: 2px solid var(--accent);
	}
	.chosen {
		border-color: var(--accent);
		background: var(--accent-soft);
	}
	.set input {
		position: absolute;
		opacity: 0;
	}
	.set img {
		width: 100%;
		aspect-ratio: 1;
		border-radius: 2px;
	}
	.dim {
		color: var(--dim);
	}
</style>
