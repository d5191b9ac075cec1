<script lang="ts">
	import type { Row, RowsControl } from '../api/client';
	import type { Session } from '../state/session.svelte';
	import ColourField from './ColourField.svelte';
	import GradientBar from './GradientBar.svelte';
	import TieField from './TieField.svelte';

	/** The gradient of a layer: rows of a place and the parts of a colour. */
	let { session, control, path, rows, between, space, whole }: {
		session: Session;
		control: RowsControl;
		path: string;
		/** As their numbers come to. */
		rows: Row[];
		/** How it goes from one colour to the next: linear, smooth or constant. */
		between: string;
		/** What colours are mixed in: oklab or linear. */
		space: string;
		/** Changes the rows as a whole. */
		whole: (change: (rows: Row[]) => void) => void;
	} = $props();

	/** The least that one stands after another. */
	const GAP = 0.001;
	/** Parts that a smooth way from colour to colour is drawn in. */
	const PARTS = 8;
	const PARTED = ['red', 'green', 'blue'] as const;

	let chosen = $state(0);
	const stops = $derived(rows.map((row) => ({ at: Number(row.at), colour: PARTED.map((part) => Number(row[part])) })));
	const at = $derived(Math.min(chosen, stops.length - 1));
	const mixing = $derived(space === 'oklab' ? 'oklab' : 'srgb-linear');
	const css = (colour: number[]): string => `rgb(${colour.map((c) => (c * 255).toFixed(2)).join(' ')})`;
	const mixed = (from: number[], to: number[], share: number): string => `color-mix(in ${mixing}, ${css(from)}, ${css(to)} ${share * 100}%)`;
	const line = $derived.by(() => {
		const marks = stops.flatMap((stop, i) => {
			const next = stops[i + 1];
			const own = `${css(stop.colour)} ${stop.at * 100}%`;
			if (next === undefined || between === 'linear') return [own];
			if (between === 'constant') return [own, `${css(stop.colour)} ${next.at * 100}%`];
			return Array.from({ length: PARTS }, (_, k) => k / PARTS).map((t) => `${mixed(stop.colour, next.colour, t * t * (3 - 2 * t))} ${(stop.at + (next.at - stop.at) * t) * 100}%`);
		});
		return `linear-gradient(90deg in ${mixing}, ${marks.join(', ')})`;
	});

	function set(name: string, value: number): void {
		if (session.value(path) === undefined) whole((copy) => (copy[at]![name] = value));
		else session.set(`${path}/${at}/${name}`, value);
	}
	function move(index: number, to: number): void {
		chosen = index;
		const low = index === 0 ? 0 : stops[index - 1]!.at + GAP;
		const high = index === stops.length - 1 ? 1 : stops[index + 1]!.at - GAP;
		set('at', Number(Math.min(high, Math.max(low, to)).toFixed(3)));
	}
	/** A new one has the colour that is there already. */
	function add(where: number): void {
		const index = stops.filter((stop) => stop.at < where).length;
		const [before, after] = [stops[index - 1], stops[index]];
		const place = Math.min((after?.at ?? 1 + GAP) - GAP, Math.max((before?.at ?? -GAP) + GAP, Number(where.toFixed(3))));
		if ((before !== undefined && place <= before.at) || (after !== undefined && place >= after.at)) return;
		const colour = before === undefined || after === undefined ? (before ?? after)!.colour : there(mixed(before.colour, after.colour, between === 'constant' ? 0 : (place - before.at) / (after.at - before.at)));
		whole((copy) => copy.splice(index, 0, { at: place, red: colour[0]!, green: colour[1]!, blue: colour[2]! }));
		chosen = index;
	}
	/** The numbers of a colour that the browser mixes. */
	function there(colour: string): number[] {
		const pen = new OffscreenCanvas(1, 1).getContext('2d')!;
		pen.fillStyle = colour;
		pen.fillRect(0, 0, 1, 1);
		return [...pen.getImageData(0, 0, 1, 1).data.slice(0, 3)].map((c) => Number((c / 255).toFixed(4)));
	}
	function remove(index: number): void {
		whole((copy) => copy.splice(index, 1));
	}
	function paint(colour: number[]): void {
		PARTED.forEach((part, c) => set(part, colour[c]!));
	}
	const place = $derived({ ...control.columns[0]!, label: `Colour ${at + 1} at`, hard: [at === 0 ? 0 : stops[at - 1]!.at + GAP, at === stops.length - 1 ? 1 : stops[at + 1]!.at - GAP] });
</script>

<div class="gradient">
	<GradientBar {stops} bind:chosen={() => at, (next) => (chosen = next)} least={control.least} most={control.most} {add} {move} {remove} hold={() => session.hold()} release={() => session.release()}>
		<div class="colours" style:background={line}></div>
		{#snippet fields()}
			{#if session.value(path) !== undefined}<div class="place"><TieField {session} control={place} compact path="{path}/{at}/at" /></div>{/if}
			<ColourField label="Colour {at + 1}" value={stops[at]!.colour} set={paint} hold={() => session.hold()} release={() => session.release()} />
		{/snippet}
	</GradientBar>
</div>

<style>
	.gradient {
		display: grid;
		gap: 6px;
	}
	.colours {
		height: 100%;
	}
	.place {
		flex: 1;
	}
</style>
