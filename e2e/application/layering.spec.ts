import { expect, test, type Page } from './test';
import type { MaterialDocument } from '../../web/src/api/client';
import { judgedOn, made, on, open, pixel, pixels, placed, requests, settled, stored } from './bench';

const saved = (page: Page): Promise<void> => expect(page.getByTestId('saving')).toHaveText('Saved');
const values = (page: Page) => page.getByRole('region', { name: 'Values' });
const band = (page: Page, name: string) => page.getByRole('button', { name: `${name}, layer` });
const difference = (a: number[], b: number[]): number => Math.max(...a.map((one, i) => Math.abs(one - b[i]!)));
const show = (page: Page, label: string) => page.getByLabel('View', { exact: true }).selectOption({ label });

/** A layer of one colour. */
const plain = (id: string, tint: number[], more: Partial<MaterialDocument['layers'][number]> = {}): MaterialDocument['layers'][number] => ({
	id,
	name: id.charAt(0).toUpperCase() + id.slice(1),
	lane: 'main',
	set: '',
	finish: { values: { tint } },
	...more
});
const grey = (value: number) => [{ kind: 'constant', values: { value } }];
const document = (name: string, layers: MaterialDocument['layers'], more: Partial<MaterialDocument> = {}): MaterialDocument => ({
	format: 'rilta-material/2',
	name,
	lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: {} }, { step: 'size', on: true, values: { u: 2, v: 2 } }] }],
	layers,
	...more
});

test('several layers are chosen, moved, duplicated and grouped, by keyboard too, and a group has an opacity of its own', async ({ page }) => {
	const id = await made(page, document('Stacked', [plain('black', [0, 0, 0]), plain('green', [0, 1, 0]), plain('red', [1, 0, 0])]));
	await open(page, id);
	await show(page, 'Base colour');
	await settled(page);
	expect(await pixel(page, 400, 500)).toEqual([255, 0, 0]);
	await band(page, 'Red').click();
	await band(page, 'Green').click({ modifiers: ['Control'] });
	await expect(page.locator('.band.selected')).toHaveCount(2);
	await band(page, 'Red').press('Control+g');
	const bracket = page.getByRole('button', { name: 'Group 1, group of layers' });
	await expect(bracket).toHaveAttribute('aria-pressed', 'true');
	await saved(page);
	await settled(page);
	const { document: grouped } = await stored(page, id);
	expect(grouped.groups).toEqual([{ id: 'group', name: 'Group 1', opacity: 100 }]);
	expect(grouped.layers.map((layer) => layer.group ?? '')).toEqual(['', 'group', 'group']);

	// Its opacity is one number: nothing is asked while it is dragged. Half of red light is not half of both layers.
	const sent = requests(page);
	const opacity = values(page).getByRole('spinbutton', { name: 'Group opacity' });
	await opacity.focus();
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type('50');
	await page.keyboard.press('Enter');
	await settled(page);
	// Half of linear light is 188 of 255 on the screen.
	expect(await pixel(page, 400, 500)).toEqual([188, 0, 0]);
	await saved(page);
	expect(sent().map((request) => request.method())).toEqual(['PUT']);
	await expect(band(page, 'Black')).toContainText('50 %');
	await expect(band(page, 'Red')).toContainText('50 %');

	await values(page).getByRole('button', { name: 'Ungroup' }).click();
	await expect(bracket).toHaveCount(0);
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(bracket).toHaveCount(1);

	// Both go down below the lowest, and leave nothing behind that they stood on.
	await band(page, 'Green').click();
	await band(page, 'Red').click({ modifiers: ['Shift'] });
	await band(page, 'Green').press('Alt+ArrowDown');
	await saved(page);
	expect((await stored(page, id)).document.layers.map((layer) => layer.id)).toEqual(['green', 'red', 'black']);
	await page.locator('.band.selected .face').first().press('Control+d');
	await saved(page);
	expect((await stored(page, id)).document.layers.map((layer) => layer.id)).toEqual(['green', 'red', 'green-2', 'red-2', 'black']);
	await page.locator('.band.selected .face').first().press('Delete');
	await saved(page);
	expect((await stored(page, id)).document.layers.map((layer) => layer.id)).toEqual(['green', 'red', 'black']);
});

