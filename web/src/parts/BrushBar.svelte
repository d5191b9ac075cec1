<script lang="ts">
	import { Paintbrush } from '@lucide/svelte';
	import { Popover, Portal } from '@skeletonlabs/skeleton-svelte';
	import { onMount } from 'svelte';
	import { api, type NumberControl, type StageObject } from '../api/client';
	import type { Brush } from '../stage/brush';
	import type { Ball, BrushMode, Painter } from '../stage/painter';
	import { catalogue } from '../state/catalogue.svelte';
	import type { Meshes } from '../state/meshes.svelte';
	import { done, failed, offered } from '../state/notices.svelte';
	import { paints } from '../state/paints';
	import { insisted } from '../state/retry';
	import { Shaping } from '../state/shaping.svelte';
	import type { StageState } from '../state/stage.svelte';
	import { typesText } from '../state/typing';
	import NumberField from './NumberField.svelte';
	import Segments from './Segments.svelte';

	/** What is painted with, on the objects of the stage. */
	let { painter, stage, slug, meshes, channel, selected, sections, on = $bindable() }: {
		painter: Painter;
		stage: StageState;
		slug: string;
		meshes: Meshes;
		/** That the term reads, "1" for the first. */
		channel: string;
		/** The object that is filled. */
		selected: string | null;
		/** What the sections of a mesh are called. */
		sections: (mesh: string) => Promise<string[]>;
		/** Whether the pointer paints. */
		on: boolean;
	} = $props();

	type Name = 'value' | 'radius' | 'hardness' | 'strength' | 'spacing';
	const of = (all: NumberControl[] | undefined): Record<string, NumberControl> => Object.fromEntries((all ?? []).map((one) => [one.name, one]));
	const controls = of(catalogue.value?.brush);
	const fills = of(catalogue.value?.fill);
	const edgeOf = of(catalogue.value?.shaping).edge!;
	const usual = (name: Name): number => controls[name]!.default;
	let brush = $state<Omit<Brush, 'channel'>>({ value: usual('value'), radius: usual('radius'), hardness: usual('hardness'), strength: usual('strength'), spacing: usual('spacing'), smooths: false });
	let mode = $state<BrushMode>('paint');
	let edge = $state(edgeOf.default);
	let under = $state<number | null>(null);
	let last = $state<string | null>(null);
	let chosen = $derived(channel);
	let working = $state(false);
	const VALUES = [{ value: 0, label: '0' }, { value: 0.5, label: '½' }, { value: 1, label: '1' }];
	const kinds = catalogue.value?.fillKinds ?? [];
	let by = $state('all');
	/** Where a fill begins, and where it is whole. */
	let spans = $state(Object.fromEntries(kinds.flatMap(({ value, span }) => (span === null ? [] : [[value, [...span] as [number, number]]]))) as Record<string, [number, number]>);
	let patches = $state(fills.size!.default);
	let seed = $state(1);
	let section = $state('');
	let names = $state.raw<string[]>([]);
	const filled = $derived(selected ?? last);
	const target = $derived(filled === null ? undefined : stage.object(filled));
	const still = { hold: () => {}, release: () => {} };
	$effect(() => {
		const mesh = target?.mesh;
		if (mesh !== undefined) sections(mesh).then((found) => { names = found; if (!found.includes(section)) section = found[0] ?? ''; }, () => (names = []));
	});

	$effect(() => painter.take(on ? { ...brush, channel: Number(chosen) - 1 } : null, mode));
	onMount(() => {
		painter.onHover = (value) => (under = value);
		painter.onPick = (value) => {
			brush.value = Math.round(100 * value) / 100;
			[mode, brush.smooths] = ['paint', false];
		};
		painter.onRefine = (id, balls, scale) => void (strokes = strokes.then(() => refine(id, balls, scale)));
		painter.onStroke = (id, paint) => {
			last = id;
			// One after another, so that each is a step of its own; none is lost while the server is away.
			const on = stage;
			strokes = strokes.then(() => keep(on, id, paint));
		};
		painter.onMissed = (id, edge) => {
			last = id;
			const across = new Intl.NumberFormat('en', { maximumSignificantDigits: 2 }).format(edge);
			offered(`Nothing was painted: edges of ${stage.object(id)?.name ?? id} are ${across} m long here, and the brush met none of their ends`, 'Refine there', async () => void (mode = 'refine'));
		};
		return () => {
			painter.take(null);
			painter.onStroke = painter.onMissed = painter.onHover = painter.onPick = painter.onRefine = () => {};
		};
	});
	let strokes: Promise<void> = Promise.resolve();
	async function keep(stage: StageState, id: string, paint: Uint8Array): Promise<void> {
		try {
			const name = await insisted(() => paints.keep(slug, paint));
			painter.kept(id, name);
			stage.change(id, { paint: name });
		} catch (error) {
			failed('What was painted could not be kept', error);
		}
	}
	/** Splits triangles of an object where the brush was, or everywhere. */
	async function refine(id: string, around: Ball[], scale: number): Promise<void> {
		working = true;
		last = id;
		await new Shaping(slug, stage, meshes, id).edit({ edit: 'refine', edge: edge / scale, around });
		working = false;
	}
	let [mapName, mapUvs] = $state(['', 2]);
	async function asMap(): Promise<void> {
		if (target === undefined) return;
		working = true;
		try {
			await strokes;
			const { set } = await api.paintMap(slug, { object: $state.snapshot(target) as StageObject, name: mapName.trim(), channel: Number(chosen), set: mapUvs });
			done('The map is in the library', `It is the mask of ${set}, which layers and masks can read along a lane of mesh UV.`);
		} catch (error) {
			failed('No map was made', error);
		} finally {
			working = false;
		}
	}
	async function fill(): Promise<void> {
		if (target === undefined || filled === null) return;
		working = true;
		try {
			await strokes;
			const [from, to] = spans[by] ?? [0, 1];
			const { paint } = await api.fillPaint(slug, { object: $state.snapshot(target) as StageObject, channel: Number(chosen), by, value: brush.value, from, to, size: patches, seed, section });
			stage.change(filled, { paint });
			stage.onMerged();
		} catch (error) {
			failed('It was not filled', error);
		} finally {
			working = false;
		}
	}
	function key(event: KeyboardEvent): void {
		if (!on || event.ctrlKey || event.metaKey || event.altKey || typesText(event.target)) return;
		const value = { '0': 0, '5': 0.5, '1': 1 }[event.key];
		const [least, most] = controls.radius!.hard as [number, number];
		if (value !== undefined) [brush.value, brush.smooths, mode] = [value, false, 'paint'];
		else if (event.key === '+' || event.key === '-') brush.radius = Math.round(1000 * Math.min(most, Math.max(least, brush.radius * (event.key === '+' ? 1.25 : 0.8)))) / 1000;
		else return;
		event.preventDefault();
	}
