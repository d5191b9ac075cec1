<script lang="ts">
	import { api, type Costs, type MaterialDocument, type Repetition, type Trail } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { HANDS, type Comparison, type Hand } from '../state/comparison.svelte';
	import { differences } from '../state/differences';
	import { placeOf } from '../state/history';
	import { summary } from '../state/repetition';
	import Differences from './Differences.svelte';
	import Trails from './Trails.svelte';

	/** What two that are compared come to: how different they look, what they cost, how much comes again, and which values differ. */
	let { comparison, slug, trails }: {
		comparison: Comparison;
		slug: string;
		/** Of the same line of sight in both, left and right. */
		trails: [Trail, Trail] | null;
	} = $props();

	type Told = { costs: Costs; repetition: Repetition };
	let told = $state.raw<Record<Hand, Told | null>>({ left: null, right: null });
	let trouble = $state('');
	const MIB = 1024 * 1024;
	const documents = $derived({
		left: comparison.documents.left ?? ($state.snapshot(comparison.session.dressed) as MaterialDocument),
		right: comparison.documents.right ?? ($state.snapshot(comparison.session.dressed) as MaterialDocument)
	});
	/** Milliseconds of rest until they are looked through. */
	const CALM = 800;
	$effect(() => {
		const asked = documents;
		const left = new AbortController();
		const later = setTimeout(() => void ask(asked, left.signal), CALM);
		return () => { clearTimeout(later); left.abort(); };
	});
	async function ask(asked: Record<Hand, MaterialDocument>, signal: AbortSignal): Promise<void> {
		try {
			for (const hand of HANDS) {
				const [costs, repetition] = [await api.costs(slug, asked[hand], signal), await api.repetition(slug, { document: asked[hand] }, signal)];
				if (signal.aborted) return;
				told = { ...told, [hand]: { costs, repetition } };
			}
			trouble = '';
		} catch (error) {
			if (!signal.aborted) trouble = error instanceof Error ? error.message : String(error);
		}
	}
	const ROWS: readonly { label: string; help: string; of: (one: Told) => string }[] = [
		{ label: 'Map reads', help: 'The most that a pixel costs', of: ({ costs }) => String(costs.whole.fetches) },
		{ label: 'Operations', help: 'That a pixel costs', of: ({ costs }) => String(costs.whole.operations) },
		{ label: 'Memory', help: 'Of the maps with mip levels, in blocks', of: ({ costs }) => `${(costs.whole.compressed / MIB).toFixed(1)} MiB` },
		{ label: 'Repetition', help: 'How much of it is seen to come again, 0 to 1', of: ({ repetition }) => repetition.worst.score.toFixed(2) }
	];
	const rows = $derived(differences(documents.left, documents.right).filter((one) => one.path !== '/name'));
	const MOST = 40;
	const label = (step: string, control: string): string => (control === '' ? (catalogue.step(step)?.label ?? step) : (catalogue.control(step, control)?.label ?? control));
</script>

<section class="facts" aria-label="What differs">
	<h2 class="heading">What differs</h2>
	{#if comparison.figures}
		<dl>
			<dt title="CIEDE2000, over all that is seen of it">Mean difference</dt><dd>ΔE {comparison.figures.mean.toFixed(2)}</dd>
			<dt>95 of 100 pixels are under</dt><dd>ΔE {comparison.figures.high.toFixed(2)}</dd>
			<dt>Largest</dt><dd>ΔE {comparison.figures.most.toFixed(2)}</dd>
			<dt title="Pixels that differ by more than 1">Seen to differ</dt><dd>{(100 * comparison.figures.share).toFixed(0)} %</dd>
		</dl>
	{/if}
	<table>
		<thead><tr><th scope="col"><span class="sr">What</span></th><th scope="col">Left</th><th scope="col">Right</th></tr></thead>
		<tbody>
			{#each ROWS as row (row.label)}
				<tr><th scope="row" title={row.help}>{row.label}</th>{#each HANDS as hand (hand)}<td>{told[hand] === null ? '…' : row.of(told[hand])}</td>{/each}</tr>
			{/each}
		</tbody>
	</table>
	{#each HANDS as hand (hand)}{#if told[hand] !== null}<p><strong>{hand === 'left' ? 'Left' : 'Right'}:</strong> {summary(told[hand].repetition)}</p>{/if}{/each}
	{#if trouble !== ''}<p>Not looked through: {trouble}</p>{/if}
	{#if trails === null}<p>Click the stage: the trail of that point in both.</p>{:else}<Trails left={trails[0]} right={trails[1]} names={['Left', 'Right']} />{/if}
	<h3>Values</h3>
	{#if rows.length === 0}<p>No value differs.</p>{:else}
		<Differences rows={rows.slice(0, MOST)} mine="Left" theirs="Right" place={(path) => placeOf(documents.left, path, label)} />
		{#if rows.length > MOST}<p>and {rows.length - MOST} more</p>{/if}
	{/if}
</section>

<style>
	table {
		margin-bottom: 8px;
	}
	th {
		color: var(--dim);
	}
	thead th {
		text-align: right;
		font-size: 12px;
	}
	p strong {
		font-weight: 600;
		color: var(--text);
	}
	.sr {
		position: absolute;
		clip-path: inset(50%);
	}
</style>
