<script lang="ts">
	import { FileInput } from '@lucide/svelte';
	import { api, type BroughtMaterials } from '../api/client';
	import { failed } from '../state/notices.svelte';
	import { router } from '../state/route.svelte';

	/** Materials of another format become map sets and documents of the project. */
	let { slug }: { slug: string } = $props();
	let input = $state<HTMLInputElement | null>(null);
	let share = $state<number | null>(null);
	let brought = $state.raw<BroughtMaterials | null>(null);

	async function bring(files: File[]): Promise<void> {
		if (files.length === 0) return;
		share = 0;
		try {
			const found = await api.bringMaterials(slug, files, (next) => (share = next));
			const [only, more] = found.materials;
			if (only !== undefined && more === undefined && only.left.length === 0 && found.refused.length === 0) router.go(`/${slug}/materials/${only.id}`);
			brought = found;
		} catch (error) {
			failed('The file could not be brought', error);
		} finally {
			share = null;
		}
	}
</script>

<section aria-label="From a file">
	<p>Or from a file of another program, with its textures and how they lie:</p>
	<button type="button" class="tool plain" disabled={share !== null} onclick={() => input?.click()}><FileInput size={14} /> {share === null ? 'GLB, glTF or MaterialX …' : share < 1 ? `${Math.round(100 * share)} %` : 'Reading …'}</button>
	<input bind:this={input} type="file" aria-label="Files of materials" multiple accept=".glb,.gltf,.mtlx,.bin,.zip,.png,.jpg,.jpeg,.webp" hidden
		onchange={(e) => { const files = [...(e.currentTarget.files ?? [])]; e.currentTarget.value = ''; void bring(files); }} />
	{#if brought !== null}
		<ul aria-live="polite">
			{#each brought.materials as one (one.id)}
				<li><a href="/{slug}/materials/{one.id}">{one.name}</a>{#if one.left.length > 0}<small>Not read: {one.left.join(', ')}</small>{/if}</li>
			{/each}
			{#each brought.refused as one (one.file + one.reason)}<li class="wrong" role="alert">{one.reason}</li>{/each}
		</ul>
	{/if}
</section>

<style>
	section {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 8px 16px;
		align-items: center;
	}
	ul {
		grid-column: 1 / -1;
	}
	p,
	small {
		color: var(--dim);
		font-size: 12px;
	}
	small {
		display: block;
	}
	a {
		color: var(--accent);
	}
	.wrong {
		color: var(--brick);
	}
</style>
