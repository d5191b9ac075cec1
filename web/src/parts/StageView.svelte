<script lang="ts">
	import { onMount, untrack } from 'svelte';
	import { api, type Lowered, type MaterialDocument, type StageDocument, type StageObject, type StepUse, type Trail } from '../api/client';
	import { Outfits } from '../stage/outfits.svelte';
	import type { Program } from '../stage/program';
	import { stageRenderer } from '../stage/renderer';
	import { TOOLS, type Tool } from '../stage/handles';
	import { lightPart, lowestSun } from '../stage/light';
	import type { Sight } from '../stage/eye';
	import { StageScene } from '../stage/scene';
	import { TilePainter } from '../stage/tiles';
	import type { Side } from '../stage/wardrobe';
	import { catalogue } from '../state/catalogue.svelte';
	import { areasOf, spotsOf, type Spots } from '../state/areas';
	import { eyes } from '../state/eyes';
	import { firstJob } from '../state/firstjob.svelte';
	import { framed, frameOf, handlePaths } from '../state/handles';
	import type { Meshes } from '../state/meshes.svelte';
	import { failed } from '../state/notices.svelte';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import type { Company } from '../state/company.svelte';
	import type { Shaping } from '../state/shaping.svelte';
	import { isMask, maskColours } from '../state/maskcolours.svelte';
	import type { StageState } from '../state/stage.svelte';
	import { snaps } from '../state/snaps.svelte';
	import { theme } from '../state/theme.svelte';
	import type { Clock } from '../state/clock.svelte';
	import AreaHandles from './AreaHandles.svelte';
	import BrushBar from './BrushBar.svelte';
	import ClockBar from './ClockBar.svelte';
	import EyeMarks from './EyeMarks.svelte';
	import FirstJobCard from './FirstJobCard.svelte';
	import Legend from './Legend.svelte';
	import LightPanel from './LightPanel.svelte';
	import Pad from './Pad.svelte';
	import PlacesMenu from './PlacesMenu.svelte';
	import Segments from './Segments.svelte';
	import StageMenu from './StageMenu.svelte';
	import ViewMenu from './ViewMenu.svelte';

	let { session, stage, meshes, slug, company, judge, clock, tool = $bindable(), view = $bindable(), selected, shaping, step, paint, also, select, pick, probed, ready, changed, staged, looked }: {
		session: Session;
		stage: StageState;
		meshes: Meshes;
		slug: string;
		/** Who else has the material open. */
		company: Company | null;
		/** Another stage is looked at. */
		judge: (id: number) => Promise<void>;
		clock: Clock;
		tool: Tool;
		view: string;
		selected: string | null;
		/** What is done to the mesh of the selected object, if anything is. */
		shaping: Shaping | null;
		/** Path of the selected step. */
		step: string | null;
		/** The channel that what is selected reads of what is painted; null if it reads none. */
		paint: string | null;
		/** Objects that are selected beside it. */
		also: string[];
		select: (selection: Selection) => void;
		/** An object was clicked; whether beside what is selected. */
		pick: (id: string, beside: boolean) => void;
		probed: (sight: Sight) => void;
		/** A program took over the stage. */
		ready: (program: Program, painter: TilePainter) => void;
		/** Numbers changed; tiles have to be painted again. */
		changed: () => void;
		/** The scene, as long as there is one. */
		staged: (scene: StageScene | null) => void;
		/** The eye came to rest at another place. */
		looked: () => void;
	} = $props();

	const canvas = stageRenderer().domElement;
	let frame = $state<HTMLDivElement>();
	let scene = $state.raw<StageScene | null>(null);
	let outfits = $state.raw<Outfits | null>(null);
	const program = $derived(outfits?.program ?? null);
	let shaderError = $state<string | null>(null);
	let loading = $state(true);
	/** Counts how often the scene came to hold what the stage says. */
	let furnished = $state(0);

	onMount(() => {
		if (frame === undefined) return;
		// eslint-disable-next-line svelte/no-dom-manipulating -- the canvas goes from stage to stage, so no template can own it
		frame.prepend(canvas);
		const left = new AbortController();
		canvas.addEventListener('pointerdown', (e) => (pressed = { x: e.clientX, y: e.clientY }), left);
		canvas.addEventListener('pointerup', (e) => void click(e), left);
		canvas.addEventListener('pointermove', point, left);
		canvas.addEventListener('pointerleave', () => { clearTimeout(reading); asked += 1; [under, lit] = [null, null]; }, left);
		const made = new StageScene(stageRenderer());
		scene = made;
		made.grounds = new Set(catalogue.value?.meshes.filter((one) => one.ground).map((one) => one.value));
		staged(made);
		const painter = new TilePainter(made);
		const wears = new Outfits(made, {
			session, clock, slug, stage: () => stage, lit: () => view === 'lit', step: () => step,
			taken: (next) => {
				shaderError = null;
				loading = false;
				ready(next, painter);
			},
			finer: changed
		});
		outfits = wears;
		const scale = catalogue.value?.placement.find((one) => one.name === 'scale');
		if (scale !== undefined) made.handles.scales = [scale.hard[0]!, scale.hard[1]!];
		made.onError = (message) => (shaderError = message);
		made.eye.onRest = (eye) => { eyes.put(slug, session.id, stage.id, eye); toward = made.toward; looked(); };
		made.handles.onGrasp = (what) => (what === 'frame' ? session : stage).hold();
		made.handles.onLet = (what) => (what === 'frame' ? session : stage).release();
		made.handles.onFrame = (frame) => {
			for (const [path, value] of framed(handles, frame, (one) => session.value(one))) session.set(path, value);
		};
		made.onPieces = () => wears.dress();
		made.onPicture(() => (pictures += 1));
		// What is selected beside it goes along.
		made.handles.onObject = (id, change) => { for (const one of stage.drag(id, change, also)) made.place($state.snapshot(one) as StageObject); };
		session.onNumbers = numbers;
		session.onBridge = (standIn, plan) => {
			const use = standIn !== null && wears.drawn;
			if (use) wears.program?.fill(standIn);
			made.stand(use);
			if (!use) wears.run(plan);
			return made.standing ? made.drawnNext() : null;
		};
		session.canRun = (plan) => wears.runner(plan) !== null;
		session.onForeseen = (lowered) => wears.foresee(lowered);
		clock.onTime = () => wears.tick();
		const observer = new ResizeObserver(() => made.resize(frame?.clientWidth ?? 0, frame?.clientHeight ?? 0));
		observer.observe(frame);
		made.resize(frame.clientWidth, frame.clientHeight);
		const shared = window as unknown as { riltaStage?: StageScene };
		shared.riltaStage = made;
		return () => {
			clock.pause();
			observer.disconnect();
			wears.dispose();
			made.dispose();
			left.abort();
			staged(null);
			delete shared.riltaStage;
			canvas.remove();
		};
	});

	/** Another stage: what stands on it, and the eye where it was. */
	$effect(() => {
		const [made, current] = [scene, stage];
		if (made === null) return;
		current.onProblem = (message) => failed('The stage', new Error(message));
		current.onMerged = () => void furnish(made, current);
		untrack(() => {
			const eye = eyes.get(slug, session.id, current.id) ?? current.document.camera;
			if (eye !== undefined) made.eye.look(eye);
			toward = made.toward;
			// Where nobody has looked from yet, all of it is seen.
			void furnish(made, current).then(() => { if (eye === undefined && scene === made && stage === current) made.frame(null); });
		});
	});
	async function furnish(made: StageScene, current: StageState): Promise<void> {
		for (const error of await made.show(current.snapshot())) failed('A mesh could not be loaded', error);
		if (scene !== made || stage !== current) return;
		// What is measured of the stage is measured again once its objects are there.
		furnished += 1;
		outfits?.dress();
		looked();
	}

	/** Another step is selected: its choices are likely to be changed. */
	$effect(() => {
		if (step !== null && program !== null) outfits?.train();
	});

	/** New numbers: the next frame shows them; nothing is sent. */
	let tiles = 0;
	function numbers(): void {
		if (scene?.running === true) outfits?.run(session.planned());
		// Numbers of a structure that waits for its code come with the code.
		if (!session.current || outfits?.drawn !== true) return;
		outfits.program?.fill(session.dressed);
		outfits.dress();
		scene?.redraw();
		// Tiles follow at a calmer pace than the stage.
		if (tiles === 0) tiles = window.setTimeout(() => { tiles = 0; changed(); }, 250);
	}

	/** What is held is seen beside what it was. */
	$effect(() => {
		const before = session.before;
		scene?.split(before === null || program === null ? null : program.numbers(before));
	});

	/** New structure: other code, the same textures where possible. */
	$effect(() => {
		const [lowered, wears] = [session.lowered, outfits];
		// Only new code is a reason to run again; what happens on the way there is not.
		if (lowered !== null && wears !== null) untrack(() => void wears.takeOver(lowered));
	});

	const views = $derived(program?.lowered.views ?? []);
	$effect(() => {
		const index = views.findIndex((one) => one.name === view);
		// A view of what was just made is asked for before there is code for it: it is waited for.
		if (view !== 'lit' && lightPart(view) === undefined && outfits?.drawn === true && session.current && index < 0) view = 'lit';
		scene?.view(view === 'lit' ? '' : view, isMask(view) && maskColours.two ? { none: maskColours.none, all: maskColours.all } : null);
	});
	$effect(() => scene?.light($state.snapshot(stage.document.light)));
	/** Whether the sun stands where the pointer is. */
	let follows = $state(false);
	$effect(() => {
		if (!follows) return;
		const current = stage;
		current.hold();
		return () => current.release();
	});
	/** The way the eye looks, degrees to the right of -z. */
	let toward = $state(0);
	function sunTo(event: PointerEvent): void {
		if (scene === null) return;
		const { turn, height } = scene.over(event.clientX - canvas.getBoundingClientRect().left, event.clientY - canvas.getBoundingClientRect().top);
		stage.relight({ turn, height: Math.max(lowestSun(), height) });
	}
	$effect(() => void canvas.classList.toggle('probing', tool === 'probe' && !painting));
	$effect(() => {
		void theme.mode;
		scene?.background(theme.colour('stage'));
	});

	/** After an object was placed by numbers. */
	export function placed(object: StageObject): void {
		scene?.place(object);
		outfits?.dress();
	}

	/** What of the selected step is dragged on the stage: the two axes of a pad, or a frame. */
	const use = $derived(step === null ? undefined : (session.value(step) as StepUse | undefined));
	const shown = $derived(use === undefined ? [] : catalogue.shown(use));
	const handles = $derived(step === null ? {} : handlePaths(step, shown));
	const pad = $derived(handles.x === undefined || handles.y === undefined ? null : { x: handles.x, y: handles.y });
	const grip = $derived(use === undefined ? null : frameOf(session.dressed, use, shown));
	/** Rectangles of the selected step, and where their coordinate is seen. */
	const areas = $derived(use === undefined || step === null ? [] : areasOf(session.dressed, step, use, shown));
	let pictures = $state(0);
	let spots = $state.raw<Spots | null>(null);
	$effect(() => {
		void pictures;
		const name = `area:${step ?? ''}`;
		// While something is dragged, what lies before it stays.
		if (untrack(() => session.dragging && spots !== null)) return;
		spots = areas.length > 0 && scene !== null && outfits?.drawn === true && views.some((one) => one.name === name) ? spotsOf(scene.pictures.numbers(name)) : null;
	});
	/** The object whose frame an object's projection is shown in. */
	let anchor = $state<string | null>(null);
	$effect(() => { if (selected !== null) anchor = selected; });
	$effect(() => {
		void furnished;
		scene?.grasp(painting || shaping !== null || (selected !== null && stage.object(selected)?.locked === true) ? null : selected, grip === null ? null : { ...grip, anchor }, tool);
	});

	/** What is under the pointer while a station or a channel is shown. */
	let under = $state.raw<Trail | null>(null);
	/** The same of a part of the light. */
	let lit = $state.raw<number[] | null>(null);
	const shownView = $derived.by((): Lowered['views'][number] | undefined => {
		const part = lightPart(view);
		return part === undefined ? views.find((one) => one.name === view) : { name: part.value, label: part.label, path: '', group: '', form: false, reading: part.label, legend: [{ colours: [], text: part.help }] };
	});
	/** Masks in two colours of the user's own have those in their legend. */
	function legendOf(shown: Lowered['views'][number]): Lowered['views'][number] {
		if (!isMask(shown.name) || !maskColours.two) return shown;
		const css = (colour: number[]): string => `rgb(${colour.map((part) => Math.round(part * 255)).join(' ')})`;
		return { ...shown, legend: shown.legend.map((entry, i) => ({ ...entry, colours: [css(i === 0 ? maskColours.none : maskColours.all)] })) };
	}
	/** The stage as the probe has to know it: what wears the open material wears what is seen here, stored or not. */
	const probedStage = (): StageDocument => stage.judged(session.id);
	const READ_AFTER = 90;
	let reading = 0;
	let asked = 0;
	function point(event: PointerEvent): void {
		clearTimeout(reading);
		if (follows && event.buttons === 0) sunTo(event);
		if (shaping?.by === 'list' && event.buttons === 1 && scene !== null) {
			const at = canvas.getBoundingClientRect();
			const face = scene.faceAt(event.clientX - at.left, event.clientY - at.top, shaping.id, shaping.reach);
			if (face !== null) shaping.pick(face.triangle, face.normal, event.shiftKey, face.around);
		}
		if (shownView === undefined || event.buttons !== 0 || scene === null) return;
		const box = canvas.getBoundingClientRect();
		if (lightPart(view) !== undefined) {
			const [x, y] = [event.clientX - box.left, event.clientY - box.top];
			reading = window.setTimeout(() => (lit = scene?.pictures.colourAt(x, y) ?? null), READ_AFTER);
			return;
		}
		const sight = scene.sight(event.clientX - box.left, event.clientY - box.top);
		reading = window.setTimeout(() => {
			const mine = ++asked;
			api.probe(slug, { document: session.seen, stage: probedStage(), seconds: clock.seconds, variant: session.variant, ...sight }).then(
				(trail) => { if (mine === asked) under = trail; },
				() => {}
			);
		}, READ_AFTER);
	}
	$effect(() => {
		void view;
		[under, lit] = [null, null];
	});

	/** What documents are drawn with, beside the open material. */
	export async function sides(use: string, documents: readonly (MaterialDocument | null)[]): Promise<(Side | null)[]> {
		return (await outfits?.sides(use, documents)) ?? documents.map(() => null);
	}

	/** Faces are picked by dragging over them; the eye is turned with the other buttons meanwhile. */
	$effect(() => scene?.eye.turns(shaping?.by !== 'list'));
	/** Whether the eye walks. */
	let walking = $state(false);
	$effect(() => { if (painting) untrack(() => walk(false)); });
	export function walk(on: boolean): void {
		walking = on;
		scene?.walk.take(on);
	}
	$effect(() => scene?.handles.snap(snaps.metres, snaps.degrees));

	/** Whether the pointer paints. */
	let painting = $state(false);
	$effect(() => {
		if (paint === null) painting = false;
	});

	let pressed = { x: 0, y: 0 };
	function click(event: PointerEvent): void {
		if (scene === null || painting || walking || event.button !== 0 || Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) > 4) return;
		if (follows) {
			follows = false;
			return;
		}
		const box = canvas.getBoundingClientRect();
		const [x, y] = [event.clientX - box.left, event.clientY - box.top];
		const face = shaping === null ? null : scene.faceAt(x, y, shaping.id, shaping.reach);
		if (shaping !== null && face !== null) {
			shaping.pick(face.triangle, face.normal, event.shiftKey, face.around);
			return;
		}
		if (tool !== 'probe') {
			const id = scene.objectAt(x, y);
			if (id !== null) pick(id, event.shiftKey);
			return;
		}
		probed(scene.sight(x, y));
	}

	/** Reads the point in the middle of the picture, for whoever has no pointer. */
	export function probe(): void {
		if (scene !== null) probed(scene.sight(canvas.clientWidth / 2, canvas.clientHeight / 2));
	}

	const problems = $derived(session.lowered?.problems ?? []);
	/** Goes to where a problem is, as far as there is a place for it. */
	function go(path: string): void {
		const step = /^\/lanes\/\d+\/steps\/\d+/.exec(path);
		const layer = /^\/layers\/(\d+)/.exec(path);
		if (step !== null) select({ kind: 'step', path: step[0] });
		else if (layer !== null) select({ kind: 'layer', index: Number(layer[1]) });
	}
