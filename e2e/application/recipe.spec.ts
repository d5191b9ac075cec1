import { expect, test, type Page } from './test';
import type { Recipe } from '../../web/src/api/client';
import { fresh, open, project, PROJECT } from './bench';

const recipeOf = async (page: Page, name: string): Promise<Recipe> => {
	const card = (await project(page)).recipes.find((one) => one.name === name);
	expect(card, name).toBeDefined();
	return (await (await page.request.get(`/api/recipes/${card!.id}`)).json()) as Recipe;
};
/** Until the picture has been drawn again. */
async function drawn(page: Page, change: () => Promise<unknown>): Promise<void> {
	const canvas = page.getByLabel(/^Picture of the recipe/);
	const before = Number(await canvas.getAttribute('data-count'));
	await change();
	await expect.poll(async () => Number(await canvas.getAttribute('data-count'))).toBeGreaterThan(before);
}

test('a recipe is written, seen live, made into maps, and made again', async ({ page }) => {
	await page.goto(`/${PROJECT}/maps`);
	await page.getByRole('button', { name: 'New recipe' }).click();
	await page.getByRole('dialog').getByLabel('Name').fill('cobble-test');
	await page.getByRole('dialog').getByRole('button', { name: 'Create' }).click();
	await expect(page.getByLabel('Name of the recipe')).toHaveValue('cobble-test');
	const values = page.getByRole('region', { name: 'Values' });
	const pantry = page.getByRole('complementary', { name: 'Ingredients and maps' });
	await page.getByLabel('Pixels a side').selectOption('64');
	await expect(page.getByLabel(/^Picture of the recipe/)).not.toHaveAttribute('data-count', '0');

	// A cellular ingredient, whose share outside follows black and white as they are dragged; nothing is sent meanwhile.
	await pantry.getByRole('button', { name: 'Add an ingredient' }).click();
	await page.getByRole('button', { name: /^Waves/ }).click();
	await values.getByText('Saw', { exact: true }).click();
	await drawn(page, () => values.getByRole('spinbutton', { name: 'Across' }).press('Delete'));
	await expect(values).toContainText('Nothing lies outside');
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	const sent: string[] = [];
	page.on('request', (request) => sent.push(request.url()));
	const handle = values.getByRole('slider', { name: 'White at' });
	const box = (await handle.boundingBox())!;
	await page.mouse.move(box.x + box.width / 2, box.y + 20);
	await page.mouse.down();
	for (let i = 1; i <= 8; i++) await page.mouse.move(box.x + box.width / 2 - 9 * i, box.y + 20);
	await page.waitForTimeout(400);
	expect(sent.filter((url) => url.includes('/api/')), 'dragging sends nothing').toEqual([]);
	await page.mouse.up();
	const white = Number(await handle.getAttribute('aria-valuenow'));
	expect(white).toBeLessThan(0.9);
	expect(white).toBeGreaterThan(0.2);
	// Of a saw, exactly what is over white lies outside.
	await expect(values.locator('.shares strong')).toHaveText(new RegExp(`^(${Math.round(100 * (1 - white)) - 1}|${Math.round(100 * (1 - white))}|${Math.round(100 * (1 - white)) + 1}) %$`));
	await values.getByLabel('Outside').selectOption('remap');
	await expect(values).toContainText('Nothing lies outside');

	// A blend of the two, the height of all maps.
	await pantry.getByRole('button', { name: 'Add an ingredient' }).click();
	await page.getByRole('button', { name: /^Blend/ }).click();
	await values.getByRole('button', { name: 'Lay another over it' }).click();
	await values.getByLabel('How').selectOption('multiply');
	await expect(pantry.getByRole('button', { name: /^Blend/ })).toContainText('Waves, Ground');

	// What is used by another cannot come after it.
	await pantry.getByRole('button', { name: /^Blend/ }).press('Alt+ArrowUp');
	await expect(page.getByText('Blend is made of Waves, which has to come before it.')).toBeVisible();

	// A gradient: two stops, one more, dragged, coloured, taken away by keyboard; undo brings it back.
	await pantry.getByRole('button', { name: 'Base colour' }).click();
	await values.getByRole('button', { name: 'Add a colour' }).click();
	const stops = values.getByRole('slider', { name: /^Colour \d at/ });
	await expect(stops).toHaveCount(3);
	await expect(stops.nth(1)).toHaveAttribute('aria-valuenow', '0.5');
	await stops.nth(1).press('Shift+ArrowRight');
	await expect(stops.nth(1)).toHaveAttribute('aria-valuenow', '0.6');
	await drawn(page, () => values.locator('input[type=color]').fill('#802010'));
	await stops.nth(1).press('Delete');
	await expect(stops).toHaveCount(2);
	await page.keyboard.press('Control+z');
	await expect(stops).toHaveCount(3);
	await values.getByText('In steps', { exact: true }).click();
	await values.getByLabel('Along').selectOption({ label: 'Waves' });
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	const kept = (await recipeOf(page, 'cobble-test')).document;
	expect(kept.ingredients.map((one) => one.source)).toEqual(['fbm', 'waves', 'blend']);
	expect(kept.outputs[0]!.coats![0]).toMatchObject({ of: 'waves', between: 'constant', stops: [{ at: 0 }, { at: 0.6, colour: [0.502, 0.1255, 0.0627] }, { at: 1 }] });

	// The workers make the maps.
	await page.getByRole('button', { name: 'What is chosen' }).click();
	await page.getByRole('button', { name: 'Make the maps' }).click();
	await expect(page.getByText('cobble-test is in the library')).toBeVisible();
	await page.getByRole('button', { name: 'Show it' }).click();
	const set = page.getByRole('region', { name: 'Map set cobble-test' });
	await expect(set.getByRole('link', { name: 'from cobble-test', exact: true })).toBeVisible();
	await expect(set.getByRole('button', { name: /of cobble-test$/ })).toHaveCount(5 + 1);
	const first = (await project(page)).sets.find((one) => one.name === 'cobble-test')!;
	expect(first.maps.map((one) => [one.role, one.width])).toContainEqual(['height', 64]);

	// Another seed: changed since, and made again from the library.
	await set.getByRole('link', { name: /^from cobble-test/ }).click();
	await page.getByLabel('Ingredients and maps').getByRole('button', { name: 'Another seed' }).click();
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	await page.getByRole('link', { name: 'Maps' }).click();
	await expect(set.getByRole('link', { name: 'from cobble-test, changed since' })).toBeVisible();
	const card = page.getByRole('region', { name: 'Recipes' }).getByRole('listitem').filter({ hasText: 'cobble-test' });
	await card.getByRole('button', { name: 'Make again' }).click();
	await expect(set.getByRole('link', { name: 'from cobble-test', exact: true })).toBeVisible();

	// A material reads them as any others.
	const id = await fresh(page, 'Cobbles', 'cobble-test');
	await open(page, id);
	await expect(page.getByText(/\d taps/)).toBeVisible();
});

test('variations differ by seed alone and are offered as a family', async ({ page }) => {
	await page.goto(`/${PROJECT}/maps`);
	await page.getByRole('link', { name: 'Open the recipe crackle-glaze' }).click();
	await page.getByRole('button', { name: 'Duplicate', exact: true }).click();
	await expect(page.getByLabel('Name of the recipe')).toHaveValue('crackle-glaze copy');
	await page.getByLabel('Name of the recipe').fill('chip');
	await page.getByLabel('Name of the recipe').blur();
	await page.getByLabel('Pixels a side').selectOption('64');
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	await page.getByRole('button', { name: 'Vary …' }).click();
	await page.getByLabel('How many').fill('2');
	await page.getByRole('button', { name: 'Make variations' }).click();
	await expect(page.getByText('2 variations are being made')).toBeVisible();
	await expect.poll(async () => (await project(page)).alternates).toContainEqual({ name: 'chip', sets: ['chip-01', 'chip-02'] });
	const [one, two] = await Promise.all(['chip-01', 'chip-02'].map((name) => recipeOf(page, name)));
	expect(one!.document.seed).not.toBe(two!.document.seed);
	expect({ ...one!.document, name: '', seed: 0 }).toEqual({ ...two!.document, name: '', seed: 0 });
});
