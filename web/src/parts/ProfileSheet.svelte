<script lang="ts">
	import { ApiError, type DeliveryProfile } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { called } from '../state/delivered';
	import PackedImages from './PackedImages.svelte';
	import Sheet from './Sheet.svelte';

	/** A profile of the project's own: what is wanted of deliveries, how, and under which names. */
	let { profile, material, keep, close }: {
		profile: DeliveryProfile;
		/** Of the material that is open, as an example. */
		material: string;
		/** Fails with what is wrong. */
		keep: (profile: DeliveryProfile) => Promise<void>;
		close: () => void;
	} = $props();

	// svelte-ignore state_referenced_locally
	let draft = $state<DeliveryProfile>(structuredClone($state.snapshot(profile)) as DeliveryProfile);
	let wrong = $state<{ path: string; message: string }[]>([]);
	let busy = $state(false);
	const offers = $derived(catalogue.value?.delivery ?? null);
	const languages = $derived(catalogue.value?.languages ?? []);
	const meshes = $derived(catalogue.value?.meshes ?? []);
	const formats = $derived(offers?.formats ?? []);
	/** Formats that hold what is wanted: arrays need levels. */
	const mapFormats = $derived(formats.filter((one) => draft.textures === 'single' || one.levels));
	const bake = $derived(draft.bake ?? null);
	const slug = $derived(material.normalize('NFD').replace(/[\u0300-\u036f]/g, '').toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, ''));
	const PATTERN = '{material}_{variant}_{role}';

	function language(name: string, on: boolean): void {
		draft.code = on ? languages.map((one) => one.value).filter((one) => one === name || draft.code?.includes(one)) : draft.code?.filter((one) => one !== name);
	}
	function limit(of: 'disk' | 'memory', to: unknown): void {
		draft.budget = Object.fromEntries(Object.entries({ ...draft.budget, [of]: to }).filter(([, most]) => typeof most === 'number'));
	}
	async function store(): Promise<void> {
		busy = true;
		wrong = [];
		try {
			await keep($state.snapshot(draft) as DeliveryProfile);
			close();
		} catch (error) {
			wrong = error instanceof ApiError && error.problems.length > 0 ? error.problems : [{ path: '', message: error instanceof Error ? error.message : String(error) }];
		} finally {
			busy = false;
		}
	}
	const said = (path: string): string => wrong.filter((one) => one.path === path).map((one) => one.message).join('; ');
	const FIELDS = ['/label', '/maps', '/bake/size', '/bake/normals', '/bake/names', '/glb', '/materialx', '/grid/samples', '/grid/metres', '/budget/disk', '/budget/memory'];
	const rest = $derived(wrong.filter((one) => !FIELDS.includes(one.path) && !one.path.startsWith('/bake/packed/')));
</script>

