/** What the tests of the application share: pages, requests, pictures. */
import { expect, type Page, type Request } from '@playwright/test';
import { deflateSync } from 'node:zlib';
import type { Catalogue, MapSet, MaterialCard, MaterialDocument, Project, SetPage, ShelfPage, Stage as StageAnswer, StageDocument, StageObject } from '../../web/src/api/client';

export const PROJECT = 'ebbwater-station';

export type Stage = {
	frames: number;
	lastRatio: number;
	waits: boolean;
	rests: boolean;
	/** Whether what is seen is drawn before there is code for it; and whether that is pass by pass. */
	standing: boolean;
	running: boolean;
	trained: number;
	/** How often it came to hold what a document says. */
	shown: number;
	camera: { position: { toArray: () => number[] }; matrixWorldInverse: { elements: number[] }; projectionMatrix: { elements: number[] } };
	sight: (x: number, y: number) => { eye: number[]; ray: number[]; rayRight: number[]; rayDown: number[] };
	draw: (ratio: number) => void;
	eye: { go: (place: { position: [number, number, number]; target: [number, number, number] }) => void };
	renderer: { getContext: () => WebGL2RenderingContext; domElement: HTMLCanvasElement };
	slow: boolean;
};
declare global {
	interface Window {
		riltaStage?: Stage;
	}
}

/** A PNG of one colour a pixel. */
export function png(width: number, height: number, texel: (x: number, y: number) => [number, number, number]): Buffer {
	const rows = Buffer.alloc(height * (1 + 3 * width));
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) rows.set(texel(x, y), y * (1 + 3 * width) + 1 + 3 * x);
	}
	const chunk = (type: string, data: Buffer): Buffer => {
		const out = Buffer.alloc(12 + data.length);
		out.writeUInt32BE(data.length, 0);
		out.write(type, 4, 'latin1');
		data.copy(out, 8);
		out.writeUInt32BE(crc(out.subarray(4, 8 + data.length)), 8 + data.length);
		return out;
	};
	const head = Buffer.alloc(13);
	head.writeUInt32BE(width, 0);
	head.writeUInt32BE(height, 4);
	head.set([8, 2, 0, 0, 0], 8);
	return Buffer.concat([
		Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
		chunk('IHDR', head),
		chunk('IDAT', deflateSync(rows)),
		chunk('IEND', Buffer.alloc(0))
	]);
}

function crc(bytes: Buffer): number {
	let c = 0xffffffff;
	for (const byte of bytes) {
		c ^= byte;
		for (let k = 0; k < 8; k++) c = (c & 1) === 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1;
	}
	return (c ^ 0xffffffff) >>> 0;
}

export async function project(page: Page): Promise<Project> {
	return (await (await page.request.get(`/api/projects/${PROJECT}`)).json()) as Project;
}

/** The materials of the shelf, in the order in which they were made: the first page of them. */
export async function shelf(page: Page): Promise<MaterialCard[]> {
	return ((await (await page.request.get(`/api/projects/${PROJECT}/materials`)).json()) as ShelfPage).materials;
}

/** A set of the library with all that is known of it. */
export async function library(page: Page, name: string): Promise<MapSet | undefined> {
	const found = (await (await page.request.get(`/api/projects/${PROJECT}/sets?words=${name}`)).json()) as SetPage;
	return found.sets.find((set) => set.name === name);
}

export async function catalogue(page: Page): Promise<Catalogue> {
	return (await (await page.request.get('/api/catalogue')).json()) as Catalogue;
}

/** A material of its own for a test, so that tests do not meet each other's changes. */
export async function fresh(page: Page, name: string, set = 'lime-plaster'): Promise<number> {
	const response = await page.request.post(`/api/projects/${PROJECT}/materials`, { data: { name, set } });
	expect(response.status()).toBe(201);
	return ((await response.json()) as { id: number }).id;
}

/** A material of one colour, without maps. */
export const plain = (name: string, colour: [number, number, number]): MaterialDocument => ({
	format: 'rilta-material/2',
	name,
	lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: {} }] }],
	layers: [{ id: 'all', name: 'All', lane: 'main', set: '', finish: { values: { tint: colour, roughnessFrom: 0.9, roughnessTo: 0.9 } } }]
});

