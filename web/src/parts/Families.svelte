<script lang="ts">
	import { ArrowLeft, ArrowRight, Download, Plus, Trash2, X } from '@lucide/svelte';
	import { api, type Family, type Project } from '../api/client';
	import Acts from './Acts.svelte';
	import { commands } from '../state/commands.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { setPicture } from '../state/materials';
	import { done, failed, offered } from '../state/notices.svelte';
	import { insisting } from '../state/pictures';
	import { works } from '../state/works.svelte';

	/** Families of alternates: their order, what does not fit into arrays, and what looks like one and is none yet. */
	let { project, reload }: { project: Project; reload: () => Promise<void> } = $props();
	const limits = $derived(catalogue.value?.limits);
	let dragged = $state<{ family: number; at: number } | null>(null);

	const picture = (name: string): string => setPicture(project.sets.find((set) => set.name === name));

	async function attempt(what: string, change: () => Promise<unknown>): Promise<void> {
		try {
			await change();
		} catch (error) {
			failed(what, error);
		}
		await reload();
	}
	function reorder(family: Family, from: number, to: number): void {
		if (from === to || to < 0 || to >= family.sets.length) return;
		const sets = [...family.sets];
		const [moved] = sets.splice(from, 1);
		sets.splice(to, 0, moved!);
		void attempt('The order stays', () => api.changeFamily(family.id, { sets }));
	}
	function end(family: Family): void {
		void attempt(`${family.name} stays`, async () => {
			await api.deleteFamily(family.id);
			offered(`${family.name} is no family any more`, 'Bring it back', async () => { await api.createFamily(project.slug, family.name, family.sets); await reload(); });
		});
	}
	async function align(family: Family, set: string): Promise<void> {
		await attempt(`${set} stays as it is`, () => works.settle<object>(api.alignFamily(family.id, set), async () => family));
		const left = project.families.find((one) => one.id === family.id)?.misfits.filter((one) => one.set === set) ?? [];
		if (left.length === 0) done(`${set} fits`, family.name);
	}
	function begin(name: string): void {
		const set = project.sets.find((one) => one.name === name);
		const other = project.sets.find((one) => one.name !== name && !project.families.some((family) => family.sets.includes(one.name)));
		if (set === undefined || other === undefined) return;
		void attempt('No family was made', () => api.createFamily(project.slug, `${name}-family`.slice(0, 80), [name, other.name]));
	}
	const misfits = (family: Family): [string, Family['misfits']][] => {
		const sets = new Map<string, Family['misfits']>();
		for (const one of family.misfits) sets.set(one.set, [...(sets.get(one.set) ?? []), one]);
		return [...sets];
	};
	$effect(() => commands.offer('families', () => project.families.flatMap((family) =>
		misfits(family).filter(([, some]) => some.some((one) => one.mendable)).map(([set]) => ({ group: `Family ${family.name}`, label: `Make ${set} fit`, run: () => void align(family, set) })))));
</script>

