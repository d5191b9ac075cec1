import { expect, test, type Locator, type Page } from './test';
import { made, on, open, pixel, pixels, placed, PROJECT, requests, settled, stored } from './bench';

const saved = (page: Page): Promise<void> => expect(page.getByTestId('saving')).toHaveText('Saved');
const values = (page: Page) => page.getByRole('region', { name: 'Values' });
const parameters = (page: Page) => page.getByRole('region', { name: 'Parameters' });
const difference = (a: number[], b: number[]): number => Math.max(...a.map((c, i) => Math.abs(c - (b[i] ?? 0))));

async function type(page: Page, field: Locator, number: string): Promise<void> {
	await field.focus();
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type(number);
	await page.keyboard.press('Enter');
}

test('silt over a salt crust is built from nothing, varied, compared, and brought back', async ({ page }) => {
	// From nothing: a floor of salt crust.
	await page.goto(`/${PROJECT}`);
	await page.getByRole('button', { name: 'New material' }).click();
	const sheet = page.getByRole('dialog', { name: 'New material' });
	await sheet.getByLabel('Name').fill('Silt from nothing');
	await sheet.getByText('Floor', { exact: true }).click();
	await expect(sheet).toContainText('a hall shows no rows');
	await sheet.locator('.set').filter({ has: page.getByText('salt-crust', { exact: true }) }).click();
	await sheet.getByRole('button', { name: 'Create' }).click();
	await settled(page);
	const id = Number(/\d+$/.exec(new URL(page.url()).pathname)?.[0]);
	await expect(page.getByTestId('sentence')).toContainText('projected along Y');

	// Silt over it, by height and in patches, wet where it lies.
	await page.getByRole('button', { name: 'Add a layer' }).click();
	await page.getByRole('dialog').getByText('tidal-silt').click();
	await values(page).getByLabel('Blend with below').selectOption('height');
	const mask = values(page).getByRole('region', { name: 'Mask' });
	await mask.getByRole('button', { name: 'Add a term to the mask' }).click();
	await page.getByRole('menuitem', { name: 'Noise', exact: true }).click();
	await type(page, mask.getByRole('spinbutton', { name: 'White at' }), '0.45');
	await mask.getByRole('button', { name: 'Tie Black at to a parameter' }).click();
	await page.getByRole('button', { name: 'New parameter “Black at”' }).click();
	await expect(mask.getByRole('button', { name: 'Untie Black at from Black at' })).toBeFocused();
	await saved(page);
	await parameters(page).getByRole('button', { name: 'Black at' }).click();
	await values(page).getByLabel('Name').fill('Dry ground');
	await values(page).getByLabel('Name').blur();
	await values(page).getByLabel('Group').fill('Tide');
	await values(page).getByLabel('Group').blur();
	await values(page).getByLabel('Help').fill('How much of the crust stays dry.');
	await values(page).getByLabel('Help').blur();
	await saved(page);
	expect((await stored(page, id)).document.parameters?.[0]).toMatchObject({ id: 'black-at', name: 'Dry ground', group: 'Tide', help: 'How much of the crust stays dry.' });
	await expect(parameters(page).getByRole('heading', { name: 'Tide' })).toBeVisible();
	await settled(page);
	const spots = async (): Promise<number[]> => {
		await settled(page);
		return (await pixels(page, [...Array(40).keys()].map((i) => [40 + (i % 10) * 75, 430 + Math.floor(i / 10) * 35] as const))).flat();
	};
	const written = await spots();

	// Two variants, the second on the first.
	await page.getByRole('button', { name: 'Table of variants' }).click();
	const table = page.getByRole('dialog', { name: /^Variants of/ });
	await table.getByRole('button', { name: 'New variant' }).click();
	await table.getByLabel('Name of Variant 1').fill('Ebb');
	await table.getByLabel('Name of Variant 1').blur();
	await type(page, table.getByRole('spinbutton', { name: 'Dry ground of Ebb' }), '0.44');
	await table.getByRole('button', { name: 'Show Ebb' }).click();
	await table.getByRole('button', { name: 'New variant' }).click();
	await expect(table.getByLabel('Variant 2 builds on')).toHaveValue('variant-1');
	await table.getByLabel('Name of Variant 2').fill('Flood');
	await table.getByLabel('Name of Variant 2').blur();
	const flood = table.getByRole('spinbutton', { name: 'Dry ground of Flood' });
	await type(page, flood, '0.3');
	await expect(table.locator('td.own')).toHaveCount(2);
	await table.getByRole('button', { name: 'Inherit Dry ground of Flood again' }).click();
	await expect(flood).toHaveAttribute('aria-valuenow', '0.44');
	await expect(table.locator('td.own')).toHaveCount(1);
	await type(page, flood, '0.1');
	await table.getByRole('button', { name: 'Close' }).click();
	await saved(page);
	expect((await stored(page, id)).document.variants).toEqual([
		{ id: 'variant-1', name: 'Ebb', base: '', values: { 'black-at': 0.44 } },
		{ id: 'variant-2', name: 'Flood', base: 'variant-1', values: { 'black-at': 0.1 } }
	]);

	// The stage changes between them without other code.
	await settled(page);
	const sent = requests(page);
	const seen: number[][] = [];
	for (const name of ['As written', 'Ebb', 'Flood']) {
		await page.getByLabel('Variant shown').selectOption({ label: name });
		seen.push(await spots());
	}
	expect(sent()).toEqual([]);
	expect(difference(seen[0]!, written)).toBeLessThan(3);
	expect(difference(seen[1]!, seen[2]!)).toBeGreaterThan(20);
	// What is changed while a variant is shown is the variant's.
	await type(page, parameters(page).getByRole('spinbutton', { name: 'Dry ground' }), '0.2');
	await saved(page);
	const now = (await stored(page, id)).document;
	expect([now.parameters?.[0]?.value, now.variants?.[1]?.values['black-at']]).toEqual([0, 0.2]);

	// What it was: named, compared, restored.
	await page.getByRole('button', { name: 'History' }).click();
	const history = page.getByRole('dialog', { name: /^What Silt from nothing was/ });
	await history.getByLabel(/every save/).check();
	await history.getByRole('list', { name: 'Revisions' }).getByRole('button', { name: /^Version 2 / }).click();
	await history.getByLabel('Name of version 2').fill('bare crust');
	await history.getByLabel('Name of version 2').blur();
	await expect(history.getByRole('list', { name: 'Revisions' })).toContainText('bare crust');
	await history.getByRole('list', { name: 'Revisions' }).getByRole('button').first().click();
	await history.getByLabel('compared with').selectOption({ label: 'bare crust' });
	await expect(history.getByRole('table')).toContainText('Ebb');
	await history.getByRole('list', { name: 'Revisions' }).getByRole('button').nth(1).click();
	await history.getByLabel('compared with').selectOption({ label: 'now' });
	const row = history.getByRole('row', { name: /Flood › Dry ground/ });
	await expect(row).toContainText('0.2');
	await expect(row).toContainText('0.1');
	await history.getByRole('button', { name: /^Restore / }).click();
	await saved(page);
	expect((await stored(page, id)).document.variants?.[1]?.values).toEqual({ 'black-at': 0.1 });
	await page.getByRole('button', { name: 'Undo' }).click();
	await saved(page);
	expect((await stored(page, id)).document.variants?.[1]?.values).toEqual({ 'black-at': 0.2 });
});