/** A material of a document of one's own. */
export async function made(page: Page, document: MaterialDocument): Promise<number> {
	const response = await page.request.post(`/api/projects/${PROJECT}/materials`, { data: { document } });
	expect(response.status()).toBe(201);
	return ((await response.json()) as { id: number }).id;
}

/** A stage of its own that a material is judged on. */
export async function judgedOn(page: Page, material: number, document: Partial<StageDocument>): Promise<number> {
	const headers = { 'X-Rilta': '1' };
	const answer = await page.request.post(`/api/projects/${PROJECT}/stages`, { headers, data: { name: `Of ${material}`, document: { format: 'rilta-stage/2', objects: [], ...document } } });
	const { id } = (await answer.json()) as { id: number };
	expect((await page.request.put(`/api/materials/${material}/stage`, { headers, data: { stage: id } })).status()).toBe(204);
	return id;
}
/** What the server has of a stage. */
export const storedStage = async (page: Page, stage: number): Promise<StageDocument> => ((await (await page.request.get(`/api/projects/${PROJECT}/stage?stage=${stage}`)).json()) as { document: StageDocument }).document;

/** The stage as a test has it: nothing of it is kept. */
export async function staged(page: Page, change: (stage: StageDocument) => void): Promise<StageDocument[]> {
	const saved: StageDocument[] = [];
	let version = 1;
	await page.route(new RegExp(`/api/projects/${PROJECT}/stage(\\?|$)`), async (route) => {
		if (route.request().method() === 'PUT') {
			saved.push((route.request().postDataJSON() as { document: StageDocument }).document);
			return route.fulfill({ json: { id: 1, name: 'Staged', version: ++version, savedBy: '', document: saved.at(-1) } });
		}
		const answer = (await (await route.fetch()).json()) as StageAnswer;
		answer.version = 1;
		change(answer.document);
		await route.fulfill({ json: answer });
	});
	return saved;
}

/** Where a point of the world lies on the stage, in pixels. */
export async function on(page: Page, point: readonly [number, number, number]): Promise<[number, number]> {
	return page.evaluate((p) => {
		const stage = window.riltaStage;
		if (stage === undefined) throw new Error('No stage.');
		const times = (m: number[], v: number[]): number[] => [0, 1, 2, 3].map((row) => v.reduce((sum, c, column) => sum + (m[4 * column + row] ?? 0) * c, 0));
		const [x, y, , w] = times(stage.camera.projectionMatrix.elements, times(stage.camera.matrixWorldInverse.elements, [...p, 1]));
		const canvas = stage.renderer.domElement;
		return [((x! / w!) * 0.5 + 0.5) * canvas.clientWidth, (0.5 - (y! / w!) * 0.5) * canvas.clientHeight] as [number, number];
	}, point);
}

/** Drags the handle of the x axis, which begins at a point of the world and points to the right, by so many metres. */
export async function pull(page: Page, point: readonly number[], by: number): Promise<void> {
	const box = (await page.locator('canvas[aria-label^="Stage"]').boundingBox())!;
	const [x = 0, y = 0, z = 0] = point;
	const [[fromX, fromY], [toX, toY]] = [await on(page, [x + 0.55, y, z]), await on(page, [x + 0.55 + by, y, z])];
	// The handle takes hold of what it was hovered over.
	for (const aside of [-2, 0]) {
		await page.mouse.move(box.x + fromX + aside, box.y + fromY);
		await page.waitForTimeout(500);
	}
	await page.mouse.down();
	for (let i = 1; i <= 8; i++) {
		await page.mouse.move(box.x + fromX + ((toX - fromX) * i) / 8, box.y + fromY + ((toY - fromY) * i) / 8);
		await page.waitForTimeout(40);
	}
	await page.mouse.up();
}

