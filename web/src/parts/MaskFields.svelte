<script lang="ts">
	import { ArrowDown, ArrowUp, Plus, Trash2 } from '@lucide/svelte';
	import type { SetCard } from '../api/client';
	import { catalogue } from '../state/catalogue.svelte';
	import type { Session } from '../state/session.svelte';
	import ControlField from './ControlField.svelte';

	/** Where a layer lies: a small stack of terms, each laid over those before it. */
	let { session, index, sets }: { session: Session; index: number; sets: SetCard[] } = $props();

	const kinds = $derived(catalogue.value?.layer.masks ?? []);
	const most = $derived(catalogue.value?.layer.terms ?? 0);
	const terms = $derived(session.document.layers[index]?.mask ?? []);
	const path = $derived(`/layers/${index}/mask`);
	let chosen = $state(0);
	const at = $derived(Math.min(chosen, terms.length - 1));
	const label = (kind: string): string => kinds.find((one) => one.name === kind)?.label ?? kind;

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
	function move(from: number, to: number): void {
		change((all) => all.splice(to, 0, ...all.splice(from, 1)));
		chosen = to;
	}
</script>

<section aria-label="Mask">
	<h3 class="heading">Mask</h3>
	{#if terms.length === 0}<p class="help">It lies everywhere. A mask says where.</p>{/if}
	<ol>
		{#each terms as term, i (i)}
			<li class:chosen={i === at}>
				<button class="face" aria-pressed={i === at} onclick={() => (chosen = i)}>{label(term.kind)}{#if i > 0}<span class="how">{String(term.values.how ?? 'multiply')}</span>{/if}</button>
				<button class="tool" disabled={i === 0} title="Earlier" aria-label="Move {label(term.kind)} up" onclick={() => move(i, i - 1)}><ArrowUp size={14} /></button>
				<button class="tool" disabled={i === terms.length - 1} title="Later" aria-label="Move {label(term.kind)} down" onclick={() => move(i, i + 1)}><ArrowDown size={14} /></button>
				<button class="tool" title="Take it out" aria-label="Take {label(term.kind)} out of the mask" onclick={() => change((all) => all.splice(i, 1))}><Trash2 size={14} /></button>
			</li>
		{/each}
	</ol>
	<label class="line"><span><Plus size={14} /> Term</span>
		<select class="field" aria-label="Add a term to the mask" value="" disabled={terms.length >= most} onchange={(e) => { if (e.currentTarget.value !== '') add(e.currentTarget.value); e.currentTarget.value = ''; }}>
			<option value="">choose …</option>
			{#each kinds as kind (kind.name)}<option value={kind.name} title={kind.help}>{kind.label}</option>{/each}
		</select>
	</label>
	{#each terms as term, i (i)}
		{#if i === at}
			<p class="help">{kinds.find((one) => one.name === term.kind)?.help}</p>
			{#each kinds.find((one) => one.name === term.kind)?.controls ?? [] as control (control.name)}
				{#if i > 0 || control.name !== 'how'}<ControlField {session} {control} {sets} path="{path}/{i}/values/{control.name}" brief />{/if}
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
	li {
		display: flex;
		align-items: center;
		border: 1px solid var(--line);
		border-radius: 3px;
	}
	li.chosen {
		border-color: var(--accent);
		background: var(--accent-soft);
	}
	.face {
		flex: 1;
		display: flex;
		gap: 8px;
		min-height: 28px;
		padding: 0 8px;
		align-items: center;
		text-align: left;
	}
	.how,
	.help {
		font-size: 12px;
		line-height: 16px;
		color: var(--dim);
	}
	.line {
		display: flex;
		justify-content: space-between;
		align-items: center;
	}
	.line span {
		display: flex;
		gap: 4px;
		align-items: center;
	}
</style>
