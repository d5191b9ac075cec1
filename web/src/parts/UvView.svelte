<script lang="ts">
	import { Trash2 } from '@lucide/svelte';
	import type { BufferGeometry } from 'three';
	import { onMount, untrack, type Snippet } from 'svelte';
	import type { MaterialDocument, NumberControl, OwnMesh, Triple } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { beginning, CHOICES, type By, type Edit, type Shaping, usual } from '../state/shaping.svelte';
	import { theme } from '../state/theme.svelte';
	import { triangleAt, UvPlan } from '../stage/uvplan';
	import NumberField from './NumberField.svelte';
	import Segments from './Segments.svelte';

	/** The UV sets of an object's mesh over the map that rides on them, the faces that are chosen, and what can be done with both. */
	let { shaping, document, mesh, names, geometry, towardEye, backdrop, lead }: {
		shaping: Shaping;
		/** The open material, as it is shown. */
		document: MaterialDocument;
		/** What is known of the mesh, if it is one of the project's own. */
		mesh: OwnMesh | undefined;
		/** What its sections are called. */
		names: string[];
		geometry: (mesh: string) => Promise<BufferGeometry | undefined>;
		towardEye: () => Triple | null;
		/** Picture of a map, if one rides on the sets. */
		backdrop: string | null;
		/** What else may be here. */
		lead: Snippet;
	} = $props();

	let canvas = $state<HTMLCanvasElement>();
	let size = $state({ width: 300, height: 240 });
	let shape = $state.raw<BufferGeometry | null>(null);
	let image = $state.raw<HTMLImageElement | null>(null);
	/** What of the plane is seen: its middle, and pixels to a unit. */
	let sight = $state({ u: 0.5, v: 0.5, scale: 200 });
	let shift = $state.raw<[number, number] | null>(null);
	let [turn, scale, section] = $state([0, 1, '']);
	const object = $derived(shaping.object);
	const controls = $derived(Object.fromEntries((catalogue.value?.shaping ?? []).map((one) => [one.name, one])) as Record<string, NumberControl>);
	let fold = $state(usual('unwrap'));
	let fills = $state(false);
	const still = { hold: () => {}, release: () => {} };

	$effect(() => {
		const asked = object?.mesh;
		if (asked === undefined) return;
		void geometry(asked).then((found) => { if (shaping.object?.mesh === asked) shape = found ?? null; }, () => (shape = null));
	});
	$effect(() => {
		const url = backdrop;
		image = null;
		if (url === null) return;
		const picture = new Image();
		picture.onload = () => { if (backdrop === url) image = picture; };
		picture.src = url;
	});
	/** Asked again as soon as something else is meant. */
	const ASK_AFTER = 120;
	$effect(() => {
		void JSON.stringify(shaping.faces);
		void object?.mesh;
		const later = setTimeout(() => void shaping.look(), ASK_AFTER);
		return () => clearTimeout(later);
	});
	$effect(() => { if (shaping.by === 'section' && !names.includes(shaping.section)) shaping.section = names[0] ?? ''; });

	const plan = $derived(shape === null ? null : new UvPlan(shape, shaping.set - 1));
	const sets = $derived(shape === null ? [] : [1, 2, 3, 4].map((set) => ({ set, there: shape!.hasAttribute(`rilta_TEXCOORD_${set - 1}`), facts: mesh?.sets.find((one) => one.set === set) })));
	const there = $derived(sets.find((one) => one.set === shaping.set)?.there === true);
	const free = $derived(sets.find((one) => !one.there)?.set ?? null);

	function look(): void {
		const box = plan?.box ?? null;
		const [u0, v0, u1, v1] = box === null ? [0, 0, 1, 1] : [Math.min(0, box[0]), Math.min(0, box[1]), Math.max(1, box[2]), Math.max(1, box[3])];
		sight = { u: (u0 + u1) / 2, v: (v0 + v1) / 2, scale: 0.9 * Math.min(size.width / (u1 - u0), size.height / (v1 - v0)) };
	}
	const seen = $derived(`${shaping.id} ${shaping.set} ${plan === null} ${size.width} ${size.height}`);
	$effect(() => {
		void seen;
		untrack(look);
	});
	$effect(() => {
		if (canvas === undefined) return;
		void theme.mode;
		const colours = { line: theme.colour('dim'), chosen: theme.colour('accent'), well: theme.colour('well'), border: theme.colour('text') };
		const density = window.devicePixelRatio;
		[canvas.width, canvas.height] = [size.width * density, size.height * density];
		const context = canvas.getContext('2d');
		if (context === null) return;
		context.setTransform(density, 0, 0, density, 0, 0);
		UvPlan.draw(context, { ...size, ...sight }, plan, shaping.runs ?? [], shift, image, colours);
	});
	onMount(() => {
		const observer = new ResizeObserver(() => { if (canvas?.parentElement != null) size = { width: canvas.parentElement.clientWidth, height: canvas.parentElement.clientHeight }; });
		if (canvas?.parentElement != null) observer.observe(canvas.parentElement);
		return () => observer.disconnect();
	});

	const place = (event: PointerEvent | WheelEvent): [number, number] => {
		const box = canvas!.getBoundingClientRect();
		return [sight.u + (event.clientX - box.left - size.width / 2) / sight.scale, sight.v + (event.clientY - box.top - size.height / 2) / sight.scale];
	};
	let held: { from: [number, number]; moves: boolean; far: boolean } | null = null;
	function down(event: PointerEvent): void {
		canvas!.setPointerCapture(event.pointerId);
		const from = place(event);
		const hit = plan === null ? null : triangleAt(plan, from[0], from[1]);
		const chosen = hit !== null && event.button === 0 && (shaping.runs ?? []).some(([first, count]) => hit >= first && hit < first + count);
		held = { from, moves: chosen, far: false };
	}
	function move(event: PointerEvent): void {
		if (held === null) return;
		const [u, v] = place(event);
		const [du, dv] = [u - held.from[0], v - held.from[1]];
		if (Math.hypot(du, dv) * sight.scale > 4) held.far = true;
		if (!held.far) return;
		if (held.moves) shift = [du, dv];
		else sight = { ...sight, u: sight.u - du, v: sight.v - dv };
	}
	async function up(event: PointerEvent): Promise<void> {
		const [was, by] = [held, shift];
		held = null;
		if (was === null) return;
		if (was.far) {
			if (by !== null) await act({ edit: 'move', shift: by.map((one) => Math.round(one * 1e4) / 1e4) });
			shift = null;
			return;
		}
		const hit = plan === null ? null : triangleAt(plan, ...place(event));
		if (hit !== null && plan !== null) shaping.pick(hit, plan.normal(hit), event.shiftKey);
	}
	function wheel(event: WheelEvent): void {
		event.preventDefault();
		const [u, v] = place(event);
		const by = Math.exp(-event.deltaY / 400);
		sight = { u: u + (sight.u - u) / by, v: v + (sight.v - v) / by, scale: Math.min(1e5, Math.max(4, sight.scale * by)) };
	}

	/** Does something with the faces that are chosen, in the set that is shown. */
	const act = (edit: { edit: string } & Record<string, unknown>): Promise<boolean> => shaping.edit({ set: shaping.set, faces: shaping.faces ?? { by: 'all' }, ...edit });
	const PROJECTIONS: { label: string; help: string; from: () => Triple | null; how: string }[] = [
		{ label: 'X', help: 'Flat, seen along X', from: () => [1, 0, 0], how: 'flat' },
		{ label: 'Y', help: 'Flat, seen from above', from: () => [0, 1, 0], how: 'flat' },
		{ label: 'Z', help: 'Flat, seen along Z', from: () => [0, 0, 1], how: 'flat' },
		{ label: 'Eye', help: 'Flat, as it is seen now', from: () => towardEye(), how: 'flat' },
		{ label: 'Face', help: 'Flat, along the face that was clicked', from: () => shaping.face?.normal ?? null, how: 'flat' },
		{ label: 'Box', help: 'Each face from the side of a box that it faces', from: () => [0, 0, 1], how: 'box' },
		{ label: 'Around', help: 'Around an upright cylinder', from: () => [0, 0, 1], how: 'cylinder' }
	];
	async function project(one: (typeof PROJECTIONS)[number]): Promise<void> {
		const from = one.from();
		if (from !== null) await act({ edit: 'project', how: one.how, from, fill: fills });
	}
	let lane = $state(0);
	async function follow(): Promise<void> {
		if (object !== undefined) await act({ ...$state.snapshot(beginning(document, Math.min(lane, document.lanes.length - 1), object)) as Edit, fill: fills });
	}
	async function assign(): Promise<void> {
		const name = section.trim();
		if (name !== '' && (await shaping.edit({ edit: 'section', name, faces: shaping.faces ?? { by: 'all' } }))) section = '';
	}
	const uvName = $derived((mesh === undefined ? catalogue.value?.uvNames : mesh.uvNames)?.[shaping.set - 1] ?? '');
	const density = (perMetre: number): string => (2048 * perMetre).toFixed(0);
	const unknown = $derived(shaping.faces === null);
