<script lang="ts">
	import { X } from '@lucide/svelte';
	import type { Budget, JudgedFinding, MaterialDocument } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import { SEVERITIES, type Findings } from '../state/findings.svelte';
	import { placeOf } from '../state/history';
	import { done, failed } from '../state/notices.svelte';
	import { patch } from '../state/pointer';
	import type { Session } from '../state/session.svelte';
	import BudgetFields from './BudgetFields.svelte';
	import Mark from './Mark.svelte';
	import Segments from './Segments.svelte';

	/** What is found in the material, its maps and on the stage; and what its parts cost. */
	let { slug, budgets, findings, session, go, undo, compare, mended, rebudgeted, close }: {
		slug: string;
		budgets: Budget[];
		findings: Findings;
		session: Session;
		/** Goes to a place of the document. */
		go: (path: string) => void;
		undo: () => void;
		/** Looks at it beside what it was before the last change. */
		compare: () => void;
		/** A map is another. */
		mended: () => void;
		/** The project has other budgets. */
		rebudgeted: () => Promise<void>;
		close: () => void;
	} = $props();

	let shown = $state('found');
	/** What is tried, and may be taken back. */
	let tried = $state.raw<JudgedFinding | null>(null);
	let busy = $state(false);

	const MIB = 1024 * 1024;
	const budget = $derived(findings.budget === '' ? null : findings.costs?.over[findings.budget] ?? null);
	const parts = $derived(Object.entries(findings.costs?.saves ?? {}).map(([path, saves]) => ({ path, saves })).sort((a, b) => b.saves.fetches - a.saves.fetches || b.saves.operations - a.saves.operations));
	const most = $derived(Math.max(1, ...parts.map((one) => one.saves.operations)));
	const label = (step: string, name: string): string => (name === '' ? (catalogue.step(step)?.label ?? step) : (catalogue.control(step, name)?.label ?? name));
	const where = (path: string): string => (path === '' ? 'The material' : placeOf(session.document, path, label));

	function attempt(one: JudgedFinding): void {
		if (one.fix === null) return;
		const { operations } = one.fix;
		try {
			session.edit((document: MaterialDocument) => patch(document, operations));
			tried = one;
		} catch (error) {
			failed('It was not changed', error);
		}
	}
	async function mend(one: JudgedFinding): Promise<void> {
		if (one.map === null) return;
		busy = true;
		try {
			await findings.mend(one.map);
			done(`${one.map.label}: ${one.map.name}`, 'The version before is kept in the library.');
			mended();
		} catch (error) {
			failed('The map was not mended', error);
		} finally {
			busy = false;
		}
	}
</script>

