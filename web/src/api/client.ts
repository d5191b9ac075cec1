import type { components } from './schema';

type Schemas = components['schemas'];
export type Bake = Schemas['Bake'];
export type BakeTarget = Schemas['BakeTarget'];
export type BinnedMap = Schemas['BinnedMap'];
export type Catalogue = Schemas['Catalogue'];
export type Control = Schemas['Control'];
export type ChoiceControl = Schemas['ChoiceControl'];
export type NumberControl = Schemas['NumberControl'];
export type SeedControl = Schemas['SeedControl'];
export type SwitchControl = Schemas['SwitchControl'];
export type RowsControl = Schemas['RowsControl'];
export type Row = Schemas['Row'];
export type Tie = Schemas['Tie'];
export type Follow = Schemas['Follow'];
export type OwnMesh = Schemas['OwnMesh'];
export type Parameter = Schemas['Parameter'];
export type ParameterValue = Parameter['value'];
export type LayerGroup = Schemas['LayerGroup'];
export type MaskTerm = Schemas['MaskTerm'];
export type Layer = Schemas['Layer'];
export type Variant = Schemas['Variant'];
export type Revision = Schemas['Revision'];
export type Alternates = Schemas['Project']['alternates'][number];
export type Kept = Schemas['Kept'];
export type MaterialCard = Schemas['MaterialCard'];
export type ProjectFacts = Schemas['ProjectFacts'];
export type ShelfPage = Schemas['ShelfPage'];
export type Lane = Schemas['Lane'];
export type StepPass = Schemas['StepPass'];
export type Lowered = Schemas['Lowered'];
export type MapInfo = Schemas['MapInfo'];
export type MapSet = Schemas['MapSet'];
export type Material = Schemas['Material'];
export type MaterialDocument = Schemas['MaterialDocument'];
export type Project = Schemas['Project'];
export type ProjectCard = Schemas['ProjectCard'];
export type Recipe = Schemas['Recipe'];
export type MultipassPlan = Schemas['MultipassPlan'];
export type MultipassAnswer = Schemas['MultipassAnswer'];
export type RecipeCard = Schemas['RecipeCard'];
export type RecipeDocument = Schemas['RecipeDocument'];
export type RecipeView = Schemas['RecipeView'];
export type LoweredRecipe = Schemas['LoweredRecipe'];
export type Ingredient = Schemas['Ingredient'];
export type RecipeOutput = Schemas['RecipeOutput'];
export type RecipeCoat = Schemas['RecipeCoat'];
export type RecipeTerm = Schemas['RecipeTerm'];
export type Role = Schemas['Role'];
export type Encoding = Schemas['Encoding'];
export type Family = Schemas['Family'];
export type Fix = Schemas['Fix'];
export type Looked = Schemas['Looked'];
export type PackedChannel = Schemas['PackedChannel'];
export type Way = Schemas['MapSet']['ways'][number];
export type Sampling = Schemas['Sampling'];
export type SetCard = Schemas['SetCard'];
export type SetPage = Schemas['SetPage'];
export type SheetCut = Schemas['SheetCut'];
export type Packing = Schemas['Packing'];
export type Stage = Schemas['Stage'];
export type StageCard = { id: number; name: string };
export type Place = NonNullable<Schemas['StageDocument']['places']>[number];
export type StageDocument = Schemas['StageDocument'];
export type StageObject = Schemas['StageObject'];
export type StepKind = Schemas['StepKind'];
export type StepUse = Schemas['StepUse'];
export type Task = Schemas['Task'];
export type Repetition = Schemas['Repetition'];
export type Budget = Schemas['Budget'];
export type Delivery = Schemas['Delivery'];
export type DeliveredFile = Schemas['DeliveredFile'];
export type Me = Schemas['Me'];
export type Account = Schemas['Account'];
export type SignedIn = Schemas['SignedIn'];
export type AccessToken = Schemas['AccessToken'];
export type Member = Schemas['Member'];
/** What somebody is in a project. */
export type PersonRole = Member['role'];
/** What that lets somebody do. */
export type Right = Project['may'][number];
export type AuditEntry = Schemas['AuditEntry'];
export type OutboxMail = Schemas['OutboxMail'];
export type Comment = Schemas['Comment'];
export type CommentPin = Schemas['CommentPin'];
export type ShareLink = Schemas['ShareLink'];
export type BroughtMaterials = Schemas['BroughtMaterials'];
export type DeliveryProfile = Schemas['DeliveryProfile'];
export type OfferedProfile = Schemas['OfferedProfile'];
export type MeshTarget = Schemas['MeshTarget'];
export type UvLayout = Schemas['UvLayout'];
export type ContactSheet = Schemas['ContactSheet'];
export type RepeatSearch = Schemas['RepeatSearch'];
export type JudgedFinding = Schemas['JudgedFinding'];
export type Costs = Schemas['Costs'];
export type MaterialCode = Schemas['MaterialCode'];
export type LayersAt = Schemas['LayersAt'];
export type Trail = Schemas['Trail'];
export type Upload = Schemas['Upload'];
export type Ware = Schemas['Ware'];
export type Wares = Schemas['Wares'];
export type Value = number | string | boolean | Tie | Follow | (number | Row)[];
export type Triple = [number, number, number];

