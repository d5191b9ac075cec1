<script lang="ts">
	import { untrack } from 'svelte';
	import { SvelteMap } from 'svelte/reactivity';
	import { Box, Combine, FolderOpen, Grid2x2, Search, Store, Trash2, Upload as UploadIcon, X } from '@lucide/svelte';
	import { api, type MapInfo, type MapSet, type Project, type Way } from '../api/client';
	import { answers } from '../maps/texels';
	import CutEditor from '../parts/CutEditor.svelte';
	import Families from '../parts/Families.svelte';
	import ImportReview from '../parts/ImportReview.svelte';
	import MapInspector from '../parts/MapInspector.svelte';
	import MapBin from '../parts/MapBin.svelte';
	import PackBoard from '../parts/PackBoard.svelte';
	import Sheet from '../parts/Sheet.svelte';
	import Recipes from '../parts/Recipes.svelte';
	import SupplierSheet from '../parts/SupplierSheet.svelte';
	import TopBar from '../parts/TopBar.svelte';
	import Trouble from '../parts/Trouble.svelte';
	import { account } from '../state/account.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { commands } from '../state/commands.svelte';
	import { done, failed, offered } from '../state/notices.svelte';
	import { stageRenderer } from '../stage/renderer';
	import { dropped, Importing } from '../state/importing.svelte';
	import { insisting } from '../state/pictures';
	import { router } from '../state/route.svelte';
	import { works } from '../state/works.svelte';

	const address: { project: string } = $props();
	// What it was opened for stays what it is while the view is taken down.
	// svelte-ignore state_referenced_locally
	const { project: slug } = address;
	let project = $state<Project | null>(null);
	let trouble = $state<unknown>(null);
	let over = $state(false);
	let chooser = $state<HTMLInputElement>();
	let folders = $state<HTMLInputElement>();
	let words = $state('');
	let faulty = $state(false);
	let chosen = $state<number | null>(null);
	let packing = $state<MapSet | null>(null);
	let shopping = $state(false);
	let cutting = $state<MapSet | null>(null);
	let leaving = $state<{ map: MapInfo; set: MapSet } | null>(null);
	const importing = new Importing(slug);

	let sets = $state<MapSet[]>([]);
	let total = $state(0);
	let page = $state(0);
	let pages = $state(1);
	let loading = $state(false);
	let asked = 0;
	/** Milliseconds after the last key. */
	const PAUSE = 200;

	async function load(): Promise<void> {
		trouble = null;
		try {
			[project] = await Promise.all([api.project(slug), catalogue.load(), again()]);
		} catch (error) {
			trouble = error;
		}
	}
	/** The pages that are there, as the server has them now. */
	async function again(): Promise<void> {
		const mine = ++asked;
		const wanted = Array.from({ length: Math.max(1, page) }, (_, i) => api.sets(slug, words.trim(), faulty, i + 1));
		const found = await Promise.all(wanted);
		if (mine !== asked) return;
		sets = found.flatMap((one) => one.sets);
		[total, pages] = [found.at(-1)!.total, found.at(-1)!.pages];
		page = Math.max(1, Math.min(page, pages));
	}
	async function more(): Promise<void> {
		if (loading || page >= pages) return;
		loading = true;
		const mine = asked;
		try {
			const next = await api.sets(slug, words.trim(), faulty, page + 1);
			if (mine === asked) {
				sets = [...sets, ...next.sets.filter((set) => !sets.some((one) => one.id === set.id))];
				[page, total, pages] = [next.page, next.total, next.pages];
			}
		} catch (error) {
			failed('The rest of the library did not come', error);
		} finally {
			loading = false;
		}
	}
	$effect(() => void untrack(load));
	// While maps are looked at and reviewed there is time to make the stage they are wanted for.
	$effect(() => { if (importing.items.length > 0) stageRenderer(); });
	let searched = false;
	$effect(() => {
		void [words, faulty];
		if (!searched) {
			searched = true;
			return;
		}
		const timer = window.setTimeout(() => { page = 0; again().catch((error: unknown) => (trouble = error)); }, PAUSE);
		return () => clearTimeout(timer);
	});
	/** The next page comes before its place is reached. */
	function watched(element: HTMLElement): () => void {
		const observer = new IntersectionObserver((seen) => { if (seen.some((one) => one.isIntersecting)) void more(); }, { rootMargin: '600px' });
		observer.observe(element);
		return () => observer.disconnect();
	}
	/** Sets that are on the screen, or nearly. */
	const near = new Set<number>();
	function noticed(id: number): (element: HTMLElement) => () => void {
		return (element) => {
			const observer = new IntersectionObserver((seen) => { if (seen.at(-1)!.isIntersecting) near.add(id); else near.delete(id); }, { rootMargin: '200px' });
			observer.observe(element);
			return () => { observer.disconnect(); near.delete(id); };
		};
	}
	const unprepared = (map: MapInfo): boolean => !map.derived && map.failure === '';
	// Workers make mip levels and small pictures; only the sets that somebody sees are asked about, however many there are.
	$effect(() => {
		const waiting = sets.filter((set) => set.maps.some(unprepared)).map((set) => set.id);
		if (waiting.length === 0) return;
		const timer = window.setInterval(() => {
			for (const id of waiting.filter((one) => near.has(one))) {
				api.set(id).then((set) => { if (set.maps.filter(unprepared).length !== sets.find((one) => one.id === id)?.maps.filter(unprepared).length) replace(set); }).catch(() => {});
			}
		}, 1500);
		return () => clearInterval(timer);
	});

	async function drop(event: DragEvent): Promise<void> {
		event.preventDefault();
		over = false;
		if (event.dataTransfer !== null && event.dataTransfer.types.includes('Files')) await importing.add(await dropped(event.dataTransfer));
	}

	/** A set as the server has it now. */
	function replace(set: MapSet): void {
		const rest = sets.filter((one) => one.id !== set.id);
		sets = [...rest, set].sort((a, b) => (a.name < b.name ? -1 : 1));
	}
	async function fill(set: MapSet, way: Way): Promise<void> {
		try {
			replace(await works.settle<MapSet>(api.fillSet(set.id, way), (task) => api.set(task.set)));
		} catch (error) {
			failed('Nothing was made', error);
		}
	}
	/** Another extent, in metres; what cannot be one is told and put back. */
	async function resize(set: MapSet, input: HTMLInputElement, metres: (entered: number) => number): Promise<void> {
		const map = set.maps[0];
		if (map === undefined) return;
		try {
			replace(await api.changeMap(map.id, { extent: Number(metres(Number(input.value)).toPrecision(6)) }));
		} catch (error) {
			failed(`${set.name} keeps its extent`, error);
			input.value = input.defaultValue;
		}
	}
	async function remove(map: MapInfo): Promise<void> {
		leaving = null;
		try {
			await api.deleteMap(map.id);
			if (chosen === map.id) chosen = null;
			await load();
			offered(`${map.name} was taken out`, 'Bring it back', async () => replace(await api.bringBackMap(map.id)));
		} catch (error) {
			failed(`${map.name} was not deleted`, error);
		}
	}
	/** A new material that reads the set, named after it, on the stage. */
	async function stage(set: string): Promise<void> {
		try {
			const words = set.replace(/[-_]+/g, ' ').trim();
			const material = await api.startMaterial(slug, words.charAt(0).toUpperCase() + words.slice(1), set);
			router.go(`/${slug}/materials/${material.id}`);
		} catch (error) {
			failed('The material could not be made', error);
			void load();
		}
	}
	let binning = $state(false);
	const mib = (bytes: number): string => Math.round(bytes / 1048576).toLocaleString('en');
	function ask(map: MapInfo, set: MapSet): void {
		if (set.uses.length === 0) void remove(map);
		else leaving = { map, set };
	}

	const label = (role: string): string => catalogue.value?.roles.find((r) => r.value === role)?.label ?? role;
	const familiesOf = (set: string): string => (project?.families ?? []).filter((family) => family.sets.includes(set)).map((family) => family.name).join(' ');
	/** Of the sets that the server found, the maps that answer themselves; where none does, all: the set as a whole is meant. */
	const shown = $derived(
		sets.map((set) => {
			const maps = set.maps.filter((map) => answers(map, words.trim(), `${familiesOf(set.name)} ${set.tags.join(' ')}`) && (!faulty || map.findings.length > 0));
			return { set, maps: maps.length > 0 ? maps : set.maps };
		})
	);
	/** Tags that are not stored yet, by their set: seen at once, so that who types two, one after the other, does not wait for the first. */
	const typed = new SvelteMap<number, string[]>();
	let tagging: Promise<MapSet | null> = Promise.resolve(null);
	async function tag(set: MapSet, tags: string[]): Promise<void> {
		typed.set(set.id, tags);
		tagging = tagging.catch(() => null).then(() => api.tagSet(set.id, tags));
		try {
			replace((await tagging) ?? set);
			if (typed.get(set.id) === tags) typed.delete(set.id);
		} catch (error) {
			typed.delete(set.id);
			failed(`The tags of ${set.name} stay`, error);
		}
	}
	$effect(() => commands.offer('maps', () => [
		{ group: 'Maps', label: 'Import maps', can: account.may('write'), run: () => chooser?.click() },
		{ group: 'Maps', label: 'Import a folder', can: account.may('write'), run: () => folders?.click() },
		{ group: 'Maps', label: 'Supplier', run: () => (shopping = true) },
		{ group: 'Maps', label: 'Search maps', lands: '.search .field', run: () => undefined },
		{ group: 'Maps', label: faulty ? 'All maps' : 'Maps with findings', run: () => (faulty = !faulty) },
		{ group: 'Maps', label: 'Bin', run: () => (binning = true) },
		...sets.flatMap((set) => [
			{ group: 'Stage', label: `New material of ${set.name}`, can: account.may('write'), run: () => void stage(set.name) },
			{ group: 'Sheet', label: `Cut ${set.name} into a sheet`, can: account.may('write'), run: () => (cutting = set) },
			{ group: 'Pack', label: `Pack channels of ${set.name}`, can: account.may('write'), run: () => (packing = set) },
			{ group: 'Metres of a repeat', label: `Extent of ${set.name}`, lands: `[aria-label="Map set ${CSS.escape(set.name)}"] .extent input`, run: () => undefined },
			...set.ways.map((way) => ({ group: 'Derive', label: way.from === null ? `Fill the ${label(way.role).toLowerCase()} of ${set.name} with ${way.value}` : `Make the ${label(way.role).toLowerCase()} of ${set.name} from ${label(way.from).toLowerCase()}`, can: account.may('write'), run: () => void fill(set, way) })),
			...set.maps.map((map) => ({ group: 'Look at', label: `${label(map.role)} of ${set.name}`, lands: 'aside :is(button, select, input)', run: () => (chosen = map.id) }))
		])
	]));
	const current = $derived(sets.flatMap((set) => set.maps.map((map) => ({ set, map }))).find((one) => one.map.id === chosen));
	const grave = (set: MapSet): number => set.maps.flatMap((map) => map.findings).filter((one) => one.grave).length;
