<script lang="ts">
	import { ClipboardPaste, Copy, CopyPlus, Plus, Trash2 } from '@lucide/svelte';
	import type { Family, Lane, Lowered, SetCard, StepUse } from '../api/client';
	import type { Program } from '../stage/program';
	import type { TilePainter } from '../stage/tiles';
	import { format } from '../state/numbers';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { addLane, inserted, insertStep, moved, laneText, moveStep, obstacle, readLane, riders } from '../state/lanes.svelte';
	import { commands, TILE } from '../state/commands.svelte';
	import { copied, failed } from '../state/notices.svelte';
	import { numberOf } from '../state/parameters';
	import LaneTile from './LaneTile.svelte';
	import StepPicker from './StepPicker.svelte';
	import { insisting } from '../state/pictures';

	let { session, program, painter, selection, select, sets, families, tick, shown, show }: {
		session: Session;
		program: Program | null;
		painter: TilePainter | null;
		selection: Selection;
		select: (selection: Selection) => void;
		sets: SetCard[];
		families: Family[];
		/** counts up whenever tiles must be painted again */
		tick: number;
		/** name of the view on the stage */
		shown: string;
		show: (view: string) => void;
	} = $props();

	/** The lane whose tiles are laid out; the others are told in one line each. */
	const active = $derived.by(() => {
		if (selection.kind === 'step') return Number(/^\/lanes\/(\d+)/.exec(selection.path)?.[1] ?? 0);
		const rides = selection.kind === 'layer' ? session.document.layers[selection.index]?.lane : session.document.layers[0]?.lane;
		return Math.max(0, session.document.lanes.findIndex((lane) => lane.id === rides));
	});

	let dragged = $state<{ lane: number; step: number } | null>(null);
	let over = $state(-1);
	/** Milliseconds that a dragged tile rests over a place before its code is made ready. */
	const HOVERING = 200;
	let hovering = 0;
	const labelOf = (use: StepUse): string => catalogue.step(use.step)?.label ?? use.step;

	function hover(event: DragEvent, lane: number, at: number): void {
		if (dragged?.lane !== lane) return;
		event.preventDefault();
		if (over === at) return;
		over = at;
		const whole = session.document.lanes[lane];
		const from = dragged.step;
		clearTimeout(hovering);
		if (whole !== undefined && at !== from && at !== from + 1 && obstacle(whole, from, at) === null) {
			hovering = window.setTimeout(() => { if (over === at) void session.foresee(moved(lane, from, at)); }, HOVERING);
		}
	}

	function drop(event: DragEvent, l: number, at: number): void {
		event.preventDefault();
		over = -1;
		const lane = session.document.lanes[l];
		if (dragged === null || lane === undefined || dragged.lane !== l || at === dragged.step || at === dragged.step + 1) return;
		const why = obstacle(lane, dragged.step, at);
		if (why !== null) {
			failed('It cannot stand there', new Error(why));
			return;
		}
		select({ kind: 'step', path: `/lanes/${l}/steps/${moveStep(session, l, dragged.step, at)}` });
	}

	const copy = (lane: Lane): Promise<void> => copied(laneText($state.snapshot(lane) as Lane), `Lane “${lane.name}” copied`, 'Paste it over a lane of this or another material.');

	async function paste(l: number): Promise<void> {
		const found = readLane(await navigator.clipboard.readText().catch(() => ''));
		if (typeof found === 'string') {
			failed('Nothing to paste', new Error(found));
			return;
		}
		session.edit((document) => {
			const lane = document.lanes[l];
			if (lane !== undefined) [lane.name, lane.steps] = [found.name, found.steps];
		});
		select({ kind: 'step', path: `/lanes/${l}/steps/0` });
	}

	const lowered = $derived<Lowered | null>(session.lowered);

	/** The lane in words; numbers are those of this moment. */
	function sentence(lane: number): string {
		const steps = session.document.lanes[lane]?.steps ?? [];
		return (lowered?.lanes[lane]?.steps ?? [])
			.map((step, i) => (step === null || steps[i]?.on === false ? '' : step.phrase.replace(/\{(\w+)\}/g, (_, name: string) => now(steps[i], name))))
			.filter((phrase) => phrase !== '')
			.join(' → ');
	}
	/** A number of a phrase, tied or not. */
	function now(use: StepUse | undefined, name: string): string {
		const control = use === undefined ? undefined : catalogue.control(use.step, name);
		return control?.type === 'number' ? format(numberOf(session.dressed, use?.values[name], control)) : '';
	}

	/** The maps that are read along a lane, set by set. */
	function maps(lane: number): { name: string; file: string; role: string; thumbnail: string }[] {
		const names = lowered?.lanes[lane]?.cost.maps ?? [];
		return sets.flatMap((set) => set.maps.filter((map) => names.includes(map.name)).map((map) => ({ name: map.name, file: map.file, role: map.role, thumbnail: map.thumbnail })));
	}

	function drain(l: number): void {
		session.edit((document) => document.lanes.splice(l, 1));
		select({ kind: 'step', path: '/lanes/0/steps/0' });
	}
	function another(like?: Lane): void {
		session.edit((document) => addLane(document, like));
		select({ kind: 'step', path: `/lanes/${session.document.lanes.length - 1}/steps/0` });
	}
	function insert(l: number, at: number, name: string): void {
		insertStep(session, l, at, name, { families, sets });
		select({ kind: 'step', path: `/lanes/${l}/steps/${at}` });
	}
	/** Room for the longest name, so that what lanes do stands in one column; names of more are cut. */
	const letters = $derived(Math.min(20, Math.max(8, ...session.document.lanes.map((lane) => lane.name.length))));
	const most = $derived(catalogue.value?.limits.lanes ?? 0);
	$effect(() => commands.offer('lanes', () => [
		...[active, ...[...session.document.lanes.keys()].filter((l) => l !== active)].flatMap((l) => (session.document.lanes[l]?.steps ?? []).map((use, i) => ({ group: `Step of ${session.document.lanes[l]!.name}`, label: labelOf(use), lands: TILE, run: () => select({ kind: 'step', path: `/lanes/${l}/steps/${i}` }) }))),
		{ group: 'Lanes', label: 'Add a lane', lands: TILE, can: session.document.lanes.length < most, run: () => another() },
		...(catalogue.value?.steps ?? []).filter((step) => !step.origin).map((step) => ({ group: `Insert at the end of ${session.document.lanes[active]?.name}`, label: step.label, lands: TILE, run: () => insert(active, session.document.lanes[active]?.steps.length ?? 0, step.name) }))
	]));
