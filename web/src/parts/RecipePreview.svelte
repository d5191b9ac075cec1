<script lang="ts">
	import { onMount, untrack } from 'svelte';
	import { MapLens, texelAt, type Show, type View } from '../maps/lens';
	import { LETTERS, linear } from '../maps/texels';
	import { MaterialLens, LIT } from '../recipes/material-lens';
	import { RecipePainter } from '../recipes/painter';
	import { catalogue } from '../state/catalogue.svelte';
	import { failed } from '../state/notices.svelte';
	import type { Chosen, RecipeSession } from '../state/recipe.svelte';
	import { theme } from '../state/theme.svelte';

	/** The recipe as it is now, drawn by the browser from the code of the core. */
	let { session, chosen, ready, drawn }: {
		session: RecipeSession;
		chosen: Chosen;
		/** Called with the painter when there is one. */
		ready: (painter: RecipePainter) => void;
		/** Called when the large picture is there, and there is time for small ones. */
		drawn: () => void;
	} = $props();

	let canvas = $state<HTMLCanvasElement>();
	let frame = $state<HTMLDivElement>();
	let lens: MapLens | null = null;
	let plane: MaterialLens | null = null;
	let painter = $state.raw<RecipePainter | null>(null);
	let looks = $state<'chosen' | 'lit'>('lit');
	let pointer = $state.raw<{ x: number; y: number } | null>(null);
	let waiting = 0;
	/** Counts the pictures, so that what reads them reads again. */
	let count = $state(0);
	const view = $state<View>({ show: 'colour', rolled: false, copies: 1, level: 0, zoom: 1, centre: [0.5, 0.5], light: [0.28, 0.2], divider: 0.5 });

	const key = $derived(chosen.kind === 'ingredient' ? `ingredient ${chosen.id}` : `map ${chosen.role}`);
	const colour = $derived(chosen.kind === 'map' && catalogue.value?.recipe.outputs.find((one) => one.role === chosen.role)?.colour === true);
	const grey = $derived(chosen.kind === 'ingredient' || (!colour && chosen.role !== 'normal'));
	const alpha = $derived(chosen.kind === 'map' && (session.document.outputs.find((one) => one.role === chosen.role)?.alpha ?? '') !== '');
	const shows = $derived<{ value: Show; label: string }[]>(
		grey ? [] : [{ value: 'colour', label: 'RGB' }, ...LETTERS.slice(0, alpha ? 4 : 3).map((label, i) => ({ value: 'xyzw'[i] as Show, label })), ...(key === 'map normal' ? [{ value: 'lit' as Show, label: 'Lit' }] : [])]
	);
	/** Large pictures of more pixels say no more on a screen. */
	const MOST = 1024;

	onMount(() => {
		if (canvas === undefined || frame === undefined) return;
		try {
			lens = new MapLens(canvas);
			plane = new MaterialLens(lens.gl);
			painter = new RecipePainter(lens.gl);
		} catch (error) {
			failed('The recipe cannot be shown', error);
			return;
		}
		ready(painter);
		const observer = new ResizeObserver(resize);
		observer.observe(frame);
		return () => {
			observer.disconnect();
			cancelAnimationFrame(waiting);
			painter?.dispose();
			lens?.dispose();
		};
	});

	function resize(): void {
		if (canvas === undefined || frame === undefined) return;
		[canvas.width, canvas.height] = [frame.clientWidth, frame.clientHeight];
		fit();
	}
	/** The whole of it, and as many copies as are shown. */
	function fit(): void {
		if (canvas === undefined || painter === null) return;
		view.centre = [0.5, 0.5];
		view.zoom = Math.min(canvas.width, canvas.height) / painter.side / view.copies;
	}

	$effect(() => {
		const lowered = session.lowered;
		if (painter === null || lowered === null) return;
		painter.load(lowered);
		untrack(again);
	});
	$effect(() => {
		const side = Math.min(MOST, session.document.size);
		if (painter === null || painter.side === side) return;
		painter.side = side;
		untrack(() => { fit(); again(); });
	});
	$effect(() => {
		void [key, looks, theme.mode, view.show, view.rolled, view.copies, view.zoom, view.centre[0], view.centre[1], view.light[0], view.light[1]];
		untrack(show);
	});
	$effect(() => { if (!shows.some((one) => one.value === view.show)) view.show = 'colour'; });

	/** Numbers or code are others: everything is drawn anew, at most once a frame. */
	export function again(): void {
		stale = true;
		show();
	}
	let stale = true;
	const textures = new Map<string, WebGLTexture>();
	function show(): void {
		cancelAnimationFrame(waiting);
		waiting = requestAnimationFrame(draw);
	}
	function draw(): void {
		if (painter === null || lens === null || plane === null || session.lowered === null) return;
		const shot = { ...view, centre: [...view.centre], light: [...view.light] } as View;
		try {
			if (stale) {
				painter.fill(session.snapshot());
				textures.clear();
			}
			const texture = (one: string, coloured: boolean): WebGLTexture => {
				const known = textures.get(one) ?? painter!.texture(one, coloured);
				textures.set(one, known);
				return known;
			};
			if (looks === 'lit') {
				const maps = new Map<string, WebGLTexture>();
				for (const role of Object.keys(LIT)) {
					if (painter.has(`map ${role}`)) maps.set(role, texture(`map ${role}`, catalogue.value?.recipe.outputs.find((one) => one.role === role)?.colour === true));
				}
				plane.draw(shot, painter.side, maps);
			} else if (painter.has(key)) {
				lens.adopt(texture(key, colour), { width: painter.side, height: painter.side, levels: 1 + Math.floor(Math.log2(painter.side)), colour, grey });
				lens.draw(shot);
			}
		} catch (error) {
			failed('The recipe cannot be drawn', error);
		}
		if (stale) {
			stale = false;
			count++;
			drawn();
		}
	}

	function place(event: MouseEvent): [number, number] {
		const box = canvas!.getBoundingClientRect();
		return [((event.clientX - box.left) / box.width) * canvas!.width, ((event.clientY - box.top) / box.height) * canvas!.height];
	}
	function wheel(event: WheelEvent): void {
		if (canvas === undefined || painter === null) return;
		event.preventDefault();
		const [x, y] = place(event);
		const zoom = Math.min(32, Math.max(0.05, view.zoom * Math.exp(-event.deltaY / 400)));
		// What lies under the pointer stays there.
		const shift = (at: number, middle: number): number => ((at - middle) / painter!.side) * (1 / view.zoom - 1 / zoom);
		view.centre = [view.centre[0] + shift(x, canvas.width / 2), view.centre[1] + shift(y, canvas.height / 2)];
		view.zoom = zoom;
	}
	function move(event: PointerEvent): void {
		if (canvas === undefined || painter === null) return;
		const [x, y] = place(event);
		if ((event.buttons & 1) === 1) view.centre = [view.centre[0] - event.movementX / (view.zoom * painter.side), view.centre[1] - event.movementY / (view.zoom * painter.side)];
		else view.light = [x / canvas.width, y / canvas.height];
		pointer = { x, y };
	}
	function keys(event: KeyboardEvent): void {
		if (painter === null) return;
		const zoomed = { '+': 1.4, '=': 1.4, '-': 1 / 1.4 }[event.key];
		const moved = { ArrowLeft: [-40, 0], ArrowRight: [40, 0], ArrowUp: [0, -40], ArrowDown: [0, 40] }[event.key];
		if (zoomed !== undefined) view.zoom = Math.min(32, Math.max(0.05, view.zoom * zoomed));
		else if (moved !== undefined) view.centre = [view.centre[0] + moved[0]! / (view.zoom * painter.side), view.centre[1] + moved[1]! / (view.zoom * painter.side)];
		else if (event.key === '0') fit();
		else return;
		event.preventDefault();
	}
	function copies(next: number): void {
		view.copies = next;
		fit();
	}

	const under = $derived.by(() => {
		void count;
		if (pointer === null || painter === null || canvas === undefined || looks === 'lit') return null;
		const side = painter.side;
		const [x, y] = texelAt(view, canvas, { width: side, height: side }, pointer.x, pointer.y).map((v) => ((v % side) + side) % side) as [number, number];
		const stored = painter.pixel(key, x, y);
		if (stored === null) return null;
		const values = grey ? [stored[0]! / 255] : stored.slice(0, alpha ? 4 : 3).map((v, i) => (colour && i < 3 ? linear(v / 255) : v / 255));
		return { x, y, values };
	});