/** What the server answered to a request that it could not grant, or that it could not be reached. */
export class ApiError extends Error {
	constructor(
		readonly status: number,
		readonly title: string,
		detail: string,
		readonly problems: { path: string; message: string }[] = [],
		readonly theirs: unknown = null
	) {
		super(detail);
	}
	get unreachable(): boolean {
		return this.status === 0;
	}
}

let signedOut: () => void = () => {};
let mayKnown: (may: Right[]) => void = () => {};

/** Called when it is told what whoever asks may do in a project. */
export function onMay(told: (may: Right[]) => void): void {
	mayKnown = told;
}

/** A project, or a part of it, that says so. */
async function roled<T extends { may: Right[] }>(url: string): Promise<T> {
	const found = await json<T>(url);
	mayKnown(found.may);
	return found;
}

/** Called when the server wants to know who asks. */
export function onSignedOut(told: () => void): void {
	signedOut = told;
}

const watchers: (() => void)[] = [];
let wasAway = false;

/** Called when the server answers again after it did not, or failed. */
export function onReached(told: () => void): void {
	watchers.push(told);
}

function reached(well: boolean): void {
	if (well && wasAway) for (const told of watchers) told();
	wasAway = !well;
}

async function send(url: string, init: RequestInit): Promise<Response> {
	let response: Response;
	try {
		// What changes something says that it comes from here; no form of another site can.
		response = await fetch(url, init.method === undefined ? init : { ...init, headers: { ...(init.headers as Record<string, string> | undefined), 'X-Rilta': '1' } });
	} catch (error) {
		if (error instanceof DOMException && error.name === 'AbortError') throw error;
		reached(false);
		throw new ApiError(0, 'No connection', 'The server cannot be reached. Is it running?');
	}
	reached(response.status < 500);
	if (response.ok) return response;
	if (response.status === 401) signedOut();
	const body = (await response.json().catch(() => null)) as Schemas['ProblemDetails'] | null;
	if (body === null || typeof body.detail !== 'string') {
		throw new ApiError(response.status, 'Not possible', `The server answered ${response.status}.`);
	}
	throw new ApiError(response.status, body.title, body.detail, body.problems, body.theirs ?? null);
}

async function json<T>(url: string, init: RequestInit = {}): Promise<T> {
	return (await (await send(url, init)).json()) as T;
}

function carrying(method: string, body: unknown, headers: Record<string, string> = {}): RequestInit {
	return { method, body: JSON.stringify(body), headers: { 'Content-Type': 'application/json', ...headers } };
}

/** Sends files, and tells how much of them has gone, 0…1. */
function sending<T>(url: string, body: FormData, progress: (share: number) => void, signal?: AbortSignal): Promise<T> {
	return new Promise<T>((resolve, reject) => {
		const request = new XMLHttpRequest();
		request.open('POST', url);
		request.setRequestHeader('X-Rilta', '1');
		request.responseType = 'json';
		request.upload.onprogress = (event) => progress(event.total === 0 ? 0 : event.loaded / event.total);
		request.onload = () => {
			const answer = request.response as (T & Partial<Schemas['ProblemDetails']>) | null;
			if (request.status === 201 && answer !== null) resolve(answer);
			else reject(new ApiError(request.status, answer?.title ?? 'Not possible', answer?.detail ?? `The server answered ${request.status}.`));
		};
		request.onerror = () => reject(new ApiError(0, 'No connection', 'The server cannot be reached. Is it running?'));
		request.onabort = () => reject(new DOMException('Cancelled', 'AbortError'));
		signal?.addEventListener('abort', () => request.abort());
		request.send(body);
	});
}

