<script lang="ts">
	import { ChevronDown, ChevronUp } from '@lucide/svelte';
	import { Slider } from '@skeletonlabs/skeleton-svelte';
	import { onDestroy, untrack } from 'svelte';
	import type { MaterialDocument } from '../api/client';
	import type { Program } from '../stage/program';
	import type { StageScene } from '../stage/scene';
	import HideRepeat from './HideRepeat.svelte';
	import { StripPainter } from '../stage/strip';
	import { commands, FIELD } from '../state/commands.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { Judging } from '../state/judging.svelte';
	import { curvePath, distanceAt, metres, nearest, placeOf, summary, TICKS, wayOf } from '../state/repetition';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import { panels } from '../state/panels.svelte';
	import { theme } from '../state/theme.svelte';

	/** The surface from half a metre to half a kilometre, and how much of it is seen to come again. */
	let { slug, session, program, scene, tick, glances, select, compare }: {
		slug: string;
		session: Session;
		program: Program | null;
		scene: StageScene | null;
		/** Counts what was drawn anew, and how often the eye came to rest elsewhere. */
		tick: number;
		glances: number;
		select: (selection: Selection) => void;
		/** Looks at the material beside what it would be. */
		compare: (document: MaterialDocument, name: string) => void;
	} = $props();

	const HEIGHT = 52;
	const CURVE = 36;
	const SMALL = { width: 148, height: 34 };

	// The view that it lies in is of one project.
	// svelte-ignore state_referenced_locally
	const judging = new Judging(slug);
	const open = $derived(panels.open('strip'));
	let width = $state(0);
	let canvas = $state<HTMLCanvasElement>();
	/** What lies over the strip. */
	let shelf = $state<'steps' | 'hide' | null>(null);
	/** What was found stays, while it is out of the way. */
	let sought = $state(false);
	const blaming = $derived(shelf === 'steps');
	let pointed = $state<number | null>(null);
	const { curve, current } = $derived(judging);

	/** What is measured is what is seen: with the variant that is shown. */
	const document = $derived($state.snapshot(session.dressed) as MaterialDocument);
	$effect(() => {
		const [now, here] = [document, judging];
		if (!open) return;
		untrack(() => here.follow(now));
		return () => here.stop();
	});

	const painter = $derived(scene === null ? null : new StripPainter(scene));
	$effect(() => {
		const made = painter;
		return () => made?.dispose();
	});
	const plane = $derived(curve?.plane ?? null);
	$effect(() => {
		void tick;
		void theme.mode;
		const [at, on, by] = [program, canvas, painter];
		if (!open || at === null || on === undefined || by === null || plane === null || width < 8 || scene === null) return;
		// Where drawing is slow the stage comes first.
		const later = window.setTimeout(() => by.paint(at, plane, on), scene.slow ? 500 : 0);
		return () => clearTimeout(later);
	});
	onDestroy(() => judging.stop());
	function lay(what: 'steps' | 'hide'): void {
		shelf = shelf === what ? null : what;
		if (what === 'hide') sought = true;
	}
	$effect(() => commands.offer('repetition', () => [
		{ group: 'Repetition', label: open ? 'Fold the strip' : 'Unfold the strip', run: () => panels.put('strip', !open) },
		{ group: 'Repetition', label: 'Which step hides it', can: open && steps.length > 0, lands: '.steps .card', run: () => { if (!blaming) lay('steps'); } },
		{ group: 'Repetition', label: 'Hide the repeat', can: open, lands: `.over ${FIELD}`, run: () => { if (shelf !== 'hide') lay('hide'); } }
	]));

	const away = $derived.by(() => {
		void glances;
		void tick;
		return scene?.eye.distance ?? null;
	});
	const told = $derived(curve === null || pointed === null ? undefined : nearest(curve.places, distanceAt(pointed)));

	/** Steps that could be left out, in the order of the lanes. */
	const steps = $derived(session.document.lanes.flatMap((lane, l) => lane.steps.flatMap((use, s) => (s === 0 || !use.on ? [] : [{ path: `/lanes/${l}/steps/${s}`, label: catalogue.step(use.step)?.label ?? use.step, lane: session.document.lanes.length > 1 ? lane.name : '' }]))));
	$effect(() => {
		if (blaming && current && open) untrack(() => void judging.blame(steps.map((one) => one.path).filter((path) => judging.without[path] === undefined)));
	});
	/** How much a step hides: what it would be without it, less what it is. */
	const hides = (path: string): number | null => (judging.without[path] === undefined || curve === null ? null : judging.without[path].worst.score - curve.worst.score);

	function look(at: number): void {
		pointed = at;
		scene?.from(distanceAt(at));
	}
	function place(event: PointerEvent): number {
		const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
		return (event.clientX - box.left) / Math.max(1, box.width);
	}
