<script lang="ts">
	let { x, y, move, hold, release }: {
		x: number;
		y: number;
		move: (x: number, y: number) => void;
		hold: () => void;
		release: () => void;
	} = $props();

	let box = $state<HTMLElement>();
	let dragging = false;
	const clamp = (v: number): number => Math.max(-1, Math.min(1, Math.round(v * 1000) / 1000));

	function follow(event: PointerEvent): void {
		if (!dragging || box === undefined) return;
		const area = box.getBoundingClientRect();
		move(clamp(((event.clientX - area.left) / area.width) * 2 - 1), clamp(((event.clientY - area.top) / area.height) * 2 - 1));
	}

	function press(event: PointerEvent): void {
		dragging = true;
		box?.setPointerCapture(event.pointerId);
		hold();
		follow(event);
	}

	function lift(): void {
		if (dragging) release();
		dragging = false;
	}

	function key(event: KeyboardEvent): void {
		const by = event.shiftKey ? 0.25 : 0.05;
		if (event.key === 'ArrowLeft') move(clamp(x - by), y);
		else if (event.key === 'ArrowRight') move(clamp(x + by), y);
		else if (event.key === 'ArrowUp') move(x, clamp(y - by));
		else if (event.key === 'ArrowDown') move(x, clamp(y + by));
		else if (event.key === 'Delete' || event.key === 'Home') move(0, 0);
		else return;
		event.preventDefault();
	}
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div class="pad" bind:this={box} role="application" tabindex="0" aria-label="Pad: drag, or use the arrow keys; double click for rest"
	title="Drag; double click returns to rest" onpointerdown={press} onpointermove={follow} onpointerup={lift} onpointercancel={lift} ondblclick={() => move(0, 0)} onkeydown={key}>
	<span class="knob" style:left="{(x + 1) * 50}%" style:top="{(y + 1) * 50}%"></span>
</div>

<style>
	.pad {
		position: relative;
		width: 104px;
		height: 104px;
		border: 1px solid var(--line);
		border-radius: 4px;
		background:
			linear-gradient(var(--line), var(--line)) center / 1px 100% no-repeat,
			linear-gradient(var(--line), var(--line)) center / 100% 1px no-repeat,
			color-mix(in oklch, var(--panel), transparent 12%);
		cursor: crosshair;
		touch-action: none;
	}
	.knob {
		position: absolute;
		width: 16px;
		height: 16px;
		margin: -8px;
		border: 2px solid var(--panel);
		border-radius: 8px;
		background: var(--accent);
		pointer-events: none;
	}
</style>
