<script lang="ts">
	import { onDestroy } from 'svelte';
	import type { MaterialDocument } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { RepeatSearching } from '../state/repeatsearch.svelte';
	import { failed } from '../state/notices.svelte';
	import { patch, type Operation } from '../state/pointer';
	import { curvePath, metres } from '../state/repetition';
	import type { Session } from '../state/session.svelte';
	import NumberField from './NumberField.svelte';

	/** Looks for what hides the repeat of the open material, and offers the three best. */
	let { slug, session, document, compare }: {
		slug: string;
		session: Session;
		/** As it is measured. */
		document: MaterialDocument;
		/** Looks at the material beside what it would be. */
		compare: (document: MaterialDocument, name: string) => void;
	} = $props();

	const SMALL = { width: 176, height: 36 };
	const still = { hold: () => {}, release: () => {} };
	// The view that it lies in is of one project.
	// svelte-ignore state_referenced_locally
	const searching = new RepeatSearching(slug);
	let fetches = $state(catalogue.value?.fetches.default ?? 0);
	const found = $derived(searching.search?.found ?? null);
	const asked = $derived(searching.search?.fetches ?? 0);
	/** Whether what is found is for the document as it is. */
	const current = $derived(searching.document === JSON.stringify(document));
	onDestroy(() => searching.stop());

	function take(operations: readonly Operation[]): void {
		try {
			session.edit((changed: MaterialDocument) => patch(changed, operations));
		} catch (error) {
			failed('It was not changed', error);
		}
	}
	function look(operations: readonly Operation[], name: string): void {
		const other = structuredClone(document);
		patch(other, operations);
		compare(other, name);
	}
	const least = (kept: Record<string, number>): number => Math.min(1, ...Object.values(kept));
	const percent = (share: number): string => `${Math.round(100 * share)} %`;
	const png = (picture: string): string => `data:image/png;base64,${picture}`;
</script>

<section class="hide" aria-label="Hide the repeat">
	<div class="ask">
		<div class="number"><NumberField control={catalogue.value!.fetches} value={fetches} set={(v) => (fetches = v)} {...still} /></div>
		{#if searching.runs}
			<progress max={Math.max(1, searching.search?.all ?? 1)} value={searching.search?.done ?? 0} aria-label="Changes that have been tried"></progress>
			<span class="figures" role="status">{searching.search?.done} of {searching.search?.all || '…'} tried</span>
			<button class="tool plain" onclick={() => searching.stop()}>Stop</button>
		{:else}
			<button class="tool main" onclick={() => void searching.start(document, fetches)}>Search</button>
			<p>{#if searching.trouble !== ''}Not found: {searching.trouble}{:else if found !== null && found.offers.length === 0}{found.cost.fetches > asked ? `It takes ${found.cost.fetches} map reads as it is. ` : ''}Of {found.tried} changes, none within {asked} map {asked === 1 ? 'read' : 'reads'} hides more of it.{:else if found === null}What hides it within so many map reads a pixel: steps that are missing, and other numbers.{:else if !current}The material has changed since: what is offered was for what it was.{/if}</p>
		{/if}
	</div>
	{#if found !== null}
		<ul>
			<li class="card was">
				<h4>As it was</h4>
				<img src={png(found.picture)} alt="The surface, {metres(found.metres)} wide" width="176" height="88" />
				<svg viewBox="0 0 {SMALL.width} {SMALL.height}" height={SMALL.height} preserveAspectRatio="none" aria-hidden="true"><path class="line" d={curvePath(found.curve.places, SMALL.width, SMALL.height, false)} /></svg>
				<p class="figures">{found.curve.worst.score.toFixed(2)}</p>
				<p>{found.cost.fetches} map reads, {found.cost.operations} operations</p>
			</li>
			{#each found.offers as one (one.label.join())}
				<li class="card">
					<h4>{one.label.join(', then ')}</h4>
					<img src={png(one.picture)} alt="The surface with it, {metres(found.metres)} wide" width="176" height="88" />
					<svg viewBox="0 0 {SMALL.width} {SMALL.height}" height={SMALL.height} preserveAspectRatio="none" aria-hidden="true">
						<path class="before" d={curvePath(found.curve.places, SMALL.width, SMALL.height, false)} />
						<path class="line" d={curvePath(one.curve.places, SMALL.width, SMALL.height, false)} />
					</svg>
					<p class="figures">{found.curve.worst.score.toFixed(2)} → <strong>{one.curve.worst.score.toFixed(2)}</strong></p>
					<p>{one.cost.fetches} map reads, {one.cost.operations} operations</p>
					<p title={Object.entries(one.kept).map(([what, share]) => `${what} ${percent(share)}`).join(', ')}>Keeps {percent(least(one.kept))} of its detail</p>
					<div class="acts">
						<button class="tool plain" disabled={!current} title="One change, which can be taken back" onclick={() => take(one.operations)}>Take it</button>
						<button class="tool plain" disabled={!current} title="With and without it, on the stage" onclick={() => look(one.operations, one.label.join(', then '))}>Compare</button>
					</div>
				</li>
			{/each}
		</ul>
	{/if}
</section>

<style>
	.hide {
		display: grid;
		gap: 8px;
		padding: 8px;
		font-size: 12px;
		background: var(--panel);
		border-top: 1px solid var(--line);
	}
	.ask {
		display: flex;
		align-items: center;
		gap: 8px;
		min-height: 28px;
	}
	.number {
		width: 150px;
	}
	p {
		margin: 0;
		color: var(--dim);
	}
	.figures {
		color: var(--text);
	}
	progress {
		width: 160px;
		accent-color: var(--accent);
	}
	ul {
		display: flex;
		gap: 8px;
		margin: 0;
		padding: 0;
		list-style: none;
		overflow-x: auto;
	}
	.card {
		display: grid;
		grid-template-rows: 32px auto auto auto auto auto 1fr;
		gap: 3px;
		align-content: start;
		flex: 1 1 0;
		min-width: 168px;
		/* One by itself is as large as one of four. */
		max-width: 192px;
		padding: 6px 8px 8px;
		background: var(--raised);
		border: 1px solid var(--line);
		border-radius: 4px;
	}
	h4 {
		margin: 0;
		font-size: 12px;
		line-height: 16px;
		font-weight: 600;
		overflow: hidden;
	}
	img {
		width: 100%;
		height: auto;
		border-radius: 2px;
	}
	svg {
		display: block;
		width: 100%;
		border-bottom: 1px solid var(--line);
	}
	.line {
		fill: none;
		stroke: var(--text);
		stroke-width: 1.5;
		vector-effect: non-scaling-stroke;
	}
	.before {
		fill: none;
		stroke: var(--dim);
		stroke-dasharray: 2 3;
	}
	.acts {
		display: flex;
		gap: 4px;
		align-self: end;
	}
	.acts .tool {
		border: 1px solid var(--line);
	}
</style>
