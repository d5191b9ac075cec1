<script lang="ts">
	import { Plus, RotateCcw, Trash2 } from '@lucide/svelte';
	import type { SetCard } from '../api/client';
	import type { Showing } from '../state/showing';
	import { catalogue } from '../state/catalogue.svelte';
	import { commands } from '../state/commands.svelte';
	import { addLane } from '../state/lanes.svelte';
	import { changeSet, removeLayers } from '../state/layers.svelte';
	import type { Session } from '../state/session.svelte';
	import { plainOf, setOf } from '../state/parameters';
	import Acts from './Acts.svelte';
	import ColourField from './ColourField.svelte';
	import ControlField from './ControlField.svelte';
	import FollowButton from './FollowButton.svelte';
	import FinishFields from './FinishFields.svelte';
	import MaskFields from './MaskFields.svelte';
	import TieField from './TieField.svelte';

	/** What a layer reads and how it lies over those below. */
	let { session, index, sets, showing, gone }: { session: Session; index: number; sets: SetCard[]; showing: Showing; gone: () => void } = $props();

	const layer = $derived(session.document.layers[index]!);
	const path = $derived(`/layers/${index}`);
	const lane = $derived(session.document.lanes.findIndex((one) => one.id === layer.lane));
	const directions = $derived(session.lowered?.lanes[lane]?.cost.directions ?? []);
	const bare = $derived(setOf(session.dressed, layer) === '');

	const writes = $derived(layer.channels ?? catalogue.value?.layer.channels ?? []);
	/** Writes a channel, or leaves it as it is below. */
	function write(channel: string): void {
		const all = catalogue.value?.layer.channels ?? [];
		const next = all.filter((one) => (one === channel ? !writes.includes(one) : writes.includes(one)));
		session.edit((document) => {
			const own = document.layers[index];
			if (own === undefined) return;
			if (next.length === all.length) delete own.channels;
			else own.channels = next;
		});
	}

	function ride(id: string): void {
		if (id !== '' && id !== '*') session.set(`${path}/lane`, id);
		else session.edit((document) => {
			const [own, like] = [document.layers[index], document.lanes[lane]];
			if (own !== undefined && like !== undefined) own.lane = addLane(document, { ...like, name: own.name, steps: id === '*' ? like.steps : like.steps.slice(0, 1) });
		});
	}
	const OWN = [
		{ value: 'new', label: 'A new lane', help: 'With the origin of its lane alone', do: () => ride('') },
		{ value: 'copy', label: 'A copy of its lane', help: 'With the steps that it has now', do: () => ride('*') }
	];
	const sides = $derived((catalogue.value?.layer.sides ?? []).filter((control) => directions.includes(control.name)));
	/** The colour of a side as it is read. */
	function untint(direction: string): void {
		session.edit((document) => {
			const own = document.layers[index];
			if (own?.tints === undefined) return;
			const others = Object.entries(own.tints).filter(([name]) => name !== direction);
			if (others.length === 0) delete own.tints;
			else own.tints = Object.fromEntries(others);
		});
	}
	function side(direction: string, set: string): void {
		session.edit((document) => {
			const own = document.layers[index];
			if (own === undefined) return;
			const others = Object.entries(own.faces ?? {}).filter(([name]) => name !== direction);
			own.faces = Object.fromEntries(set === '' ? others : [...others, [direction, set]]);
		});
	}
	$effect(() => commands.offer('ride', () => [
		...session.document.lanes.filter((one) => one.id !== layer.lane).map((one) => ({ group: 'Lane of the layer', label: one.name, run: () => ride(one.id) })),
		...OWN.map((one) => ({ group: 'Lane of the layer', label: one.label, run: one.do }))
	]));
</script>

<h2 class="heading">Layer</h2>
<label>Name
	<input class="field" maxlength="120" value={layer.name} onchange={(e) => { if (e.currentTarget.value.trim() !== '') session.set(`${path}/name`, e.currentTarget.value.trim()); else e.currentTarget.value = layer.name; }} />
