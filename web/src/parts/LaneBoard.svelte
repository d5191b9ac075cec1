<script lang="ts">
	import { ClipboardPaste, Copy } from '@lucide/svelte';
	import type { Lane, Lowered, MapSet, StepUse } from '../api/client';
	import type { Program } from '../stage/program';
	import type { TilePainter } from '../stage/tiles';
	import { format } from '../state/numbers';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { insertStep, laneText, moveStep, obstacle, readLane } from '../state/lanes.svelte';
	import { done, failed } from '../state/notices.svelte';
	import LaneTile from './LaneTile.svelte';
	import StepPicker from './StepPicker.svelte';

	let { session, program, painter, selection, select, set, tick, shown, show }: {
		session: Session;
		program: Program | null;
		painter: TilePainter | null;
		selection: Selection;
		select: (selection: Selection) => void;
		set: MapSet | undefined;
		/** counts up whenever tiles must be painted again */
		tick: number;
		/** name of the view on the stage */
		shown: string;
		show: (view: string) => void;
	} = $props();

	let dragged = $state<{ lane: number; step: number } | null>(null);
	let over = $state(-1);
	const labelOf = (use: StepUse): string => catalogue.step(use.step)?.label ?? use.step;

	function hover(event: DragEvent, lane: number, at: number): void {
		if (dragged?.lane !== lane) return;
		event.preventDefault();
		over = at;
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

	async function copy(lane: Lane): Promise<void> {
		await navigator.clipboard.writeText(laneText($state.snapshot(lane) as Lane));
		done(`Lane “${lane.name}” copied`, 'Paste it over a lane of this or another material.');
	}

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
			.filter((_, i) => steps[i]?.on !== false)
			.map((step, i) => step.phrase.replace(/\{(\w+)\}/g, (_, name: string) => format(Number(steps[i]?.values[name] ?? 0))))
			.join(' → ');
	}
</script>

<section aria-label="Lanes">
	{#each session.document.lanes as lane, l (lane.id)}
		<div class="lane">
			<header>
				<h2 class="heading">Lane</h2>
				<input class="lane-name" aria-label="Name of the lane" maxlength="120" value={lane.name}
					onchange={(e) => { if (e.currentTarget.value.trim() === '') e.currentTarget.value = lane.name; else session.set(`/lanes/${l}/name`, e.currentTarget.value.trim()); }} />
				<p class="sentence" data-testid="sentence" title={sentence(l)}>{sentence(l)}</p>
				{#if lowered !== null}
					<span class="cost figures" title="Taps are weighted read positions; fetches are map reads per pixel, at most">
						{lowered.cost.taps} {lowered.cost.taps === 1 ? 'tap' : 'taps'} · {lowered.cost.fetches} fetches · {(lowered.cost.bytes / 1048576).toFixed(1)} MiB
					</span>
				{/if}
				<button class="tool small" onclick={() => copy(lane)} title="Copy the lane" aria-label="Copy the lane {lane.name}"><Copy size={14} /></button>
				<button class="tool small" onclick={() => paste(l)} title="Paste a copied lane in place of this one" aria-label="Paste over the lane {lane.name}"><ClipboardPaste size={14} /></button>
			</header>
			<ol>
				{#each lane.steps as use, i (i)}
					<li class:over={dragged?.lane === l && over === i} class:barred={dragged?.lane === l && over === i && obstacle(lane, dragged.step, i) !== null}
						ondragover={(e) => hover(e, l, i)} ondrop={(e) => drop(e, l, i)} ondragleave={() => (over = -1)}>
						{#if i > 0}<span class="joint"><StepPicker place="before {labelOf(use)}" pick={(name) => { insertStep(session, l, i, name); select({ kind: 'step', path: `/lanes/${l}/steps/${i}` }); }} /></span>{/if}
						<LaneTile {session} {use} lane={l} index={i} main={lowered?.lanes[l]?.steps[i]?.mainControl ?? null}
							selected={selection.kind === 'step' && selection.path === `/lanes/${l}/steps/${i}`}
							{select} {program} {painter} {tick} {shown} {show}
							grab={(on) => (dragged = on ? { lane: l, step: i } : null)} />
					</li>
				{/each}
				<li class="ends" class:over={dragged?.lane === l && over === lane.steps.length} ondragover={(e) => hover(e, l, lane.steps.length)} ondrop={(e) => drop(e, l, lane.steps.length)} ondragleave={() => (over = -1)}>
					<span class="joint"><StepPicker place="at the end" pick={(name) => { const at = lane.steps.length; insertStep(session, l, at, name); select({ kind: 'step', path: `/lanes/${l}/steps/${at}` }); }} /></span>
					<div class="maps" aria-label="Maps on this lane">
						{#each set?.maps ?? [] as map (map.id)}
							<img src={map.thumbnail} alt="{map.role} of {set?.name}" title="{map.file}: {map.role}" width="56" height="56" />
						{/each}
					</div>
				</li>
			</ol>
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
		width: 96px;
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
	.maps {
		display: grid;
		grid-template-columns: repeat(3, 56px);
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