</script>

<svelte:head><title>Maps · {project?.name ?? ''} · Rilta</title></svelte:head>
<TopBar project={slug} projectName={project?.name ?? ''} view="maps">
	<span class="gap"></span>
	<label class="search"><Search size={14} /><input class="field" type="search" placeholder="Name, role, size, finding" aria-label="Search maps" bind:value={words} /></label>
	<label class="only"><input type="checkbox" bind:checked={faulty} /> with findings</label>
	<input bind:this={chooser} type="file" aria-label="Files to import" multiple accept=".png,.jpg,.jpeg,.webp,.tga,.zip" hidden
		onchange={(e) => { void importing.add([...(e.currentTarget.files ?? [])]); e.currentTarget.value = ''; }} />
	<input bind:this={folders} type="file" aria-label="Folder to import" webkitdirectory hidden
		onchange={(e) => { void importing.add([...(e.currentTarget.files ?? [])].filter((file) => !file.name.startsWith('.'))); e.currentTarget.value = ''; }} />
	<button class="tool" title="Maps that were taken out in the last 30 days" onclick={() => (binning = true)}><Trash2 size={16} /> Bin</button>
	<button class="tool" onclick={() => (shopping = true)} title="Sets of a supplier, from outside"><Store size={16} /> Supplier</button>
	<button class="tool" onclick={() => folders?.click()} title="All images of a folder"><FolderOpen size={16} /> Folder</button>
	<button class="tool main" disabled={!account.may('write')} onclick={() => chooser?.click()}><UploadIcon size={16} /> Import maps</button>
