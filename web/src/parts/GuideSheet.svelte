<script lang="ts">
	import source from '../../../docs/guide.md?raw';
	import { untrack } from 'svelte';
	import { firstJob } from '../state/firstjob.svelte';
	import { entries, entryFor, searched } from '../state/guide';
	import { router } from '../state/route.svelte';
	import Sheet from './Sheet.svelte';

	/** The guide, with search. */
	let { term, close }: {
		/** What is looked up, "" for the beginning. */
		term: string;
		close: () => void;
	} = $props();

	const all = entries(source);
	let typed = $state('');
	let chosen = $state.raw(untrack(() => (term === '' ? all[0] : entryFor(all, term)) ?? all[0]));
	const found = $derived(searched(all, typed));
	const parts = $derived([...new Set(found.map((one) => one.part))]);
	let text = $state<HTMLElement>();
	$effect(() => {
		void chosen;
		text?.scrollTo({ top: 0 });
		document.querySelector('#guide-list [aria-current="true"]')?.scrollIntoView({ block: 'nearest' });
	});
	function key(event: KeyboardEvent): void {
		const at = chosen === undefined ? -1 : found.indexOf(chosen);
		if (event.key === 'ArrowDown') chosen = found[Math.min(found.length - 1, at + 1)];
		else if (event.key === 'ArrowUp') chosen = found[Math.max(0, at - 1)];
		else return;
		event.preventDefault();
	}
</script>

<Sheet title="Guide" {close} wide>
	<div class="guide">
		<nav id="guide-list" aria-label="Places of the guide">
			<input class="field" type="search" aria-label="Search the guide" placeholder="Search the guide" bind:value={typed} oninput={() => { if (typed.trim() !== '') chosen = searched(all, typed)[0] ?? chosen; }} onkeydown={key} />
			{#each parts as part (part)}
				<h3 class="heading">{part}</h3>
				<ul>
					{#each found.filter((one) => one.part === part) as one (one)}
						<li><button aria-current={one === chosen} onclick={() => (chosen = one)}>{one.title}</button></li>
					{/each}
				</ul>
			{:else}
				<p>Nothing in the guide has these words.</p>
			{/each}
		</nav>
		<article bind:this={text} aria-live="polite">
			{#if chosen !== undefined}
				<p class="part">{chosen.part}</p>
				<h3>{chosen.title}</h3>
				<!-- eslint-disable-next-line svelte/no-at-html-tags -- it is the guide that comes with the application, and nobody's else -->
				{@html chosen.html}
			{/if}
		</article>
	</div>
	{#snippet actions()}
		<button class="tool plain" title="A wall in five steps, on the demo" onclick={() => { close(); firstJob.offer(); if ('project' in router.route) router.go(`/${router.route.project}`); }}>A first job in five steps</button>
		<button class="tool main" onclick={close}>Close</button>
	{/snippet}
</Sheet>

<style>
	.guide {
		display: grid;
		grid-template-columns: 224px minmax(0, 1fr);
		gap: 24px;
		height: min(60vh, 560px);
	}
	nav {
		overflow-y: auto;
		padding-right: 8px;
	}
	nav .field {
		width: 100%;
		position: sticky;
		top: 0;
	}
	nav .heading {
		margin: 12px 0 4px;
	}
	nav button {
		width: 100%;
		padding: 2px 8px;
		border-radius: 3px;
		text-align: left;
		cursor: pointer;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	nav button:hover {
		background: var(--raised);
	}
	nav [aria-current='true'] {
		background: var(--accent-soft);
		color: var(--accent);
	}
	article {
		overflow-y: auto;
		line-height: 22px;
		padding-right: 8px;
	}
	.part {
		color: var(--dim);
		font-size: 12px;
	}
	h3:not(.heading) {
		font-size: 18px;
		font-weight: 600;
		margin-bottom: 8px;
	}
	article :global(p),
	article :global(ul) {
		margin-bottom: 8px;
	}
	article :global(ul) {
		list-style: disc;
		padding-left: 20px;
	}
	article :global(em) {
		font-style: normal;
		color: var(--accent);
	}
	article :global(code) {
		font-family: var(--font-figures);
		background: var(--well);
		padding: 0 4px;
		border-radius: 2px;
	}
</style>
