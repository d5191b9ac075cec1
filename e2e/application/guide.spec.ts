import { expect, test } from './test';
import { fresh, open, PROJECT } from './bench';

test('the guide is read inside, searched by words, and reached from what is selected', async ({ page }) => {
	await open(page, await fresh(page, 'Guided'));
	await page.getByRole('button', { name: 'Origin in the guide' }).click();
	const guide = page.getByRole('dialog', { name: 'Guide' });
	await expect(guide.getByRole('article').getByRole('heading', { name: 'Origin' })).toBeVisible();
	await expect(guide.getByRole('article')).toContainText('mesh UV follows the unwrapping');
	await guide.getByLabel('Search the guide').fill('brush radius');
	await expect(guide.getByRole('article').getByRole('heading', { name: 'Painting' })).toBeVisible();
	await guide.getByLabel('Search the guide').fill('xylophone');
	await expect(guide.getByText('Nothing in the guide has these words.')).toBeVisible();
	await guide.getByRole('button', { name: 'Close' }).click();
	await page.keyboard.press('F1');
	await expect(guide.getByLabel('Search the guide')).toBeFocused();
});

test('a first visit offers one job, which knows what is done, is left, and comes back when it is asked for', async ({ page }) => {
	await page.goto(`/${PROJECT}`);
	const offer = page.getByRole('complementary', { name: 'A first job' });
	await offer.getByRole('button', { name: 'Begin' }).click();
	const job = page.getByRole('region', { name: 'A first job' });
	await expect(job.getByRole('heading', { name: 'A wall by its place in the world' })).toBeVisible();
	await page.getByText('World', { exact: true }).click();
	await expect(job.getByRole('heading', { name: 'Its size as a parameter' })).toBeVisible();
	await expect(job.getByRole('button', { name: 'Step 1: A wall by its place in the world, done' })).toBeVisible();
	// The step before is read again, and the guide tells more.
	await job.getByRole('button', { name: /^Step 1/ }).click();
	await job.getByRole('button', { name: 'More in the guide' }).click();
	await expect(page.getByRole('dialog', { name: 'Guide' }).getByRole('heading', { name: 'Origin' })).toBeVisible();
	await page.keyboard.press('Escape');
	// It goes on after a reload, and is not offered again once it was left.
	await expect(page.getByText('Saved', { exact: true })).toBeVisible();
	await page.reload();
	await expect(job.getByRole('heading', { name: 'Its size as a parameter' })).toBeVisible();
	await job.getByRole('button', { name: 'Leave the job' }).click();
	await page.goto(`/${PROJECT}`);
	await expect(page.getByRole('heading', { name: 'Laboratory wall' })).toBeVisible();
	await expect(offer).toBeHidden();
	await page.getByRole('button', { name: 'Guide', exact: true }).click();
	await page.getByRole('button', { name: 'A first job in five steps' }).click();
	await offer.getByRole('button', { name: 'Not now' }).click();
	await expect(offer).toBeHidden();
});
