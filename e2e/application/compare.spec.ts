import { expect, test, type Page } from './test';
import type { ContactSheet, MaterialDocument } from '../../web/src/api/client';
import { judgedOn, made, open, pixels, plain, PROJECT, settled } from './bench';
import { deltaE } from './colours';

/** Ochre as it is written, and as blue in a variant. */
const twoColours = (name: string): MaterialDocument => {
	const written = plain(name, [0.6, 0.5, 0.3]);
	return {
		...written,
		parameters: [{ id: 'paint', name: 'Paint', kind: 'colour', value: [0.6, 0.5, 0.3] }],
		layers: written.layers.map((one) => ({ ...one, finish: { values: { tint: { parameter: 'paint' }, roughnessFrom: 0.9, roughnessTo: 0.9 } } })),
		variants: [{ id: 'blue', name: 'Blue', values: { paint: [0.25, 0.35, 0.6] } }]
	} as unknown as MaterialDocument;
};
const compare = async (page: Page): Promise<void> => {
	await page.getByRole('button', { name: 'Compare', exact: true }).click();
	await expect(bar(page).getByRole('status')).toContainText('ΔE');
	await settled(page);
};
const bar = (page: Page) => page.getByRole('group', { name: 'Comparison' });
const way = async (page: Page, name: string): Promise<void> => {
	await bar(page).getByText(name, { exact: true }).click();
	await settled(page);
};
/** Some pixels of the stage's left and right half. */
const PLACES = [...Array(60).keys()].map((i) => [60 + (i % 10) * 74, 90 + Math.floor(i / 10) * 40] as const);
const figures = async (page: Page): Promise<number[]> => [...((await bar(page).getByRole('status').textContent()) ?? '').matchAll(/[\d.]+(?= ·|$)/g)].map(([one]) => Number(one));