</script>

<section class="board" aria-label="UVs and sections">
<header>{@render lead()}</header>
<div class="uvs">
	<div class="plane"><canvas bind:this={canvas} aria-label="UV set {shaping.set}" title="Click a face to choose what it is a part of; drag what is chosen to move it; drag beside it, or turn the wheel, to look elsewhere" onpointerdown={down} onpointermove={move} onpointerup={(e) => void up(e)} onwheel={wheel}></canvas>
		{#if !there}<p class="nothing">The mesh has no UV set {shaping.set}. Make one on the right.</p>{/if}
	</div>
	<fieldset>
		<legend>UV set</legend>
		{#if sets.length > 0}<Segments label="UV set" quiet options={sets.map(({ set, there: is }) => ({ value: String(set), label: is ? String(set) : `(${set})`, help: is ? '' : 'The mesh has none of this number' }))} value={String(shaping.set)} choose={(value) => (shaping.set = Number(value))} />{/if}
		{#each sets.filter((one) => one.set === shaping.set && one.facts !== undefined) as one (one.set)}
			<p>A map of 2048 px gives <span class="figures">{density(one.facts!.median)}</span> px/m{#if one.facts!.highest > 1.05 * one.facts!.lowest}&nbsp;({density(one.facts!.lowest)} … {density(one.facts!.highest)}){/if}{#if one.facts!.overlap > 0.001}; {(100 * one.facts!.overlap).toFixed(0)} % lies over another part{/if}</p>
		{/each}
		<div class="row">
			{#if there}<input class="field" aria-label="Name of the UV set" placeholder="What it is for" maxlength="80" value={uvName} onchange={(e) => { const name = e.currentTarget.value.trim(); if (name !== '' && name !== uvName) void shaping.edit({ edit: 'name', set: shaping.set, name }); else e.currentTarget.value = uvName; }} />{/if}
			<button class="tool plain" disabled={!there || free === null || shaping.busy} title="The same once more under the next free number" onclick={async () => { const to = free; if (to !== null && (await shaping.edit({ edit: 'copy', from: shaping.set, to }))) shaping.set = to; }}>Copy</button>
			<button class="tool plain" disabled={!there || shaping.busy} aria-label="Delete the UV set" title="Leave it out of the mesh" onclick={() => void shaping.edit({ edit: 'drop', set: shaping.set })}><Trash2 size={14} /></button>
			<button class="tool plain" title="See all of it" onclick={look}>See all</button>
		</div>
		<span class="of">Make it anew, for what is chosen</span>
		<div class="row" role="group" aria-label="Project">
			{#each PROJECTIONS as one (one.label)}<button class="tool plain" disabled={shaping.busy || unknown || (one.label === 'Face' && shaping.face === null)} title={one.help} onclick={() => void project(one)}>{one.label}</button>{/each}
			<button class="tool plain" disabled={shaping.busy || unknown} title="As a lane of the open material begins, where the object stands now: of several faces of a projection, each triangle gets the one that it looks at most" onclick={() => void follow()}>Lane</button>
		</div>
		<div class="row">
			<label class="check"><input type="checkbox" bind:checked={fills} /> Fill 0…1, and not metres</label>
			{#if document.lanes.length > 1}<select class="field" aria-label="Lane that is followed" bind:value={lane}>{#each document.lanes as one, i (one.id)}<option value={i}>{one.name}</option>{/each}</select>{/if}
		</div>
		<div class="row">
			<div class="number"><NumberField control={controls.unwrap!} value={fold} set={(v) => (fold = v)} {...still} /></div>
			<button class="tool plain" disabled={shaping.busy} title="In pieces side by side that do not lie over each other; a new piece where it folds further than that" onclick={() => void shaping.edit({ edit: 'unwrap', set: shaping.set, angle: fold })}>Unwrap</button>
		</div>
	</fieldset>
	<fieldset>
		<legend>Chosen faces <span class="figures">{shaping.runs === null ? '' : shaping.count.toLocaleString('en')}</span></legend>
		<Segments label="Choose by" quiet columns={3} options={CHOICES} value={shaping.by} choose={(value) => (shaping.by = value as By)} />
		{#if shaping.by === 'section'}
			<select class="field" aria-label="Section that is chosen" bind:value={shaping.section}>{#each names as name (name)}<option>{name}</option>{/each}</select>
		{:else if shaping.by === 'list'}
			<NumberField control={controls.reach!} value={shaping.reach} set={(v) => (shaping.reach = v)} {...still} />
		{:else if shaping.by === 'smooth' || shaping.by === 'facing'}
			{@const name = shaping.by}
			<NumberField control={controls[name]!} value={shaping.angles[name]} set={(v) => (shaping.angles[name] = v)} {...still} />
		{/if}
		{#if shaping.busy}
			<p class="row" role="status">Working …{#if shaping.share !== null}&nbsp;<span class="figures">{Math.round(100 * shaping.share)} %</span><button class="tool plain" onclick={() => shaping.giveUp()}>Give up</button>{/if}</p>
		{:else}<p>{unknown ? 'Click a face, here or on the stage.' : 'Click another face to choose another part.'}</p>{/if}
		<div class="row">
			<button class="tool plain" disabled={!there || unknown || shaping.busy} title="What is chosen is stretched over the whole map" onclick={() => void act({ edit: 'move', fill: 'square' })}>Fill 0…1</button>
			<button class="tool plain" disabled={!there || unknown || shaping.busy} title="The same with its ratio of width to height kept" onclick={() => void act({ edit: 'move', fill: 'even' })}>Fit in 0…1</button>
			<button class="tool plain" disabled={!there || unknown || shaping.busy} title="Lessens the stretch of what is chosen: each face is drawn towards its own shape" onclick={() => void act({ edit: 'relax' })}>Even out</button>
		</div>
		<div class="row">
			<div class="number"><NumberField control={controls.turn!} value={turn} set={(v) => (turn = v)} {...still} /></div>
			<div class="number"><NumberField control={controls.scale!} value={scale} set={(v) => (scale = v)} {...still} /></div>
			<button class="tool plain" disabled={!there || unknown || shaping.busy || (turn === 0 && scale === 1)} title="Turns and scales what is chosen about its middle" onclick={async () => { if (await act({ edit: 'move', turn, scale: [scale, scale] })) [turn, scale] = [0, 1]; }}>Apply</button>
		</div>
		<form class="row" onsubmit={(e) => { e.preventDefault(); void assign(); }}>
			<input class="field" aria-label="Name of the section" placeholder="Name of a section" maxlength="80" bind:value={section} list="sections-of-mesh" />
			<datalist id="sections-of-mesh">{#each names as name (name)}<option value={name}></option>{/each}</datalist>
			<button class="tool plain" disabled={section.trim() === '' || unknown || shaping.busy} title="What is chosen becomes a section, which can wear a material of its own">Make it one</button>
		</form>
	</fieldset>
</div>
</section>

<style>
	header {
		display: flex;
	}
	.uvs {
		display: grid;
		grid-template-columns: minmax(200px, 1fr) 330px 300px;
		gap: 12px;
		min-height: 0;
		flex: 1;
	}
	.plane {
		position: relative;
		min-height: 0;
		border: 1px solid var(--line);
		border-radius: 4px;
		background: var(--well);
		overflow: hidden;
	}
	canvas {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
		touch-action: none;
		cursor: crosshair;
	}
	.nothing {
		position: absolute;
		inset: 0;
		display: grid;
		place-items: center;
		pointer-events: none;
	}
	fieldset {
		display: flex;
		flex-direction: column;
		gap: 6px;
		min-width: 0;
		overflow-y: auto;
	}
	legend {
		font-weight: 600;
		margin-bottom: 2px;
	}
	legend .figures {
		color: var(--dim);
		font-weight: 400;
	}
	p,
	.of {
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 4px;
	}
	.row .tool {
		display: flex;
		align-items: center;
		gap: 4px;
		padding: 0 7px;
		border: 1px solid var(--line);
	}
	.row .field {
		flex: 1;
		min-width: 0;
	}
	.number {
		flex: 1;
		min-width: 84px;
	}
	.check {
		display: flex;
		gap: 6px;
		align-items: center;
		font-size: 12px;
	}
</style>
