<script lang="ts">
	import { Check, X } from '@lucide/svelte';
	import { api } from '../api/client';
	import { firstJob, JOB } from '../state/firstjob.svelte';
	import { guiding } from '../state/guiding.svelte';
	import type { Session } from '../state/session.svelte';
	import type { StageState } from '../state/stage.svelte';

	/** How far the first job has come, and what is next. */
	let { session, stage, slug }: { session: Session; stage: StageState; slug: string } = $props();

	let bakes = $state(0);
	const ASK = 4000;
	const done = $derived(JOB.map((one) => one.done({ document: session.document, stage: stage.document, bakes })));
	const next = $derived(done.indexOf(false));
	/** Bakes are asked for once they are all that is left. */
	const waits = $derived(next === JOB.length - 1);
	$effect(() => {
		if (!waits) return;
		const asking = setInterval(() => void api.bakes(slug, session.id).then((found) => (bakes = found.length), () => {}), ASK);
		return () => clearInterval(asking);
	});
	/** One that was looked at again; null for the next one. */
	let looked = $state<number | null>(null);
	$effect(() => { void next; looked = null; });
	const at = $derived(looked ?? next);
</script>

<section aria-label="A first job">
	<header>
		<ol>
			{#each JOB as one, i (one.title)}
				<li><button class:done={done[i]} aria-current={i === at ? 'step' : undefined} title={one.title} aria-label="Step {i + 1}: {one.title}{done[i] ? ', done' : ''}" onclick={() => (looked = i)}>{#if done[i]}<Check size={12} />{:else}{i + 1}{/if}</button></li>
			{/each}
		</ol>
		<button class="tool" aria-label="Leave the job" title="It comes back from the guide" onclick={() => firstJob.leave()}><X size={14} /></button>
	</header>
	{#if at >= 0}
		<h2>{JOB[at]!.title}</h2>
		<p>{JOB[at]!.text}</p>
		<button class="more" onclick={() => guiding.show(JOB[at]!.term)}>More in the guide</button>
	{:else}
		<h2>That is the whole way</h2>
		<p>From a map to a wall that can be handed over. All of it is yours to change; the guide tells the rest.</p>
		<button class="more" onclick={() => firstJob.leave()}>Done</button>
	{/if}
</section>

<style>
	section {
		position: absolute;
		left: 8px;
		bottom: 8px;
		width: 300px;
		padding: 12px;
		border: 1px solid var(--line);
		border-left: 3px solid var(--accent);
		border-radius: 4px;
		background: var(--panel);
		z-index: 5;
	}
	header {
		display: flex;
		justify-content: space-between;
		margin-bottom: 8px;
	}
	ol {
		display: flex;
		gap: 4px;
	}
	li button {
		display: grid;
		place-items: center;
		width: 22px;
		height: 22px;
		border: 1px solid var(--line);
		border-radius: 3px;
		color: var(--dim);
		font-size: 12px;
		cursor: pointer;
	}
	li .done {
		color: var(--accent);
	}
	li [aria-current] {
		border-color: var(--accent);
		color: var(--text);
	}
	.tool {
		width: 24px;
		height: 24px;
		padding: 0;
	}
	h2 {
		font-weight: 600;
		margin-bottom: 4px;
	}
	p {
		color: var(--dim);
		font-size: 13px;
		line-height: 18px;
	}
	.more {
		margin-top: 8px;
		color: var(--accent);
		cursor: pointer;
	}
</style>