test('bands are as thick as what is seen of their layers, and a mask says how much it covers', async ({ page }) => {
	const id = await made(page, document('Measured', [plain('low', [1, 1, 1]), plain('middle', [1, 0, 0], { mask: grey(60) }), plain('high', [0, 0, 1], { mask: grey(25) })]));
	await open(page, id);
	await expect(band(page, 'High')).toContainText('25 %');
	await expect(band(page, 'Middle')).toContainText('45 %');
	await expect(band(page, 'Low')).toContainText('30 %');
	const thick = async (name: string): Promise<number> => (await page.getByRole('group', { name: `Layer ${name}` }).boundingBox())!.height;
	await expect.poll(async () => (await thick('Middle')) > (await thick('Low')) && (await thick('Low')) > (await thick('High'))).toBe(true);
	await band(page, 'Middle').click();
	await expect(values(page).getByRole('region', { name: 'Mask' })).toContainText('60 %');
});

test('what wears another material is no part of the shares of this one, though it stands before it', async ({ page }) => {
	const other = await made(page, document('Beside', [plain('low', [1, 1, 1]), plain('high', [0, 1, 0])]));
	const id = await made(page, document('Shared', [plain('low', [1, 1, 1]), plain('high', [0, 0, 1], { mask: grey(25) })]));
	const cube = { mesh: 'cube', turn: [0, 0, 0] as [number, number, number], scale: [1, 1, 1] as [number, number, number] };
	await judgedOn(page, id, { objects: [{ ...cube, id: 'own', name: 'Own', position: [0, 0, 0] }, { ...cube, id: 'near', name: 'Near', position: [0.4, 0, 1.5], wears: other }, { ...cube, id: 'beside', name: 'Beside', position: [-2, 0, 0], wears: other }] });
	await open(page, id);
	await show(page, 'Base colour');
	const beside = await on(page, [-2, 0.5, 0.5]);
	await expect.poll(async () => { await settled(page); return pixel(page, ...beside); }).toEqual([0, 255, 0]);
	// Another measurement, now that the others are there.
	await page.getByRole('button', { name: 'See all' }).click();
	await settled(page);
	await page.waitForTimeout(1000);
	await expect(band(page, 'High')).toContainText('25 %');
	await expect(band(page, 'Low')).toContainText('75 %');
});

test('a mask is shown alone, in two colours of one\'s own, and its terms have pictures', async ({ page }) => {
	const id = await made(page, document('Masked alone', [plain('low', [1, 1, 1]), plain('high', [1, 0, 0], { mask: [...grey(100), { kind: 'slope', values: { angle: 40, softness: 0 } }] })]));
	await open(page, id);
	await band(page, 'High').click();
	const mask = values(page).getByRole('region', { name: 'Mask' });
	await mask.getByRole('button', { name: 'Alone' }).click();
	await settled(page);
	const [floor, front] = [[400, 520] as const, await on(page, [-3, 0.7, 0.5])];
	const at = (): Promise<number[][]> => pixels(page, [floor, front]);
	expect(await at()).toEqual([[255, 255, 255], [0, 0, 0]]);
	await mask.getByLabel('In two colours').check();
	await mask.getByLabel('Where it is not', { exact: true }).fill('#204060');
	await mask.getByLabel('Where it is', { exact: true }).fill('#e0c020');
	await settled(page);
	for (const [i, wanted] of [[0xe0, 0xc0, 0x20], [0x20, 0x40, 0x60]].entries()) expect(difference((await at())[i]!, wanted)).toBeLessThanOrEqual(1);
	await page.reload();
	await settled(page);
	await band(page, 'High').click();
	// Up to the first term it lies everywhere.
	await mask.getByRole('button', { name: 'Show A constant on the stage' }).click();
	await settled(page);
	for (const one of await at()) expect(difference(one, [0xe0, 0xc0, 0x20]), 'the browser remembers').toBeLessThanOrEqual(1);
	await mask.getByLabel('In two colours').uncheck();
	await mask.getByRole('button', { name: 'Show Slope on the stage' }).click();
	await settled(page);
	expect(await at()).toEqual([[255, 255, 255], [0, 0, 0]]);
	// The tiles show the same: the second is dark but for the top of the ball.
	const light = (n: number): Promise<number> => mask.locator('canvas').nth(n).evaluate((canvas: HTMLCanvasElement) => {
		const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
		return data.reduce((sum, one, i) => sum + (i % 4 === 0 ? one : 0), 0) / (data.length / 4);
	});
	await expect.poll(async () => (await light(0)) - (await light(1))).toBeGreaterThan(20);
});

