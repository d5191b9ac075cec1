<script lang="ts">
	import { onMount } from 'svelte';
	import { api, type MapInfo } from '../api/client';
	import { MapLens, texelAt, type Show, type View } from '../maps/lens';
	import { LETTERS, linear, Texels } from '../maps/texels';
	import { failed } from '../state/notices.svelte';
	import { theme } from '../state/theme.svelte';

	/** One map large, and a second beside it: zoomed to its texels, by channel, rolled, repeated, lit. */
	let { map, others }: { map: MapInfo; others: MapInfo[] } = $props();

	let canvas = $state<HTMLCanvasElement>();
	let frame = $state<HTMLDivElement>();
	let lens: MapLens | null = null;
	let first = $state.raw<Texels | null>(null);
	let second = $state.raw<Texels | null>(null);
	let beside = $state(0);
	let loading = $state(true);
	const view = $state<View>({ show: 'colour', rolled: false, copies: 1, level: 0, zoom: 1, centre: [0.5, 0.5], light: [0.3, 0.2], divider: 0.5 });
	let pointer = $state.raw<{ x: number; y: number } | null>(null);

	const shows = $derived<{ value: Show; label: string }[]>(
		first?.size === 4
			? [{ value: 'colour', label: 'RGB' }, ...LETTERS.map((label, i) => ({ value: 'xyzw'[i] as Show, label })), ...(map.role === 'normal' ? [{ value: 'lit' as Show, label: 'Lit' }] : [])]
			: [{ value: 'colour', label: 'Value' }]
	);

	onMount(() => {
		if (canvas === undefined || frame === undefined) return;
		try {
			lens = new MapLens(canvas);
		} catch (error) {
			failed('The map cannot be shown', error);
			return;
		}
		const observer = new ResizeObserver(resize);
		observer.observe(frame);
		return () => {
			observer.disconnect();
			lens?.dispose();
		};
	});

	function resize(): void {
		if (canvas === undefined || frame === undefined) return;
		const wide = frame.clientWidth;
		[canvas.width, canvas.height] = [wide, Math.round(wide * 0.72)];
		fit();
	}
	/** The whole of it. */
	function fit(): void {
		if (canvas === undefined || first === null) return;
		view.centre = [0.5, 0.5];
		view.zoom = Math.min(canvas.width / first.width, canvas.height / first.height) / view.copies;
	}

	$effect(() => {
		const url = map.texels;
		loading = true;
		api.texels(url).then(
			(buffer) => {
				if (map.texels !== url) return;
				first = new Texels(new Uint8Array(buffer));
				lens?.load(0, first, map.colour);
				if (!shows.some((one) => one.value === view.show)) view.show = 'colour';
				view.level = Math.min(view.level, first.levels.length - 1);
				loading = false;
				resize();
			},
			(error: unknown) => failed('The map could not be loaded', error)
		);
	});
	$effect(() => {
		const other = others.find((one) => one.id === beside);
		if (other === undefined) {
			second = null;
			lens?.load(1, null, false);
			return;
		}
		const url = other.texels;
		api.texels(url).then(
			(buffer) => {
				if (others.find((one) => one.id === beside)?.texels !== url) return;
				second = new Texels(new Uint8Array(buffer));
				lens?.load(1, second, other.colour);
			},
			(error: unknown) => failed('The second map could not be loaded', error)
		);
	});
	$effect(() => {
		void [first, second, loading, theme.mode];
		lens?.draw({ ...view, centre: [...view.centre], light: [...view.light] });
	});

	function wheel(event: WheelEvent): void {
		if (canvas === undefined || first === null) return;
		event.preventDefault();
		const [x, y] = place(event);
		const factor = Math.exp(-event.deltaY / 400);
		const zoom = Math.min(64, Math.max(0.02, view.zoom * factor));
		// What lies under the pointer stays there.
		const shift = (at: number, middle: number, size: number): number => (at - middle) / size * (1 / view.zoom - 1 / zoom);
		view.centre = [view.centre[0] + shift(x, canvas.width / 2, first.width), view.centre[1] + shift(y, canvas.height / 2, first.height)];
		view.zoom = zoom;
	}
	function place(event: MouseEvent): [number, number] {
		const box = canvas!.getBoundingClientRect();
		return [((event.clientX - box.left) / box.width) * canvas!.width, ((event.clientY - box.top) / box.height) * canvas!.height];
	}
	function move(event: PointerEvent): void {
		if (canvas === undefined || first === null) return;
		const [x, y] = place(event);
		view.light = [x / canvas.width, y / canvas.height];
		if ((event.buttons & 1) === 1) {
			if (event.shiftKey && second !== null) view.divider = x / canvas.width;
			else view.centre = [view.centre[0] - event.movementX / (view.zoom * first.width), view.centre[1] - event.movementY / (view.zoom * first.height)];
		}
		pointer = { x, y };
	}
	function key(event: KeyboardEvent): void {
		const step = 40;
		const zoomed = { '+': 1.4, '=': 1.4, '-': 1 / 1.4 }[event.key];
		const moved = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key];
		if (zoomed !== undefined) view.zoom = Math.min(64, Math.max(0.02, view.zoom * zoomed));
		else if (moved !== undefined && first !== null) view.centre = [view.centre[0] + moved[0]! / (view.zoom * first.width), view.centre[1] + moved[1]! / (view.zoom * first.height)];
		else if (event.key === '0') fit();
		else return;
		event.preventDefault();
	}

	/** Stored numbers, and what they mean. */
	const under = $derived.by(() => {
		if (pointer === null || first === null || canvas === undefined) return null;
		const [x, y] = texelAt(view, canvas, first, pointer.x, pointer.y);
		const inside = (v: number, n: number): number => ((v % n) + n) % n;
		const stored = first.at(view.level, (x * first.levels[view.level]!.width) / first.width, (y * first.levels[view.level]!.height) / first.height);
		const values = stored.map((v, i) => (map.colour && i < 3 ? linear(v / first!.most) : v / first!.most));
		return { x: inside(x, first.width), y: inside(y, first.height), stored, values };
	});
	const BINS = 96;
	const histogram = $derived.by(() => {
		if (first === null) return [];
		// Half a million texels tell as much as sixteen.
		const level = Math.max(view.level, first.levels.findIndex((one) => one.width * one.height <= 600_000));
		const counts = first.histogram(level, BINS).slice(0, first.size === 4 ? (map.alpha ? 4 : 3) : 1);
		const most = Math.max(1, ...counts.flatMap((one) => [...one].sort((a, b) => b - a).slice(1, 2)));
		return counts.map((one) => `M0,40L${one.map((n, i) => `${(i / (BINS - 1)) * 200},${40 - 40 * Math.min(1, Math.sqrt(n / most))}`).join('L')}L200,40Z`);
	});
	const shares = (values: number[]): string => values.map((v) => v.toFixed(3)).join('  ');
