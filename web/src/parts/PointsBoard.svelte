<script lang="ts">
	import { Crosshair, Download, FolderOpen } from '@lucide/svelte';
	import type { Snippet } from 'svelte';
	import type { Lookup } from '../state/lookups.svelte';
	import { asTable } from '../state/lookup';
	import { saved } from '../state/saved';

	/** Which layers lie at points that are written here, come from a file, or were clicked on the stage. */
	let { lookup, name, clicked, lead }: {
		lookup: Lookup;
		/** Of the file that the answer is saved as. */
		name: string;
		/** The point of the stage that was clicked last; null if there is none. */
		clicked: string | null;
		/** What stands in front. */
		lead: Snippet;
	} = $props();
	const SHOWN = 500;
	const EXAMPLE = 'x, y, z in metres, a point a line;\nand the direction its surface faces, if it is another:\n2.5, 0, -1\n0, 1.2, 0.5, 0, 0, 1';
	const FACING = [{ value: '0,1,0', label: 'up' }, { value: '0,-1,0', label: 'down' }, { value: '1,0,0', label: '+X' }, { value: '-1,0,0', label: '−X' }, { value: '0,0,1', label: '+Z' }, { value: '0,0,-1', label: '−Z' }] as const;
	let input = $state<HTMLInputElement>();
	const found = $derived(lookup.found);
	const metres = (value: number): string => value.toFixed(3);
	async function open(file: File | undefined): Promise<void> {
		if (file !== undefined) lookup.text = await file.text();
	}
</script>

<section class="board" aria-label="Layers at points" aria-busy={lookup.busy}>
	<div class="bar">
		{@render lead()}
		<button class="tool plain" onclick={() => input?.click()}><FolderOpen size={14} /> From a file</button>
		<input bind:this={input} type="file" aria-label="A file of points" accept=".csv,.txt,text/plain,text/csv" hidden onchange={(e) => { void open(e.currentTarget.files?.[0]); e.currentTarget.value = ''; }} />
		<button class="tool plain" disabled={clicked === null} title={clicked === null ? 'Click a surface on the stage first' : `Adds ${clicked}`} onclick={() => (lookup.text = `${lookup.text.trimEnd()}${lookup.text.trim() === '' ? '' : '\n'}${clicked}\n`)}><Crosshair size={14} /> The clicked point</button>
		<label>Others face <select class="field" aria-label="Others face" bind:value={lookup.facing}>{#each FACING as one (one.value)}<option value={one.value}>{one.label}</option>{/each}</select></label>
		<span class="gap"></span>
		<button class="tool plain" disabled={found === null} onclick={() => found !== null && saved(asTable(found.points, found.layers, found.weights), `${name}-layers.csv`, 'text/csv')}><Download size={14} /> Save as CSV</button>
	</div>
	<div class="parts">
		<div class="said">
			<textarea class="field figures" aria-label="Points" spellcheck="false" placeholder={EXAMPLE} bind:value={lookup.text}></textarea>
			{#if lookup.trouble !== ''}<p role="alert">{lookup.trouble}</p>{/if}
		</div>
		<!-- svelte-ignore a11y_no_noninteractive_tabindex (it scrolls, by keys as well) -->
		<div class="found" tabindex="0" role="region" aria-label="What lies there">
			{#if found !== null}
				<table class="listing">
					<thead><tr><th scope="col">Point, m</th>{#each found.layers as one (one.id)}<th scope="col" class="right">{one.name}</th>{/each}</tr></thead>
					<tbody>
						{#each found.points.slice(0, SHOWN) as point, i (i)}
							<tr><th scope="row" class="figures">{point.slice(0, 3).map(metres).join(', ')}</th>{#each found.weights[i] ?? [] as share, layer (layer)}<td class:most={share === Math.max(...(found.weights[i] ?? [])) && share > 0} class:none={share < 0.0005}>{(100 * share).toFixed(1)} %</td>{/each}</tr>
						{/each}
					</tbody>
				</table>
				{#if found.points.length > SHOWN}<p class="dim">The first {SHOWN} of {found.points.length}; the file has all of them.</p>{/if}
			{:else if lookup.trouble === ''}<p class="dim">What a game asks for footsteps, decals and plants: which layers are seen at a place, and how much of each. The same is answered by <code>bin/rilta at</code> and by the code in C.</p>{/if}
		</div>
	</div>
</section>

<style>
	.bar {
		display: flex;
		align-items: center;
		gap: 8px;
	}
	.bar label {
		display: flex;
		align-items: center;
		gap: 8px;
		color: var(--dim);
	}
	.bar .tool {
		display: flex;
		align-items: center;
		gap: 4px;
		border: 1px solid var(--line);
	}
	.gap {
		flex: 1;
	}
	.parts {
		display: grid;
		grid-template-columns: 300px minmax(0, 1fr);
		gap: 12px;
		flex: 1;
		min-height: 0;
	}
	.said {
		display: flex;
		flex-direction: column;
		gap: 4px;
		min-height: 0;
	}
	textarea {
		flex: 1;
		min-height: 0;
		padding: 6px 8px;
		font-size: 12px;
		line-height: 16px;
		resize: none;
	}
	[role='alert'] {
		color: var(--brick);
		font-size: 12px;
		line-height: 16px;
	}
	.found {
		overflow: auto;
		font-size: 12px;
	}
	.dim {
		color: var(--dim);
		line-height: 16px;
	}
	td.most {
		color: var(--accent);
	}
	td.none {
		color: var(--dim);
	}
	tbody th {
		font-weight: 400;
		text-align: left;
		white-space: nowrap;
	}
</style>
