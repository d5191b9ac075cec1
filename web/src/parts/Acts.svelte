<script lang="ts">
	import { MoreHorizontal } from '@lucide/svelte';
	import { Menu, Portal } from '@skeletonlabs/skeleton-svelte';
	import type { Snippet } from 'svelte';

	export type Act = { value: string; label: string; do: () => void };
	/** What can be done with one thing, behind one button. */
	let { of, acts, label = `What can be done with ${of}`, title = 'Rename, copy, delete …', plain = false, children }: {
		of: string;
		acts: Act[];
		label?: string;
		title?: string;
		/** Whether the button stands in a row of others. */
		plain?: boolean;
		/** What the button shows. */
		children?: Snippet;
	} = $props();
</script>

<Menu onSelect={(details) => acts.find((one) => one.value === details.value)?.do()}>
	<Menu.Trigger class="tool {plain ? '' : 'acts-button'}" aria-label={label} {title}>{#if children}{@render children()}{:else}<MoreHorizontal size={16} />{/if}</Menu.Trigger>
	<Portal>
		<Menu.Positioner>
			<Menu.Content class="acts-list">
				{#each acts as one (one.value)}
					<Menu.Item value={one.value} class="acts-one"><Menu.ItemText>{one.label}</Menu.ItemText></Menu.Item>
				{/each}
			</Menu.Content>
		</Menu.Positioner>
	</Portal>
</Menu>

<style>
	:global(.acts-button) {
		width: 28px;
		padding: 0;
		background: var(--panel);
		border: 1px solid var(--line);
	}
	:global(.acts-list) {
		min-width: 160px;
		outline: none;
		padding: 4px;
		background: var(--raised);
		border: 1px solid var(--line);
		border-radius: 4px;
		box-shadow: var(--shadow);
		z-index: 30;
	}
	:global(.acts-one) {
		padding: 4px 8px;
		border-radius: 3px;
		cursor: pointer;
	}
	:global(.acts-one[data-highlighted]) {
		background: var(--accent-soft);
		color: var(--accent);
	}
</style>