</script>

<div class="viewer" bind:this={frame}>
	<canvas bind:this={canvas} aria-label="{map.name}: scroll to zoom, drag to move, 0 shows the whole map" tabindex="0" onwheel={wheel} onpointermove={move} onkeydown={key}
		onpointerdown={(e) => e.currentTarget.setPointerCapture(e.pointerId)} onpointerleave={() => (pointer = null)}></canvas>
	{#if loading}<p class="loading" aria-busy="true">Loading the texels …</p>{/if}
	<div class="under figures" aria-live="off">
		{#if under !== null}
			<span>{under.x}, {under.y}</span><span>stored {under.stored.join(' ')}</span><span>{map.colour ? 'linear' : 'value'} {shares(under.values)}</span>
		{:else}
			<span>{first === null ? '' : `${Math.round(view.zoom * 100)} %`}</span>
		{/if}
	</div>
	<div class="row" role="group" aria-label="What is shown">
		{#each shows as one (one.value)}
			<button class="tool" class:on={view.show === one.value} aria-pressed={view.show === one.value} onclick={() => (view.show = one.value)}>{one.label}</button>
		{/each}
		<span class="gap"></span>
		<button class="tool" class:on={view.rolled} aria-pressed={view.rolled} title="Its borders in the middle" onclick={() => (view.rolled = !view.rolled)}>Offset by half</button>
		<select class="field" aria-label="Copies" value={view.copies} onchange={(e) => { view.copies = Number(e.currentTarget.value); fit(); }}>
			<option value={1}>1 copy</option><option value={3}>3 × 3</option><option value={5}>5 × 5</option>
		</select>
		<select class="field" aria-label="Mip level" bind:value={view.level}>
			{#each first?.levels ?? [] as level, i (i)}<option value={i}>Mip {i} · {level.width} × {level.height}</option>{/each}
		</select>
		<button class="tool" title="Show the whole map (0)" onclick={fit}>Fit</button>
		<button class="tool" title="A texel a pixel" onclick={() => (view.zoom = 1)}>1 : 1</button>
	</div>
	<div class="row">
		<svg viewBox="0 0 200 40" preserveAspectRatio="none" aria-label="How often each value occurs">
			{#each histogram as path, i (i)}<path d={path} class="c{histogram.length === 1 ? 3 : i}" />{/each}
		</svg>
		<label class="beside">Compare with
			<select class="field" bind:value={beside}>
				<option value={0}>nothing</option>
				{#each others as other (other.id)}<option value={other.id}>{other.name}</option>{/each}
			</select>
		</label>
	</div>
	{#if second !== null}
		<label class="row">Divider <input type="range" min="0" max="1" step="0.01" bind:value={view.divider} aria-label="Divider between the two maps" /></label>
	{/if}
</div>

<style>
	.viewer {
		display: grid;
		gap: 8px;
		position: relative;
		min-width: 0;
	}
	canvas {
		width: 100%;
		background: var(--well);
		border-radius: 4px;
		cursor: crosshair;
		touch-action: none;
		display: block;
	}
	.loading {
		position: absolute;
		inset: 12px auto auto 12px;
		color: var(--dim);
	}
	.under {
		display: flex;
		gap: 16px;
		min-height: 20px;
		color: var(--dim);
		white-space: pre;
		overflow: hidden;
	}
	.row {
		display: flex;
		align-items: center;
		gap: 4px;
		flex-wrap: wrap;
	}
	.row input {
		flex: 1;
		accent-color: var(--accent);
	}
	.gap {
		flex: 1;
	}
	.on {
		background: var(--accent-soft);
		border-color: var(--accent);
	}
	svg {
		flex: 1;
		height: 44px;
		background: var(--well);
		border-radius: 3px;
		min-width: 120px;
	}
	path {
		mix-blend-mode: normal;
		fill-opacity: 0.5;
	}
	.c0 {
		fill: oklch(0.6 0.19 28);
	}
	.c1 {
		fill: oklch(0.65 0.17 145);
	}
	.c2 {
		fill: oklch(0.58 0.15 255);
	}
	.c3 {
		fill: var(--dim);
	}
	.beside {
		color: var(--dim);
		display: flex;
		gap: 4px;
		align-items: center;
	}
	.beside select {
		max-width: 170px;
	}
</style>
