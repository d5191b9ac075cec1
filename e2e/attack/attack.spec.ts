import { expect, test, type Page } from '@playwright/test';
import { readFileSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { get, type IncomingHttpHeaders } from 'node:http';
import { png } from '../application/bench';
import { damaged, mutated, pick, random } from './mutate';
import { ADDRESS, ask, broken, figures, insist, kill, pause, put, rilta, sha } from './server';

/**
 * What was promised holds, whatever fails: every write that was acknowledged is there at the end, nothing waits for
 * ever, and no request causes an answer of 500.
 */
const LONG = process.env.RILTA_ATTACK === 'long';
const SEED = Number(process.env.RILTA_ATTACK_SEED ?? 20261127);
const DATA = process.env.RILTA_DATA ?? '';
const QUAY = '/api/projects/attack';
const DEMO = '/api/projects/ebbwater-station';

/** Names of materials, bytes of maps and bakes that the server has said to have. */
const ledger = { materials: new Map<number, string>(), maps: new Map<number, string>(), bakes: new Set<number>(), tasks: new Set<number>() };
type Doc = Record<string, unknown> & { name: string };
let document: Doc;
let recipe: unknown;
const by = random(SEED);
let images = 0;
/** What was kept into one map at once: files and their hashes, and those of which it was said. */
let race: { set: number; map: number; sent: ReadonlyMap<string, string>; kept: string[] } | undefined;
/** Always another one; noise, so that it has some weight. */
const image = (side = 48): Buffer => {
	const own = random(SEED + ++images);
	return png(side, side, () => [own() * 256, own() * 256, own() * 256]);
};
const form = (bytes: Buffer, name: string): FormData => {
	const data = new FormData();
	data.set('file', new Blob([new Uint8Array(bytes)]), name);
	return data;
};
type Kept = { sets: { id: number; name: string; maps: { id: number; file: string }[] }[] };
/** The ledger has what was kept; each map is held against the bytes that were sent. */
function noted(kept: unknown, sent: ReadonlyMap<string, string>): void {
	for (const set of (kept as Kept).sets) {
		for (const map of set.maps) {
			const was = sent.get(map.file);
			if (was === undefined || ledger.maps.has(map.id)) continue;
			ledger.maps.set(map.id, was);
			figures.writes++;
		}
	}
}
async function uploaded(bytes: Buffer, name: string): Promise<Record<string, unknown>> {
	const looked = (await insist('POST', `${QUAY}/uploads`, form(bytes, name))).body as { maps: Record<string, unknown>[] };
	return looked.maps[0]!;
}
const asKept = (map: Record<string, unknown>, set: string): object => ({ file: map.file, sha256: map.sha256, set, extent: 1, role: 'base-colour', encoding: 'colour' });
async function settledBake(id: number, most: number): Promise<string> {
	let state = '';
	for (const end = Date.now() + most; Date.now() < end; await pause(500)) {
		state = ((await insist('GET', `/api/bakes/${id}`)).body as { state: string }).state;
		if (state !== 'waiting') break;
	}
	return state;
}

test.describe.configure({ mode: 'serial' });

test.beforeAll(async () => {
	await insist('POST', '/api/projects', { name: 'Attack' });
	const demo = (await insist('GET', `${DEMO}/materials`)).body as { materials: { id: number; name: string }[] };
	const wall = demo.materials.find((one) => one.name === 'Long wall') ?? demo.materials[0]!;
	document = ((await insist('GET', `/api/materials/${wall.id}`)).body as { document: Doc }).document;
	const recipes = (await insist('GET', DEMO)).body as { recipes: { id: number }[] };
	recipe = ((await insist('GET', `/api/recipes/${recipes.recipes[0]!.id}`)).body as { document: unknown }).document;
});

test('servers that are killed while maps come in lose none that was acknowledged', async () => {
	for (let i = 0; i < (LONG ? 40 : 6); i++) {
		const [bytes, name] = [image(160), `kill-${i}.png`];
		const work = uploaded(bytes, name);
		await pause(by() * 120);
		kill(pick(['fpm', 'nginx', 'mariadb'], by));
		figures.kills++;
		const map = await work;
		const keep = insist('POST', `${QUAY}/sets`, { maps: [asKept(map, `kill-${i}`)] });
		await pause(by() * 60);
		kill(pick(['fpm', 'mariadb'], by));
		figures.kills++;
		const kept = await keep;
		expect(kept.status, kept.bytes.toString()).toBe(201);
		noted(kept.body, new Map([[name, sha(bytes)]]));
	}
});

test('saves that were acknowledged outlive the database', async () => {
	const ids: number[] = [];
	for (const name of ['North', 'South']) {
		const made = await insist('POST', `${DEMO}/materials`, { document: { ...document, name } });
		ids.push((made.body as { id: number }).id);
		ledger.materials.set(ids.at(-1)!, name);
	}
	let going = true;
	const save = async (id: number): Promise<void> => {
		for (let i = 1; going; i++) {
			const version = ((await insist('GET', `/api/materials/${id}`)).body as { version: number }).version;
			const name = `${id}, save ${i}`;
			const answer = await insist('PUT', `/api/materials/${id}`, { document: { ...document, name } }, { 'If-Match': `"${version}"`, 'Idempotency-Key': `attack-${id}-${i}` });
			expect(answer.status, answer.bytes.toString()).toBe(200);
			ledger.materials.set(id, name);
			figures.writes++;
		}
	};
	const saving = Promise.all(ids.map(save));
	for (let i = 0; i < (LONG ? 20 : 3); i++) {
		await pause(500 + by() * 800);
		kill(pick(['mariadb', 'fpm'], by));
		figures.kills++;
	}
	await pause(1000);
	going = false;
	await saving;
});

test('workers that are killed in a region and in the assembly leave no bake behind', async () => {
	for (const [size, when] of [[512, 0], [512, 1]] as const) {
		const bake = (await insist('POST', `${DEMO}/bakes`, { document, size })).body as { id: number };
		ledger.bakes.add(bake.id);
		for (let i = 0; i < 200; i++) {
			const { regions, state } = (await insist('GET', `/api/bakes/${bake.id}`)).body as { regions: { done: number; all: number }; state: string };
			if (state !== 'waiting' || (when === 0 ? regions.done >= 1 : regions.done >= regions.all - 1)) break;
			await pause(20);
		}
		for (const worker of ['worker-1', 'worker-2']) kill(worker);
		figures.kills += 2;
	}
});

test('of many at once, each gets its own or is told why not', async () => {
	const maps = await Promise.all([0, 1, 2, 3, 4, 5].map(async (i) => {
		const bytes = image();
		return { name: `race-${i}.png`, hash: sha(bytes), map: await uploaded(bytes, `race-${i}.png`) };
	}));
	const sent = new Map(maps.map((one) => [one.name, one.hash]));
	const kept = await Promise.all(maps.map((one) => ask('POST', `${QUAY}/sets`, { maps: [asKept(one.map, 'race')] })));
	// Of one map at once, each is a version of it; the last is the current one.
	for (const one of kept.filter((answer) => answer.status === 201)) {
		for (const set of (one.body as Kept).sets) for (const map of set.maps) race = { set: set.id, map: map.id, sent, kept: [...(race?.kept ?? []), map.file] };
		figures.writes++;
	}
	expect(race?.kept.length).toBeGreaterThan(0);
	expect(kept.every((one) => [201, 409, 422].includes(one.status)), kept.map((one) => one.status).join()).toBe(true);
	const eight = [...Array(8).keys()];
	const all = await Promise.all([
		...eight.map(() => ask('POST', `${DEMO}/bakes`, { document, size: 256 })),
		...eight.map(() => ask('POST', `${DEMO}/materials`, { document: { ...document, name: 'Twin' } })),
		...eight.map(() => ask('POST', `${DEMO}/families`, { name: 'Twins', sets: ['lime-plaster'] })),
		...eight.map(() => ask('POST', '/api/projects', { name: 'Twin quay' })),
		...eight.map(() => ask('POST', `${QUAY}/recipes`, { document: recipe }))
	]);
	for (const answer of all.slice(0, 8)) if (answer.status === 201) ledger.bakes.add((answer.body as { id: number }).id);
	for (const answer of all.slice(8, 16).filter((one) => one.status === 201)) {
		ledger.materials.set((answer.body as { id: number }).id, 'Twin');
		figures.writes++;
	}
	expect(all.slice(8, 16).every((one) => one.status === 201)).toBe(true);
	// Two people from the same version: one is first, the other is told.
	const id = [...ledger.materials.keys()].at(-1)!;
	const version = ((await insist('GET', `/api/materials/${id}`)).body as { version: number }).version;
	const saves = await Promise.all(eight.map((i) => ask('PUT', `/api/materials/${id}`, { document: { ...document, name: `Twin ${i}` } }, { 'If-Match': `"${version}"`, 'Idempotency-Key': `attack-twin-${i}` })));
	expect(saves.map((one) => one.status).sort()).toEqual([200, 412, 412, 412, 412, 412, 412, 412]);
	ledger.materials.set(id, `Twin ${saves.findIndex((one) => one.status === 200)}`);
});

test('no request that is out of shape causes a 500', async () => {
	test.setTimeout(LONG ? 3_600_000 : 1_200_000);
	const bytes = image();
	const kept = (await insist('POST', `${QUAY}/sets`, { maps: [asKept(await uploaded(bytes, 'prey.png'), 'prey')] })).body as Kept;
	const [set, map] = [kept.sets.find((one) => one.name === 'prey')!.id, kept.sets.find((one) => one.name === 'prey')!.maps[0]!.id];
	const material = ((await insist('POST', `${DEMO}/materials`, { document: { ...document, name: 'Prey' } })).body as { id: number }).id;
	const cook = ((await insist('POST', `${QUAY}/recipes`, { document: recipe })).body as { id: number }).id;
	const family = ((await insist('POST', `${DEMO}/families`, { name: 'Prey', sets: ['lime-plaster'] })).body as { id: number }).id;
	const revision = ((await insist('GET', `/api/materials/${material}/revisions`)).body as { id: number }[])[0]?.id ?? 1;
	const stage = ((await insist('GET', `${QUAY}/stage`)).body as { document: unknown }).document;
	const sight = { document, stage, eye: [0, 1, 5], ray: [0, 0, -1], rayRight: [0.1, 0, -1], rayDown: [0, -0.1, -1] };
	const placed = (id: string): object => ({ id, name: 'A', mesh: 'cube', position: [0, 0, 0], turn: [0, 0, 0], scale: [1, 1, 1] });
	const keep = { maps: [asKept(await uploaded(image(), 'again.png'), 'again')] };
	const bodies: [method: string, url: string, body?: unknown][] = [
		['POST', '/api/projects', { name: 'Prey', about: 'x' }], ['PATCH', '/api/projects/twin-quay', { name: 'Twin', about: '', archived: false }],
		['POST', `${QUAY}/sets`, keep], ['POST', `${DEMO}/materials`, { document }], ['POST', `${DEMO}/materials`, { name: 'A', set: 'lime-plaster', start: '' }],
		['PUT', `${QUAY}/stage`, { document: stage, together: true }], ['POST', `${QUAY}/stages`, { name: 'Prey', document: stage, like: 1 }], ['PATCH', '/api/stages/1', { name: 'Prey' }], ['PUT', `/api/materials/${material}/stage`, { stage: 1 }], ['PUT', `/api/materials/${material}/eye`, { page: 'prey', eye: [0, 1, 2, 3, 4, 5] }],
		['DELETE', '/api/stages/999'], ['POST', '/api/meshes/own-1/versions/1', {}], ['PATCH', '/api/meshes/own-1', { label: 'Prey', options: { scale: 2, up: 'z', turned: true, crease: 30 }, deleted: false }], ['POST', `${QUAY}/stage/copies`, { object: { id: 'a', name: 'A', mesh: 'cube', position: [0, 0, 0], turn: [0, 0, 0], scale: [1, 1, 1] }, counts: [3, 1, 2], spacing: [1.5, 0, 2], place: 0.1, turn: 5, size: 3, seed: 4, taken: ['floor'] }],
		['POST', `${QUAY}/stage/scatter`, { object: placed('a'), over: placed('floor'), count: 4, slope: 40, leans: true, turn: 5, size: 3, seed: 4, taken: ['floor'] }], ['POST', `${QUAY}/stage/paint-fills`, { object: placed('a'), channel: 1, by: 'noise', value: 1, from: 0.4, to: 0.6, size: 0.5, seed: 1, section: '' }],
		['POST', `${QUAY}/stage/paint-maps`, { object: placed('a'), name: 'worn', channel: 1, set: 2, size: 256 }],
		['POST', `${QUAY}/mesh-edits`, { mesh: 'cube', edit: { edit: 'unwrap', set: 1, angle: 50 } }], ['POST', `${QUAY}/mesh-edits`, { mesh: 'cube', edit: { edit: 'refine', edge: 0.2, around: [[0, 0.5, 0, 0.4]] } }], ['POST', `${QUAY}/mesh-edits`, { mesh: 'cube', edit: { edit: 'origin', set: 1, origin: { space: 'world', faces: 'xz' }, parameters: [], stands: { position: [1, 0, 2], scale: [1, 2, 1] } }, watch: 'prey-0001' }], ['DELETE', '/api/mesh-edits/prey-0002'], ['POST', `${QUAY}/mesh-faces`, { mesh: 'cube', faces: { by: 'smooth', triangle: 2, angle: 20 } }],
		['POST', `${DEMO}/lower`, { document }], ['POST', `${DEMO}/multipass`, { document }], ['POST', `${DEMO}/probe`, sight], ['POST', `${DEMO}/findings`, { document, stage: sight.stage, profile: 'small' }], ['POST', `${DEMO}/costs`, { document }], ['POST', `${DEMO}/code`, { document, target: 'wgsl', prefix: 'wall' }], ['POST', `${DEMO}/layers-at`, { document, points: [[0, 0, 0]] }], ['PUT', `${QUAY}/budgets`, { budget: { format: 'rilta-budget/1', name: 'own', label: 'Own', help: '', mapReads: 3, maps: 3, mebibytes: 3, operations: 3 } }], ['DELETE', `${QUAY}/budgets/other`], ['PUT', `${QUAY}/profiles`, { profile: { format: 'rilta-delivery/1', name: 'own', label: 'Own', code: ['c'], textures: 'single', bake: { size: 64, names: '{role}' } } }], ['DELETE', `${QUAY}/profiles/other`], ['POST', `${QUAY}/deliveries`, { materials: [999999], profile: 'renderer' }], ['PATCH', '/api/contact-sheets/999999', { name: 'A' }], ['DELETE', '/api/contact-sheets/999999'], ['POST', `${DEMO}/repeat-searches`, { document, fetches: 12 }], ['POST', `${DEMO}/layout`, { onto: { object: (stage as { objects: unknown[] }).objects[0], set: 2 }, size: 256 }], ['POST', `${DEMO}/repetition`, { document, without: '/lanes/0/steps/1' }],
		['POST', `${QUAY}/folder`, { known: { materials: { a: 1 } }, taken: { materials: ['b'] } }], ['POST', `${QUAY}/folder/files`, { files: ['0'.repeat(64)] }], ['PUT', `${QUAY}/folder`, { state: '0'.repeat(64), changes: { project: { name: 'Prey' }, materials: { a: null } }, known: {}, taken: {} }],
		['POST', `${DEMO}/bakes`, { document, size: 256, variant: '', edges: 'cut', longest: 8, material }], ['POST', `${DEMO}/tile`, { document, longest: 8 }],
		['PATCH', `/api/maps/${map}`, { role: 'roughness', encoding: 'data', inverted: true, extent: 1, channels: [{ role: 'roughness', channels: 'x', inverted: true }] }],
		['PUT', `/api/materials/${material}`, { document }], ['PATCH', `/api/materials/${material}`, { name: 'Prey' }], ['POST', `/api/materials/${material}/aside`, { document }],
		['POST', `/api/materials/${material}/duplicate`], ['POST', `/api/materials/${material}/bring-back`], ['PUT', `/api/materials/${material}/template`, { template: true }],
		['POST', `/api/maps/${map}/bring-back`], ['POST', `/api/maps/${map}/fix`, { fix: 'invert' }], ['POST', `/api/maps/${map}/unpack`], ['POST', `/api/maps/${map}/versions/1/restore`],
		['POST', `/api/sets/${set}/fill`, { role: 'height', from: 'base-colour', value: 0.5 }], ['POST', `/api/sets/${set}/pack`, { name: 'p', channels: [{ map, channel: 'x', inverted: true, low: 0, high: 1 }, { low: 0 }, { low: 0 }] }],
		['POST', `${DEMO}/families`, { name: 'F', sets: ['lime-plaster'] }], ['PATCH', `/api/families/${family}`, { name: 'Prey', sets: ['lime-plaster'] }], ['POST', `/api/families/${family}/align`, { set: 'lime-plaster' }],
		['PUT', `/api/sets/${set}/sheet`, { columns: 2, rows: 2 }], ['PUT', `/api/sets/${set}/sheet`, { rectangles: [{ x: 0, y: 0, width: 50, height: 50 }] }], ['DELETE', `/api/sets/${set}/sheet`],
		['PATCH', `/api/sets/${set}`, { tags: ['wall', 'wet'] }], ['POST', `${QUAY}/alternates`, { sets: ['prey', 'again'] }], ['POST', `${QUAY}/wares`, { ware: 'tar', side: 512 }],
		['POST', `${QUAY}/recipes`, { document: recipe }], ['PUT', `/api/recipes/${cook}`, { document: recipe, together: true }], ['PATCH', `/api/recipes/${cook}`, { name: 'Prey' }], ['POST', `/api/recipes/${cook}/again`, { copies: 1, otherSeeds: true }],
		['POST', `/api/recipes/${cook}/bring-back`], ['POST', '/api/recipe-preview', { document: recipe }], ['POST', `${QUAY}/devices`, { device: 'd', browser: 'b', materials: 1, samples: 9, off: 1, far: 0, worst: 0.5 }], ['PATCH', `/api/revisions/${revision}`, { name: 'r' }],
		['POST', '/api/variant-table', { document }], ['POST', '/api/variant-table/read', { document, csv: 'variant,a\nb,1\n' }], ['POST', '/api/bakes/999999/cancel'], ['POST', '/api/bakes/999999/again'], ['POST', '/api/tasks/999999/cancel'], ['POST', '/api/repeat-searches/999999/cancel'], ['POST', '/api/deliveries/999999/cancel'], ['POST', '/api/deliveries/999999/again'], ['DELETE', '/api/deliveries/999999'],
		['POST', '/api/sign-in', { email: 'a@b.example', password: 'x' }], ['POST', '/api/sign-in/link', { secret: 'x' }], ['POST', '/api/sign-in/look', { secret: 'x' }], ['POST', '/api/sign-in/begin', {}], ['POST', '/api/sign-in/forgotten', { email: 'a@b.example' }], ['POST', '/api/sign-outs', { email: 'a@b.example' }], ['DELETE', '/api/sign-in'],
		['PATCH', '/api/me', { name: 'A', email: 'a@b.example', password: 'x', before: 'y' }], ['DELETE', '/api/me/sign-ins/999999'], ['POST', '/api/me/codes', {}], ['PUT', '/api/me/codes', { code: '123456' }], ['DELETE', '/api/me/codes', { code: '123456' }], ['POST', '/api/me/tokens', { name: 'A', scopes: ['read'], days: 3 }], ['DELETE', '/api/me/tokens/999999'],
		['POST', `${QUAY}/people`, { email: 'a@b.example', role: 'viewer', name: 'A' }], ['PATCH', `${QUAY}/people/999999`, { role: 'editor' }], ['DELETE', `${QUAY}/people/999999`],
		['POST', `/api/materials/${material}/comments`, { text: 'a', answers: 1, pin: { path: '/layers/0', label: 'A', object: 'B', position: [0, 1, 2], eye: [0, 1, 2, 3, 4, 5], variant: '', trail: 'x' } }], ['PATCH', '/api/comments/1', { text: 'b', resolved: true }], ['DELETE', '/api/comments/999999'], ['PUT', `/api/revisions/${revision}/approval`, { approved: true }],
		['POST', `${QUAY}/links`, { name: 'A', role: 'viewer', days: 3, material: 1 }], ['DELETE', `${QUAY}/links/999999`],
		['POST', `/api/recipes/${cook}/cook`], ['DELETE', `/api/recipes/${cook}`], ['DELETE', `/api/maps/${map}`], ['DELETE', '/api/families/999999'], ['DELETE', '/api/bakes/999999'], ['DELETE', '/api/materials/999999'],
		...['/api/health', '/api/ready', '/api/metrics', '/api/me', '/api/me/sign-ins', '/api/me/tokens', '/api/outbox', '/api/audit?words=a', '/api/audit.csv', `${QUAY}/people`, `${QUAY}/audit?words=a`, `${QUAY}/audit.csv`, `${QUAY}/links`, `${QUAY}/hearing`, `/api/materials/${material}/comments`, '/api/catalogue', '/api/schema/material', '/api/schema/recipe', '/api/meshes/box', '/api/projects', QUAY, `${DEMO}/materials?words=a&sort=name&page=1`, `${DEMO}/sets?words=a&page=1`, `${QUAY}/bin`, `${QUAY}/stage`,
			`${DEMO}/bakes?material=${material}`, `/api/materials/${material}`, `/api/materials/${material}/revisions`, `/api/materials/${material}/device-check`, `${QUAY}/devices`, `/api/revisions/${revision}`, `/api/sets/${set}`, `/api/maps/${map}/file`, `/api/recipes/${cook}`,
			`/api/families/${family}/array.json`, '/api/tasks/1', '/api/bakes/1', '/api/bakes/1/base-colour.png', '/api/bakes/1/files.zip', '/api/deliveries/1', '/api/deliveries/1/files.zip', '/api/deliveries/1/file?path=manifest.json', `${QUAY}/profiles`, `${DEMO}/deliveries?material=${material}`, '/api/supplier/wares?words=a', '/api/supplier/wares/tar/preview.png'].map((url): [string, string] => ['GET', url])
	];
	// Every operation that the application says to have is among them; files have a test of their own.
	const openapi = JSON.parse(readFileSync(new URL('../../app/config/openapi.json', import.meta.url), 'utf8')) as { paths: Record<string, Record<string, unknown>> };
	const writes = Object.entries(openapi.paths).flatMap(([path, methods]) => Object.keys(methods).filter((method) => ['post', 'put', 'patch', 'delete'].includes(method)).map((method) => `${method.toUpperCase()} ${path}`));
	const hit = (operation: string): boolean => bodies.some(([method, url]) => new RegExp(`^${operation.replace(/\{[^}]+\}/g, '[^/]+')}$`).test(`${method} ${url}`));
	expect(writes.filter((operation) => !hit(operation))).toEqual(['POST /api/materials/{id}/contact-sheets', 'POST /api/parcels', 'PUT /api/projects/{slug}/folder/files/{sha}', 'POST /api/projects/{slug}/material-files', 'POST /api/projects/{slug}/meshes', 'POST /api/projects/{slug}/paints', 'POST /api/projects/{slug}/uploads']);

	const IDS = ['0', '-1', '99999999999999999999', 'x', '%00', '%ff', '..%2f..', '1e3', '%F0%9F%A7%B1', `${'9'.repeat(400)}`];
	const versions = new Map<string, number>();
	const one = async (): Promise<void> => {
		const [method, url, body] = pick(bodies, by);
		const target = by() < 0.15 ? url.replace(/\d+|attack|ebbwater-station/, () => pick(IDS, by)) : by() < 0.1 ? `${url}${url.includes('?') ? '&' : '?'}${pick(['page', 'words', 'sort', 'material', 'a[]'], by)}=${pick([...IDS, '-5', '[]'], by)}` : url;
		const json = JSON.stringify(mutated(body, by)) ?? '';
		const raw = by();
		const sent = method === 'GET' ? undefined : raw < 0.04 ? json.slice(0, Math.floor(by() * json.length)) : raw < 0.06 ? new Uint8Array(damaged(Buffer.from(json), by)) : json;
		const headers: Record<string, string> = {};
		if (method === 'PUT') headers['If-Match'] = by() < 0.9 ? `"${versions.get(url) ?? 1}"` : pick(['', '*', '"x"', 'W/"1"', '"99999999999999"'], by);
		if (by() < 0.05) headers['Idempotency-Key'] = pick(['short', 'long'.repeat(80), 'good-enough-key'], by);
		if (by() < 0.03) headers['Content-Type'] = pick(['text/plain', 'application/xml', 'multipart/form-data', 'application/json; charset=utf-7'], by);
		if (by() < 0.03) headers['Accept-Language'] = 'x'.repeat(400);
		const answer = await ask(method, target, sent, headers);
		const version = (answer.body as { version?: unknown } | null)?.version;
		if (method === 'PUT' && answer.status < 300 && typeof version === 'number') versions.set(url, version);
	};
	const each = (LONG ? 20_000 : 2000) / 4;
	await Promise.all([0, 1, 2, 3].map(async () => {
		for (let i = 0; i < each; i++) await one();
	}));
});

test('streams of events take whatever is asked of them, and tell nothing of other projects', async () => {
	const { materials } = (await insist('GET', `${DEMO}/materials`)).body as { materials: { id: number }[] };
	const listening = async (path: string, headers: Record<string, string> = {}): Promise<[number, string]> => {
		const ends = new AbortController();
		const answer = await fetch(`${ADDRESS}${path}`, { headers, signal: ends.signal });
		let told = '';
		if (answer.ok) {
			setTimeout(() => ends.abort(), 1000);
			const reader = answer.body!.getReader();
			for (let next = await reader.read(); !next.done; next = await reader.read().catch(() => ({ done: true as const, value: undefined }))) told += Buffer.from(next.value).toString();
		}
		return [answer.status, told];
	};
	const watched = await fetch(`${ADDRESS}${DEMO}/events?material=${materials[0]!.id}&page=watched`);
	for (const query of ['', 'material=-1', 'material=99999999999999999999', 'material[]=1', 'page=%3Cscript%3E', `page=${'a'.repeat(4000)}`, 'after=-5', 'after=999999999', `material=${materials[0]!.id}&page=stranger`, '%00=%ff']) {
		const [status, told] = await listening(`${QUAY}/events?${query}`, { 'Last-Event-ID': by() < 0.5 ? '1 OR 1=1' : '9'.repeat(400) });
		expect([status, told.startsWith('retry: ')], query).toEqual([200, true]);
		expect(told, query).not.toContain('watched');
	}
	for (const path of ['/api/projects/nowhere/events', '/api/projects/../events', '/api/projects/%00/events', `${QUAY}/events/more`, `${QUAY}/events?${'a'.repeat(20_000)}`]) expect((await listening(path))[0], path).toBeLessThan(500);
	expect(watched.status).toBe(200);
	await watched.body?.cancel();
});

test('every answer keeps pages to themselves; another name in a request neither gets in nor comes out', async () => {
	const asked = (path: string, headers: Record<string, string> = {}): Promise<{ status: number; headers: IncomingHttpHeaders; body: string }> => new Promise((done, fail) => {
		get(`${ADDRESS}${path}`, { headers }, (answer) => {
			let body = '';
			answer.setEncoding('utf8').on('data', (some: string) => (body += some)).on('end', () => done({ status: answer.statusCode!, headers: answer.headers, body }));
		}).on('error', fail);
	});
	const page = (await asked('/')).body;
	const script = /src="(\/assets\/[^"]+\.js)"/.exec(page)![1]!;
	for (const path of ['/', script, '/api/projects', '/api/materials/999999', '/api/nowhere', '/assets/nowhere.js', '/api/projects/nowhere/events']) {
		const { headers } = await asked(path);
		const policy = String(headers['content-security-policy']);
		for (const rule of ["default-src 'self'", "object-src 'none'", "base-uri 'none'", "frame-ancestors 'none'"]) expect(policy, path).toContain(rule);
		expect(policy, path).not.toMatch(/script-src[^;]*unsafe-inline/);
		expect([headers['x-content-type-options'], headers['referrer-policy'], headers['cross-origin-opener-policy']], path).toEqual(['nosniff', 'same-origin', 'same-origin']);
		// Nobody on the way keeps for others what was asked for under a name of one's own.
		if (path.startsWith('/api/')) expect(String(headers['cache-control']), path).toMatch(/private|no-store|no-cache/);
	}
	expect((await asked('/api/projects', { Host: 'elsewhere.example' })).status).toBe(400);
	for (const name of ['X-Forwarded-Host', 'X-Forwarded-Proto', 'Forwarded', 'X-Original-URL', 'X-Rewrite-URL']) {
		const { status, headers, body } = await asked('/api/projects', { [name]: 'elsewhere.example' });
		expect([status, `${body}${JSON.stringify(headers)}`.includes('elsewhere')], name).toEqual([200, false]);
	}
	expect((await asked('/')).body).toBe(page);
});