test('one gesture gives a mask a lane of its own, far larger than the maps that it mixes', async ({ page }) => {
	const id = await made(page, document('Own lane', [plain('low', [1, 1, 1]), plain('high', [1, 0, 0], { mask: [{ kind: 'noise', values: { size: 0.5 } }] })]));
	await open(page, id);
	await band(page, 'High').click();
	await settled(page);
	const before = await pixels(page, [...Array(40).keys()].map((i) => [60 + 16 * i, 520] as const));
	await values(page).getByRole('button', { name: 'A lane of its own, 8 × larger' }).click();
	await saved(page);
	const { document: now } = await stored(page, id);
	expect(now.lanes.map((lane) => lane.name)).toEqual(['Main', 'Mask of High']);
	expect(now.lanes[1]!.steps[1]).toMatchObject({ step: 'size', values: { u: 16, v: 16 } });
	expect(now.layers[1]!.mask).toMatchObject([{ kind: 'noise', lane: 'main-2', values: { space: 'lane' } }]);
	await expect(values(page).getByLabel('Lane of the term')).toHaveValue('main-2');
	await settled(page);
	const changes = (all: number[][]): number => all.slice(1).reduce((sum, one, i) => sum + difference(one, all[i]!), 0);
	await expect.poll(async () => changes(await pixels(page, [...Array(40).keys()].map((i) => [60 + 16 * i, 520] as const)))).toBeLessThan(changes(before) / 2);
	await page.getByRole('button', { name: 'Undo' }).click();
	await saved(page);
	expect((await stored(page, id)).document.lanes).toHaveLength(1);
});

test('while a finish is held, what it was is seen beside what it becomes', async ({ page }) => {
	const id = await made(page, document('Held', [{ ...plain('low', [1, 1, 1]), finish: { values: { tint: [0, 0.6, 0], lightness: 100 } } }]));
	await open(page, id);
	await band(page, 'Low').click();
	await show(page, 'Base colour');
	await settled(page);
	const sides = [[120, 520], [680, 520]] as const;
	const [left, right] = (await pixels(page, sides)) as [number[], number[]];
	expect(left).toEqual(right);
	const lightness = values(page).getByRole('spinbutton', { name: 'Lightness' });
	const box = (await lightness.boundingBox())!;
	await page.mouse.move(box.x + box.width * 0.5, box.y + 10);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width * 0.1, box.y + 10, { steps: 4 });
	await settled(page);
	const [was, now] = (await pixels(page, sides)) as [number[], number[]];
	expect(was).toEqual(left);
	expect(difference(now, right)).toBeGreaterThan(30);
	await expect(page.locator('.halves')).toHaveText('beforenow');
	await page.mouse.up();
	await settled(page);
	const [after, alike] = (await pixels(page, sides)) as [number[], number[]];
	expect(after).toEqual(alike);
	expect(after).toEqual(now);
	// The whole finish, against the layer without it.
	const button = values(page).getByRole('button', { name: 'Hold for before' });
	await button.focus();
	await page.keyboard.down('Enter');
	await settled(page);
	const [without] = (await pixels(page, sides)) as [number[]];
	expect(without).toEqual([255, 255, 255]);
	await page.keyboard.up('Enter');
	await settled(page);
	expect(await pixels(page, sides)).toEqual([after, after]);
	// A double click is back to what was read.
	await lightness.dblclick();
	await saved(page);
	expect((await stored(page, id)).document.layers[0]?.finish?.values).toEqual({ tint: [0, 0.6, 0] });
});

