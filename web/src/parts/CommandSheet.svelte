<script lang="ts">
	import { Combobox, useListCollection } from '@skeletonlabs/skeleton-svelte';
	import { tick } from 'svelte';
	import { commands, matching, values, type Command } from '../state/commands.svelte';
	import Sheet from './Sheet.svelte';

	/** All that can be done here, to be found by typing; and all keys. */
	let { keys, close }: {
		/** Whether keys are shown, and not what can be done. */
		keys: boolean;
		close: () => void;
	} = $props();

	const held = (): HTMLElement | null => (document.activeElement instanceof HTMLElement ? document.activeElement : null);
	const from = held();
	let went = false;
	/** Where the keyboard goes on: where it came from, or where it has been taken to by now. */
	const next = (): HTMLElement | null => (went ? held() : from);
	let typed = $state('');
	/** Whether something was chosen: what it takes away may be what offered other things, which are not asked for any more. */
	let chosen = $state(false);
	const fields = values();
	const found = $derived(chosen ? [] : matching([...commands.all, ...fields].filter((one) => one.run !== undefined && one.can !== false), typed));
	/** By place, since two may be called alike. */
	const collection = $derived(useListCollection({ items: found.map((one, i) => ({ value: String(i), label: one.label, one })) }));
	let marked = $state<string | null>('0');
	const groups = $derived([...new Set(commands.keyed.map((one) => one.group))].map((group) => ({ group, all: commands.keyed.filter((one) => one.group === group) })));

	function go(one: Command | undefined): void {
		if (one === undefined) return;
		chosen = true;
		close();
		one.run?.();
		// The dialog would wait for a frame, and take it away from whoever is on already.
		void tick().then(() => {
			if (!went) (one.lands === undefined ? from : typeof one.lands === 'string' ? document.querySelector<HTMLElement>(one.lands) : one.lands)?.focus();
			went = true;
		});
	}
</script>

<Sheet title={keys ? 'Keys' : 'Commands'} {close} {next} wide={keys}>
	{#if keys}
		<div class="groups">
			{#each groups as { group, all } (group)}
				<section>
					<h3 class="heading">{group}</h3>
					<dl>{#each all as one (one.label)}<dt>{one.label}</dt><dd><kbd>{one.keys}</kbd></dd>{/each}</dl>
				</section>
			{/each}
		</div>
	{:else}
		<Combobox open disableLayer {collection} value={[]} selectionBehavior="preserve" placeholder="Type what you want to do" highlightedValue={marked} onHighlightChange={(d) => (marked = d.highlightedValue)}
			inputValue={typed} onInputValueChange={(d) => { typed = d.inputValue; marked = '0'; }} onValueChange={(d) => go(d.items[0]?.one)}>
			<Combobox.Control><div class="typed"><Combobox.Input class="field" aria-label="What to do" {@attach (field: HTMLInputElement) => field.focus()} /></div></Combobox.Control>
			<div class="found"><Combobox.Content aria-label="Commands">
				{#each collection.items as item (item.value)}
					<Combobox.Item {item}>
						<span>{item.label}</span><span class="group">{item.one.group}</span>{#if item.one.keys !== undefined}<kbd>{item.one.keys}</kbd>{/if}
					</Combobox.Item>
				{:else}
					<li class="none">Nothing here is called so.</li>
				{/each}
			</Combobox.Content></div>
		</Combobox>
	{/if}
</Sheet>

<style>
	.groups {
		columns: 2 240px;
		column-gap: 24px;
	}
	section {
		break-inside: avoid;
		margin-bottom: 16px;
	}
	dl {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 4px 12px;
		margin-top: 4px;
	}
	kbd {
		padding: 0 6px;
		border: 1px solid var(--line);
		border-radius: 3px;
		background: var(--well);
		font-family: var(--font-figures);
		font-size: 12px;
		white-space: nowrap;
	}
	.typed :global(.field) {
		width: 100%;
	}
	.found :global(ul) {
		height: 320px;
		margin-top: 8px;
		overflow-y: auto;
		outline: none;
	}
	.found :global(li) {
		display: flex;
		align-items: center;
		gap: 8px;
		padding: 4px 8px;
		border-radius: 3px;
		cursor: pointer;
	}
	.found :global([data-highlighted]) {
		background: var(--accent-soft);
		color: var(--accent);
	}
	.group {
		flex: 1;
		color: var(--dim);
		font-size: 12px;
	}
	.found .none {
		color: var(--dim);
		cursor: default;
	}
</style>