test('no damaged file causes a 500', async () => {
	test.setTimeout(LONG ? 3_600_000 : 600_000);
	const parcel = (await insist('GET', `${QUAY}/parcel.zip`)).bytes;
	const seeds: [string, Buffer][] = [['a.png', image()], ['b.png', png(300, 200, (x, y) => [x & 255, y & 255, 9])], ['c.zip', parcel]];
	for (const type of ['jpeg', 'webp']) {
		const file = (await ask('GET', `/api/maps/${[...ledger.maps.keys()][0]}/thumbnail-0.webp`)).bytes;
		if (type === 'webp' && file.length > 0) seeds.push(['d.webp', file]);
	}
	// A TGA of 16 x 16 pixels.
	const tga = Buffer.alloc(18 + 768, 120);
	tga.set([0, 0, 2, 0, 0, 0, 0, 0, 0, 0, 0, 0, 16, 0, 16, 0, 24, 0]);
	seeds.push(['e.tga', tga]);
	seeds.push(['f.glb', readFileSync(new URL('../../core/tests/Format/meshes/planter.glb', import.meta.url))], ['g.obj', Buffer.from('v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nusemtl Stone\nf 1/1 2/1 3/1\n')]);
	seeds.push(['f.gltf', Buffer.from(JSON.stringify({ asset: { version: '2.0' }, images: [{ uri: `data:image/png;base64,${image(16).toString('base64')}` }], textures: [{ source: 0 }], materials: [{ pbrMetallicRoughness: { baseColorTexture: { index: 0, extensions: { KHR_texture_transform: { scale: [2, 3], rotation: 0.4, offset: [0.1, 2] } } }, baseColorFactor: [1, 0.5, 0.2, 1] }, normalTexture: { index: 0, texCoord: 1, scale: 2 }, alphaMode: 'MASK' }] }))]);
	seeds.push(['h.paint', Buffer.alloc(96, 7)], ['i.sheet', png(120, 90, (x, y) => [x, y, 90])]);
	const [sheeted] = ledger.materials.keys();
	const mesh = (bytes: Buffer, name: string): FormData => {
		const data = new FormData();
		data.append('files[]', new Blob([new Uint8Array(bytes)]), name);
		return data;
	};
	const each = (LONG ? 6000 : 300) / 3;
	await Promise.all([0, 1, 2].map(async () => {
		for (let i = 0; i < each; i++) {
			const [name, bytes] = pick(seeds, by);
			figures.files++;
			if (name === 'c.zip' && by() < 0.5) await ask('POST', '/api/parcels', new Uint8Array(damaged(bytes, by)), { 'Content-Type': 'application/zip' });
			else if (name === 'h.paint') await ask('POST', `${QUAY}/paints`, new Uint8Array(damaged(bytes, by)), { 'Content-Type': 'application/octet-stream' });
			else if (name === 'i.sheet') await ask('POST', `/api/materials/${sheeted}/contact-sheets?name=A`, new Uint8Array(damaged(bytes, by)), { 'Content-Type': 'image/png' });
			else if (/^[fg]/.test(name)) await ask('POST', `${QUAY}/${by() < 0.4 ? 'material-files' : 'meshes'}`, mesh(damaged(bytes, by), name));
			else await ask('POST', `${QUAY}/uploads`, form(damaged(bytes, by), by() < 0.1 ? pick(['../x.png', 'a\u0000.png', 'x'.repeat(500), '.png', 'å.png'], by) : name));
		}
	}));
});

