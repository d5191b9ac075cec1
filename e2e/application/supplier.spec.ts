import { expect, test, type APIRequestContext } from './test';
import { library, PROJECT } from './bench';

const SUPPLIER = `http://127.0.0.1:${process.env.RILTA_SUPPLIER_PORT ?? '8422'}`;
const behave = async (request: APIRequestContext, failure: string, latency = 0): Promise<void> => {
	expect((await request.post(`${SUPPLIER}/behaviour`, { data: { failure, latency, every: 1 } })).status()).toBe(200);
};

test('a set of the supplier is found, its licence read, reviewed and kept', async ({ page, request }) => {
	await behave(request, 'none', 150);
	// A picture that does not come is asked for again.
	let refused = 0;
	await page.route(/\/preview\.png$/, async (route) => {
		refused += 1;
		await route.fulfill({ status: 503 });
	});
	await page.goto(`/${PROJECT}/maps`);
	await page.getByRole('button', { name: 'Supplier' }).click();
	const sheet = page.getByRole('dialog', { name: 'Supplier’s catalogue' });
	await expect(sheet.getByText('12 sets')).toBeVisible();
	await sheet.getByRole('button', { name: 'Next' }).click();
	await expect(sheet.getByText('2 of 2')).toBeVisible();
	await sheet.getByLabel('Kind').selectOption('ground');
	await sheet.getByLabel('Search the catalogue').fill('ebb');
	await expect(sheet.getByRole('listitem')).toHaveCount(1);
	const ware = sheet.getByRole('listitem', { name: 'Tidal Mud' });
	await expect.poll(() => ware.locator('img').evaluate((image: HTMLImageElement) => image.naturalWidth)).toBeGreaterThan(0);
	expect(refused).toBeGreaterThan(0);
	await ware.getByRole('button', { name: 'Licence: Open hand' }).click();
	await expect(ware).toContainText('You may use these maps for anything');
	await ware.getByRole('button', { name: 'Take Tidal Mud in 256 px' }).click();
	await sheet.getByRole('button', { name: 'Review what was taken' }).click();
	await page.getByRole('button', { name: /^Keep 5 maps/ }).click();
	// The library may have many pages by now.
	await expect(page.getByRole('button', { name: /^Keep 0 maps/ })).toBeVisible();
	await page.getByLabel('Search maps').fill('tidal-mud');
	await expect(page.getByRole('region', { name: 'Map set tidal-mud' })).toBeVisible();
	expect((await library(page, 'tidal-mud'))?.extent).toBe(2);
});

test('a supplier that fails is told, and asked again', async ({ page, request }) => {
	await behave(request, 'nonsense');
	await page.goto(`/${PROJECT}/maps`);
	await page.getByRole('button', { name: 'Supplier' }).click();
	const sheet = page.getByRole('dialog', { name: 'Supplier’s catalogue' });
	await expect(sheet.getByText('something that is no list of wares')).toBeVisible();
	// It is asked again at once, and while it fails it is asked again by itself.
	const asked = page.waitForRequest((one) => one.url().includes('/supplier'));
	await sheet.getByRole('button', { name: /again/i }).click();
	await asked;
	await behave(request, 'none');
	await expect(sheet.getByText('12 sets')).toBeVisible();
});
