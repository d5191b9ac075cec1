<script lang="ts">
	import { X } from '@lucide/svelte';
	import type { Encoding, SetCard, Role } from '../api/client';
	import { channelNames } from '../maps/texels';
	import { catalogue } from '../state/catalogue.svelte';
	import { commands } from '../state/commands.svelte';
	import type { Importing } from '../state/importing.svelte';
	import { done, failed } from '../state/notices.svelte';

	let { importing, sets, finished, stage }: { importing: Importing; sets: SetCard[]; finished: () => void; stage: (set: string) => void } = $props();
	const sending = $derived(importing.items.filter((item) => item.state !== 'ready').length);
	const roles = $derived(catalogue.value?.roles ?? []);
	const label = (role: string): string => roles.find((one) => one.value === role)?.label ?? role;

	// A set that is there already keeps its extent, unless another is entered.
	$effect(() => {
		for (const set of importing.sets) importing.extents[set] ??= sets.find((one) => one.name === set)?.extent ?? 1;
	});

	// Names that are being typed settle first.
	$effect(() => {
		void importing.sets.join('/');
		const timer = window.setTimeout(() => void importing.group(), 300);
		return () => clearTimeout(timer);
	});

	async function keep(then: (sets: string[]) => void): Promise<void> {
		try {
			then(await importing.keep());
		} catch (error) {
			failed('Nothing was imported', error);
		}
	}
	function tell(sets: string[]): void {
		if (sets.length > 0) done('Imported', sets.join(', '));
		finished();
	}
	const keepable = $derived(!importing.busy && sending === 0 && importing.ready.length > 0);
	const counted = $derived(`Keep ${importing.ready.length} ${importing.ready.length === 1 ? 'map' : 'maps'}`);
	const discard = $derived(sending > 0 ? 'Cancel' : 'Discard');
	$effect(() => commands.offer('import review', () => [
		{ group: 'Import', label: counted, can: keepable, run: () => void keep(tell) },
		{ group: 'Import', label: discard, run: () => importing.clear() }
	]));
</script>

