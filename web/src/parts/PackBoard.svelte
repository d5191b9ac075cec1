<script lang="ts">
	import { api, type MapInfo, type MapSet } from '../api/client';
	import { LETTERS } from '../maps/texels';
	import { Pack } from '../maps/pack.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { failed } from '../state/notices.svelte';
	import { works } from '../state/works.svelte';
	import Sheet from './Sheet.svelte';

	/** Channels of maps on the left are dragged, or sent by keyboard, to the four of a new map. */
	let { set, others, finished, close }: {
		set: MapSet;
		/** Names and ids of the other sets of the project. */
		others: { id: number; name: string }[];
		finished: (set: MapSet) => void;
		close: () => void;
	} = $props();
	let name = $state('');
	/** Another set whose channels are offered too. */
	let second = $state.raw<MapSet | null>(null);
	const maps = $derived([...set.maps, ...(second?.maps ?? [])]);
	// svelte-ignore state_referenced_locally
	const pack = new Pack(set);
	let busy = $state(false);
	let held = $state<string | null>(null);
	let previews = $state<HTMLCanvasElement[]>([]);
	const label = (role: string): string => catalogue.value?.roles.find((one) => one.value === role)?.label ?? role;
	const letters = (map: MapInfo): number[] => (map.scalar ? [0] : [0, 1, 2, 3]);

	$effect(() => {
		void pack.loaded;
		pack.targets.forEach((target, i) => {
			const canvas = previews[i];
			if (canvas !== undefined) pack.paint(target, canvas);
		});
	});

	async function add(id: number): Promise<void> {
		try {
			second = id === 0 ? null : await api.set(id);
			if (second !== null) pack.load(second);
		} catch (error) {
			failed('The other set did not come', error);
		}
	}

	async function make(): Promise<void> {
		busy = true;
		try {
			finished(await works.settle<MapSet>(api.packMaps(set.id, name.trim(), pack.body()), (task) => api.set(task.set)));
			close();
		} catch (error) {
			failed('Nothing was packed', error);
		} finally {
			busy = false;
		}
	}
</script>