test('a full disk is said, costs nothing, and passes', async () => {
	const files = `${DATA}/files`;
	const { bsize, bavail } = statfsSync(files);
	test.skip(process.env.RILTA_SMALL_DISK !== '1', 'This machine may not mount a small disk.');
	const filler = `${files}/filler`;
	writeFileSync(filler, Buffer.alloc(bsize * bavail));
	let full = 0;
	for (let i = 0; i < 5; i++) {
		const bytes = image(200);
		const answer = await ask('POST', `${QUAY}/uploads`, form(bytes, `full-${i}.png`));
		if (answer.status === 507) full++;
		else expect(answer.status).toBe(201);
	}
	expect(full).toBe(5);
	// What is there is still served, and saving needs no room for images.
	for (const [id, hash] of [...ledger.maps].slice(0, 3)) expect(sha((await ask('GET', `/api/maps/${id}/file`)).bytes)).toBe(hash);
	rmSync(filler);
	const bytes = image(200);
	const kept = await insist('POST', `${QUAY}/sets`, { maps: [asKept(await uploaded(bytes, 'after.png'), 'after')] });
	noted(kept.body, new Map([['after.png', sha(bytes)]]));
	expect(kept.status).toBe(201);
});

test('somebody who edits while the database is away and comes back loses nothing', async ({ page }) => {
	const id = ((await insist('POST', `${DEMO}/materials`, { document: { ...document, name: 'Watched' } })).body as { id: number }).id;
	await page.goto(`/ebbwater-station/materials/${id}`);
	await expect(page.getByTestId('saving')).toHaveText('Saved', { timeout: 60_000 });
	put('mariadb', 'down');
	const away = await ask('GET', '/api/projects', undefined, {}, true);
	expect([away.status, away.headers.get('Retry-After') !== null]).toEqual([503, true]);
	await named(page, 'Watched through the night');
	await expect(page.getByTestId('saving')).toHaveText(/kept in this browser/, { timeout: 30_000 });
	put('mariadb', 'up');
	await expect(page.getByTestId('saving')).toHaveText('Saved', { timeout: 60_000 });
	for (const service of ['fpm', 'nginx']) {
		kill(service);
		await named(page, `Watched without ${service}`);
		await expect(page.getByTestId('saving')).toHaveText('Saved', { timeout: 60_000 });
	}
	expect(((await insist('GET', `/api/materials/${id}`)).body as { name: string }).name).toBe('Watched without nginx');
	ledger.materials.set(id, 'Watched without nginx');
	figures.writes++;
});

