<script lang="ts">
	import { Trash2 } from '@lucide/svelte';
	import { onMount } from 'svelte';
	import { api, type ContactSheet, type MaterialDocument } from '../api/client';
	import type { Lookout } from '../stage/eye';
	import type { StageScene } from '../stage/scene';
	import { asPng, CELL, cornerOf, ruled, sizeOf } from '../stage/sheet';
	import type { Side } from '../stage/wardrobe';
	import { catalogue } from '../state/catalogue.svelte';
	import type { Comparison } from '../state/comparison.svelte';
	import { done, failed } from '../state/notices.svelte';
	import type { StageState } from '../state/stage.svelte';
	import { theme } from '../state/theme.svelte';
	import { dressed } from '../state/variants';

	/** Contact sheets: variants of the material, from several places of the eye, as one picture that is kept with it. */
	let { comparison, stage, scene, sides }: {
		comparison: Comparison;
		stage: StageState;
		scene: StageScene | null;
		sides: (documents: readonly (MaterialDocument | null)[]) => Promise<(Side | null)[]>;
	} = $props();

	const { session } = $derived(comparison);
	let kept = $state.raw<ContactSheet[]>([]);
	let [without, notFrom] = $state<[string[], string[]]>([[], []]);
	let name = $state('');
	let progress = $state<{ done: number; all: number } | null>(null);
	let stopped = false;
	const variants = $derived([{ id: '', name: 'As written' }, ...(session.document.variants ?? [])]);
	const places = $derived<{ name: string; place: Lookout | null }[]>([{ name: 'As seen now', place: null }, ...(stage.document.places ?? []).map((one) => ({ name: one.name, place: { position: one.position, target: one.target } as Lookout }))]);
	const rows = $derived(variants.filter((one) => !without.includes(one.id)));
	const columns = $derived(places.filter((one) => !notFrom.includes(one.name)));
	/** Whether it is no larger than images that the server takes. */
	const fits = $derived(Object.values(sizeOf(rows.length, columns.length)).every((side) => side <= (catalogue.value?.limits.side ?? 0)));
	onMount(() => {
		api.contactSheets(session.id).then((found) => (kept = found), (error: unknown) => failed('The contact sheets did not come', error));
		return () => (stopped = true);
	});
	const flip = (list: string[], one: string): string[] => (list.includes(one) ? list.filter((other) => other !== one) : [...list, one]);
	const day = (iso: string): string => new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));

	async function make(): Promise<void> {
		if (scene === null) return;
		stopped = false;
		const [from, on, eyes] = [scene, rows, columns];
		progress = { done: 0, all: on.length * eyes.length };
		try {
			const drawn = await sides(on.map((one) => dressed($state.snapshot(session.document) as MaterialDocument, one.id)));
			const now = new Date();
			const title = name.trim() === '' ? session.document.name : name.trim();
			const sheet = ruled({ title, about: `${session.document.name} · ${stage.name} · ${day(now.toISOString())}`, rows: on.map((one) => one.name), columns: eyes.map((one) => one.name) }, { ground: theme.colour('panel'), text: theme.colour('text'), dim: theme.colour('dim'), font: getComputedStyle(document.body).fontFamily });
			const cell = document.createElement('canvas');
			Object.assign(cell, CELL);
			for (const [r, side] of drawn.entries()) {
				for (const [c, { place }] of eyes.entries()) {
					// Whoever works is heard in between.
					await new Promise((resolve) => setTimeout(resolve));
					if (stopped) return;
					from.pictures.from(side, (wears) => wears === null || wears === session.id, place, cell);
					sheet.getContext('2d')?.drawImage(cell, ...cornerOf(r, c));
					progress = { done: progress.done + 1, all: progress.all };
				}
			}
			const made = await api.keepContactSheet(session.id, title.slice(0, 120), await asPng(sheet));
			kept = [made, ...kept];
			name = '';
			done('The contact sheet is kept', `${on.length} × ${eyes.length} pictures`);
		} catch (error) {
			failed('The contact sheet was not made', error);
		} finally {
			progress = null;
		}
	}
	async function rename(sheet: ContactSheet, said: string): Promise<void> {
		if (said.trim() === '' || said.trim() === sheet.name) return;
		try {
			const named = await api.renameContactSheet(sheet.id, said.trim());
			kept = kept.map((one) => (one.id === named.id ? named : one));
		} catch (error) {
			failed('The name was not kept', error);
		}
	}
	async function remove(sheet: ContactSheet): Promise<void> {
		try {
			await api.deleteContactSheet(sheet.id);
			kept = kept.filter((one) => one.id !== sheet.id);
		} catch (error) {
			failed('It was not deleted', error);
		}
	}
