<script lang="ts">
	import { Trash2, Upload, Wrench } from '@lucide/svelte';
	import type { OwnMesh } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import type { Meshes } from '../state/meshes.svelte';
	import NumberField from './NumberField.svelte';
	import Segments from './Segments.svelte';

	/** A mesh that somebody brought: what it is, what is wrong with it, and how its file is read. */
	let { mesh, meshes }: { mesh: OwnMesh; meshes: Meshes } = $props();

	let input = $state<HTMLInputElement>();
	/** What is dragged is read when it is let go. */
	let crease = $state<number | null>(null);
	const control = $derived(catalogue.value?.crease);
	const grave = $derived(mesh.findings.some((one) => one.grave));
	/** What is wrong is not hidden; else it is as it was left. */
	let open = $state(false);
	$effect(() => {
		if (grave) open = true;
	});
	const count = (n: number, one: string): string => `${n.toLocaleString('en')} ${one}${n === 1 ? '' : 's'}`;
	const metres = (n: number): string => (n >= 100 ? n.toFixed(0) : n >= 1 ? n.toFixed(2) : n === 0 ? '0' : n.toPrecision(2));
	const read = (change: Partial<OwnMesh['options']>): void => void meshes.change(mesh, { options: { ...mesh.options, ...change } });
	/** Texels a metre that a map of 2048 gives. */
	const density = (perMetre: number): string => (2048 * perMetre).toFixed(0);
</script>

<details bind:open>
	<summary>{mesh.edits > 0 ? 'Mesh, worked on' : 'Mesh of your own'}{#if mesh.findings.length > 0}<span class:grave-mark={grave}>{count(mesh.findings.length, 'finding')}</span>{/if}</summary>
	<label class="labelled row">Name
		<input class="field" aria-label="Name of the mesh" maxlength="120" value={mesh.label} onchange={(e) => { const label = e.currentTarget.value.trim(); if (label === '') e.currentTarget.value = mesh.label; else void meshes.change(mesh, { label }); }} />
	</label>
	<p class="facts figures">{mesh.file}<br />{mesh.size.map(metres).join(' × ')} m · {count(mesh.triangles, 'triangle')}</p>
	{#each mesh.sets as set (set.set)}
		<p class="facts">UV set {set.set}: a map of 2048 px gives <span class="figures">{density(set.median)}</span> px/m{set.highest > 1.05 * set.lowest ? ` (${density(set.lowest)} … ${density(set.highest)})` : ''}</p>
	{/each}
	{#each mesh.findings as finding (finding.code)}
		<div class="finding" class:grave={finding.grave}>
			<p>{finding.text}</p>
			{#if finding.options !== null}
				<button class="tool plain" onclick={() => read(finding.options ?? {})}><Wrench size={14} /> {finding.label}</button>
			{/if}
		</div>
	{/each}
	{#if mesh.edits > 0}
		<p class="facts">Made of {mesh.base === '' ? mesh.file : catalogue.value?.meshes.find((one) => one.value === mesh.base)?.label ?? mesh.base} by {count(mesh.edits, 'change')}{mesh.worked ? ', for this object' : ''}.</p>
		<div class="buttons">
			{#if mesh.worked}<button class="tool plain" title="It is in the tray of meshes from now on" onclick={() => void meshes.change(mesh, { kept: true })}>Keep in the tray</button>{/if}
			<a class="tool plain" href="/api/meshes/{mesh.name}" download="{mesh.label}.glb" title="As a GLB file">Download</a>
			{#if !mesh.worked}<button class="tool plain" onclick={() => void meshes.takeOut(mesh)} title="Out of the tray; objects keep it"><Trash2 size={14} /> Take out</button>{/if}
		</div>
	{:else}
		<Segments label="Up in the file" options={[{ value: 'y', label: 'Y' }, { value: 'z', label: 'Z' }]} value={mesh.options.up} choose={(up) => read({ up: up as 'y' | 'z' })} />
		<label class="labelled row"><span>Faces turned over</span> <input type="checkbox" checked={mesh.options.turned} onchange={(e) => read({ turned: e.currentTarget.checked })} /></label>
		{#if control !== undefined}<NumberField {control} value={crease ?? mesh.options.crease} set={(v) => (crease = v)} hold={() => {}} release={() => { if (crease !== null) read({ crease }); crease = null; }} />{/if}
		{#if mesh.earlier.length > 0}
			<label class="labelled row">Version
				<select class="field" aria-label="Version of the mesh" value={String(mesh.number)} onchange={(e) => void meshes.revert(mesh, Number(e.currentTarget.value))}>
					<option value={String(mesh.number)}>{mesh.number}, now</option>
					{#each [...mesh.earlier].reverse() as one (one.number)}<option value={String(one.number)}>{one.number}: {one.file}, {count(one.triangles, 'triangle')}</option>{/each}
				</select>
			</label>
		{/if}
		<div class="buttons">
			<button class="tool plain" disabled={meshes.sent !== null} onclick={() => input?.click()} title="Another file for the same mesh: what stands on stages and what it wears stays"><Upload size={14} /> Replace</button>
			<a class="tool plain" href="/api/meshes/{mesh.name}/files/0" download title="The file as it came">Download</a>
			<button class="tool plain" onclick={() => void meshes.takeOut(mesh)} title="Out of the tray; objects keep it"><Trash2 size={14} /> Take out</button>
		</div>
		<input bind:this={input} type="file" aria-label="Another file for {mesh.label}" multiple accept=".glb,.gltf,.obj,.bin,.mtl,.zip" hidden
			onchange={(e) => { const files = [...(e.currentTarget.files ?? [])]; e.currentTarget.value = ''; void meshes.bring(files, mesh.name); }} />
	{/if}
</details>

<style>
	details {
		display: grid;
		gap: 8px;
		padding: 8px;
		border: 1px solid var(--line);
		border-radius: 4px;
	}
	summary {
		cursor: pointer;
		font-weight: 600;
	}
	summary span {
		margin-left: 8px;
		color: var(--dim);
		font-size: 12px;
		font-weight: 400;
	}
	summary .grave-mark {
		color: var(--amber);
	}
	details > :global(* + *) {
		margin-top: 8px;
	}
	.row .field {
		width: 160px;
	}
	.facts {
		color: var(--dim);
		font-size: 12px;
		line-height: 18px;
		overflow-wrap: anywhere;
	}
	.finding {
		display: grid;
		justify-items: start;
		gap: 4px;
		padding: 8px;
		border-left: 3px solid var(--line);
		background: var(--well);
		font-size: 12px;
		line-height: 18px;
	}
	.grave {
		border-left-color: var(--amber);
	}
</style>
