<script lang="ts">
	import { RotateCcw, Trash2, X } from '@lucide/svelte';
	import { api, type Encoding, type Fix, type MapInfo, type MapSet, type Role, type Sampling, type Task } from '../api/client';
	import { channelNames } from '../maps/texels';
	import { catalogue } from '../state/catalogue.svelte';
	import { failed } from '../state/notices.svelte';
	import { works } from '../state/works.svelte';
	import MapViewer from './MapViewer.svelte';

	let { map, set, sets, changed, removed, close }: {
		map: MapInfo;
		set: MapSet;
		sets: MapSet[];
		changed: (set: MapSet) => void;
		removed: (map: MapInfo) => void;
		close: () => void;
	} = $props();

	let busy = $state('');
	const roles = $derived(catalogue.value?.roles ?? []);
	const label = (role: string): string => roles.find((one) => one.value === role)?.label ?? role;
	const scalar = $derived(roles.find((one) => one.value === map.role)?.scalar ?? false);
	const words = $derived(catalogue.value?.sampling);
	const fixes = $derived(catalogue.value?.fixes ?? []);
	const makes = $derived(set.ways.filter((way) => way.from === map.role));
	const size = (bytes: number): string => (bytes < 1048576 ? `${Math.round(bytes / 1024)} KiB` : `${(bytes / 1048576).toFixed(1)} MiB`);

	async function act(what: string, how: () => Promise<MapSet>): Promise<void> {
		busy = what;
		try {
			changed(await how());
		} catch (error) {
			failed(`${what}: nothing was changed`, error);
		} finally {
			busy = '';
		}
	}
	const made = (request: Promise<MapSet | Task>): Promise<MapSet> => works.settle(request, (task) => api.set(task.set));
	const fix = (value: Fix): Promise<void> => act(fixes.find((one) => one.value === value)?.label ?? value, () => made(api.fixMap(map.id, value)));
	const change = (what: { role?: Role; encoding?: Encoding; inverted?: boolean; sampling?: Partial<Sampling> }): Promise<void> => act(map.file, () => api.changeMap(map.id, what));
</script>

