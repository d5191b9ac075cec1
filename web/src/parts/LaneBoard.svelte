<script lang="ts">
	import type { Lowered, MapSet } from '../api/client';
	import type { Program } from '../stage/program';
	import type { TilePainter } from '../stage/tiles';
	import { format } from '../state/numbers';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import LaneTile from './LaneTile.svelte';

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
				<h2 class="heading">Lane {lane.name}</h2>
				<p class="sentence" data-testid="sentence">{sentence(l)}</p>
				{#if lowered !== null}
					<span class="cost figures" title="Taps are weighted read positions; fetches are map reads per pixel, at most">
						{lowered.cost.taps} {lowered.cost.taps === 1 ? 'tap' : 'taps'} · {lowered.cost.fetches} fetches · {(lowered.cost.bytes / 1048576).toFixed(1)} MiB
					</span>
				{/if}
			</header>
			<ol>
				{#each lane.steps as use, i (i)}
					<li>
						{#if i > 0}<span class="joint" aria-hidden="true"></span>{/if}
						<LaneTile {session} {use} path="/lanes/{l}/steps/{i}" main={lowered?.lanes[l]?.steps[i]?.mainControl ?? null}
							selected={selection.kind === 'step' && selection.path === `/lanes/${l}/steps/${i}`}
							select={() => select({ kind: 'step', path: `/lanes/${l}/steps/${i}` })}
							{program} {painter} {tick} {shown} {show} />
					</li>
				{/each}
				<li class="ends">
					<span class="joint" aria-hidden="true"></span>
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
	}
	li {
		display: flex;
		align-items: center;
	}
	.joint {
		width: 20px;
		height: 2px;
		background: var(--line);
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
