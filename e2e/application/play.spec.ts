import { chromium, expect, test, type Browser, type Page } from './test';
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { judgedOn, made, plain, PROJECT, settled, shelf } from './bench';

/*
 * Deliveries on the page that stands for a game, beside the stage: the same cubes through the same eye, drawn from nothing but the delivered files.
 * Of the demo's materials CI takes these; RILTA_PLAY=roof,quay,… takes others.
 */
const SOME = ['lamp-glass', 'damp-plaster', 'roof', 'instrument-plinth', 'bronze-gauze'];
const TAKEN = process.env.RILTA_PLAY?.split(',') ?? SOME;
/** Of details of a few millimetres. */
const FINE = ['Bronze gauze', 'Copper hatch', 'Gauge board', 'Observatory dome'];
const ROOT = fileURLToPath(new URL('../../', import.meta.url));
const FOLDER = join(ROOT, 'var/test/play');
const PORT = 8471;

test.use({ deviceScaleFactor: 1 });

let server: ChildProcess | null = null;
/** The next one listens at the same port: it may only come when the last one is gone, not when it was told to go. */
const stopped = async (): Promise<void> => {
	if (server === null || server.exitCode !== null || server.signalCode !== null) return;
	const gone = once(server, 'exit');
	server.kill();
	await gone;
};
const serve = async (delivery: string): Promise<void> => {
	await stopped();
	server = spawn('php', ['-S', `127.0.0.1:${PORT}`, join(ROOT, 'ops/play.php')], { env: { ...process.env, RILTA_DELIVERY: join(FOLDER, delivery) }, stdio: 'ignore' });
	await expect.poll(() => fetch(`http://127.0.0.1:${PORT}/delivery/manifest.json`).then((answer) => answer.ok, () => false)).toBe(true);
};

/** A browser that has WebGPU as well, in software. */
let second: Browser | null = null;
const other = async (): Promise<Browser> => {
	const { executablePath, args } = test.info().project.use.launchOptions!;
	return (second ??= await chromium.launch({ executablePath, args: [...args!, '--enable-unsafe-webgpu', '--use-webgpu-adapter=swiftshader'] }));
};
test.afterAll(async () => {
	await stopped();
	await second?.close();
});

type As = 'glsl' | 'wgsl' | 'baked';
type Played = { look: (projection: number[], view: number[], width: number, height: number, place: number[]) => void; show: (as: As, view: string) => void; pixels: () => Promise<Uint8Array>; render: () => void; renderer: { getContext: () => WebGL2RenderingContext }; plays: As[]; notes: string[]; baked: { meshes: { material: { side: number } }[] } | null; frames: number };
declare global {
	interface Window {
		riltaPlay?: Played;
	}
}

type Seen = { width: number; height: number; pixels: string; projection: number[]; view: number[] };
type Off = { as: As; mean: number; pixels: number };
const UPRIGHT = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** How far the pictures of a stand-in are from that of the stage, in steps of 1/255, inside the outline of what it draws, whose pixels mix with what is behind. */
const offs = (seen: Seen, place: number[], as: As[]) => async (page: Page): Promise<Off[]> => page.evaluate(async ([wants, where, all]) => {
	const play = window.riltaPlay!;
	const pixels = Uint8Array.from(atob(wants.pixels), (one) => one.charCodeAt(0));
	const found: Off[] = [];
	for (const one of all) {
		play.show(one, 'baseColour');
		// What is two-sided has in glTF the picture of its front on its back: fronts are compared.
		if (one === 'baked') for (const mesh of play.baked!.meshes) mesh.material.side = 0;
		play.look(wants.projection, wants.view, wants.width, wants.height, where);
		const own = await play.pixels();
		const ground = [...own.subarray(0, 3)];
		const on = (at: number): boolean => [0, 1, 2].some((c) => own[4 * at + c] !== ground[c]);
		let [sum, count] = [0, 0];
		for (let y = 2; y < wants.height - 2; y++) {
			for (let x = 2; x < wants.width - 2; x++) {
				const at = y * wants.width + x;
				if (![-1, 0, 1].every((dy) => [-1, 0, 1].every((dx) => on(at + dy * wants.width + dx)))) continue;
				for (let c = 0; c < 3; c++) sum += Math.abs(own[4 * at + c]! - pixels[4 * at + c]!);
				count += 3;
			}
		}
		found.push({ as: one, mean: sum / Math.max(1, count), pixels: count / 3 });
	}
	return found;
}, [seen, place, as] as const);

