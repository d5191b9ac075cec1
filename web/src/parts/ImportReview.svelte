<script lang="ts">
	import { X } from '@lucide/svelte';
	import type { Encoding, Role } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import type { Importing } from '../state/importing.svelte';
	import { done, failed } from '../state/notices.svelte';

	let { importing, finished }: { importing: Importing; finished: () => void } = $props();
	const sending = $derived(importing.items.filter((item) => item.state !== 'ready').length);

	async function keep(): Promise<void> {
		try {
			const sets = await importing.keep();
			if (sets.length > 0) done('Imported', sets.join(', '));
			finished();
		} catch (error) {
			failed('Nothing was imported', error);
		}
	}
</script>

<section aria-label="Import review">
	<header>
		<h2>{sending > 0 ? `Looking at ${sending} more …` : 'Check before keeping'}</h2>
		<span class="gap"></span>
		<button class="tool plain" onclick={() => importing.clear()}>Discard</button>
		<button class="tool main" onclick={keep} disabled={importing.busy || sending > 0 || importing.ready.length === 0}>
			{importing.busy ? 'Keeping …' : `Keep ${importing.ready.length} maps`}
		</button>
	</header>
	{#if importing.items.length > 0}
		<table>
			<thead><tr><th>File</th><th>Set</th><th>Role</th><th>Encoding</th><th>Pixels</th><th>Guessed from</th><th></th></tr></thead>
			<tbody>
				{#each importing.items as item (item.key)}
					<tr>
						<td class="file" title={item.file}>{item.file}</td>
						{#if item.state === 'ready'}
							<td><input class="field" aria-label="Set of {item.file}" bind:value={item.set} maxlength="80" /></td>
							<td>
								<select class="field" aria-label="Role of {item.file}" value={item.role}
									onchange={(e) => importing.role(item, e.currentTarget.value as Role)}>
									{#each catalogue.value?.roles ?? [] as role (role.value)}<option value={role.value}>{role.label}</option>{/each}
								</select>
							</td>
							<td>
								<select class="field" aria-label="Encoding of {item.file}" value={item.encoding}
									onchange={(e) => importing.encoding(item, e.currentTarget.value as Encoding)}>
									<option value="colour">Colour</option>
									<option value="data">Data</option>
								</select>
							</td>
							<td class="figures">{item.width} × {item.height}</td>
							<td class="dim">{item.reason}</td>
						{:else}
							<td colspan="5" class="dim">{item.state === 'sending' ? 'Sending …' : 'Waiting'}</td>
						{/if}
						<td><button class="tool" aria-label="Leave out {item.file}" title="Leave out" onclick={() => importing.drop(item.key)}><X size={14} /></button></td>
					</tr>
				{/each}
			</tbody>
		</table>
		<div class="extents">
			{#each importing.sets as set (set)}
				<label>One repeat of <strong>{set}</strong> covers
					<input class="field figures" type="number" min="0.001" max="10000" step="any" bind:value={importing.extents[set]} aria-label="Extent of {set} in metres" /> m
				</label>
			{/each}
		</div>
	{/if}
	{#if importing.refused.length > 0}
		<ul aria-label="Refused files">
			{#each importing.refused as one, i (i)}<li><strong>Refused.</strong> {one.reason}</li>{/each}
		</ul>
	{/if}
</section>

<style>
	section {
		max-width: 1640px;
		margin: 0 auto 24px;
		padding: 16px;
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 4px;
	}
	header {
		display: flex;
		gap: 8px;
		align-items: center;
		margin-bottom: 8px;
	}
	h2 {
		font-size: 15px;
		font-weight: 600;
	}
	.gap {
		flex: 1;
	}
	table {
		width: 100%;
		border-collapse: collapse;
	}
	th {
		text-align: left;
		font-size: 11px;
		font-weight: 600;
		color: var(--dim);
		padding: 4px;
	}
	td {
		padding: 2px 4px;
		border-top: 1px solid var(--line);
	}
	.file {
		max-width: 260px;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.dim {
		color: var(--dim);
	}
	.extents {
		display: flex;
		flex-wrap: wrap;
		gap: 16px;
		margin-top: 12px;
	}
	.extents input {
		width: 72px;
	}
	ul {
		margin-top: 12px;
	}
	li {
		color: var(--brick);
	}
</style>
