import { expect, test, type Page } from './test';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { MaterialDocument, StageDocument } from '../../web/src/api/client';
import { judgedOn, made, on, open, pixel, plain, PROJECT, settled, storedStage } from './bench';

/** Chalk, and ink wherever something is painted. */
function inked(): MaterialDocument {
	const document = plain('Inked', [0.7, 0.7, 0.7]);
	const ink = plain('Ink', [0.05, 0.05, 0.5]).layers[0]!;
	return { ...document, layers: [...document.layers, { ...ink, id: 'ink', name: 'Ink', mask: [{ kind: 'painted', values: { channel: '2' } }] }] };
}
const brush = (page: Page) => page.getByRole('group', { name: 'Brush' });
async function stroke(page: Page, from: readonly [number, number, number], to: readonly [number, number, number]): Promise<void> {
	const box = (await page.locator('.stage canvas').boundingBox())!;
	const [[x0, y0], [x1, y1]] = [await on(page, from), await on(page, to)];
	await page.mouse.move(box.x + x0, box.y + y0);
	await page.mouse.down();
	for (let i = 1; i <= 6; i++) await page.mouse.move(box.x + x0 + ((x1 - x0) * i) / 6, box.y + y0 + ((y1 - y0) * i) / 6);
	await page.mouse.up();
}

test('what is painted is seen, kept stroke by stroke, filled, taken back, and read by the probe', async ({ page }) => {
	const material = await made(page, inked());
	const cloth = { id: 'cloth', name: 'Cloth', mesh: 'cloth', position: [0, 0, 0], turn: [0, 0, 0], scale: [1, 1, 1] } as StageDocument['objects'][number];
	const stage = await judgedOn(page, material, { objects: [cloth], camera: { position: [0, 1.1, 4.5], target: [0, 1.1, 0] } });
	await open(page, material);
	// The brush is there as soon as what is selected reads what is painted.
	await expect(brush(page)).toBeHidden();
	await page.getByRole('button', { name: /^Ink/ }).first().click();
	await brush(page).getByRole('button', { name: 'Paint' }).click();
	await expect(brush(page).getByText('2', { exact: true })).toBeVisible();
	const middle = [0, 1.2, 0.05] as const;
	const blue = async (): Promise<number> => {
		await settled(page);
		const [r = 0, , b = 0] = await pixel(page, ...(await on(page, middle)));
		return b - r;
	};
	const paint = async (): Promise<string | undefined> => (await storedStage(page, stage)).objects[0]?.paint;
	expect(await blue()).toBeLessThan(25);
	await stroke(page, [-0.3, 1.2, 0.05], [0.3, 1.2, 0.05]);
	await expect.poll(blue).toBeGreaterThan(60);
	await expect(brush(page).getByLabel('Painted under the pointer')).toHaveText(/^(1\.00|0\.[89])/);
	await expect.poll(paint).toMatch(/^[0-9a-f]{64}$/);
	const first = await paint();

	// Half as much over it, by one key; each stroke is a step back.
	await page.keyboard.press('5');
	await stroke(page, [-0.3, 1.2, 0.05], [0.3, 1.2, 0.05]);
	await expect(brush(page).getByLabel('Painted under the pointer')).toHaveText('0.50');
	await expect.poll(paint).not.toBe(first);
	const half = await blue();
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect.poll(blue).toBeGreaterThan(half + 10);
	await expect.poll(paint).toBe(first);
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect.poll(blue).toBeLessThan(25);
	await page.getByRole('button', { name: 'Redo' }).click();
	await expect.poll(blue).toBeGreaterThan(60);

	// All is there after a reload, and the probe says the same.
	await expect(page.getByText('Saved', { exact: true })).toBeVisible();
	await expect.poll(paint).toBe(first);
	await page.reload();
	await expect.poll(blue).toBeGreaterThan(60);
	const answer = page.waitForResponse((response) => response.url().endsWith('/probe'));
	const [x, y] = await on(page, middle);
	await page.locator('.stage canvas').click({ position: { x, y } });
	const trail = (await (await answer).json()) as { stops: { label: string; readings: { name: string; values: number[] }[] }[] };
	const colour = trail.stops.find((one) => one.label === 'Result')!.readings.find((one) => /colour/i.test(one.name))!.values;
	expect(colour[2]!).toBeGreaterThan(4 * colour[0]!);

	// A whole object, and a server that is away for a while.
	await page.getByRole('button', { name: /^Ink/ }).first().click();
	await page.getByRole('button', { name: /^Cloth/ }).first().click();
	await page.getByRole('button', { name: /^Ink/ }).first().click();
	await brush(page).getByRole('button', { name: 'Paint' }).click();
	await page.route('**/paints', (route) => route.fulfill({ status: 503, headers: { 'Retry-After': '1' }, json: { title: 'Away', status: 503, detail: 'Away.', problems: [] } }), { times: 1 });
	await brush(page).getByRole('button', { name: '0', exact: true }).click();
	await stroke(page, [0, 1.2, 0.05], [0, 1.2, 0.05]);
	await expect.poll(blue).toBeLessThan(25);
	await expect.poll(paint).not.toBe(first);
	await brush(page).getByRole('button', { name: '1', exact: true }).click();
	await brush(page).getByRole('button', { name: 'Fill' }).click();
	await page.getByRole('button', { name: 'Fill it' }).click();
	await expect.poll(blue).toBeGreaterThan(60);
});

