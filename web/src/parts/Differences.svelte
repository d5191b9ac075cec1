<script lang="ts">
	import type { Difference } from '../state/differences';

	/** Where two documents differ, place by place. */
	let { rows, mine, theirs, place = (path) => path }: { rows: Difference[]; mine: string; theirs: string; place?: (path: string) => string } = $props();
</script>

<!-- Not the table of figures that it would be right within facts. -->
<div>
<table>
	<thead><tr><th>Place</th><th>{mine}</th><th>{theirs}</th></tr></thead>
	<tbody>
		{#each rows as row (row.path)}
			<tr><td class:figures={place(row.path) === row.path} title={row.path}>{place(row.path)}</td><td class="figures">{row.mine}</td><td class="figures">{row.theirs}</td></tr>
		{/each}
	</tbody>
</table>
</div>

<style>
	table {
		width: 100%;
		table-layout: fixed;
	}
	th:first-child {
		width: 40%;
	}
	th {
		text-align: left;
		color: var(--dim);
		font-size: 12px;
	}
	td {
		border-top: 1px solid var(--line);
		padding: 2px 8px 2px 0;
		vertical-align: top;
		overflow-wrap: anywhere;
	}
</style>
