<script lang="ts">
	import { Pause, Play } from '@lucide/svelte';
	import type { Clock } from '../state/clock.svelte';

	let { clock }: { clock: Clock } = $props();
	const SPEEDS = [0.1, 0.25, 0.5, 1, 2, 4];
	const LOOPS = [5, 20, 60, 600, 86400];
	const length = (s: number): string => (s < 60 ? `${s} s` : s < 3600 ? `${s / 60} min` : `${s / 3600} h`);
</script>

<div class="clock" role="group" aria-label="Clock">
	<button class="tool" onclick={() => clock.toggle()} title={clock.playing ? 'Pause (P)' : 'Play (P)'} aria-label={clock.playing ? 'Pause the clock' : 'Play the clock'}>
		{#if clock.playing}<Pause size={16} />{:else}<Play size={16} />{/if}
	</button>
	<input type="range" min="0" max={clock.loop} step="0.01" value={clock.seconds} aria-label="Time in seconds" oninput={(e) => { clock.pause(); clock.seek(Number(e.currentTarget.value)); }} />
	<span class="figures">{clock.seconds.toFixed(2)} s</span>
	<select class="field" aria-label="Speed of the clock" bind:value={clock.speed}>
		{#each SPEEDS as speed (speed)}<option value={speed}>{speed}×</option>{/each}
	</select>
	<select class="field" aria-label="Loop of the clock" bind:value={clock.loop}>
		{#each LOOPS as loop (loop)}<option value={loop}>{length(loop)}</option>{/each}
	</select>
</div>

<style>
	.clock {
		display: flex;
		align-items: center;
		gap: 8px;
		padding: 2px 4px;
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 3px;
	}
	.tool {
		height: 24px;
	}
	input {
		width: 160px;
		accent-color: var(--accent);
	}
	.figures {
		min-width: 64px;
		text-align: right;
	}
	select {
		height: 24px;
	}
</style>