test('objects side by side wear variants of their own, and tables come and go as text', async ({ page }) => {
	const id = await made(page, {
		format: 'rilta-material/2',
		name: 'Worn',
		parameters: [{ id: 'light', name: 'Light', kind: 'number', unit: '%', min: 0, max: 200, step: 1, value: 100 }],
		lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: {} }] }],
		layers: [{ id: 'ground', name: 'Ground', lane: 'main', set: 'lime-plaster', finish: { values: { lightness: { parameter: 'light', factor: 1, offset: 0 } } } }],
		variants: [{ id: 'dark', name: 'Dark', base: '', values: { light: 40 } }]
	});
	await open(page, id);
	const [x, y] = await on(page, [-3, 0.7, 0.5]);
	const [x2, y2] = await on(page, [-1, 0.7, 0.5]);
	const before = [await pixel(page, x, y), await pixel(page, x2, y2)];
	await page.getByRole('button', { name: /^Cube 1×1×1/ }).click();
	await values(page).getByLabel('Variant that it wears').selectOption('dark');
	await settled(page);
	const after = [await pixel(page, x, y), await pixel(page, x2, y2)];
	expect(difference(before[0]!, after[0]!)).toBeGreaterThan(40);
	expect(difference(before[1]!, after[1]!)).toBeLessThan(3);
	await expect.poll(async () => (await placed(page, 'cube-1')).variant).toBe('dark');
	// The base colour too, in which all objects share one program.
	await page.getByLabel('View', { exact: true }).selectOption({ label: 'Base colour' });
	await settled(page);
	expect(difference(await pixel(page, x, y), await pixel(page, x2, y2))).toBeGreaterThan(40);
	await values(page).getByLabel('Variant that it wears').selectOption('');
	await settled(page);
	await expect.poll(async () => (await placed(page, 'cube-1')).variant ?? '').toBe('');

	await page.getByRole('button', { name: 'Table of variants' }).click();
	const table = page.getByRole('dialog', { name: 'Variants of Worn' });
	const written = page.waitForEvent('download');
	await table.getByRole('button', { name: 'Write CSV' }).click();
	const file = await written;
	expect(file.suggestedFilename()).toBe('Worn variants.csv');
	const chunks: Buffer[] = [];
	for await (const chunk of await file.createReadStream()) chunks.push(chunk as Buffer);
	expect(Buffer.concat(chunks).toString()).toBe('variant,name,base,light\r\n,Worn,,100\r\ndark,Dark,,40\r\n');
	const read = (csv: string) => table.getByLabel('Table of variants to read').setInputFiles({ name: 'table.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
	await read('variant,light\ndark,much\n');
	await expect(table.getByRole('alert')).toContainText('Row 2, column light: expected a number, or nothing for what is inherited, found "much".');
	await read('variant,name,base,light\npale,Pale,dark,160\n');
	await expect(table.getByLabel('Name of Pale')).toBeVisible();
	await expect(table.getByRole('alert')).toHaveCount(0);
	// Numbers from a spreadsheet, laid over the cells from one on.
	await table.getByRole('spinbutton', { name: 'Light of As written' }).evaluate((cell) => {
		const clipboardData = new DataTransfer();
		clipboardData.setData('text/plain', '90\n30\n\n');
		cell.dispatchEvent(new ClipboardEvent('paste', { bubbles: true, cancelable: true, clipboardData }));
	});
	await expect(table.getByRole('spinbutton', { name: 'Light of Dark' })).toHaveAttribute('aria-valuenow', '30');
	await table.getByRole('button', { name: 'Delete Dark' }).click();
	await table.getByRole('button', { name: 'Close' }).click();
	await saved(page);
	const { document } = await stored(page, id);
	expect([document.parameters?.[0]?.value, document.variants]).toEqual([90, [{ id: 'pale', name: 'Pale', base: '', values: { light: 160 } }]]);
});

