<script lang="ts">
	import { Upload as UploadIcon } from '@lucide/svelte';
	import { api, type MapInfo, type Project } from '../api/client';
	import ImportReview from '../parts/ImportReview.svelte';
	import TopBar from '../parts/TopBar.svelte';
	import Trouble from '../parts/Trouble.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { failed } from '../state/notices.svelte';
	import { Importing } from '../state/importing.svelte';

	let { project: slug }: { project: string } = $props();
	let project = $state<Project | null>(null);
	let trouble = $state<unknown>(null);
	let over = $state(false);
	let chooser = $state<HTMLInputElement>();
	// svelte-ignore state_referenced_locally
	const importing = new Importing(slug);

	async function load(): Promise<void> {
		trouble = null;
		try {
			[project] = await Promise.all([api.project(slug), catalogue.load()]);
		} catch (error) {
			trouble = error;
		}
	}
	$effect(() => void load());

	function drop(event: DragEvent): void {
		event.preventDefault();
		over = false;
		void importing.add([...(event.dataTransfer?.files ?? [])]);
	}

	async function change(map: MapInfo, what: { role?: MapInfo['role']; encoding?: MapInfo['encoding'] }): Promise<void> {
		try {
			await api.changeMap(map.id, what);
		} catch (error) {
			failed(`${map.file} was not changed`, error);
		}
		await load();
	}

	const size = (bytes: number): string => (bytes < 1048576 ? `${Math.round(bytes / 1024)} KiB` : `${(bytes / 1048576).toFixed(1)} MiB`);
	const label = (role: string): string => catalogue.value?.roles.find((r) => r.value === role)?.label ?? role;
</script>

<svelte:head><title>Maps · {project?.name ?? ''} · Rilta</title></svelte:head>
<TopBar project={slug} projectName={project?.name ?? ''} view="maps">
	<span class="gap"></span>
	<input bind:this={chooser} type="file" multiple accept="image/png,image/jpeg" hidden
		onchange={(e) => { void importing.add([...(e.currentTarget.files ?? [])]); e.currentTarget.value = ''; }} />
	<button class="tool main" onclick={() => chooser?.click()}><UploadIcon size={16} /> Import maps</button>
</TopBar>

<main class:over ondragover={(e) => { e.preventDefault(); over = true; }} ondragleave={() => (over = false)} ondrop={drop}
	aria-label="Map library; drop image files here">
	{#if importing.items.length > 0 || importing.refused.length > 0}
		<ImportReview {importing} finished={load} />
	{/if}
	{#if trouble !== null}
		<Trouble error={trouble} retry={load} />
	{:else if project === null}
		<p class="hint" aria-busy="true">Loading the library …</p>
	{:else}
		{#if project.sets.length === 0}
			<p class="hint">No maps yet. Drop the PNG or JPEG files of a map set anywhere on this page.</p>
		{/if}
		{#each project.sets as set (set.id)}
			<section aria-label="Map set {set.name}">
				<header>
					<h2>{set.name}</h2>
					<span class="figures">{set.maps[0]?.width} × {set.maps[0]?.height} px</span>
					<span class="figures">{set.extent} m</span>
					{#if set.maps.some((map) => map.findings.some((one) => one.grave))}<span class="told">{set.maps.flatMap((map) => map.findings).filter((one) => one.grave).length} to mend</span>{/if}
					<span class="figures dim">{Math.round((set.maps[0]?.width ?? 0) / set.extent)} px/m</span>
				</header>
				<div class="maps">
					{#each set.maps as map (map.id)}
						<figure>
							<img src={map.thumbnail} alt="{label(map.role)} of {set.name}" width="160" height="160" loading="lazy" />
							<figcaption>
								<div class="row">
									<select class="field" aria-label="Role of {map.file}" value={map.role}
										onchange={(e) => change(map, { role: e.currentTarget.value as MapInfo['role'] })}>
										{#each catalogue.value?.roles ?? [] as role (role.value)}<option value={role.value}>{role.label}</option>{/each}
									</select>
									<select class="field" aria-label="Encoding of {map.file}" value={map.encoding}
										onchange={(e) => change(map, { encoding: e.currentTarget.value as MapInfo['encoding'] })}>
										<option value="colour">Colour</option>
										<option value="data">Data</option>
									</select>
								</div>
								<span class="file" title={map.file}>{map.file}</span>
								<span class="figures dim">{size(map.bytes)} · edge seam {map.edgeSeam.toFixed(2)}</span>
								{#each map.findings as finding (finding.code)}
									<p class="finding" class:grave={finding.grave}>
										{finding.text}
										{#if finding.role !== null || finding.encoding !== null}
											<button class="tool fix" onclick={() => change(map, { ...(finding.role !== null && { role: finding.role }), ...(finding.encoding !== null && { encoding: finding.encoding }) })}>
												{finding.role === null ? `Read as ${finding.encoding}` : `Make it ${label(finding.role).toLowerCase()}`}
											</button>
										{/if}
									</p>
								{/each}
							</figcaption>
						</figure>
					{/each}
				</div>
			</section>
		{/each}
		<p class="hint">Drop more files anywhere on this page. An edge seam near 1 means that the map repeats without a visible border.</p>
	{/if}
</main>

<style>
	main {
		height: calc(100% - 44px);
		overflow: auto;
		padding: 24px;
		border: 2px solid transparent;
	}
	main.over {
		border-color: var(--accent);
		background: var(--accent-soft);
	}
	.gap {
		flex: 1;
	}
	section {
		max-width: 1640px;
		margin: 0 auto 24px;
	}
	header {
		display: flex;
		align-items: baseline;
		gap: 16px;
		padding-bottom: 8px;
	}
	h2 {
		font-size: 15px;
		font-weight: 600;
	}
	.maps {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
		gap: 12px;
	}
	figure {
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 4px;
		overflow: hidden;
		margin: 0;
	}
	img {
		width: 100%;
		aspect-ratio: 16 / 10;
		object-fit: cover;
		display: block;
	}
	figcaption {
		display: grid;
		gap: 4px;
		padding: 8px;
	}
	.row {
		display: flex;
		gap: 4px;
	}
	.row select {
		min-width: 0;
		flex: 1;
	}
	.row select:last-child {
		flex: 0 0 100px;
	}
	.file {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.finding {
		padding: 4px 8px;
		border-left: 3px solid var(--amber);
		background: var(--well);
		font-size: 12px;
		line-height: 16px;
	}
	.grave {
		border-left-color: var(--brick);
	}
	.fix {
		display: block;
		height: 24px;
		margin-top: 4px;
	}
	.told {
		color: var(--brick);
		font-weight: 600;
	}
	.dim,
	.hint {
		color: var(--dim);
	}
	.hint {
		max-width: 1640px;
		margin: 8px auto;
	}
</style>
