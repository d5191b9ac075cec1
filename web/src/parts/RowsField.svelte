<script lang="ts">
	import { tick } from 'svelte';
	import { Plus, X } from '@lucide/svelte';
	import type { Row, RowsControl } from '../api/client';
	import type { Session } from '../state/session.svelte';
	import { commands, FIELD } from '../state/commands.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { FINISH, numberOf } from '../state/parameters';
	import CurveField from './CurveField.svelte';
	import FollowButton from './FollowButton.svelte';
	import GradientRows from './GradientRows.svelte';
	import TieField from './TieField.svelte';

	/** Rows of numbers: places, rectangles, keys, the points of a curve. */
	let { session, control, path, pickPath }: {
		session: Session;
		control: RowsControl;
		path: string;
		/** Path of the number that says which row is taken, if one does. */
		pickPath: string | null;
	} = $props();

	const rows = $derived((session.value(path) as Row[] | undefined) ?? (control.default as Row[]));
	const tabled = $derived(control.look === 'table' || control.look === 'keys');
	const picked = $derived(pickPath === null ? -1 : Number(session.value(pickPath) ?? 0));
	/** The column that grows from row to row keeps a new row between its neighbours. */
	const first = $derived(control.columns[0]!);
	const wide = $derived(control.columns.length === 4 ? 2 : Math.min(3, control.columns.length));
	/** Rows with names are told by numbers from 0; further places follow the first. */
	const counted = $derived(control.named ? 0 : control.look === 'table' ? 2 : 1);

	/** Another value of the same finish. */
	const beside = (name: string): string => String(session.value(`${path.slice(0, path.lastIndexOf('/'))}/${name}`) ?? catalogue.control(FINISH, name)?.default);

	function whole(change: (rows: Row[]) => void): void {
		session.edit((document) => {
			void document;
			const copy = structuredClone($state.snapshot(rows)) as Row[];
			change(copy);
			write(copy);
		});
	}
	function write(next: Row[]): void {
		const at = path.lastIndexOf('/');
		const values = session.value(path.slice(0, at)) as Record<string, unknown>;
		values[path.slice(at + 1)] = next;
	}
	function add(): void {
		whole((copy) => {
			// Further places follow the first, which is not among them.
			const last = copy.at(-1) ?? (counted === 2 ? Object.fromEntries(control.columns.map((c) => [c.name, numberOf(session.dressed, session.value(`${path.slice(0, path.lastIndexOf('/'))}/${c.name}`) ?? c.default, c)])) : undefined);
			const row: Row = last === undefined ? Object.fromEntries(control.columns.map((c) => [c.name, c.default])) : { ...last };
			if (control.named) row.name = `Part ${copy.length + 1}`;
			if (last !== undefined) for (const [name, by] of Object.entries(control.advance)) if (typeof row[name] === 'number') row[name] += by;
			copy.push(row);
		});
	}
	/** The first value of the last row. */
	const last = $derived(`[data-rows="${control.name}"] .cells:last-of-type ${FIELD}`);
	async function addHere(): Promise<void> {
		add();
		await tick();
		document.querySelector<HTMLElement>(last)?.focus();
	}
	$effect(() => commands.offer(`rows ${control.name}`, () => (tabled ? [{ group: control.label, label: `Add a ${control.one}`, can: rows.length < control.most, lands: last, run: add }] : [])));
	/** Their numbers as they come to, whether they follow parameters or not. */
	const plain = $derived(rows.map((row): Row => ({ ...row, ...Object.fromEntries(control.columns.map((column) => [column.name, numberOf(session.dressed, row[column.name], column)])) })));
	const named = (column: RowsControl['columns'][number], i: number): RowsControl['columns'][number] => ({ ...bounded(column, i), label: `${column.label} of row ${i + 1}` });
	/** Keys and points stay in order. */
	function bounded(column: RowsControl['columns'][number], i: number): RowsControl['columns'][number] {
		if (control.look === 'table' || column.name !== first.name) return column;
		const gap = column.step / 100;
		const low = i === 0 ? column.hard[0]! : Number(plain[i - 1]?.[column.name]) + gap;
		const high = i === rows.length - 1 ? column.hard[1]! : Number(plain[i + 1]?.[column.name]) - gap;
		return { ...column, hard: [low, high] };
	}
</script>

<fieldset data-rows={control.name}>
	<legend>{control.label}</legend>
	{#if control.look === 'gradient'}
		<GradientRows {session} {control} {path} rows={plain} {whole} between={beside('gradientBetween')} space={beside('gradientSpace')} />
	{:else if control.look !== 'table'}
		<CurveField {session} {control} {path} rows={plain} {whole} />
	{/if}
	{#if rows.length > 0 && tabled}
		<div class="table" style:grid-template-columns="20px repeat({wide}, minmax(0, 1fr)) 24px">
			{#each rows as row, i (i)}
				<div class="head">
					{#if pickPath !== null}
						<input type="radio" name={path} checked={picked === i} aria-label="Take {row.name ?? i}" onchange={() => session.set(pickPath ?? '', i)} />
					{:else}
						<span class="figures number">{i + counted}</span>
					{/if}
				</div>
				<div class="cells" style:grid-column="2 / span {wide}" style:grid-template-columns="repeat({wide}, minmax(0, 1fr))">
					{#if control.named}
						<input class="field row-name" maxlength={control.longestName} aria-label="Name of part {i + 1}" value={row.name}
							onchange={(e) => session.set(`${path}/${i}/name`, e.currentTarget.value.trim() || `Part ${i + 1}`)} />
					{/if}
					{#each control.columns as column (column.name)}
						<div class="cell">
							<span class="label tied-row"><span>{column.label}</span><FollowButton {session} control={named(column, i)} path="{path}/{i}/{column.name}" plain={plain[i]?.[column.name] ?? column.default} {rows} /></span>
							<TieField {session} control={named(column, i)} compact path="{path}/{i}/{column.name}" />
						</div>
					{/each}
				</div>
				<button class="tool mini" disabled={rows.length <= control.least} title="Remove this row" aria-label="Remove row {i + 1} of {control.label}" onclick={() => whole((copy) => copy.splice(i, 1))}><X size={13} /></button>
			{/each}
		</div>
	{/if}
	{#if tabled}
		<button class="tool add" disabled={rows.length >= control.most} onclick={addHere}><Plus size={14} /> Add a {control.one}</button>
	{/if}
</fieldset>

<style>
	fieldset {
		display: grid;
		gap: 8px;
		min-width: 0;
	}
	.table {
		display: grid;
		gap: 8px 4px;
		align-items: start;
	}
	.head {
		padding-top: 20px;
		text-align: center;
	}
	.number,
	.label {
		color: var(--dim);
		font-size: 12px;
		line-height: 16px;
	}
	.label.tied-row {
		display: flex;
		justify-content: space-between;
		align-items: center;
	}
	.label :global(.follow) {
		height: 16px;
		width: 20px;
	}
	.cells {
		display: grid;
		gap: 4px;
	}
	.row-name {
		grid-column: 1 / -1;
		height: 24px;
	}
	.mini {
		width: 24px;
		height: 22px;
		padding: 0;
		margin-top: 16px;
		justify-content: center;
	}
	.add {
		justify-self: start;
	}
	input[type='radio'] {
		accent-color: var(--accent);
	}
</style>
