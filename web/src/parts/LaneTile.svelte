<script lang="ts">
	import { Eye } from '@lucide/svelte';
	import type { StepUse } from '../api/client';
	import type { Program } from '../stage/program';
	import type { TilePainter } from '../stage/tiles';
	import { catalogue } from '../state/catalogue.svelte';
	import type { Session } from '../state/session.svelte';
	import { theme } from '../state/theme.svelte';
	import NumberField from './NumberField.svelte';

	let { session, use, path, main, selected, select, program, painter, tick, shown, show }: {
		session: Session;
		use: StepUse;
		path: string;
		main: string | null;
		selected: boolean;
		select: () => void;
		program: Program | null;
		painter: TilePainter | null;
		tick: number;
		shown: string;
		show: (view: string) => void;
	} = $props();

	let canvas = $state<HTMLCanvasElement>();
	const kind = $derived(catalogue.step(use.step));
	const control = $derived(main === null ? undefined : catalogue.control(use.step, main));
	const view = $derived(`station:${path}`);

	$effect(() => {
		void tick;
		void theme.mode;
		if (canvas === undefined || program === null || painter === null) return;
		const picture = program.lowered.views.findIndex((one) => one.name === view);
		if (picture < 0) return;
		// Where drawing is slow the stage comes first.
		const [at, on] = [program, canvas];
		const later = window.setTimeout(() => void painter.paint(at, picture, on, theme.colour('raised')), painter.patience);
		return () => clearTimeout(later);
	});
</script>

<div class="tile" class:selected>
	<button class="face" onclick={select} aria-pressed={selected} aria-label="{kind?.label ?? use.step}, step of the lane">
		<canvas bind:this={canvas} width="272" height="152" aria-hidden="true"></canvas>
	</button>
	<div class="foot">
		<span class="name">{kind?.label ?? use.step}</span>
		{#if control?.type === 'number' && main !== null}
			<div class="value">
				<NumberField {control} compact value={Number(use.values[main])} set={(v) => session.set(`${path}/values/${main}`, v)}
					hold={() => session.hold()} release={() => session.release()} />
			</div>
		{/if}
		<button class="tool small" aria-pressed={shown === view} title="Show here: the coordinates after this step, on the stage"
			aria-label="Show {kind?.label ?? use.step} on the stage" onclick={() => show(shown === view ? 'lit' : view)}><Eye size={14} /></button>
	</div>
</div>

<style>
	.tile {
		width: 176px;
		border: 1px solid var(--line);
		border-radius: 4px;
		background: var(--raised);
		overflow: hidden;
	}
	.selected {
		border-color: var(--accent);
		box-shadow: 0 0 0 1px var(--accent);
	}
	.face {
		display: block;
		width: 100%;
		padding: 0;
		border: 0;
		cursor: pointer;
		background: none;
	}
	canvas {
		display: block;
		width: 100%;
		height: 94px;
	}
	.foot {
		display: flex;
		align-items: center;
		gap: 4px;
		height: 30px;
		padding: 0 4px 0 8px;
		border-top: 1px solid var(--line);
	}
	.name {
		font-weight: 600;
		flex: 1;
	}
	.value {
		width: 82px;
	}
	.small {
		height: 24px;
		padding: 0 4px;
	}
</style>
