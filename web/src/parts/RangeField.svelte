<script lang="ts">
	import type { Control, NumberControl } from '../api/client';
	import type { Spread } from '../recipes/painter';
	import { format } from '../state/numbers';
	import type { RecipeSession } from '../state/recipe.svelte';
	import ControlField from './ControlField.svelte';

	/** Which values of a noise become 0 and 1, over how many there are of each; what lies outside is told. */
	let { session, path, controls, spread }: { session: RecipeSession; path: string; controls: Control[]; spread: Spread | null } = $props();

	const WIDTH = 268;
	const HEIGHT = 64;
	const numbers = $derived(controls.filter((one): one is NumberControl => one.type === 'number'));
	const number = (name: string): number => Number(session.value(`${path}/${name}`) ?? numbers.find((one) => one.name === name)?.default ?? 0);
	const black = $derived(number('black'));
	const white = $derived(number('white'));
	const outside = $derived(controls.find((one) => one.name === 'outside'));
	const fitted = $derived((session.value(`${path}/outside`) ?? outside?.default) === 'remap');
	/** The values that the picture runs over. */
	const axis = $derived<[number, number]>(fitted ? [-0.1, 1.1] : [Math.min(black, white, Number(numbers[0]?.default ?? 0)) - 0.4, Math.max(black, white, Number(numbers[1]?.default ?? 1)) + 0.4]);
	const x = (value: number): number => ((value - axis[0]) / (axis[1] - axis[0])) * WIDTH;
	/** A value from where it lies between black and white. */
	const raw = (at: number): number => (fitted ? at : black + at * (white - black));
	const shape = $derived.by(() => {
		if (spread === null) return '';
		const { bins, from, to } = spread;
		// What lies far out is gathered in the first and the last.
		const most = Math.max(1, ...bins.slice(1, -1));
		const points = bins.map((n, i) => `${x(raw(from + ((i + 0.5) / bins.length) * (to - from))).toFixed(1)},${(HEIGHT - Math.min(1, n / most) * (HEIGHT - 6)).toFixed(1)}`);
		return `M${points[0]!.split(',')[0]},${HEIGHT}L${points.join('L')}L${points.at(-1)!.split(',')[0]},${HEIGHT}Z`;
	});
	const share = (part: number): string => `${(100 * part).toFixed(part > 0 && part < 0.1 ? 1 : 0)} %`;

	let dragged = $state<'black' | 'white' | null>(null);
	let svg = $state<SVGSVGElement>();
	function drag(event: PointerEvent): void {
		if (dragged === null || svg === undefined) return;
		const box = svg.getBoundingClientRect();
		set(dragged, axisAtPress[0] + ((event.clientX - box.left) / box.width) * (axisAtPress[1] - axisAtPress[0]));
	}
	/** The picture does not slide away under the pointer. */
	let axisAtPress: [number, number] = [0, 1];
	function press(event: PointerEvent, which: 'black' | 'white'): void {
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		axisAtPress = [...axis];
		dragged = which;
		session.hold();
	}
	function lift(): void {
		if (dragged !== null) session.release();
		dragged = null;
	}
	function set(which: string, value: number): void {
		const control = numbers.find((one) => one.name === which);
		if (control !== undefined) session.set(`${path}/${which}`, Number(Math.min(control.hard[1]!, Math.max(control.hard[0]!, value)).toFixed(3)));
	}
	function key(event: KeyboardEvent, which: 'black' | 'white', value: number): void {
		const by = (event.shiftKey ? 0.1 : 0.01) * ({ ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key] ?? 0);
		if (by === 0) return;
		set(which, value + by);
		event.preventDefault();
	}
</script>

<div class="range">
	<svg bind:this={svg} viewBox="0 0 {WIDTH} {HEIGHT}" role="group" aria-label="Values of the noise" onpointermove={drag} onpointerup={lift} onpointercancel={lift}>
		<path d={shape} class="shape" />
		{#if !fitted}
			<rect class="out" x="0" y="0" width={Math.max(0, x(Math.min(black, white)))} height={HEIGHT} />
			<rect class="out" x={x(Math.max(black, white))} y="0" width={Math.max(0, WIDTH - x(Math.max(black, white)))} height={HEIGHT} />
			{#each [['black', black], ['white', white]] as const as [which, value] (which)}
				<g class="handle {which}" role="slider" tabindex="0" aria-label="{which === 'black' ? 'Black' : 'White'} at" aria-valuenow={value} aria-valuetext={format(value)}
					transform="translate({x(value)} 0)" onpointerdown={(e) => press(e, which)} onkeydown={(e) => key(e, which, value)}>
					<rect x="-12" y="0" width="24" height={HEIGHT} fill="transparent" />
					<line y1="0" y2={HEIGHT} />
					<path d="M-6 {HEIGHT}L0 {HEIGHT - 10}L6 {HEIGHT}Z" />
				</g>
			{/each}
		{/if}
	</svg>
	<p class="shares" aria-live="polite">
		{#if spread === null}&nbsp;{:else if fitted || spread.below + spread.above === 0}Nothing lies outside.
		{:else}<strong class="figures">{share(spread.below + spread.above)}</strong> outside: <span class="figures">{share(spread.below)}</span> below black, <span class="figures">{share(spread.above)}</span> above white{/if}
	</p>
	{#if outside !== undefined}<ControlField {session} control={outside} path="{path}/outside" brief />{/if}
	{#if !fitted}
		{#each numbers as control (control.name)}<ControlField {session} {control} path="{path}/{control.name}" brief />{/each}
	{/if}
</div>

<style>
	.range {
		display: grid;
		gap: 6px;
	}
	svg {
		width: 100%;
		background: var(--well);
		border-radius: 3px;
		touch-action: none;
	}
	.shape {
		fill: var(--dim);
		opacity: 0.75;
	}
	.out {
		fill: var(--amber);
		opacity: 0.28;
		pointer-events: none;
	}
	.handle {
		cursor: ew-resize;
	}
	.handle line {
		stroke: var(--text);
		stroke-width: 1;
	}
	.handle path {
		stroke: var(--text);
	}
	.black path {
		fill: #000;
	}
	.white path {
		fill: #fff;
	}
	.shares {
		font-size: 12px;
		line-height: 16px;
		color: var(--dim);
	}
	.shares strong {
		color: var(--text);
	}
</style>
