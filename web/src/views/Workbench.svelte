<script lang="ts">
	import { BookmarkPlus, Copy, History, MessageSquare, Redo2, Table2, Undo2 } from '@lucide/svelte';
	import { onMount, untrack } from 'svelte';
	import { api, type CommentPin, type MaterialDocument, type Project, type StageDocument, type StageObject, type Trail, type Triple } from '../api/client';
	import BakeSheet from '../parts/BakeSheet.svelte';
	import CodeBoard from '../parts/CodeBoard.svelte';
	import CompanyMarks from '../parts/CompanyMarks.svelte';
	import CompareBar from '../parts/CompareBar.svelte';
	import CommentPanel from '../parts/CommentPanel.svelte';
	import CompareColumn from '../parts/CompareColumn.svelte';
	import ComparePanel from '../parts/ComparePanel.svelte';
	import ConflictSheet from '../parts/ConflictSheet.svelte';
	import ContactSheets from '../parts/ContactSheets.svelte';
	import DeliveryBoard from '../parts/DeliveryBoard.svelte';
	import DeliveryPanel from '../parts/DeliveryPanel.svelte';
	import DistanceStrip from '../parts/DistanceStrip.svelte';
	import FindingsPanel from '../parts/FindingsPanel.svelte';
	import Mark from '../parts/Mark.svelte';
	import HistorySheet from '../parts/HistorySheet.svelte';
	import LaneBoard from '../parts/LaneBoard.svelte';
	import LayerColumn from '../parts/LayerColumn.svelte';
	import MeshTray from '../parts/MeshTray.svelte';
	import Segments from '../parts/Segments.svelte';
	import UvView from '../parts/UvView.svelte';
	import ObjectColumn from '../parts/ObjectColumn.svelte';
	import ParameterPanel from '../parts/ParameterPanel.svelte';
	import SavingMark from '../parts/SavingMark.svelte';
	import OutputColumn from '../parts/OutputColumn.svelte';
	import PointsBoard from '../parts/PointsBoard.svelte';
	import PointsPanel from '../parts/PointsPanel.svelte';
	import OutputPanel from '../parts/OutputPanel.svelte';
	import StageView from '../parts/StageView.svelte';
	import TopBar from '../parts/TopBar.svelte';
	import TrailPanel from '../parts/TrailPanel.svelte';
	import Trouble from '../parts/Trouble.svelte';
	import VariantTable from '../parts/VariantTable.svelte';
	import Values from '../parts/Values.svelte';
	import type { Program } from '../stage/program';
	import type { StageScene } from '../stage/scene';
	import { DISTANCES, type Sight } from '../stage/eye';
	import { TOOLS, type Tool } from '../stage/handles';
	import { light } from '../stage/light';
	import type { TilePainter } from '../stage/tiles';
	import { account } from '../state/account.svelte';
	import { catalogue } from '../state/catalogue.svelte';
	import { commands, VALUES } from '../state/commands.svelte';
	import { Company } from '../state/company.svelte';
	import { Comparison } from '../state/comparison.svelte';
	import { Deliveries } from '../state/deliveries.svelte';
	import { Findings, offerFindings } from '../state/findings.svelte';
	import { HandOver, prefixOf } from '../state/handover.svelte';
	import { Lookup } from '../state/lookups.svelte';
	import { placeOf } from '../state/history';
	import { Meshes } from '../state/meshes.svelte';
	import { done, failed, offered } from '../state/notices.svelte';
	import { Probing } from '../state/probing.svelte';
	import { Reviews } from '../state/reviews.svelte';
	import { router } from '../state/route.svelte';
	import { selectedObjects, toggled, type Selection } from '../state/selection';
	import { Clock } from '../state/clock.svelte';
	import { Session } from '../state/session.svelte';
	import { Shaping } from '../state/shaping.svelte';
	import type { Showing } from '../state/showing';
	import { StageState } from '../state/stage.svelte';
	import { Together } from '../state/together';

	const address: { project: string; material: number } = $props();
	// What it was opened for stays what it is while the view is taken down.
	// svelte-ignore state_referenced_locally
	const { project: slug, material: id } = address;
	let session = $state.raw<Session | null>(null);
	let stage = $state.raw<StageState | null>(null);
	let project = $state.raw<Project | null>(null);
	const meshes = new Meshes(slug);
	let trouble = $state<unknown>(null);
	let selection = $state<Selection>({ kind: 'step', path: '/lanes/0/steps/0' });
	let tool = $state<Tool>('probe');
	let view = $state('lit');
	const probing = new Probing();
	const trail = $derived(probing.trail);
	let baking = $state(false);
	let sheet = $state<'variants' | 'history' | null>(null);
	let program = $state.raw<Program | null>(null);
	let painter = $state.raw<TilePainter | null>(null);
	let tick = $state(0);
	/** Counts how often the eye came to rest elsewhere. */
	let glances = $state(0);
	let shares = $state.raw<Record<string, number>>({});
	let stageView = $state<StageView>();
	let scene = $state.raw<StageScene | null>(null);
	/** How the surface is made, on what it is judged, which of two is better, or what is handed over. */
	let area = $state<'workbench' | 'stage' | 'compare' | 'output'>('workbench');
	const arranging = $derived(area === 'stage');
	/** Two of anything on the stage. */
	const comparison = $derived(session === null ? null : new Comparison(session));
	/** The trail of another point, to look at beside the next one. */
	let keptTrail = $state.raw<Trail | null>(null);
	let trails = $state.raw<[Trail, Trail] | null>(null);
	function visit(next: typeof area): void {
		if (comparison !== null && next !== area) {
			if (next === 'compare') comparison.begin();
			else if (area === 'compare') comparison.on = false;
		}
		area = next;
	}
	/** What documents are drawn with. */
	const drawn = (use: string) => async (documents: readonly (MaterialDocument | null)[]) => (await stageView?.sides(use, documents)) ?? documents.map(() => null);
	/** The trail of a line of sight, in both that are compared. */
	async function compareTrails(found: Trail, sight: Sight): Promise<void> {
		if (comparison === null || stage === null || session === null) return;
		const { left, right } = comparison.documents;
		const judged = stage.judged(session.id);
		try {
			const [one, other] = await Promise.all([left, right].map((document) => (document === null ? found : api.probe(slug, { document, stage: judged, seconds: clock.seconds, variant: '', ...sight }))));
			trails = [one!, other!];
		} catch (error) {
			failed('The point could not be probed', error);
		}
	}
	$effect(() => {
		if (session === null || stage === null) return;
		const [document, judged, variant] = [$state.snapshot(session.seen) as MaterialDocument, stage.judged(session.id), session.variant];
		probing.follow(async (sight) => {
			const found = await api.probe(slug, { document, stage: judged, seconds: clock.seconds, variant, ...sight });
			if (comparison?.on === true) void compareTrails(found, sight);
			return found;
		});
	});
	const OUTPUTS = [
		{ value: 'deliveries', label: 'Deliveries', help: 'All that is handed over, as files' },
		{ value: 'code', label: 'Code' },
		{ value: 'sidecar', label: 'Sidecar', help: 'What a host has to know of the code: numbers, textures, inputs (rilta-shader/1)' },
		{ value: 'points', label: 'Points', help: 'Which layers lie at places, for footsteps, decals and plants' }
	] as const;
	const over = new HandOver(slug);
	const lookup = new Lookup(slug);
	const deliveries = new Deliveries(slug, id);
	$effect(() => (area === 'output' ? deliveries.follow() : undefined));
	$effect(() => {
		if (area !== 'output' || session === null) return;
		const document = (): MaterialDocument => $state.snapshot(session!.dressed) as MaterialDocument;
		over.follow(document);
		if (over.part === 'points') lookup.follow(document);
	});
	const findings = new Findings(slug);
	offerFindings(() => findings);
	/** Whether they stand in place of the values. */
	let finding = $state(false);
	/** Whether all that was changed is stored: what is still being changed is not looked through. */
	const rests = $derived(session !== null && stage !== null && session.saving === 'saved' && !stage.pending);
	const asked = (): { document: MaterialDocument; stage: StageDocument } => ({ document: $state.snapshot(session!.dressed) as MaterialDocument, stage: stage!.judged(session!.id) });
	$effect(() => {
		void [session?.variant, stage, findings.budget];
		const [now, by] = [rests, findings];
		untrack(() => (now ? by.follow(asked, finding && by.all === null) : by.stop()));
		return () => by.stop();
	});
	/** A map was mended: its code and its pictures are others. */
	async function refresh(): Promise<void> {
		project = await api.project(slug);
		await session?.lower();
		if (session !== null && stage !== null) findings.follow(asked, true);
	}
	/** Goes to a place of the document. */
	function go(path: string): void {
		const step = /^\/lanes\/\d+\/steps\/\d+/.exec(path);
		const lane = /^\/lanes\/(\d+)/.exec(path);
		const layer = /^\/layers\/(\d+)/.exec(path);
		if (step !== null) select({ kind: 'step', path: step[0] });
		else if (lane !== null) select({ kind: 'step', path: `${lane[0]}/steps/0` });
		else if (layer !== null) select({ kind: 'layer', index: Number(layer[1]) });
		else if (path.startsWith('/surface')) select({ kind: 'surface' });
		if (!path.startsWith('/parameters') && !path.startsWith('/variants')) finding = false;
	}
	/** What lies below the stage while it is arranged. */
	const BOARDS = [{ value: 'meshes', label: 'Meshes' }, { value: 'uvs', label: 'UVs and sections', help: 'Of the selected object' }] as const;
	let board = $state<string>('meshes');
	const shapedId = $derived(arranging && board === 'uvs' && selection.kind === 'object' ? selection.id : null);
	/** What is done to the mesh of the selected object. */
	const shaping = $derived(shapedId === null || stage === null || !stage.has(shapedId) ? null : untrack(() => new Shaping(slug, stage!, meshes, shapedId)));
	let sectionNames = $state.raw<string[]>([]);
	$effect(() => {
		const mesh = shaping?.object?.mesh;
		if (mesh !== undefined) void scene?.sections(mesh).then((found) => { if (shaping?.object?.mesh === mesh) sectionNames = found; }, () => (sectionNames = []));
	});
	$effect(() => scene?.choose(shaping?.id ?? null, shaping?.runs ?? []));
	/** A map that may lie on the object. */
	const backdrop = $derived.by(() => {
		const name = session?.document.layers.find((one) => one.set !== '')?.set;
		const maps = project?.sets.find((one) => one.name === name)?.maps ?? [];
		return (maps.find((one) => one.role === 'base-colour') ?? maps[0])?.thumbnail ?? null;
	});
	const clock = new Clock();
	/** What was changed of the document and of the stage, in one order. */
	let together = $state.raw<Together | null>(null);
	let [undoable, redoable] = $state([false, false]);
	$effect(() => {
		if (session === null || stage === null) return;
		const all = new Together({ document: session, stage });
		// What was done on another stage is taken back there.
		all.past = untrack(() => together)?.past.filter((side) => side === 'document') ?? [];
		all.changed = () => ([undoable, redoable] = [all.past.length > 0, all.future.length > 0]);
		session.onChange = () => all.note('document');
		stage.onChange = () => all.note('stage');
		all.changed();
		together = all;
	});
	$effect(() => {
		if (session?.resumed === true) done('Your edits are back', 'They had not been stored when the page was last left.', 15_000);
	});

	/** What the stage will ask for is on its way while the rest of the page is made; the browser keeps it. */
	function foreseeMaps(one: Session): void {
		for (const map of Object.values(one.lowered?.maps ?? {})) void api.texels(map.draft ?? map.url).catch(() => {});
	}
	/** A budget that was chosen elsewhere, or is gone, is none here. */
	$effect(() => { if (project !== null && findings.budget !== '' && ![...(catalogue.value?.budgets ?? []), ...project.budgets].some((one) => one.name === findings.budget)) findings.keep(''); });
	/** What is said of it. */
	const reviews = new Reviews(id);
	let talking = $state(false);
	void reviews.load().catch(() => {});
	const placePin = $derived.by((): CommentPin | null => {
		if (session === null) return null;
		const path = selection.kind === 'step' ? selection.path : selection.kind === 'layer' ? `/layers/${selection.index}` : selection.kind === 'surface' ? '/surface' : '';
		return path === '' ? null : { path, label: placeOf(session.document, path, (step) => catalogue.step(step)?.label ?? step) };
	});
	const pointPin = $derived.by((): CommentPin | null => {
		if (trail?.position === undefined || trail.object === null || scene === null || session === null) return null;
		const eye = scene.eye.place;
		return { object: trail.object.name, position: trail.position, eye: [...eye.position, ...eye.target], variant: session.variant, trail: trail.text.slice(0, 8000) };
	});
	/** To what a comment is of: a place of the document, or the eye to where it was. */
	function goTo(pin: CommentPin): void {
		if (pin.path !== undefined) go(pin.path);
		if (pin.eye !== undefined) {
			const [x, y, z, ...target] = pin.eye as [number, number, number, number, number, number];
			if (session !== null && pin.variant !== undefined) session.variant = pin.variant;
			scene?.eye.look({ position: [x, y, z], target });
		}
		talking = true;
	}
	/** Others who have it open are heard as long as this page has. */
	let company = $state.raw<Company | null>(null);
	$effect(() => {
		if (session === null) return;
		const one = session;
		one.onOver = (by, back) => offered(`${by === '' ? 'Somebody' : by} has set what you had set`, 'Take mine back', async () => back());
		const here = new Company(slug, id, one, () => void reviews.load().catch(() => {}), () => stage);
		here.join();
		company = here;
		return () => here.leave();
	});
	$effect(() => {
		if (stage === null) return;
		stage.onOver = (by, back) => offered(`${by === '' ? 'Somebody' : by} has set what you had set on the stage`, 'Take mine back', async () => back());
		company?.staged();
	});
	async function load(): Promise<void> {
		trouble = null;
		try {
			// The code takes longest: it is asked for as soon as there is a document.
			const opened = Session.open(slug, id).then(async (one) => { await one.lower(); foreseeMaps(one); session = one; });
			const placed = StageState.open(slug, { material: id });
			void placed.then((one) => { for (const mesh of new Set(one.document.objects.map((object) => object.mesh))) void api.mesh(mesh).catch(() => {}); });
			await Promise.all([opened, meshes.load(), placed.then((one) => (stage = one)), api.project(slug).then((one) => (project = one))]);
		} catch (error) {
			trouble = error;
		}
	}
	const showing = $derived<Showing>({ program, painter, tick, shares, view, show: (next) => (view = next) });

	/** How much of the stage layers and masks are is measured once the stage and the tiles have been drawn. */
	const AFTER_TILES = 120;
	/** From one try to the next while the device has not drawn yet what is measured, and how often. */
	const [AGAIN, OFTEN] = [1500, 4];
	$effect(() => {
		void tick;
		void glances;
		const [at, by] = [program, painter];
		if (at === null || by === null) return;
		let tries = 0;
		let later = setTimeout(measure, by.patience + AFTER_TILES);
		function measure(): void {
			const found = by!.shares(at!);
			// Where a surface is seen, its layers come to all of it.
			const layers = Object.keys(found).filter((of) => of.startsWith('/layers/'));
			if (++tries === OFTEN || layers.length === 0 || layers.some((of) => found[of]! > 0)) shares = found;
			else later = setTimeout(measure, AGAIN);
		}
		return () => clearTimeout(later);
	});

	/** Far from the world's origin the code is another. */
	$effect(() => {
		if (session !== null && stage !== null) session.far = stage.far;
	});

	onMount(() => {
		void load();
		return () => {
			void session?.save(true).catch(() => {});
			void stage?.save(true).catch(() => {});
		};
	});

	function add(mesh: string, label: string): void {
		if (stage === null || scene === null) return;
		const id = stage.freshId(mesh);
		const same = stage.document.objects.filter((one) => one.mesh === mesh).length;
		stage.add([{ id, name: same === 0 ? label : `${label} ${same + 1}`, mesh, position: scene.spot.map((metres) => Math.round(metres * 100) / 100) as Triple, turn: [0, 0, 0], scale: [1, 1, 1], seed: stage.document.objects.length + 1, value: 0 }]);
		select({ kind: 'object', id });
	}
	/** The channel of the first Painted term of the selected layer. */
	const paint = $derived.by(() => {
		const term = selection.kind === 'layer' ? session?.document.layers[selection.index]?.mask?.find((one) => one.kind === 'painted') : undefined;
		return term === undefined ? null : typeof term.values.channel === 'string' ? term.values.channel : '1';
	});

	/** Judges the material on another stage from now on. What was done on the one before is stored, and taken back there. */
	async function judge(on: number): Promise<void> {
		if (stage === null || session === null || on === stage.id) return;
		await stage.save();
		const next = await StageState.open(slug, { stage: on });
		if (selection.kind === 'object') select({ kind: 'surface' });
		stage = next;
		api.judgeOn(id, on).catch((error: unknown) => failed('Which stage it is judged on was not kept', error));
	}
	$effect(() => {
		meshes.onChanged = (name) => { scene?.forget(name); stage?.onMerged(); };
	});
	function change(of: string, by: Partial<StageObject>): void {
		stage?.change(of, by);
		const object = stage?.object(of);
		if (object !== undefined) stageView?.placed($state.snapshot(object) as StageObject);
	}
	function remove(gone: string[]): void {
		stage?.removeAll(gone.filter((one) => stage?.object(one)?.locked !== true));
		select({ kind: 'surface' });
	}
	function select(next: Selection): void {
		selection = next;
		if (next.kind === 'object' && tool === 'probe') tool = 'move';
	}

	async function mark(): Promise<void> {
		if (session === null) return;
		try {
			session.template = (await api.markTemplate(id, !session.template)).template;
		} catch (error) {
			failed('The template was not marked', error);
		}
	}
	async function duplicate(): Promise<void> {
		if (session === null) return;
		try {
			await session.save();
			const made = await api.duplicateMaterial(id);
			router.go(`/${slug}/materials/${made.id}`);
		} catch (error) {
			failed('The material was not copied', error);
		}
	}
	const views = $derived(program?.lowered.views.filter((one) => !/^(shares|term|area):/.test(one.name)) ?? []);
	$effect(() => commands.offer('workbench', () => [
		{ group: 'Material', label: 'Undo', keys: 'Ctrl+Z', can: undoable, run: () => together?.undo() },
		{ group: 'Material', label: 'Redo', keys: 'Ctrl+Shift+Z', can: redoable, run: () => together?.redo() },
		{ group: 'Material', label: 'Save', keys: 'Ctrl+S', run: () => void session?.save().catch((e: unknown) => failed('Not saved', e)) },
		{ group: 'Material', label: 'Run or stop the clock', keys: 'P', can: session?.lowered?.clock.runs === true, run: () => clock.toggle() },
		{ group: 'Material', label: 'Bake', run: () => { visit('output'); baking = true; } },
		{ group: 'Material', label: 'Deliver', can: area !== 'output', run: () => visit('output') },
		{ group: 'Material', label: 'Findings', lands: '[aria-label="Findings"] :is(button, select)', run: () => { finding = !finding; talking = false; } },
		{ group: 'Material', label: 'Comments', lands: '[aria-label="Comments"] textarea', run: () => { talking = !talking; finding = false; } },
		{ group: 'Material', label: 'History', run: () => (sheet = 'history') },
		{ group: 'Material', label: 'Table of variants', run: () => (sheet = 'variants') },
		{ group: 'Material', label: session?.template === true ? 'No longer a template' : 'Let new materials start from it', run: () => void mark() },
		{ group: 'Material', label: 'Duplicate the material', run: () => void duplicate() },
		...(['workbench', 'stage', 'compare', 'output'] as const).filter((one) => one !== area).map((one) => ({ group: 'Go to', label: `${one[0]!.toUpperCase()}${one.slice(1)}`, run: () => visit(one) })),
		{ group: 'Stage', label: comparison?.on === true ? 'End the comparison' : 'Compare with before the last change', can: comparison?.on === true || (session?.past.length ?? 0) > 0, run: () => (comparison?.on === true ? void (comparison.on = false) : comparison?.withBefore()) },
		{ group: 'Go to', label: 'Values of what is selected', lands: VALUES, run: () => { finding = talking = false; } },
		{ group: 'Stage', label: 'See all', run: () => scene?.frame(null) },
		{ group: 'Stage', label: 'See selected', can: selection.kind === 'object', run: () => scene?.frame(selectedObjects(selection)) },
		{ group: 'Stage', label: 'Walk', run: () => stageView?.walk(true) },
		{ group: 'Stage', label: 'Orbit', run: () => stageView?.walk(false) },
		{ group: 'Stage', label: 'UVs and sections of the selected object', can: selection.kind === 'object', run: () => { visit('stage'); board = 'uvs'; } },
		...DISTANCES.map(({ label, times }) => ({ group: 'Stage', label: `Look from: ${label}`, run: () => scene?.away(times) })),
		...(stage?.document.places ?? []).map((place) => ({ group: 'Stage', label: `Look from: ${place.name}`, run: () => scene?.look(place) })),
		{ group: 'Stage', label: 'Probe the middle of the picture', run: () => stageView?.probe() },
		...TOOLS.map((one) => ({ group: 'Stage', label: `Pointer: ${one.label}`, run: () => void (tool = one.value) })),
		...[{ value: 'lit', label: 'Lit' }, ...light.parts].map((one) => ({ group: 'Show', label: one.label, run: () => void (view = one.value) })),
		...[{ id: '', name: 'As written' }, ...(session?.document.variants ?? [])].filter((one) => one.id !== session?.variant).map((one) => ({ group: 'Variant', label: one.name, run: () => { if (session !== null) session.variant = one.id; } })),
		...views.map((one) => ({ group: 'Show', label: one.path === '' ? one.label : `After ${one.label} of ${session?.document.lanes[Number(one.path.split('/')[2])]?.name ?? one.path}`, run: () => void (view = one.name) }))
	]));

	function leave(event: BeforeUnloadEvent): void {
		if (account.leaving || session === null || (!session.pending && stage?.pending !== true)) return;
		void session.save(true).catch(() => {});
		void stage?.save(true).catch(() => {});
		event.preventDefault();
	}
	const snapshot = (): MaterialDocument => $state.snapshot(session?.document) as MaterialDocument;