<aside aria-label="Map {map.name}">
	<header>
		<h2 title={map.file}>{map.name}</h2>
		<span class="gap"></span>
		<button class="tool" title="Take it out of the library; it can be brought back" aria-label="Delete {map.name}" onclick={() => removed(map)}><Trash2 size={14} /></button>
		<button class="tool" aria-label="Close" onclick={close}><X size={14} /></button>
	</header>
	<MapViewer {map} others={sets.flatMap((one) => one.maps).filter((one) => one.id !== map.id)} />

	{#if map.findings.length > 0 || map.failure !== ''}
		<section aria-label="Findings">
			{#if map.failure !== ''}<div class="finding grave"><p>Its levels and small picture could not be prepared, and are made anew whenever somebody needs them: {map.failure}</p></div>{/if}
			{#each map.findings as finding (finding.code)}
				<div class="finding" class:grave={finding.grave}>
					<p>{finding.text}</p>
					{#if finding.role !== null || finding.encoding !== null}
						<button class="tool plain" disabled={busy !== ''} onclick={() => change({ ...(finding.role !== null && { role: finding.role }), ...(finding.encoding !== null && { encoding: finding.encoding }) })}>
							{finding.role === null ? `Read as ${finding.encoding}` : `Make it ${label(finding.role).toLowerCase()}`}
						</button>
					{/if}
					{#if finding.code === 'smoothness'}<button class="tool plain" disabled={busy !== ''} onclick={() => change({ inverted: !map.inverted })}>Read as {map.inverted ? 'roughness' : 'smoothness'}</button>{/if}
					{#each finding.fixes as one (one)}
						<button class="tool plain" disabled={busy !== ''} title={fixes.find((f) => f.value === one)?.help} onclick={() => fix(one)}>{fixes.find((f) => f.value === one)?.label}</button>
					{/each}
				</div>
			{/each}
		</section>
	{/if}

	<dl>
		<dt>Role</dt>
		<dd>
			{#if map.role === 'packed'}
				Packed
			{:else}
				<select class="field" aria-label="Role of {map.file}" value={map.role} disabled={busy !== ''} onchange={(e) => change({ role: e.currentTarget.value as Role })}>
					{#each roles.filter((one) => one.value !== 'packed') as role (role.value)}<option value={role.value}>{role.label}</option>{/each}
				</select>
			{/if}
		</dd>
		{#if map.role === 'packed'}
			<dt>Channels</dt>
			<dd>
				{#each map.channels as one (one.channels)}<div><span class="figures">{channelNames(one.channels)}</span> {one.inverted && one.role === 'roughness' ? 'Smoothness' : label(one.role)}{one.inverted && one.role !== 'roughness' ? ', inverted' : ''}</div>{/each}
				<button class="tool plain" disabled={busy !== ''} onclick={() => act('Unpack', () => made(api.unpackMap(map.id)))}>Unpack</button>
			</dd>
		{/if}
		<dt>Encoding</dt>
		<dd>
			<select class="field" aria-label="Encoding of {map.file}" value={map.encoding} disabled={busy !== ''} onchange={(e) => change({ encoding: e.currentTarget.value as Encoding })}>
				<option value="colour">Colour</option>
				<option value="data">Data</option>
			</select>
		</dd>
		{#if scalar}
			<dt>Says</dt>
			<dd><label><input type="checkbox" checked={map.inverted} disabled={busy !== ''} onchange={(e) => change({ inverted: e.currentTarget.checked })} /> the opposite{map.role === 'roughness' ? ': smoothness' : ''}</label></dd>
		{/if}
		<dt>Pixels</dt>
		<dd class="figures">{map.width} × {map.height} · {map.bits} bit{map.alpha ? ' · alpha' : ''} · {Math.round(map.width / set.extent)} px/m</dd>
		<dt>File</dt>
		<dd><span class="file" title={map.file}>{map.file}</span> <span class="figures dim">{size(map.bytes)}</span></dd>
		<dt>Edge seam</dt>
		<dd class="figures">{map.edgeSeam.toFixed(2)}</dd>
		<dt>Used by</dt>
		<dd>
			{#each set.uses as use, i (use.id)}{i > 0 ? ', ' : ''}<a href="materials/{use.id}">{use.name}</a>{:else}<span class="dim">no material</span>{/each}
		</dd>
	</dl>

	<section aria-label="Sampling">
		<h3 class="heading">Sampling</h3>
		<div class="sampling">
			<label>Between texels
				<select class="field" value={map.sampling.filter} disabled={busy !== ''} onchange={(e) => change({ sampling: { filter: e.currentTarget.value as Sampling['filter'] } })}>
					{#each words?.filters ?? [] as one (one.value)}<option value={one.value}>{one.label}</option>{/each}
				</select>
			</label>
			<label>Slanted views
				<select class="field" value={String(map.sampling.anisotropy)} disabled={busy !== ''} title="The most reads along a slanted view, on the stage and in engines; a bake looks straight at the surface"
					onchange={(e) => change({ sampling: { anisotropy: Number(e.currentTarget.value) as Sampling['anisotropy'] } })}>
					{#each words?.anisotropies ?? [] as one (one)}<option value={String(one)}>{one === 1 ? 'One read' : `Up to ${one} reads`}</option>{/each}
				</select>
			</label>
			{#each [['wrapU', 'Beyond, across'], ['wrapV', 'Beyond, down']] as const as [name, says] (name)}
				<label>{says}
					<select class="field" value={map.sampling[name]} disabled={busy !== ''} onchange={(e) => change({ sampling: { [name]: e.currentTarget.value as Sampling['wrapU'] } })}>
						{#each words?.wraps ?? [] as one (one.value)}<option value={one.value}>{one.label}</option>{/each}
					</select>
				</label>
			{/each}
			<label class="wide"><input type="checkbox" checked={map.sampling.mips} disabled={busy !== ''} onchange={(e) => change({ sampling: { mips: e.currentTarget.checked } })} /> Smaller levels in the distance</label>
		</div>
	</section>
	<section aria-label="Do something about it">
		<h3 class="heading">Mend</h3>
		<div class="fixes">
			{#each fixes.filter((one) => one.value !== 'flip-green' || map.role === 'normal') as one (one.value)}
				<button class="tool plain" disabled={busy !== ''} title={one.help} onclick={() => fix(one.value)}>{one.label}</button>
			{/each}
		</div>
		{#if busy !== ''}<p class="dim" aria-busy="true">{busy} …</p>{/if}
	</section>
	{#if makes.length > 0}
		<section aria-label="Make from it">
			<h3 class="heading">Make from it</h3>
			<div class="fixes">
				{#each makes as way (way.role)}
					<button class="tool plain" disabled={busy !== ''} title={way.role === 'roughness' ? 'What is lighter becomes smoother' : 'From the slopes of the height, for a relief of a fiftieth of the extent'}
						onclick={() => act(label(way.role), () => made(api.fillSet(set.id, way)))}>{label(way.role)}</button>
				{/each}
			</div>
		</section>
	{/if}
	<section aria-label="Versions">
		<h3 class="heading">Versions</h3>
		<ol>
			<li><span class="figures">{map.number}</span> {map.made === '' ? `imported, ${map.file}` : map.made} <span class="dim">current</span></li>
			{#each [...map.versions].reverse() as version (version.number)}
				<li>
					<span class="figures">{version.number}</span> {version.made === '' ? `imported, ${version.file}` : version.made}
					<span class="figures dim">{version.width} × {version.height}</span>
					<button class="tool plain" disabled={busy !== ''} aria-label="Restore version {version.number}" title="Make it the current version" onclick={() => act('Restore', () => api.restoreMap(map.id, version.number))}><RotateCcw size={13} /></button>
				</li>
			{/each}
		</ol>
	</section>
</aside>

<style>
	aside {
		width: 460px;
		flex: none;
		overflow: auto;
		padding: 16px;
		background: var(--panel);
		border-left: 1px solid var(--line);
		display: grid;
		gap: 16px;
		align-content: start;
	}
	header {
		display: flex;
		align-items: center;
		gap: 4px;
	}
	h2 {
		font-size: 15px;
		font-weight: 600;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	h3 {
		margin-bottom: 4px;
	}
	.gap {
		flex: 1;
	}
	section {
		display: grid;
		gap: 4px;
	}
	.finding {
		padding: 6px 8px;
		border-left: 3px solid var(--amber);
		background: var(--well);
		line-height: 18px;
	}
	.finding.grave {
		border-left-color: var(--brick);
	}
	.finding .tool {
		margin: 4px 4px 0 0;
	}
	dl {
		display: grid;
		grid-template-columns: 76px 1fr;
		gap: 6px 12px;
		align-items: center;
	}
	dt {
		color: var(--dim);
	}
	dd {
		min-width: 0;
		overflow-wrap: anywhere;
	}
	dd input {
		accent-color: var(--accent);
	}
	.sampling {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 6px 12px;
	}
	.sampling label {
		display: grid;
		gap: 2px;
		color: var(--dim);
	}
	.sampling .wide {
		grid-column: 1 / -1;
		display: flex;
		gap: 6px;
		color: inherit;
	}
	.sampling input {
		accent-color: var(--accent);
	}
	.fixes {
		display: flex;
		flex-wrap: wrap;
		gap: 4px;
	}
	ol {
		display: grid;
		gap: 4px;
	}
	li {
		display: flex;
		gap: 8px;
		align-items: center;
		min-height: 28px;
	}
	a {
		color: var(--accent);
	}
	.dim {
		color: var(--dim);
	}
</style>