const project = (slug: string): string => `/api/projects/${encodeURIComponent(slug)}`;

export const api = {
	me: () => json<Me>('/api/me'),
	signIn: (email: string, password: string, code: string) => json<Account>('/api/sign-in', carrying('POST', { email, password, code })),
	signInByLink: (secret: string, code: string) => json<Account>('/api/sign-in/link', carrying('POST', { secret, code })),
	offerCodes: () => json<{ secret: string; address: string }>('/api/me/codes', carrying('POST', {})),
	beginCodes: (code: string, before: string) => json<{ recovery: string[] }>('/api/me/codes', carrying('PUT', { code, before })),
	endCodes: async (code: string): Promise<void> => void (await send('/api/me/codes', carrying('DELETE', { code }))),
	begin: () => json<Account>('/api/sign-in/begin', carrying('POST', {})),
	lookByLink: (secret: string) => json<Account>('/api/sign-in/look', carrying('POST', { secret })),
	comments: (material: number) => json<Comment[]>(`/api/materials/${material}/comments`),
	say: (material: number, text: string, pin: CommentPin | null, answers: number | null) => json<Comment[]>(`/api/materials/${material}/comments`, carrying('POST', { text, pin, answers })),
	changeComment: (id: number, change: { text?: string; resolved?: boolean }) => json<Comment[]>(`/api/comments/${id}`, carrying('PATCH', change)),
	takeComment: async (id: number): Promise<void> => void (await send(`/api/comments/${id}`, { method: 'DELETE' })),
	shareLinks: (slug: string) => json<ShareLink[]>(`${project(slug)}/links`),
	share: (slug: string, order: { name: string; role: 'viewer' | 'reviewer'; days: number; material: number | null }) => json<ShareLink>(`${project(slug)}/links`, carrying('POST', order)),
	unshare: async (slug: string, id: number): Promise<void> => void (await send(`${project(slug)}/links/${id}`, { method: 'DELETE' })),
	forgotten: async (email: string): Promise<void> => void (await send('/api/sign-in/forgotten', carrying('POST', { email }))),
	signOutEverywhere: async (email: string): Promise<void> => void (await send('/api/sign-outs', carrying('POST', { email }))),
	signOut: async (): Promise<void> => void (await send('/api/sign-in', { method: 'DELETE' })),
	changeAccount: (change: { name?: string; email?: string; password?: string; before?: string }) => json<Account>('/api/me', carrying('PATCH', change)),
	signIns: () => json<SignedIn[]>('/api/me/sign-ins'),
	endSignIn: async (id: number): Promise<void> => void (await send(`/api/me/sign-ins/${id}`, { method: 'DELETE' })),
	tokens: () => json<AccessToken[]>('/api/me/tokens'),
	makeToken: (name: string, scopes: string[], days: number) => json<AccessToken>('/api/me/tokens', carrying('POST', { name, scopes, days })),
	endToken: async (id: number): Promise<void> => void (await send(`/api/me/tokens/${id}`, { method: 'DELETE' })),
	people: (slug: string) => json<Member[]>(`${project(slug)}/people`),
	invite: (slug: string, email: string, role: PersonRole, name: string) => json<Member[]>(`${project(slug)}/people`, carrying('POST', { email, role, name })),
	changeRole: (slug: string, id: number, role: PersonRole) => json<Member[]>(`${project(slug)}/people/${id}`, carrying('PATCH', { role })),
	takeOut: async (slug: string, id: number): Promise<void> => void (await send(`${project(slug)}/people/${id}`, { method: 'DELETE' })),
	audit: (slug: string | null, words: string) => json<AuditEntry[]>(`${slug === null ? '/api' : project(slug)}/audit?words=${encodeURIComponent(words)}`),
	outbox: () => json<OutboxMail[]>('/api/outbox'),
	catalogue: () => json<Catalogue>('/api/catalogue'),
	projects: (archived = false) => json<ProjectCard[]>(`/api/projects${archived ? '?archived=yes' : ''}`),
	createProject: (name: string) => json<ProjectFacts>('/api/projects', carrying('POST', { name })),
	changeProject: (slug: string, change: { name?: string; about?: string; archived?: boolean }) => json<ProjectFacts>(project(slug), carrying('PATCH', change)),
	importProject: (file: File) => json<ProjectFacts>('/api/parcels', { method: 'POST', body: file, headers: { 'Content-Type': 'application/zip' } }),
	shelf: (slug: string, { q, sort, bin, page }: { q: string; sort: string; bin: boolean; page: number }) =>
		roled<ShelfPage>(`${project(slug)}/materials?${new URLSearchParams({ q, sort, page: String(page), ...(bin ? { bin: 'yes' } : {}) }).toString()}`),
	renameMaterial: (id: number, name: string) => json<Material>(`/api/materials/${id}`, carrying('PATCH', { name })),
	duplicateMaterial: (id: number) => json<Material>(`/api/materials/${id}/duplicate`, carrying('POST', {})),
	deleteMaterial: async (id: number): Promise<void> => void (await send(`/api/materials/${id}`, { method: 'DELETE' })),
	bringMaterialBack: (id: number) => json<Material>(`/api/materials/${id}/bring-back`, carrying('POST', {})),
	renameRecipe: (id: number, name: string) => json<Recipe>(`/api/recipes/${id}`, carrying('PATCH', { name })),
	bringRecipeBack: (id: number) => json<Recipe>(`/api/recipes/${id}/bring-back`, carrying('POST', {})),
	putBudget: (slug: string, budget: Budget) => json<Budget[]>(`${project(slug)}/budgets`, carrying('PUT', { budget })),
	deleteBudget: (slug: string, name: string) => json<Budget[]>(`${project(slug)}/budgets/${name}`, { method: 'DELETE' }),
	project: (slug: string) => roled<Project>(project(slug)),
	mesh: async (name: string): Promise<ArrayBuffer> => (await send(`/api/meshes/${name}`, {})).arrayBuffer(),
	material: (id: number) => json<Material>(`/api/materials/${id}`),
	createMaterial: (slug: string, document: MaterialDocument) =>
		json<Material>(`${project(slug)}/materials`, carrying('POST', { document })),
	startMaterial: (slug: string, name: string, set: string, start = 'plain') =>
		json<Material>(`${project(slug)}/materials`, carrying('POST', { name, set, start })),
	revisions: (id: number) => json<Revision[]>(`/api/materials/${id}/revisions`),
	revision: (id: number) => json<Revision & { document: MaterialDocument }>(`/api/revisions/${id}`),
	approve: (revision: number, approved: boolean) => json<Revision>(`/api/revisions/${revision}/approval`, carrying('PUT', { approved })),
	nameRevision: (id: number, name: string) => json<Revision>(`/api/revisions/${id}`, carrying('PATCH', { name })),
	contactSheets: (id: number) => json<ContactSheet[]>(`/api/materials/${id}/contact-sheets`),
	keepContactSheet: (id: number, name: string, png: Blob) => json<ContactSheet>(`/api/materials/${id}/contact-sheets?${new URLSearchParams({ name }).toString()}`, { method: 'POST', body: png, headers: { 'Content-Type': 'image/png' } }),
	renameContactSheet: (id: number, name: string) => json<ContactSheet>(`/api/contact-sheets/${id}`, carrying('PATCH', { name })),
	deleteContactSheet: async (id: number): Promise<void> => void (await send(`/api/contact-sheets/${id}`, { method: 'DELETE' })),
	markTemplate: (id: number, template: boolean) => json<Material>(`/api/materials/${id}/template`, carrying('PUT', { template })),
	variantTable: (document: MaterialDocument) => json<{ csv: string }>('/api/variant-table', carrying('POST', { document })),
	readVariantTable: (document: MaterialDocument, csv: string) => json<{ variants: Variant[] }>('/api/variant-table/read', carrying('POST', { document, csv })),
	saveMaterial: (id: number, version: number, document: MaterialDocument, key: string, keepalive = false, together = false, passing = false) =>
		json<Material>(`/api/materials/${id}`, {
			...carrying('PUT', { document, together, passing }, { 'If-Match': `"${version}"`, 'Idempotency-Key': key }),
			keepalive
		}),
	setAside: (id: number, document: MaterialDocument) =>
		json<Material>(`/api/materials/${id}/aside`, carrying('POST', { document })),
	multipass: (slug: string, document: MaterialDocument) => json<Schemas['MultipassAnswer']>(`${project(slug)}/multipass`, carrying('POST', { document })),
	lower: (slug: string, document: MaterialDocument, far: boolean, signal?: AbortSignal) =>
		json<Lowered>(`${project(slug)}/lower`, { ...carrying('POST', { document, far }), signal }),
	/** The stage of a number, or else that on which a material was last judged. */
	stage: (slug: string, which: { stage: number } | { material: number }) => json<Stage>(`${project(slug)}/stage?${new URLSearchParams(Object.entries(which).map(([name, value]) => [name, String(value)])).toString()}`),
	stages: (slug: string) => json<{ stages: StageCard[] }>(`${project(slug)}/stages`),
	createStage: (slug: string, start: { name: string; like?: number; document?: StageDocument }) => json<Stage>(`${project(slug)}/stages`, carrying('POST', start)),
	renameStage: (id: number, name: string) => json<Stage>(`/api/stages/${id}`, carrying('PATCH', { name })),
	deleteStage: async (id: number): Promise<void> => void (await send(`/api/stages/${id}`, { method: 'DELETE' })),
	/** Where this page looks, for others who have the material open; null if they are not to see it. */
	look: async (id: number, page: string, eye: number[] | null): Promise<void> => void (await send(`/api/materials/${id}/eye`, carrying('PUT', { page, eye }))),
	/** A material is judged on another stage from now on. */
	judgeOn: async (material: number, stage: number): Promise<void> => void (await send(`/api/materials/${material}/stage`, carrying('PUT', { stage }))),
	copies: (slug: string, order: { object: StageObject; counts: Triple; spacing: Triple; place: number; turn: number; size: number; seed: number; taken: string[] }) =>
		json<{ objects: StageObject[] }>(`${project(slug)}/stage/copies`, carrying('POST', order)),
	scatter: (slug: string, order: { object: StageObject; over: StageObject; count: number; slope: number; leans: boolean; turn: number; size: number; seed: number; taken: string[] }) =>
		json<{ objects: StageObject[] }>(`${project(slug)}/stage/scatter`, carrying('POST', order)),
	fillPaint: (slug: string, order: { object: StageObject; channel: number; by: string; value: number; from: number; to: number; size: number; seed: number; section: string }) =>
		json<{ paint: string }>(`${project(slug)}/stage/paint-fills`, carrying('POST', order)),
	paintMap: (slug: string, order: { object: StageObject; name: string; channel: number; set: number }) => json<{ set: string }>(`${project(slug)}/stage/paint-maps`, carrying('POST', order)),
	saveStage: (slug: string, stage: number, version: number, document: StageDocument, key: string, keepalive = false, together = false) =>
		json<Stage>(`${project(slug)}/stage?stage=${stage}`, { ...carrying('PUT', { document, together }, { 'If-Match': `"${version}"`, 'Idempotency-Key': key }), keepalive }),
	probe: (
		slug: string,
		body: { document: MaterialDocument; stage: StageDocument; eye: Triple; ray: Triple; rayRight: Triple; rayDown: Triple; seconds: number; variant: string }
	) => json<Trail>(`${project(slug)}/probe`, carrying('POST', body)),
	findings: (slug: string, question: { document: MaterialDocument; stage: StageDocument | null; profile: string }, signal?: AbortSignal) =>
		json<{ findings: JudgedFinding[] }>(`${project(slug)}/findings`, { ...carrying('POST', question), signal }),
	searchRepeat: (slug: string, document: MaterialDocument, fetches: number) => json<RepeatSearch>(`${project(slug)}/repeat-searches`, carrying('POST', { document, fetches })),
	repeatSearch: (id: number) => json<RepeatSearch>(`/api/repeat-searches/${id}`),
	cancelRepeatSearch: (id: number) => json<RepeatSearch>(`/api/repeat-searches/${id}/cancel`, carrying('POST', {})),
	/** A material as code in a language, and what a host has to know of it. */
	layersAt: (slug: string, asked: { document: MaterialDocument; points: number[][] }, signal?: AbortSignal) => json<LayersAt>(`${project(slug)}/layers-at`, { ...carrying('POST', asked), signal }),
	code: (slug: string, asked: { document: MaterialDocument; target: string; prefix: string; arrays: boolean; harness: boolean }, signal?: AbortSignal) => json<MaterialCode>(`${project(slug)}/code`, { ...carrying('POST', asked), signal }),
	costs: (slug: string, document: MaterialDocument, signal?: AbortSignal) => json<Costs>(`${project(slug)}/costs`, { ...carrying('POST', { document }), signal }),
	repetition: (slug: string, question: { document: MaterialDocument; without?: string; fine?: boolean }, signal?: AbortSignal) =>
		json<Repetition>(`${project(slug)}/repetition`, { ...carrying('POST', question), signal }),
	askBake: (slug: string, document: MaterialDocument, wanted: { size: number; variant: string; edges?: 'as-computed' | 'cut'; longest?: number; material?: number; onto?: BakeTarget; files?: 'png' | 'tga' | 'ktx2' | 'ktx2-blocks'; green?: '+y' | '-y' }) =>
		json<Bake>(`${project(slug)}/bakes`, carrying('POST', { document, ...wanted })),
	tile: (slug: string, document: MaterialDocument, variant: string, longest?: number) =>
		json<{ width: number; height: number; obstacle: string | null }>(`${project(slug)}/tile`, carrying('POST', { document, variant, longest })),
	/** How an object lies in one of its sets of UVs. */
	layout: (slug: string, onto: MeshTarget, size: number) => json<UvLayout>(`${project(slug)}/layout`, carrying('POST', { onto, size })),
	bakes: (slug: string, material: number) => json<Bake[]>(`${project(slug)}/bakes?material=${material}`),
	deleteBake: async (id: number): Promise<void> => void (await send(`/api/bakes/${id}`, { method: 'DELETE' })),
	bake: (id: number) => json<Bake>(`/api/bakes/${id}`),
	bakeAgain: (id: number) => json<Bake>(`/api/bakes/${id}/again`, carrying('POST', {})),
	cancelBake: (id: number) => json<Bake>(`/api/bakes/${id}/cancel`, carrying('POST', {})),
	profiles: (slug: string) => json<OfferedProfile[]>(`${project(slug)}/profiles`),
	putProfile: (slug: string, profile: DeliveryProfile) => json<OfferedProfile[]>(`${project(slug)}/profiles`, carrying('PUT', { profile })),
	deleteProfile: (slug: string, name: string) => json<OfferedProfile[]>(`${project(slug)}/profiles/${name}`, { method: 'DELETE' }),
	/** Variants by id, "" for the material as it is written; null for that and all of them. */
	deliver: (slug: string, materials: number[], variants: string[] | null, profile: string) => json<Delivery[]>(`${project(slug)}/deliveries`, carrying('POST', { materials, variants, profile })),
	deliveries: (slug: string, material: number) => json<Delivery[]>(`${project(slug)}/deliveries?material=${material}`),
	cancelDelivery: (id: number) => json<Delivery>(`/api/deliveries/${id}/cancel`, carrying('POST', {})),
	deliverAgain: (id: number) => json<Delivery>(`/api/deliveries/${id}/again`, carrying('POST', {})),
	deleteDelivery: async (id: number): Promise<void> => void (await send(`/api/deliveries/${id}`, { method: 'DELETE' })),
	deliveredFile: async (url: string): Promise<ArrayBuffer> => (await send(url, {})).arrayBuffer(),
	/** Sends one file and tells how much of it has gone, 0…1. */
	upload: (slug: string, file: File, progress: (share: number) => void, signal: AbortSignal) => {
		const body = new FormData();
		body.append('file', file);
		return sending<Looked>(`${project(slug)}/uploads`, body, progress, signal);
	},
	meshes: (slug: string) => json<{ meshes: OwnMesh[] }>(`${project(slug)}/meshes`),
	/** Sends a mesh with the files that belong to it, or several. */
	bringMeshes: (slug: string, files: File[], replaces: string, progress: (share: number) => void) => {
		const body = new FormData();
		for (const file of files) body.append('files[]', file);
		if (replaces !== '') body.append('replaces', replaces);
		return sending<{ meshes: OwnMesh[]; refused: { file: string; reason: string }[]; lost: string[] }>(`${project(slug)}/meshes`, body, progress);
	},
	/** Sends materials of other formats, with the images that they read. */
	bringMaterials: (slug: string, files: File[], progress: (share: number) => void) => {
		const body = new FormData();
		for (const file of files) body.append('files[]', file);
		return sending<BroughtMaterials>(`${project(slug)}/material-files`, body, progress);
	},
	/** Another mesh in place of one, and what is painted on that. */
	editMesh: (slug: string, mesh: string, edit: Record<string, unknown>, paint: string | null, watch: string | null = null) => json<{ mesh: OwnMesh; paint: string | null }>(`${project(slug)}/mesh-edits`, carrying('POST', { mesh, edit, paint, watch })),
	/** How far a change of a mesh is, 0…1; null if nothing is known of it. */
	meshEditing: (watch: string) => json<{ share: number | null }>(`/api/mesh-edits/${watch}`),
	giveUpMeshEdit: async (watch: string): Promise<void> => void (await send(`/api/mesh-edits/${watch}`, { method: 'DELETE' })),
	meshFaces: (slug: string, mesh: string, faces: Record<string, unknown>) => json<{ runs: number[][] }>(`${project(slug)}/mesh-faces`, carrying('POST', { mesh, faces })),
	/** Four bytes a vertex. */
	paint: async (name: string): Promise<ArrayBuffer> => (await send(`/api/paints/${name}`, {})).arrayBuffer(),
	keepPaint: (slug: string, paint: Uint8Array) => json<{ paint: string }>(`${project(slug)}/paints`, { method: 'POST', body: paint as Uint8Array<ArrayBuffer>, headers: { 'Content-Type': 'application/octet-stream' } }),
	changeMesh: (name: string, change: { label?: string; options?: OwnMesh['options']; deleted?: boolean; kept?: boolean }) => json<OwnMesh>(`/api/meshes/${name}`, carrying('PATCH', change)),
	revertMesh: (name: string, number: number) => json<OwnMesh>(`/api/meshes/${name}/versions/${number}`, carrying('POST', {})),
	wares: (words: string, kind: string, side: number, page: number) =>
		json<Wares>(`/api/supplier/wares?${new URLSearchParams({ words, kind, side: String(side), page: String(page) })}`),
	fetchWare: (slug: string, ware: string, side: number, signal: AbortSignal) => json<Looked>(`${project(slug)}/wares`, { ...carrying('POST', { ware, side }), signal }),
	keepMaps: (
		slug: string,
		maps: { file: string; sha256: string; set: string; extent: number; role: Role; encoding: Encoding; inverted: boolean; channels: PackedChannel[] }[],
		families: Alternates[]
	) => json<Kept>(`${project(slug)}/sets`, carrying('POST', { maps, families })),
	/** Which of these sets, that are not there yet, look like alternates. */
	alternates: (slug: string, sets: string[]) => json<Alternates[]>(`${project(slug)}/alternates`, carrying('POST', { sets })),
	changeMap: (id: number, change: { role?: Role; encoding?: Encoding; extent?: number; inverted?: boolean; channels?: PackedChannel[]; sampling?: Partial<Sampling> }) =>
		json<MapSet>(`/api/maps/${id}`, carrying('PATCH', change)),
	fixMap: (id: number, fix: Fix) => json<MapSet | Task>(`/api/maps/${id}/fix`, carrying('POST', { fix })),
	restoreMap: (id: number, version: number) => json<MapSet>(`/api/maps/${id}/versions/${version}/restore`, { method: 'POST' }),
	unpackMap: (id: number) => json<MapSet | Task>(`/api/maps/${id}/unpack`, { method: 'POST' }),
	deleteMap: async (id: number): Promise<void> => void (await send(`/api/maps/${id}`, { method: 'DELETE' })),
	bringBackMap: (id: number) => json<MapSet>(`/api/maps/${id}/bring-back`, carrying('POST', {})),
	fillSet: (id: number, way: Way) =>
		json<MapSet | Task>(`/api/sets/${id}/fill`, carrying('POST', { role: way.role, ...(way.from === null ? { value: way.value } : { from: way.from }) })),
	cutSet: (id: number, cut: SheetCut) => json<MapSet>(`/api/sets/${id}/sheet`, carrying('PUT', cut)),
	joinSet: (id: number) => json<MapSet>(`/api/sets/${id}/sheet`, { method: 'DELETE' }),
	binnedMaps: (slug: string) => json<BinnedMap[]>(`${project(slug)}/bin`),
	packMaps: (id: number, name: string, channels: { map?: number; channel?: 'x' | 'y' | 'z' | 'w'; inverted?: boolean; low: number; high?: number }[]) =>
		json<MapSet | Task>(`/api/sets/${id}/pack`, carrying('POST', { name, channels })),
	sets: (slug: string, words: string, faulty: boolean, page: number) =>
		json<SetPage>(`${project(slug)}/sets?${new URLSearchParams({ words, faulty: faulty ? '1' : '0', page: String(page) })}`),
	set: (id: number) => json<MapSet>(`/api/sets/${id}`),
	task: (id: number) => json<Task>(`/api/tasks/${id}`),
	cancelTask: (id: number) => json<Task>(`/api/tasks/${id}/cancel`, carrying('POST', {})),
	tagSet: (id: number, tags: string[]) => json<MapSet>(`/api/sets/${id}`, carrying('PATCH', { tags })),
	createFamily: (slug: string, name: string, sets: string[]) => json<Family>(`${project(slug)}/families`, carrying('POST', { name, sets })),
	changeFamily: (id: number, change: { name?: string; sets?: string[] }) => json<Family>(`/api/families/${id}`, carrying('PATCH', change)),
	deleteFamily: async (id: number): Promise<void> => void (await send(`/api/families/${id}`, { method: 'DELETE' })),
	alignFamily: (id: number, set: string) => json<Family | Task>(`/api/families/${id}/align`, carrying('POST', { set })),
	recipe: (id: number) => json<Recipe>(`/api/recipes/${id}`),
	startRecipe: (slug: string, name: string) => json<Recipe>(`${project(slug)}/recipes`, carrying('POST', { name })),
	createRecipe: (slug: string, document: RecipeDocument) => json<Recipe>(`${project(slug)}/recipes`, carrying('POST', { document })),
	saveRecipe: (id: number, version: number, document: RecipeDocument, key: string, keepalive = false, together = false) =>
		json<Recipe>(`/api/recipes/${id}`, { ...carrying('PUT', { document, together }, { 'If-Match': `"${version}"`, 'Idempotency-Key': key }), keepalive }),
	deleteRecipe: async (id: number): Promise<void> => void (await send(`/api/recipes/${id}`, { method: 'DELETE' })),
	repeatRecipe: (id: number, copies: number, otherSeeds: boolean) => json<Recipe[]>(`/api/recipes/${id}/again`, carrying('POST', { copies, otherSeeds })),
	cookRecipe: (id: number) => json<Bake>(`/api/recipes/${id}/cook`, carrying('POST', {})),
	previewRecipe: (document: RecipeDocument, signal?: AbortSignal) => json<LoweredRecipe>('/api/recipe-preview', { ...carrying('POST', { document }), signal }),
	deviceCheck: (id: number) => json<Schemas['DeviceCheck']>(`/api/materials/${id}/device-check`),
	devices: (slug: string) => json<Schemas['Devices']>(`${project(slug)}/devices`),
	keepDevice: (slug: string, result: Omit<Schemas['Devices']['devices'][number], 'checkedAt'>) => json<Schemas['Devices']>(`${project(slug)}/devices`, carrying('POST', result)),
	texels: async (url: string): Promise<ArrayBuffer> => (await send(url, {})).arrayBuffer()
};
