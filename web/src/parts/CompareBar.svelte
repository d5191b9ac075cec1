<script lang="ts">
	import { X } from '@lucide/svelte';
	import { Slider } from '@skeletonlabs/skeleton-svelte';
	import type { MaterialDocument } from '../api/client';
	import type { StageScene } from '../stage/scene';
	import type { Side } from '../stage/wardrobe';
	import { WAYS, type Way } from '../state/comparing';
	import type { Comparison, Hand } from '../state/comparison.svelte';
	import Segments from './Segments.svelte';

	/** Lies over the stage while two things are looked at on it: how, and how different they are. */
	let { comparison, scene, sides, again, close }: {
		comparison: Comparison;
		scene: StageScene;
		/** What documents are drawn with. */
		sides: (documents: readonly (MaterialDocument | null)[]) => Promise<(Side | null)[]>;
		/** Another whenever something else is seen: then it is measured again. */
		again: string;
		close: (() => void) | null;
	} = $props();

	$effect(() => comparison.follow(scene, sides));
	$effect(() => comparison.show(scene));
	$effect(() => {
		const on = scene;
		return () => on.compare(null);
	});
	$effect(() => comparison.turn());
	/** Milliseconds of rest until it is measured how different two look; more where drawing is slow. */
	const CALM = 600;
	const CALM_IF_SLOW = 1800;
	$effect(() => {
		void [again, comparison.documents, comparison.waits];
		const later = setTimeout(() => comparison.measure(scene), scene.slow ? CALM_IF_SLOW : CALM);
		return () => clearTimeout(later);
	});

	const { figures } = $derived(comparison);
	const split = $derived(comparison.way === 'divider' ? comparison.at : comparison.way === 'beside' ? 0.5 : null);
</script>

{#snippet named(hand: Hand)}
	{#if comparison.way === 'blink'}
		<button class="name" class:dim={comparison.second !== (hand === 'right')} aria-pressed={comparison.second === (hand === 'right')} title="Show this one until the next turn" onclick={() => (comparison.second = hand === 'right')}>{comparison.label(hand)}</button>
	{:else}<span class="name">{comparison.label(hand)}</span>{/if}
{/snippet}

<div class="compare" role="group" aria-label="Comparison">
	{#if split !== null}
		<span class="line" class:fixed={comparison.way === 'beside'} style:left="{100 * split}%"></span>
		{#if comparison.way === 'divider'}
			<Slider class="divider" aria-label={['Divider']} min={0} max={100} step={0.25} largeStep={2} thumbAlignment="center" value={[100 * split]} onValueChange={(d) => (comparison.at = d.value[0]! / 100)}>
				<Slider.Control class="across"><Slider.Thumb index={0} class="grip" /></Slider.Control>
			</Slider>
		{/if}
	{/if}
	<div class="head">
		{@render named('left')}
		<div class="how">
			<Segments label="How two are looked at" quiet options={WAYS} value={comparison.way} choose={(way) => (comparison.way = way as Way)} />
			<span class="figures" role="status" aria-live="polite" title="CIEDE2000 over all that is seen of it: about 1 is what is just seen side by side. Mean, what 95 of 100 pixels stay under, and the largest">
				{#if comparison.trouble !== ''}{comparison.trouble}{:else if comparison.waits || figures === undefined}Being made ready …{:else if figures === null}Nothing of it is seen{:else}ΔE {figures.mean.toFixed(2)} · 95 %: {figures.high.toFixed(1)} · most {figures.most.toFixed(1)}{/if}
			</span>
			{#if close !== null}<button class="tool mini" aria-label="End the comparison" title="Look at one again" onclick={close}><X size={14} /></button>{/if}
		</div>
		{@render named('right')}
	</div>
</div>

<style>
	.compare {
		grid-area: stage;
		position: relative;
		pointer-events: none;
		overflow: hidden;
	}
	.line {
		position: absolute;
		top: 84px;
		bottom: 0;
		width: 2px;
		margin-left: -1px;
		background: var(--accent);
	}
	.fixed {
		background: var(--stage);
		width: 4px;
		margin-left: -2px;
	}
	.compare :global(.divider) {
		position: absolute;
		inset: 84px 0 0;
	}
	.compare :global(.across) {
		height: 100%;
	}
	.compare :global(.grip) {
		width: 20px;
		height: 100%;
		background: none;
		box-shadow: none;
		cursor: ew-resize;
		pointer-events: auto;
		touch-action: none;
	}
	.compare :global(.grip)::after {
		content: '';
		position: absolute;
		top: 50%;
		left: 5px;
		width: 10px;
		height: 44px;
		margin-top: -22px;
		border-radius: 5px;
		background: var(--panel);
		border: 2px solid var(--accent);
	}
	.head {
		position: absolute;
		left: 8px;
		right: 8px;
		top: 46px;
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 8px;
	}
	.how,
	.name {
		padding: 3px 8px;
		border-radius: 3px;
		background: var(--panel);
		border: 1px solid var(--line);
	}
	.how {
		display: flex;
		align-items: center;
		gap: 8px;
		padding: 2px;
		pointer-events: auto;
		font-size: 12px;
		white-space: nowrap;
	}
	.name {
		flex: 0 1 auto;
		min-width: 0;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
		font-size: 12px;
		font-weight: 600;
	}
	button.name {
		font: inherit;
		font-size: 12px;
		font-weight: 600;
		color: inherit;
		cursor: pointer;
		pointer-events: auto;
	}
	.dim {
		opacity: 0.45;
	}
	.figures {
		padding-right: 6px;
	}
</style>