</script>

<section aria-label="Preview">
	<div class="bar">
		<div class="set" role="group" aria-label="What is shown">
			<button class="tool" aria-pressed={looks === 'lit'} onclick={() => (looks = 'lit')}>All maps, lit</button>
			<button class="tool" aria-pressed={looks === 'chosen'} onclick={() => (looks = 'chosen')}>What is chosen</button>
		</div>
		{#if looks === 'chosen' && shows.length > 0}
			<div class="set" role="group" aria-label="Channels">
				{#each shows as one (one.value)}<button class="tool" aria-pressed={view.show === one.value} onclick={() => (view.show = one.value)}>{one.label}</button>{/each}
			</div>
		{/if}
		<span class="gap"></span>
		<div class="set" role="group" aria-label="Copies side by side">
			{#each [1, 2, 3, 5] as one (one)}<button class="tool" aria-pressed={view.copies === one} onclick={() => copies(one)}>{one} × {one}</button>{/each}
		</div>
		<button class="tool" aria-pressed={view.rolled} title="Half a tile to the right and down: its borders lie in the middle" onclick={() => (view.rolled = !view.rolled)}>Offset by half</button>
	</div>
	<div class="frame" bind:this={frame}>
		<canvas bind:this={canvas} tabindex="0" aria-label="Picture of the recipe; wheel or + and - zoom, drag or arrows move, 0 fits" data-count={count}
			onwheel={wheel} onpointermove={move} onpointerdown={(e) => e.currentTarget.setPointerCapture(e.pointerId)} onpointerleave={() => (pointer = null)} onkeydown={keys} ondblclick={fit}></canvas>
	</div>
	<p class="foot figures">
		{#if under !== null}<span>x {under.x} y {under.y}</span><span>{under.values.map((v) => v.toFixed(3)).join('  ')}{colour ? ' linear' : ''}</span>
		{:else if looks === 'lit'}<span class="dim">The lamp follows the pointer. Drag to move, wheel to zoom.</span>{/if}
	</p>
</section>

<style>
	section {
		display: grid;
		grid-template-rows: 36px minmax(0, 1fr) 24px;
		min-width: 0;
		background: var(--stage);
	}
	.bar {
		display: flex;
		align-items: center;
		gap: 12px;
		padding: 0 8px;
		background: var(--panel);
		border-bottom: 1px solid var(--line);
	}
	.set {
		display: flex;
		gap: 2px;
	}
	.gap {
		flex: 1;
	}
	.frame {
		position: relative;
		overflow: hidden;
	}
	canvas {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
		cursor: crosshair;
		touch-action: none;
	}
	.foot {
		display: flex;
		gap: 16px;
		align-items: center;
		padding: 0 8px;
		background: var(--panel);
		border-top: 1px solid var(--line);
	}
	.dim {
		color: var(--dim);
	}
</style>
