<script lang="ts">
	import { firstJob } from '../state/firstjob.svelte';
	import { failed } from '../state/notices.svelte';
	import { router } from '../state/route.svelte';

	/** Offers one real job to whoever is here for the first time, or asks for it. */
	let { project }: { project: string } = $props();
	let busy = $state(false);
	async function begin(): Promise<void> {
		busy = true;
		try {
			router.go(`/${project}/materials/${await firstJob.begin(project)}`);
		} catch (error) {
			failed('The job cannot be begun', error);
		} finally {
			busy = false;
		}
	}
</script>

<aside aria-label="A first job">
	<div>
		<h2>New here? Make a wall in five steps.</h2>
		<p>By its place in the world, its size as a parameter, its repeat broken up, a second layer where you paint, and a bake: some five minutes, on a material of your own.</p>
	</div>
	<button class="tool main" disabled={busy} onclick={() => void begin()}>Begin</button>
	<button class="tool plain" onclick={() => firstJob.leave()}>Not now</button>
</aside>

<style>
	aside {
		display: flex;
		align-items: center;
		gap: 12px;
		margin: 12px 24px 0;
		padding: 12px 16px;
		border: 1px solid var(--line);
		border-left: 3px solid var(--accent);
		border-radius: 4px;
		background: var(--panel);
	}
	div {
		flex: 1;
	}
	h2 {
		font-weight: 600;
	}
	p {
		color: var(--dim);
		font-size: 13px;
	}
</style>
