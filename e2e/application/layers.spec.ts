import { expect, test, type Page } from './test';
import type { Row } from '../../web/src/api/client';
import { fresh, made, on, open, pixel, pixels, requests, settled, stored } from './bench';

const saved = (page: Page): Promise<void> => expect(page.getByTestId('saving')).toHaveText('Saved');
const values = (page: Page) => page.getByRole('region', { name: 'Values' });
const difference = (a: number[], b: number[]): number => Math.max(...a.map((c, i) => Math.abs(c - (b[i] ?? 0))));

test('layers are laid over each other, moved, hidden and deleted', async ({ page }) => {
	const id = await fresh(page, 'Two layers');
	await open(page, id);
	const layers = async (): Promise<string[]> => {
		await saved(page);
		return (await stored(page, id)).document.layers.map((layer) => `${layer.on === false ? '(' : ''}${layer.set} on ${layer.lane}`);
	};
	const before = await pixel(page, 400, 420);
	await page.getByRole('button', { name: 'Add a layer' }).click();
	await page.getByRole('dialog').getByText('basalt-cladding').click();
	expect(await layers()).toEqual(['lime-plaster on main', 'basalt-cladding on main']);
	await expect(page.getByText('3 taps · 24 map reads')).toBeVisible();
	await settled(page);
	const covered = await pixel(page, 400, 420);
	expect(difference(before, covered)).toBeGreaterThan(40);

	// Opacity is a uniform: dragging it sends nothing and shows the layer below.
	const sent = requests(page);
	const opacity = values(page).getByRole('spinbutton', { name: 'Opacity' });
	const box = (await opacity.boundingBox())!;
	await page.mouse.move(box.x + box.width - 4, box.y + 10);
	await page.mouse.down();
	await page.mouse.move(box.x - 200, box.y + 10, { steps: 6 });
	await settled(page);
	expect(sent()).toEqual([]);
	await page.mouse.up();
	expect(difference(before, await pixel(page, 400, 420))).toBeLessThan(3);
	await page.getByRole('button', { name: 'Undo' }).click();

	// A lane of its own, then the same one again.
	await values(page).getByRole('button', { name: 'A lane of its own' }).click();
	await page.getByRole('menuitem', { name: 'A new lane' }).click();
	expect(await layers()).toEqual(['lime-plaster on main', 'basalt-cladding on basalt-cladding']);
	await expect(page.getByRole('button', { name: 'Delete the lane Basalt cladding' })).toBeDisabled();
	await values(page).getByRole('combobox', { name: /^Lane/ }).selectOption('main');
	await expect(page.getByRole('button', { name: 'Delete the lane Basalt cladding' })).toBeEnabled();

	await page.getByRole('button', { name: 'Basalt cladding, layer' }).focus();
	await page.keyboard.press('Alt+ArrowDown');
	expect(await layers()).toEqual(['basalt-cladding on main', 'lime-plaster on main']);
	await page.keyboard.press('o');
	expect(await layers()).toEqual(['(basalt-cladding on main', 'lime-plaster on main']);
	await page.keyboard.press('Delete');
	expect(await layers()).toEqual(['lime-plaster on main']);
	for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click();
	expect(await layers()).toEqual(['lime-plaster on main', 'basalt-cladding on main']);
});

test('a parameter drives many numbers, and goes without changing them', async ({ page }) => {
	const id = await fresh(page, 'Driven');
	await open(page, id);
	await page.getByRole('button', { name: 'Size, step of the lane' }).click();
	await values(page).getByRole('button', { name: 'Tie Size to a parameter' }).click();
	await page.getByRole('button', { name: /^New parameter/ }).click();
	await page.getByRole('button', { name: 'Origin, step of the lane' }).click();
	await values(page).getByRole('button', { name: 'Tie Seam width to a parameter' }).click();
	await page.getByRole('dialog').getByRole('button', { name: 'Size', exact: true }).click();
	await saved(page);
	await settled(page);
	const sent = requests(page);
	const parameter = page.getByRole('region', { name: 'Parameters' }).getByRole('spinbutton', { name: 'Size' });
	await parameter.focus();
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type('2.5');
	await page.keyboard.press('Enter');
	await expect(page.getByTestId('sentence')).toContainText('2.5 m per repeat');
	await saved(page);
	expect(sent().map((request) => request.method())).toEqual(['PUT']);
	await expect(values(page).getByRole('spinbutton', { name: 'Seam width', exact: true })).toHaveAttribute('aria-valuenow', '2.5');
	const tied = (await stored(page, id)).document;
	expect(tied.lanes[0]?.steps[1]?.values.u).toEqual({ parameter: 'size', factor: 1, offset: 0 });
	expect(tied.parameters?.[0]).toMatchObject({ id: 'size', value: 2.5, unit: 'm' });

	await page.getByRole('region', { name: 'Parameters' }).getByRole('button', { name: 'Size' }).click();
	await values(page).getByRole('button', { name: 'Delete and untie 2' }).click();
	await saved(page);
	const free = (await stored(page, id)).document;
	expect([free.parameters, free.lanes[0]?.steps[1]?.values.u, free.lanes[0]?.steps[0]?.values.seam]).toEqual([[], 2.5, 2.5]);
});

