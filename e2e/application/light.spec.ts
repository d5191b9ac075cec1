import { expect, test, type Page } from './test';
import type { MaterialDocument } from '../../web/src/api/client';
import { library, made, on, open, pixels, PROJECT, settled, staged } from './bench';

/** One layer of constants, as rough and as metallic as is said. */
const plain = (name: string, colour: [number, number, number], roughness: number, metallic: number): MaterialDocument => ({
	format: 'rilta-material/2',
	name,
	lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: {} }] }],
	layers: [{ id: 'all', name: 'All', lane: 'main', set: '', finish: { values: { tint: colour, roughnessFrom: roughness, roughnessTo: roughness, metallicFrom: metallic, metallicTo: metallic } } }]
});

const bright = (colour: number[]): number => colour.reduce((sum, part) => sum + part, 0);
async function at(page: Page, ...points: (readonly [number, number, number])[]): Promise<number[][]> {
	await settled(page);
	return pixels(page, await Promise.all(points.map((point) => on(page, point))));
}
const field = (page: Page, name: string) => page.getByRole('spinbutton', { name, exact: true });
async function type(page: Page, name: string, value: string): Promise<void> {
	await field(page, name).focus();
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type(value);
	await page.keyboard.press('Enter');
}

test('the light of the stage is chosen, dragged and kept', async ({ page }) => {
	const saved = await staged(page, (stage) => delete stage.light);
	await open(page, await made(page, plain('Grey', [0.5, 0.5, 0.5], 1, 0)));
	// Before the low cube, and behind it, where its shade lies.
	const [open_, shade] = [[1.35, 0, 3.2], [2.02, 0, 0.2]] as const;
	const [before, dark] = await at(page, open_, shade);
	expect(bright(dark!)).toBeLessThan(0.7 * bright(before!));

	await page.getByRole('button', { name: 'Light', exact: true }).click();
	await type(page, 'Exposure', '-1');
	const [half] = await at(page, open_);
	expect(bright(half!)).toBeLessThan(0.85 * bright(before!));
	await type(page, 'Exposure', '0');

	// From the front nothing is in the way.
	const sun = page.getByRole('slider', { name: 'Sun' });
	await expect(sun).toHaveAttribute('aria-valuetext', '-139.4° round, 44.3° high');
	await type(page, 'Sun from', '170');
	const [, lit] = await at(page, open_, shade);
	expect(bright(lit!)).toBeGreaterThan(1.3 * bright(dark!));
	await sun.focus();
	await page.keyboard.press('ArrowUp');
	await page.keyboard.press('Shift+ArrowLeft');
	await expect(sun).toHaveAttribute('aria-valuetext', '169° round, 49.3° high');
	// The middle of the dome is right above.
	const box = (await sun.boundingBox())!;
	await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
	await expect(sun).toHaveAttribute('aria-valuetext', /, 90° high/);
	await page.getByRole('button', { name: 'Grazing' }).click();
	await expect(sun).toHaveAttribute('aria-valuetext', /, 8° high/);

	await page.getByRole('radiogroup', { name: 'Sky' }).getByText('Overcast').click();
	await expect(field(page, 'Sun strength')).toHaveAttribute('aria-valuenow', '0.5');
	await expect.poll(() => saved.at(-1)?.light).toEqual({ sky: 'overcast', exposure: 0 });
	const [cloudy, soft] = await at(page, open_, shade);
	// Shade is softer under clouds.
	expect(bright(soft!) / bright(cloudy!)).toBeGreaterThan((1.5 * bright(dark!)) / bright(before!));

	// It is taken back like everything else.
	await page.keyboard.press('Escape');
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect.poll(() => saved.at(-1)?.light?.height).toBe(8);
	expect(saved.at(-1)?.format).toBe('rilta-stage/2');
});

test('the sun follows the pointer until it is clicked', async ({ page }) => {
	const saved = await staged(page, (stage) => delete stage.light);
	await open(page, await made(page, plain('Chalk', [0.6, 0.6, 0.6], 1, 0)));
	await page.getByRole('button', { name: 'Light', exact: true }).click();
	await page.getByRole('button', { name: 'Follow the pointer' }).click();
	await page.keyboard.press('Escape');
	const box = (await page.locator('.stage canvas').boundingBox())!;
	await page.mouse.move(box.x + 0.1 * box.width, box.y + 0.5 * box.height, { steps: 3 });
	// To the left and to the right of what is looked at, where the pointer ends: places on the way may be stored as well. The eye looks along -z.
	const beside = (): number => Math.sin(((saved.at(-1)?.light?.turn ?? 0) * Math.PI) / 180);
	await expect.poll(beside).toBeLessThan(-0.3);
	await page.mouse.move(box.x + 0.9 * box.width, box.y + 0.5 * box.height, { steps: 3 });
	await expect.poll(beside).toBeGreaterThan(0.3);
	const right = saved.at(-1)!.light!;
	await page.mouse.click(box.x + 0.9 * box.width, box.y + 0.5 * box.height);
	await page.mouse.move(box.x + 0.5 * box.width, box.y + 0.3 * box.height, { steps: 3 });
	await page.waitForTimeout(1500);
	expect(saved.at(-1)?.light).toEqual(right);
});

