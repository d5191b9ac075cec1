<script lang="ts">
	import { SegmentedControl } from '@skeletonlabs/skeleton-svelte';

	/** One of a few, all in sight. */
	let { label, quiet = false, options, value, choose, columns = options.length }: {
		label: string;
		/** Whether its name is not shown beside it. */
		quiet?: boolean;
		options: readonly { value: string; label: string; help?: string }[];
		value: string;
		choose: (value: string) => void;
		columns?: number;
	} = $props();
</script>

<div class="segmented" style:--columns={columns}>
	<SegmentedControl {value} onValueChange={(d) => d.value !== null && choose(d.value)} aria-label={quiet ? label : undefined}>
		{#if !quiet}<SegmentedControl.Label class="control-label">{label}</SegmentedControl.Label>{/if}
		<SegmentedControl.Control class="segments">
			<SegmentedControl.Indicator class="segment-mark" />
			{#each options as option (option.value)}
				<SegmentedControl.Item value={option.value} class="segment" title={option.help}>
					<SegmentedControl.ItemText>{option.label}</SegmentedControl.ItemText>
					<SegmentedControl.ItemHiddenInput />
				</SegmentedControl.Item>
			{/each}
		</SegmentedControl.Control>
	</SegmentedControl>
</div>

<style>
	.segmented :global(.control-label) {
		display: block;
		font-size: 13px;
		font-weight: 400;
	}
	.segmented :global(.segments) {
		position: relative;
		display: grid;
		grid-template-columns: repeat(var(--columns), 1fr);
		padding: 2px;
		gap: 0;
		background: var(--well);
		border: 1px solid var(--line);
		border-radius: 3px;
	}
	.segmented :global(.segment) {
		height: 24px;
		display: grid;
		place-items: center;
		cursor: pointer;
		z-index: 1;
		border-radius: 2px;
		padding: 0 var(--beside, 4px);
	}
	.segmented :global(.segment span) {
		font-size: 13px;
		color: inherit;
	}
	.segmented :global(.segment[data-state='checked']) {
		color: var(--accent);
		font-weight: 600;
	}
	.segmented :global(.segment:has(:focus-visible)) {
		outline: 2px solid var(--accent);
	}
	.segmented :global(.segment-mark) {
		background: var(--raised);
		border-radius: 2px;
		width: var(--width);
		height: var(--height);
		left: var(--left);
		top: var(--top);
	}
</style>