</script>

<section class="sheets" aria-label="Contact sheets">
	<form onsubmit={(e) => { e.preventDefault(); void make(); }}>
		<h2 class="heading">New contact sheet</h2>
		<div class="choose" role="group" aria-label="Variants"><span>Variants</span>{#each variants as one (one.id)}<button type="button" class="tool plain" aria-pressed={!without.includes(one.id)} onclick={() => (without = flip(without, one.id))}>{one.name}</button>{/each}</div>
		<div class="choose" role="group" aria-label="Places of the eye"><span>Places</span>{#each places as one (one.name)}<button type="button" class="tool plain" aria-pressed={!notFrom.includes(one.name)} onclick={() => (notFrom = flip(notFrom, one.name))}>{one.name}</button>{/each}</div>
		<div class="make">
			<input class="field" aria-label="Name of the sheet" placeholder={session.document.name} maxlength="120" bind:value={name} />
			{#if progress === null}
				<button class="tool main" disabled={rows.length === 0 || columns.length === 0 || !fits || scene === null}>Make {rows.length} × {columns.length}</button>
				{#if !fits}<span>Leave some out: it would be larger than {catalogue.value?.limits.side} pixels.</span>{/if}
			{:else}
				<progress max={progress.all} value={progress.done} aria-label="Pictures that are drawn"></progress>
				<button type="button" class="tool plain" onclick={() => (stopped = true)}>Stop</button>
			{/if}
		</div>
	</form>
	<ul aria-label="Kept contact sheets">
		{#each kept as sheet (sheet.id)}
			<li>
				<a href={sheet.url} target="_blank" rel="noopener" title="Look at it whole"><img src={sheet.url} alt="Contact sheet {sheet.name}" loading="lazy" /></a>
				<input class="field" aria-label="Name of the contact sheet {sheet.name}" maxlength="120" value={sheet.name} onchange={(e) => void rename(sheet, e.currentTarget.value)} />
				<span class="when">{day(sheet.made)}</span>
				<button class="tool mini" aria-label="Delete the contact sheet {sheet.name}" title="Delete it" onclick={() => void remove(sheet)}><Trash2 size={14} /></button>
			</li>
		{:else}
			<li class="none">None is kept with this material yet. A sheet shows its variants from several places, as one picture with the date.</li>
		{/each}
	</ul>
</section>

<style>
	.sheets {
		display: grid;
		grid-template-columns: minmax(300px, 460px) minmax(0, 1fr);
		gap: 16px;
		min-height: 0;
		padding: 10px 12px;
		background: var(--panel);
		border-top: 1px solid var(--line);
	}
	form {
		display: flex;
		flex-direction: column;
		gap: 8px;
		min-height: 0;
		overflow-y: auto;
	}
	.choose,
	.make {
		display: flex;
		flex-wrap: wrap;
		gap: 4px;
		align-items: center;
		font-size: 12px;
	}
	.choose span {
		width: 56px;
		color: var(--dim);
	}
	.choose .tool {
		border: 1px solid var(--line);
	}
	.choose [aria-pressed='true'] {
		background: var(--accent-soft);
		color: var(--accent);
	}
	.make .field {
		flex: 1;
		min-width: 120px;
	}
	progress {
		width: 120px;
	}
	ul {
		display: flex;
		gap: 12px;
		min-width: 0;
		margin: 0;
		padding: 0;
		list-style: none;
		overflow-x: auto;
	}
	li {
		display: grid;
		grid-template: minmax(0, 1fr) 28px / minmax(0, 1fr) auto 28px;
		gap: 4px 6px;
		align-items: center;
		flex: none;
		width: 300px;
		font-size: 12px;
	}
	li .field {
		min-width: 0;
	}
	li a {
		grid-column: 1 / -1;
		height: 100%;
		min-height: 0;
		background: var(--well);
		border: 1px solid var(--line);
		border-radius: 3px;
		overflow: hidden;
	}
	img {
		width: 100%;
		height: 100%;
		object-fit: contain;
	}
	.when {
		color: var(--dim);
		white-space: nowrap;
	}
	.none {
		display: block;
		width: 340px;
		color: var(--dim);
		line-height: 16px;
	}
</style>