</label>
{#if catalogue.value !== null}<ControlField {session} control={catalogue.value.layer.set} {sets} path="{path}/set" put={(next) => changeSet(session, index, sets, String(next))} />{/if}
<div class="lane">
	<label>Lane
		<select class="field" value={layer.lane} onchange={(e) => ride(e.currentTarget.value)}>
			{#each session.document.lanes as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
		</select>
	</label>
	<Acts of="the lane" label="A lane of its own" title="A lane of its own" look="plain" acts={OWN}><Plus size={14} /></Acts>
</div>
<p class="help">{bare ? 'Its tint is its colour.' : 'All maps of the set are read along it. Layers on one lane share its steps.'}</p>
{#if index > 0 && catalogue.value !== null}
	<label>Blend with below
		<select class="field" value={layer.mode ?? 'mix'} onchange={(e) => session.set(`${path}/mode`, e.currentTarget.value)}>
			{#each catalogue.value.layer.modes as mode (mode.value)}<option value={mode.value}>{mode.label}</option>{/each}
		</select>
	</label>
	<TieField {session} control={catalogue.value.layer.opacity} path="{path}/opacity" />
	{#if layer.mode === 'height'}
		<TieField {session} control={catalogue.value.layer.width} path="{path}/width" />
	{/if}
	<div class="writes" role="group" aria-label="What it writes">
		<span>Writes</span>
		{#each catalogue.value.layer.channels as channel (channel)}
			<button class="tool" aria-pressed={writes.includes(channel)} onclick={() => write(channel)}>{channel}</button>
		{/each}
	</div>
{/if}
{#if directions.length > 0}
	<h3>Sides</h3>
	<p class="help">Each side may read a set of its own, and have a colour that multiplies what is read{bare ? '' : '; white changes nothing'}.</p>
	{#each sides as control (control.name)}
		{@const direction = control.name}
		{@const tint = plainOf(session.dressed, layer.tints?.[direction], control.default) as number[]}
		<div class="side tied-row"><span class="figures">{direction}</span>
			<select class="field" aria-label="Map set of the side {direction}" value={layer.faces?.[direction] ?? ''} onchange={(e) => side(direction, e.currentTarget.value)}>
				<option value="">same</option>
				{#each sets as one (one.id)}<option value={one.name}>{one.name}</option>{/each}
			</select>
			<ColourField label={control.label} value={tint} set={(next) => session.set(`${path}/tints/${direction}`, next)} hold={() => session.hold()} release={() => session.release()} />
			<FollowButton {session} {control} path="{path}/tints/{direction}" plain={tint} />
			<button class="tool plain" disabled={layer.tints?.[direction] === undefined} title="No colour of its own" aria-label="No colour of its own for the side {direction}" onclick={() => untint(direction)}><RotateCcw size={14} /></button>
		</div>
	{/each}
{/if}
{#if index > 0}<MaskFields {session} {index} {sets} {showing} />{/if}
<FinishFields {session} {index} {sets} />
<button class="tool" disabled={session.document.layers.length < 2} title={session.document.layers.length < 2 ? 'A material needs one layer' : ''} onclick={() => { removeLayers(session, [layer.id]); gone(); }}><Trash2 size={14} /> Delete layer</button>

<style>
	label {
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 8px;
	}
	label .field {
		width: 164px;
	}
	.lane {
		display: flex;
		align-items: center;
		gap: 4px;
	}
	.lane label {
		flex: 1;
	}
	.lane .field {
		width: 132px;
	}
	.side {
		display: flex;
		align-items: center;
		gap: 4px;
	}
	.side .figures {
		width: 24px;
	}
	.side .field {
		flex: 1;
		min-width: 0;
	}
	.side .plain {
		width: 28px;
		padding: 0;
		justify-content: center;
	}
	.writes {
		display: flex;
		flex-wrap: wrap;
		gap: 2px;
		align-items: center;
	}
	.writes span {
		margin-right: 6px;
	}
	h3 {
		font-weight: 600;
	}
	.help {
		margin-top: -8px;
	}
	button {
		justify-self: start;
	}
</style>
