<script lang="ts">
	import { Copy, Pin, X } from '@lucide/svelte';
	import type { Trail } from '../api/client';
	import type { Sight } from '../stage/eye';
	import { copied } from '../state/notices.svelte';
	import { said } from '../state/trails';
	import Trails from './Trails.svelte';

	let { trail, current, sight, kept = $bindable(), close }: {
		trail: Trail;
		/** Whether it is of what is seen now; it is read again if not. */
		current: boolean;
		/** What was clicked. */
		sight: Sight | null;
		/** That of another point, or of before a change, which it is shown beside. */
		kept: Trail | null;
		close: () => void;
	} = $props();
	let panel = $state<HTMLElement>();
	$effect(() => {
		void sight;
		panel?.scrollIntoView({ block: 'start' });
	});
</script>

<section aria-label="Trail" class:old={!current} aria-busy={!current} bind:this={panel}>
	<header>
		<h2 class="heading">Trail</h2>
		<span class="on">{trail.object?.name ?? ''}</span>
		<button class="tool" aria-pressed={kept !== null} onclick={() => (kept = kept === null ? trail : null)} title={kept === null ? 'Keep it, and see the next point, or what a change makes of this one, beside it' : 'One point alone again'} aria-label="Compare with the next point"><Pin size={14} /></button>
		<button class="tool" onclick={() => void copied(trail.text, 'Trail copied as text')} title="Copy as text" aria-label="Copy the trail as text"><Copy size={14} /></button>
		<button class="tool" onclick={close} title="Close" aria-label="Close the trail"><X size={14} /></button>
	</header>
	{#if trail.object === null}
		<p class="none">Nothing there: that line of sight meets no object.</p>
	{/if}
	{#if kept !== null && kept !== trail}
		<Trails left={kept} right={trail} names={['Kept', 'This']} />
	{:else}
	<ol>
		{#each trail.stops as stop, i (i)}
			<li>
				<h3>{stop.label}</h3>
				<dl>
					{#each stop.readings as reading, r (r)}
						<dt>{reading.name}</dt>
						<dd class="figures">{reading.values.map(said).join(' ')} <span>{reading.unit}</span></dd>
					{/each}
				</dl>
			</li>
		{/each}
	</ol>
	{/if}
</section>

<style>
	section {
		border-top: 1px solid var(--line);
		padding: 8px 12px 12px;
	}
	.old ol,
	.old :global(table) {
		opacity: 0.5;
	}
	header {
		display: flex;
		align-items: center;
		gap: 8px;
	}
	.on {
		flex: 1;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
		color: var(--accent);
	}
	li {
		padding: 0 0 8px 12px;
		border-left: 2px solid var(--line);
		position: relative;
	}
	li::before {
		content: '';
		position: absolute;
		left: -5px;
		top: 6px;
		width: 8px;
		height: 8px;
		border-radius: 4px;
		background: var(--accent);
	}
	h3 {
		font-weight: 600;
	}
	dl {
		display: grid;
		grid-template-columns: auto 1fr;
		column-gap: 8px;
		font-size: 12px;
		line-height: 16px;
	}
	dt,
	dd span,
	.none {
		color: var(--dim);
	}
	dd {
		text-align: right;
	}
</style>