<section class="findings" aria-label="Findings">
	<header>
		<Segments label="What is shown" quiet options={[{ value: 'found', label: 'Findings' }, { value: 'cost', label: 'Cost' }]} value={shown} choose={(next) => (shown = next)} />
		<span class="gap"></span>
		<button class="tool mini" aria-label="Close the findings" title="Back to the values" onclick={close}><X size={14} /></button>
	</header>
	<BudgetFields {slug} {budgets} chosen={findings.budget} choose={(name) => findings.keep(name)} changed={rebudgeted} />
	{#if tried !== null}
		<div class="tried" role="status">
			<p>Tried: {tried.fix?.label}.</p>
			<button class="tool main" onclick={() => (tried = null)}>Keep it</button>
			<button class="tool plain" onclick={() => { undo(); tried = null; }}>Take it back</button>
			<button class="tool plain" title="With and without it, on the stage" onclick={compare}>Compare</button>
		</div>
	{/if}
	{#if findings.trouble !== ''}
		<p class="dim">Not looked through: {findings.trouble}</p>
	{:else if shown === 'found'}
		{#if findings.all === null}
			<p class="dim" aria-busy="true">Being looked through …</p>
		{:else if findings.all.length === 0}
			<p class="dim">Nothing is found.</p>
		{:else}
			{#each SEVERITIES as { value, label: heading } (value)}
				{@const some = findings.all.filter((one) => one.severity === value)}
				{#if some.length > 0}
					<h3><Mark severity={value} /> {heading} <span class="figures">{some.length}</span></h3>
					<ul class:old={!findings.current}>
						{#each some as one (one.code + one.path + one.text)}
							<li>
								<h4>{one.label}</h4>
								<p>{one.text}</p>
								<p class="dim">{one.why}</p>
								<div class="acts">
									<button class="place" onclick={() => go(one.path)}>{where(one.path)}</button>
									{#if one.fix !== null}<button class="tool plain" disabled={tried !== null || !findings.current} title="Changes the material; it can be taken back" onclick={() => attempt(one)}>{one.fix.label}</button>{/if}
									{#if one.map !== null && one.map.mend !== ''}<button class="tool plain" disabled={busy} title="A new version of the map; the one before is kept" onclick={() => void mend(one)}>{one.map.label}</button>{/if}
								</div>
							</li>
						{/each}
					</ul>
				{/if}
			{/each}
		{/if}
	{:else if findings.costs === null}
		<p class="dim" aria-busy="true">Being counted …</p>
	{:else}
		{@const { whole } = findings.costs}
		<dl class="whole" class:old={!findings.current}>
			<dt>Map reads a pixel</dt><dd class:over={budget?.['map reads'] !== undefined}>{whole.fetches}{budget?.['map reads'] === undefined ? '' : ` of ${budget['map reads'][1]}`}</dd>
			<dt>Operations a pixel</dt><dd class:over={budget?.operations !== undefined}>{whole.operations}{budget?.operations === undefined ? '' : ` of ${budget.operations[1]}`}</dd>
			<dt>Maps</dt><dd class:over={budget?.maps !== undefined}>{whole.textures}{budget?.maps === undefined ? '' : ` of ${budget.maps[1]}`}</dd>
			<dt title="With mip levels, in blocks of four by four texels">Memory, in blocks</dt><dd class:over={budget?.['MiB of maps'] !== undefined}>{(whole.compressed / MIB).toFixed(1)} MiB</dd>
			<dt>Memory, as it is</dt><dd>{(whole.bytes / MIB).toFixed(1)} MiB</dd>
		</dl>
		<table class:old={!findings.current}>
			<caption>What it saves to switch a part off</caption>
			<thead><tr><th scope="col">Part</th><th scope="col">Reads</th><th scope="col">Operations</th></tr></thead>
			<tbody>
				{#each parts as { path, saves } (path)}
					<tr>
						<th scope="row"><button class="place" onclick={() => go(path)}>{where(path)}</button><span class="bar" style:width="{(100 * Math.max(0, saves.operations)) / most}%"></span></th>
						<td>{saves.fetches}</td>
						<td>{saves.operations}</td>
					</tr>
				{/each}
			</tbody>
		</table>
	{/if}
</section>

<style>
	.findings {
		padding: 0 12px 16px;
		font-size: 13px;
	}
	header {
		position: sticky;
		top: 0;
		z-index: 1;
		display: flex;
		align-items: center;
		padding: 8px 0;
		background: var(--panel);
	}
	.gap {
		flex: 1;
	}
	h3 {
		display: flex;
		align-items: center;
		gap: 8px;
		margin: 16px 0 4px;
		font-size: 13px;
	}
	h4 {
		margin: 0;
		font-weight: 600;
		font-size: 13px;
	}
	ul {
		margin: 0;
		padding: 0;
		list-style: none;
	}
	li {
		padding: 8px 0;
		border-top: 1px solid var(--line);
	}
	p {
		margin: 2px 0;
	}
	.dim {
		color: var(--dim);
	}
	.old {
		opacity: 0.55;
	}
	.acts {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 4px 12px;
		margin-top: 4px;
	}
	.place {
		padding: 0;
		border: 0;
		background: none;
		color: var(--accent);
		font: inherit;
		text-align: left;
		cursor: pointer;
	}
	.tried {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 8px;
		margin-top: 8px;
		padding: 8px;
		background: var(--accent-soft);
		border-radius: 4px;
	}
	.tried p {
		flex: 1 0 100%;
	}
	.whole {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 4px 8px;
		margin: 12px 0;
	}
	.whole dt {
		color: var(--dim);
	}
	.whole dd,
	td {
		margin: 0;
		text-align: right;
		font-family: var(--font-figures);
		font-size: 12px;
	}
	.over {
		color: var(--brick);
		font-weight: 600;
	}
	table {
		width: 100%;
		border-collapse: collapse;
	}
	caption {
		padding: 8px 0 4px;
		text-align: left;
		font-weight: 600;
	}
	th {
		position: relative;
		text-align: left;
		font-weight: 400;
	}
	thead th {
		color: var(--dim);
		font-size: 12px;
	}
	thead th:not(:first-child) {
		padding-left: 10px;
		text-align: right;
	}
	tbody th,
	td {
		padding: 5px 0 5px 4px;
		border-top: 1px solid var(--line);
	}
	.bar {
		position: absolute;
		left: 0;
		bottom: 0;
		height: 2px;
		background: var(--accent);
		opacity: 0.7;
	}
</style>
