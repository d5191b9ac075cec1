import { expect, test, type Page } from './test';
import { fresh, open, PROJECT } from './bench';

/** Nothing that somebody has changed is lost, whatever happens to the server, the answer or the page. */
const rename = async (page: Page, name: string): Promise<void> => {
	await page.getByLabel('Name of the material').fill(name);
	await page.getByLabel('Name of the material').press('Tab');
};
const stored = async (page: Page, id: number): Promise<string> => ((await (await page.request.get(`/api/materials/${id}`)).json()) as { name: string }).name;

test('an edit outlives a server that fails, and the page says so until it is stored', async ({ page }) => {
	const id = await fresh(page, 'Storm door');
	await open(page, id);
	let fails = 0;
	await page.route(`**/api/materials/${id}`, async (route) => {
		if (route.request().method() === 'PUT' && fails++ < 2) await route.fulfill({ status: 503, contentType: 'application/problem+json', body: JSON.stringify({ title: 'Busy', detail: 'The database is away.', status: 503, problems: [] }) });
		else await route.continue();
	});
	await rename(page, 'Storm door, oak');
	await expect(page.getByTestId('saving')).toHaveText(/cannot store it now: kept in this browser/);
	expect(await stored(page, id)).toBe('Storm door');
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	expect(await stored(page, id)).toBe('Storm door, oak');
});

test('a lost answer is no conflict with oneself', async ({ page }) => {
	const id = await fresh(page, 'Echo');
	await open(page, id);
	let lost = 0;
	await page.route(`**/api/materials/${id}`, async (route) => {
		if (route.request().method() === 'PUT' && lost++ < 1) {
			await route.fetch();
			await route.abort('connectionreset');
		} else await route.continue();
	});
	await rename(page, 'Echo stored');
	await expect(page.getByTestId('saving')).toHaveText(/No connection/);
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	expect(await stored(page, id)).toBe('Echo stored');
	await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('what was not stored when the browser died comes back', async ({ page, context }) => {
	const id = await fresh(page, 'Wreck');
	await open(page, id);
	await page.route(`**/api/materials/${id}`, (route) => (route.request().method() === 'PUT' ? route.abort('connectionrefused') : route.continue()));
	await rename(page, 'Wreck, raised');
	await expect(page.getByTestId('saving')).toHaveText(/No connection/);
	await page.close({ runBeforeUnload: false });
	expect(await stored(await context.newPage(), id)).toBe('Wreck');
	const again = await context.newPage();
	await again.goto(`/${PROJECT}/materials/${id}`);
	await expect(again.getByLabel('Name of the material')).toHaveValue('Wreck, raised');
	await expect(again.getByText('Your edits are back')).toBeVisible();
	await expect(again.getByTestId('saving')).toHaveText('Saved');
	expect(await stored(again, id)).toBe('Wreck, raised');
});

test('leaving asks while something is not stored', async ({ page }) => {
	const id = await fresh(page, 'Half done');
	await open(page, id);
	await page.route(`**/api/materials/${id}`, (route) => (route.request().method() === 'PUT' ? route.abort('connectionrefused') : route.continue()));
	await rename(page, 'Half done yet');
	await expect(page.getByTestId('saving')).toHaveText(/No connection/);
	const asked = page.waitForEvent('dialog');
	void page.close({ runBeforeUnload: true });
	const dialog = await asked;
	expect(dialog.type()).toBe('beforeunload');
	await dialog.accept();
});

test('a page that found the server away recovers by itself', async ({ page }) => {
	let away = true;
	await page.route('**/api/projects/*/materials?*', (route) => (away ? route.fulfill({ status: 503, contentType: 'application/problem+json', body: JSON.stringify({ title: 'The database is away', detail: 'It cannot be reached.', status: 503, problems: [] }) }) : route.continue()));
	await page.goto(`/${PROJECT}`);
	await expect(page.getByText('The database is away')).toBeVisible();
	await expect(page.getByText('It is tried again by itself.')).toBeVisible();
	away = false;
	await expect(page.getByRole('link', { name: 'Laboratory wall' })).toBeVisible();
});

test('the eye is somebody\'s own, and sees all or what is selected when asked', async ({ page, browser }) => {
	const id = await fresh(page, 'Lookout');
	await open(page, id);
	const eye = (of: Page): Promise<number[]> => of.evaluate(() => window.riltaStage!.camera.position.toArray());
	const first = await eye(page);
	const box = (await page.locator('.stage canvas').boundingBox())!;
	await page.mouse.move(box.x + 200, box.y + 250);
	await page.mouse.down();
	await page.mouse.move(box.x + 420, box.y + 300, { steps: 4 });
	await page.mouse.up();
	const turned = await eye(page);
	expect(Math.hypot(...turned.map((x, i) => x - first[i]!))).toBeGreaterThan(0.5);
	await page.reload();
	await expect.poll(() => page.evaluate(() => window.riltaStage?.frames ?? 0)).toBeGreaterThan(0);
	expect((await eye(page)).every((x, i) => Math.abs(x - turned[i]!) < 1e-6)).toBe(true);
	const other = await (await browser.newContext()).newPage();
	await other.goto(`/${PROJECT}/materials/${id}`);
	await expect.poll(() => other.evaluate(() => window.riltaStage?.frames ?? 0)).toBeGreaterThan(0);
	expect((await eye(other)).every((x, i) => Math.abs(x - first[i]!) < 1e-6), 'a fresh browser begins where the stage says').toBe(true);
	await page.getByRole('button', { name: 'See all' }).click();
	const all = await eye(page);
	expect(all).not.toEqual(turned);
	await expect(page.getByRole('button', { name: 'See selected' })).toBeDisabled();
});
