<script lang="ts">
	import { Plus, Scaling, Spotlight } from '@lucide/svelte';
	import type { MaskTerm, SetCard } from '../api/client';
	import type { Showing } from '../state/showing';
	import { commands, FIELD } from '../state/commands.svelte';
	import { catalogue, meaningful } from '../state/catalogue.svelte';
	import { ownLane } from '../state/lanes.svelte';
	import { maskColours } from '../state/maskcolours.svelte';
	import type { Session } from '../state/session.svelte';
	import Acts from './Acts.svelte';
	import ColourField from './ColourField.svelte';
	import ControlField from './ControlField.svelte';
	import MaskTile from './MaskTile.svelte';

	/** Where a layer lies: a small stack of terms, each laid over those before it. */
	let { session, index, sets, showing }: { session: Session; index: number; sets: SetCard[]; showing: Showing } = $props();

	const { show } = $derived(showing);
	const shown = $derived(showing.view);

	/** How much larger than that of the layer a lane of a mask begins. */
	const LARGER = 8;

	const kinds = $derived(catalogue.value?.layer.masks ?? []);
	const most = $derived(catalogue.value?.layer.terms ?? 0);
	const layer = $derived(session.document.layers[index]);
	const terms = $derived(layer?.mask ?? []);
	const path = $derived(`/layers/${index}/mask`);
	const view = $derived(`mask:/layers/${index}`);
	let chosen = $state(0);
	const at = $derived(Math.min(chosen, terms.length - 1));
	const kindOf = (term: MaskTerm | undefined): (typeof kinds)[number] | undefined => kinds.find((one) => one.name === term?.kind);
	const below = $derived(session.document.layers.slice(0, index));
	/** Whether it is read along a lane, with its values as they are. */
	function alongLane(term: MaskTerm): boolean {
		const along = kindOf(term)?.along ?? null;
		return along !== null && Object.entries(along).every(([name, value]) => term.values[name] === value);
	}
	function how(term: MaskTerm): string {
		const control = kindOf(term)?.controls.find((one) => one.name === 'how');
		const said = term.values.how ?? control?.default;
		return control?.type === 'choice' ? (control.options.find((one) => one.value === said)?.label ?? String(said)) : '';
	}

	function change(how: (all: typeof terms) => void): void {
		session.edit((document) => {
			const layer = document.layers[index];
			if (layer === undefined) return;
			const all = layer.mask ?? [];
			how(all);
			if (all.length === 0) delete layer.mask;
			else layer.mask = all;
		});
	}
	function add(kind: string): void {
		change((all) => all.push({ kind, values: {} }));
		chosen = terms.length - 1;
	}
	$effect(() => commands.offer('mask', () => kinds.map((kind) => ({ group: 'Add to the mask', label: kind.label, can: terms.length < most, lands: `[aria-label="Mask"] .help ~ * ${FIELD}`, run: () => add(kind.name) }))));
	function move(from: number, to: number): void {
		change((all) => all.splice(to, 0, ...all.splice(from, 1)));
		chosen = to;
	}
	/** The lane that a term is read along; without one of its own, the layer's. */
	function along(t: number, lane: string): void {
		change((all) => {
			const term = all[t];
			if (term === undefined) return;
			if (lane === '') delete term.lane;
			else term.lane = lane;
		});
	}
</script>

<section aria-label="Mask">
	<header>
		<h3 class="heading">Mask</h3>
		{#if terms.length > 0}
			{#if showing.shares[view] !== undefined}<span class="share figures" title="Of what is seen on the stage">{Math.round(showing.shares[view] * 100)} %</span>{/if}
			<button class="tool" aria-pressed={shown === view} title="The mask alone on the stage" onclick={() => show(shown === view ? 'lit' : view)}><Spotlight size={14} /> Alone</button>
		{/if}
	</header>
	{#if terms.length === 0}<p class="help">It lies everywhere. A mask says where.</p>{/if}
	{#if shown.startsWith('mask:') || shown.startsWith('term:')}
		<div class="colours" role="group" aria-label="How the mask is shown">
			<label><input type="checkbox" checked={maskColours.two} onchange={(e) => maskColours.keep({ two: e.currentTarget.checked })} /> In two colours</label>
			{#if maskColours.two}
				<ColourField label="Where it is not" value={maskColours.none} set={(none) => maskColours.keep({ none })} hold={() => {}} release={() => {}} />
				<ColourField label="Where it is" value={maskColours.all} set={(all) => maskColours.keep({ all })} hold={() => {}} release={() => {}} />
			{/if}
		</div>
	{/if}
	<ol>
		{#each terms as term, i (i)}
			<MaskTile label={kindOf(term)?.label ?? term.kind} how={how(term)} views={[`term:/layers/${index}/mask/${i}`, view]} chosen={i === at} first={i === 0} last={i === terms.length - 1}
				program={showing.program} painter={showing.painter} tick={showing.tick} {shown} {show} choose={() => (chosen = i)} move={(by) => move(i, i + by)} remove={() => change((all) => all.splice(i, 1))} />
		{/each}
	</ol>
	<Acts of="the mask" label="Add a term to the mask" title="One more thing that says where it lies" look="plain" disabled={terms.length >= most} acts={kinds.map((kind) => ({ value: kind.name, label: kind.label, help: kind.help, do: () => add(kind.name) }))}><Plus size={14} /> Term</Acts>
	{#each terms as term, i (i)}
		{#if i === at}
			<p class="help">{kindOf(term)?.help}</p>
			{#if alongLane(term)}
				<label class="line">Along
					<select class="field" aria-label="Lane of the term" value={term.lane ?? ''} onchange={(e) => along(i, e.currentTarget.value)}>
						<option value="">the lane of the layer</option>
						{#each session.document.lanes as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
					</select>
				</label>
			{/if}
			{#if kindOf(term)?.pattern === true}
				<button class="tool plain" title="A copy of its lane, {LARGER} times as large, for this term alone" onclick={() => ownLane(session, index, i, LARGER)}><Scaling size={14} /> A lane of its own, {LARGER} × larger</button>
			{/if}
			{#each meaningful(kindOf(term)?.controls ?? [], term.values) as control (control.name)}
				{#if i > 0 || control.name !== 'how'}<ControlField {session} {control} {sets} layers={below} path="{path}/{i}/values/{control.name}" brief />{/if}
			{/each}
		{/if}
	{/each}
</section>

<style>
	section,
	ol {
		display: grid;
		gap: 6px;
	}
	ol {
		gap: 2px;
	}
	header,
	.colours {
		display: flex;
		align-items: center;
		gap: 8px;
	}
	header h3 {
		flex: 1;
	}
	.share {
		color: var(--dim);
	}
	.colours label {
		display: flex;
		flex: 1;
		gap: 6px;
		align-items: center;
	}
	.colours input[type='checkbox'] {
		accent-color: var(--accent);
	}
	.line {
		display: flex;
		justify-content: space-between;
		align-items: center;
	}
	.line .field {
		max-width: 170px;
	}
	button.plain {
		justify-self: start;
	}
</style>