</script>

<section aria-label="Lanes">
	{#each session.document.lanes as lane, l (lane.id)}
		<div class="lane" class:folded={l !== active}>
			<header>
				<h2 class="heading">Lane</h2>
				<input class="lane-name" aria-label="Name of the lane" maxlength="120" value={lane.name} title={lane.name} style:width="calc({letters}ch + 10px)"
					onchange={(e) => { if (e.currentTarget.value.trim() === '') e.currentTarget.value = lane.name; else session.set(`/lanes/${l}/name`, e.currentTarget.value.trim()); }} />
				{#if l === active}
					<p class="sentence" data-testid="sentence" title={sentence(l)}>{sentence(l)}</p>
				{:else}
					<button class="sentence" title="Lay out the tiles of {lane.name}" aria-expanded="false" onclick={() => select({ kind: 'step', path: `/lanes/${l}/steps/0` })}>{sentence(l)}</button>
				{/if}
				{#if lowered?.lanes[l] != null}
					{@const { cost, exactWithin } = lowered.lanes[l]}
					{#if exactWithin !== null}
						<span class="cost figures" title="Further from the world's origin than this, shaders show this lane less exactly than near it: a step turns, sizes or holds it by what differs from place to place, and single precision has no digits left. Bakes and probes are exact everywhere.">exact to {exactWithin < 1000 ? `${Math.floor(exactWithin)} m` : `${(Math.floor(exactWithin / 100) / 10).toFixed(1)} km`}</span>
					{/if}
					<span class="cost figures" title="Taps are weighted read positions of this lane; map reads are those of one pixel, at most; MiB are those of all maps of the material">
						{cost.taps} {cost.taps === 1 ? 'tap' : 'taps'} · {cost.fetches} map {cost.fetches === 1 ? 'read' : 'reads'} · {(lowered.cost.bytes / 1048576).toFixed(1)} MiB
					</span>
				{/if}
				<button class="tool small" onclick={() => copy(lane)} title="Copy the lane" aria-label="Copy the lane {lane.name}"><Copy size={14} /></button>
				<button class="tool small" onclick={() => paste(l)} title="Paste a copied lane in place of this one" aria-label="Paste over the lane {lane.name}"><ClipboardPaste size={14} /></button>
				<button class="tool small" disabled={session.document.lanes.length >= most} onclick={() => another(lane)} title="Duplicate the lane" aria-label="Duplicate the lane {lane.name}"><CopyPlus size={14} /></button>
				<button class="tool small" disabled={session.document.lanes.length < 2 || riders(session.document, lane).length > 0} onclick={() => drain(l)}
					title={riders(session.document, lane).length > 0 ? `${riders(session.document, lane).join(', ')} ride on it` : 'Delete the lane'} aria-label="Delete the lane {lane.name}"><Trash2 size={14} /></button>
				{#if l === session.document.lanes.length - 1}
					<button class="tool small" disabled={session.document.lanes.length >= most} onclick={() => another()} title="Add a lane"><Plus size={14} /> Lane</button>
				{:else}
					<span class="no-add"></span>
				{/if}
			</header>
			{#if l === active}
			<ol>
				{#each lane.steps as use, i (i)}
					<li class:over={dragged?.lane === l && over === i} class:barred={dragged?.lane === l && over === i && obstacle(lane, dragged.step, i) !== null}
						ondragover={(e) => hover(e, l, i)} ondrop={(e) => drop(e, l, i)} ondragleave={() => (over = -1)}>
						{#if i > 0}<span class="joint"><StepPicker {session} change={(name) => inserted(l, i, name, { families, sets })} place="before {labelOf(use)}" pick={(name) => insert(l, i, name)} /></span>{/if}
						<LaneTile {session} {use} lane={l} index={i} main={lowered?.lanes[l]?.steps[i]?.mainControl ?? null}
							selected={selection.kind === 'step' && selection.path === `/lanes/${l}/steps/${i}`}
							{select} {program} {painter} {tick} {shown} {show}
							grab={(on) => (dragged = on ? { lane: l, step: i } : null)} />
					</li>
				{/each}
				<li class="ends" class:over={dragged?.lane === l && over === lane.steps.length} ondragover={(e) => hover(e, l, lane.steps.length)} ondrop={(e) => drop(e, l, lane.steps.length)} ondragleave={() => (over = -1)}>
					<span class="joint"><StepPicker {session} change={(name) => inserted(l, lane.steps.length, name, { families, sets })} place="at the end" pick={(name) => insert(l, lane.steps.length, name)} /></span>
					<div class="maps" aria-label="Maps on this lane">
						{#each maps(l) as map (map.name)}
							<img src={map.thumbnail} alt={map.name} title="{map.file}: {map.role}" width="56" height="56" {@attach insisting()} />
						{:else}
							<p class="nobody">{riders(session.document, lane).length === 0 ? 'No layer rides on this lane.' : 'Nothing is read.'}</p>
						{/each}
					</div>
					<p class="riders" title="Layers on this lane: {riders(session.document, lane).join(', ')}">{riders(session.document, lane).join(', ')}</p>
				</li>
			</ol>
			{/if}
		</div>
	{/each}
</section>

<style>
	section {
		background: var(--panel);
		border-top: 1px solid var(--line);
		overflow: auto;
		padding: 8px 12px;
	}
	header {
		display: flex;
		align-items: baseline;
		gap: 12px;
		margin-bottom: 8px;
	}
	.sentence {
		flex: 1;
		min-width: 0;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.cost {
		color: var(--dim);
		white-space: nowrap;
	}
	ol {
		display: flex;
		align-items: stretch;
		width: max-content;
		min-width: 100%;
	}
	li {
		display: flex;
		align-items: center;
	}
	.joint {
		position: relative;
		display: grid;
		place-items: center;
		width: 36px;
		flex: none;
		align-self: stretch;
	}
	.joint::before {
		content: '';
		position: absolute;
		left: 0;
		right: 0;
		top: 50%;
		height: 2px;
		background: var(--line);
	}
	.joint :global(.insert) {
		position: relative;
	}
	.over > .joint::before {
		background: var(--accent);
		height: 6px;
		margin-top: -2px;
	}
	.barred > .joint::before,
	.barred {
		background: color-mix(in oklch, var(--brick), transparent 70%);
	}
	.lane-name {
		padding: 0 4px;
		height: 22px;
		border: 1px solid transparent;
		border-radius: 3px;
		background: none;
		color: inherit;
		font-weight: 600;
	}
	.lane-name:hover,
	.lane-name:focus {
		border-color: var(--line);
		background: var(--well);
	}
	.small {
		height: 24px;
		padding: 0 4px;
	}
	.lane {
		margin-bottom: 8px;
	}
	.no-add {
		width: 56px;
	}
	.folded {
		margin-bottom: 0;
	}
	.folded header {
		margin-bottom: 4px;
	}
	button.sentence {
		height: 24px;
		padding: 0 4px;
		border: 1px solid transparent;
		border-radius: 3px;
		background: none;
		color: var(--dim);
		text-align: left;
		cursor: pointer;
	}
	button.sentence:hover {
		border-color: var(--line);
		color: inherit;
	}
	.riders,
	.nobody {
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
	}
	.riders {
		/* As high as a tile at most. */
		display: -webkit-box;
		-webkit-box-orient: vertical;
		-webkit-line-clamp: 7;
		line-clamp: 7;
		overflow: hidden;
		max-width: 120px;
		padding-left: 8px;
	}
	.maps {
		display: grid;
		grid-auto-flow: column;
		grid-template-rows: repeat(2, 56px);
		min-width: 60px;
		gap: 4px;
		padding: 4px;
		border: 1px solid var(--line);
		border-radius: 4px;
	}
	.maps img {
		width: 56px;
		height: 56px;
		object-fit: cover;
		border-radius: 2px;
		display: block;
	}
</style>