test('colours, switches and map sets become parameters from their own fields, and objects wear variants of them side by side', async ({ page }) => {
	const layers = [{ id: 'low', name: 'Low', lane: 'main', set: 'lime-plaster' }, plain('high', [1, 0, 0], { mask: [{ kind: 'slope', values: { angle: 40, softness: 0 } }] })];
	const id = await made(page, document('Kinds', layers));
	await open(page, id);
	await band(page, 'High').click();
	await values(page).getByRole('button', { name: 'Tie Tint to a parameter' }).click();
	await page.getByRole('button', { name: 'New parameter “Tint”' }).click();
	await values(page).getByRole('button', { name: 'Tie Turn over to a parameter' }).first().click();
	await page.getByRole('button', { name: 'New parameter “Turn over”' }).click();
	await band(page, 'Low').click();
	await values(page).getByRole('button', { name: 'Tie Map set to a parameter' }).click();
	await page.getByRole('button', { name: 'New parameter “Map set”' }).click();
	await saved(page);
	const { document: now } = await stored(page, id);
	expect(now.parameters).toEqual([
		{ id: 'tint', name: 'Tint', kind: 'colour', value: [1, 0, 0] },
		{ id: 'turn-over', name: 'Turn over', kind: 'switch', value: false },
		{ id: 'map-set', name: 'Map set', kind: 'set', value: 'lime-plaster' }
	]);
	expect([now.layers[0]?.set, now.layers[1]?.finish?.values?.tint, now.layers[1]?.mask?.[0]?.values.invert]).toEqual([{ parameter: 'map-set' }, { parameter: 'tint' }, { parameter: 'turn-over' }]);

	await page.getByRole('button', { name: 'Table of variants' }).click();
	const table = page.getByRole('dialog', { name: 'Variants of Kinds' });
	await table.getByRole('button', { name: 'New variant' }).click();
	await table.getByRole('button', { name: 'New variant' }).click();
	await table.getByLabel('Tint of Variant 1').fill('#0000ff');
	await table.getByLabel('Turn over of Variant 1').check();
	await table.getByLabel('Map set of Variant 2').selectOption('basalt-cladding');
	await table.getByRole('button', { name: 'Close' }).click();
	await saved(page);
	expect((await stored(page, id)).document.variants).toMatchObject([{ values: { tint: [0, 0, 1], 'turn-over': true } }, { values: { 'map-set': 'basalt-cladding' } }]);

	// Colours and switches are numbers: the stage switches without asking for code.
	await show(page, 'Base colour');
	await settled(page);
	await page.waitForTimeout(1500);
	const sent = requests(page);
	const front = await on(page, [-3, 0.7, 0.5]);
	expect(await pixel(page, 400, 520)).toEqual([255, 0, 0]);
	await page.getByLabel('Variant shown').selectOption({ label: 'Variant 1' });
	await settled(page);
	expect(await pixel(page, ...front)).toEqual([0, 0, 255]);
	expect(difference(await pixel(page, 400, 520), [255, 0, 0])).toBeGreaterThan(60);
	expect(sent()).toEqual([]);

	// What reads another set stands beside what does not.
	await page.getByLabel('Variant shown').selectOption({ label: 'As written' });
	await settled(page);
	const other = await on(page, [-1, 0.7, 0.5]);
	const [one, beside] = (await pixels(page, [front, other])) as [number[], number[]];
	await page.getByRole('button', { name: /^Cube 1×1×1/ }).click();
	await values(page).getByLabel('Variant that it wears').selectOption({ label: 'Variant 2' });
	await expect.poll(async () => { await settled(page); return difference(await pixel(page, ...front), one); }).toBeGreaterThan(50);
	expect(difference(await pixel(page, ...other), beside)).toBeLessThan(3);
	await show(page, 'Lit');
	await settled(page);
	const [worn, plainly] = (await pixels(page, [front, other])) as [number[], number[]];
	expect(difference(worn, plainly)).toBeGreaterThan(40);
	await values(page).getByLabel('Variant that it wears').selectOption('');
	await expect.poll(async () => (await placed(page, 'cube-1')).variant ?? '').toBe('');
});

test('a channel made from another, and slopes from heights, are seen at once', async ({ page }) => {
	const id = await made(page, document('Derived', [{ id: 'low', name: 'Low', lane: 'main', set: 'lime-plaster' }]));
	await open(page, id);
	await band(page, 'Low').click();
	await show(page, 'Roughness');
	await settled(page);
	const floor = [...Array(30).keys()].map((i) => [60 + 22 * i, 520] as const);
	const before = await pixels(page, floor);
	const finish = values(page).getByRole('region', { name: 'Finish' });
	await finish.getByRole('button', { name: 'Roughness' }).click();
	await finish.getByLabel('Made from').selectOption('luminance');
	await saved(page);
	expect((await stored(page, id)).document.layers[0]?.finish).toEqual({ values: { roughnessSource: 'luminance' } });
	await expect.poll(async () => { await settled(page); const all = await pixels(page, floor); return Math.max(...all.map((one, i) => difference(one, before[i]!))); }).toBeGreaterThan(20);
	// As it looks: what the base colour shows is what roughness is.
	const rough = await pixels(page, floor);
	await show(page, 'Base colour');
	await settled(page);
	const colours = await pixels(page, floor);
	const linear = (byte: number): number => { const c = byte / 255; return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4; };
	for (const [i, [r, g, b]] of colours.entries()) {
		const light = 0.2126 * linear(r!) + 0.7152 * linear(g!) + 0.0722 * linear(b!);
		const looks = light <= 0.0031308 ? light * 12.92 : 1.055 * light ** (1 / 2.4) - 0.055;
		expect(Math.abs(rough[i]![0]! - 255 * looks), `${i}`).toBeLessThan(4);
	}
	await finish.getByRole('button', { name: 'Relief' }).click();
	await finish.getByLabel('Slopes from').selectOption('height');
	await show(page, 'Normal');
	await expect.poll(async () => { await settled(page); const all = await pixels(page, floor); return Math.max(...all.map((one) => difference(one, [128, 255, 128]))); }).toBeGreaterThan(8);
});

