<script lang="ts">
	import { ArrowDownToLine, Copy, Grid3x3, Sprout, Trash2 } from '@lucide/svelte';
	import { api, type MaterialCard, type NumberControl, type StageObject, type Triple, type Variant } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { allMaterials } from '../state/materials';
	import type { Meshes } from '../state/meshes.svelte';
	import { failed } from '../state/notices.svelte';
	import type { StageState } from '../state/stage.svelte';
	import MeshFields from './MeshFields.svelte';
	import NumberField from './NumberField.svelte';
	import PlaceFields from './PlaceFields.svelte';
	import ScatterFields from './ScatterFields.svelte';
	import SectionFields from './SectionFields.svelte';

	/** An object of the stage: its name, where it stands, what it wears, and what can be done with it. */
	let { stage, slug, meshes, object, variants, place, grounded, sections, chosen }: {
		stage: StageState;
		slug: string;
		meshes: Meshes;
		object: StageObject;
		/** Those of the material that is shown. */
		variants: Variant[];
		place: (change: Partial<StageObject>) => void;
		/** Where it would stand on what is below it, metres; null where there is nothing. */
		grounded: () => number | null;
		/** What the sections of a mesh are called. */
		sections: (mesh: string) => Promise<string[]>;
		/** Another is chosen now; null for none. */
		chosen: (id: string | null) => void;
	} = $props();

	/** Materials of the project that it may wear. */
	let materials = $state.raw<MaterialCard[]>([]);
	$effect(() => {
		void object.id;
		allMaterials(slug).then((found) => (materials = found), (error: unknown) => failed('The materials could not be listed', error));
	});
	let names = $state.raw<string[]>([]);
	const own = $derived(meshes.find(object.mesh));
	$effect(() => {
		void own?.number;
		const asked = object.mesh;
		sections(asked).then((found) => { if (object.mesh === asked) names = found; }, () => (names = []));
	});

	let gridded = $state(false);
	let scattering = $state(false);
	const AXES = ['X', 'Y', 'Z'] as const;
	/** What the core says of the numbers of a grid. */
	const controls = $derived(Object.fromEntries((catalogue.value?.copies ?? []).map((control) => [control.name, control])));
	const along = (name: 'count' | 'spacing', axis: string): NumberControl => ({ ...controls[name]!, label: `${controls[name]!.label} along ${axis}` });
	const usual = (name: string): number => catalogue.value?.copies.find((control) => control.name === name)?.default ?? 0;
	// Rows and columns on the ground, before there are courses.
	let counts = $state<Triple>([usual('count'), 1, usual('count')]);
	let spacing = $state<Triple>([usual('spacing'), usual('spacing'), usual('spacing')]);
	let differs = $state({ place: usual('place'), turn: usual('turn'), size: usual('size') });
	let seed = $state(1);
	let busy = $state(false);
	const copied = $derived(counts[0] * counts[1] * counts[2] - 1);

	function duplicate(): void {
		const name = object.name.replace(/( \d+)?$/, (n) => ` ${Number(n.trim() || 1) + 1}`).slice(0, 120);
		const copy = { ...$state.snapshot(object), id: stage.freshId(object.id), name, seed: (object.seed ?? 1) + 1, position: [object.position[0]! + 1, object.position[1]!, object.position[2]! + 1] as Triple } as StageObject;
		stage.add([copy]);
		chosen(copy.id);
	}
	async function copies(): Promise<void> {
		busy = true;
		try {
			const order = { object: $state.snapshot(object) as StageObject, counts: [...counts] as Triple, spacing: [...spacing] as Triple, ...differs, seed, taken: stage.document.objects.map((one) => one.id) };
			stage.add((await api.copies(slug, order)).objects);
			gridded = false;
		} catch (error) {
			failed('The copies were not made', error);
		} finally {
			busy = false;
		}
	}
	function drop(): void {
		const y = grounded();
		if (y !== null) place({ position: [object.position[0]!, y, object.position[2]!] });
	}
</script>

<h2 class="heading">Object</h2>
<label class="name">Name
	<input class="field" maxlength="120" value={object.name} onchange={(e) => { const name = e.currentTarget.value.trim(); if (name === '') e.currentTarget.value = object.name; else place({ name }); }} />
</label>
<div class="buttons">
	<button class="tool plain" title="Another like it beside it" onclick={duplicate}><Copy size={14} /> Duplicate</button>
	<button class="tool plain" title="Copies in rows and columns, each a little different" aria-expanded={gridded} onclick={() => (gridded = !gridded)}><Grid3x3 size={14} /> Grid</button>
	<button class="tool plain" title="Copies all over the surface of another object" aria-expanded={scattering} onclick={() => (scattering = !scattering)}><Sprout size={14} /> Scatter</button>
	<button class="tool plain" title="Down, or up, onto what lies below it" disabled={object.locked === true} onclick={drop}><ArrowDownToLine size={14} /> Drop</button>
	<button class="tool plain" title="Take it off the stage" disabled={object.locked === true} onclick={() => { stage.remove(object.id); chosen(null); }}><Trash2 size={14} /> Delete</button>
</div>
{#if gridded}
	<fieldset class="boxed">
		<legend>Copies in a grid</legend>
		<div class="grid">
			{#each AXES as axis, i (axis)}
				<span class="axis">{axis}</span>
				<NumberField compact control={along('count', axis)} value={counts[i]!} set={(v) => (counts[i] = v)} hold={() => {}} release={() => {}} />
				<NumberField compact control={along('spacing', axis)} value={spacing[i]!} set={(v) => (spacing[i] = v)} hold={() => {}} release={() => {}} />
			{/each}
		</div>
		{#each ['place', 'turn', 'size'] as const as name (name)}
			<NumberField control={controls[name]!} value={differs[name]} set={(v) => (differs[name] = v)} hold={() => {}} release={() => {}} />
		{/each}
		<div class="buttons">
			<button class="tool plain" onclick={() => (seed = (seed + 1) % 1000)} title="Another choice of what differs">Seed {seed}</button>
			<button class="tool main" disabled={busy || copied < 1} onclick={copies}>Make {copied} copies</button>
		</div>
	</fieldset>
{/if}
{#if scattering}<ScatterFields {stage} {object} done={() => (scattering = false)} />{/if}
<label class="name">Material
	<select class="field" aria-label="Material that it wears" value={String(object.wears ?? '')} onchange={(e) => place({ wears: e.currentTarget.value === '' ? undefined : Number(e.currentTarget.value) })}>
		<option value="">the one that is open</option>
		{#each materials as one (one.id)}<option value={String(one.id)}>{one.name}</option>{/each}
		{#if object.wears !== undefined && !materials.some((one) => one.id === object.wears)}<option value={String(object.wears)}>one that is gone</option>{/if}
	</select>
</label>
{#if names.length > 1 || (object.sections ?? []).length > 0}<SectionFields {object} {names} {materials} {variants} {place} />{/if}
{#if own !== undefined}<MeshFields mesh={own} {meshes} />{/if}
{#if object.locked === true}
	<p class="locked">It is locked: unlock it in the list to move it.</p>
{:else}
	<PlaceFields {stage} {object} {place} variants={object.wears === undefined ? variants : []} />
{/if}

<style>
	.name {
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 8px;
	}
	.name .field {
		width: 190px;
	}
	.grid {
		display: grid;
		grid-template-columns: 12px 1fr 1fr;
		align-items: center;
		gap: 4px;
	}
	.axis,
	.locked {
		color: var(--dim);
	}
</style>
