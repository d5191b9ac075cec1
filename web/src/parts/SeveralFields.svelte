<script lang="ts">
	import { ArrowDownToLine, Copy, Trash2 } from '@lucide/svelte';
	import type { StageObject, Triple } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { allMaterials } from '../state/materials';
	import type { MaterialCard } from '../api/client';
	import { failed } from '../state/notices.svelte';
	import type { Selection } from '../state/selection';
	import type { StageState } from '../state/stage.svelte';
	import NumberField from './NumberField.svelte';

	/** Several objects at once. */
	let { stage, ids, select, grounded }: {
		stage: StageState;
		ids: string[];
		select: (selection: Selection) => void;
		/** Where an object would stand on what is below it, metres; null where there is nothing. */
		grounded: (id: string) => number | null;
	} = $props();

	const objects = $derived(ids.map((id) => stage.object(id)).filter((one) => one !== undefined));
	const free = $derived(objects.filter((one) => one.locked !== true));
	let materials = $state.raw<MaterialCard[]>([]);
	$effect(() => {
		allMaterials(stage.project).then((found) => (materials = found), (error: unknown) => failed('The materials could not be listed', error));
	});
	const position = $derived(catalogue.value?.placement.find((one) => one.name === 'position'));
	let by = $state<Triple>([0, 0, 0]);
	const all = (change: (one: StageObject) => Partial<StageObject>, of = objects): void => {
		stage.changeAll(of.map((one) => ({ id: one.id, change: change(one) })));
		stage.onMerged();
	};
	const rounded = (metres: number): number => Math.round(metres * 1e4) / 1e4;
	function move(): void {
		all((one) => ({ position: one.position.map((metres, axis) => rounded(metres + by[axis]!)) as Triple }), free);
		by = [0, 0, 0];
	}
	function duplicate(): void {
		const copies: StageObject[] = [];
		for (const one of objects) {
			const id = stage.freshId(one.id, copies.map((copy) => copy.id));
			copies.push({ ...($state.snapshot(one) as StageObject), id, name: `${one.name} copy`.slice(0, 120), seed: (one.seed ?? 1) + 1, position: [one.position[0]! + 1, one.position[1]!, one.position[2]! + 1] });
		}
		stage.add(copies);
		const [first, ...also] = copies.map((one) => one.id);
		if (first !== undefined) select({ kind: 'object', id: first, also });
	}
	function drop(): void {
		all((one) => {
			const y = grounded(one.id);
			return y === null ? {} : { position: [one.position[0]!, y, one.position[2]!] as Triple };
		}, free);
	}
	function remove(): void {
		stage.removeAll(free.map((one) => one.id));
		select({ kind: 'surface' });
	}
	const same = $derived(objects.every((one) => one.wears === objects[0]?.wears) ? String(objects[0]?.wears ?? '') : 'several');
</script>

<h2 class="heading">Objects</h2>
<p>{objects.length} are selected. Shift and a click adds one or takes one out; what is dragged takes the others along.</p>
<div class="buttons">
	<button class="tool plain" title="Others like them beside them" onclick={duplicate}><Copy size={14} /> Duplicate</button>
	<button class="tool plain" title="Down, or up, onto what lies below them" onclick={drop}><ArrowDownToLine size={14} /> Drop</button>
	<button class="tool plain" title="Take them off the stage; what is locked stays" disabled={free.length === 0} onclick={remove}><Trash2 size={14} /> Delete</button>
	<button class="tool plain" onclick={() => all(() => ({ hidden: objects[0]?.hidden !== true }))}>{objects[0]?.hidden === true ? 'Show' : 'Hide'}</button>
	<button class="tool plain" onclick={() => all(() => ({ locked: objects[0]?.locked !== true }))}>{objects[0]?.locked === true ? 'Unlock' : 'Lock'}</button>
	<button class="tool plain" title="A seed of its own for each, so that none looks like another" onclick={() => all((one) => ({ seed: 1 + ((objects.indexOf(one) * 7919 + (objects[0]?.seed ?? 1)) % 16_777_215) }))}>Own seeds</button>
</div>
<label class="labelled row">Material
	<select class="field" aria-label="Material that they wear" value={same} onchange={(e) => { const { value } = e.currentTarget; all(() => ({ wears: value === '' ? undefined : Number(value) })); }}>
		{#if same === 'several'}<option value="several">several</option>{/if}
		<option value="">the one that is open</option>
		{#each materials as one (one.id)}<option value={String(one.id)}>{one.name}</option>{/each}
	</select>
</label>
{#if position !== undefined}
	<fieldset>
		<legend>Move all by</legend>
		{#each [0, 1, 2] as axis (axis)}
			<NumberField control={{ ...position, label: 'XYZ'[axis]!, default: 0 }} value={by[axis]!} set={(v) => (by[axis] = v)} hold={() => {}} release={() => {}} />
		{/each}
		<button class="tool plain" disabled={by.every((one) => one === 0) || free.length === 0} onclick={move}>Move</button>
	</fieldset>
{/if}

<style>
	p {
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
	}
	.row .field {
		width: 190px;
	}
	fieldset {
		display: grid;
		gap: 4px;
	}
</style>
