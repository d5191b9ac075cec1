import { expect, test } from './test';
import { fresh, open, png, project, PROJECT, settled } from './bench';

const file = (name: string, side: number, grey: number) => ({ name, buffer: png(side, side, () => [grey, grey, grey]), mimeType: 'image/png' });

test('alternates become a family that fits, in an order, and a lane chooses among them', async ({ page }) => {
	await page.goto(`/${PROJECT}/maps`);
	await page.getByLabel('Files to import').setInputFiles([file('tally_1_albedo.png', 16, 40), file('tally_2_albedo.png', 16, 120), file('tally_3_albedo.png', 8, 220)]);
	// They are seen while they are reviewed, by the names that their sets have by then.
	const alternates = page.getByRole('list', { name: 'Alternates' });
	await expect(alternates).toContainText('tally-1, tally-2, tally-3 look like alternates');
	await page.getByLabel('Set of tally_3_albedo.png').fill('count');
	await expect(alternates).toContainText('tally-1, tally-2 look like alternates');
	await page.getByLabel('Set of tally_3_albedo.png').fill('tally-3');
	await expect(alternates).toContainText('tally-1, tally-2, tally-3 look like alternates');
	await page.getByRole('button', { name: /^Keep 3 maps/ }).click();
	const families = page.getByRole('region', { name: 'Families' });
	const family = families.getByRole('listitem', { name: 'Family tally', exact: true });
	await expect(family).toContainText('tally-3/base-colour has 8 x 8 pixels, the others 16 x 16');
	await expect(family.getByRole('link', { name: 'Index list' })).toBeHidden();
	await family.getByRole('button', { name: 'Make tally-3 fit' }).click();
	await expect(family.getByRole('link', { name: 'Index list' })).toBeVisible();

	// By keyboard, then by pointer.
	await family.getByRole('button', { name: 'Move tally-3 forward' }).focus();
	await page.keyboard.press('Enter');
	await expect(family.getByRole('listitem', { name: 'tally-3, number 1' })).toBeVisible();
	await family.getByRole('listitem', { name: /^tally-1/ }).dragTo(family.getByRole('listitem', { name: /^tally-2/ }));
	await expect(family.getByRole('listitem', { name: 'tally-1, number 2' })).toBeVisible();
	expect((await project(page)).families.find((one) => one.name === 'tally')?.sets).toEqual(['tally-3', 'tally-2', 'tally-1']);

	const id = await fresh(page, 'Tallies', 'tally-2');
	await open(page, id);
	await page.getByRole('button', { name: 'Insert a step at the end' }).click();
	await page.getByRole('dialog').getByRole('button', { name: /^Choose / }).click();
	const values = page.getByRole('region', { name: 'Values' });
	// The family of the layer's set is taken by itself.
	await expect(values.getByLabel('Family')).toHaveValue('tally');
	await values.getByLabel('Chosen by').selectOption('object');
	await expect(page.getByTestId('sentence')).toContainText('one of tally an object');
	// Three sets, one after another for each of the three taps; one map each.
	await expect(page.getByText('9 taps · 9 map reads')).toBeVisible();
	await page.getByRole('button', { name: 'Show Choose on the stage' }).click();
	await settled(page);
	for (const set of ['tally-1', 'tally-2', 'tally-3']) await expect(page.getByRole('list', { name: 'Legend' }).or(page.locator('.legend-place')).getByText(set)).toBeVisible();

	// Ending the family is told where it is used, and can be taken back.
	await page.goto(`/${PROJECT}/maps`);
	await expect(family).toContainText('chosen from by Tallies');
	await family.getByRole('button', { name: 'End the family tally' }).click();
	await expect(family).toBeHidden();
	await page.getByRole('button', { name: 'Bring it back' }).click();
	await expect(family).toBeVisible();
});
