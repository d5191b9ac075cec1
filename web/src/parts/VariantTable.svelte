<script lang="ts">
	import { Copy, Download, Eye, Plus, RotateCcw, Rows3, Trash2, Upload } from '@lucide/svelte';
	import { api, ApiError, type MaterialDocument, type Parameter, type ParameterValue as Plain, type SetCard } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { copied, done, failed } from '../state/notices.svelte';
	import { saved } from '../state/saved';
	import { said } from '../state/parameters';
	import type { Session } from '../state/session.svelte';
	import { addVariant, bases, duplicateVariant, paste, removeVariant, valuesOf, variantOf } from '../state/variants';
	import ParameterValue from './ParameterValue.svelte';
	import Sheet from './Sheet.svelte';

	/** All variants side by side: a row for each, a column for each parameter. */
	let { session, sets, close }: { session: Session; sets: SetCard[]; close: () => void } = $props();

	const parameters = $derived(session.document.parameters ?? []);
	const variants = $derived(session.document.variants ?? []);
	/** The material itself first. */
	const rows = $derived(['', ...variants.map((one) => one.id)]);
	const most = $derived(catalogue.value?.limits.variants ?? 0);
	const written = $derived(valuesOf(session.document, ''));
	let problems = $state<string[]>([]);
	let chooser = $state<HTMLInputElement>();

	const name = (id: string): string => (id === '' ? 'As written' : (variantOf(session.document, id)?.name ?? id));
	const snapshot = (): MaterialDocument => $state.snapshot(session.document) as MaterialDocument;
	/** Changes one cell: in its variant, or in the material. */
	function set(row: string, parameter: Parameter, value: Plain): void {
		const at = variants.findIndex((one) => one.id === row);
		session.set(at < 0 ? `/parameters/${parameters.indexOf(parameter)}/value` : `/variants/${at}/values/${parameter.id}`, value);
	}
	function pasted(event: ClipboardEvent, row: number, column: number): void {
		const text = event.clipboardData?.getData('text/plain') ?? '';
		if (!/[\t\n]/.test(text.trimEnd())) return;
		event.preventDefault();
		session.edit((document) => void paste(document, rows, { row, column }, text));
	}
	async function copy(row: string): Promise<void> {
		const values = valuesOf(session.document, row);
		await copied(parameters.map((one) => said(values[one.id] ?? one.value)).join('\t'), 'Copied', `${name(row)}: ${parameters.length} values, to be pasted into a cell of another row or a spreadsheet`);
	}
	async function save(): Promise<void> {
		try {
			const { csv } = await api.variantTable(snapshot());
			saved(csv, `${session.document.name} variants.csv`, 'text/csv');
		} catch (error) {
			failed('The table was not written', error);
		}
	}
	async function read(file: File | undefined): Promise<void> {
		problems = [];
		if (file === undefined) return;
		try {
			const { variants: found } = await api.readVariantTable(snapshot(), await file.text());
			session.edit((document) => (document.variants = found));
			done('Read', `${file.name}: ${found.length} variants`);
		} catch (error) {
			if (error instanceof ApiError && error.problems.length > 0) problems = error.problems.map((one) => `Row ${one.path.split('/').filter((part) => part !== '').join(', column ')}: ${one.message}.`);
			else failed('The table was not read', error);
		}
	}
</script>