test('a start that is killed while it migrates is mended by the next', async () => {
	for (const after of LONG ? [300, 900, 1800, 2700, 3600, 4500] : [1500]) {
		rilta('console', 'dbal:run-sql', 'DELETE FROM doctrine_migration_versions ORDER BY version DESC LIMIT 2');
		await broken(after, 'start');
		figures.kills++;
		expect(rilta('start')).toContain('Rilta is at');
	}
	expect(rilta('console', 'doctrine:migrations:up-to-date')).toContain('Up-to-date');
});

test('a backup brings back what there was', async () => {
	const file = `${DATA}/attack.backup`;
	rmSync(file, { force: true });
	rilta('backup', file);
	const [id, name] = [...ledger.materials][0]!;
	await insist('PATCH', `/api/materials/${id}`, { name: 'After the backup' });
	writeFileSync(`${DATA}/half.backup`, readFileSync(file).subarray(0, 100_000));
	expect(() => rilta('restore', `${DATA}/half.backup`)).toThrow(/is no backup of Rilta, or is broken off/);
	expect(((await insist('GET', `/api/materials/${id}`)).body as { name: string }).name).toBe('After the backup');
	expect(rilta('restore', file)).toContain('Restored');
	expect(((await insist('GET', `/api/materials/${id}`)).body as { name: string }).name).toBe(name);
});

