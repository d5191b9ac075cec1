<script lang="ts">
	import type { Trail } from '../api/client';
	import { lines } from '../state/trails';

	/** Two trails side by side; where they differ first is marked. */
	let { left, right, names }: { left: Trail; right: Trail; names: [string, string] } = $props();
	const found = $derived(lines(left, right));
</script>

<table aria-label="Two trails">
	<thead><tr><th scope="col">Trail</th><th scope="col">{names[0]}</th><th scope="col">{names[1]}</th></tr></thead>
	<tbody>
		{#each found.lines as line, i (i)}
			{#if 'stop' in line}
				<tr class="stop"><th scope="rowgroup" colspan="3">{line.stop}</th></tr>
			{:else}
				<tr class:differs={line.differs} class:first={i === found.first}>
					<th scope="row">{line.name}{line.unit === '' ? '' : `, ${line.unit}`}{#if i === found.first}<span class="mark">first difference</span>{/if}</th>
					<td>{line.left}</td>
					<td>{line.right}</td>
				</tr>
			{/if}
		{/each}
	</tbody>
</table>
{#if found.first === null}<p>The trails are the same.</p>{/if}

<style>
	table {
		width: 100%;
		table-layout: fixed;
		font-size: 12px;
		line-height: 16px;
	}
	th {
		font-weight: 400;
		text-align: left;
		color: var(--dim);
		vertical-align: top;
	}
	thead th:not(:first-child),
	td {
		text-align: right;
		overflow-wrap: anywhere;
		vertical-align: top;
	}
	td {
		font-family: var(--font-figures);
		font-size: 11px;
		padding-left: 6px;
	}
	.stop th {
		padding-top: 6px;
		font-weight: 600;
		color: var(--text);
	}
	.differs td {
		color: var(--amber);
	}
	.first {
		outline: 1px solid var(--amber);
		outline-offset: 1px;
	}
	.mark {
		display: block;
		color: var(--amber);
	}
	p {
		font-size: 12px;
		color: var(--dim);
	}
</style>