{#snippet objection(path: string)}{#if said(path) !== ''}<small class="wrong" role="alert">{said(path)}</small>{/if}{/snippet}

<Sheet title="Profile of deliveries" {close}>
	<label class="row">Name <input aria-label="Name" class="field wide" maxlength="120" bind:value={draft.label} /></label>{@render objection('/label')}
	<label class="row">About it <input aria-label="About it" class="field wide" maxlength="400" placeholder="For whom it is" bind:value={draft.help} /></label>
	<fieldset>
		<legend class="heading">Code</legend>
		<div class="several">{#each languages as one (one.value)}<label><input type="checkbox" checked={draft.code?.includes(one.value) ?? false} onchange={(e) => language(one.value, e.currentTarget.checked)} /> {one.label}</label>{/each}</div>
		{#if (draft.code ?? []).length > 0}
			<label class="row">Textures <select aria-label="Textures" class="field" bind:value={() => draft.textures ?? 'arrays', (next) => (draft.textures = next)}><option value="arrays">Maps alike in one array</option><option value="single">Each map by itself</option></select></label>
			<label class="row">Its maps <select aria-label="Its maps" class="field" bind:value={() => draft.maps ?? '', (next) => (draft.maps = next === '' ? null : next)}><option value="">Not with it</option>{#each mapFormats as one (one.value)}<option value={one.value}>{one.label}</option>{/each}</select></label>{@render objection('/maps')}
		{/if}
	</fieldset>
	<fieldset>
		<legend class="heading"><label><input type="checkbox" checked={bake !== null} onchange={(e) => { draft.bake = e.currentTarget.checked ? { size: 512, files: 'png', names: PATTERN } : null; if (draft.bake === null) { draft.glb = null; draft.materialx = false; } }} /> Baked images</label></legend>
		{#if draft.bake != null}
			<label class="row">Pixels a side <select aria-label="Pixels a side" class="field figures" bind:value={draft.bake.size}>{#each offers?.sizes ?? [] as one (one)}<option value={one}>{one}</option>{/each}</select></label>{@render objection('/bake/size')}
			<label class="row">Files <select aria-label="Files" class="field" bind:value={() => draft.bake?.files ?? 'png', (next) => { if (draft.bake != null) draft.bake.files = next; }}>{#each formats as one (one.value)}<option value={one.value}>{one.label}</option>{/each}</select></label>
			<label class="row">Green of normals <select aria-label="Green of normals" class="field" bind:value={() => draft.bake?.green ?? '+y', (next) => { if (draft.bake != null) draft.bake.green = next; }}><option value="+y">Upwards (+Y)</option><option value="-y">Downwards (−Y)</option></select></label>
			<label class="row">Normals have <select aria-label="Normals have" class="field" bind:value={() => draft.bake?.normals ?? 'xyz', (next) => { if (draft.bake != null) draft.bake.normals = next; }}><option value="xyz">All three values</option><option value="xy">Two; the third follows</option></select></label>{@render objection('/bake/normals')}
			<label class="row">Names <input aria-label="Names" class="field wide figures" maxlength="80" spellcheck="false" bind:value={() => draft.bake?.names ?? '{material}_{role}', (next) => { if (draft.bake != null) draft.bake.names = next; }} /></label>{@render objection('/bake/names')}
			<p class="example" data-testid="example">For example <span class="figures">{called(draft.bake.names ?? '{material}_{role}', slug, 'wet', 'roughness')}.{(draft.bake.files ?? 'png').replace('-blocks', '')}</span>, and as it is written <span class="figures">{called(draft.bake.names ?? '{material}_{role}', slug, '', 'roughness')}.{(draft.bake.files ?? 'png').replace('-blocks', '')}</span>. Parts of names: {(offers?.parts ?? []).join(' ')}</p>
			<PackedImages bake={draft.bake} sizes={offers?.sizes ?? []} channels={catalogue.value?.channels ?? []} sources={offers?.sources ?? []} {said} change={(next) => (draft.bake = next)} />
			<label class="row">On a mesh, as GLB <select aria-label="On a mesh, as GLB" class="field" bind:value={() => draft.glb?.mesh ?? '', (next) => (draft.glb = next === '' ? null : { ...draft.glb, mesh: next })}><option value="">No</option>{#each meshes as one (one.value)}<option value={one.value}>{one.label}</option>{/each}</select></label>{@render objection('/glb')}
			{#if draft.glb != null}<label class="row" title="KHR_materials_variants: each variant is baked, and whoever opens the file can switch to it">With its variants <input type="checkbox" aria-label="With its variants" bind:checked={() => draft.glb?.variants === true, (next) => { if (draft.glb != null) draft.glb.variants = next; }} /></label>{/if}
			<label class="row" title="What standard nodes can say stays alive, with its numbers; the rest is read from the tile">As MaterialX too <input type="checkbox" aria-label="As MaterialX too" bind:checked={() => draft.materialx === true, (next) => (draft.materialx = next)} /></label>{@render objection('/materialx')}
		{/if}
	</fieldset>
	<fieldset>
		<legend class="heading"><label><input type="checkbox" checked={draft.grid != null} onchange={(e) => (draft.grid = e.currentTarget.checked ? { samples: 128, metres: 0.5 } : null)} /> A grid of heights and layers, for physics</label></legend>
		{#if draft.grid != null}
			<label class="row">Samples a side <input aria-label="Samples a side" class="field figures" type="number" min={offers?.samples[0]} max={offers?.samples[1]} step="1" bind:value={draft.grid.samples} /></label>{@render objection('/grid/samples')}
			<label class="row">Metres apart <input aria-label="Metres apart" class="field figures" type="number" min="0.001" max="1000" step="any" bind:value={draft.grid.metres} /></label>{@render objection('/grid/metres')}
		{/if}
	</fieldset>
	<fieldset>
		<legend class="heading">At most</legend>
		<label class="row">On disk, MiB <input aria-label="On disk, MiB" class="field figures" type="number" min="0.01" step="any" placeholder="Any" bind:value={() => draft.budget?.disk ?? '', (next) => limit('disk', next)} /></label>{@render objection('/budget/disk')}
		<label class="row">In memory, MiB <input aria-label="In memory, MiB" class="field figures" type="number" min="0.01" step="any" placeholder="Any" bind:value={() => draft.budget?.memory ?? '', (next) => limit('memory', next)} /></label>{@render objection('/budget/memory')}
	</fieldset>
	{#each rest as one (one.path + one.message)}<p class="wrong" role="alert">{one.message}</p>{/each}
	{#snippet actions()}
		<button class="tool plain" onclick={close}>Cancel</button>
		<button class="tool main" disabled={busy} onclick={() => void store()}>Keep</button>
	{/snippet}
</Sheet>

<style>
	.row {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 12px;
		min-height: 32px;
	}
	.row .field {
		width: 248px;
	}
	.row .wide {
		width: 340px;
	}
	fieldset {
		padding-top: 8px;
		border-top: 1px solid var(--line);
	}
	legend {
		float: left;
		width: 100%;
		padding-bottom: 4px;
	}
	legend + * {
		clear: both;
	}
	legend label,
	.several label {
		display: flex;
		align-items: center;
		gap: 6px;
	}
	.several {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 4px 12px;
	}
	.example {
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
	}
	.wrong {
		display: block;
		color: var(--brick);
		font-size: 12px;
		text-align: right;
	}
</style>