</TopBar>

<div class="split">
<main class:over ondragover={(e) => { if (e.dataTransfer?.types.includes('Files') === true) { e.preventDefault(); over = true; } }} ondragleave={() => (over = false)} ondrop={drop}
	aria-label="Map library; drop image files here">
	{#if importing.items.length > 0 || importing.refused.length > 0}
		<ImportReview {importing} sets={project?.sets ?? []} finished={load} {stage} />
	{/if}
	{#if trouble !== null}
		<Trouble error={trouble} retry={load} />
	{:else if project === null}
		<p class="hint" aria-busy="true">Loading the library …</p>
	{:else}
		{#if project.sets.length === 0}
			<p class="hint">No maps yet. Drop PNG, JPEG, WebP or TGA files, folders or ZIP archives anywhere on this page.</p>
		{:else if shown.length === 0}
			<p class="hint">No map answers “{words}”{faulty ? ' and has findings' : ''}.</p>
		{/if}
		<p class="quota figures" title="Images of this project, each counted once">Images: {mib(project.quota.bytes)} of {mib(project.quota.mostBytes)} MiB{project.quota.waiting > 0 ? `, ${project.quota.waiting} of ${project.quota.mostWaiting} bakes waiting` : ''}</p>
		{#if words.trim() === '' && !faulty}<Recipes {project} reload={load} />{/if}
		{#if project.sets.length > 1 && words.trim() === '' && !faulty}<Families {project} reload={load} />{/if}
		{#if words.trim() !== '' || faulty}<p class="hint" aria-live="polite">{total} {total === 1 ? 'set' : 'sets'}</p>{/if}
		{#each shown as { set, maps } (set.id)}
			{@const tags = typed.get(set.id) ?? set.tags}
			<section aria-label="Map set {set.name}" {@attach noticed(set.id)}>
				<header>
					<h2>{set.name}</h2>
					<span class="figures dim">{set.maps[0]?.width} × {set.maps[0]?.height} px</span>
					<label class="extent"><input class="field figures" type="number" min="0.001" max="10000" step="any" value={set.extent} onfocus={(e) => (e.currentTarget.defaultValue = e.currentTarget.value)} aria-label="Metres that one repeat of {set.name} covers" onchange={(e) => resize(set, e.currentTarget, (entered) => entered)} /> m</label>
					<label class="extent"><input class="field figures" type="number" min="0.01" step="any" value={Number(((set.maps[0]?.width ?? 0) / set.extent).toPrecision(5))} onfocus={(e) => (e.currentTarget.defaultValue = e.currentTarget.value)} aria-label="Pixels per metre of {set.name}" onchange={(e) => resize(set, e.currentTarget, (entered) => (set.maps[0]?.width ?? 0) / entered)} /> px/m</label>
					{#if set.maps.some(unprepared)}<span class="dim" aria-live="polite">preparing {set.maps.filter(unprepared).length} of {set.maps.length} …</span>{/if}
					{#if set.maps.some((map) => map.failure !== '')}<span class="told" title={set.maps.map((map) => map.failure).find((why) => why !== '')}>{set.maps.filter((map) => map.failure !== '').length} not prepared</span>{/if}
					{#if set.recipe !== null}<a class="from" href="/{slug}/recipes/{set.recipe.id}" title="The recipe that its maps were made from">from {set.recipe.name}{set.recipe.current ? '' : ', changed since'}</a>{/if}
					{#if grave(set) > 0}<span class="told">{grave(set)} to mend</span>{/if}
					{#each set.missing as missing (missing.role)}
						<span class="missing" title={missing.text}>no {label(missing.role).toLowerCase()}
							{#each set.ways.filter((way) => way.role === missing.role) as way (way.from)}<button class="link" onclick={() => fill(set, way)}>{way.from === null ? `Fill with ${way.value}` : `Make it from ${label(way.from).toLowerCase()}`}</button>{/each}
						</span>
					{/each}
					<span class="tags">
						{#each tags as one (one)}
							<span class="tag"><button title="Search for {one}" onclick={() => (words = one)}>{one}</button><button aria-label="Take the tag {one} off {set.name}" onclick={() => tag(set, tags.filter((other) => other !== one))}><X size={11} /></button></span>
						{/each}
						<input class="field new-tag" placeholder="+ tag" maxlength="40" aria-label="Tag {set.name}" onchange={(e) => { const one = e.currentTarget.value; e.currentTarget.value = ''; if (one.trim() !== '') void tag(set, [...new Set([...tags, one])]); }} />
					</span>
					<span class="gap"></span>
					<span class="dim uses" title={set.uses.map((use) => use.name).join(', ')}>{set.uses.length === 0 ? 'not used' : `used by ${set.uses.length} ${set.uses.length === 1 ? 'material' : 'materials'}`}</span>
					<span class="does">
						<button class="tool plain" onclick={() => stage(set.name)} aria-label="New material on {set.name}" title="A new material that reads this set, on the stage"><Box size={14} /> Stage</button>
						<button class="tool plain" onclick={() => (cutting = set)} aria-label="Cut {set.name} into a sheet" title={set.sheet === null ? 'Columns and rows, or rectangles, that Cell and Frames read' : `A sheet: ${set.sheet.rectangles.length > 0 ? `${set.sheet.rectangles.length} parts` : `${set.sheet.columns} × ${set.sheet.rows}`}`}><Grid2x2 size={14} /> {set.sheet === null ? 'Sheet' : set.sheet.rectangles.length > 0 ? `${set.sheet.rectangles.length} parts` : `${set.sheet.columns} × ${set.sheet.rows}`}</button>
						<button class="tool plain" onclick={() => (packing = set)} aria-label="Pack channels of {set.name}"><Combine size={14} /> Pack</button>
					</span>
				</header>
				<div class="maps">
					{#each maps as map (map.id)}
						<button class="map" class:chosen={chosen === map.id} onclick={() => (chosen = chosen === map.id ? null : map.id)} aria-pressed={chosen === map.id} aria-label="{label(map.role)} of {set.name}">
							<img src={map.thumbnail} alt="" width="160" height="100" loading="lazy" {@attach insisting()} />
							<span class="line"><strong>{map.role === 'packed' ? map.name.split('/')[1] : label(map.role)}</strong>{#if map.inverted}<span class="dim">inverted</span>{/if}<span class="gap"></span><span class="dim figures">{map.bits === 16 ? '16 bit' : ''}{map.alpha ? ' α' : ''}</span></span>
							{#if map.findings.length > 0}<span class="said" class:grave={map.findings.some((one) => one.grave)}>{map.findings[0]!.text}{map.findings.length > 1 ? ` And ${map.findings.length - 1} more.` : ''}</span>{/if}
						</button>
					{/each}
				</div>
			</section>
		{/each}
		{#if page < pages}<p class="hint" aria-busy="true" {@attach watched}>{sets.length} of {total} sets; the next come …</p>{/if}
	{/if}
</main>
{#if current !== undefined}
	<MapInspector map={current.map} set={current.set} {sets} changed={(set) => { replace(set); done('Done', set.name); }} removed={(map) => ask(map, current!.set)} close={() => (chosen = null)} />
{/if}
</div>

{#if works.tasks.length > 0}
	<ul class="works" aria-label="Work in the background">
		{#each works.tasks as task (task.id)}
			<li><span>{task.label}</span><progress value={task.done} max={task.all} aria-label="{task.label}: maps finished"></progress><span class="figures">{task.done} of {task.all}</span><button class="tool" onclick={() => works.cancel(task)}>Cancel</button></li>
		{/each}
	</ul>
{/if}
{#if cutting !== null}
	<CutEditor set={cutting} finished={(set) => { replace(set); done('Kept', set.name); }} close={() => (cutting = null)} />
{/if}
{#if shopping}
	<SupplierSheet take={(ware, side) => void importing.fetch(ware, side)} close={() => (shopping = false)} />
{/if}
{#if binning}
	<MapBin {slug} brought={() => void load()} close={() => (binning = false)} />
{/if}
{#if packing !== null}
	<PackBoard set={packing} others={(project?.sets ?? []).filter((one) => one.id !== packing?.id)} finished={(set) => { replace(set); done('Packed', set.maps.at(-1)?.name ?? ''); }} close={() => (packing = null)} />
{/if}
{#if leaving !== null}
	{@const { map, set } = leaving}
	<Sheet title="Take out {map.name}?" close={() => (leaving = null)}>
		<p>{set.uses.length === 1 ? 'A material reads' : `${set.uses.length} materials read`} this set: {set.uses.map((use) => use.name).join(', ')}. They will go on without this map; it can be brought back.</p>
		{#snippet actions()}
			<button class="tool plain" onclick={() => (leaving = null)}>Keep it</button>
			<button class="tool main" onclick={() => remove(map)}>Take it out</button>
		{/snippet}
	</Sheet>
{/if}

<style>
	.quota {
		max-width: 1640px;
		margin: 0 auto 8px;
		text-align: right;
		color: var(--dim);
		font-size: 12px;
	}
	.split {
		display: flex;
		height: calc(100% - 44px);
	}
	main {
		flex: 1;
		min-width: 0;
		overflow: auto;
		padding: 16px 24px;
		border: 2px solid transparent;
	}
	main.over {
		border-color: var(--accent);
		background: var(--accent-soft);
	}
	.gap {
		flex: 1;
	}
	.search {
		display: flex;
		align-items: center;
		gap: 6px;
		color: var(--dim);
	}
	.search input {
		width: 210px;
	}
	.only {
		display: flex;
		gap: 6px;
		align-items: center;
	}
	section {
		/* What is far away is neither laid out nor painted. */
		content-visibility: auto;
		contain-intrinsic-size: auto 176px;
		max-width: 1640px;
		margin: 0 auto 20px;
	}
	header {
		display: flex;
		align-items: center;
		gap: 4px 16px;
		padding-bottom: 6px;
		flex-wrap: wrap;
	}
	.does {
		display: flex;
		gap: 8px;
	}
	h2 {
		font-size: 15px;
		font-weight: 600;
	}
	.maps {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(124px, 1fr));
		gap: 8px;
	}
	.map {
		background: var(--panel);
		border: 1px solid var(--line);
		border-radius: 4px;
		overflow: hidden;
		text-align: left;
		display: flex;
		flex-direction: column;
	}
	.map:hover {
		border-color: var(--dim);
	}
	.map.chosen {
		border-color: var(--accent);
		box-shadow: 0 0 0 1px var(--accent);
	}
	img {
		width: 100%;
		aspect-ratio: 16 / 9;
		object-fit: cover;
		display: block;
	}
	.line {
		display: flex;
		gap: 6px;
		padding: 4px 8px;
		white-space: nowrap;
	}
	.said {
		margin: 0 8px 6px;
		padding-left: 6px;
		border-left: 3px solid var(--amber);
		font-size: 12px;
		line-height: 15px;
		color: var(--dim);
		display: -webkit-box;
		-webkit-line-clamp: 2;
		line-clamp: 2;
		-webkit-box-orient: vertical;
		overflow: hidden;
	}
	.said.grave {
		border-left-color: var(--brick);
	}
	.tags {
		display: inline-flex;
		gap: 4px;
		align-items: center;
	}
	.tag {
		display: inline-flex;
		gap: 2px;
		padding: 0 0 0 6px;
		border-radius: 3px;
		background: var(--accent-soft);
		font-size: 12px;
	}
	.tag button {
		min-width: 24px;
		height: 24px;
	}
	.new-tag {
		width: 58px;
		height: 24px;
		border-color: transparent;
		background: none;
	}
	.new-tag:focus,
	section:hover .new-tag {
		border-color: var(--line);
	}
	.extent {
		color: var(--dim);
		display: inline-flex;
		gap: 4px;
		align-items: center;
	}
	.extent input {
		width: 74px;
		height: 24px;
	}
	.from {
		color: var(--accent);
	}
	.told {
		color: var(--brick);
		font-weight: 600;
	}
	.missing {
		border-left: 3px solid var(--amber);
		padding-left: 6px;
		color: var(--dim);
	}
	.link {
		color: var(--accent);
		margin-left: 6px;
	}
	.works {
		position: fixed;
		left: 24px;
		bottom: 16px;
		z-index: 45;
		display: grid;
		gap: 4px;
		padding: 8px 12px;
		background: var(--raised);
		border: 1px solid var(--line);
		border-radius: 6px;
		box-shadow: var(--shadow);
	}
	.works li {
		display: flex;
		gap: 12px;
		align-items: center;
	}
	.works progress {
		width: 120px;
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
