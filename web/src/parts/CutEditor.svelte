<script lang="ts">
	import { Plus, X } from '@lucide/svelte';
	import { api, type MapSet, type SheetCut } from '../api/client';
	import { between, dragged, measured, partAt, type Grip, type Rectangle } from '../maps/cut';
	import { MapLens } from '../maps/lens';
	import { Texels } from '../maps/texels';
	import { catalogue } from '../state/catalogue.svelte';
	import { failed } from '../state/notices.svelte';
	import Sheet from './Sheet.svelte';

	/** Columns and rows, or rectangles with names, drawn over the image of a set. */
	let { set, finished, close }: { set: MapSet; finished: (set: MapSet) => void; close: () => void } = $props();

	const image = $derived(set.maps.find((map) => map.role === 'base-colour') ?? set.maps[0]!);
	// svelte-ignore state_referenced_locally
	const before = set.sheet;
	let way = $state<'grid' | 'rectangles'>(before !== null && before.rectangles.length > 0 ? 'rectangles' : 'grid');
	let columns = $state(before !== null && before.columns > 0 ? before.columns : 4);
	let rows = $state(before !== null && before.rows > 0 ? before.rows : 4);
	let rectangles = $state<Rectangle[]>(before?.rectangles.map((one) => ({ ...one })) ?? []);
	let picked = $state(-1);
	let under = $state(-1);
	let busy = $state(false);
	const limits = $derived(catalogue.value?.limits);
	let canvas = $state<HTMLCanvasElement>();
	let area = $state<SVGSVGElement>();
	const MOST = 472;
	const MEASURES = [['x', 'Left'], ['y', 'Top'], ['width', 'Width'], ['height', 'Height']] as const;
	const scale = $derived(MOST / Math.max(image.width, image.height));
	const [wide, high] = $derived([Math.round(image.width * scale), Math.round(image.height * scale)]);
	const cut = $derived<SheetCut>(way === 'grid' ? { columns, rows, rectangles: [] } : { columns: 0, rows: 0, rectangles });
	const texel = $derived({ width: image.width, height: image.height });

	// The dialog is there a moment later.
	$effect(() => {
		if (canvas === undefined) return;
		let lens: MapLens | null = null;
		const on = canvas;
		api.texels(image.texels).then(
			(buffer) => {
				lens = new MapLens(on);
				lens.load(0, new Texels(new Uint8Array(buffer)), image.colour);
				lens.draw({ show: 'colour', rolled: false, copies: 1, level: 0, zoom: scale, centre: [0.5, 0.5], light: [0.3, 0.2], divider: 0.5 });
			},
			(error: unknown) => failed('The map could not be loaded', error)
		);
		return () => lens?.dispose();
	});

	/** A point of the drawing, in percent of the map. */
	function at(event: PointerEvent): [number, number] {
		const box = area!.getBoundingClientRect();
		return [((event.clientX - box.left) / box.width) * 100, ((event.clientY - box.top) / box.height) * 100];
	}
	let drag: { from: [number, number]; first: Rectangle; grip: Grip | 'new' } | null = null;
	function press(event: PointerEvent, grip: Grip | null = null): void {
		if (way !== 'rectangles') return;
		event.preventDefault();
		event.stopPropagation();
		const from = at(event);
		const found = grip === null ? partAt(cut, ...from) : picked;
		if (found < 0 && rectangles.length < (limits?.rectangles ?? 0)) {
			rectangles.push(between(from, from, texel, `Part ${rectangles.length + 1}`));
			picked = rectangles.length - 1;
			drag = { from, first: { ...rectangles[picked]! }, grip: 'new' };
		} else if (found >= 0) {
			picked = found;
			drag = { from, first: { ...rectangles[found]! }, grip: grip ?? 'move' };
		}
		area?.setPointerCapture(event.pointerId);
	}
	function move(event: PointerEvent): void {
		const to = at(event);
		under = partAt(cut, ...to);
		if (drag === null || picked < 0) return;
		rectangles[picked] = drag.grip === 'new' ? between(drag.from, to, texel, drag.first.name) : dragged(drag.first, drag.grip, to[0] - drag.from[0], to[1] - drag.from[1], texel);
	}
	/** Arrow keys move the rectangle by a texel, with Shift its lower right corner. */
	function key(event: KeyboardEvent): void {
		const one = rectangles[picked];
		if (way !== 'rectangles' || one === undefined) return;
		const steps: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
		const step = steps[event.key];
		if (step !== undefined) rectangles[picked] = dragged(one, event.shiftKey ? 'corner' : 'move', (step[0] * 100) / texel.width, (step[1] * 100) / texel.height, texel);
		else if (event.key === 'Delete') remove(picked);
		else return;
		event.preventDefault();
	}
	/** One more part, in the middle of the image. */
	function add(): void {
		rectangles.push(between([25, 25], [75, 75], texel, `Part ${rectangles.length + 1}`));
		picked = rectangles.length - 1;
	}
	function remove(i: number): void {
		rectangles.splice(i, 1);
		picked = Math.min(picked, rectangles.length - 1);
	}
	const pixels = (percent: number, all: number): number => Math.round((percent / 100) * all);

	async function keep(how: () => Promise<MapSet>): Promise<void> {
		busy = true;
		try {
			finished(await how());
			close();
		} catch (error) {
			failed('The sheet stays as it was', error);
		} finally {
			busy = false;
		}
	}
