<script lang="ts">
	/** What a step does to a floor of marked tiles, in small. */
	let { step }: { step: string } = $props();

	type Tile = { x: number; y: number; size?: number; turn?: number; flip?: boolean; faint?: boolean };
	const floor = (size: number, each: (u: number, v: number) => Partial<Tile> = () => ({})): Tile[] =>
		Array.from({ length: Math.ceil(56 / size) * Math.ceil(36 / size) }, (_, i) => [i % Math.ceil(56 / size), Math.floor(i / Math.ceil(56 / size))] as const).map(([u, v]) => ({ x: u * size, y: v * size, size, ...each(u, v) }));
	const some = (n: number): number => (Math.abs(Math.sin(n * 12.9898)) * 43758.5453) % 1;
	const PICTURES: Record<string, { tiles: Tile[]; lines?: string; turn?: number }> = {
		size: { tiles: [...floor(8).filter((tile) => tile.x < 24), ...floor(18, (u) => ({ x: 24 + u * 18 })).filter((tile) => tile.x < 56)] },
		turn: { tiles: floor(12, (u, v) => ({ x: u * 12 - 8, y: v * 12 - 8 })), turn: 24 },
		shift: { tiles: [...floor(16, () => ({ faint: true })), { x: 21, y: 12, size: 16 }], lines: 'M18 8l7 7m0-4v4h-4' },
		mirror: { tiles: floor(14, (u) => ({ flip: u % 2 === 1 })) },
		place: { tiles: [{ x: 18, y: 8, size: 20, turn: 14 }] },
		pan: { tiles: floor(14, (u, v) => ({ x: u * 14 - 5, y: v * 14 - 3, faint: true })), lines: 'M12 18h30m-7-6l7 6l-7 6' },
		reach: { tiles: [{ x: 20, y: 10, size: 16, faint: true }], lines: 'M8 18a20 12 0 1 0 40 0a20 12 0 1 0-40 0M28 18l12-5m-3-2l3 2l-2 3' },
		frames: { tiles: [0, 1, 2, 3].map((i) => ({ x: 2 + i * 13.5, y: 12, size: 12, turn: i * 30, faint: i !== 2 })) },
		cell: { tiles: floor(14, (u, v) => ({ faint: u !== 2 || v !== 1 })) },
		breakup: { tiles: floor(12, (u, v) => ({ turn: Math.floor(some(u * 7 + v) * 4) * 90, x: u * 12 + 3 * some(u + v * 5) - 1, y: v * 12 + 3 * some(u * 3 + v) - 1 })) },
		'hex-blend': { tiles: [0, 1, 2, 3, 4].map((i) => ({ x: 4 + 10 * i, y: i % 2 === 0 ? 4 : 18, size: 9, turn: some(i) * 180 })), lines: 'M8.500 1l9 5v9l-9 5l-9-5v-9zM28.500 1l9 5v9l-9 5l-9-5v-9zM48.500 1l9 5v9l-9 5l-9-5v-9zM18.500 15l9 5v9l-9 5l-9-5v-9zM38.500 15l9 5v9l-9 5l-9-5v-9z' },
		scales: { tiles: [...floor(22, () => ({ faint: true })), ...floor(7).filter((tile) => tile.y < 14)] },
		scatter: { tiles: [0, 1, 2, 3, 4, 5, 6].map((i) => ({ x: 46 * some(i + 1), y: 26 * some(i + 11), size: 6 + 5 * some(i + 3), turn: 360 * some(i) })) },
		warp: { tiles: [], lines: 'M0 8q7-6 14 0t14 0t14 0t14 0M0 18q7-6 14 0t14 0t14 0t14 0M0 28q7-6 14 0t14 0t14 0t14 0M10 0q5 6 0 12t0 12t0 12M28 0q5 6 0 12t0 12t0 12M46 0q5 6 0 12t0 12t0 12' },
		bond: { tiles: [], lines: 'M0 9h56M0 18h56M0 27h56M14 0v9M42 0v9M28 9v9M0 9v9M56 9v9M14 18v9M42 18v9M28 27v9' },
		choose: { tiles: floor(14, (u, v) => ({ faint: some(u * 3 + v * 7 + 2) < 0.5 })) }
	};
	const picture = $derived(PICTURES[step] ?? { tiles: floor(14) });
</script>

<svg viewBox="0 0 56 36" aria-hidden="true">
	<g transform={picture.turn === undefined ? undefined : `rotate(${picture.turn} 28 18)`}>
		{#each picture.tiles as tile, i (i)}
			<g transform="translate({tile.x} {tile.y}) scale({(tile.size ?? 14) / 10}) rotate({tile.turn ?? 0} 5 5) {tile.flip ? 'translate(10 0) scale(-1 1)' : ''}" opacity={tile.faint ? 0.35 : 1}>
				<rect x="0.4" y="0.4" width="9.2" height="9.2" rx="0.6" class="tile" />
				<path d="M0.4 0.4h5.4L0.4 5.8z" class="mark" />
			</g>
		{/each}
	</g>
	{#if picture.lines !== undefined}<path d={picture.lines} class="line" />{/if}
</svg>

<style>
	svg {
		width: 56px;
		height: 36px;
		border-radius: 3px;
		background: var(--well);
	}
	.tile {
		fill: none;
		stroke: var(--dim);
		stroke-width: 0.7;
	}
	.mark {
		fill: var(--dim);
	}
	.line {
		fill: none;
		stroke: var(--accent);
		stroke-width: 1.4;
	}
</style>
