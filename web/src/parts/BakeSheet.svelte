<script lang="ts">
	import { Download, Trash2 } from '@lucide/svelte';
	import { onDestroy } from 'svelte';
	import { api, type Bake, type MaterialDocument, type MeshTarget, type StageObject, type UvLayout } from '../api/client';
	import { followed } from '../state/baking';
	import { namedPlaces } from '../state/places';
	import { catalogue } from '../state/catalogue.svelte';
	import { SURFACE } from '../state/parameters';
	import { failed } from '../state/notices.svelte';
	import BakeResult from './BakeResult.svelte';
	import Mark from './Mark.svelte';
	import Sheet from './Sheet.svelte';

	let { project, material, document, shown, objects, chosen, sections, close }: {
		project: string;
		material: number;
		document: () => MaterialDocument;
		/** The variant that is shown. */
		shown: string;
		/** Of the stage: into their UVs it can be baked. */
		objects: StageObject[];
		/** Those that are chosen, by their ids. */
		chosen: string[];
		/** Of a mesh. */
		sections: (mesh: string) => Promise<string[]>;
		close: () => void;
	} = $props();
	let before = $state.raw<Bake[]>([]);
	// svelte-ignore state_referenced_locally
	api.bakes(project, material).then((found) => (before = found)).catch(() => {});
	let size = $state(1024);
	// svelte-ignore state_referenced_locally
	let variant = $state(shown);
	const variants = $derived(document().variants ?? []);
	// svelte-ignore state_referenced_locally
	let onto = $state(chosen.length === 1 ? chosen[0]! : '');
	const object = $derived(objects.find((one) => one.id === onto) ?? null);
	const SEEN = '*', CHOSEN = '+';
	const mostSeveral = $derived(catalogue.value?.meshBake.objects ?? 0);
	const seen = $derived(objects.filter((one) => one.hidden !== true));
	const several = $derived(onto === SEEN ? seen : onto === CHOSEN ? objects.filter((one) => chosen.includes(one.id)) : null);
	/** Variants that a file of several objects can be switched to. */
	let switchable = $state<string[]>([]);
	let set = $state(2);
	let section = $state('');
	let places = $state(4);
	let normals = $state<'tangent' | 'object'>('tangent');
	let parts = $state.raw<string[]>([]);
	let layout = $state.raw<UvLayout | null>(null);
	let misfit = $state('');
	const target = $derived<MeshTarget | null>(object === null ? null : { object: $state.snapshot(object) as StageObject, set, ...(section === '' ? {} : { section }), places: places as 1, normals });
	$effect(() => {
		[parts, section] = [[], ''];
		if (object !== null) void sections(object.mesh).then((found) => (parts = found));
	});
	let looked = 0;
	$effect(() => {
		const mine = ++looked;
		[layout, misfit] = [null, ''];
		if (target === null) return;
		api.layout(project, target, size).then((found) => mine === looked && (layout = found), (error: unknown) => mine === looked && (misfit = error instanceof Error ? error.message : String(error)));
	});
	/** Texels that the material wants on a metre, where it says so by itself. */
	const wantedDensity = $derived.by(() => {
		const said: unknown = document().surface?.values?.density ?? catalogue.control(SURFACE, 'density')?.default;
		return typeof said === 'number' ? said : 0;
	});
	/** The size at which it would have them. */
	const dense = $derived(layout === null ? undefined : catalogue.value?.bakeSizes.find((one) => (one / size) * layout!.density.median >= wantedDensity));
	const share = (x: number): string => `${(100 * x).toFixed(x < 0.0995 ? 1 : 0)} %`;
	let files = $state<'png' | 'tga' | 'ktx2' | 'ktx2-blocks'>('png');
	let green = $state<'+y' | '-y'>('+y');
	let longest = $state<number | null>(null);
	let cut = $state(false);
	let tile = $state<Awaited<ReturnType<typeof api.tile>> | null>(null);
	const largestCut = 2048;
	let bake = $state<Bake | null>(null);
	/** Why what was asked for was not begun. */
	let refusal = $state('');
	let gone = false;
	onDestroy(() => (gone = true));

	let asked = 0;
	$effect(() => {
		const mine = ++asked;
		const [of, most] = [variant, longest ?? undefined];
		if (most !== undefined && !(most > 0)) return;
		api.tile(project, document(), of, most)
			.then((found) => mine === asked && (tile = found))
			.catch((error: unknown) => mine === asked && failed('The tile could not be worked out', error));
	});

	async function follow(asked: Promise<Bake>): Promise<void> {
		refusal = '';
		try {
			await followed(await asked, (now) => (bake = now), () => !gone && bake?.state !== 'cancelled');
		} catch (error) {
			refusal = error instanceof Error ? error.message : String(error);
		}
	}
	function start(): Promise<void> {
		const wanted = { size, variant, material, files, green };
		if (several !== null) return follow(api.askBake(project, document(), { size, variant, material, onto: { objects: $state.snapshot(several) as StageObject[], set, places: places as 1, variants: switchable } }));
		if (target !== null) return follow(api.askBake(project, document(), { ...wanted, onto: target }));
		const edges = cut && tile?.obstacle != null && size <= largestCut ? 'cut' : 'as-computed';
		return follow(api.askBake(project, document(), { ...wanted, edges, longest: longest ?? undefined }));
	}

	async function discard(one: Bake): Promise<void> {
		try {
			await api.deleteBake(one.id);
			before = before.filter((other) => other !== one);
		} catch (error) {
			failed(`${one.name} was not thrown away`, error);
		}
	}
	async function cancel(): Promise<void> {
		if (bake !== null) bake = await api.cancelBake(bake.id);
	}
	const named = (text: string): string => namedPlaces(text, document());
	const metres = (x: number | undefined): string => String(Number((x ?? 0).toPrecision(4)));
