<script lang="ts">
	import { Paintbrush } from '@lucide/svelte';
	import { onMount } from 'svelte';
	import type { NumberControl } from '../api/client';
	import type { Brush } from '../stage/brush';
	import type { Painter } from '../stage/painter';
	import { failed } from '../state/notices.svelte';
	import { paints } from '../state/paints';
	import { passes, pause } from '../state/retry';
	import type { StageState } from '../state/stage.svelte';
	import { typesText } from '../state/typing';
	import NumberField from './NumberField.svelte';
	import Segments from './Segments.svelte';

	/** What is painted with, on the objects of the stage. */
	let { painter, stage, slug, channel, selected, on = $bindable() }: {
		painter: Painter;
		stage: StageState;
		slug: string;
		/** That the term reads, "1" for the first. */
		channel: string;
		/** The object that is filled. */
		selected: string | null;
		/** Whether the pointer paints. */
		on: boolean;
	} = $props();

	let brush = $state<Omit<Brush, 'channel'>>({ value: 1, radius: 0.3, hardness: 0.4, strength: 1, smooths: false });
	let under = $state<number | null>(null);
	let last = $state<string | null>(null);
	let chosen = $derived(channel);
	const number = (name: string, label: string, unit: string, soft: [number, number], hard: [number, number], ratio = false): NumberControl =>
		({ type: 'number', name, label, help: '', unit, default: 0, soft, hard, step: 0.05, ratio }) as unknown as NumberControl;
	const VALUE = number('value', 'Value', '', [0, 1], [0, 1]);
	const RADIUS = number('radius', 'Radius', 'm', [0.02, 5], [0.001, 1000], true);
	const HARDNESS = number('hardness', 'Hardness', '', [0, 1], [0, 1]);
	const STRENGTH = number('strength', 'Strength', '', [0, 1], [0, 1]);
	const VALUES = [{ value: 0, label: '0' }, { value: 0.5, label: '½' }, { value: 1, label: '1' }];
	const filled = $derived(selected ?? last);

	$effect(() => painter.take(on ? { ...brush, channel: Number(chosen) - 1 } : null));
	onMount(() => {
		painter.onHover = (value) => (under = value);
		painter.onStroke = (id, paint) => {
			last = id;
			// One after another, so that each is a step of its own; none is lost while the server is away.
			const on = stage;
			strokes = strokes.then(() => keep(on, id, paint));
		};
		return () => {
			painter.take(null);
			painter.onStroke = () => {};
			painter.onHover = () => {};
		};
	});
	let strokes: Promise<void> = Promise.resolve();
	async function keep(stage: StageState, id: string, paint: Uint8Array): Promise<void> {
		for (let tries = 0; ; tries++) {
			try {
				const name = await paints.keep(slug, paint);
				painter.kept(id, name);
				stage.change(id, { paint: name });
				return;
			} catch (error) {
				if (!passes(error)) {
					failed('What was painted could not be kept', error);
					return;
				}
				await new Promise((resolve) => setTimeout(resolve, pause(tries)));
			}
		}
	}
	function key(event: KeyboardEvent): void {
		if (!on || event.ctrlKey || event.metaKey || event.altKey || typesText(event.target)) return;
		const value = { '0': 0, '5': 0.5, '1': 1 }[event.key];
		if (value !== undefined) brush.value = value;
		else if (event.key === '+' || event.key === '-') brush.radius = Math.round(1000 * Math.min(1000, Math.max(0.001, brush.radius * (event.key === '+' ? 1.25 : 0.8)))) / 1000;
		else return;
		event.preventDefault();
	}
</script>

<svelte:window onkeydown={key} />
<div class="brush" role="group" aria-label="Brush">
	<button class="tool plain" aria-pressed={on} title="Paint on the objects with the pointer; the eye is turned with the other buttons" onclick={() => (on = !on)}><Paintbrush size={14} /> Paint</button>
	{#if on}
		<span class="of">Channel</span>
		<Segments label="Channel" quiet options={['1', '2', '3', '4'].map((value) => ({ value, label: value }))} value={chosen} choose={(value) => (chosen = value)} />
		<div class="values" role="group" aria-label="Value">
			{#each VALUES as one (one.value)}<button class="tool" aria-pressed={brush.value === one.value && !brush.smooths} title="Key {one.value === 0.5 ? '5' : one.label}" onclick={() => { brush.value = one.value; brush.smooths = false; }}>{one.label}</button>{/each}
			<button class="tool" aria-pressed={brush.smooths} title="Evens out what is painted" onclick={() => (brush.smooths = !brush.smooths)}>Smooth</button>
		</div>
		{#each [{ control: VALUE, name: 'value' }, { control: RADIUS, name: 'radius' }, { control: HARDNESS, name: 'hardness' }, { control: STRENGTH, name: 'strength' }] as const as { control, name } (name)}
			<div class="number"><NumberField {control} value={brush[name]} set={(v) => (brush[name] = v)} hold={() => {}} release={() => {}} /></div>
		{/each}
		<button class="tool plain" disabled={filled === null || stage.object(filled) === undefined} title="Gives the whole object the value" onclick={() => filled !== null && painter.fill(filled, Number(chosen) - 1, brush.value)}>Fill</button>
		{#if filled !== null && painter.coloured(filled)}<button class="tool plain" title="Takes the colours that the vertices have in the file: red, green, blue and alpha for the four channels" onclick={() => filled !== null && painter.fromColours(filled)}>From colours</button>{/if}
		<output class="figures" aria-label="Painted under the pointer">{under === null ? '–' : under.toFixed(2)}</output>
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
		gap: 4px 8px;
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
	.of {
		color: var(--dim);
	}
	.number {
		width: 116px;
	}
	output {
		min-width: 40px;
		text-align: right;
		color: var(--dim);
	}
</style>
