import { expect, test, type Page } from './test';
import type { MaterialDocument } from '../../web/src/api/client';
import { made, open, pixels, requests, settled, staged, stored } from './bench';

const saved = (page: Page): Promise<void> => expect(page.getByTestId('saving')).toHaveText('Saved');
const values = (page: Page) => page.getByRole('region', { name: 'Values' });
/** Places all over the floor. */
const FLOOR = [...Array(48).keys()].map((i) => [40 + (i % 12) * 62, 440 + Math.floor(i / 12) * 30] as const);
const brightness = (all: number[][]): number => all.flat().reduce((sum, one) => sum + one, 0) / all.length / 3;

const document = (name: string, more: Partial<MaterialDocument>): MaterialDocument => ({
	format: 'rilta-material/2',
	name,
	lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: { seam: 4 } }, { step: 'size', on: true, values: { u: 2.4 } }] }],
	layers: [{ id: 'front', name: 'Bronze', lane: 'main', set: 'bronze-screen' }],
	...more
});

// As sharp as the page: what is one pixel wide is told from the background by its colour.
test.use({ deviceScaleFactor: 1 });

test('what is cut out lets the background through, and the threshold is a uniform', async ({ page }) => {
	// In front of one colour instead of the sky.
	await staged(page, (stage) => (stage.light = { shown: false }));
	const id = await made(page, document('Cut', {}));
	await open(page, id);
	const clear = await page.evaluate(() => {
		const probe = window.document.createElement('i');
		probe.style.color = getComputedStyle(window.document.querySelector('.stage')!).backgroundColor;
		window.document.body.append(probe);
		const rgb = getComputedStyle(probe).color.match(/[\d.]+/g)!.slice(0, 3).map(Number);
		probe.remove();
		return rgb;
	});
	const through = (all: number[][]): number => all.filter((one) => one.every((c, i) => Math.abs(c - clear[i]!) <= 2)).length / all.length;
	expect(through(await pixels(page, FLOOR))).toBe(0);
	await page.getByRole('button', { name: /^Surface/ }).click();
	await values(page).getByText('Cut out', { exact: true }).click();
	await saved(page);
	expect((await stored(page, id)).document.surface).toEqual({ values: { kind: 'cut-out' } });
	// Holes are over a third of the screen.
	await expect.poll(async () => { await settled(page); return through(await pixels(page, FLOOR)); }).toBeGreaterThan(0.15);
	const holes = through(await pixels(page, FLOOR));
	expect(holes).toBeLessThan(0.6);
	await page.getByLabel('View', { exact: true }).selectOption({ label: 'Opacity' });
	await settled(page);
	expect(new Set((await pixels(page, FLOOR)).map((one) => (one[0]! > 200 ? 'closed' : one[0]! < 50 ? 'open' : 'edge'))).size).toBeGreaterThan(1);
	await page.getByLabel('View', { exact: true }).selectOption({ label: 'Lit' });
	await settled(page);
	const sent = requests(page);
	const threshold = values(page).getByRole('spinbutton', { name: 'Cut below' });
	await threshold.focus();
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type('0');
	await page.keyboard.press('Enter');
	await settled(page);
	expect(through(await pixels(page, FLOOR))).toBe(0);
	await saved(page);
	expect(sent().map((request) => request.method())).toEqual(['PUT']);
});

test('a translucent surface shows what is behind it, and one that glows is brighter', async ({ page }) => {
	const glass = document('Glass', {
		parameters: [
			{ id: 'closed', name: 'Closed', kind: 'number', unit: '', min: 0, max: 1, step: 0.1, value: 1 },
			{ id: 'lit', name: 'Lit', kind: 'number', unit: '%', min: 0, max: 400, step: 5, value: 0 }
		],
		layers: [{ id: 'front', name: 'Glass', lane: 'main', set: 'lime-plaster', finish: { values: { opacityTo: { parameter: 'closed', factor: 1, offset: 0 }, glow: [1, 0.2, 0.1], glowStrength: { parameter: 'lit', factor: 1, offset: 0 } } } }],
		surface: { values: { kind: 'translucent' } },
		variants: [{ id: 'half', name: 'Half', base: '', values: { closed: 0.5 } }, { id: 'gone', name: 'Gone', base: '', values: { closed: 0 } }, { id: 'lit', name: 'Lit', base: '', values: { lit: 100 } }]
	});
	const id = await made(page, glass);
	await open(page, id);
	const show = async (name: string): Promise<number[][]> => {
		await page.getByLabel('Variant shown').selectOption({ label: name });
		await settled(page);
		return pixels(page, FLOOR);
	};
	const [whole, half, gone, lit] = [await show('As written'), await show('Half'), await show('Gone'), await show('Lit')];
	// The background is darker than plaster: half of it is between.
	expect(brightness(whole)).toBeGreaterThan(brightness(half) + 15);
	expect(brightness(half)).toBeGreaterThan(brightness(gone) + 15);
	const red = (all: number[][]): number => all.reduce((sum, one) => sum + one[0]! - one[2]!, 0) / all.length;
	expect(red(lit)).toBeGreaterThan(red(whole) + 20);
	await page.getByLabel('View', { exact: true }).selectOption({ label: 'Emission' });
	await settled(page);
	const emitted = (await pixels(page, FLOOR))[20]!;
	expect(emitted[0]!).toBeGreaterThan(200);
	expect(emitted[2]!).toBeLessThan(emitted[1]! + 1);
});

test('the back of a surface has a layer of its own', async ({ page }) => {
	const id = await made(page, document('Two sides', {
		layers: [
			{ id: 'front', name: 'Front', lane: 'main', set: 'bronze-screen' },
			{ id: 'back', name: 'Back', lane: 'main', set: 'bronze-screen', mask: [{ kind: 'side', values: { side: 'back' } }], finish: { values: { tint: [0, 0, 0], glow: [0, 0, 1], glowStrength: 100 } } }
		],
		surface: { values: { kind: 'cut-out', sides: 'both' } }
	}));
	await open(page, id);
	// Through the holes of the sphere its inner side is seen; nothing else is blue.
	const blue = async (): Promise<number> => {
		await settled(page);
		const places = [...Array(400).keys()].map((i) => [620 + (i % 20) * 7, 260 + Math.floor(i / 20) * 6] as const);
		return (await pixels(page, places)).filter((one) => one[2]! > 150 && one[0]! < 90).length;
	};
	expect(await blue()).toBeGreaterThan(15);
	// What is seen through holes counts: the back has a share of the stage, and loses it with its side.
	const share = page.getByRole('button', { name: 'Back, layer' });
	await expect(share).toContainText(/(^|\D)([1-9]\d?) %/);
	await page.getByRole('button', { name: /^Surface/ }).click();
	await values(page).getByText('The front', { exact: true }).click();
	await saved(page);
	await expect.poll(blue).toBe(0);
	await expect(share).toContainText(/\D0 %/);
});
