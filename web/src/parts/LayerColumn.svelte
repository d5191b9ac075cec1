<script lang="ts">
	import type { MapSet } from '../api/client';
	import type { Selection } from '../state/selection';
	import type { Session } from '../state/session.svelte';
	import type { StageState } from '../state/stage.svelte';

	let { session, stage, sets, selection, select }: {
		session: Session;
		stage: StageState;
		sets: MapSet[];
		selection: Selection;
		select: (selection: Selection) => void;
	} = $props();
	const picture = (name: string): string => sets.find((set) => set.name === name)?.maps.find((m) => m.role === 'base-colour')?.thumbnail ?? '';
</script>

<aside aria-label="Layers and objects">
	<h2 class="heading">Layers</h2>
	<div class="core">
		{#each session.document.layers as layer, i (layer.id)}
			<button class="band" class:selected={selection.kind === 'layer' && selection.index === i}
				onclick={() => select({ kind: 'layer', index: i })} aria-pressed={selection.kind === 'layer' && selection.index === i}
				style:background-image="url({picture(layer.set)})">
				<span class="shade"></span>
				<span class="label"><strong>{layer.name}</strong><span>{layer.set}</span></span>
			</button>
		{/each}
	</div>
	<h2 class="heading">Objects</h2>
	<ul>
		{#each stage.document.objects as object (object.id)}
			<li>
				<button class="object" aria-pressed={selection.kind === 'object' && selection.id === object.id}
					onclick={() => select({ kind: 'object', id: object.id })}>
					<span>{object.name}</span>
					<span class="figures">{object.scale.map((s) => Number(s.toFixed(2))).join('×')}</span>
				</button>
			</li>
		{/each}
	</ul>
</aside>

<style>
	aside {
		display: flex;
		flex-direction: column;
		gap: 8px;
		padding: 12px;
		background: var(--panel);
		border-right: 1px solid var(--line);
		overflow: auto;
	}
	.core {
		height: 220px;
		flex: none;
		display: flex;
		flex-direction: column;
		margin: 0 12px 12px;
		border-radius: 50% 50% 50% 50% / 18px 18px 18px 18px;
		overflow: hidden;
		border: 1px solid var(--line);
	}
	.band {
		position: relative;
		flex: 1;
		background-size: 120px;
		border: 0;
		cursor: pointer;
	}
	/* The core is round: it darkens to both sides, and its end is lit. */
	.shade {
		position: absolute;
		inset: 0;
		background:
			radial-gradient(ellipse 50% 18px at 50% 18px, rgb(255 255 255 / 0.28) 98%, transparent 100%),
			linear-gradient(90deg, rgb(0 0 0 / 0.62), rgb(0 0 0 / 0.06) 34%, rgb(255 255 255 / 0.06) 46%, rgb(0 0 0 / 0.12) 62%, rgb(0 0 0 / 0.68));
	}
	.selected .shade {
		box-shadow: inset 0 0 0 2px var(--accent);
		border-radius: 50% 50% 50% 50% / 18px 18px 18px 18px;
	}
	.label {
		position: absolute;
		left: 50%;
		bottom: 32px;
		transform: translateX(-50%);
		display: grid;
		padding: 4px 8px;
		background: rgb(0 0 0 / 0.68);
		color: #f2f2f2;
		border-radius: 3px;
		font-size: 12px;
		line-height: 16px;
		white-space: nowrap;
	}
	.label span {
		color: #cfcfcf;
	}
	.object {
		display: flex;
		justify-content: space-between;
		gap: 8px;
		width: 100%;
		min-height: 24px;
		padding: 2px 8px;
		border: 0;
		border-radius: 3px;
		text-align: left;
		line-height: 18px;
		background: none;
		cursor: pointer;
	}
	.object span:last-child {
		color: var(--dim);
		white-space: nowrap;
	}
	.object:hover {
		background: var(--raised);
	}
	.object[aria-pressed='true'] {
		background: var(--accent-soft);
		color: var(--accent);
	}
</style>