</script>

<section class="strip" class:folded={!open} aria-label="Distance strip">
	<header>
		<button class="tool plain fold" aria-expanded={open} title={open ? 'Fold the strip' : 'The surface from 0.5 m to 500 m'} onclick={() => panels.put('strip', !open)}>
			{#if open}<ChevronDown size={14} />{:else}<ChevronUp size={14} />{/if} Repetition
		</button>
		{#if open}
			<p class="said" class:old={!current} class:seen={curve !== null && curve.noticed !== null} aria-live="polite" aria-busy={!current}>
				{#if judging.trouble !== ''}Not measured: {judging.trouble}{:else if curve === null}Being measured …{:else}{summary(curve)}{/if}
			</p>
			<span class="gap"></span>
			{#if told !== undefined && pointed !== null}
				<p class="figures" aria-live="polite">{metres(told.distance)}: <strong>{told.score.toFixed(2)}</strong>{told.score >= 0.1 ? `, every ${metres(told.length)} ${wayOf(told.direction)}` : ''}</p>
			{/if}
			{#if steps.length > 0}<button class="tool plain" aria-pressed={blaming} title="What it would be without each step" onclick={() => lay('steps')}>Which step?</button>{/if}
			<button class="tool plain" aria-pressed={shelf === 'hide'} title="What would hide it, and what that costs" onclick={() => lay('hide')}>Hide the repeat</button>
		{/if}
	</header>
	{#if open}
		{#if blaming}
			<ul class="steps" aria-label="Without each step">
				{#each steps as one (one.path)}
					{@const found = judging.without[one.path]}
					<li>
						<button class="card" title="Select the step" onclick={() => select({ kind: 'step', path: one.path })}>
							<span>Without {one.label}{one.lane === '' ? '' : `, ${one.lane}`}</span>
							<svg viewBox="0 0 {SMALL.width} {SMALL.height}" width={SMALL.width} height={SMALL.height} aria-hidden="true">
								{#if curve !== null}<path class="was" d={curvePath(curve.places, SMALL.width, SMALL.height, false)} />{/if}
								{#if found !== undefined}<path class="line" d={curvePath(found.places, SMALL.width, SMALL.height, false)} />{/if}
							</svg>
							<span class="figures">
								{#if found === undefined}…{:else}{found.worst.score.toFixed(2)}{@const by = hides(one.path) ?? 0}{by > 0.05 ? ': it hides the repeat' : by < -0.05 ? ': it makes it worse' : ': no matter'}{/if}
							</span>
						</button>
					</li>
				{/each}
			</ul>
		{/if}
		{#if sought}<div class="over" hidden={shelf !== 'hide'}><HideRepeat {slug} {session} {document} compare={(other, name) => { shelf = null; compare(other, name); }} /></div>{/if}
		<div class="shown" bind:clientWidth={width}>
			<canvas bind:this={canvas} width={Math.max(8, Math.round(width))} height={HEIGHT} style:height="{HEIGHT}px" aria-hidden="true"></canvas>
			<svg viewBox="0 0 {Math.max(1, width)} {CURVE + 14}" width="100%" height={CURVE + 14} class:old={!current} aria-hidden="true">
				{#if curve !== null}
					{#if curve.noticed !== null}<rect class="noticed" x={placeOf(curve.noticed.from) * width} y="0" width={(placeOf(curve.noticed.to) - placeOf(curve.noticed.from)) * width} height={CURVE} />{/if}
					<path class="area" d={curvePath(curve.places, width, CURVE, true)} />
					<line class="threshold" x1="0" x2={width} y1={(1 - curve.threshold) * CURVE} y2={(1 - curve.threshold) * CURVE} />
					<path class="line" d={curvePath(curve.places, width, CURVE, false)} />
				{/if}
				{#each TICKS as one, i (one)}
					<line class="tick" x1={placeOf(one) * width} x2={placeOf(one) * width} y1={CURVE} y2={CURVE + 3} />
					<text x={placeOf(one) * width} y={CURVE + 12} dx={i === 0 ? 3 : i === TICKS.length - 1 ? -3 : 0} text-anchor={i === 0 ? 'start' : i === TICKS.length - 1 ? 'end' : 'middle'}>{one}{i === TICKS.length - 1 ? ' m' : ''}</text>
				{/each}
			</svg>
			{#if away !== null}
				<Slider class="from" aria-label={['Look from']} min={0} max={1} step={0.005} largeStep={0.03} thumbAlignment="center" value={[placeOf(away)]} getAriaValueText={(d) => metres(distanceAt(d.value))} onValueChange={(d) => look(d.value[0]!)}>
					<Slider.Control class="anywhere" title="Click or drag: look from there" onpointermove={(e) => (pointed = place(e))} onpointerleave={() => (pointed = null)}>
						<Slider.Thumb index={0} class="eye" title="The eye" />
					</Slider.Control>
				</Slider>
			{/if}
			{#if pointed !== null}<span class="pointer" style:left="{100 * pointed}%"></span>{/if}
		</div>
	{/if}
</section>

<style>
	.strip {
		position: relative;
		min-width: 0;
		background: var(--panel);
		border-top: 1px solid var(--line);
	}
	/* Folded, it takes no room of the stage: what opens it lies on its lower edge. */
	.folded {
		height: 0;
		border: 0;
	}
	.folded header {
		position: absolute;
		left: 50%;
		bottom: 0;
		padding: 0;
		background: var(--panel);
		border-radius: 3px 3px 0 0;
		transform: translateX(-50%);
	}
	header {
		display: flex;
		align-items: center;
		gap: 8px;
		height: 26px;
		padding: 0 8px 0 2px;
		font-size: 12px;
	}
	header p {
		margin: 0;
		white-space: nowrap;
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.fold {
		display: flex;
		gap: 4px;
		align-items: center;
		font-weight: 600;
	}
	.said {
		color: var(--dim);
	}
	.seen {
		color: var(--amber);
	}
	.old {
		opacity: 0.5;
	}
	.gap {
		flex: 1;
	}
	.shown {
		position: relative;
	}
	.shown :global(.from) {
		position: absolute;
		inset: 0;
		cursor: pointer;
	}
	.shown :global(.anywhere) {
		height: 100%;
		touch-action: none;
	}
	canvas {
		display: block;
		width: 100%;
		background: var(--well);
	}
	svg {
		display: block;
	}
	.noticed {
		fill: var(--amber);
		opacity: 0.13;
	}
	.area {
		fill: var(--dim);
		opacity: 0.16;
	}
	.line {
		fill: none;
		stroke: var(--text);
		stroke-width: 1.5;
	}
	.was {
		fill: none;
		stroke: var(--dim);
		stroke-dasharray: 2 3;
	}
	.threshold {
		stroke: var(--amber);
		stroke-dasharray: 3 3;
		opacity: 0.7;
	}
	.tick {
		stroke: var(--dim);
	}
	text {
		fill: var(--dim);
		font-size: 10px;
		font-family: var(--font-figures);
	}
	.shown :global(.eye) {
		top: 0;
		width: 2px;
		height: calc(100% - 14px);
		border-radius: 0;
		background: var(--accent);
		box-shadow: none;
		pointer-events: none;
	}
	.pointer {
		position: absolute;
		top: 0;
		bottom: 14px;
		width: 0;
		border-left: 1px solid var(--accent);
		opacity: 0.6;
		pointer-events: none;
	}
	.steps,
	.over {
		position: absolute;
		left: 0;
		right: 0;
		bottom: 100%;
		z-index: 3;
	}
	.steps {
		display: flex;
		gap: 8px;
		margin: 0;
		padding: 8px;
		list-style: none;
		overflow-x: auto;
		background: var(--panel);
		border-top: 1px solid var(--line);
	}
	.card {
		display: grid;
		gap: 4px;
		padding: 6px 8px;
		text-align: left;
		font: inherit;
		font-size: 12px;
		color: inherit;
		background: var(--raised);
		border: 1px solid var(--line);
		border-radius: 4px;
		cursor: pointer;
	}
	.card svg {
		border-bottom: 1px solid var(--line);
	}
</style>