test('places, keys and curves are edited in rows and in a picture', async ({ page }) => {
	const id = await fresh(page, 'Rows', 'gauge-numerals');
	await open(page, id);
	const insert = async (label: string): Promise<void> => {
		await page.getByRole('button', { name: 'Insert a step at the end' }).click();
		await page.getByRole('dialog').getByRole('button', { name: new RegExp(`^${label} `) }).click();
		await expect(values(page).getByRole('heading', { name: label, exact: true })).toBeVisible();
	};
	const last = async (): Promise<Record<string, unknown>> => {
		await saved(page);
		return (await stored(page, id)).document.lanes[0]?.steps.at(-1)?.values ?? {};
	};
	await insert('Place');
	await values(page).getByRole('button', { name: 'Add a place' }).click();
	await values(page).getByRole('button', { name: 'Add a place' }).click();
	// Each follows the one before it, the first of them the place that the step has by itself.
	expect((await last()).more).toMatchObject([{ u: 0.25, v: 0, width: 1, cell: 1 }, { u: 0.5, v: 0, width: 1, cell: 2 }]);
	await expect(page.getByTestId('sentence')).toContainText('place on 3 rectangles');
	await values(page).getByRole('button', { name: 'Remove row 1 of Further places' }).click();
	await expect(page.getByTestId('sentence')).toContainText('place on 2 rectangles');

	await insert('Reach');
	await values(page).getByLabel('Moved by').selectOption('keys');
	await expect(page.getByTestId('sentence')).toContainText('moved by keys');
	await values(page).getByText('Curve', { exact: true }).click();
	await saved(page);
	await settled(page);
	const sent = requests(page);
	const point = values(page).getByRole('slider', { name: 'Moves, point 3' });
	await point.scrollIntoViewIfNeeded();
	const box = (await point.boundingBox())!;
	await page.mouse.move(box.x + 5, box.y + 5);
	await page.mouse.down();
	await page.mouse.move(box.x - 20, box.y + 40, { steps: 5 });
	expect(sent()).toEqual([]);
	await page.mouse.up();
	const curve = (await last()).curve as Row[];
	expect(Number(curve[2]?.y)).toBeLessThan(0.6);
	expect(Number(curve[2]?.x)).toBeLessThan(1);
	expect(Number(curve[2]?.x)).toBeGreaterThan(Number(curve[1]?.x));
	await values(page).getByRole('slider', { name: 'Moves, point 2' }).focus();
	await page.keyboard.press('Delete');
	expect(((await last()).curve as Row[]).length).toBe(2);
	await values(page).getByRole('slider', { name: 'Moves, point 1' }).press('+');
	const [first, middle, end] = (await last()).curve as Row[];
	expect(Number(middle?.x)).toBeCloseTo((Number(first?.x) + Number(end?.x)) / 2, 3);
	expect(Number(middle?.y)).toBeCloseTo((Number(first?.y) + Number(end?.y)) / 2, 3);
	await values(page).getByRole('button', { name: 'Add a key' }).click();
	expect(((await last()).keys as Row[]).at(-1)?.at).toBe(5);
});