test('all that was acknowledged is there, and nothing waits for ever', async () => {
	for (const [id, hash] of ledger.maps) if (sha((await insist('GET', `/api/maps/${id}/file`)).bytes) !== hash) figures.lost.push(`map ${id}`);
	if (race !== undefined) {
		const { maps } = (await insist('GET', `/api/sets/${race.set}`)).body as { maps: { id: number; file: string; versions: { file: string }[] }[] };
		const map = maps.find((one) => one.id === race!.map);
		const there = [map?.file, ...(map?.versions.map((version) => version.file) ?? [])];
		figures.lost.push(...race.kept.filter((file) => !there.includes(file)).map((file) => `version ${file} of map ${race!.map}`));
		if (sha((await insist('GET', `/api/maps/${race.map}/file`)).bytes) !== race.sent.get(map?.file ?? '')) figures.lost.push(`the current version of map ${race.map}`);
	}
	for (const [id, name] of ledger.materials) {
		const found = ((await insist('GET', `/api/materials/${id}`)).body as { name?: string }).name;
		if (found !== name) figures.lost.push(`material ${id}: ${found} instead of ${name}`);
	}
	for (const id of ledger.bakes) {
		const state = await settledBake(id, 120_000);
		if (state !== 'done') figures.stuck.push(`bake ${id}: ${state}`);
	}
	console.log(
		`Attack with the seed ${SEED}: ${figures.requests} requests (${figures.refused} refused with a reason, ${figures.late} told to come later, ${figures.away} while a server was down), ${figures.files} damaged files, ${figures.kills} kills. ` +
			`Acknowledged writes ${figures.writes}, lost ${figures.lost.length}, stuck ${figures.stuck.length}, 5xx ${figures.broken.length}.`
	);
	expect([figures.lost, figures.stuck, figures.broken.slice(0, 20)]).toEqual([[], [], []]);
});

async function named(page: Page, name: string): Promise<void> {
	await page.getByLabel('Name of the material').fill(name);
	await page.getByLabel('Name of the material').press('Tab');
}
