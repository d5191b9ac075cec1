<script lang="ts">
	import { Plus } from '@lucide/svelte';
	import { Popover, Portal } from '@skeletonlabs/skeleton-svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { foreseeing, type Change } from '../state/lanes.svelte';
	import type { Session } from '../state/session.svelte';

	let { place, pick, session, change }: {
		place: string;
		pick: (step: string) => void;
		session: Session;
		/** What inserting a step does. */
		change: (step: string) => Change;
	} = $props();
	let open = $state(false);
	let picked = false;
	/** The keyboard goes on at the new tile, or where it came from. */
	const next = (): HTMLElement | null => (picked ? document.querySelector<HTMLElement>('.tile.selected .face') : null);
	const steps = $derived((catalogue.value?.steps ?? []).filter((step) => !step.origin));
</script>

<Popover {open} finalFocusEl={next} onOpenChange={(d) => { open = d.open; if (d.open) picked = false; }} positioning={{ placement: 'top' }}>
	<Popover.Trigger class="insert" aria-label="Insert a step {place}" title="Insert a step"><Plus size={14} /></Popover.Trigger>
	<Portal>
		<Popover.Positioner class="picker-place">
			<Popover.Content class="picker">
				<Popover.Title class="heading">Insert a step</Popover.Title>
				<ul>
					{#each steps as step (step.name)}
						<li>
							<button {@attach foreseeing(session, () => change(step.name))} onclick={() => { picked = true; pick(step.name); open = false; }}>
								<strong>{step.label}</strong>
								<span>{step.help}</span>
							</button>
						</li>
					{/each}
				</ul>
			</Popover.Content>
		</Popover.Positioner>
	</Portal>
</Popover>

<style>
	:global(.insert) {
		display: grid;
		place-items: center;
		width: 24px;
		height: 24px;
		padding: 0;
		border: 1px solid var(--line);
		border-radius: 12px;
		background: var(--panel);
		color: var(--dim);
		cursor: pointer;
	}
	:global(.insert:hover),
	:global(.insert[data-state='open']) {
		color: var(--accent);
		border-color: var(--accent);
	}
	:global(.picker-place) {
		z-index: 30;
	}
	:global(.picker) {
		width: 620px;
		max-height: 440px;
		overflow: auto;
		padding: 12px;
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 4px;
		box-shadow: 0 8px 32px rgb(0 0 0 / 0.4);
	}
	ul {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 4px;
		margin-top: 8px;
	}
	button {
		display: grid;
		gap: 2px;
		align-content: start;
		width: 100%;
		height: 100%;
		padding: 8px;
		border: 1px solid transparent;
		border-radius: 3px;
		background: none;
		color: inherit;
		text-align: left;
		cursor: pointer;
	}
	button:hover,
	button:focus-visible {
		background: var(--raised);
		border-color: var(--line);
	}
	span {
		font-size: 12px;
		line-height: 16px;
		color: var(--dim);
	}
</style>
