<script lang="ts">
	/** A colour as the screen shows it; all that is tried on the way is one step of undo. */
	let { label, value, set, hold, release }: { label: string; /** Red, green and blue, 0…1, sRGB-encoded. */ value: number[]; set: (next: number[]) => void; hold: () => void; release: () => void } = $props();

	const hex = $derived(`#${value.map((c) => Math.round(Number(c) * 255).toString(16).padStart(2, '0')).join('')}`);
	let choosing = false;
	function paint(next: string): void {
		if (!choosing) hold();
		choosing = true;
		set([1, 3, 5].map((at) => Number((parseInt(next.slice(at, at + 2), 16) / 255).toFixed(4))));
	}
	function painted(): void {
		if (choosing) release();
		choosing = false;
	}
</script>

<input type="color" aria-label={label} value={hex} oninput={(e) => paint(e.currentTarget.value)} onchange={painted} />

<style>
	input {
		width: 48px;
		height: 24px;
		padding: 0;
		border: 1px solid var(--line);
		border-radius: 3px;
		background: none;
	}
</style>
