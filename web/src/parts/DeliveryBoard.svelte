<script lang="ts">
	import { Download, RotateCcw, Trash2, X } from '@lucide/svelte';
	import type { Snippet } from 'svelte';
	import type { Delivery, Variant } from '../api/client';
	import { away, weight, taken } from '../state/delivered';
	import type { Deliveries } from '../state/deliveries.svelte';
	import DeliveredPicture from './DeliveredPicture.svelte';

	/** What was delivered of the material: the latest first, its files, and each picture by its parts. */
	let { deliveries, variants, show, lead }: {
		deliveries: Deliveries;
		variants: Variant[];
		/** Has the stage show a channel, by its name. */
		show: (channel: string) => void;
		/** What stands in front. */
		lead: Snippet;
	} = $props();

	const chosen = $derived(deliveries.chosen);
	const shown = $derived(deliveries.shown);
	const day = (iso: string): string => new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));
	const variant = (one: Delivery): string => (one.variant === '' ? '' : ` · ${variants.find((other) => other.id === one.variant)?.name ?? one.variant}`);
	function state(one: Delivery): string {
		if (one.state === 'done') return `${one.unchanged ? 'unchanged since then' : weight(taken(one.files).disk)}${one.approvedBy === '' ? '' : `, approved by ${one.approvedBy}`}`;
		return one.state === 'failed' ? 'failed' : one.all === 0 ? 'waiting' : `${one.done} of ${one.all} regions`;
	}
</script>

<section class="board" aria-label="Deliveries">
	<div class="bar">{@render lead()}</div>
	<div class="parts">
		<ol aria-label="Deliveries of this material">
			{#each deliveries.list ?? [] as one (one.id)}
				<li class:chosen={one === chosen}>
					<button class="entry" aria-pressed={one === chosen} onclick={() => deliveries.look(one)}>
						<span class="name">{one.name}</span>
						<span class="dim">{one.profileLabel}{variant(one)}</span>
						<span class="dim">{day(one.asked)} · <span class:brick={one.state === 'failed'}>{state(one)}</span></span>
						{#if one.state === 'waiting'}<progress max={Math.max(1, one.all)} value={one.all === 0 ? undefined : one.done} aria-label="Progress of {one.name}"></progress>{/if}
					</button>
					<span class="acts">
						{#if one.state === 'waiting'}<button class="tool mini" aria-label="Cancel {one.name}" title="Cancel" onclick={() => void deliveries.cancel(one)}><X size={14} /></button>
						{:else}
							{#if one.archive !== null}<a class="tool mini" aria-label="{one.name} as a ZIP" title="All files as a ZIP" href={one.archive} target="_self" download><Download size={14} /></a>{/if}
							{#if one.state === 'failed'}<button class="tool mini" aria-label="Try {one.name} again" title="Try again" onclick={() => void deliveries.retry(one)}><RotateCcw size={14} /></button>{/if}
							<button class="tool mini" aria-label="Throw {one.name} away" title="Throw away" onclick={() => void deliveries.remove(one)}><Trash2 size={14} /></button>
						{/if}
					</span>
				</li>
			{:else}
				<li class="none">{deliveries.trouble !== '' ? deliveries.trouble : deliveries.list === null ? 'Looking …' : 'Nothing of this material was delivered yet. Choose a profile on the left, and deliver it: the files come here, and each later delivery beside those before it.'}</li>
			{/each}
		</ol>
		<div class="files">
			{#if chosen?.state === 'failed'}<p class="brick" role="alert">{chosen.failure}</p>
			{:else if chosen !== null && chosen.files.length > 0}
				<table class="listing">
					<thead><tr><th scope="col">File</th><th scope="col" class="right">On disk</th><th scope="col" class="right" title="With all mip levels, as a device keeps it">In memory</th><th scope="col" class="right" title="How far what is read from it is from the material, in steps of 1/255: in the mean, and what 95 of 100 values stay within. It is read halfway between its texels, where it is off the most.">Off, of 255</th><th></th></tr></thead>
					<tbody>
						{#each chosen.files as file (file.path)}
							<tr class:chosen={file === shown}>
								<th scope="row" title={file.meaning}>{#if file.picture === undefined}{file.path}{:else}<button class="link" aria-pressed={file === shown} onclick={() => deliveries.look(chosen, file.path)}>{file.path}</button>{/if}</th>
								<td>{weight(file.bytes)}</td>
								<td>{file.picture === undefined ? '' : weight(file.picture.memory)}</td>
								<td>{file.picture?.off === undefined ? '' : away(file.picture.off)}</td>
								<td><a class="tool mini" aria-label="Save {file.path}" title="Save it" href={file.url} target="_self" download><Download size={12} /></a></td>
							</tr>
						{/each}
					</tbody>
				</table>
			{/if}
		</div>
		{#if shown?.picture !== undefined}{#key shown.url}<DeliveredPicture file={shown} {show} />{/key}{/if}
	</div>
</section>

<style>
	.parts {
		display: grid;
		grid-template-columns: 300px minmax(0, 1fr) auto;
		gap: 12px;
		min-height: 0;
		flex: 1;
	}
	ol {
		display: flex;
		flex-direction: column;
		gap: 2px;
		overflow-y: auto;
		font-size: 12px;
	}
	li {
		position: relative;
		flex: none;
		border-radius: 3px;
	}
	li.chosen,
	tr.chosen {
		background: var(--accent-soft);
	}
	.entry {
		display: grid;
		width: 100%;
		padding: 4px 64px 4px 8px;
		text-align: left;
		line-height: 16px;
	}
	.name {
		font-size: 13px;
		overflow-wrap: anywhere;
	}
	.dim,
	.none {
		color: var(--dim);
	}
	.none {
		padding: 8px;
		line-height: 16px;
	}
	.brick {
		color: var(--brick);
	}
	.acts {
		position: absolute;
		top: 4px;
		right: 4px;
		display: flex;
	}
	.mini {
		width: 24px;
		height: 24px;
		padding: 0;
	}
	progress {
		width: 100%;
		height: 4px;
	}
	.files {
		overflow-y: auto;
		font-size: 12px;
	}
	tbody th {
		font-weight: 400;
		text-align: left;
		overflow-wrap: anywhere;
	}
	.link {
		color: var(--accent);
		text-align: left;
	}
</style>
