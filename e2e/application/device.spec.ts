import { expect, test } from './test';
import { PROJECT } from './bench';

/** The whole project takes a minute; two of its materials tell the same. */
const SOME = ['Long wall run', 'Quay paving'];

test('a device is checked on the materials of the project, kept by its name, and one that computes otherwise is told', async ({ page }) => {
	await page.route(`**/api/projects/${PROJECT}/materials?*`, async (route) => {
		const answer = (await (await route.fetch()).json()) as { pages: number; materials: { name: string }[] };
		await route.fulfill({ json: { ...answer, pages: 1, materials: answer.materials.filter((one) => SOME.includes(one.name)) } });
	});
	await page.goto(`/${PROJECT}`);
	await page.getByRole('link', { name: 'Check this device' }).click();
	await page.getByRole('button', { name: 'Check this device' }).click();
	await expect(page.getByText('This device shows what is computed.')).toBeVisible();
	const rows = page.locator('tbody').first().locator('tr');
	await expect(rows).toHaveCount(2);
	await expect(rows.nth(0)).toContainText('Long wall run');
	await expect(rows.nth(0)).toContainText('640');
	await expect(rows.nth(0)).toContainText('agrees');

	await page.getByRole('button', { name: 'Keep with the project' }).click();
	await expect(page.getByRole('button', { name: 'Kept', exact: true })).toBeVisible();
	await page.reload();
	const kept = page.locator('tbody tr');
	await expect(kept).toHaveCount(1);
	await expect(kept).toContainText('ANGLE');
	await expect(kept).toContainText('1,408');

	// A device that is a little off in everything: as if the core had found something else.
	await page.route('**/api/materials/*/device-check', async (route) => {
		const check = (await (await route.fetch()).json()) as { expected: string };
		const expected = new Float32Array(Uint8Array.from(Buffer.from(check.expected, 'base64')).buffer).map((value) => value + 0.02);
		await route.fulfill({ json: { ...check, expected: Buffer.from(expected.buffer).toString('base64') } });
	});
	await page.getByRole('button', { name: 'Check this device' }).click();
	await expect(page.getByText('This device shows something else.')).toBeVisible();
	await expect(rows.nth(1)).toContainText('differs');

	// And one for which there is no code.
	await page.unroute('**/api/materials/*/device-check');
	await page.route('**/api/materials/*/device-check', async (route) => {
		const check = (await (await route.fetch()).json()) as { code: string };
		await route.fulfill({ json: { ...check, code: `${check.code} wrong` } });
	});
	await page.getByRole('button', { name: 'Check again' }).click();
	await expect(page.getByText('2 could not be run')).toBeVisible();
	await expect(rows.nth(0)).toContainText('does not run');
});