/** The stage as it is drawn from somewhere, in base colours. */
async function stageSeen(page: Page, [x, y, z]: [number, number, number], near: number): Promise<Seen> {
	await page.evaluate(([at, target]) => window.riltaStage!.eye.go({ position: at, target }), [[x + 1.3 * near, y + 0.9 * near, z + 2 * near], [x, y, z]] as [[number, number, number], [number, number, number]]);
	await settled(page);
	return page.evaluate(() => {
		const stage = window.riltaStage!;
		stage.draw(1);
		const gl = stage.renderer.getContext();
		const [width, height] = [gl.drawingBufferWidth, gl.drawingBufferHeight];
		const pixels = new Uint8Array(4 * width * height);
		gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, pixels);
		let text = '';
		for (let at = 0; at < pixels.length; at += 8192) text += String.fromCharCode(...pixels.subarray(at, at + 8192));
		return { width, height, pixels: btoa(text), projection: [...stage.camera.projectionMatrix.elements], view: [...stage.camera.matrixWorldInverse.elements] };
	});
}

test('what is delivered looks on another page as it does on the stage', async ({ page }) => {
	test.setTimeout(1_800_000);
	const files = readdirSync(join(ROOT, 'demo/materials')).filter((name) => name.endsWith('.json') && TAKEN.includes(name.replace('.json', '')));
	expect(files.length).toBe(TAKEN.length);
	rmSync(FOLDER, { recursive: true, force: true });
	mkdirSync(FOLDER, { recursive: true });
	writeFileSync(join(FOLDER, 'profile.json'), JSON.stringify({ format: 'rilta-delivery/1', name: 'play', label: 'Play', code: ['glsl', 'wgsl'], textures: 'single', maps: 'ktx2', bake: { size: 64 }, glb: { mesh: 'cube', variants: true } }));
	execFileSync(join(ROOT, 'bin/rilta'), ['deliver', ...files.map((name) => join(ROOT, 'demo/materials', name)), '--profile', join(FOLDER, 'profile.json'), '--out', FOLDER], { timeout: 600_000 });

	// A cube for each, side by side, none before another.
	const cards = await shelf(page);
	const names = files.map((name) => (JSON.parse(readFileSync(join(ROOT, 'demo/materials', name), 'utf8')) as { name: string }).name);
	const places = names.map((_, i): [number, number, number] => [20 * (i % 7), 0.5, -20 * Math.floor(i / 7)]);
	const id = await made(page, plain('Played beside', [0.5, 0.5, 0.5]));
	await judgedOn(page, id, { objects: names.map((name, i) => ({ id: `cube-${i}`, name, mesh: 'cube', position: places[i]!, turn: [0, 25, 0], scale: [1, 1, 1], seed: 1, value: 0, wears: cards.find((one) => one.name === name)!.id })) });
	await page.goto(`/${PROJECT}/materials/${id}`);
	await page.waitForFunction(() => (window.riltaStage?.shown ?? 0) > 0);
	await page.getByLabel('View', { exact: true }).selectOption({ label: 'Base colour' });
	await settled(page);
	// Each from near by, where a pixel is about a texel of what is baked: farther away the levels of a picture are compared with those of maps.
	const seen: Seen[] = [];
	for (const [i, at] of places.entries()) seen.push(await stageSeen(page, at, FINE.includes(names[i]!) ? 0.6 : 1));
	if (process.env.RILTA_SHOT !== undefined) await page.screenshot({ path: process.env.RILTA_SHOT });
	const figures = (name: string, found: Off[]): void => {
		for (const off of found) {
			const figure = `${name}, ${off.as}: ${off.mean.toFixed(2)} over ${off.pixels} pixels`;
			console.log(figure);
			expect.soft(off.pixels, figure).toBeGreaterThan(150);
			expect.soft(off.mean, figure).toBeLessThan(2);
		}
	};
	const played = await (await other()).newPage();
	const turn = (25 * Math.PI) / 180;
	for (const [i, name] of names.entries()) {
		await serve(`${name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}-play`);
		await played.goto(`http://127.0.0.1:${PORT}/`);
		await played.waitForFunction(() => (window.riltaPlay?.frames ?? 0) > 0);
		expect(await played.evaluate(() => [window.riltaPlay!.plays, window.riltaPlay!.notes]), name).toEqual([['glsl', 'wgsl', 'baked'], []]);
		figures(name, await offs(seen[i]!, [Math.cos(turn), 0, -Math.sin(turn), 0, 0, 1, 0, 0, Math.sin(turn), 0, Math.cos(turn), 0, ...places[i]!, 1], ['glsl', 'wgsl'])(played));
	}
	// The same stage, baked into the UVs of its objects, in which they stand where they stood: one file for most, and one with finer pictures.
	for (const [size, some] of [['1024', names.filter((one) => !FINE.includes(one))], ['2048', names.filter((one) => FINE.includes(one))]] as const) {
		if (some.length === 0) continue;
		execFileSync(join(ROOT, 'bin/rilta'), ['bake-stage', PROJECT, `Of ${id}`, ...some.flatMap((one) => ['--object', one]), '--size', size, '--places', '1', '--out', join(FOLDER, size)], { timeout: 1_200_000 });
		await serve(`${size}/of-${id}-stage`);
		await played.goto(`http://127.0.0.1:${PORT}/`);
		await played.waitForFunction(() => (window.riltaPlay?.frames ?? 0) > 0);
		for (const name of some) figures(name, await offs(seen[names.indexOf(name)]!, UPRIGHT, ['baked'])(played));
	}
});

