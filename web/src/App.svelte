<script lang="ts">
	import { Toast } from '@skeletonlabs/skeleton-svelte';
	import { onMount } from 'svelte';
	import { router } from './state/route.svelte';
	import { toaster } from './state/notices.svelte';
	import Lost from './views/Lost.svelte';
	import Maps from './views/Maps.svelte';
	import Projects from './views/Projects.svelte';
	import RecipeBench from './views/RecipeBench.svelte';
	import Shelf from './views/Shelf.svelte';
	import Workbench from './views/Workbench.svelte';

	onMount(() => router.listen());
	const route = $derived(router.route);
</script>

{#if route.view === 'projects'}
	<Projects />
{:else if route.view === 'shelf'}
	{#key route.project}<Shelf project={route.project} />{/key}
{:else if route.view === 'maps'}
	{#key route.project}<Maps project={route.project} />{/key}
{:else if route.view === 'workbench'}
	{#key route.material}<Workbench project={route.project} material={route.material} />{/key}
{:else if route.view === 'recipe'}
	{#key route.recipe}<RecipeBench project={route.project} recipe={route.recipe} />{/key}
{:else if route.view === 'lost'}
	<Lost />
{/if}

<Toast.Group {toaster}>
	{#snippet children(toast)}
		<Toast {toast} class="notice {toast.type ?? ''}">
			<Toast.Message>
				<Toast.Title class="notice-title">{toast.title}</Toast.Title>
				<Toast.Description>{toast.description}</Toast.Description>
			</Toast.Message>
			{#if toast.action !== undefined}<Toast.ActionTrigger class="tool">{toast.action.label}</Toast.ActionTrigger>{/if}
			<Toast.CloseTrigger class="tool" aria-label="Close">×</Toast.CloseTrigger>
		</Toast>
	{/snippet}
</Toast.Group>

<style>
	:global(.notice) {
		display: flex;
		gap: 12px;
		align-items: start;
		width: 360px;
		padding: 12px;
		background: var(--raised);
		color: var(--text);
		border: 1px solid var(--line);
		border-left: 3px solid var(--accent);
		border-radius: 4px;
		box-shadow: var(--shadow);
	}
	:global(.notice.error) {
		border-left-color: var(--brick);
	}
	:global(.notice > :first-child) {
		flex: 1;
	}
	:global(.notice [data-part='description']),
	:global(.notice [data-part='title']) {
		color: var(--text);
	}
	:global(.notice-title) {
		font-weight: 600;
	}
</style>
