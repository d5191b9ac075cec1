import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { open, shelf } from './bench';

const named = async (page: Page, name: string): Promise<number> => (await shelf(page)).find((one) => one.name === name)!.id;

test('what is handed over is read, saved, and follows the document', async ({ page }) => {
	await open(page, await named(page, 'Sea wall'));
	await page.getByRole('button', { name: 'Output', exact: true }).click();
	const code = page.getByLabel('The code', { exact: true });
	await expect(code).toContainText('SeaWallMaterial seaWallMaterial(SeaWallSurface s, SeaWallReady ready)');
	const told = page.getByRole('region', { name: 'What comes out' });
	await expect(told).toContainText('seaWall.glsl');
	await expect(told.getByRole('row', { name: /Paint, red/ })).toContainText('0.93');
	await expect(told.getByRole('row', { name: /Eaten by salt/ })).toContainText('other code or maps');
	await expect(told.getByRole('row', { name: /Survey red/ })).toContainText('other numbers');

	await page.getByLabel('WGSL').check();
	await page.getByLabel('Names begin with').fill('wall');
	await page.getByLabel('With an entry').check();
	await page.getByRole('radio', { name: 'Single' }).check({ force: true });
	await expect(code).toContainText('@fragment');
	await expect(code).toContainText('fn wallMaterial(s: WallSurface, ready: WallReady) -> WallMaterial');
	await expect(code).toContainText('var wall_map_sea_wall_base_colour: texture_2d<f32>;');

	// In another variant other numbers are told; the code is the same.
	await page.getByRole('combobox', { name: 'Variant shown' }).selectOption({ label: 'Survey red' });
	await expect(told.getByRole('row', { name: /Paint, red/ })).toContainText('0.78');

	const saving = page.waitForEvent('download');
	await page.getByRole('button', { name: 'Save', exact: true }).click();
	const file = await saving;
	expect(file.suggestedFilename()).toBe('wall.wgsl');
	expect(readFileSync(await file.path(), 'utf8')).toContain('fn wallMaterial');
	await page.getByRole('radio', { name: 'Sidecar' }).check({ force: true });
	const other = page.waitForEvent('download');
	await page.getByRole('button', { name: 'Save', exact: true }).click();
	const sidecar = JSON.parse(readFileSync(await (await other).path(), 'utf8')) as { format: string; file: string; numbers: { path: string | null; value: number }[] };
	expect(sidecar).toMatchObject({ format: 'rilta-shader/1', file: 'wall.wgsl' });
	expect(sidecar.numbers.find((one) => one.path === '/parameters/1/value/0')?.value).toBe(0.78);
});

test('a prefix that is none is said, and nothing is lost', async ({ page }) => {
	await open(page, await named(page, 'Sea wall'));
	await page.getByRole('button', { name: 'Output', exact: true }).click();
	const told = page.getByRole('region', { name: 'What comes out' });
	await expect(told).toContainText('seaWall.glsl');
	await page.getByLabel('Names begin with').fill('2nd wall');
	await expect(told.getByRole('alert')).toContainText('expected a lower-case letter');
	await expect(page.getByLabel('The code', { exact: true })).toContainText('seaWallMaterial');
	await page.getByLabel('Names begin with').fill('');
	await expect(told.getByRole('alert')).toHaveCount(0);
});

test('while the server is away it says so, and asks again by itself', async ({ page }) => {
	await open(page, await named(page, 'Sea wall'));
	await page.getByRole('button', { name: 'Output', exact: true }).click();
	const told = page.getByRole('region', { name: 'What comes out' });
	await expect(told).toContainText('seaWall.glsl');
	await page.route('**/code', (route) => route.fulfill({ status: 503, contentType: 'application/problem+json', body: '{"title":"Busy","status":503,"detail":"Too much to do at once."}' }));
	await page.getByLabel('WGSL').check();
	await expect(told.getByRole('alert')).toHaveText('Too much to do at once.');
	await page.unroute('**/code');
	await expect(told).toContainText('seaWall.wgsl');
	await expect(told.getByRole('alert')).toHaveCount(0);
});