test('metal mirrors the sky and the ground, and shadows reach all over the stage', async ({ page }) => {
	await staged(page, (stage) => {
		delete stage.light;
		const cube = stage.objects.find((one) => one.id === 'cube-1')!;
		stage.objects.push({ ...cube, id: 'afar', name: 'Afar', position: [16, 0, -30], scale: [4, 4, 4] });
	});
	await open(page, await made(page, plain('Mirror', [0.9, 0.9, 0.9], 0.06, 1)));
	// Of the sphere: its crown mirrors the sky, what is under its middle the ground.
	const [crown, belly] = await at(page, [2.9, 1.32, 0.75], [2.9, 0.25, 0.8]);
	expect(bright(crown!)).toBeGreaterThan(1.5 * bright(belly!));
	expect(crown![2]! - crown![0]!).toBeGreaterThan(belly![2]! - belly![0]!);

	await open(page, await made(page, plain('Chalk', [0.6, 0.6, 0.6], 1, 0)));
	const [dark, lit] = await at(page, [19.5, 0, -32.5], [11, 0, -27]);
	expect(bright(dark!)).toBeLessThan(0.8 * bright(lit!));
	// Right beside a wall on the side of the sun the ground sees less of the sky.
	const [beside, apart] = await at(page, [1.35, 0, 1.56], [1.35, 0, 3.2]);
	expect(bright(beside!)).toBeLessThan(0.97 * bright(apart!));
});

test('parts of the light, and how maps are read, are looked at and told under the pointer', async ({ page }) => {
	await staged(page, (stage) => delete stage.light);
	await open(page, await made(page, plain('Foil', [0.9, 0.6, 0.3], 0.4, 1)));
	const view = page.getByLabel('View', { exact: true });
	const legend = page.getByRole('complementary', { name: 'Legend' });
	const point = async (place: readonly [number, number, number]): Promise<void> => {
		await settled(page);
		const box = (await page.locator('.stage canvas').boundingBox())!;
		const [x, y] = await on(page, place);
		await page.mouse.move(box.x + x - 2, box.y + y);
		await page.mouse.move(box.x + x, box.y + y);
	};
	const shown = async (): Promise<number[]> => (await legend.locator('dd').textContent())!.split(' ').map(Number);
	// The front of the wide cube. Metal scatters nothing, and mirrors all that there is.
	const front = [-1, 0.5, 0.5] as const;
	await view.selectOption('diffuse');
	await point(front);
	await expect(legend.getByText('As it is shown')).toBeVisible();
	expect(Math.max(...(await shown()))).toBeLessThanOrEqual(1);
	await view.selectOption('specular');
	await point(front);
	await expect.poll(async () => Math.max(...(await shown()))).toBeGreaterThan(20);
	// What is told is what is seen.
	const [seen] = await at(page, front);
	for (const [c, one] of (await shown()).entries()) expect(Math.abs(one - seen![c]!)).toBeLessThanOrEqual(3);

	// 1,024 texels on so many metres: as many a metre, wherever it is looked at.
	const { id } = (await (await page.request.post(`/api/projects/${PROJECT}/materials`, { data: { name: 'Gauged', set: 'lime-plaster' } })).json()) as { id: number };
	await open(page, id);
	const size = Number(((await (await page.request.get(`/api/materials/${id}`)).json()) as { document: MaterialDocument }).document.lanes[0]!.steps.find((one) => one.step === 'size')!.values.u);
	const { width } = (await library(page, 'lime-plaster'))!.maps.find((one) => one.role === 'base-colour')!;
	await view.selectOption('density');
	await point(front);
	await expect(legend.getByText('px/m')).toBeVisible();
	expect(Number.parseFloat((await legend.locator('dd').textContent())!)).toBeCloseTo(width / size, 0);
	await view.selectOption('fetches');
	await point(front);
	await expect(legend.locator('dd')).toHaveText(/^4 /);
	await view.selectOption('section');
	await point(front);
	await expect(legend.locator('dd')).toHaveText(/^[1-6]/);
});