test('the colours of the vertices of a file become what is painted', async ({ page }) => {
	const material = await made(page, inked());
	const answer = await page.request.post(`/api/projects/${PROJECT}/meshes`, { headers: { 'X-Rilta': '1' }, multipart: { 'files[]': { name: 'tinted.glb', mimeType: 'model/gltf-binary', buffer: readFileSync(fileURLToPath(new URL('../../core/tests/Format/meshes/quantised.glb', import.meta.url))) } } });
	const mesh = ((await answer.json()) as { meshes: { name: string }[] }).meshes[0]!.name;
	const stage = await judgedOn(page, material, { objects: [{ id: 'tinted', name: 'Tinted', mesh, position: [0, 0, 0], turn: [0, 0, 0], scale: [1, 1, 1] }], camera: { position: [0, 0, 5], target: [0, 0, 0] } });
	await open(page, material);
	await page.getByRole('button', { name: /^Ink/ }).first().click();
	await brush(page).getByRole('button', { name: 'Paint' }).click();
	// The object that was painted on last is the one that is filled.
	await stroke(page, [1, 0, 0], [1, 0, 0]);
	await brush(page).getByRole('button', { name: 'Fill' }).click();
	await page.getByRole('button', { name: 'From the file\'s colours' }).click();
	await expect.poll(async () => {
		const name = (await storedStage(page, stage)).objects[0]?.paint;
		return name === undefined ? [] : [...(await (await page.request.get(`/api/paints/${name}`)).body())];
	}).toEqual([255, 0, 0, 255, 0, 255, 0, 255, 0, 0, 51, 255]);
	// The channel that the mask reads is full at the lower right corner.
	await settled(page);
	const ink = async (place: [number, number, number]): Promise<number> => { const [r = 0, , b = 0] = await pixel(page, ...(await on(page, place))); return b - r; };
	expect(await ink([1.8, -0.9, 0])).toBeGreaterThan((await ink([1.8, 0.7, 0])) + 25);
});

test('a slope is painted, a value is picked, and where the mesh is too coarse it is refined under the brush', async ({ page }) => {
	const material = await made(page, inked());
	const cube = { id: 'cube', name: 'Block', mesh: 'cube', position: [0, 0, 0], turn: [0, 0, 0], scale: [2, 2, 2] } as StageDocument['objects'][number];
	const stage = await judgedOn(page, material, { objects: [cube], camera: { position: [0.6, 4, 4.5], target: [0, 1, 0] } });
	await open(page, material);
	await page.getByRole('button', { name: /^Ink/ }).first().click();
	await brush(page).getByRole('button', { name: 'Paint' }).click();
	const stored = async (): Promise<StageDocument['objects'][number]> => (await storedStage(page, stage)).objects[0]!;
	const bytes = async (): Promise<number[]> => { const name = (await stored()).paint; return name === undefined ? [] : [...(await (await page.request.get(`/api/paints/${name}`)).body())]; };
	// A cube of 24 corners: the pointer in the middle of a face reaches none of them.
	await stroke(page, [0, 2, 0], [0, 2, 0]);
	// That is said, with what helps; nothing is stored of it.
	await expect(page.getByText('edges of Block are 2.8 m long here')).toBeVisible();
	await page.getByRole('button', { name: 'Refine there' }).click();
	await expect(brush(page).getByRole('button', { name: 'Refine' })).toHaveAttribute('aria-pressed', 'true');
	expect((await stored()).paint).toBeUndefined();
	await stroke(page, [-0.1, 2, 0], [0.1, 2, 0]);
	await expect.poll(async () => (await stored()).mesh).toMatch(/^own-/);
	const refined = (await stored()).mesh;
	const fine = (await page.request.get(`/api/projects/${PROJECT}/meshes`).then((answer) => answer.json()) as { meshes: { name: string; triangles: number }[] }).meshes.find(({ name }) => name === refined)!;
	expect(fine.triangles).toBeGreaterThan(200);
	await brush(page).getByRole('button', { name: '1', exact: true }).click();
	await stroke(page, [0, 2, 0], [0, 2, 0]);
	await expect.poll(async () => Math.max(0, ...(await bytes()).filter((_, i) => i % 4 === 1))).toBe(255);
	const some = (await bytes()).filter((one, i) => i % 4 === 1 && one > 0).length;
	expect(some).toBeGreaterThan(10);
	expect(some).toBeLessThan((await bytes()).length / 8);

	// What looks up gets a half.
	await page.keyboard.press('5');
	await brush(page).getByRole('button', { name: 'Fill' }).click();
	await page.getByRole('dialog', { name: 'Fill' }).getByText('Slope').click();
	await page.getByRole('button', { name: 'Fill it' }).click();
	await expect.poll(async () => new Set((await bytes()).filter((_, i) => i % 4 === 1))).toEqual(new Set([0, 128]));
	await page.keyboard.press('Escape');
	await page.keyboard.press('1');
	await brush(page).getByRole('button', { name: 'Pick' }).click();
	await stroke(page, [0.8, 2, 0.8], [0.8, 2, 0.8]);
	await expect(brush(page).getByRole('spinbutton', { name: 'Value' })).toHaveAttribute('aria-valuenow', '0.5');
	// All of it is taken back, step by step, and the mesh with it.
	const undo = page.getByRole('button', { name: 'Undo' });
	await expect(async () => {
		// The last of them may be on its way to the server yet.
		if (await undo.isEnabled()) await undo.click();
		await expect.poll(async () => (await stored()).mesh, { timeout: 1500 }).toBe('cube');
	}).toPass();
});
