<script lang="ts">
	import { Switch } from '@skeletonlabs/skeleton-svelte';
	import type { Control, Family, ParameterValue, SetCard, Value } from '../api/client';
	import type { RecipeSession } from '../state/recipe.svelte';
	import { Session } from '../state/session.svelte';
	import { Dices } from '@lucide/svelte';
	import { isNumber, isTie, parameterOf, plainOf, seedOf } from '../state/parameters';
	import ColourField from './ColourField.svelte';
	import FollowButton from './FollowButton.svelte';
	import LibraryField from './LibraryField.svelte';
	import NumberField from './NumberField.svelte';
	import RowsField from './RowsField.svelte';
	import Segments from './Segments.svelte';
	import TieField from './TieField.svelte';

	let { session, control, path, pickPath = null, sets = [], families = [], ingredients = [], layers = [], brief = false, compare = false, reset, put }: {
		session: Session | RecipeSession;
		control: Control;
		/** Where its value stands in the document. */
		path: string;
		/** Where it stands which row is taken, for rows of which one is. */
		pickPath?: string | null;
		sets?: SetCard[];
		families?: Family[];
		/** Those that may be named. */
		ingredients?: { id: string; name: string }[];
		/** Those that may be named. */
		layers?: { id: string; name: string }[];
		/** Help only for the control that is pointed at or worked on. */
		brief?: boolean;
		/** What it was is to be seen beside what it becomes while it is held. */
		compare?: boolean;
		/** What a double click does, if not to set the default. */
		reset?: () => void;
		/** How a value gets into the document, if more than it changes with it. */
		put?: (next: Value) => void;
	} = $props();

	const said = $derived(session.value(path));
	const tied = $derived(session instanceof Session && isTie(said) ? parameterOf(session.dressed, said) : undefined);
	const value = $derived((session instanceof Session && control.type !== 'number' ? plainOf(session.dressed, said, control.default as Value) : (said ?? control.default)) as Value);
	/** What follows a parameter takes it along. */
	function set(next: Value): void {
		if (session instanceof Session && tied !== undefined) session.drive(tied.id, next as ParameterValue);
		else if (put !== undefined) put(next);
		else session.set(path, next);
	}
	/** Any seed; where it follows a parameter, one of its range. */
	function another(largest: number): number {
		const [least, most] = isNumber(tied) ? [Math.ceil(tied.min), Math.floor(tied.max) + 1] : [0, largest];
		return least + Math.floor(Math.random() * (most - least));
	}
	const hold = (): void => (session instanceof Session ? session.hold(compare) : session.hold());
	const release = (): void => session.release();
</script>

