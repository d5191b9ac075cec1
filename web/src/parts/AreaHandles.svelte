<script lang="ts">
	import { coordinateAt, dragged, edgeOf, gripsOf, placeOf, type Area, type Grip, type PlacedArea, type Spots } from '../state/areas';
	import type { Session } from '../state/session.svelte';

	/** Rectangles of a step over the stage: a dot for each, and handles around the one that is worked on. */
	let { session, areas, spots }: { session: Session; areas: PlacedArea[]; spots: Spots } = $props();

	/** Points along each edge. */
	const EACH = 12;
	/** Parts of an edge that are farther apart than this share of the stage are not seen side by side. */
	const APART = 0.12;

	let chosen = $state(0);
	let frame = $state<SVGSVGElement>();
	let [width, height] = $state([1, 1]);
	let held = $state<{ grip: Grip; area: Area; grabbed: [number, number] } | null>(null);
	const at = $derived(Math.min(chosen, areas.length - 1));
	const centres = $derived(areas.map(({ area }) => placeOf(spots, [area.u, area.v], null)));
	const near = $derived(centres[at] ?? null);
	const grips = $derived(gripsOf(areas[at]!.area).slice(1).map(([grip, place]) => ({ grip, place: placeOf(spots, place, near) })));
	const edge = $derived.by(() => {
		const places = edgeOf(areas[at]!.area, EACH).map((one) => placeOf(spots, one, near));
		return places.slice(1).flatMap((to, i) => {
			const from = places[i];
			return from == null || to === null || Math.hypot(to[0] - from[0], to[1] - from[1]) > APART ? [] : [{ from, to }];
		});
	});
	const x = ([share]: [number, number]): number => share * width;
	const y = ([, share]: [number, number]): number => share * height;

	function under(event: PointerEvent): [number, number] | null {
		const box = frame!.getBoundingClientRect();
		return coordinateAt(spots, (event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
	}
	function take(event: PointerEvent, grip: Grip, index: number): void {
		chosen = index;
		const area = areas[index]!.area;
		const [here, stands] = [under(event), gripsOf(area).find(([one]) => one === grip)![1]];
		event.stopPropagation();
		held = { grip, area, grabbed: here === null ? [0, 0] : [here[0] - stands[0], here[1] - stands[1]] };
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		session.hold();
	}
	function move(event: PointerEvent): void {
		const here = held === null ? null : under(event);
		if (held === null || here === null) return;
		const { paths, limits } = areas[at]!;
		// What follows a parameter stays with it.
		for (const [part, value] of Object.entries(dragged(held.area, held.grip, here, held.grabbed)) as [keyof Area, number][]) {
			const [least, most] = limits[part];
			if (typeof (session.value(paths[part]) ?? 0) === 'number') session.set(paths[part], Math.min(most, Math.max(least, value)));
		}
	}
	function drop(): void {
		if (held !== null) session.release();
		held = null;
	}
	const names: Record<Grip, string> = { centre: 'Drag to move the rectangle', turn: 'Drag to turn it', 0: 'Drag to size it', 1: 'Drag to size it', 2: 'Drag to size it', 3: 'Drag to size it' };
</script>

<svg bind:this={frame} bind:clientWidth={width} bind:clientHeight={height} aria-hidden="true" role="presentation" onpointermove={move} onpointerup={drop} onpointercancel={drop}>
	{#each edge as { from, to }, i (i)}
		<line class="under" x1={x(from)} y1={y(from)} x2={x(to)} y2={y(to)} /><line x1={x(from)} y1={y(from)} x2={x(to)} y2={y(to)} />
	{/each}
	{#each grips as { grip, place } (grip)}
		{#if place !== null}
			<g class="grip" data-grip={grip} transform="translate({x(place)} {y(place)})" role="presentation" onpointerdown={(e) => take(e, grip, at)}>
				<title>{names[grip]}</title>
				<circle class="reach" r="12" />
				{#if grip === 'turn'}<path class="mark" d="M-5 2a5.5 5.5 0 1 1 8 3.5" /><path class="mark" d="M6 1.5l-3 4 5 0.5" />{:else}<rect x="-4" y="-4" width="8" height="8" />{/if}
			</g>
		{/if}
	{/each}
	{#each centres as place, i (i)}
		{#if place !== null}
			<g class="grip" class:quiet={i !== at} data-centre={i} transform="translate({x(place)} {y(place)})" role="presentation" onpointerdown={(e) => take(e, 'centre', i)}>
				<title>{names.centre}{areas.length > 1 ? ` ${i + 1}` : ''}</title>
				<circle class="reach" r="12" /><circle r={i === at ? 6 : 4} />
			</g>
		{/if}
	{/each}
</svg>

<style>
	svg {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
		pointer-events: none;
		touch-action: none;
	}
	line {
		stroke: var(--accent);
		stroke-width: 1.5;
	}
	.under {
		stroke: #000a;
		stroke-width: 4;
	}
	.grip {
		pointer-events: all;
		cursor: grab;
	}
	.grip:active {
		cursor: grabbing;
	}
	.reach {
		fill: transparent;
		stroke: none;
	}
	rect,
	circle {
		fill: var(--accent);
		stroke: #000c;
		stroke-width: 1.5;
	}
	.quiet circle:last-child {
		fill: #fffb;
	}
	.mark {
		fill: none;
		stroke: var(--accent);
		stroke-width: 2;
		paint-order: stroke;
	}
</style>
