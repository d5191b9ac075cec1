<script lang="ts">
	import { Toast } from '@skeletonlabs/skeleton-svelte';
	import { onMount } from 'svelte';
	import CommandSheet from './parts/CommandSheet.svelte';
	import { account } from './state/account.svelte';
	import { commands } from './state/commands.svelte';
	import { guiding } from './state/guiding.svelte';
	import { goThroughRegions } from './state/regions';
	import { router } from './state/route.svelte';
	import { theme } from './state/theme.svelte';
	import { toaster } from './state/notices.svelte';
	import Lost from './views/Lost.svelte';
	import Projects from './views/Projects.svelte';
	import SignIn from './views/SignIn.svelte';
	import Shelf from './views/Shelf.svelte';
	import { lazy } from './views/lazy';

	onMount(() => {
		router.listen();
		// A server that is away is told by whatever needs it.
		void account.load().catch(() => {}).finally(() => (asked = true));
	});
	const route = $derived(router.route);
	const project = $derived('project' in route ? route.project : null);
	/** Whether it is known who asks. */
	let asked = $state(false);
	let sheet = $state<'commands' | 'keys' | null>(null);
	$effect(() => commands.offer('everywhere', () => [
		{ group: 'Go to', label: 'All projects', run: () => router.go('/') },
		...(project === null ? [] : [
			{ group: 'Go to', label: 'Shelf: materials of the project', run: () => router.go(`/${project}`) },
			{ group: 'Go to', label: 'Maps', run: () => router.go(`/${project}/maps`) },
			{ group: 'Go to', label: 'How exact this device computes', run: () => router.go(`/${project}/device`) }
		]),
		{ group: 'Everywhere', label: 'Commands', keys: 'Ctrl+K', always: true, run: () => (sheet = 'commands') },
		{ group: 'Everywhere', label: 'Keys', keys: '?', run: () => (sheet = 'keys') },
		{ group: 'Everywhere', label: 'Guide', keys: 'F1', always: true, run: () => guiding.show() },
		{ group: 'Everywhere', label: 'Next part of the window', keys: 'F6', always: true, run: () => goThroughRegions(document, 1) },
		{ group: 'Everywhere', label: 'Part of the window before', keys: 'Shift+F6', always: true, run: () => goThroughRegions(document, -1) },
		{ group: 'Everywhere', label: theme.mode === 'dark' ? 'Light theme' : 'Dark theme', run: () => theme.toggle() }
	]));
</script>

<svelte:window onkeydown={(event) => commands.press(event)} />
{#if guiding.term !== null}{#await lazy.guide() then { default: GuideSheet }}{#key guiding.term}<GuideSheet term={guiding.term ?? ''} close={() => (guiding.term = null)} />{/key}{:catch}{@render missing()}{/await}{/if}
{#if sheet !== null}<CommandSheet keys={sheet === 'keys'} close={() => (sheet = null)} />{/if}
{#if !asked}
	<p class="coming" aria-busy="true"></p>
{:else if route.view === 'sign-in'}
	<SignIn secret={route.secret} look={route.look} />
{:else if account.owesCodes || (account.out && account.me?.person == null)}
	<SignIn />
{:else if route.view === 'projects'}
	<Projects />
{:else if route.view === 'shelf'}
	{#key route.project}<Shelf project={route.project} />{/key}
{:else if route.view === 'maps'}
	{#await lazy.maps() then { default: Maps }}{#key route.project}<Maps project={route.project} />{/key}{:catch}{@render missing()}{/await}
{:else if route.view === 'device'}
	{#await lazy.device() then { default: Device }}{#key route.project}<Device project={route.project} />{/key}{:catch}{@render missing()}{/await}
{:else if route.view === 'workbench'}
	{#await lazy.workbench()}<p class="coming" aria-busy="true">Opening the material …</p>{:then { default: Workbench }}{#key `${route.project} ${route.material}`}<Workbench project={route.project} material={route.material} />{/key}{:catch}{@render missing()}{/await}
{:else if route.view === 'recipe'}
	{#await lazy.recipe() then { default: RecipeBench }}{#key `${route.project} ${route.recipe}`}<RecipeBench project={route.project} recipe={route.recipe} />{/key}{:catch}{@render missing()}{/await}
{:else if route.view === 'lost'}
	<Lost />
{/if}

<!-- Whoever was signed out meanwhile signs in above what is open: nothing of it is lost. -->
{#if account.out && account.me?.person != null && route.view !== 'sign-in'}<div class="above"><SignIn /></div>{/if}

{#snippet missing()}
	<div class="coming" role="alert">
		<p><strong>This view could not be fetched.</strong> The server may be away, or newer than this page.</p>
		<button class="tool main" onclick={() => location.reload()}>Load the page again</button>
		<a href="/">All projects</a>
	</div>
{/snippet}

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
	.above {
		position: fixed;
		inset: 0;
		z-index: 60;
	}
	.coming {
		display: grid;
		place-content: center;
		justify-items: center;
		gap: 12px;
		height: 100%;
		padding: 24px;
		color: var(--dim);
	}
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