test('two variants are looked at before one eye, and how different they look is told truly', async ({ page }) => {
	const id = await made(page, twoColours('Two colours'));
	// A floor that fills the picture: all that is seen is compared.
	await judgedOn(page, id, { objects: [{ id: 'floor', name: 'Floor', mesh: 'floor', position: [0, 0, 0], turn: [0, 0, 0], scale: [1, 1, 1], seed: 1, value: 0 }], camera: { position: [0, 6, 0.2], target: [0, 0, 0] } });
	await page.goto(`/${PROJECT}/materials/${id}`);
	await page.waitForFunction(() => (window.riltaStage?.shown ?? 0) > 0);
	await settled(page);
	await compare(page);
	// As written left of the divider, blue right of it.
	await expect(bar(page)).toContainText('As written');
	await expect(bar(page)).toContainText('Blue');
	const divided = await pixels(page, PLACES);
	const [left, right] = [divided.filter((_, i) => PLACES[i]![0] < 380), divided.filter((_, i) => PLACES[i]![0] > 420)];
	for (const [r, , b] of left) expect(r).toBeGreaterThan(b!);
	for (const [r, , b] of right) expect(b).toBeGreaterThan(r!);
	// The divider goes where it is dragged.
	const grip = page.getByRole('slider', { name: 'Divider' });
	const box = (await grip.boundingBox())!;
	await page.mouse.move(box.x + 10, box.y + box.height / 2);
	await page.mouse.down();
	await page.mouse.move(box.x + 210, box.y + box.height / 2, { steps: 4 });
	await page.mouse.up();
	await settled(page);
	await expect(grip).toHaveAttribute('aria-valuenow', /^7[45](\.\d+)?$/);
	const dragged = Number(await grip.getAttribute('aria-valuenow'));
	await grip.press('ArrowRight');
	await expect(grip).toHaveAttribute('aria-valuenow', String(dragged + 0.25));
	await grip.press('ArrowLeft');
	const moved = await pixels(page, PLACES);
	for (const [r, , b] of moved.filter((_, i) => PLACES[i]![0] < 580)) expect(r).toBeGreaterThan(b!);

	// The figure, computed another way, from what is seen of one and of the other.
	await page.getByRole('combobox', { name: 'Variant on the right' }).selectOption('');
	await expect(bar(page).getByRole('status')).toHaveText('ΔE 0.00 · 95 %: 0.0 · most 0.0');
	await settled(page);
	const one = await pixels(page, PLACES);
	await page.getByRole('combobox', { name: 'Variant on the right' }).selectOption('blue');
	await page.getByRole('combobox', { name: 'Variant on the left' }).selectOption('blue');
	await expect(bar(page).getByRole('status')).toHaveText(/^ΔE 0\.00/);
	await settled(page);
	const other = await pixels(page, PLACES);
	const expected = one.reduce((sum, colour, i) => sum + deltaE(colour, other[i]!), 0) / one.length;
	expect(expected).toBeGreaterThan(10);
	await page.getByRole('combobox', { name: 'Variant on the left' }).selectOption('');
	await expect(bar(page).getByRole('status')).not.toHaveText(/^ΔE 0\.00|ready/);
	const [mean, high, most] = await figures(page);
	expect(Math.abs(mean! - expected)).toBeLessThan(0.05 * expected);
	expect(high).toBeGreaterThanOrEqual(Math.floor(10 * mean!) / 10 - 0.5);
	expect(most).toBeGreaterThanOrEqual(high!);
	await expect(page.getByRole('region', { name: 'What differs' })).toContainText('Paint › value');

	// Side by side both are whole; as a difference all is as bright as it gets; blinking, one takes the place of the other.
	await way(page, 'Side by side');
	const beside = await pixels(page, PLACES);
	for (const [i, [r, , b]] of beside.entries()) {
		if (PLACES[i]![0] < 380) expect(r).toBeGreaterThan(b!);
		else if (PLACES[i]![0] > 420) expect(b).toBeGreaterThan(r!);
	}
	await way(page, 'Difference');
	for (const [r, g, b] of await pixels(page, PLACES)) expect([r! > 240, g! > 200, b! < 150]).toEqual([true, true, true]);
	await bar(page).getByText('Blink', { exact: true }).click();
	const blue = async (): Promise<boolean> => { const [[r = 0, , b = 0] = []] = await pixels(page, [PLACES[30]!]); return b > r; };
	await expect.poll(blue, { intervals: [150] }).toBe(true);
	await expect.poll(blue, { intervals: [150] }).toBe(false);
	// Back at the workbench one is looked at again.
	await page.getByRole('button', { name: 'Workbench', exact: true }).click();
	await expect(bar(page)).toBeHidden();
	await settled(page);
	for (const [r, , b] of await pixels(page, PLACES)) expect(r).toBeGreaterThan(b!);
	// The material is left while two are compared.
	await compare(page);
	await page.getByRole('link', { name: 'Ebbwater Station' }).click();
	await expect(page.getByRole('button', { name: 'New material' })).toBeVisible();
});

