<script lang="ts">
	import { tick } from 'svelte';
	import { commands, matching, type Command } from '../state/commands.svelte';
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
	let at = $state(0);
	const found = $derived(matching(commands.all.filter((one) => one.run !== undefined && one.can !== false), typed));
	const chosen = $derived(Math.min(at, found.length - 1));
	const groups = $derived([...new Set(commands.keyed.map((one) => one.group))].map((group) => ({ group, all: commands.keyed.filter((one) => one.group === group) })));

	function go(one: Command | undefined): void {
		if (one === undefined) return;
		close();
		one.run?.();
		// The dialog would wait for a frame, and take it away from whoever is on already.
		void tick().then(() => {
			if (!went) (one.lands === undefined ? from : document.querySelector<HTMLElement>(one.lands))?.focus();
			went = true;
		});
	}
	function key(event: KeyboardEvent): void {
		if (event.key === 'ArrowDown') at = Math.min(found.length - 1, chosen + 1);
		else if (event.key === 'ArrowUp') at = Math.max(0, chosen - 1);
		else if (event.key === 'Enter') go(found[chosen]);
		else return;
		event.preventDefault();
	}
	$effect(() => {
		document.getElementById(`command-${chosen}`)?.scrollIntoView({ block: 'nearest' });
	});
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
		<input class="field" role="combobox" aria-label="What to do" aria-expanded="true" aria-controls="commands" aria-activedescendant={found.length > 0 ? `command-${chosen}` : undefined} placeholder="Type what you want to do" {@attach (field: HTMLInputElement) => field.focus()} bind:value={typed} oninput={() => (at = 0)} onkeydown={key} />
		<ul id="commands" role="listbox" aria-label="Commands">
			{#each found as one, i (i)}
				<!-- The field hears the keys. -->
				<!-- svelte-ignore a11y_click_events_have_key_events -->
				<li id="command-{i}" role="option" aria-selected={i === chosen} onclick={() => go(one)}>
					<span>{one.label}</span><span class="group">{one.group}</span>{#if one.keys !== undefined}<kbd>{one.keys}</kbd>{/if}
				</li>
			{:else}
				<li class="none">Nothing here is called so.</li>
			{/each}
		</ul>
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
	.field {
		width: 100%;
	}
	ul {
		height: 320px;
		margin-top: 8px;
		overflow-y: auto;
	}
	li {
		display: flex;
		align-items: center;
		gap: 8px;
		padding: 4px 8px;
		border-radius: 3px;
		cursor: pointer;
	}
	li[aria-selected='true'] {
		background: var(--accent-soft);
		color: var(--accent);
	}
	.group {
		flex: 1;
		color: var(--dim);
		font-size: 12px;
	}
	.none {
		color: var(--dim);
		cursor: default;
	}
</style>
