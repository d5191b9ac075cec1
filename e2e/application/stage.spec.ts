import { expect, test, type Page } from './test';
import type { StageDocument } from '../../web/src/api/client';
import { PROJECT, fresh, judgedOn, made, on, open, pixel, pixels, plain, pull, settled, shelf, staged, storedStage } from './bench';

const list = (page: Page) => page.getByRole('complementary', { name: 'Objects' });
const values = (page: Page) => page.getByRole('region', { name: 'Values' });
const act = (page: Page, name: string) => values(page).getByRole('button', { name, exact: true });

async function type(page: Page, name: string, value: string): Promise<void> {
	await values(page).getByRole('spinbutton', { name, exact: true }).focus();
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type(value);
	await page.keyboard.press('Enter');
}

test('a stage is furnished: meshes by their pictures, a grid of copies, dropped, hidden, locked, renamed, taken back', async ({ page }) => {
	const saved = await staged(page, (stage) => (stage.objects = stage.objects.filter((one) => one.id === 'floor')));
	await open(page, await fresh(page, 'Judged', 'basalt-cladding'));
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	// Every mesh has a picture: not one colour alone.
	const cards = page.getByRole('region', { name: 'Meshes' }).locator('button.card:not(.own)');
	await expect(cards).toHaveCount(14);
	await expect.poll(() => cards.locator('canvas').evaluateAll((all) => (all as HTMLCanvasElement[]).map((one) => new Set(new Uint32Array(one.getContext('2d')!.getImageData(0, 0, one.width, one.height).data.buffer)).size > 4).filter(Boolean).length)).toBe(14);

	await cards.filter({ hasText: 'Rounded block' }).click();
	await expect(list(page).getByRole('button', { name: /^Rounded block/ })).toHaveAttribute('aria-pressed', 'true');
	await values(page).getByLabel('Name').fill('Kerb stone');
	await values(page).getByLabel('Name').press('Enter');
	await type(page, 'Position X', '-3');
	await type(page, 'Position Y', '2.5');
	await act(page, 'Drop').click();
	await expect.poll(() => saved.at(-1)?.objects.at(-1)).toMatchObject({ name: 'Kerb stone', mesh: 'rounded-block', position: [-3, 0, 0] });

	// Forty of them, none like another, in one step.
	await act(page, 'Grid').click();
	await type(page, 'Copies along X', '10');
	await type(page, 'Copies along Y', '1');
	await type(page, 'Copies along Z', '4');
	await type(page, 'Metres along X', '1.1');
	await type(page, 'Metres along Z', '1.2');
	await act(page, 'Make 39 copies').click();
	await expect(list(page).getByRole('listitem')).toHaveCount(41);
	await expect.poll(() => saved.at(-1)?.objects.length).toBe(41);
	const copies = saved.at(-1)!.objects.slice(1);
	expect(new Set(copies.map((one) => one.seed)).size).toBe(40);
	expect(new Set(copies.map((one) => one.turn[1])).size).toBe(40);
	expect(Math.abs(copies[9]!.position[0]! - 6.9)).toBeLessThanOrEqual(0.1001);
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(list(page).getByRole('listitem')).toHaveCount(2);
	await page.getByRole('button', { name: 'Redo' }).click();
	await expect(list(page).getByRole('listitem')).toHaveCount(41);
	await page.getByRole('button', { name: 'Undo' }).click();

	// One on top of the other.
	await list(page).getByRole('button', { name: /^Kerb stone/ }).click();
	await act(page, 'Duplicate').click();
	await type(page, 'Position X', '-3.2');
	await type(page, 'Position Y', '4');
	await type(page, 'Position Z', '0');
	await act(page, 'Drop').click();
	await expect.poll(() => saved.at(-1)?.objects.at(-1)?.position).toEqual([-3.2, 1, 0]);

	// What is hidden is not met by the probe, nor by a click; what is locked is not taken hold of.
	const names = { upper: 'Kerb stone 2', lower: 'Kerb stone' };
	await list(page).getByRole('button', { name: `Hide ${names.upper}` }).click();
	await settled(page);
	const probed = async (point: readonly [number, number, number]): Promise<string> => {
		await page.getByText('Probe', { exact: true }).click();
		const [x, y] = await on(page, point);
		const answer = page.waitForResponse((response) => response.url().endsWith('/probe'));
		await page.locator('.stage canvas').click({ position: { x, y } });
		return ((await (await answer).json()) as { object: { name: string } | null }).object?.name ?? '';
	};
	expect(await probed([-3.2, 1.5, 0.5])).not.toBe(names.upper);
	await list(page).getByRole('button', { name: `Show ${names.upper}` }).click();
	await settled(page);
	expect(await probed([-3.2, 1.5, 0.5])).toBe(names.upper);
	await list(page).getByRole('button', { name: `Lock ${names.upper}` }).click();
	await list(page).getByRole('button', { name: new RegExp(`^${names.upper}`) }).click();
	await expect(act(page, 'Delete')).toBeDisabled();
	await expect(values(page).getByRole('spinbutton', { name: 'Position X' })).toHaveCount(0);
	await list(page).getByRole('button', { name: /^Kerb stone Rounded/ }).click();
	await page.keyboard.press('Delete');
	await expect(list(page).getByRole('listitem')).toHaveCount(2);
	await expect.poll(() => saved.at(-1)?.objects.map((one) => one.name)).toEqual(['Floor', names.upper]);
	// Back to the surface: nothing has moved.
	await page.getByRole('button', { name: 'Workbench', exact: true }).click();
	await expect(page.getByRole('complementary', { name: 'Layers and objects' }).getByRole('button', { name: new RegExp(`^${names.upper}`) })).toBeVisible();
});