<section aria-label="Families">
	<header>
		<h2>Families</h2>
		<span class="dim">Alternates that the step Choose picks from, in the order of their arrays</span>
		<span class="gap"></span>
		<Acts of="families" label="New family with" title="A family that begins with a set" look="plain" acts={project.sets.map((set) => ({ value: set.name, label: set.name, do: () => begin(set.name) }))}><Plus size={14} /> New family with …</Acts>
	</header>
	{#each project.alternates as one (one.name)}
		<p class="hint">{one.sets.join(', ')} go by one name. <button class="link" onclick={() => attempt('No family was made', () => api.createFamily(project.slug, one.name, one.sets))}>Make them a family</button></p>
	{/each}
	<ul class="families">
		{#each project.families as family (family.id)}
			<li class="family" aria-label="Family {family.name}">
				<div class="head">
					<input class="name" aria-label="Name of the family {family.name}" value={family.name} maxlength="80"
						onchange={(e) => attempt('The name stays', () => api.changeFamily(family.id, { name: e.currentTarget.value }))} />
					<span class="dim uses" title={family.uses.map((use) => use.name).join(', ')}>{family.uses.length === 0 ? 'not used' : `chosen from by ${family.uses.map((use) => use.name).join(', ')}`}</span>
					<span class="gap"></span>
					{#if family.misfits.length === 0}
						<a class="tool plain" target="_self" href="/api/families/{family.id}/array.json" download="{family.name}-array.json" title="Which set lies where in arrays, role by role"><Download size={14} /> Index list</a>
					{/if}
					<button class="tool small" aria-label="End the family {family.name}" title="Its sets stay" onclick={() => end(family)}><Trash2 size={14} /></button>
				</div>
				<ol>
					{#each family.sets as set, i (set)}
						<li class="member" draggable="true" aria-label="{set}, number {i}" class:over={dragged?.family === family.id && dragged.at !== i}
							ondragstart={(e) => { dragged = { family: family.id, at: i }; e.dataTransfer?.setData('text/plain', set); }} ondragend={() => (dragged = null)}
							ondragover={(e) => { if (dragged?.family === family.id) e.preventDefault(); }} ondrop={(e) => { e.preventDefault(); if (dragged !== null) reorder(family, dragged.at, i); }}>
							<img src={picture(set)} alt="" width="96" height="64" loading="lazy" draggable="false" {@attach insisting()} />
							<span class="line"><span class="index figures">{i}</span><span class="set" title={set}>{set}</span></span>
							<span class="line">
								<button class="tool small" aria-label="Move {set} forward" disabled={i === 0} onclick={() => reorder(family, i, i - 1)}><ArrowLeft size={13} /></button>
								<button class="tool small" aria-label="Move {set} back" disabled={i === family.sets.length - 1} onclick={() => reorder(family, i, i + 1)}><ArrowRight size={13} /></button>
								<span class="gap"></span>
								<button class="tool small" aria-label="Take {set} out of {family.name}" disabled={family.sets.length <= (limits?.familyFewest ?? 0)} title={family.sets.length <= (limits?.familyFewest ?? 0) ? `A family has at least ${limits?.familyFewest}` : 'Take it out'} onclick={() => attempt('It stays', () => api.changeFamily(family.id, { sets: family.sets.filter((one) => one !== set) }))}><X size={13} /></button>
							</span>
						</li>
					{/each}
					<li class="more">
						<Acts of={family.name} label="Add a set to {family.name}" title="One more alternate" look="plain" disabled={family.sets.length >= (limits?.familyMost ?? 0)}
							acts={project.sets.filter((set) => !family.sets.includes(set.name)).map((set) => ({ value: set.name, label: set.name, do: () => void attempt('It was not added', () => api.changeFamily(family.id, { sets: [...family.sets, set.name] })) }))}><Plus size={14} /> Add …</Acts>
					</li>
				</ol>
				{#each misfits(family) as [set, some] (set)}
					<p class="misfit">{some.map((one) => one.text).join('; ')}.
						{#if some.some((one) => one.mendable)}<button class="link" onclick={() => align(family, set)}>Make {set} fit</button>{/if}
					</p>
				{/each}
			</li>
		{/each}
	</ul>
</section>

<style>
	section {
		max-width: 1640px;
		margin: 0 auto 24px;
	}
	header,
	.head,
	.line {
		display: flex;
		align-items: center;
		gap: 12px;
	}
	header {
		padding-bottom: 6px;
	}
	h2 {
		font-size: 15px;
		font-weight: 600;
	}
	.gap {
		flex: 1;
	}
	.families {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(440px, 1fr));
		gap: 8px;
	}
	.family {
		min-width: 0;
		padding: 8px;
		border: 1px solid var(--line);
		border-radius: 4px;
		background: var(--panel);
	}
	.name {
		width: 150px;
		height: 24px;
		padding: 0 4px;
		border: 1px solid transparent;
		border-radius: 3px;
		background: none;
		color: inherit;
		font-weight: 600;
	}
	.name:hover,
	.name:focus {
		border-color: var(--line);
		background: var(--well);
	}
	.uses {
		min-width: 0;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	ol {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		margin-top: 6px;
	}
	.member {
		width: 112px;
		border: 1px solid var(--line);
		border-radius: 4px;
		overflow: hidden;
		background: var(--raised);
		cursor: grab;
	}
	.member img {
		display: block;
		width: 100%;
		height: 56px;
		object-fit: cover;
	}
	.member .line {
		gap: 4px;
		padding: 2px 4px;
	}
	.index {
		color: var(--accent);
	}
	.set {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
		font-size: 12px;
	}
	.small {
		justify-content: center;
		width: 26px;
		height: 24px;
		padding: 0;
	}
	.misfit {
		margin-top: 6px;
		padding-left: 6px;
		border-left: 3px solid var(--amber);
		font-size: 12px;
		color: var(--dim);
	}
	.link {
		color: var(--accent);
	}
	.dim,
	.hint {
		color: var(--dim);
	}
</style>