<Sheet title="Variants of {session.document.name}" wide {close}>
	{#if parameters.length === 0}
		<p>A variant overrides parameters, and this material has none yet. The link beside any value makes a parameter of it.</p>
	{:else}
		<div class="scroll">
			<table>
				<thead>
					<tr>
						<th scope="col">Variant</th><th scope="col">Builds on</th>
						{#each parameters as parameter (parameter.id)}<th scope="col" class="number" title={parameter.help ?? ''}>{parameter.name}{#if (parameter.unit ?? '') !== ''}<span class="unit">{parameter.unit}</span>{/if}</th>{/each}
						<th></th>
					</tr>
				</thead>
				<tbody>
					{#each rows as row, r (row)}
						{@const variant = variantOf(session.document, row)}
						{@const values = valuesOf(session.document, row)}
						<tr class:shown={session.variant === row}>
							<th scope="row">
								{#if variant === undefined}
									<span class="written">As written</span>
								{:else}
									<input class="field" aria-label="Name of {variant.name}" maxlength="120" value={variant.name}
										onchange={(e) => { const said = e.currentTarget.value.trim(); if (said === '') e.currentTarget.value = variant.name; else session.set(`/variants/${r - 1}/name`, said); }} />
								{/if}
							</th>
							<td>
								{#if variant !== undefined}
									<select class="field" aria-label="{variant.name} builds on" value={variant.base} onchange={(e) => session.set(`/variants/${r - 1}/base`, e.currentTarget.value)}>
										<option value="">As written</option>
										{#each bases(session.document, variant.id) as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
									</select>
								{/if}
							</td>
							{#each parameters as parameter, c (parameter.id)}
								{@const own = variant?.values[parameter.id] !== undefined}
								<td class="cell" class:own class:other={JSON.stringify(values[parameter.id]) !== JSON.stringify(written[parameter.id])} onpaste={(e) => pasted(e, r, c)}>
									<ParameterValue {session} {parameter} {sets} label="{parameter.name} of {name(row)}" value={values[parameter.id] ?? parameter.value} set={(v) => set(row, parameter, v)} />
									{#if own && variant !== undefined}
										<button class="back" title="Inherit it again" aria-label="Inherit {parameter.name} of {variant.name} again" onclick={() => session.edit((document) => { delete variantOf(document, row)?.values[parameter.id]; })}><RotateCcw size={12} /></button>
									{/if}
								</td>
							{/each}
							<td class="acts">
								<button class="tool" aria-pressed={session.variant === row} title="Show it on the stage" aria-label="Show {name(row)}" onclick={() => (session.variant = row)}><Eye size={14} /></button>
								<button class="tool" title="Copy its values" aria-label="Copy the values of {name(row)}" onclick={() => copy(row)}><Rows3 size={14} /></button>
								{#if variant !== undefined}
									<button class="tool" title="Duplicate" aria-label="Duplicate {variant.name}" disabled={variants.length >= most} onclick={() => session.edit((document) => void duplicateVariant(document, row))}><Copy size={14} /></button>
									<button class="tool" title="Delete; those that build on it keep what they had" aria-label="Delete {variant.name}" onclick={() => session.edit((document) => removeVariant(document, row))}><Trash2 size={14} /></button>
								{/if}
							</td>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
		<p class="legend"><span class="mark own"></span> set in this variant <span class="mark other"></span> differs from the material as written. Cells from a spreadsheet can be pasted into any cell.</p>
		{#if problems.length > 0}
			<ul role="alert">{#each problems as problem (problem)}<li>{problem}</li>{/each}</ul>
		{/if}
	{/if}
	<input bind:this={chooser} type="file" hidden accept=".csv,.tsv,.txt" aria-label="Table of variants to read" onchange={(e) => { void read(e.currentTarget.files?.[0]); e.currentTarget.value = ''; }} />
	{#snippet actions()}
		{#if parameters.length > 0}
			<button class="tool plain" disabled={variants.length >= most} onclick={() => session.edit((document) => void addVariant(document, session.variant))}><Plus size={14} /> New variant</button>
			<button class="tool plain" onclick={save}><Download size={14} /> Write CSV</button>
			<button class="tool plain" onclick={() => chooser?.click()}><Upload size={14} /> Read CSV</button>
		{/if}
		<button class="tool main" onclick={close}>Close</button>
	{/snippet}
</Sheet>

<style>
	.scroll {
		overflow: auto;
		max-height: 56vh;
		border: 1px solid var(--line);
		border-radius: 4px;
	}
	table {
		border-collapse: collapse;
		min-width: 100%;
	}
	th,
	td {
		padding: 4px;
		border-bottom: 1px solid var(--line);
		text-align: left;
		font-weight: 400;
	}
	thead th {
		position: sticky;
		top: 0;
		z-index: 2;
		padding: 8px 8px 4px;
		background: var(--panel);
		font-size: 12px;
		font-weight: 600;
		white-space: nowrap;
	}
	.unit {
		margin-left: 4px;
		color: var(--dim);
		font-weight: 400;
	}
	tbody tr:last-child > * {
		border-bottom: 0;
	}
	.written {
		padding: 0 8px;
		font-weight: 600;
	}
	th .field {
		width: 150px;
	}
	td .field {
		width: 132px;
	}
	.cell {
		position: relative;
		min-width: 128px;
		padding-right: 32px;
		color: var(--dim);
	}
	.cell.other {
		color: var(--accent);
	}
	.cell.own {
		box-shadow: inset 2px 0 0 var(--accent);
	}
	.back {
		position: absolute;
		right: 4px;
		top: 50%;
		width: 24px;
		height: 24px;
		margin-top: -12px;
		display: grid;
		place-items: center;
		border: 0;
		border-radius: 3px;
		background: var(--raised);
		color: var(--accent);
		cursor: pointer;
		opacity: 0;
	}
	.cell:hover .back,
	.back:focus-visible {
		opacity: 1;
	}
	.shown > * {
		background: var(--accent-soft);
	}
	.acts {
		white-space: nowrap;
	}
	.legend {
		display: flex;
		align-items: center;
		gap: 8px;
		font-size: 12px;
		color: var(--dim);
	}
	.mark {
		width: 12px;
		height: 12px;
		border-radius: 2px;
		background: var(--well);
	}
	.mark.own {
		box-shadow: inset 2px 0 0 var(--accent);
	}
	.mark.other {
		margin-left: 8px;
		background: var(--accent);
	}
	ul {
		padding: 8px 12px;
		border-left: 3px solid var(--brick);
		background: var(--well);
	}
</style>
