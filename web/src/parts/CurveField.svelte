<script lang="ts">
	import type { Row, RowsControl } from '../api/client';
	import { curvePath } from '../state/curves';
	import { format } from '../state/numbers';
	import { isTie } from '../state/parameters';
	import type { Session } from '../state/session.svelte';

	/** Points of a curve, or keys over time, dragged in a picture. Double click adds one, Delete takes one away. */
	let { session, control, path, rows, whole }: {
		session: Session;
		control: RowsControl;
		path: string;
		/** With what their numbers come to. */
		rows: Row[];
		whole: (change: (rows: Row[]) => void) => void;
	} = $props();

	const WIDTH = 240;
	const HEIGHT = 120;
	const EDGE = 10;
	const across = $derived(control.columns[0]!);
	const lines = $derived(control.columns.slice(1));
	const span = $derived<[number, number]>(control.look === 'keys' ? [0, Math.max(1, Number(rows.at(-1)?.[across.name] ?? 1)) * 1.08] : [across.hard[0]!, across.hard[1]!]);
	const x = (v: number): number => EDGE + ((v - span[0]) / (span[1] - span[0])) * (WIDTH - 2 * EDGE);
	const y = (v: number): number => HEIGHT / 2 - v * (HEIGHT / 2 - EDGE);
	let chosen = $state<{ row: number; column: string } | null>(null);
	let svg = $state<SVGSVGElement>();

	function place(event: PointerEvent | MouseEvent): [number, number] {
		const box = svg!.getBoundingClientRect();
		const px = ((event.clientX - box.left) / box.width) * WIDTH;
		const py = ((event.clientY - box.top) / box.height) * HEIGHT;
		return [span[0] + ((px - EDGE) / (WIDTH - 2 * EDGE)) * (span[1] - span[0]), Math.min(1, Math.max(-1, (HEIGHT / 2 - py) / (HEIGHT / 2 - EDGE)))];
	}

	/** A point keeps between its neighbours. */
	function held(row: number, value: number): number {
		const gap = (span[1] - span[0]) / 1000;
		const low = row === 0 ? across.hard[0]! : Number(rows[row - 1]?.[across.name]) + gap;
		const high = row === rows.length - 1 ? across.hard[1]! : Number(rows[row + 1]?.[across.name]) - gap;
		return Number(Math.min(high, Math.max(low, value)).toPrecision(4));
	}
	function move(row: number, column: string, to: [number, number]): void {
		// What follows a parameter stays tied to it.
		const set = (name: string, value: number): void => { if (!isTie(session.value(`${path}/${row}/${name}`))) session.set(`${path}/${row}/${name}`, value); };
		set(across.name, held(row, to[0]));
		set(column, Number(to[1].toFixed(3)));
	}
	function drag(event: PointerEvent): void {
		if (chosen === null || !(event.buttons & 1)) return;
		move(chosen.row, chosen.column, place(event));
	}
	function add(event: MouseEvent): void {
		if (rows.length >= control.most) return;
		const [at, value] = place(event);
		const before = rows.findLastIndex((row) => Number(row[across.name]) < at);
		if (rows.some((row) => Math.abs(Number(row[across.name]) - at) < (span[1] - span[0]) / 50)) return;
		whole((copy) => copy.splice(before + 1, 0, { [across.name]: Number(at.toPrecision(4)), ...Object.fromEntries(lines.map((line, i) => [line.name, i === 0 ? Number(value.toFixed(3)) : 0])) }));
	}
	/** One more point, halfway to the next one, or to the one before the last. */
	function addBeside(row: number): void {
		const [first, second] = row < rows.length - 1 ? [row, row + 1] : [row - 1, row];
		if (rows.length >= control.most || first < 0) return;
		whole((copy) => copy.splice(second, 0, Object.fromEntries([across, ...lines].map((one) => [one.name, Number(((Number(rows[first]?.[one.name]) + Number(rows[second]?.[one.name])) / 2).toPrecision(4))]))));
	}
	function key(event: KeyboardEvent, row: number, column: string): void {
		const by = event.shiftKey ? 0.1 : 0.02;
		const [at, value] = [Number(rows[row]?.[across.name]), Number(rows[row]?.[column])];
		const wide = (span[1] - span[0]) / 2;
		if (event.key === 'Delete' || event.key === 'Backspace') {
			if (rows.length > control.least) whole((copy) => copy.splice(row, 1));
		} else if (event.key === '+') addBeside(row);
		else if (event.key === 'ArrowUp') move(row, column, [at, Math.min(1, value + by)]);
		else if (event.key === 'ArrowDown') move(row, column, [at, Math.max(-1, value - by)]);
		else if (event.key === 'ArrowLeft') move(row, column, [at - by * wide, value]);
		else if (event.key === 'ArrowRight') move(row, column, [at + by * wide, value]);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
	/** Choices of the same step stand beside the rows. */
	const eased = $derived.by(() => {
		const values = session.value(path.slice(0, path.lastIndexOf('/'))) as Record<string, unknown> | undefined;
		const when = Object.entries(control.eased);
		return when.length > 0 && when.every(([name, choice]) => values?.[name] === choice);
	});
	const line = (column: string): string => curvePath(rows.map((row) => [x(Number(row[across.name])), y(Number(row[column]))]), [x(span[0]), x(span[1])], eased);
</script>

<svg bind:this={svg} viewBox="0 0 {WIDTH} {HEIGHT}" role="group" aria-label="{control.label}: drag points; double click or + adds one, Delete removes one" ondblclick={add} onpointermove={drag}
	onpointerup={() => { if (chosen !== null) session.release(); }}>
	<line class="rest" x1={EDGE} x2={WIDTH - EDGE} y1={HEIGHT / 2} y2={HEIGHT / 2} />
	{#if control.look === 'curve'}<line class="rest" x1={WIDTH / 2} x2={WIDTH / 2} y1={EDGE} y2={HEIGHT - EDGE} />{/if}
	{#each lines as column, l (column.name)}
		<path class="line" class:second={l > 0} d={line(column.name)} />
		{#each rows as row, i (i)}
			<circle class="point" class:second={l > 0} cx={x(Number(row[across.name]))} cy={y(Number(row[column.name]))} r="5" role="slider" tabindex="0"
				aria-label="{column.label}, point {i + 1}" aria-valuenow={Number(row[column.name])} aria-valuemin={-1} aria-valuemax={1}
				aria-valuetext="{across.label} {format(Number(row[across.name]))}{across.unit}, {column.label} {format(Number(row[column.name]))}"
				onpointerdown={(e) => { e.preventDefault(); e.currentTarget.focus(); svg?.setPointerCapture(e.pointerId); chosen = { row: i, column: column.name }; session.hold(); }}
				onkeydown={(e) => key(e, i, column.name)} />
		{/each}
	{/each}
</svg>
<p class="help">{lines.map((line) => line.label).join(' and ')} against {across.label}. Double click, or + on a point, adds one; Delete removes it.</p>

<style>
	svg {
		width: 100%;
		background: var(--well);
		border: 1px solid var(--line);
		border-radius: 3px;
		touch-action: none;
	}
	.rest {
		stroke: var(--line);
	}
	.line {
		fill: none;
		stroke: var(--accent);
		stroke-width: 1.5;
	}
	.line.second {
		stroke: var(--dim);
		stroke-dasharray: 4 3;
	}
	.point {
		fill: var(--panel);
		stroke: var(--accent);
		stroke-width: 2;
		cursor: grab;
	}
	.point.second {
		stroke: var(--dim);
	}
	.point:focus-visible {
		fill: var(--accent);
		outline: none;
	}
</style>