test('rectangles of a lane are dragged on the stage: moved, sized and turned, each as one step of undo', async ({ page }) => {
	const plate = { u: 0.4, v: 2.2, width: 0.8, height: 0.5, turn: 0, more: [{ u: -1.2, v: 2.2, width: 0.5, height: 0.5, turn: 0, cell: 0 }] };
	const id = await made(
		page,
		document('Plates', [plain('ground', [0, 0, 1]), plain('plate', [1, 0, 0], { lane: 'plates' })], {
			lanes: [
				{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: {} }] },
				{ id: 'plates', name: 'Plates', steps: [{ step: 'origin', on: true, values: { faces: 'y' } }, { step: 'place', on: true, values: plate }] }
			]
		})
	);
	await open(page, id);
	// The lane looks from above: u is x, v is z, on the floor.
	const spot = (u: number, v: number) => on(page, [u, 0, v]);
	const red = async (u: number, v: number): Promise<boolean> => { const [r, , b] = await pixel(page, ...(await spot(u, v))); return r! > b! + 40; };
	await band(page, 'Plate').click();
	await page.getByRole('button', { name: 'Place, step of the lane' }).click();
	await expect(page.locator('[data-centre]')).toHaveCount(2);
	const box = (await page.locator('canvas[aria-label^="Stage"]').boundingBox())!;
	const place = async (selector: string): Promise<[number, number]> => {
		const [, x, y] = /translate\(([-\d.]+) ([-\d.]+)\)/.exec((await page.locator(selector).getAttribute('transform'))!)!;
		return [Number(x), Number(y)];
	};
	const near = (a: number[], b: number[]): void => expect(Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!)).toBeLessThan(3);
	near(await place('[data-centre="0"]'), await spot(0.4, 2.2));
	near(await place('[data-centre="1"]'), await spot(-1.2, 2.2));
	near(await place('[data-grip="2"]'), await spot(0.8, 2.45));
	expect(await red(0.4, 2.2)).toBe(true);
	expect(await red(0.4, 2.75)).toBe(false);

	const sent = requests(page);
	const drag = async (selector: string, u: number, v: number): Promise<void> => {
		const [from, to] = [await place(selector), await spot(u, v)];
		await page.mouse.move(box.x + from[0], box.y + from[1]);
		await page.mouse.down();
		await page.mouse.move(box.x + to[0], box.y + to[1], { steps: 5 });
		await settled(page);
		expect(sent(), 'while it is held, nothing is sent').toEqual([]);
		await page.mouse.up();
		await saved(page);
		expect(sent().filter((request) => request.url().endsWith('/lower'))).toEqual([]);
		await settled(page);
	};
	const step = async () => (await stored(page, id)).document.lanes[1]!.steps[1]!.values as typeof plate;
	await drag('[data-centre="0"]', 0.6, 2.7);
	const moved = await step();
	expect(moved.u).toBeCloseTo(0.6, 1);
	expect(moved.v).toBeCloseTo(2.7, 1);
	expect(await red(0.6, 2.75)).toBe(true);
	expect(await red(0.4, 2.2)).toBe(false);
	// The centre stays where it is.
	await drag('[data-grip="2"]', 1.2, 3.2);
	const sized = await step();
	expect(sized.width).toBeCloseTo(1.2, 1);
	expect(sized.height).toBeCloseTo(1.0, 1);
	expect(await red(1.1, 3.1)).toBe(true);
	// What stood above now stands to the left: counter-clockwise by 90 degrees.
	await drag('[data-grip="turn"]', 0.6 - 0.9, 2.7);
	expect((await step()).turn).toBeCloseTo(90, -0.5);
	await drag('[data-centre="1"]', -1, 2.4);
	expect((await step()).more[0]!.u).toBeCloseTo(-1, 1);
	for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'Undo' }).click();
	await saved(page);
	expect(await step()).toMatchObject(plate);
	await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
});