<div class="control" class:brief title={brief ? control.help : undefined} data-help={control.help} ondblclick={(e) => { if (reset === undefined && control.type !== 'number') return; e.preventDefault(); if (reset === undefined) set(control.default as Value); else reset(); }} role="presentation">
	{#if control.type === 'number' && session instanceof Session}
		<TieField {session} {control} {path} {compare} />
	{:else if control.type === 'number'}
		<NumberField {control} value={Number(value)} {set} {hold} {release} />
	{:else if control.type === 'choice' && control.options.length <= 3}
		<Segments label={control.label} options={control.options} value={String(value)} choose={set} />
	{:else if control.type === 'choice'}
		<label class="line">{control.label}
			<select class="field" value={String(value)} onchange={(e) => set(e.currentTarget.value)}>
				{#each control.options as option (option.value)}<option value={option.value}>{option.label}</option>{/each}
			</select>
		</label>
	{:else if control.type === 'seed'}
		{@const seed = seedOf(value)}
		<div class="line tied-row"><span>{control.label}{#if tied !== undefined}<span class="follows">{tied.name}</span>{/if}</span>
			<span class="seed">
				<input class="field figures" type="number" aria-label={control.label} min="0" max={control.largest} step="1" value={seed}
					onchange={(e) => { const next = Number(e.currentTarget.value); if (Number.isInteger(next) && next >= 0 && next <= control.largest) set(next); else e.currentTarget.value = String(seed); }} />
				<button class="tool" title="Another seed" aria-label="Another seed" onclick={() => set(another(control.largest))}><Dices size={16} /></button>
				{#if session instanceof Session}<FollowButton {session} {control} {path} plain={seed} />{/if}
			</span>
		</div>
	{:else if control.type === 'rows' && session instanceof Session}
		<RowsField {session} {control} {path} {pickPath} />
	{:else if control.type === 'colour' || control.type === 'map' || control.type === 'set'}
		<div class="line tied-row"><span>{control.label}{#if tied !== undefined}<span class="follows">{tied.name}</span>{/if}</span>
			<span class="seed">
				{#if control.type === 'colour'}
					<ColourField label={control.label} value={Array.isArray(value) ? value.map(Number) : [0, 0, 0]} {set} {hold} {release} />
				{:else}
					<LibraryField type={control.type} label={control.label} value={String(value)} {set} {sets} none={control.type === 'set' ? 'none: constants alone' : 'none'} />
				{/if}
				{#if session instanceof Session}<FollowButton {session} {control} {path} plain={value} />{/if}
			</span>
		</div>
	{:else if control.type === 'layer'}
		<label class="line">{control.label}
			<select class="field map" value={String(value)} onchange={(e) => set(e.currentTarget.value)}>
				<option value="">none</option>
				{#if value !== '' && !layers.some((one) => one.id === value)}<option value={String(value)}>{String(value)} (not below)</option>{/if}
				{#each layers as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
			</select>
		</label>
	{:else if control.type === 'ingredient'}
		<label class="line">{control.label}
			<select class="field map" value={String(value)} onchange={(e) => set(e.currentTarget.value)}>
				{#if control.none !== null}<option value="">{control.none}</option>{/if}
				{#each ingredients as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
			</select>
		</label>
	{:else if control.type === 'family'}
		<label class="line">{control.label}
			<select class="field map" value={String(value)} onchange={(e) => set(e.currentTarget.value)}>
				<option value="">none</option>
				{#if value !== '' && !families.some((one) => one.name === value)}<option value={String(value)}>{String(value)} (gone)</option>{/if}
				{#each families as one (one.id)}<option value={one.name}>{one.name} ({one.sets.length})</option>{/each}
			</select>
		</label>
	{:else if control.type === 'sheet'}
		{@const cuts = sets.filter((one) => one.sheet !== null)}
		<div class="line tied-row"><span>{control.label}</span>
			<span class="seed">
			<select class="field map" aria-label={control.label} value={String(value)} onchange={(e) => set(e.currentTarget.value)}>
				<option value="">none</option>
				{#if value !== '' && !cuts.some((one) => one.name === value)}<option value={String(value)}>{String(value)} (no sheet)</option>{/if}
				{#each cuts as one (one.id)}<option value={one.name}>{one.name}, {one.sheet!.rectangles.length > 0 ? `${one.sheet!.rectangles.length} parts` : `${one.sheet!.columns} × ${one.sheet!.rows}`}</option>{/each}
			</select>
			{#if session instanceof Session}<FollowButton {session} {control} {path} plain={value} />{/if}
			</span>
		</div>
	{:else if control.type === 'switch'}
		<div class="tied-row switched">
			<Switch class="line" checked={value === true} onCheckedChange={(d) => set(d.checked)}>
				<Switch.Label>{control.label}{#if tied !== undefined}<span class="follows">{tied.name}</span>{/if}</Switch.Label>
				<Switch.Control class="switch"><Switch.Thumb class="switch-thumb" /></Switch.Control>
				<Switch.HiddenInput />
			</Switch>
			{#if session instanceof Session}<FollowButton {session} {control} {path} plain={value} />{/if}
		</div>
	{/if}
	<p class="help">{control.help}</p>
</div>

<style>
	.control {
		display: grid;
		gap: 4px;
	}
	.map {
		max-width: 170px;
	}
	.follows {
		margin-left: 6px;
		font-size: 12px;
		color: var(--accent);
	}
	.switched {
		display: flex;
		align-items: center;
		gap: 4px;
	}
	.switched :global(.line) {
		flex: 1;
	}
	.seed {
		display: flex;
		align-items: center;
		gap: 4px;
	}
	.seed input {
		width: 96px;
	}
	.brief .help {
		display: none;
	}
	.control :global(.line) {
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 8px;
	}
	.control :global(.switch) {
		width: 32px;
		height: 18px;
		padding: 2px;
		border-radius: 9px;
		background: var(--line);
		cursor: pointer;
	}
	.control :global(.switch[data-state='checked']) {
		background: var(--accent);
	}
	.control :global(.switch-thumb) {
		display: block;
		width: 14px;
		height: 14px;
		border-radius: 7px;
		background: #fff;
		transition: transform 0.1s;
	}
	.control :global(.switch[data-state='checked'] .switch-thumb) {
		transform: translateX(14px);
	}
</style>