test('a station on the stage has a legend and tells what is under the pointer', async ({ page }) => {
	const id = await fresh(page, 'Read');
	await open(page, id);
	await page.getByRole('button', { name: 'Show Size on the stage' }).click();
	const legend = page.getByRole('complementary', { name: 'Legend' });
	await expect(legend).toContainText('After Size');
	await expect(legend).toContainText('Border of a repeat');
	await settled(page);
	const [x, y] = await on(page, [-3, 0.5, 0.5]);
	const stage = (await page.getByLabel(/^Stage:/).boundingBox())!;
	await page.mouse.move(stage.x + x, stage.y + y);
	await expect(legend).toContainText('Coordinate on z');
	// Three metres to the left and half a metre up, at 1.6 m a repeat.
	await expect(legend).toContainText(/-1\.8[67]\d -0\.31\d repeats/);
	await page.getByLabel('View', { exact: true }).selectOption({ label: 'Roughness' });
	await page.mouse.move(stage.x + x + 2, stage.y + y);
	await expect(legend).toContainText(/Roughness 0\.\d{3}/);
});

test('what cannot be used is named with its place; the rest is shown and nothing is lost', async ({ page }) => {
	const id = await made(page, {
		format: 'rilta-material/2',
		name: 'From a later version',
		lanes: [{ id: 'main', name: 'Main', steps: [
			{ step: 'origin', on: true, values: {} },
			{ step: 'fold', on: true, values: { times: 3 } },
			{ step: 'size', on: true, values: { u: 0 } }
		] }],
		layers: [
			{ id: 'ground', name: 'Ground', lane: 'main', set: 'lime-plaster' },
			{ id: 'gone', name: 'Gone', lane: 'main', set: 'deleted-set' }
		]
	});
	await open(page, id);
	const alert = page.getByRole('alert').filter({ hasText: 'left out' });
	await expect(alert).toContainText('3 parts are left out; the rest is shown');
	await expect(alert).toContainText('/lanes/0/steps/1/step');
	await expect(alert).toContainText('/lanes/0/steps/2/values/u expected 0.001 to 10000 m, found 0');
	await expect(alert).toContainText('/layers/1/set there is no map set "deleted-set"');
	await expect(page.getByText('does not know the step “fold”')).toBeVisible();
	expect(Math.max(...(await pixel(page, 400, 420)))).toBeGreaterThan(60);
	// Mending one of them, and saving, keeps the others as they are.
	await alert.getByRole('button', { name: '/lanes/0/steps/2/values/u' }).click();
	const size = values(page).getByRole('spinbutton', { name: 'Size', exact: true });
	await size.focus();
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type('2');
	await page.keyboard.press('Enter');
	await saved(page);
	const { document } = await stored(page, id);
	expect(document.lanes[0]?.steps[1]).toEqual({ step: 'fold', on: true, values: { times: 3 } });
	expect([document.lanes[0]?.steps[2]?.values.u, document.layers[1]?.set]).toEqual([2, 'deleted-set']);
});

test('in the lit picture every object has a seed of its own', async ({ page }) => {
	const id = await made(page, {
		format: 'rilta-material/2',
		name: 'Each its own',
		lanes: [{ id: 'main', name: 'Main', steps: [
			{ step: 'origin', on: true, values: { space: 'object' } },
			{ step: 'scatter', on: true, values: { by: 'object', shift: 0, brightness: 100, seed: 2 } }
		] }],
		layers: [{ id: 'ground', name: 'Ground', lane: 'main', set: 'lime-plaster' }]
	});
	await open(page, id);
	// Fronts of three cubes: they look the same way and are lit alike.
	const fronts = await Promise.all(([[-3, 0.7, 0.5], [-1, 0.7, 0.5], [1.35, 0.3, 1.5]] as const).map((p) => on(page, p)));
	const lit = [];
	for (const [x, y] of fronts) lit.push(await pixel(page, x, y));
	await page.getByLabel('View', { exact: true }).selectOption({ label: 'Base colour' });
	await settled(page);
	const plain = [];
	for (const [x, y] of fronts) plain.push(await pixel(page, x, y));
	for (const [a, b] of [[0, 1], [0, 2], [1, 2]] as const) {
		const told = difference(plain[a]!, plain[b]!);
		if (told > 40) expect(difference(lit[a]!, lit[b]!), `${a} and ${b}`).toBeGreaterThan(12);
	}
	expect(Math.max(difference(plain[0]!, plain[1]!), difference(plain[0]!, plain[2]!))).toBeGreaterThan(40);
});

