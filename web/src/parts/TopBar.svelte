<script lang="ts">
	import { BookOpen, Moon, Sun } from '@lucide/svelte';
	import type { Snippet } from 'svelte';
	import { guiding } from '../state/guiding.svelte';
	import { theme } from '../state/theme.svelte';
	import AccountMenu from './AccountMenu.svelte';

	let { project, projectName, view, children }: {
		project: string | null;
		projectName: string;
		view: 'projects' | 'shelf' | 'maps' | 'device' | 'workbench' | 'recipe';
		children?: Snippet;
	} = $props();
</script>

<header>
	<a class="brand" href="/" aria-label="Rilta, all projects">
		<img src="/icon.svg" alt="" width="20" height="20" /><span>Rilta</span>
	</a>
	{#if project !== null}
		<nav aria-label="Views">
			<a href="/{project}" class="tool" aria-current={view === 'shelf' ? 'page' : undefined}>{projectName}</a>
			<a href="/{project}/maps" class="tool" aria-current={view === 'maps' ? 'page' : undefined}>Maps</a>
		</nav>
	{/if}
	<div class="rest">{@render children?.()}</div>
	<button class="tool" onclick={() => guiding.show()} title="Guide (F1)" aria-label="Guide"><BookOpen size={16} /></button>
	<AccountMenu {project} />
	<button class="tool" onclick={() => theme.toggle()} title="Light or dark" aria-label="Switch between light and dark">
		{#if theme.mode === 'dark'}<Sun size={16} />{:else}<Moon size={16} />{/if}
	</button>
</header>

<style>
	header {
		display: flex;
		align-items: center;
		gap: 8px;
		height: 44px;
		padding: 0 8px 0 12px;
		background: var(--panel);
		border-bottom: 1px solid var(--line);
	}
	.brand {
		display: flex;
		align-items: center;
		gap: 8px;
		font-weight: 650;
		font-size: 15px;
		letter-spacing: 0.01em;
		margin-right: 8px;
	}
	nav {
		display: flex;
		gap: 4px;
	}
	nav [aria-current] {
		color: var(--accent);
		font-weight: 600;
	}
	.rest {
		flex: 1;
		min-width: 0;
		display: flex;
		align-items: center;
		gap: 8px;
	}
	/* Large enough to be hit, however narrow the bar is. */
	.rest :global(input[type='checkbox']) {
		margin: 6px;
	}
	@media (max-width: 1400px) {
		header {
			gap: 4px;
		}
		.rest {
			gap: 3px;
		}
	}
</style>
