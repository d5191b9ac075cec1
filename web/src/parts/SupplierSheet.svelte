<script lang="ts">
	import { Search } from '@lucide/svelte';
	import { api, type Ware, type Wares } from '../api/client';
	import { insisting } from '../state/pictures';
	import Sheet from './Sheet.svelte';
	import Trouble from './Trouble.svelte';

	/** The catalogue of a supplier, a service of somebody else. What is taken goes through the same review as files. */
	let { take, close }: { take: (ware: Ware, side: number) => void; close: () => void } = $props();
	let words = $state('');
	let kind = $state('');
	let side = $state(0);
	let page = $state(1);
	let found = $state.raw<Wares | null>(null);
	let trouble = $state<unknown>(null);
	let looking = $state(false);
	let read = $state<string | null>(null);
	let taken = $state<string[]>([]);
	let asked = 0;
	/** Milliseconds after the last key. */
	const PAUSE = 250;

	async function look(): Promise<void> {
		const mine = ++asked;
		looking = true;
		trouble = null;
		try {
			const answer = await api.wares(words.trim(), kind, side, page);
			if (mine !== asked) return;
			found = answer;
			page = answer.page;
		} catch (error) {
			if (mine === asked) trouble = error;
		} finally {
			if (mine === asked) looking = false;
		}
	}
	$effect(() => {
		void [words, kind, side, page];
		const timer = window.setTimeout(() => void look(), PAUSE);
		return () => clearTimeout(timer);
	});
	const sides = $derived([...new Set((found?.wares ?? []).flatMap((ware) => ware.sides))].sort((a, b) => a - b));
</script>

<Sheet title="Supplier’s catalogue" {close}>
	<div class="search" role="search">
		<label class="words"><Search size={14} /><input class="field" type="search" placeholder="Name, kind, use" aria-label="Search the catalogue" bind:value={words} oninput={() => (page = 1)} /></label>
		<select class="field" aria-label="Kind" bind:value={kind} onchange={() => (page = 1)}>
			<option value="">All kinds</option>
			{#each found?.kinds ?? [] as one (one)}<option value={one}>{one}</option>{/each}
		</select>
		<select class="field" aria-label="Size" bind:value={side} onchange={() => (page = 1)}>
			<option value={0}>All sizes</option>
			{#each sides as one (one)}<option value={one}>{one} px</option>{/each}
		</select>
		<span class="dim" aria-live="polite">{looking ? 'Asking …' : found === null ? '' : `${found.total} ${found.total === 1 ? 'set' : 'sets'}`}</span>
	</div>
	{#if trouble !== null}
		<Trouble error={trouble} retry={look} />
	{:else if found !== null}
		{#if found.left > 0}<p class="told">{found.left === 1 ? 'One offer was' : `${found.left} offers were`} left out: something that every offer must say was missing.</p>{/if}
		<ul class="wares" aria-busy={looking}>
			{#each found.wares as ware (ware.id)}
				<li aria-label={ware.title}>
					<img src="/api/supplier/wares/{ware.id}/preview.png" alt="" width="120" height="120" loading="lazy" {@attach insisting()} />
					<div class="about">
						<h3>{ware.title} <span class="dim">{ware.kind}, {ware.extent} m</span></h3>
						<p>{ware.about}</p>
						<p class="dim">{ware.maps.join(", ")}</p>
						<p><button class="link" aria-expanded={read === ware.id} onclick={() => (read = read === ware.id ? null : ware.id)}>Licence: {ware.licence.name}</button></p>
						{#if read === ware.id}<p class="licence">{ware.licence.text}</p>{/if}
						<div class="take">
							{#each ware.sides.filter((one) => side === 0 || one === side) as one (one)}
								<button class="tool plain" onclick={() => { taken = [...taken, ware.id]; take(ware, one); }} aria-label="Take {ware.title} in {one} px">Take in {one} px</button>
							{/each}
							{#if taken.includes(ware.id)}<span class="dim">in the review</span>{/if}
						</div>
					</div>
				</li>
			{:else}
				<li class="none dim">Nothing answers to that.</li>
			{/each}
		</ul>
		{#if found.pages > 1}
			<div class="pages" role="group" aria-label="Pages">
				<button class="tool plain" disabled={page <= 1} onclick={() => (page -= 1)}>Before</button>
				<span class="figures">{found.page} of {found.pages}</span>
				<button class="tool plain" disabled={page >= found.pages} onclick={() => (page += 1)}>Next</button>
			</div>
		{/if}
	{/if}
	{#snippet actions()}<button class="tool main" onclick={close}>{taken.length === 0 ? 'Close' : 'Review what was taken'}</button>{/snippet}
</Sheet>

<style>
	:global(.sheet:has(.wares)),
	:global(.sheet:has(.words)) {
		width: min(960px, 96vw);
	}
	.search,
	.take,
	.pages {
		display: flex;
		align-items: center;
		gap: 8px;
	}
	.words {
		display: flex;
		align-items: center;
		gap: 6px;
		color: var(--dim);
	}
	.words input {
		width: 240px;
	}
	.wares {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 8px;
	}
	li {
		display: flex;
		gap: 12px;
		padding: 8px;
		border: 1px solid var(--line);
		border-radius: 4px;
		background: var(--raised);
	}
	.none {
		grid-column: 1 / -1;
	}
	img {
		flex: none;
		width: 120px;
		height: 120px;
		object-fit: cover;
		border-radius: 3px;
		background: var(--well);
	}
	.about {
		min-width: 0;
		display: grid;
		gap: 2px;
		align-content: start;
		line-height: 18px;
	}
	h3 {
		font-size: 14px;
		font-weight: 600;
	}
	h3 span {
		font-weight: 400;
	}
	.licence {
		padding-left: 6px;
		border-left: 3px solid var(--line);
		font-size: 12px;
		line-height: 16px;
	}
	.told {
		padding-left: 6px;
		border-left: 3px solid var(--amber);
	}
	.take {
		margin-top: 4px;
	}
	.pages {
		justify-content: center;
	}
	.link {
		color: var(--accent);
	}
	.dim {
		color: var(--dim);
	}
</style>