test('more copies than a stage holds are refused, with the reason', async ({ page }) => {
	await staged(page, (stage) => (stage.objects = stage.objects.slice(0, 2)));
	await open(page, await fresh(page, 'Too many', 'basalt-cladding'));
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	await list(page).getByRole('button', { name: /^Cube/ }).click();
	await act(page, 'Grid').click();
	await type(page, 'Copies along X', '50');
	await type(page, 'Copies along Z', '50');
	await act(page, 'Make 2499 copies').click();
	await expect(page.getByText('There would be more than 2000 objects')).toBeVisible();
	await expect(list(page).getByRole('listitem')).toHaveCount(2);
});

test('objects wear other materials of the project, and the probe tells of what is worn', async ({ page }) => {
	const saved = await staged(page, () => {});
	const [red, blue] = [await made(page, plain('Madder', [0.7, 0.1, 0.1])), await made(page, plain('Woad', [0.1, 0.15, 0.7]))];
	await open(page, red);
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	await list(page).getByRole('button', { name: /^Cube Cube/ }).click();
	const front = [-3, 0.5, 0.5] as const;
	const seen = async (): Promise<number[]> => { await settled(page); return pixel(page, ...(await on(page, front))); };
	const [r, , b] = await seen();
	expect(r!).toBeGreaterThan(2 * b!);
	const choice = values(page).getByLabel('Material that it wears');
	await choice.selectOption(String(blue));
	await expect.poll(async () => { const [red, , blue] = await seen(); return blue! > 1.5 * red!; }).toBe(true);
	await expect.poll(() => saved.at(-1)?.objects.find((one) => one.id === 'cube-1')?.wears).toBe(blue);
	// The others stay as they were.
	const [x, y] = await on(page, [-1, 0.5, 0.5]);
	const beside = await pixel(page, x, y);
	expect(beside[0]!).toBeGreaterThan(2 * beside[2]!);
	await page.getByText('Probe', { exact: true }).click();
	const [px, py] = await on(page, front);
	const answer = page.waitForResponse((response) => response.url().endsWith('/probe'));
	await page.locator('.stage canvas').click({ position: { x: px, y: py } });
	const trail = (await (await answer).json()) as { object: { name: string }; stops: { label: string; readings: { name: string; values: number[] }[] }[] };
	expect(trail.object.name).toBe('Cube');
	const colour = trail.stops.find((one) => one.label === 'Result')!.readings.find((one) => /colour/i.test(one.name))!.values;
	expect(colour[2]!).toBeGreaterThan(4 * colour[0]!);

	// One that is gone is said to be, and what is open is seen again.
	await page.request.delete(`/api/materials/${blue}`, { headers: { 'X-Rilta': '1' } });
	await list(page).getByRole('button', { name: /^Sphere/ }).click();
	await list(page).getByRole('button', { name: /^Cube Cube/ }).click();
	await expect(choice.locator('option:checked')).toHaveText('one that is gone');
	await choice.selectOption({ label: 'the one that is open' });
	await expect.poll(async () => { const [red, , blue] = await seen(); return red! > 2 * blue!; }).toBe(true);
	await expect.poll(() => saved.at(-1)?.objects.find((one) => one.id === 'cube-1')?.wears).toBeUndefined();
});