test('a template is what new materials may start from', async ({ page }) => {
	const id = await made(page, {
		format: 'rilta-material/2',
		name: 'House style',
		lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: { faces: 'y' } }, { step: 'turn', on: true, values: { angle: 33 } }] }],
		layers: [{ id: 'ground', name: 'Ground', lane: 'main', set: 'basalt-cladding' }]
	});
	await open(page, id);
	await page.getByRole('button', { name: 'Template' }).click();
	await expect(page.getByRole('button', { name: 'Template' })).toHaveAttribute('aria-pressed', 'true');
	await page.goto(`/${PROJECT}`);
	await page.getByRole('button', { name: 'New material' }).click();
	const sheet = page.getByRole('dialog', { name: 'New material' });
	await sheet.getByLabel('Name').fill('In house style');
	await sheet.getByText('House style').click();
	await sheet.getByRole('button', { name: 'Create' }).click();
	await expect(page.getByLabel('Name of the material')).toHaveValue('In house style');
	await settled(page);
	await expect(page.getByTestId('sentence')).toContainText('turn 33°');
	// And a copy of a copy, by one button.
	await page.getByRole('button', { name: 'Duplicate the material' }).click();
	await expect(page.getByLabel('Name of the material')).toHaveValue('In house style copy');
	await settled(page);
});