</script>

<div class="stage" bind:this={frame}>
	<div class="bar">
		<Segments label="Tool" quiet options={TOOLS} value={tool} choose={(next) => (tool = next as Tool)} />
		<div class="eye" role="group" aria-label="Eye">
			<button class="tool plain" title="Moves the eye to where it sees all objects" onclick={() => scene?.frame(null)}>See all</button>
			<button class="tool plain" title="Moves the eye to the selected object" disabled={selected === null} onclick={() => selected !== null && scene?.frame([selected, ...also])}>See selected</button>
			<button class="tool plain" aria-pressed={walking} title="Through the scene at eye height: W, A, S, D or the arrows go, Q and E or the pointer turn, Shift hurries" onclick={() => walk(!walking)}>Walk</button>
			<PlacesMenu {stage} {company} look={(place) => scene?.look(place)} away={(times) => scene?.away(times)} here={() => scene?.seen} />
		</div>
		<LightPanel {stage} bind:follows {toward} />
		<span class="gap"></span>
		<div class="on"><StageMenu {stage} brief {judge} /></div>
		<ViewMenu {views} bind:view />
	</div>
	{#if paint !== null && scene !== null}<BrushBar painter={scene.painter} {stage} {slug} {meshes} sections={(of) => scene!.sections(of)} channel={paint} {selected} bind:on={painting} />{/if}
	{#if shownView !== undefined}<div class="legend-place"><Legend view={legendOf(shownView)} {under} {lit} /></div>{/if}
	{#if session.before !== null}<div class="halves" aria-hidden="true"><span>before</span><span>now</span></div>{/if}
	{#if spots !== null && areas.length > 0}<AreaHandles {session} {areas} {spots} />{/if}
	{#if pad !== null}
		<div class="pad-place">
			<Pad x={Number(session.value(pad.x))} y={Number(session.value(pad.y))} hold={() => session.hold()} release={() => session.release()}
				move={(x, y) => { session.set(pad.x, x); session.set(pad.y, y); }} />
		</div>
	{/if}
	{#if program?.lowered.clock.runs === true}<div class="time"><ClockBar {clock} /></div>{/if}
	{#if scene !== null && company !== null && company.others.length > 0}<EyeMarks others={company.others} {scene} />{/if}
	{#if firstJob.on(session.id)}<FirstJobCard {session} {stage} {slug} />{/if}
	{#if loading}<p class="loading" aria-busy="true">Preparing the stage …</p>{/if}
	{#if shaderError !== null}
		<pre class="trouble" role="alert"><strong>The shader does not compile.</strong> The last picture stays until it does.
{shaderError}</pre>
	{:else if session.trouble.length > 0}
		<div class="trouble" role="alert">
			<strong>The material cannot be shown as it is.</strong>
			{#each session.trouble as one (one.path + one.message)}<p>{one.path} {one.message}</p>{/each}
		</div>
	{:else if problems.length > 0}
		<div class="trouble left" role="alert">
			<strong>{problems.length === 1 ? 'One part is' : `${problems.length} parts are`} left out; the rest is shown, and nothing of the document is lost.</strong>
			{#each problems.slice(0, 4) as one (one.path + one.message)}
				<p><button class="place" onclick={() => go(one.path)}>{one.path === '' ? 'The document' : one.path}</button> {one.message}</p>
			{/each}
			{#if problems.length > 4}<p>and {problems.length - 4} more</p>{/if}
		</div>
	{/if}
</div>

<style>
	.stage {
		position: relative;
		min-width: 0;
		min-height: 0;
		overflow: hidden;
		background: var(--stage);
	}
	.stage > :global(canvas) {
		display: block;
		width: 100%;
		height: 100%;
	}
	.stage > :global(.probing) {
		cursor: crosshair;
	}
	.bar {
		position: absolute;
		left: 8px;
		right: 8px;
		top: 8px;
		display: flex;
		gap: 8px;
		pointer-events: none;
		--beside: 10px;
	}
	.bar > :global(*) {
		pointer-events: auto;
	}
	.bar .gap {
		flex: 1 0 0;
		pointer-events: none;
	}
	.eye {
		display: flex;
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 3px;
	}
	.on {
		flex: 0 0 auto;
		width: 126px;
		background: var(--panel);
		border-radius: 3px;
	}
	.legend-place {
		position: absolute;
		right: 8px;
		top: 44px;
		pointer-events: none;
	}
	.halves {
		position: absolute;
		inset: 0;
		display: grid;
		grid-template-columns: 1fr 1fr;
		align-items: end;
		pointer-events: none;
		background: linear-gradient(90deg, transparent calc(50% - 1px), var(--accent) calc(50% - 1px), var(--accent) calc(50% + 1px), transparent calc(50% + 1px));
	}
	.halves span {
		justify-self: end;
		margin: 0 8px 12px;
		padding: 2px 8px;
		border-radius: 3px;
		background: var(--panel);
		font-size: 12px;
	}
	.halves span:last-child {
		justify-self: start;
	}
	.pad-place {
		position: absolute;
		right: 8px;
		bottom: 8px;
	}
	.time {
		position: absolute;
		left: 8px;
		bottom: 8px;
	}
	.loading {
		position: absolute;
		inset: 0;
		display: grid;
		place-items: center;
		color: var(--dim);
		pointer-events: none;
	}
	.place {
		padding: 0;
		border: 0;
		background: none;
		color: var(--accent);
		font-family: inherit;
		font-size: 12px;
		cursor: pointer;
	}
	.trouble {
		position: absolute;
		left: 8px;
		right: 8px;
		bottom: 8px;
		padding: 8px 12px;
		background: var(--panel);
		border-left: 3px solid var(--brick);
		white-space: pre-wrap;
		font-size: 12px;
	}
	.left {
		white-space: normal;
		border-left-color: var(--amber);
		max-height: 40%;
		overflow: auto;
	}
</style>