test('a finish changes what a layer read, live, and can be left again', async ({ page }) => {
	const id = await fresh(page, 'Finished', 'patinated-copper');
	await open(page, id);
	await page.getByRole('button', { name: /, layer$/ }).click();
	await settled(page);
	const before = await pixel(page, 400, 420);
	const finish = values(page).getByRole('region', { name: 'Finish' });
	const saturation = finish.getByRole('spinbutton', { name: 'Saturation' });
	await saturation.focus();
	await page.keyboard.type('0');
	await page.keyboard.press('Enter');
	await saved(page);
	expect((await stored(page, id)).document.layers[0]?.finish).toEqual({ values: { saturation: 0 } });
	// The light has colours of its own.
	const view = page.getByLabel('View', { exact: true });
	await view.selectOption({ label: 'Base colour' });
	await expect.poll(async () => { await settled(page); const [r, g, b] = await pixel(page, 400, 420); return Math.max(r!, g!, b!) - Math.min(r!, g!, b!); }).toBeLessThan(2);
	await view.selectOption({ label: 'Lit' });
	expect(Math.max(...before) - Math.min(...before)).toBeGreaterThan(12);

	// Once it is there, it is a uniform.
	const sent = requests(page);
	const box = (await saturation.boundingBox())!;
	await page.mouse.move(box.x + 6, box.y + 10);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width / 2 + 6, box.y + 10, { steps: 6 });
	await settled(page);
	expect(sent()).toEqual([]);
	await page.mouse.up();
	await finish.getByRole('button', { name: 'Tie Saturation to a parameter' }).click();
	await page.getByRole('button', { name: 'New parameter “Saturation”' }).click();
	await saved(page);
	expect((await stored(page, id)).document.layers[0]?.finish?.values?.saturation).toMatchObject({ parameter: 'saturation' });

	await finish.getByRole('button', { name: 'Base colour as it was read' }).click();
	await saved(page);
	expect((await stored(page, id)).document.layers[0]?.finish).toBeUndefined();
	await expect.poll(async () => { await settled(page); return difference(before, await pixel(page, 400, 420)); }).toBeLessThan(3);
});

test('a layer lies over what is below in its own way, and writes what it is told to', async ({ page }) => {
	const id = await fresh(page, 'Laid', 'lime-plaster');
	await open(page, id);
	const bare = await pixel(page, 400, 420);
	await page.getByRole('button', { name: 'Add a layer' }).click();
	await page.getByRole('dialog').getByText('basalt-cladding').click();
	await expect.poll(async () => { await settled(page); return difference(bare, await pixel(page, 400, 420)); }).toBeGreaterThan(40);
	const over = await pixel(page, 400, 420);
	await values(page).getByLabel('Blend with below').selectOption('multiply');
	await expect.poll(async () => { await settled(page); return difference(over, await pixel(page, 400, 420)); }).toBeGreaterThan(4);
	// Without maps it is a layer of constants: white, until its finish says otherwise.
	await values(page).getByLabel('Map set', { exact: true }).selectOption({ label: 'none: constants alone' });
	await saved(page);
	expect((await stored(page, id)).document.layers[1]?.set).toBe('');
	await expect(values(page)).toContainText('Its tint is its colour');
	await page.getByRole('button', { name: 'Undo' }).click();
	await saved(page);
	// What it does not write stays as it is below.
	const writes = values(page).getByRole('group', { name: 'What it writes' });
	for (const channel of ['colour', 'normal', 'roughness', 'metallic', 'occlusion']) await writes.getByRole('button', { name: channel }).click();
	await saved(page);
	expect((await stored(page, id)).document.layers[1]).toMatchObject({ mode: 'multiply', channels: ['height', 'opacity', 'emission'] });
	await values(page).getByRole('spinbutton', { name: 'Opacity' }).press('Delete');
	await settled(page);
	const below = await pixel(page, 400, 420);
	await page.getByRole('button', { name: /^Hide / }).first().click();
	await expect.poll(async () => { await settled(page); return difference(below, await pixel(page, 400, 420)); }).toBeLessThan(3);
	for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo' }).click();

	await values(page).getByLabel('Blend with below').selectOption('height');
	await expect(values(page).getByRole('spinbutton', { name: 'Width' })).toBeVisible();
	await saved(page);
	expect((await stored(page, id)).document.layers[1]).toMatchObject({ mode: 'height', width: 10 });
});

