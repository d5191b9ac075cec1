<script lang="ts">
	import type { Triple } from '../api/client';
	import { hueOf, initialsOf, nameOf, type Other } from '../state/company.svelte';
	import type { StageScene } from '../stage/scene';

	/** Where others are who look at the same stage, and which way they look. */
	let { others, scene }: { others: Other[]; scene: StageScene } = $props();
	const EVERY = 100;
	type Mark = { one: Other; x: number; y: number; turn: number };
	let marks = $state.raw<Mark[]>([]);
	const eyes = $derived(others.filter((one) => one.eye !== null));

	function placed(one: Other): Mark[] {
		const [position, target] = [one.eye!.slice(0, 3) as Triple, one.eye!.slice(3) as Triple];
		const at = scene.eye.onCanvas(position);
		const { clientWidth: wide, clientHeight: high } = scene.renderer.domElement;
		if (at === null || at.x < 0 || at.y < 0 || at.x > wide || at.y > high) return [];
		// A step along its line of sight, so that it is before this eye as well.
		const to = scene.eye.onCanvas(position.map((p, i) => p + 0.2 * (target[i]! - p)) as Triple);
		return [{ one, ...at, turn: to === null ? 0 : Math.atan2(to.y - at.y, to.x - at.x) }];
	}
	// Both eyes move when they like.
	$effect(() => {
		const all = eyes;
		const draw = (): void => void (marks = all.flatMap(placed));
		draw();
		if (all.length === 0) return;
		const timer = setInterval(draw, EVERY);
		return () => clearInterval(timer);
	});
</script>

{#each marks as { one, x, y, turn } (one.page)}
	<span class="mark" style:left="{x}px" style:top="{y}px" style:--hue={hueOf(one)} role="img" aria-label="{nameOf(one)} looks from here"><span class="way" style:rotate="{turn}rad"></span><span class="who">{initialsOf(one)}</span></span>
{/each}

<style>
	.mark {
		position: absolute;
		width: 22px;
		height: 22px;
		translate: -50% -50%;
		pointer-events: none;
	}
	.who {
		position: absolute;
		inset: 0;
		display: grid;
		place-content: center;
		border: 1px solid #fff;
		border-radius: 50%;
		background: oklch(0.52 0.11 var(--hue));
		color: #fff;
		font-size: 10px;
		font-weight: 650;
	}
	.way {
		position: absolute;
		inset: 0;
	}
	.way::after {
		content: '';
		position: absolute;
		left: 100%;
		top: calc(50% - 4px);
		border: 4px solid transparent;
		border-left: 8px solid oklch(0.52 0.11 var(--hue));
		filter: drop-shadow(0 0 1px #fff);
	}
</style>