</script>

{#snippet whichSet()}
	<label class="size">UV set <select class="field figures" aria-label="UV set" bind:value={set}>{#each [1, 2, 3, 4] as one (one)}<option value={one}>{one}</option>{/each}</select></label>
{/snippet}
{#snippet howMany()}
	<label class="size" title="So many places of each pixel are looked at, and averaged">Places a pixel <select class="field figures" aria-label="Places a pixel" bind:value={places}>{#each catalogue.value?.meshBake.places ?? [] as one (one)}<option value={one}>{one}</option>{/each}</select></label>
{/snippet}

<Sheet title="Bake" {close}>
	{#if bake === null}
		<p>Computes base colour, normal, roughness, metallic and occlusion, and the height in 16 bits where a map tells it, on the server: over a tile, which spans what everything in the material repeats after; over the surface of an object as it stands on the stage, into its UVs; or over several objects with all that they wear, as one GLB file.</p>
		<label class="size">Over
			<select class="field" aria-label="Over" bind:value={onto}>
				<option value="">A tile</option>
				<optgroup label="Several, as one GLB">
					<option value={SEEN}>All that is seen on the stage: {seen.length}</option>
					{#if chosen.length > 1}<option value={CHOSEN}>The chosen {chosen.length}</option>{/if}
				</optgroup>
				<optgroup label="Objects of the stage">{#each objects as one (one.id)}<option value={one.id}>{one.name}</option>{/each}</optgroup>
			</select>
		</label>
		{#if variants.length > 0}
			<label class="size">Variant
				<select class="field" bind:value={variant}>
					<option value="">As written</option>
					{#each variants as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
				</select>
			</label>
		{/if}
		<label class="size">Pixels a side
			<select class="field figures" bind:value={size}>
				{#each catalogue.value?.bakeSizes ?? [] as one (one)}<option value={one}>{one}</option>{/each}
			</select>
		</label>
		{#if several === null}
			<label class="size">Files <select class="field" aria-label="Files" bind:value={files}>{#each catalogue.value?.delivery.formats ?? [] as one (one.value)}<option value={one.value}>{one.label}</option>{/each}</select></label>
			<label class="size" title="Where the green of normals grows: upwards or downwards">Green of normals <select class="field" aria-label="Green of normals" bind:value={green}><option value="+y">Upwards (+Y)</option><option value="-y">Downwards (−Y)</option></select></label>
		{/if}
		{#if several !== null}
			{@render whichSet()}
			{@render howMany()}
			{#if variants.length > 0}
				<fieldset class="switchable"><legend>It can be switched to</legend>{#each variants as one (one.id)}<label class="check"><input type="checkbox" value={one.id} bind:group={switchable} /> {one.name}</label>{/each}</fieldset>
			{/if}
			{#if several.length > mostSeveral}<p class="wrong" role="alert">At most {mostSeveral} objects lie in one file, and these are {several.length}. Hide some, or choose some on the stage.</p>
			{:else}<p class="verdict">Each of the {several.length} objects, and each section that wears something of its own, gets pictures of its own, of what it wears where it stands. A mesh without that UV set goes by its first.</p>{/if}
		{:else if object === null}
			<label class="size">Longest side, metres
				<input class="field figures short" type="number" min="0.001" step="any" placeholder="16 repeats" bind:value={longest} />
			</label>
			<p class="verdict" data-testid="tile-verdict" aria-live="polite">
				{#if tile === null}Working out what repeats …
				{:else if tile.obstacle === null}It repeats after <span class="figures">{metres(tile.width)} × {metres(tile.height)} m</span>: the tile will be seamless.
				{:else}It cannot tile, because {named(tile.obstacle)}. The tile will be one repeat of the lowest layer, <span class="figures">{metres(tile.width)} × {metres(tile.height)} m</span>.{/if}
			</p>
			{#if tile !== null && tile.obstacle !== null}
				<label class="check"><input type="checkbox" bind:checked={cut} disabled={size > largestCut} /> Make it seamless by a cut{size > largestCut ? ` (up to ${largestCut} pixels)` : ''}</label>
			{/if}
		{:else}
			{@render whichSet()}
			{#if parts.length > 1}<label class="size">Section <select class="field" aria-label="Section" bind:value={section}><option value="">All of it</option>{#each parts as one (one)}<option value={one}>{one}</option>{/each}</select></label>{/if}
			{@render howMany()}
			<label class="size">Normals <select class="field" aria-label="Normals" bind:value={normals}>{#each catalogue.value?.meshBake.normals ?? [] as one (one.value)}<option value={one.value}>{one.label}</option>{/each}</select></label>
			<div class="verdict" data-testid="layout" aria-live="polite">
				{#if misfit !== ''}<p class="wrong" role="alert">{misfit}</p>
				{:else if layout === null}<p>Looking at the UVs …</p>
				{:else}
					<p>It covers <span class="figures">{share(layout.covered)}</span> of the picture, with <span class="figures">{metres(layout.density.median)}</span> pixels a metre in the middle, from <span class="figures">{metres(layout.density.lowest)}</span> to <span class="figures">{metres(layout.density.highest)}</span>.</p>
					{#if layout.doubled > 0.001}<p class="doubtful"><Mark severity="doubtful" /> {share(layout.doubled)} of that is covered twice: where parts lie over each other, the first is baked. Another UV set, or <em>Unwrap</em> in the view Stage, parts them.</p>{/if}
					{#if layout.mirrored > 0.001}<p class="doubtful"><Mark severity="doubtful" /> {share(layout.mirrored)} of the surface lies mirrored; normals are right there, lettering is not.</p>{/if}
					{#if layout.density.median < 0.999 * wantedDensity}<p class="doubtful"><Mark severity="doubtful" /> The material wants <span class="figures">{metres(wantedDensity)}</span> pixels a metre{dense === undefined ? ', which no size here has' : `, which ${dense} pixels a side have`}.</p>{/if}
					{#if layout.density.lowest * 4 < layout.density.median}<p class="doubtful"><Mark severity="doubtful" /> Some of it has less than a fourth of the pixels that most of it has.</p>{/if}
				{/if}
			</div>
		{/if}
		{#if refusal !== ''}<p class="wrong" role="alert">{refusal}</p>{/if}
		{#if before.length > 0}
			<details>
				<summary>Bakes of before <span class="figures">{before.length}</span></summary>
				<ol class="before">
					{#each before as one (one.id)}
						<li class="line">
							<button class="link" onclick={() => follow(Promise.resolve(one))}>{one.name}</button>
							<span class="dim">{one.state === 'done' ? named(one.facts.verdict ?? '') : one.state === 'waiting' ? `${one.regions.done} of ${one.regions.all}` : one.failure}</span>
							{#if one.archive !== null}<a href={one.archive} class="tool plain" target="_self" download><Download size={14} /> ZIP</a>{/if}
							<button class="tool" aria-label="Throw {one.name} away" title="Throw away" onclick={() => void discard(one)}><Trash2 size={14} /></button>
						</li>
					{/each}
				</ol>
			</details>
		{/if}
	{:else if bake.state === 'waiting'}
		<p>Baking <strong>{bake.name}</strong></p>
		<progress value={bake.regions.done} max={bake.regions.all} aria-label="Progress"></progress>
		<p class="figures">{bake.regions.done} of {bake.regions.all} regions</p>
	{:else if bake.state === 'done'}
		<BakeResult {bake} {named} />
	{:else}
		<p role="alert">{bake.state === 'failed' ? `The bake failed: ${bake.failure}` : 'The bake was cancelled.'}</p>
	{/if}
	{#snippet actions()}
		{#if bake?.state === 'waiting'}
			<button class="tool plain" onclick={cancel}>Cancel the bake</button>
		{:else}
			<button class="tool plain" onclick={close}>Close</button>
		{/if}
		{#if bake === null}<button class="tool main" disabled={(target !== null && misfit !== '') || (several !== null && (several.length === 0 || several.length > mostSeveral))} onclick={start}>Bake</button>{/if}
		{#if bake?.state === 'failed'}<button class="tool main" title="What was computed before is kept" onclick={() => bake !== null && follow(api.bakeAgain(bake.id))}>Try again</button>{/if}
	{/snippet}
</Sheet>

<style>
	.size {
		display: flex;
		justify-content: space-between;
		align-items: center;
	}
	.before {
		display: grid;
		gap: 4px;
		max-height: 200px;
		overflow: auto;
	}
	.line {
		display: grid;
		grid-template-columns: auto minmax(0, 1fr) auto auto;
		gap: 8px;
		align-items: center;
	}
	.line .dim {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
		color: var(--dim);
	}
	.link {
		color: var(--accent);
	}
	.short {
		width: 112px;
	}
	.verdict {
		color: var(--dim);
	}
	.verdict p + p {
		margin-top: 4px;
	}
	.doubtful {
		color: var(--text);
	}
	.wrong {
		color: var(--brick);
	}
	.check {
		display: flex;
		gap: 8px;
		align-items: center;
	}
	progress {
		width: 100%;
		height: 8px;
		accent-color: var(--accent);
	}
	.switchable {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
	}
	.switchable legend {
		color: var(--dim);
	}
</style>
