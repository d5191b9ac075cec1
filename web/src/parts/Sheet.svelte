<script lang="ts">
	import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';
	import type { Snippet } from 'svelte';

	let { title, close, wide = false, next, children, actions }: {
		title: string;
		close: () => void;
		wide?: boolean;
		/** Where the keyboard goes on, if not where it came from. */
		next?: () => HTMLElement | null;
		children: Snippet;
		actions?: Snippet;
	} = $props();

	/** Escape in the frame before the dialog listens: whoever types ahead of a slow picture is heard too. */
	const early = (event: KeyboardEvent) => event.key === 'Escape' && !event.defaultPrevented && close();
</script>

<svelte:window onkeydown={early} />
<Dialog open finalFocusEl={next} onOpenChange={(details) => !details.open && close()}>
	<Portal>
		<Dialog.Backdrop class="sheet-back" />
		<Dialog.Positioner class="sheet-place">
			<Dialog.Content class="sheet {wide ? 'sheet-wide' : ''}">
				<Dialog.Title class="sheet-title">{title}</Dialog.Title>
				<div class="sheet-body">{@render children()}</div>
				<div class="sheet-actions">{@render actions?.()}</div>
			</Dialog.Content>
		</Dialog.Positioner>
	</Portal>
</Dialog>

<style>
	:global(.sheet-back) {
		position: fixed;
		inset: 0;
		background: rgb(0 0 0 / 0.5);
		z-index: 40;
	}
	:global(.sheet-place) {
		position: fixed;
		inset: 0;
		display: grid;
		place-items: center;
		z-index: 41;
	}
	:global(.sheet) {
		width: min(520px, 92vw);
		max-height: 86vh;
		display: flex;
		flex-direction: column;
		overflow: hidden;
		background: var(--panel);
		color: var(--text);
		border: 1px solid var(--line);
		border-radius: 6px;
		box-shadow: var(--shadow);
		padding: 20px 0;
	}
	:global(.sheet.sheet-wide) {
		width: min(1120px, 94vw);
	}
	:global(.sheet-title) {
		font-size: 16px;
		font-weight: 600;
		line-height: 24px;
		padding: 0 24px 12px;
	}
	/* Only what is between title and buttons scrolls. */
	:global(.sheet-body) {
		display: grid;
		gap: 12px;
		padding: 2px 24px;
		min-height: 0;
		overflow: auto;
	}
	:global(.sheet-actions) {
		display: flex;
		justify-content: flex-end;
		gap: 8px;
		padding: 16px 24px 0;
	}
	:global(.sheet-actions:empty) {
		display: none;
	}
</style>
