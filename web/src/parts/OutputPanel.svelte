<script lang="ts">
	import type { HandOver } from '../state/handover.svelte';

	/** What comes out: what it weighs, what a host sets, and what it has to bring. */
	let { over }: { over: HandOver } = $props();

	const told = $derived(over.made?.sidecar ?? null);
	const live = $derived(told?.numbers.filter((one) => one.changes === 'at run time') ?? []);
	const MIB = 1024 * 1024;
	/** Of all levels: a third more than the largest. */
	const bytes = (one: { width: number; height: number; values: number; bits: number; layers: unknown[] }): number => (4 / 3) * one.width * one.height * one.values * (one.bits / 8) * one.layers.length;
	const memory = $derived(told?.textures.reduce((sum, one) => sum + bytes(one), 0) ?? 0);
	const figure = (value: number): string => String(Number(value.toPrecision(5)));
</script>

<section class="facts" aria-label="What the code needs">
	<h2 class="heading">The code</h2>
	{#if told === null || over.made === null}
		<p aria-busy={over.trouble === ''}>{over.trouble === '' ? 'Printing …' : over.trouble}</p>
	{:else}
		{#if over.trouble !== ''}<p class="trouble" role="alert">{over.trouble}</p>{/if}
		<dl>
			<dt>File</dt><dd>{over.made.file}</dd>
			<dt>Lines</dt><dd>{over.made.code.split('\n').length - 1}</dd>
			<dt>Numbers that a host sets</dt><dd>{told.numbers.length}</dd>
			<dt title="What follows from the numbers alone is computed once a picture">Computed once a picture</dt><dd>{told.ready.members.length}</dd>
			<dt>Textures</dt><dd>{told.textures.length}</dd>
			<dt title="With all levels, not compressed">Their memory</dt><dd>{(memory / MIB).toFixed(1)} MiB</dd>
		</dl>
		<h3>While a game runs</h3>
		{#if live.length === 0}<p>Nothing of it changes: it has no parameters, or they are fixed.</p>{:else}
			<table>
				<tbody>{#each live as one (one.name)}<tr><th scope="row" title="{one.name}{one.path === null ? '' : ` · ${one.path}`}">{one.label}</th><td>{#if one.path !== null}{figure(one.value)} {/if}{one.unit}</td></tr>{/each}</tbody>
			</table>
		{/if}
		{#if told.variants.length > 0}
			<h3>Variants</h3>
			<table>
				<tbody>{#each told.variants as one (one.id)}<tr><th scope="row">{one.name}</th><td>{one.otherCode ? 'other code or maps' : 'other numbers'}</td></tr>{/each}</tbody>
			</table>
		{/if}
		<h3>A surface tells</h3>
		<ul>{#each told.inputs as one (one.name)}<li title={one.meaning}>{one.name}</li>{/each}</ul>
		<h3>Textures</h3>
		<table>
			<tbody>
				{#each told.textures as one (one.name)}
					<tr><th scope="row" title={one.layers.map((layer) => layer.map).join(', ')}>{one.kind === 'array' ? `${one.name}: ${one.layers.length === 1 ? one.layers[0]!.map : `${one.layers.length} maps`}` : one.layers[0]!.map}</th><td>{one.width} × {one.height}{one.encoding === 'colour' ? ', sRGB' : ''}</td></tr>
				{:else}<tr><th scope="row">none</th><td></td></tr>{/each}
			</tbody>
		</table>
	{/if}
</section>

<style>
	dd,
	td {
		white-space: nowrap;
	}
	th {
		overflow-wrap: anywhere;
	}
	tbody td {
		font-size: 12px;
	}
	p.trouble {
		color: var(--brick);
	}
	ul {
		display: flex;
		flex-wrap: wrap;
		gap: 4px;
	}
	li {
		padding: 1px 6px;
		border: 1px solid var(--line);
		border-radius: 3px;
		font-family: var(--font-figures);
		font-size: 12px;
	}
</style>