test('a layer takes its colours from a gradient, and each of six sides has one of its own', async ({ page }) => {
	const six = [{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: { faces: 'six', seam: 0 } }] }];
	const id = await made(page, document('Coloured', [{ id: 'low', name: 'Low', lane: 'main', set: '' }], { lanes: six }));
	await open(page, id);
	await show(page, 'Base colour');
	await band(page, 'Low').click();
	const { position, scale } = await placed(page, 'sphere');
	const [top, front] = [await on(page, [position[0]!, position[1]! + 0.97 * scale[1]!, position[2]! + 0.1 * scale[2]!]), await on(page, [position[0]!, position[1]! + 0.5 * scale[1]!, position[2]! + 0.5 * scale[2]!])];
	const paint = (label: string, value: string) => values(page).getByLabel(label, { exact: true }).fill(value);
	await paint('Colour of the side +y', '#ff0000');
	await paint('Colour of the side +z', '#00ff00');
	await saved(page);
	expect((await stored(page, id)).document.layers[0]?.tints).toEqual({ '+y': [1, 0, 0], '+z': [0, 1, 0] });
	await expect.poll(async () => { await settled(page); return [await pixel(page, ...top), await pixel(page, ...front)]; }).toEqual([[255, 0, 0], [0, 255, 0]]);
	// Once a side has a colour, another one is a number alone.
	const sent = requests(page);
	await paint('Colour of the side +y', '#0000ff');
	await saved(page);
	expect(sent().filter((request) => request.url().endsWith('/lower'))).toEqual([]);
	await expect.poll(() => pixel(page, ...top)).toEqual([0, 0, 255]);
	await values(page).getByRole('button', { name: 'No colour of its own for the side +y' }).click();
	await saved(page);
	expect((await stored(page, id)).document.layers[0]?.tints).toEqual({ '+z': [0, 1, 0] });

	// A gradient by chance for each object; then its colours, on the bar and in fields.
	const finish = values(page).getByRole('region', { name: 'Finish' });
	await finish.getByRole('button', { name: 'Gradient' }).click();
	await finish.getByLabel(/^By/).selectOption({ label: 'Chance, for each object' });
	await saved(page);
	// Seed 1 draws 0.8013 for the object of the seed 2: as light as that looks, and its light is the cube.
	const wide = await placed(page, 'cube-2');
	expect(wide.seed).toBe(2);
	const drawn = Math.round(255 * (1.055 * (0.8013 ** 3) ** (1 / 2.4) - 0.055));
	const inside = await on(page, [wide.position[0]!, wide.position[1]! + 0.5 * wide.scale[1]!, wide.position[2]! + 0.5 * wide.scale[2]!]);
	await expect.poll(async () => { await settled(page); return difference(await pixel(page, ...inside), [drawn, drawn, drawn]); }).toBeLessThan(3);
	await finish.getByLabel('Colour 1', { exact: true }).fill('#ff0000');
	await finish.getByRole('slider', { name: 'Colour 2 at' }).focus();
	await finish.getByLabel('Colour 2', { exact: true }).fill('#ff0000');
	await expect.poll(async () => { await settled(page); return pixel(page, ...top); }).toEqual([255, 0, 0]);
	await finish.getByRole('button', { name: 'Add a colour' }).click();
	await saved(page);
	const stops = async () => (await stored(page, id)).document.layers[0]?.finish?.values!.gradientStops as { at: number; red: number }[];
	expect(await stops()).toMatchObject([{ at: 0, red: 1 }, { at: 0.5, red: 1 }, { at: 1, red: 1 }]);
	await finish.getByRole('slider', { name: 'Colour 2 at' }).press('Shift+ArrowRight');
	await saved(page);
	expect((await stops())[1]!.at).toBeCloseTo(0.6, 3);
	await finish.getByRole('slider', { name: 'Colour 2 at' }).press('Delete');
	await saved(page);
	expect(await stops()).toHaveLength(2);
	await expect(finish.getByRole('button', { name: /Take colour \d away/ })).toBeDisabled();
});
