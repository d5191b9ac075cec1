<script lang="ts">
	import { tick } from 'svelte';
	import type { NumberControl } from '../api/client';
	import { format, parse, scrubbed, stepped } from '../state/numbers';

	let { control, value, set, hold, release, compact = false }: {
		control: NumberControl;
		value: number;
		set: (value: number) => void;
		hold: () => void;
		release: () => void;
		compact?: boolean;
	} = $props();

	let typing = $state<string | null>(null);
	/** Whether what is typed takes the place of all that stands there. */
	let instead = false;
	let wrong = $state(false);
	let box = $state<HTMLElement>();
	let start = { x: 0, value: 0, moved: false, down: false, fine: false };

	const share = $derived(toShare(value));

	/** Where a value lies on the soft range, 0…1. */
	function toShare(x: number): number {
		const [low, high] = control.soft as [number, number];
		const s = control.ratio ? Math.log(x / low) / Math.log(high / low) : (x - low) / (high - low);
		return Math.min(1, Math.max(0, s));
	}

	function drag(event: PointerEvent): void {
		if (!start.down) return;
		const dx = event.clientX - start.x;
		if (!start.moved) {
			if (Math.abs(dx) < 3) return;
			start.moved = true;
			hold();
		}
		// What has been gone so far stays when the step becomes another.
		if (event.shiftKey !== start.fine) start = { ...start, x: event.clientX, value, fine: event.shiftKey };
		set(scrubbed(control, start.value, event.clientX - start.x, start.fine));
	}

	function press(event: PointerEvent): void {
		if (typing !== null || event.button !== 0) return;
		event.preventDefault();
		box?.focus();
		box?.setPointerCapture(event.pointerId);
		start = { x: event.clientX, value, moved: false, down: true, fine: event.shiftKey };
	}

	function lift(): void {
		if (!start.down) return;
		if (start.moved) release();
		start.down = false;
	}

	function step(by: number): void {
		set(stepped(control, value, by));
	}

	function key(event: KeyboardEvent): void {
		if (typing !== null) return;
		const times = event.shiftKey ? 10 : 1;
		if (event.key === 'ArrowUp' || event.key === 'ArrowRight') step(times);
		else if (event.key === 'ArrowDown' || event.key === 'ArrowLeft') step(-times);
		else if (event.key === 'Enter' || event.key === 'F2') begin();
		else if (/^[-\d.,(]$/.test(event.key)) { instead = false; typing = event.key; }
		else if (event.key === 'Delete') set(control.default);
		else return;
		event.preventDefault();
	}

	function begin(): void {
		instead = true;
		typing = format(value);
	}

	/** After typing, the keyboard goes on where it was. */
	function close(): void {
		typing = null;
		wrong = false;
		void tick().then(() => box?.focus());
	}

	/** Whether what was typed is a number of the range; then it counts. */
	function accept(): boolean {
		if (typing === null) return false;
		const number = parse(typing, control.unit);
		if (number === null || number < control.hard[0]! || number > control.hard[1]! || (control.whole && !Number.isInteger(number))) {
			wrong = true;
			return false;
		}
		set(number);
		return true;
	}

</script>

{#if typing !== null}
	<input class="typing figures" class:compact class:wrong {@attach (node: HTMLInputElement) => { node.focus(); if (instead) node.select(); }} bind:value={typing} aria-label={control.label} aria-invalid={wrong}
		title={wrong ? `Expected ${control.hard[0]} to ${control.hard[1]} ${control.unit}` : ''}
		onblur={() => { accept(); typing = null; wrong = false; }}
		onkeydown={(e) => { if (e.key === 'Enter' && accept()) close(); if (e.key === 'Escape') close(); e.stopPropagation(); }} />
{:else}
	<div bind:this={box} class="scrub" class:compact role="spinbutton" tabindex="0" aria-label={control.label}
		aria-valuenow={value} aria-valuemin={control.hard[0]} aria-valuemax={control.hard[1]}
		aria-valuetext="{format(value)} {control.unit}"
		title="{control.label}: drag (one step a pixel, a tenth with Shift), type, or use the arrow keys. Click to type; Delete for {control.default} {control.unit}"
		onpointerdown={press} onpointermove={drag} onpointerup={(e) => { const typed = start.down && !start.moved; lift(); if (typed && e.detail !== 2) begin(); }}
		onpointercancel={lift} onkeydown={key}>
		<span class="fill" style:width="{share * 100}%"></span>
		{#if !compact}<span class="name">{control.label}</span>{/if}
		<span class="figures number">{format(value)}<span class="unit">{control.unit}</span></span>
	</div>
{/if}

<style>
	.scrub,
	.typing {
		position: relative;
		display: flex;
		align-items: center;
		justify-content: space-between;
		width: 100%;
		height: 28px;
		padding: 0 8px;
		background: var(--well);
		border: 1px solid var(--line);
		border-radius: 3px;
		overflow: hidden;
		cursor: ew-resize;
		touch-action: none;
		user-select: none;
	}
	.typing {
		cursor: text;
		text-align: right;
		color: var(--text);
	}
	.compact {
		height: 22px;
		padding: 0 6px;
		justify-content: flex-end;
	}
	.wrong {
		border-color: var(--brick);
	}
	.scrub:hover {
		border-color: var(--dim);
	}
	.fill {
		position: absolute;
		left: 0;
		bottom: 0;
		height: 2px;
		background: var(--accent);
	}
	.name,
	.number {
		position: relative;
	}
	.unit {
		color: var(--dim);
		margin-left: 4px;
	}
</style>