<section aria-label="Import review">
	<header>
		<h2>{sending > 0 ? `Looking at ${sending} more …` : 'Check before keeping'}</h2>
		<span class="dim">{sending > 0 ? '' : 'Nothing is in the library yet. Everything here can be corrected.'}</span>
		<span class="gap"></span>
		<button class="tool plain" onclick={() => importing.clear()}>{discard}</button>
		{#if importing.sets.length === 1}
			<button class="tool plain" title="Keep them, and see a new material on them" onclick={() => keep((sets) => (sets[0] === undefined ? tell(sets) : stage(sets[0])))} disabled={!keepable}>Keep, then to the stage</button>
		{/if}
		<button class="tool main" onclick={() => keep(tell)} disabled={!keepable}>
			{importing.busy ? 'Keeping …' : counted}
		</button>
	</header>
	{#if importing.items.length > 0}
		<div class="scroll">
		<table>
			<thead><tr><th>File</th><th>Set</th><th>Role</th><th>Encoding</th><th>Image</th><th>Guessed from</th><th>Findings</th><th></th></tr></thead>
			<tbody>
				{#each importing.items as item (item.key)}
					<tr>
						<td class="file" title={item.file}>{#if item.state === 'ready' && item.picture !== null}<img src={item.picture} alt="" width="36" height="36" />{/if}{item.file}</td>
						{#if item.state === 'ready'}
							<td><input class="field" aria-label="Set of {item.file}" bind:value={item.set} maxlength="80" /></td>
							<td>
								<select class="field" aria-label="Role of {item.file}" value={item.role} onchange={(e) => importing.role(item, e.currentTarget.value as Role)}>
									{#each roles.filter((one) => one.value !== 'packed' || item.channels.length > 0) as role (role.value)}<option value={role.value}>{role.label}</option>{/each}
								</select>
								{#if item.role === 'packed'}
									<div class="small">{#each item.channels as one, i (one.channels)}{i > 0 ? ', ' : ''}<span class="figures">{channelNames(one.channels)}</span> {one.inverted ? 'smoothness' : label(one.role).toLowerCase()}{/each}</div>
								{:else if roles.find((one) => one.value === item.role)?.scalar === true}
									<label class="small"><input type="checkbox" bind:checked={item.inverted} aria-label="{item.file} says the opposite" /> {item.role === 'roughness' ? 'smoothness' : 'inverted'}</label>
								{/if}
							</td>
							<td>
								<select class="field" aria-label="Encoding of {item.file}" value={item.encoding} onchange={(e) => importing.encoding(item, e.currentTarget.value as Encoding)}>
									<option value="colour">Colour</option>
									<option value="data">Data</option>
								</select>
							</td>
							<td class="figures image">{item.width} × {item.height}<div class="small">{item.bits} bit{item.alpha ? ', alpha' : ''}</div></td>
							<td class="dim">{item.reason}</td>
							<td class="findings">
								{#if importing.clash(item)}<p class="grave">Another file is the {label(item.role).toLowerCase()} of {item.set} as well.</p>{/if}
								{#each item.known as name (name)}<p>In the library already, as {name}. <button class="link" onclick={() => importing.drop(item.key)} aria-label="Use {name} instead of {item.file}">Use that one</button></p>{/each}
								{#each item.findings as finding (finding.code)}<p class:grave={finding.grave}>{finding.text}</p>{/each}
							</td>
						{:else}
							<td colspan="6" class="dim">
								{#if item.state === 'sending'}
									<progress max="1" value={item.sent} aria-label="{item.file}: share sent"></progress> {item.sent < 1 ? `Sending, ${Math.round(item.sent * 100)} %` : 'Taking its measure …'}
								{:else}Waiting{/if}
							</td>
						{/if}
						<td><button class="tool" aria-label="Leave out {item.file}" title="Leave out" onclick={() => importing.drop(item.key)}><X size={14} /></button></td>
					</tr>
				{/each}
			</tbody>
		</table>
		</div>
		<div class="extents">
			{#each importing.sets as set (set)}
				<label>One repeat of <strong>{set}</strong> covers
					<input class="field figures" type="number" min="0.001" max="10000" step="any" bind:value={importing.extents[set]} aria-label="Extent of {set} in metres" /> m
					{#if sets.length > 0}
						<select class="field" aria-label="As large as" value="" onchange={(e) => { const other = sets.find((one) => one.name === e.currentTarget.value); if (other !== undefined) importing.extents[set] = other.extent; e.currentTarget.value = ''; }}>
							<option value="">as large as …</option>
							{#each sets as other (other.id)}<option value={other.name}>{other.name}, {other.extent} m</option>{/each}
						</select>
					{/if}
				</label>
			{/each}
		</div>
	{/if}
	{#if importing.families.length > 0}
		<ul class="families" aria-label="Alternates">
			{#each importing.families as family (family.name)}
				<li><label><input type="checkbox" bind:checked={family.wanted} /> <span>{family.sets.join(', ')} look like alternates: keep them as the family <strong>{family.name}</strong></span></label></li>
			{/each}
		</ul>
	{/if}
	{#if importing.refused.length > 0}
		<ul aria-label="Refused files">
			{#each importing.refused as one, i (i)}<li><strong>Refused.</strong> {one.reason}</li>{/each}
		</ul>
	{/if}
</section>

<style>
	section {
		max-width: 1640px;
		margin: 0 auto 24px;
		padding: 16px;
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 4px;
	}
	header {
		display: flex;
		gap: 8px;
		align-items: center;
		margin-bottom: 8px;
	}
	h2 {
		font-size: 15px;
		font-weight: 600;
	}
	.gap {
		flex: 1;
	}
	.scroll {
		overflow-x: auto;
	}
	table {
		width: 100%;
		border-collapse: collapse;
	}
	th {
		text-align: left;
		font-size: 11px;
		font-weight: 600;
		color: var(--dim);
		padding: 4px;
	}
	td {
		padding: 4px;
		border-top: 1px solid var(--line);
		vertical-align: top;
	}
	.file {
		min-width: 190px;
		max-width: 220px;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
		line-height: 28px;
	}
	td input.field {
		min-width: 110px;
		width: 100%;
	}
	.image {
		white-space: nowrap;
	}
	.file img {
		display: inline-block;
		vertical-align: top;
		margin-right: 8px;
		border: 1px solid var(--line);
		border-radius: 2px;
		background: repeating-conic-gradient(var(--line) 0 25%, var(--well) 0 50%) 0 0 / 12px 12px;
	}
	.small {
		font-size: 12px;
		line-height: 16px;
		color: var(--dim);
		display: block;
		padding-top: 2px;
	}
	.findings {
		min-width: 200px;
	}
	.link {
		min-height: 24px;
		color: var(--accent);
	}
	.findings p {
		font-size: 12px;
		line-height: 16px;
		padding-left: 8px;
		border-left: 3px solid var(--amber);
		margin-bottom: 4px;
	}
	.findings p.grave {
		border-left-color: var(--brick);
	}
	progress {
		width: 160px;
		accent-color: var(--accent);
	}
	input[type='checkbox'] {
		accent-color: var(--accent);
	}
	.dim {
		color: var(--dim);
	}
	.extents {
		display: flex;
		flex-wrap: wrap;
		gap: 16px;
		margin-top: 12px;
	}
	.extents input {
		width: 72px;
	}
	ul {
		margin-top: 12px;
	}
	li {
		color: var(--brick);
	}
</style>