</script>

<svelte:window onkeydown={key} />
{#snippet number(name: Name)}
	<div class="number"><NumberField control={controls[name]!} value={brush[name]} set={(v) => (brush[name] = v)} {...still} /></div>
{/snippet}
<div class="brush" role="group" aria-label="Brush">
	<button class="tool plain" aria-pressed={on} title="Paint on the objects with the pointer; the eye is turned with the other buttons" onclick={() => (on = !on)}><Paintbrush size={14} /> Paint</button>
	{#if on}
		<Segments label="Channel" quiet options={['1', '2', '3', '4'].map((value) => ({ value, label: value, help: `Channel ${value}` }))} value={chosen} choose={(value) => (chosen = value)} />
		<div class="values" role="group" aria-label="What the pointer does">
			{#each VALUES as one (one.value)}<button class="tool" aria-pressed={brush.value === one.value && !brush.smooths && mode === 'paint'} title="Paints {one.label} (key {one.value === 0.5 ? '5' : one.label})" onclick={() => { [brush.value, brush.smooths, mode] = [one.value, false, 'paint']; }}>{one.label}</button>{/each}
			<button class="tool" aria-pressed={brush.smooths && mode === 'paint'} title="Evens out what is painted" onclick={() => { [brush.smooths, mode] = [!brush.smooths, 'paint']; }}>Smooth</button>
			<button class="tool" aria-pressed={mode === 'pick'} title="The next click takes the value that is there" onclick={() => (mode = mode === 'pick' ? 'paint' : 'pick')}>Pick</button>
			<button class="tool" aria-pressed={mode === 'refine'} title="Splits the triangles under the brush, so that edges of paint are fine" onclick={() => (mode = mode === 'refine' ? 'paint' : 'refine')}>Refine</button>
		</div>
		{#if mode === 'refine'}
			<div class="number wide"><NumberField control={edgeOf} value={edge} set={(v) => (edge = v)} {...still} /></div>
			{@render number('radius')}
		{:else}
			{@render number('value')}
			{@render number('radius')}
		{/if}
		<Popover positioning={{ placement: 'bottom-start' }}>
			<Popover.Trigger class="tool plain" title="Hardness, strength and spacing">More</Popover.Trigger>
			<Portal><Popover.Positioner class="picker-place"><Popover.Content class="floating brush-panel" aria-label="More of the brush">
				{#each ['hardness', 'strength', 'spacing'] as const as name (name)}<NumberField control={controls[name]!} value={brush[name]} set={(v) => (brush[name] = v)} {...still} />{/each}
			</Popover.Content></Popover.Positioner></Portal>
		</Popover>
		<Popover positioning={{ placement: 'bottom-start' }}>
			<Popover.Trigger class="tool plain" disabled={target === undefined} title="Paints all of an object by what its surface is like">Fill</Popover.Trigger>
			<Portal><Popover.Positioner class="picker-place"><Popover.Content class="floating brush-panel" aria-label="Fill">
				<p>Gives {target?.name ?? 'the object'} the value {brush.value} in channel {chosen}.</p>
				<Segments label="By" quiet columns={3} options={kinds} value={by} choose={(value) => (by = value)} />
				{#if spans[by] !== undefined}
					{@const span = spans[by]!}
					{#each ['Begins at', 'Whole at'] as label, i (label)}
						<NumberField control={{ ...fills[by]!, label }} value={span[i]!} set={(v) => (span[i] = v)} {...still} />
					{/each}
				{/if}
				{#if by === 'noise'}
					<NumberField control={fills.size!} value={patches} set={(v) => (patches = v)} {...still} />
					<button class="tool plain" title="Other patches" onclick={() => (seed = (seed % 999) + 1)}>Seed {seed}</button>
				{:else if by === 'section'}
					<select class="field" aria-label="Section that is filled" bind:value={section}>{#each names as name (name)}<option>{name}</option>{/each}</select>
				{/if}
				<button class="tool main" disabled={working} onclick={() => void fill()}>Fill it</button>
				<button class="tool plain" disabled={working} title="Splits all triangles of the object until no edge is longer" onclick={() => filled !== null && target !== undefined && void refine(filled, [], Math.cbrt(target.scale.reduce((product, one) => product * one, 1)))}>Refine all to {edge} m</button>
				{#if filled !== null && painter.coloured(filled)}<button class="tool plain" title="Takes the colours that the vertices have in the file: red, green, blue and alpha for the four channels" onclick={() => filled !== null && painter.fromColours(filled)}>From the file's colours</button>{/if}
				{#if target?.paint !== undefined}<a class="tool plain" href="/api/meshes/{target.mesh}/painted/{target.paint}" download title="The mesh as a GLB file, with what is painted as the colours of its vertices">Save as vertex colours</a>
					<form class="map" onsubmit={(e) => { e.preventDefault(); void asMap(); }}>
						<input class="field" aria-label="Name of the map set" placeholder="Name of a map set" maxlength="80" bind:value={mapName} />
						<select class="field" aria-label="UV set of the map" bind:value={mapUvs}>{#each [1, 2, 3, 4] as one (one)}<option value={one}>UV {one}</option>{/each}</select>
						<button class="tool plain" disabled={working || mapName.trim() === ''} title="Channel {chosen} as the mask of a map set">Make a map</button>
					</form>{/if}
			</Popover.Content></Popover.Positioner></Portal>
		</Popover>
		<output class="figures" aria-label="Painted under the pointer">{working ? '…' : under === null ? '–' : under.toFixed(2)}</output>
	{/if}
</div>

<style>
	.brush {
		position: absolute;
		left: 8px;
		right: 8px;
		top: 44px;
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 4px 6px;
		width: fit-content;
		max-width: calc(100% - 16px);
		padding: 4px;
		border: 1px solid var(--line);
		border-radius: 4px;
		background: var(--panel);
	}
	.values {
		display: flex;
		border: 1px solid var(--line);
		border-radius: 3px;
	}
	.values .tool {
		padding: 0 7px;
	}
	.number {
		width: 104px;
	}
	.wide {
		width: 150px;
	}
	output {
		min-width: 32px;
		text-align: right;
		color: var(--dim);
	}
	:global(.brush-panel) {
		width: 280px;
	}
	.map {
		display: grid;
		grid-template-columns: 1fr auto auto;
		gap: 4px;
	}
	.map .field {
		min-width: 0;
	}
	p {
		color: var(--dim);
	}
</style>