test('stones are scattered over a surface, several are moved at once in whole steps, and one walks among them', async ({ page }) => {
	const material = await made(page, plain('Scattered', [0.5, 0.45, 0.4]));
	const object = (id: string, mesh: string, position: [number, number, number], scale = 1) => ({ id: id.toLowerCase(), name: id, mesh, position, turn: [0, 0, 0] as [number, number, number], scale: [scale, scale, scale] as [number, number, number] });
	const stage = await judgedOn(page, material, { objects: [object('Floor', 'floor', [0, 0, 0]), object('Stone', 'boulder', [0, 0, 0], 0.3), object('Post', 'cube', [2, 0, 0])], camera: { position: [0, 3, 9], target: [0, 0.5, 0] } });
	await open(page, material);
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	const stored = async (): Promise<StageDocument['objects']> => (await storedStage(page, stage)).objects;
	await list(page).getByRole('button', { name: 'Stone Boulder' }).click();
	await values(page).getByRole('button', { name: 'Scatter', exact: true }).click();
	await values(page).getByLabel('Over which object').selectOption('Post');
	await values(page).getByRole('button', { name: 'Scatter 20 copies' }).click();
	await expect.poll(async () => (await stored()).length).toBe(23);
	const copies = (await stored()).slice(3);
	// On the lid of the block, and nowhere else: its sides are steep.
	for (const one of copies) expect([Math.abs(one.position[0]! - 2) <= 0.5001, Math.abs(one.position[1]! - 1) < 0.001, Math.abs(one.position[2]!) <= 0.5001]).toEqual([true, true, true]);
	expect(new Set(copies.map((one) => one.seed)).size).toBe(20);
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect.poll(async () => (await stored()).length).toBe(3);

	// Two at once, by number and by hand.
	await list(page).getByRole('button', { name: 'Stone Boulder' }).click();
	await list(page).getByRole('button', { name: 'Post Cube' }).click({ modifiers: ['Shift'] });
	await expect(values(page).getByText('2 are selected.')).toBeVisible();
	await type(page, 'Z', '-1.5');
	await values(page).getByRole('button', { name: 'Move', exact: true }).click();
	await expect.poll(async () => (await stored()).slice(1).map((one) => one.position)).toEqual([[0, 0, -1.5], [2, 0, -1.5]]);
	await list(page).getByLabel('Snap to metres').selectOption('0.5');
	await pull(page, [0, 0, -1.5], 0.7);
	await expect.poll(async () => (await stored())[1]!.position[0]).not.toBe(0);
	const [stone, post] = (await stored()).slice(1) as [StageDocument['objects'][number], StageDocument['objects'][number]];
	expect(Math.abs((stone.position[0]! * 2) % 1)).toBeLessThan(1e-6);
	expect(post.position[0]! - 2).toBeCloseTo(stone.position[0]!, 6);
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect.poll(async () => (await stored()).slice(1).map((one) => one.position)).toEqual([[0, 0, -1.5], [2, 0, -1.5]]);
	await values(page).getByRole('button', { name: 'Delete', exact: true }).click();
	await expect.poll(async () => (await stored()).length).toBe(1);
	await page.getByRole('button', { name: 'Undo' }).click();

	// By keys, and at eye height, and on.
	const eye = (): Promise<number[]> => page.evaluate(() => (window as unknown as { riltaStage: { camera: { position: { toArray: () => number[] } } } }).riltaStage.camera.position.toArray());
	const [x] = await eye();
	await page.locator('.stage canvas').focus();
	await page.keyboard.press('ArrowRight');
	expect((await eye())[0]).toBeGreaterThan(x! + 0.2);
	await page.keyboard.press('ArrowLeft');
	expect((await eye())[0]).toBeCloseTo(x!, 5);
	await page.getByRole('button', { name: 'Walk', exact: true }).click();
	expect((await eye())[1]).toBeCloseTo(1.65, 5);
	const before = (await eye())[2]!;
	await page.keyboard.down('w');
	await expect.poll(async () => (await eye())[2]).toBeLessThan(before - 1);
	await page.keyboard.up('w');
	expect((await eye())[1]).toBeCloseTo(1.65, 5);
});