test('another material, a revision and what was before the last change are compared, and trails of one point', async ({ page }) => {
	const [id, other] = [await made(page, plain('Compared grey', [0.4, 0.4, 0.4])), await made(page, plain('Compared red', [0.7, 0.2, 0.2]))];
	expect((await page.request.put(`/api/materials/${id}`, { headers: { 'X-Rilta': '1', 'If-Match': '"1"' }, data: { document: plain('Compared grey', [0.2, 0.2, 0.2]) } })).status()).toBe(200);
	await open(page, id);
	await compare(page);
	// Nothing was changed here yet.
	await expect(bar(page).getByRole('status')).toHaveText(/^ΔE 0\.00/);
	await page.getByRole('combobox', { name: 'What is on the right' }).selectOption('material');
	await page.getByRole('combobox', { name: 'Material on the right' }).selectOption(String(other));
	await expect(bar(page).getByRole('status')).toHaveText(/^ΔE [1-9]/);
	await expect(bar(page)).toContainText('Compared red');
	await page.getByRole('button', { name: 'Swap' }).click();
	await expect(page.getByRole('combobox', { name: 'What is on the left' })).toHaveValue('material');
	await settled(page);
	await page.mouse.click(640, 330);
	const trails = page.getByRole('table', { name: 'Two trails' });
	await expect(trails).toContainText('first difference');
	await page.getByRole('combobox', { name: 'What is on the left' }).selectOption('revision');
	await page.getByRole('combobox', { name: 'Revision on the left' }).selectOption({ index: 0 });
	await expect(bar(page)).toContainText(/Version \d/);

	// On the workbench: a change, and what was before it.
	await page.getByRole('button', { name: 'Workbench', exact: true }).click();
	await expect(bar(page)).toBeHidden();
	await page.getByRole('textbox', { name: 'Name of the material' }).fill('Compared anew');
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+k');
	await page.getByRole('combobox', { name: 'What to do' }).fill('compare with before');
	await page.keyboard.press('Enter');
	await expect(bar(page)).toContainText('Before the last change');
	await expect(bar(page).getByRole('status')).toHaveText(/^ΔE 0\.00/);
	await page.getByRole('button', { name: 'End the comparison' }).click();
	await expect(bar(page)).toBeHidden();

	// The trail of a point beside that of the next.
	await settled(page);
	await page.mouse.click(600, 380);
	await page.getByRole('button', { name: 'Compare with the next point' }).click();
	await page.mouse.click(640, 420);
	await expect(trails).toContainText('Kept');
	await expect(trails).toContainText('first difference');
});

test('a contact sheet is made, kept with the material, named and deleted', async ({ page }) => {
	const id = await made(page, twoColours('Sheeted'));
	await open(page, id);
	await compare(page);
	const board = page.getByRole('region', { name: 'Contact sheets' });
	await board.getByRole('textbox', { name: 'Name of the sheet' }).fill('For the harbour master');
	await board.getByRole('button', { name: 'Make 2 × 1' }).click();
	await expect(board.getByRole('img', { name: 'Contact sheet For the harbour master' })).toBeVisible();
	await page.reload();
	await settled(page);
	await page.getByRole('button', { name: 'Compare', exact: true }).click();
	const picture = board.getByRole('img', { name: 'Contact sheet For the harbour master' });
	await expect(picture).toBeVisible();
	// Both variants are there, one under the other.
	const colours = await picture.evaluate(async (img: HTMLImageElement) => {
		await img.decode();
		const canvas = document.createElement('canvas');
		[canvas.width, canvas.height] = [img.naturalWidth, img.naturalHeight];
		const context = canvas.getContext('2d')!;
		context.drawImage(img, 0, 0);
		return [canvas.width, canvas.height, ...[0, 1].map((row) => [...context.getImageData(138 + 150, 82 + row * 258 + 200, 100, 40).data])] as [number, number, number[], number[]];
	});
	expect(colours.slice(0, 2)).toEqual([546, 598]);
	const mean = (data: number[], c: number): number => data.filter((_, i) => i % 4 === c).reduce((sum, one) => sum + one, 0) / (data.length / 4);
	expect(mean(colours[2], 0)).toBeGreaterThan(mean(colours[2], 2));
	expect(mean(colours[3], 2)).toBeGreaterThan(mean(colours[3], 0));
	await board.getByRole('textbox', { name: 'Name of the contact sheet For the harbour master' }).fill('Seen by the harbour master');
	await page.keyboard.press('Enter');
	const kept = async (): Promise<string[]> => ((await (await page.request.get(`/api/materials/${id}/contact-sheets`)).json()) as ContactSheet[]).map((one) => one.name);
	await expect.poll(kept).toEqual(['Seen by the harbour master']);
	await board.getByRole('button', { name: 'Delete the contact sheet Seen by the harbour master' }).click();
	await expect.poll(kept).toEqual([]);
});
