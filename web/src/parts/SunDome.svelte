<script lang="ts">
	/** The sky from below: its rim is the horizon, its middle right above; away from the eye is up. The sun is dragged on it. */
	let { turn, height, toward, lowest, move, hold, release }: {
		/** Degrees to the right of -z, and above the horizon. */
		turn: number;
		height: number;
		/** The way the eye looks, degrees to the right of -z. */
		toward: number;
		/** Degrees above the horizon that it stands at least. */
		lowest: number;
		move: (turn: number, height: number) => void;
		hold: () => void;
		release: () => void;
	} = $props();

	const RADIUS = 56;
	const STEP = 5;
	const x = $derived(RADIUS * (1 - height / 90) * Math.sin(((turn - toward) * Math.PI) / 180));
	const y = $derived(-RADIUS * (1 - height / 90) * Math.cos(((turn - toward) * Math.PI) / 180));
	const round = (degrees: number): number => Math.round(degrees * 10) / 10;
	/** Between -180 and 180 degrees. */
	const wrapped = (degrees: number): number => round(((((degrees + 180) % 360) + 360) % 360) - 180);
	const held = (degrees: number): number => round(Math.min(90, Math.max(lowest, degrees)));

	let dome = $state<SVGSVGElement>();
	function drag(event: PointerEvent): void {
		if (event.buttons !== 1 || dome === undefined) return;
		const box = dome.getBoundingClientRect();
		const [dx, dy] = [event.clientX - box.left - box.width / 2, event.clientY - box.top - box.height / 2];
		move(wrapped(toward + (Math.atan2(dx, -dy) * 180) / Math.PI), held(90 * (1 - Math.hypot(dx, dy) / RADIUS)));
	}
	function press(event: KeyboardEvent): void {
		const by = event.shiftKey ? 1 : STEP;
		const next = { ArrowLeft: [turn - by, height], ArrowRight: [turn + by, height], ArrowUp: [turn, height + by], ArrowDown: [turn, height - by] }[event.key];
		if (next === undefined) return;
		event.preventDefault();
		move(wrapped(next[0]!), held(next[1]!));
	}
</script>

<svg bind:this={dome} viewBox="-64 -64 128 128" width="128" height="128" role="slider" tabindex="0" aria-label="Sun" aria-valuenow={turn} aria-valuemin={-180} aria-valuemax={180}
	aria-valuetext="{turn}° round, {height}° high" onpointerdown={(e) => { e.currentTarget.setPointerCapture(e.pointerId); hold(); drag(e); }} onpointermove={drag} onlostpointercapture={release} onkeydown={press}>
	<title>Drag the sun: the middle is right above, the rim the horizon, up is away from you. Arrow keys move it by 5°, with Shift by 1°.</title>
	<circle r={RADIUS} class="dome" />
	<circle r={RADIUS * (2 / 3)} class="ring" />
	<circle r={RADIUS / 3} class="ring" />
	<path d="M0 -{RADIUS} V{RADIUS} M-{RADIUS} 0 H{RADIUS}" class="ring" />
	<path d="M-5 {RADIUS + 6} L0 {RADIUS} L5 {RADIUS + 6}" class="eye" />
	<circle cx={x} cy={y} r="7" class="sun" />
</svg>

<style>
	svg {
		touch-action: none;
		cursor: grab;
	}
	svg:focus-visible {
		outline: 2px solid var(--accent);
		border-radius: 4px;
	}
	.dome {
		fill: var(--well);
		stroke: var(--line);
	}
	.ring,
	.eye {
		fill: none;
		stroke: var(--line);
	}
	.eye {
		stroke: var(--dim);
	}
	.sun {
		fill: var(--accent);
		stroke: var(--panel);
		stroke-width: 2;
	}
</style>
