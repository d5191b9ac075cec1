<script lang="ts">
	import { MoreHorizontal } from '@lucide/svelte';
	import { Menu, Portal } from '@skeletonlabs/skeleton-svelte';
	import type { Snippet } from 'svelte';

	export type Act = { value: string; label: string; help?: string; do: () => void };
	/** What can be done with one thing, behind one button. */
	let { of, acts, label = `What can be done with ${of}`, title = 'Rename, copy, delete …', look = 'acts-button', disabled = false, children }: {
		of: string;
		acts: Act[];
		label?: string;
		title?: string;
		/** Of the button: by itself, framed, or in a row of others. */
		look?: 'acts-button' | 'plain' | '';
		disabled?: boolean;
		/** What the button shows. */
		children?: Snippet;
	} = $props();
</script>

<Menu onSelect={(details) => acts.find((one) => one.value === details.value)?.do()}>
	<Menu.Trigger class="tool {look}" aria-label={label} {title} {disabled}>{#if children}{@render children()}{:else}<MoreHorizontal size={16} />{/if}</Menu.Trigger>
	<Portal>
		<Menu.Positioner>
			<Menu.Content class="acts-list">
				{#each acts as one (one.value)}
					<Menu.Item value={one.value} class="acts-one" title={one.help}><Menu.ItemText>{one.label}</Menu.ItemText></Menu.Item>
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
		max-height: min(60vh, var(--available-height, 60vh));
		overflow-y: auto;
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