test('two thousand copies in several variants are drawn in one call, and each looks as it does by itself', async ({ page }) => {
	const document = plain('Many', [0.5, 0.5, 0.5]);
	const finish = { values: { gradientBy: 'object', gradientDraws: 'along', gradientStops: [{ at: 0, red: 0.1, green: 0.1, blue: 0.1 }, { at: 1, red: 0.95, green: 0.95, blue: 0.95 }], lightness: { parameter: 'light', factor: 1, offset: 0 } } };
	const material = await made(page, {
		...document,
		lanes: [{ ...document.lanes[0]!, steps: [{ step: 'origin', on: true, values: { space: 'object' } }] }],
		layers: [{ ...document.layers[0]!, finish }],
		parameters: [{ id: 'light', name: 'Light', kind: 'number', unit: '%', min: 0, max: 200, step: 1, value: 100 }],
		variants: [{ id: 'dark', name: 'Dark', base: '', values: { light: 40 } }, { id: 'dim', name: 'Dim', base: '', values: { light: 70 } }]
	});
	const cube = (i: number) => ({ id: `cube-${i}`, name: `Cube ${i}`, mesh: 'cube', position: [1.5 * (i % 3) - 1.5, 0, -1.5 * Math.floor(i / 3)] as [number, number, number], turn: [0, 20 * i, 0] as [number, number, number], scale: [1, 1, 1] as [number, number, number], seed: 11 + i, ...(i % 3 === 0 ? {} : { variant: ['', 'dark', 'dim'][i % 3]! }) });
	const stage = await judgedOn(page, material, { objects: Array.from({ length: 9 }, (_, i) => cube(i)), camera: { position: [0, 7, 6], target: [0, 0.5, -1.5] } });
	await open(page, material);
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	await settled(page);
	/** How often something is drawn for a picture, and in how many of those many at once. */
	const calls = (): Promise<{ one: number; many: number }> => page.evaluate(() => {
		const { riltaStage } = window as unknown as { riltaStage: { renderer: { getContext: () => WebGL2RenderingContext }; draw: (share: number) => void } };
		const gl = riltaStage.renderer.getContext();
		const counts = { one: 0, many: 0 };
		const [one, many] = [gl.drawElements.bind(gl), gl.drawElementsInstanced.bind(gl)];
		gl.drawElements = (...all) => { counts.one++; one(...all); };
		gl.drawElementsInstanced = (...all) => { counts.many++; many(...all); };
		riltaStage.draw(0.5);
		Object.assign(gl, { drawElements: one, drawElementsInstanced: many });
		return counts;
	});
	/** The lids of the first six. */
	const colours = async (): Promise<number[][]> => {
		await settled(page);
		const all: number[][] = [];
		for (let i = 0; i < 6; i++) { const { position: [x, , z] } = cube(i); all.push((await pixel(page, ...(await on(page, [x, 1, z])))).slice(0, 3)); }
		return all;
	};
	let lid: number[] = [];
	for (const view of ['base-colour', 'lit', 'faces']) {
		await page.getByLabel('View', { exact: true }).selectOption(view);
		const together = await colours();
		expect((await calls()).many).toBeGreaterThan(0);
		for (const name of ['Cube 6', 'Cube 7', 'Cube 8']) await list(page).getByRole('button', { name: `Hide ${name}` }).click();
		await expect.poll(async () => (await calls()).many).toBe(0);
		const apart = await colours();
		for (const [i, one] of together.entries()) for (const c of [0, 1, 2]) expect(Math.abs(one[c]! - apart[i]![c]!), `${view}, cube ${i}`).toBeLessThanOrEqual(3);
		if (view === 'base-colour') lid = together[1]!;
		if (view === 'base-colour') expect(new Set(together.map(String)).size).toBe(6);
		for (const name of ['Cube 6', 'Cube 7', 'Cube 8']) await list(page).getByRole('button', { name: `Show ${name}` }).click();
	}
	await page.getByLabel('View', { exact: true }).selectOption('lit');

	// One of a crowd is clicked and moved; the others stay.
	const few = await calls();
	await list(page).getByRole('button', { name: 'Cube 1 Cube', exact: true }).click();
	await type(page, 'Position Y', '0.75');
	await page.getByLabel('View', { exact: true }).selectOption('base-colour');
	await settled(page);
	expect((await calls()).many).toBeGreaterThan(0);
	expect((await pixel(page, ...(await on(page, [0, 1.75, 0])))).map((one, c) => Math.abs(one - lid[c]!) <= 3)).toEqual([true, true, true]);
	await page.getByLabel('View', { exact: true }).selectOption('lit');
	await expect.poll(async () => (await storedStage(page, stage)).objects[1]!.position[1]).toBe(0.75);

	// Rows and rows: hardly more is drawn.
	await list(page).getByRole('button', { name: 'Cube 0 Cube', exact: true }).click();
	await act(page, 'Grid').click();
	await type(page, 'Copies along X', '40');
	await type(page, 'Copies along Z', '49');
	await act(page, 'Make 1959 copies').click();
	await expect.poll(async () => (await storedStage(page, stage)).objects.length).toBe(1968);
	await settled(page);
	const crowd = await calls();
	expect(crowd.many).toBe(few.many);
	expect(crowd.one).toBeLessThan(few.one + 12);
});

test('a material of the demo is first seen on the yard, and who works is heard while the yard is dressed', async ({ page }) => {
	const id = (await shelf(page)).find((one) => one.name === 'Sluice facing')?.id ?? 0;
	const first = (await (await page.request.get(`/api/projects/${PROJECT}/stage?material=${id}`)).json()) as { name: string };
	expect(first.name).toBe('Station yard');
	await page.goto(`/${PROJECT}/materials/${id}`);
	// Others are on their way, and what wears them is bare as long as that takes.
	const waiting = () => page.evaluate(() => window.riltaStage?.waits);
	await expect.poll(waiting, { intervals: [100] }).toBe(true);
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	await expect(list(page).getByText('Library wall', { exact: true }).first()).toBeVisible();
	await expect.poll(waiting).toBe(false);
	await expect.poll(() => page.evaluate(() => window.riltaStage!.lastRatio)).toBe(1);
	await settled(page);
	// What is bare is grey; copper is not.
	const [dome] = await pixels(page, [await on(page, [-4.6, 2.7, -0.75])]);
	expect(dome![0]! - dome![2]!).toBeGreaterThan(25);
});