test('one layer alone is shown, and the document does not know', async ({ page }) => {
	const id = await made(page, {
		format: 'rilta-material/2',
		name: 'Alone',
		lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: {} }, { step: 'size', on: true, values: { u: 2 } }] }],
		layers: [{ id: 'low', name: 'Low', lane: 'main', set: 'lime-plaster' }, { id: 'high', name: 'High', lane: 'main', set: 'basalt-cladding', opacity: 50 }]
	});
	await open(page, id);
	const both = await pixel(page, 400, 420);
	await page.getByRole('button', { name: 'Low, layer' }).focus();
	await page.keyboard.press('s');
	await expect.poll(async () => { await settled(page); return difference(both, await pixel(page, 400, 420)); }).toBeGreaterThan(20);
	const low = await pixel(page, 400, 420);
	await page.getByRole('button', { name: 'High alone' }).click();
	await expect.poll(async () => { await settled(page); return difference(low, await pixel(page, 400, 420)); }).toBeGreaterThan(40);
	await expect(page.getByRole('button', { name: 'Low alone' })).toHaveAttribute('aria-pressed', 'false');
	await page.getByRole('button', { name: 'High alone' }).click();
	await expect.poll(async () => { await settled(page); return difference(both, await pixel(page, 400, 420)); }).toBeLessThan(3);
	const { document, version } = await stored(page, id);
	expect([version, document.layers.map((layer) => layer.on)]).toEqual([1, [true, true]]);
});

test('a mask says where a layer lies, term by term', async ({ page }) => {
	const id = await fresh(page, 'Masked', 'lime-plaster');
	await open(page, id);
	const bare = await pixel(page, 400, 420);
	await page.getByRole('button', { name: 'Add a layer' }).click();
	await page.getByRole('dialog').getByText('basalt-cladding').click();
	await expect.poll(async () => { await settled(page); return difference(bare, await pixel(page, 400, 420)); }).toBeGreaterThan(40);
	const covered = await pixel(page, 400, 420);
	const mask = values(page).getByRole('region', { name: 'Mask' });
	await expect(mask).toContainText('It lies everywhere');
	const term = async (kind: string): Promise<void> => {
		await mask.getByRole('button', { name: 'Add a term to the mask' }).click();
		await page.getByRole('menuitem', { name: kind, exact: true }).click();
	};
	await term('A constant');
	await mask.getByRole('spinbutton', { name: 'Value' }).focus();
	await page.keyboard.type('0');
	await page.keyboard.press('Enter');
	await expect.poll(async () => { await settled(page); return difference(covered, await pixel(page, 400, 420)); }).toBeGreaterThan(40);
	await term('Slope');
	await mask.getByRole('combobox', { name: /^How/ }).selectOption('most');
	await saved(page);
	expect((await stored(page, id)).document.layers[1]?.mask).toMatchObject([{ kind: 'constant', values: { value: 0 } }, { kind: 'slope', values: { how: 'most', axis: 'y', angle: 45 } }]);
	await page.getByLabel('View', { exact: true }).selectOption({ label: 'Mask of Basalt cladding' });
	await settled(page);
	// The floor faces up, the cube's side does not.
	await expect.poll(async () => { await settled(page); return Math.min(...(await pixel(page, 400, 520))); }).toBeGreaterThan(240);
	expect(Math.max(...(await pixel(page, 420, 330)))).toBeLessThan(40);
	// A map instead, eight times as large as the layer's own.
	await mask.getByRole('button', { name: 'Take Slope out of the mask' }).click();
	await term('A map');
	await mask.getByRole('combobox', { name: /^How/ }).selectOption('most');
	await mask.locator('select.map').selectOption('salt-crust/roughness');
	await mask.getByRole('spinbutton', { name: 'Times larger' }).focus();
	await page.keyboard.type('8');
	await page.keyboard.press('Enter');
	await saved(page);
	expect((await stored(page, id)).document.layers[1]?.mask?.[1]).toMatchObject({ kind: 'map', values: { how: 'most', map: 'salt-crust/roughness', times: 8 } });
	await expect.poll(async () => { await settled(page); const greys = (await pixels(page, [[200, 500], [400, 520], [600, 540], [300, 560]])).map((one) => one[0]!); return Math.max(...greys) < 255 && Math.min(...greys) > 60; }).toBe(true);
	await mask.getByRole('button', { name: 'Take A map out of the mask' }).click();
	await mask.getByRole('button', { name: 'Take A constant out of the mask' }).click();
	await saved(page);
	expect((await stored(page, id)).document.layers[1]?.mask).toBeUndefined();
});