export async function stored(page: Page, id: number): Promise<{ version: number; document: MaterialDocument }> {
	return (await (await page.request.get(`/api/materials/${id}`)).json()) as { version: number; document: MaterialDocument };
}

export async function placed(page: Page, id: string): Promise<StageObject> {
	const stage = (await (await page.request.get(`/api/projects/${PROJECT}/stage`)).json()) as { document: { objects: StageObject[] } };
	const object = stage.document.objects.find((one) => one.id === id);
	if (object === undefined) throw new Error(`No object ${id}.`);
	return object;
}

/** Has a material of the demo judged on the small stage: the yard, where they are first seen, takes a processor much longer. */
async function onSmallStage(page: Page, id: number): Promise<void> {
	const name = async (which: string): Promise<string> => ((await (await page.request.get(`/api/projects/${PROJECT}/stage?${which}`)).json()) as { name: string }).name;
	if ((await name(`material=${id}`)) !== 'Station yard') return;
	const { stages } = (await (await page.request.get(`/api/projects/${PROJECT}/stages`)).json()) as { stages: { id: number; name: string }[] };
	const small = stages.find((one) => one.name === 'Small stage');
	expect((await page.request.put(`/api/materials/${id}/stage`, { headers: { 'X-Rilta': '1' }, data: { stage: small?.id } })).status()).toBe(204);
}

/** Opens a material and waits until the stage has drawn it finely. */
export async function open(page: Page, id: number): Promise<void> {
	await onSmallStage(page, id);
	await page.goto(`/${PROJECT}/materials/${id}`);
	await expect(page.getByText('Preparing the stage')).toBeHidden();
	// Before the page is there, nothing is said to be prepared either.
	await page.waitForFunction(() => ((window.riltaStage as unknown as { program?: object | null } | undefined)?.program ?? null) !== null && (window.riltaStage?.shown ?? 0) > 0);
	await settled(page);
}

/** Waits until all is dressed, and no frame has been drawn for a while. */
export async function settled(page: Page): Promise<void> {
	await page.waitForFunction(() => window.riltaStage?.rests === true);
	await resting(page, 'frames', 500);
}

/** Waits until other orders of the steps, and the choices of the selected one, can be drawn before there is code for them. */
export async function trained(page: Page): Promise<void> {
	await resting(page, 'trained', 3000);
}

/** Waits until a count of the stage has begun, and then stands still for so many milliseconds. */
async function resting(page: Page, count: 'frames' | 'trained', still: number): Promise<void> {
	await page.waitForFunction((name) => (window.riltaStage?.[name] ?? 0) > 0, count);
	let before = -1;
	await expect
		.poll(
			async () => {
				const now = await page.evaluate((name) => window.riltaStage?.[name] ?? 0, count);
				const rests = now === before;
				before = now;
				return rests;
			},
			{ intervals: [still] }
		)
		.toBe(true);
}

/** The colours of pixels of the stage, 0…255, as they are displayed. */
export async function pixels(page: Page, places: readonly (readonly [number, number])[]): Promise<number[][]> {
	return page.evaluate((all) => {
		const stage = window.riltaStage;
		if (stage === undefined) throw new Error('No stage.');
		stage.draw(1);
		const gl = stage.renderer.getContext();
		return all.map(([x, y]) => {
			const out = new Uint8Array(4);
			gl.readPixels(Math.floor(x), stage.renderer.domElement.height - 1 - Math.floor(y), 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, out);
			return [...out.subarray(0, 3)];
		});
	}, places);
}

export async function pixel(page: Page, x: number, y: number): Promise<number[]> {
	return (await pixels(page, [[x, y]]))[0] ?? [];
}

/**
 * Collects the requests to the server until it is asked for them.
 *
 * @param quiet whether those count too by which the stage makes ready for what may come, and the material is judged, while nothing happens
 */
export function requests(page: Page, quiet = false): () => Request[] {
	const seen: Request[] = [];
	page.on('request', (request) => {
		if (request.url().includes('/api/') && (quiet || !/\/(multipass|repetition|findings|costs)$/.test(request.url()))) seen.push(request);
	});
	return () => seen.splice(0);
}
