<script lang="ts">
	import type { Lowered, Trail } from '../api/client';
	import { said } from '../state/trails';

	/** What the colours of a view mean, and what is under the pointer. */
	let { view, under, lit = null }: {
		view: Lowered['views'][number];
		under: Trail | null;
		/** Of a part of the light: its colour under the pointer, 0…255. */
		lit?: number[] | null;
	} = $props();

	/** The last stop that tells it: what comes out goes before what went in. */
	const readings = $derived.by(() => {
		const stops = under?.stops.filter((one) => one.path === view.path) ?? [];
		if (view.path !== '') return stops.flatMap((one) => one.readings);
		return stops.map((one) => one.readings.filter(({ name }) => name.startsWith(view.reading))).findLast((some) => some.length > 0) ?? [];
	});
</script>

<aside class="legend" aria-label="Legend">
	<h2>{view.path === '' ? view.label : `After ${view.label}`}</h2>
	<ul>
		{#each view.legend as entry (entry.text)}
			<li>
				{#if entry.colours.length === 4}
					<span class="repeat" style:background="linear-gradient(90deg, {entry.colours[0]}, {entry.colours[1]}) top / 100% 50% no-repeat, linear-gradient(90deg, {entry.colours[2]}, {entry.colours[3]}) bottom / 100% 50% no-repeat"></span>
				{:else}
					{#each entry.colours as colour (colour)}<span class="swatch" style:background={colour}></span>{/each}
				{/if}
				<span>{entry.text}</span>
			</li>
		{/each}
	</ul>
	<dl aria-live="polite">
		{#if lit !== null}
			<dt>As it is shown</dt>
			<dd class="figures">{lit.join(' ')}</dd>
		{:else if under === null}
			<dt>Point at a surface to read it.</dt>
		{:else if under.object === null || under.object === undefined}
			<dt>Nothing there</dt>
		{:else}
			{#each readings as reading, i (i)}
				<dt>{reading.name}</dt>
				<dd class="figures">{reading.values.map(said).join(' ')} {reading.unit}</dd>
			{:else}
				<dt>{under.object.name}</dt>
			{/each}
		{/if}
	</dl>
</aside>

<style>
	.legend {
		display: grid;
		gap: 4px;
		width: 224px;
		padding: 8px 12px;
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 4px;
		font-size: 12px;
		line-height: 16px;
	}
	h2 {
		font-size: 13px;
		font-weight: 600;
	}
	li {
		display: flex;
		align-items: center;
		gap: 4px;
		min-height: 18px;
	}
	li span:last-child {
		margin-left: 4px;
		color: var(--dim);
	}
	.swatch {
		width: 12px;
		height: 12px;
		border-radius: 2px;
		border: 1px solid var(--line);
	}
	.repeat {
		width: 24px;
		height: 24px;
		border-radius: 2px;
		border: 1px solid #000;
	}
	dl {
		display: grid;
		grid-template-columns: auto 1fr;
		gap: 0 8px;
		padding-top: 4px;
		border-top: 1px solid var(--line);
	}
	dt {
		color: var(--dim);
	}
	dd {
		text-align: right;
	}
</style>