</script>

<Sheet title="Cut {set.name} into a sheet" {close}>
	<div class="ways" role="group" aria-label="How it is cut">
		<button class="tool plain" aria-pressed={way === 'grid'} onclick={() => (way = 'grid')}>Columns and rows</button>
		<button class="tool plain" aria-pressed={way === 'rectangles'} onclick={() => (way = 'rectangles')}>Rectangles with names</button>
	</div>
	<form id="cut" class="editor" onsubmit={(e) => { e.preventDefault(); if (!busy) void keep(() => api.cutSet(set.id, $state.snapshot(cut) as SheetCut)); }}>
		<div class="drawing" style:width="{wide}px" style:height="{high}px">
			<canvas bind:this={canvas} width={wide} height={high}></canvas>
			<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
			<svg bind:this={area} role="application" viewBox="0 0 100 100" preserveAspectRatio="none" tabindex={way === 'grid' ? -1 : 0} class:drawn={way === 'rectangles'}
				aria-label={way === 'grid' ? 'The parts' : 'The parts: drag to draw one; arrow keys move the chosen one, with Shift its corner'}
				onpointerdown={(e) => press(e)} onpointermove={move} onpointerup={() => (drag = null)} onpointercancel={() => (drag = null)} onpointerleave={() => (under = -1)} onkeydown={key}>
				{#if way === 'grid'}
					{#each { length: columns - 1 }, i (i)}<line x1={((i + 1) * 100) / columns} x2={((i + 1) * 100) / columns} y1="0" y2="100" />{/each}
					{#each { length: rows - 1 }, i (i)}<line y1={((i + 1) * 100) / rows} y2={((i + 1) * 100) / rows} x1="0" x2="100" />{/each}
					{#if under >= 0}<rect class="part under" x={((under % columns) * 100) / columns} y={(Math.floor(under / columns) * 100) / rows} width={100 / columns} height={100 / rows} />{/if}
				{:else}
					{#each rectangles as one, i (i)}<rect class="part" class:picked={i === picked} class:under={i === under} x={one.x} y={one.y} width={one.width} height={one.height} />{/each}
				{/if}
			</svg>
			{#if way === 'rectangles' && rectangles[picked] !== undefined}
				{@const one = rectangles[picked]!}
				<span class="grip" role="presentation" style:left="{one.x + one.width}%" style:top="{one.y + one.height}%" onpointerdown={(e) => press(e, 'corner')}></span>
			{/if}
			{#if under >= 0}<span class="says figures">{under}{way === 'rectangles' ? ` ${rectangles[under]?.name ?? ''}` : ''}</span>{/if}
		</div>
		<div class="side">
			{#if way === 'grid'}
				<label>Columns <input class="field figures" type="number" min="1" max={limits?.columns} bind:value={columns} /></label>
				<label>Rows <input class="field figures" type="number" min="1" max={limits?.columns} bind:value={rows} /></label>
				<p class="dim">{columns * rows} parts of {Number((image.width / columns).toFixed(2))} × {Number((image.height / rows).toFixed(2))} px, counted from 0 along the rows.{image.width % columns !== 0 || image.height % rows !== 0 ? ' Borders do not fall between texels.' : ''}</p>
			{:else}
				{#if rectangles.length === 0}<p class="dim">Drag over the image to draw the first part, or add one.</p>{/if}
				<ol>
					{#each rectangles as one, i (i)}
						<li class:picked={i === picked}>
							<span class="figures dim">{i}</span>
							<input class="field" aria-label="Name of part {i}" maxlength="60" bind:value={one.name} onfocus={() => (picked = i)} />
							<span class="figures dim">{pixels(one.x, image.width)}, {pixels(one.y, image.height)} · {pixels(one.width, image.width)} × {pixels(one.height, image.height)} px</span>
							<button type="button" class="tool small" aria-label="Delete part {i}" onclick={() => remove(i)}><X size={13} /></button>
							{#if i === picked}
								<span class="measures">
									{#each MEASURES as [measure, name] (measure)}
										{@const side = measure === 'x' || measure === 'width' ? texel.width : texel.height}
										<label>{name} <input class="field figures" type="number" min={measure === 'x' || measure === 'y' ? 0 : 1} max={side} value={pixels(one[measure], side)} aria-label="{name} of part {i}, in pixels"
											onchange={(e) => { rectangles[i] = measured(one, measure, e.currentTarget.valueAsNumber || 0, texel); e.currentTarget.value = String(pixels(rectangles[i]![measure], side)); }} /></label>
									{/each}
								</span>
							{/if}
						</li>
					{/each}
				</ol>
				<button type="button" class="tool plain" disabled={rectangles.length >= (limits?.rectangles ?? 0)} onclick={add}><Plus size={14} /> Add a part</button>
			{/if}
		</div>
	</form>
	{#snippet actions()}
		{#if before !== null}<button class="tool plain" disabled={busy} onclick={() => keep(() => api.joinSet(set.id))}>No sheet any more</button>{/if}
		<button class="tool plain" onclick={close}>Cancel</button>
		<button class="tool main" form="cut" disabled={busy || (way === 'rectangles' && rectangles.length === 0)}>Keep the sheet</button>
	{/snippet}
</Sheet>

<style>
	:global(.sheet:has(.editor)) {
		width: min(912px, 96vw);
	}
	.ways {
		display: flex;
		gap: 4px;
		margin-bottom: 12px;
	}
	.ways [aria-pressed='true'] {
		color: var(--accent);
		border-color: var(--accent);
	}
	.editor {
		display: flex;
		gap: 16px;
	}
	.drawing {
		position: relative;
		flex: none;
		background: var(--well);
	}
	canvas,
	svg {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
	}
	svg.drawn {
		cursor: crosshair;
		touch-action: none;
	}
	line,
	.part {
		vector-effect: non-scaling-stroke;
		stroke: var(--accent);
		stroke-width: 1.5px;
		fill: none;
	}
	.part {
		fill: color-mix(in oklch, var(--accent), transparent 88%);
	}
	.under {
		fill: color-mix(in oklch, var(--accent), transparent 70%);
	}
	.part.picked {
		stroke-width: 3px;
	}
	.grip {
		position: absolute;
		width: 12px;
		height: 12px;
		margin: -6px;
		border: 2px solid var(--panel);
		border-radius: 6px;
		background: var(--accent);
		cursor: nwse-resize;
		touch-action: none;
	}
	.says {
		position: absolute;
		left: 6px;
		bottom: 6px;
		padding: 0 6px;
		background: var(--panel);
		border-radius: 3px;
		pointer-events: none;
	}
	.side {
		width: 320px;
		display: grid;
		gap: 8px;
		align-content: start;
	}
	label {
		display: flex;
		justify-content: space-between;
		align-items: center;
	}
	label input {
		width: 90px;
	}
	ol {
		display: grid;
		gap: 2px;
		max-height: 440px;
		overflow: auto;
	}
	li {
		display: grid;
		grid-template-columns: 16px 96px 1fr 26px;
		align-items: center;
		gap: 6px;
		padding: 2px 4px;
		border-left: 3px solid transparent;
		font-size: 12px;
	}
	li.picked {
		border-left-color: var(--accent);
	}
	.measures {
		grid-column: 1 / -1;
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 4px 16px;
		padding: 2px 0 4px 22px;
	}
	.measures input {
		width: 76px;
	}
	.small {
		justify-content: center;
		width: 26px;
		height: 24px;
		padding: 0;
	}
	.dim {
		color: var(--dim);
	}
</style>