</script>

<svelte:window onbeforeunload={leave} onblur={() => session?.forget()} />
<svelte:head><title>{session?.document.name ?? 'Workbench'} · Rilta</title></svelte:head>

<div class="bench" style:--board="{shaping !== null || area === 'output' ? 300 : area !== 'workbench' ? 190 : 190 + 30 * Math.min(3, (session?.document.lanes.length ?? 1) - 1)}px">
	<TopBar project={slug} projectName={project?.name ?? ''} view="workbench">
		{#if session !== null}
			<div class="views" role="group" aria-label="View of the material">
				<button class="tool" aria-pressed={area === 'workbench'} title="How the surface comes about" onclick={() => visit('workbench')}>Workbench</button>
				<button class="tool" aria-pressed={arranging} title="On what it is judged: objects and light" onclick={() => visit('stage')}>Stage</button>
				<button class="tool" aria-pressed={area === 'compare'} title="Which of two is better" onclick={() => visit('compare')}>Compare</button>
				<button class="tool" aria-pressed={area === 'output'} title="What is handed over" onclick={() => visit('output')}>Output</button>
			</div>
			<input class="name" aria-label="Name of the material" maxlength="120" value={session.document.name} style:width="calc({session.document.name.length}ch + 10px)"
				onchange={(e) => {
					if (e.currentTarget.value.trim() === '') e.currentTarget.value = session?.document.name ?? '';
					else session?.set('/name', e.currentTarget.value.trim());
				}} />
			<button class="tool" onclick={() => together?.undo()} disabled={!undoable} title="Undo (Ctrl+Z)" aria-label="Undo"><Undo2 size={16} /></button>
			<button class="tool" onclick={() => together?.redo()} disabled={!redoable} title="Redo (Ctrl+Shift+Z)" aria-label="Redo"><Redo2 size={16} /></button>
			<label class="variant"><span>Variant</span>
				<select class="field" aria-label="Variant shown" value={session.variant} onchange={(e) => { if (session !== null) session.variant = e.currentTarget.value; }}>
					<option value="">As written</option>
					{#each session.document.variants ?? [] as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
				</select>
			</label>
			<button class="tool" title="All variants side by side" aria-label="Table of variants" onclick={() => (sheet = 'variants')}><Table2 size={16} /></button>
			<SavingMark state={session.saving} reason={session.reason} />
			<button class="tool" title="What it was: name, compare, restore" aria-label="History" onclick={() => (sheet = 'history')}><History size={16} /></button>
			<button class="tool rare" aria-pressed={session.template} title={session.template ? 'A template: new materials may start from it' : 'Let new materials start from it'} aria-label="Template" onclick={mark}><BookmarkPlus size={16} /></button>
			<button class="tool rare" title="A new material like this one" aria-label="Duplicate the material" onclick={duplicate}><Copy size={16} /></button>
			<span class="gap"></span>
			<CompanyMarks others={company?.others ?? []} />
			<button class="tool" aria-pressed={talking} title="What people say of it" aria-label="Comments{reviews.threads.open.length > 0 ? `, ${reviews.threads.open.length} open` : ''}" onclick={() => { talking = !talking; finding = false; }}><MessageSquare size={16} />{#if reviews.threads.open.length > 0}<span class="figures">{reviews.threads.open.length}</span>{/if}</button>
			<button class="tool found" aria-pressed={finding} title="What is wrong, doubtful or good to know" onclick={() => { finding = !finding; talking = false; }}>
				Findings
				{#each ['wrong', 'doubtful'] as const as severity (severity)}{#if findings.count(severity) > 0}<Mark {severity} /><span class="figures">{findings.count(severity)}</span>{/if}{/each}
			</button>
		{/if}
	</TopBar>

	{#if trouble !== null}
		<div class="wrong"><Trouble error={trouble} retry={load} /></div>
	{:else if session !== null && stage !== null}
		<StageView bind:this={stageView} {session} {stage} {meshes} {slug} {company} {judge} {clock} bind:tool bind:view {shaping} selected={selection.kind === 'object' ? selection.id : null} step={selection.kind === 'step' ? selection.path : null} {paint}
			also={selectedObjects(selection).slice(1)} {select} pick={(id, beside) => select(beside ? toggled(selection, id) : { kind: 'object', id })} probed={(sight) => void probing.click(sight).catch((error: unknown) => failed('The point could not be probed', error))}
			staged={(one) => (scene = one)} ready={(p, t) => { program = p; painter = t; tick += 1; }} changed={() => (tick += 1)} looked={() => { glances += 1; if (scene !== null) company?.looks(scene.eye.place); }} />
	{:else}
		<p class="loading" aria-busy="true">Opening the material …</p>
	{/if}
	{#if trouble === null && session !== null && stage !== null && project !== null}
		{#if comparison?.on === true && scene !== null}<CompareBar {comparison} {scene} sides={drawn('compared')} again={`${tick} ${glances} ${JSON.stringify(stage.document)}`} close={area === 'compare' ? null : () => (comparison.on = false)} />{/if}
		{#if area === 'workbench'}<DistanceStrip {slug} {session} {program} {scene} {tick} {glances} {select} compare={(other, name) => comparison?.withOffer(other, name)} />{/if}
		{#if area === 'compare' && comparison !== null}
			<CompareColumn {comparison} {slug} />
		{:else if area === 'output'}
			<OutputColumn {over} {deliveries} name={session.document.name} variants={session.document.variants ?? []} shown={session.variant} save={() => session!.save(true)} bake={() => (baking = true)} />
		{:else if arranging}
			<ObjectColumn {stage} {meshes} {selection} {select} {change} {remove} {judge} />
		{:else}
			<LayerColumn {session} {stage} {shares} sets={project.sets} {selection} {select} />
		{/if}
		<div class="right">
			{#if area === 'compare' && comparison !== null}<ComparePanel {comparison} {slug} {trails} />{:else if area === 'output'}{#if over.part === 'deliveries'}<DeliveryPanel {deliveries} document={session.document} />{:else if over.part === 'points'}<PointsPanel {lookup} />{:else}<OutputPanel {over} />{/if}{:else}
			{#if talking}<CommentPanel {reviews} place={placePin} point={pointPin} version={session.version} document={session.document} save={() => session?.stored() ?? Promise.resolve()} go={goTo} close={() => (talking = false)} />
			{:else if finding}<FindingsPanel {slug} budgets={project.budgets} {findings} {session} {go} undo={() => together?.undo()} compare={() => comparison?.withBefore()} mended={() => void refresh()} rebudgeted={async () => { project = await api.project(slug); findings.follow(asked, true); }} close={() => (finding = false)} />{:else}
			<Values {session} {stage} {meshes} sections={async (of) => (await scene?.sections(of)) ?? []} sets={project.sets} families={project.families} {showing} {selection} {select} moved={(object) => stageView?.placed(object)} restingHeight={(of) => scene?.restingHeight(of) ?? null} />
			{#if !arranging}<ParameterPanel {session} sets={project.sets} {selection} {select} />{/if}
			{#if trail !== null}<TrailPanel {trail} current={probing.current} sight={probing.sight} bind:kept={keptTrail} close={() => probing.close()} />{/if}
			{/if}
			{/if}
		</div>
		{#if arranging && shaping !== null}
			<UvView {shaping} document={session.dressed} mesh={meshes.find(shaping.object?.mesh ?? '')} names={sectionNames} geometry={async (of) => scene?.geometry(of)} towardEye={() => scene?.towardEye(shaping.id) ?? null} {backdrop} lead={boards} />
		{:else if arranging}
			<MeshTray {scene} {meshes} {add} lead={boards} />
		{:else if area === 'compare' && comparison !== null}
			<ContactSheets {comparison} {stage} {scene} sides={drawn('sheet')} />
		{:else if area === 'output'}
			{#if over.part === 'deliveries'}<DeliveryBoard {deliveries} variants={session.document.variants ?? []} show={(channel) => { if (views.some((one) => one.name === channel)) view = channel; }} lead={outputs} />{:else if over.part === 'points'}<PointsBoard {lookup} name={prefixOf(session.document.name)} clicked={trail?.position === undefined ? null : [...trail.position, ...(trail.normal ?? [])].map((x) => Number(x.toFixed(4))).join(', ')} lead={outputs} />{:else}<CodeBoard {over} lead={outputs} />{/if}
		{:else}<LaneBoard {session} {program} {painter} {selection} {select} sets={project.sets} families={project.families} {tick} shown={view} show={(next) => (view = next)} />{/if}
	{/if}
</div>
{#snippet outputs()}
	<div class="outputs"><Segments label="What is shown" quiet options={OUTPUTS} value={over.part} choose={(next) => (over.part = next as typeof over.part)} /></div>
{/snippet}
{#snippet boards()}
	<Segments label="Below the stage" quiet options={BOARDS} value={board} choose={(next) => (board = next)} />
{/snippet}

{#if baking && session !== null}
	<BakeSheet project={slug} material={id} document={snapshot} shown={session?.variant ?? ''} objects={stage?.document.objects ?? []} chosen={selectedObjects(selection)} sections={async (of) => (await scene?.sections(of)) ?? []} close={() => (baking = false)} />
{/if}
{#if sheet === 'history' && session !== null}
	<HistorySheet {session} close={() => (sheet = null)} />
{/if}
{#if sheet === 'variants' && session !== null}
	<VariantTable {session} sets={project?.sets ?? []} close={() => (sheet = null)} />
{/if}
{#if session !== null && session.saving === 'conflict' && session.theirs !== null}
	<ConflictSheet {session} />
{/if}

<style>
	.bench {
		display: grid;
		height: 100%;
		grid-template: 44px minmax(0, 1fr) auto var(--board) / 200px minmax(0, 1fr) 276px;
		grid-template-areas: 'top top top' 'layers stage values' 'layers strip values' 'lanes lanes lanes';
	}
	.bench > :global(header) {
		grid-area: top;
	}
	.bench > :global(aside) {
		grid-area: layers;
	}
	.bench > :global(.stage) {
		grid-area: stage;
	}
	.outputs {
		width: 264px;
	}
	.right {
		grid-area: values;
		display: flex;
		flex-direction: column;
		min-height: 0;
		background: var(--panel);
		border-left: 1px solid var(--line);
	}
	/* What is selected above, what may be set from outside below; each scrolls by itself, headings stay. */
	.right > :global(section) {
		flex: 0 1 auto;
		max-height: 40%;
		min-height: 44px;
		overflow: auto;
	}
	.right > :global(section:nth-child(3)) {
		max-height: 32%;
	}
	.right > :global(section:first-child) {
		flex: 1 1 0;
		max-height: none;
		min-height: min(240px, 45%);
	}
	.bench > :global(section) {
		grid-area: lanes;
	}
	.bench > :global(.strip) {
		grid-area: strip;
	}
	.views {
		display: flex;
		border: 1px solid var(--line);
		border-radius: 3px;
	}
	.views [aria-pressed='true'] {
		background: var(--accent-soft);
		color: var(--accent);
		font-weight: 600;
	}
	.found {
		display: flex;
		flex: none;
		align-items: center;
		gap: 5px;
	}
	.variant {
		display: flex;
		align-items: center;
		gap: 8px;
		margin-left: 8px;
		color: var(--dim);
	}
	.variant select {
		width: 140px;
	}
	/* As wide as what is written, where there is room. */
	.name {
		flex: 0 1 auto;
		min-width: 60px;
		max-width: 220px;
		height: 28px;
		padding: 0 4px;
		background: none;
		border: 1px solid transparent;
		border-radius: 3px;
		font-size: 15px;
		font-weight: 600;
		color: inherit;
	}
	.name:hover,
	.name:focus {
		border-color: var(--line);
		background: var(--well);
	}
	.gap {
		flex: 1;
	}
	.wrong {
		grid-column: 1 / -1;
	}
	.loading {
		grid-column: 1 / -1;
		padding: 24px;
		color: var(--dim);
	}
	@media (max-width: 1400px) {
		.variant span {
			display: none;
		}
		.views .tool {
			padding: 0 8px;
		}
		.variant {
			margin-left: 0;
		}
		.variant select {
			width: 132px;
		}
	}
	@media (max-width: 1100px) {
		/* In the list of commands all the same. */
		.rare {
			display: none;
		}
		.bench {
			grid-template-columns: 176px minmax(0, 1fr) 248px;
		}
		.bench > :global(aside .tool) {
			padding: 0 5px;
		}
		.name {
			width: 96px;
			flex: 0 1 96px;
			min-width: 48px;
			padding: 0 4px;
		}
		.views .tool {
			padding: 0 8px;
		}
		.variant {
			font-size: 0;
			gap: 0;
			margin-left: 0;
		}
		.variant select {
			max-width: 96px;
			font-size: 13px;
		}
	}
	@media (min-width: 1700px) {
		.bench {
			grid-template-columns: 256px minmax(0, 1fr) 340px;
		}
	}
</style>
