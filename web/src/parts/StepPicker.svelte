<script lang="ts">
	import { Plus } from '@lucide/svelte';
	import { Popover, Portal } from '@skeletonlabs/skeleton-svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { foreseeing, type Change } from '../state/lanes.svelte';
	import { foundBy } from '../state/search';
	import type { Session } from '../state/session.svelte';
	import StepGlyph from './StepGlyph.svelte';

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
	let words = $state('');
	const found = $derived(foundBy((catalogue.value?.steps ?? []).filter((step) => !step.origin), words, (step) => step.label, (step) => `${step.group} ${step.help}`));
	const groups = $derived([...new Set(found.map((step) => step.group))].map((name) => ({ name, steps: found.filter((step) => step.group === name) })));
	function take(step: string): void {
		picked = true;
		pick(step);
		open = false;
	}
</script>

<Popover {open} finalFocusEl={next} onOpenChange={(d) => { open = d.open; if (d.open) { picked = false; words = ''; } }} positioning={{ placement: 'top' }}>
	<Popover.Trigger class="insert" aria-label="Insert a step {place}" title="Insert a step"><Plus size={14} /></Popover.Trigger>
	<Portal>
		<Popover.Positioner class="picker-place">
			<Popover.Content class="picker">
				<header>
					<Popover.Title class="heading">Insert a step</Popover.Title>
					<input class="field" type="search" aria-label="Search steps" placeholder="Search steps" bind:value={words} onkeydown={(e) => { if (e.key === 'Enter' && found[0] !== undefined) { e.preventDefault(); take(found[0].name); } }} />
				</header>
				{#each groups as group (group.name)}
					<h3>{group.name}</h3>
					<ul>
						{#each group.steps as step (step.name)}
							<li>
								<button class:first={words.trim() !== '' && step === found[0]} {@attach foreseeing(session, () => change(step.name))} onclick={() => take(step.name)}>
									<StepGlyph step={step.name} />
									<strong>{step.label}</strong>
									<span>{step.help}</span>
								</button>
							</li>
						{/each}
					</ul>
				{:else}
					<p class="none">No step matches that search.</p>
				{/each}
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
	:global(.picker) {
		z-index: 30;
		width: min(720px, 94vw);
		max-height: min(520px, 74vh);
		overflow: auto;
		padding: 0 12px 12px;
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 4px;
		box-shadow: 0 8px 32px rgb(0 0 0 / 0.4);
	}
	header {
		position: sticky;
		top: 0;
		display: flex;
		align-items: center;
		justify-content: space-between;
		padding: 12px 0 8px;
		background: var(--panel);
		z-index: 1;
	}
	header input {
		width: 220px;
	}
	h3 {
		margin-top: 8px;
		font-size: 12px;
		font-weight: 600;
		color: var(--dim);
	}
	.none {
		padding: 16px 0;
		color: var(--dim);
	}
	ul {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 4px;
		margin-top: 4px;
	}
	button {
		display: grid;
		grid-template-columns: 56px minmax(0, 1fr);
		column-gap: 10px;
		row-gap: 0;
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
	/* What Enter takes. */
	.first,
	button:hover,
	button:focus-visible {
		background: var(--raised);
		border-color: var(--line);
	}
	button :global(svg) {
		grid-row: 1 / 3;
	}
	span {
		font-size: 12px;
		line-height: 16px;
		color: var(--dim);
	}
</style>
