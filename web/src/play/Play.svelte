<script lang="ts">
	import { onMount } from 'svelte';
	import { DirectionalLight, PMREMGenerator } from 'three';
	import { RoomEnvironment } from 'three/examples/jsm/environments/RoomEnvironment.js';
	import Segments from '../parts/Segments.svelte';
	import { Player, type As } from './player';
	import { inVariant, live, VIEWS, type View } from './sidecar';

	/** A stand-in for a game: it plays a delivery, and knows nothing but its files. */
	let canvas = $state<HTMLCanvasElement>();
	let second = $state<HTMLCanvasElement>();
	let room = $state<HTMLElement>();
	let player = $state.raw<Player | null>(null);
	let trouble = $state('');
	let as = $state<As>('glsl');
	let view = $state<View>('lit');
	let variant = $state('');
	let values = $state<Record<string, number>>({});
	const numbers = $derived(player?.sidecar == null ? [] : live(player.sidecar));
	const variants = $derived(player?.variants(as) ?? []);
	const AS = { glsl: { value: 'glsl', label: 'GLSL' }, wgsl: { value: 'wgsl', label: 'WGSL' }, baked: { value: 'baked', label: 'Baked' } } as const;

	onMount(() => {
		let gone = false;
		const sized = new ResizeObserver(() => room !== undefined && player?.resize(room.clientWidth, room.clientHeight));
		Player.open(canvas!, second!).then((opened) => {
			if (gone) return;
			const sun = new DirectionalLight(0xfff2dd, 3);
			sun.position.set(0.5, 0.7, 0.45);
			opened.light([sun], new PMREMGenerator(opened.renderer).fromScene(new RoomEnvironment(), 0.03).texture);
			player = opened;
			as = opened.plays[0]!;
			void dress('');
			sized.observe(room!);
			(window as unknown as { riltaPlay: Player }).riltaPlay = opened;
		}, (error: unknown) => (trouble = error instanceof Error ? error.message : String(error)));
		return () => {
			gone = true;
			sized.disconnect();
		};
	});
	$effect(() => player?.show(as, view));

	async function dress(next: string): Promise<void> {
		variant = next;
		values = Object.fromEntries(numbers.map((one) => [one.path!, inVariant(one, next)]));
		await player?.wear(next);
	}
	/** What was baked knows variants by their names, and others than the code. */
	function play(next: As): void {
		as = next;
		void dress('');
	}
	function change(path: string, value: number): void {
		values[path] = value;
		player?.set(path, value);
	}
	const figure = (value: number): string => String(Number(value.toPrecision(4)));
</script>

<svelte:head><title>{player?.manifest.material ?? 'Stand-in'} · stand-in</title></svelte:head>

<main>
	<aside aria-label="What is played">
		<h1>{player?.manifest.material ?? (trouble === '' ? 'Reading the delivery …' : 'Nothing to play')}</h1>
		{#if trouble !== ''}<p class="wrong" role="alert">{trouble}</p>{/if}
		{#if player !== null}
			<p class="dim">Delivered under the profile <em>{player.manifest.profile}</em>{player.manifest.variant === '' ? '' : `, as ${player.manifest.variant}`}. This page stands for a game: it reads nothing but these files.</p>
			{#if player.plays.length > 1}<Segments label="Played as" options={player.plays.map((one) => AS[one])} value={as} choose={(next) => play(next as As)} />{/if}
			{#each player.notes as note (note)}<p class="dim">{note}</p>{/each}
			<label>View <select class="field" aria-label="View" bind:value={view}>{#each VIEWS as one (one.value)}<option value={one.value}>{one.label}</option>{/each}</select></label>
			{#if variants.length > 0}<label>Variant <select class="field" aria-label="Variant" value={variant} onchange={(e) => void dress(e.currentTarget.value)}><option value="">As delivered</option>{#each variants as one (one.id)}<option value={one.id}>{one.name}</option>{/each}</select></label>{/if}
			{#if as !== 'baked' && numbers.length > 0}
				<h2 class="heading">While it runs</h2>
				{#each numbers as one (one.path)}
					<label class="number"><span>{one.label}</span><output class="figures">{figure(values[one.path!] ?? one.value)} {one.unit}</output>
						<input type="range" aria-label={one.label} min={one.least ?? 0} max={one.most ?? 1} step="any" value={values[one.path!] ?? one.value} oninput={(e) => change(one.path!, Number(e.currentTarget.value))} />
					</label>
				{/each}
			{/if}
			<h2 class="heading">Files</h2>
			<ul>{#each player.manifest.files as one (one.path)}<li title={one.meaning}>{one.path}</li>{/each}</ul>
		{/if}
	</aside>
	<section bind:this={room} aria-label="The material on an object; drag to look around"><canvas bind:this={canvas}></canvas><canvas bind:this={second}></canvas></section>
</main>

<style>
	main {
		display: grid;
		grid-template-columns: 280px minmax(0, 1fr);
		height: 100%;
	}
	aside {
		display: flex;
		flex-direction: column;
		gap: 12px;
		padding: 16px;
		overflow-y: auto;
		background: var(--panel);
		border-right: 1px solid var(--line);
	}
	h1 {
		font-size: 18px;
		font-weight: 600;
	}
	label {
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 8px;
	}
	.number {
		display: grid;
		grid-template-columns: 1fr auto;
	}
	.number input {
		grid-column: 1 / -1;
		width: 100%;
	}
	.dim,
	ul {
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
		overflow-wrap: anywhere;
	}
	.wrong {
		color: var(--brick);
	}
	section {
		position: relative;
		min-width: 0;
		overflow: hidden;
	}
	canvas {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
	}
</style>