<Sheet title="Pack channels of {set.name}" {close}>
	<div class="presets" role="group" aria-label="Presets">
		{#each catalogue.value?.packings ?? [] as preset (preset.label)}
			{@const lacking = pack.lacking(preset).map((role) => label(role).toLowerCase())}
			<button class="tool plain" disabled={lacking.length > 0} title={lacking.length === 0 ? preset.help : `${set.name} has no ${lacking.join(' and no ')}`} onclick={() => pack.take(preset)}>{preset.label}</button>
		{/each}
	</div>
	<div class="board">
		<ul class="sources" aria-label="Channels of the set">
			{#each maps as map (map.id)}
				<li>
					<span>{map.name.startsWith(`${set.name}/`) ? '' : `${map.name.split('/')[0]}: `}{map.role === 'packed' ? map.name.split('/')[1] : label(map.role)}{map.inverted ? ' (inverted)' : ''}</span>
					<span class="chips">
						{#each letters(map) as channel (channel)}
							{@const key = `${map.id} ${channel}`}
							<button class="chip c{channel}" class:held={held === key} draggable="true" aria-pressed={held === key} aria-label="{label(map.role)}, {letters(map).length === 1 ? 'value' : LETTERS[channel]}"
								ondragstart={(e) => { held = key; e.dataTransfer?.setData('text/plain', key); }} onclick={() => (held = held === key ? null : key)}>
								{letters(map).length === 1 ? 'V' : LETTERS[channel]}
							</button>
						{/each}
					</span>
				</li>
			{/each}
			<li>
				<select class="field" aria-label="Channels of another set" onchange={(e) => void add(Number(e.currentTarget.value))}>
					<option value="0">And of another set …</option>
					{#each others as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
				</select>
			</li>
		</ul>
		<div class="targets">
			{#each pack.targets as target, i (i)}
				{@const source = maps.find((one) => one.id === target.map)}
				<!-- svelte-ignore a11y_no_static_element_interactions -->
				<div class="target" ondragover={(e) => e.preventDefault()} ondrop={(e) => { e.preventDefault(); if (held !== null) pack.put(i, held); held = null; }}>
					<button class="slot c{i}" aria-label="{LETTERS[i]}: {source === undefined ? (target.used ? `constant ${target.low}` : 'nothing') : label(source.role)}{held === null ? '' : ', put it here'}"
						onclick={() => { if (held !== null) { pack.put(i, held); held = null; } }}>{LETTERS[i]}</button>
					<canvas bind:this={previews[i]} width="64" height="64"></canvas>
					<div class="what">
						{#if source !== undefined}
							<strong>{label(source.role)} <span class="figures dim">{letters(source).length === 1 ? '' : LETTERS[target.channel]}</span></strong>
							{#if source.role === 'roughness'}
								<!-- What comes out is chosen, whichever of the two the file holds. -->
								<label>as <select class="field" aria-label="{LETTERS[i]}: roughness or smoothness" value={target.inverted === source.inverted ? 'roughness' : 'smoothness'} onchange={(e) => (target.inverted = (e.currentTarget.value === 'smoothness') !== source.inverted)}>
									<option value="roughness">roughness</option>
									<option value="smoothness">smoothness</option>
								</select></label>
							{:else}
								<label><input type="checkbox" bind:checked={target.inverted} /> turned over</label>
							{/if}
							<label class="levels">from <input class="field figures" type="number" min="0" max="1" step="0.05" bind:value={target.low} aria-label="{LETTERS[i]}: value that becomes black" />
								to <input class="field figures" type="number" min="0" max="1" step="0.05" bind:value={target.high} aria-label="{LETTERS[i]}: value that becomes white" /></label>
							<button class="link" onclick={() => pack.clear(i)}>Take out</button>
						{:else}
							<label class="levels"><input type="checkbox" disabled={i < 3} bind:checked={target.used} /> constant
								<input class="field figures" type="number" min="0" max="1" step="0.05" bind:value={target.low} disabled={!target.used} aria-label="{LETTERS[i]}: constant" /></label>
							<span class="dim">Drag a channel here</span>
						{/if}
					</div>
				</div>
			{/each}
		</div>
	</div>
	<label class="named">Name <input class="field" maxlength="40" placeholder="made of what is in it" bind:value={name} /></label>
	<p class="dim">{pack.summary(set)}</p>
	{#snippet actions()}
		<button class="tool plain" onclick={close}>Cancel</button>
		<button class="tool main" onclick={make} disabled={busy || !pack.possible}>{busy ? 'Packing …' : 'Make the map'}</button>
	{/snippet}
</Sheet>

<style>
	:global(.sheet:has(.board)) {
		width: min(860px, 94vw);
	}
	.named {
		display: flex;
		gap: 8px;
		align-items: center;
	}
	.presets {
		display: flex;
		flex-wrap: wrap;
		gap: 4px;
	}
	.board {
		display: grid;
		grid-template-columns: 260px 1fr;
		gap: 24px;
	}
	.sources {
		display: grid;
		gap: 8px;
		align-content: start;
	}
	.sources li {
		display: flex;
		justify-content: space-between;
		align-items: center;
	}
	.chips {
		display: flex;
		gap: 4px;
	}
	.chip,
	.slot {
		width: 26px;
		height: 26px;
		border-radius: 13px;
		border: 2px solid var(--edge);
		background: var(--raised);
		font-weight: 600;
		cursor: grab;
	}
	.slot {
		border-radius: 4px;
		cursor: pointer;
	}
	.chip.held {
		background: var(--accent);
		color: var(--on-accent);
	}
	.c0 {
		--edge: oklch(0.6 0.19 28);
	}
	.c1 {
		--edge: oklch(0.65 0.17 145);
	}
	.c2 {
		--edge: oklch(0.58 0.15 255);
	}
	.c3 {
		--edge: var(--dim);
	}
	.targets {
		display: grid;
		gap: 8px;
	}
	.target {
		display: grid;
		grid-template-columns: 26px 64px 1fr;
		gap: 12px;
		align-items: center;
		padding: 6px 8px;
		background: var(--well);
		border-radius: 4px;
		min-height: 80px;
	}
	canvas {
		background: var(--line);
		border-radius: 2px;
	}
	.what {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
		align-items: center;
	}
	.what strong {
		flex-basis: 100%;
	}
	.levels input[type='number'] {
		width: 62px;
	}
	.levels,
	label {
		display: inline-flex;
		gap: 6px;
		align-items: center;
	}
	input[type='checkbox'] {
		accent-color: var(--accent);
	}
	.link {
		color: var(--accent);
	}
	.dim {
		color: var(--dim);
	}
</style>
