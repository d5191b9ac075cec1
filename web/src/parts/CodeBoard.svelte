<script lang="ts">
	import { Copy, Download } from '@lucide/svelte';
	import type { Snippet } from 'svelte';
	import type { HandOver } from '../state/handover.svelte';
	import { copied } from '../state/notices.svelte';
	import { saved } from '../state/saved';

	/** The code that is handed over, and its sidecar, to be read, copied and saved. */
	let { over, lead }: {
		over: HandOver;
		/** What stands in front. */
		lead: Snippet;
	} = $props();

	const part = $derived(over.part);
	const file = $derived(over.made === null ? '' : part === 'code' ? over.made.file : `${over.made.file}.json`);
	const text = $derived(over.made === null ? '' : part === 'code' ? over.made.code : `${JSON.stringify(over.made.sidecar, null, '\t')}\n`);
</script>

<section class="board" aria-label="Code" aria-busy={over.busy}>
	<div class="bar">
		{@render lead()}
		<span class="file">{file}</span>
		<span class="gap"></span>
		<button class="tool plain" disabled={text === ''} onclick={() => void copied(text, 'Copied', file)}><Copy size={14} /> Copy</button>
		<button class="tool plain" disabled={text === ''} onclick={() => saved(text, file)}><Download size={14} /> Save</button>
	</div>
	<!-- svelte-ignore a11y_no_noninteractive_tabindex (it scrolls, by keys as well) -->
	<pre tabindex="0" aria-label={part === 'code' ? 'The code' : 'The sidecar'}>{text}</pre>
</section>

<style>
	.board {
		display: flex;
		flex-direction: column;
		min-height: 0;
		background: var(--panel);
		border-top: 1px solid var(--line);
	}
	.bar {
		display: flex;
		align-items: center;
		gap: 8px;
		padding: 6px 12px;
	}
	.file {
		color: var(--dim);
		font-family: var(--font-figures);
		font-size: 12px;
	}
	.gap {
		flex: 1;
	}
	.tool {
		display: flex;
		align-items: center;
		gap: 4px;
		border: 1px solid var(--line);
	}
	pre {
		flex: 1;
		min-height: 0;
		margin: 0;
		padding: 8px 12px;
		overflow: auto;
		background: var(--well);
		font-family: var(--font-figures);
		font-size: 12px;
		line-height: 16px;
		tab-size: 4;
	}
</style>