/** How red a pixel of what is played is. */
const glow = (page: Page): Promise<number> => page.evaluate(async () => {
	await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
	const [canvas] = document.querySelectorAll('canvas');
	const pixels = await window.riltaPlay!.pixels();
	return pixels[4 * (Math.floor(canvas!.height * 0.42) * canvas!.width + (canvas!.width >> 1))]!;
});

test('parameters are changed and variants switched with nothing but the delivery, and what is none is said', async ({ page }) => {
	await serve('lamp-glass-play');
	const gpu = await (await other()).newPage();
	for (const one of [page, gpu]) {
		await one.goto(`http://127.0.0.1:${PORT}/`);
		await expect(one.getByRole('heading', { name: 'Lamp glass' })).toBeVisible();
		await one.getByLabel('View', { exact: true }).selectOption('emission');
	}
	await expect(page.getByText('This browser has no WebGPU: the WGSL of it is not played.')).toBeVisible();
	await expect(page.getByText('WGSL', { exact: true })).toHaveCount(0);
	await gpu.getByText('WGSL', { exact: true }).click();
	for (const one of [page, gpu]) {
		await expect.poll(() => glow(one)).toBeGreaterThan(20);
		const before = await glow(one);
		await one.getByLabel('Lit', { exact: true }).fill('20');
		await expect.poll(() => glow(one)).toBeLessThan(before - 10);
		await one.getByLabel('Variant', { exact: true }).selectOption({ label: 'Out' });
		await expect(one.getByLabel('Lit', { exact: true })).toHaveValue('0');
		await expect.poll(() => glow(one)).toBe(0);
	}
	await gpu.close();
	// What was baked has the variants of its file.
	await page.getByText('Baked', { exact: true }).click();
	await expect(page.getByLabel('Lit', { exact: true })).toHaveCount(0);
	await expect.poll(() => glow(page)).toBeGreaterThan(5);
	await page.getByLabel('Variant', { exact: true }).selectOption({ label: 'Out' });
	await expect.poll(() => glow(page)).toBe(0);
	await page.getByLabel('Variant', { exact: true }).selectOption({ label: 'As delivered' });
	await expect.poll(() => glow(page)).toBeGreaterThan(5);
	// Only the delivery is served, and only to read.
	for (const path of ['/delivery/../profile.json', '/delivery/%2e%2e/profile.json', '/../ops/play.php', '/delivery/none.glb', '/api/projects']) expect((await page.request.get(`http://127.0.0.1:${PORT}${path}`)).status(), path).toBe(404);
	expect((await page.request.post(`http://127.0.0.1:${PORT}/delivery/manifest.json`)).status()).toBe(404);
	await page.route('**/delivery/manifest.json', (route) => route.fulfill({ json: { format: 'other', files: [] } }));
	await page.reload();
	await expect(page.getByRole('alert')).toHaveText('manifest.json: expected the format rilta-manifest/1, found other.');
});

test('what runs with the clock runs', async ({ page }) => {
	mkdirSync(FOLDER, { recursive: true });
	writeFileSync(join(FOLDER, 'clock.json'), JSON.stringify({ format: 'rilta-delivery/1', name: 'clock', label: 'Clock', code: ['glsl'], textures: 'single', maps: 'ktx2' }));
	execFileSync(join(ROOT, 'bin/rilta'), ['deliver', join(ROOT, 'demo/materials/brine-channel.json'), '--profile', join(FOLDER, 'clock.json'), '--out', FOLDER]);
	await serve('brine-channel-clock');
	await page.goto(`http://127.0.0.1:${PORT}/`);
	await expect(page.getByRole('heading', { name: 'Brine channel' })).toBeVisible();
	await page.getByLabel('View', { exact: true }).selectOption('normal');
	const sum = (): Promise<number> => page.evaluate(async () => (await window.riltaPlay!.pixels()).reduce((all, one, i) => (all * 31 + one * (i % 7)) % 1_000_003, 0));
	const before = await sum();
	await expect.poll(sum).not.toBe(before);
	// It goes on by itself, however slowly it is drawn.
	const drawn = await page.evaluate(() => window.riltaPlay!.frames);
	await expect.poll(() => page.evaluate(() => window.riltaPlay!.frames)).toBeGreaterThan(drawn + 1);
});
