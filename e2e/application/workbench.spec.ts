import { expect, test, type Page } from './test';
import { fresh, made, open, pixel, placed, PROJECT, pull, requests, settled, stored, trained } from './bench';

/** Drags a number field by some pixels, in small steps. */
async function scrub(page: Page, label: string, by: number): Promise<void> {
	const box = await page.getByRole('spinbutton', { name: label, exact: true }).first().boundingBox();
	if (box === null) throw new Error(`No field ${label}.`);
	await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
	await page.mouse.down();
	for (let i = 1; i <= 10; i++) {
		await page.mouse.move(box.x + box.width / 2 + (by * i) / 10, box.y + box.height / 2);
		await page.waitForTimeout(60);
	}
}

test('dragging a number redraws and sends nothing; letting go saves', async ({ page }) => {
	const id = await fresh(page, 'Dragged');
	await open(page, id);
	await trained(page);
	const [sent, any] = [requests(page), requests(page, true)];
	sent();
	const frames = await page.evaluate(() => window.riltaStage?.frames ?? 0);
	await scrub(page, 'Size', 40);
	expect(await page.evaluate(() => window.riltaStage?.frames ?? 0)).toBeGreaterThan(frames + 2);
	expect(any().map((request) => request.url())).toEqual([]);
	await page.mouse.up();
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	expect(sent().map((request) => request.method())).toEqual(['PUT']);
	const size = (await stored(page, id)).document.lanes[0]?.steps[1]?.values.u;
	expect(size).toBeGreaterThan(1.7);
	await expect(page.getByTestId('sentence')).toHaveText(`world position, tri-planar → ${size} m per repeat`);
});

test('switching the origin asks for new code and changes the picture', async ({ page }) => {
	const id = await fresh(page, 'Switched', 'basalt-cladding');
	await open(page, id);
	await page.getByLabel('View', { exact: true }).selectOption({ label: 'Coordinates' });
	await settled(page);
	const sent = requests(page);
	const before = await pixel(page, 300, 270);
	await page.getByRole('button', { name: 'Origin, step of the lane' }).click();
	await page.getByText('Mesh UV', { exact: true }).click();
	await expect(page.getByTestId('sentence')).toContainText('mesh UV');
	await settled(page);
	expect(sent().filter((request) => request.url().endsWith('/lower'))).toHaveLength(1);
	expect(await pixel(page, 300, 270)).not.toEqual(before);
	await expect(page.getByText('1 tap · 4 map reads')).toBeVisible();
	await page.keyboard.press('Control+z');
	await expect(page.getByTestId('sentence')).toContainText('world position');
	await settled(page);
	expect(await pixel(page, 300, 270)).toEqual(before);
});

test('every tile shows its coordinates, and can be shown on the stage', async ({ page }) => {
	await open(page, await fresh(page, 'Tiles'));
	const colours = await page.locator('.tile canvas').evaluateAll((all) =>
		all.map((canvas) => {
			const context = (canvas as HTMLCanvasElement).getContext('2d');
			const { width, height } = canvas as HTMLCanvasElement;
			return new Set(new Uint32Array(context?.getImageData(0, 0, width, height).data.buffer ?? new ArrayBuffer(0))).size;
		})
	);
	expect(colours).toHaveLength(2);
	for (const count of colours) expect(count).toBeGreaterThan(200);
	await page.getByRole('button', { name: 'Show Size on the stage' }).click();
	const view = page.getByLabel('View', { exact: true });
	await expect(view).toHaveValue('station:/lanes/0/steps/1');

	// A step that is new is asked for before there is code for it, which comes late.
	await settled(page);
	let coded = (): void => {};
	const asked = new Promise<void>((go) => (coded = go));
	await page.route('**/lower', async (route) => {
		await asked;
		await route.continue();
	});
	await page.getByRole('button', { name: 'Insert a step at the end' }).click();
	await page.getByRole('dialog').getByRole('button', { name: /^Turn / }).click();
	const shows = page.getByRole('button', { name: 'Show Turn on the stage' });
	await shows.click();
	await expect(shows).toHaveAttribute('aria-pressed', 'true');
	coded();
	await expect(view).toHaveValue('station:/lanes/0/steps/2');
	await expect(page.getByRole('complementary', { name: 'Legend' })).toContainText('After Turn');

	// What is gone is not looked at any more.
	await page.getByRole('button', { name: 'Delete Turn' }).click();
	await expect(view).toHaveValue('lit');
});

test.describe('by the pixel', () => {
	// As sharp as the page: one pixel is compared with what is computed for it.
	test.use({ deviceScaleFactor: 1 });
	test('the trail of a clicked point agrees with the picture', async ({ page }) => {
		await open(page, await fresh(page, 'Probed', 'basalt-cladding'));
		await page.getByLabel('View', { exact: true }).selectOption({ label: 'Base colour' });
		await settled(page);
		const canvas = page.getByLabel('Stage: drag to look around');
		const box = await canvas.boundingBox();
		if (box === null) throw new Error('No stage.');
		const trail = page.getByRole('region', { name: 'Trail' });
		const shown = trail.locator('dt', { hasText: 'Base colour, sRGB' }).locator('+ dd');
		async function agrees(x: number, y: number): Promise<void> {
			await expect(shown).toBeVisible();
			// A machine that has much else to do draws coarsely for a while, and answers late.
			await settled(page);
			await expect(async () => {
				const colour = (await shown.innerText()).trim().split(/\s+/).map(Number);
				const seen = await pixel(page, x, y);
				// A click lies anywhere on its pixel; the texel under it may be half a pixel off.
				for (let c = 0; c < 3; c++) expect(Math.abs((colour[c] ?? 999) - (seen[c] ?? 0))).toBeLessThanOrEqual(6);
			}).toPass();
		}
		for (const [x, y] of [[120, 270], [420, 300], [700, 300], [400, 480]] as const) {
			await page.mouse.click(box.x + x, box.y + y);
			await agrees(x, y);
			await expect(trail.getByText('Face', { exact: false }).first()).toBeVisible();
		}
		// What is changed is seen in the trail of the point that was clicked, and taken back as well.
		const coordinate = trail.locator('dt', { hasText: 'Coordinate on y' }).last().locator('+ dd');
		const before = await coordinate.innerText();
		await trail.getByLabel('Compare with the next point').click();
		await page.getByRole('button', { name: 'Size, step of the lane' }).click();
		await page.getByRole('region', { name: 'Values' }).getByRole('spinbutton').first().click();
		await page.keyboard.type('0.37');
		await page.keyboard.press('Enter');
		await expect(trail).toHaveAttribute('aria-busy', 'false');
		await expect(trail.getByRole('table', { name: 'Two trails' })).toContainText('first difference');
		await trail.getByLabel('Compare with the next point').click();
		await expect(coordinate).not.toHaveText(before);
		await agrees(400, 480);
		await page.getByRole('button', { name: 'Undo' }).click();
		await expect(coordinate).toHaveText(before);
		await page.mouse.click(box.x + 400, box.y + 60);
		await expect(page.getByText('Nothing there: that line of sight')).toBeVisible();
	});
});

test('objects are moved by the handles on the stage, and stay where they were put', async ({ page }) => {
	const id = await fresh(page, 'Moved');
	await open(page, id);
	await page.getByText('Move', { exact: true }).click();
	await page.getByRole('button', { name: 'Sphere' }).click();
	await settled(page);
	const before = await placed(page, 'sphere');
	await pull(page, before.position, -1);
	// What is stored on the way, where a drag rests, is not yet where it ends.
	const shown = page.getByRole('spinbutton', { name: 'Position X' });
	const x = Number(await shown.getAttribute('aria-valuenow'));
	expect(x).toBeCloseTo((before.position[0] ?? 0) - 1, 0);
	await expect.poll(async () => (await placed(page, 'sphere')).position).toEqual([x, ...before.position.slice(1)]);
	await page.reload();
	await page.getByRole('button', { name: 'Sphere' }).click();
	await expect(shown).toHaveAttribute('aria-valuenow', String(x));
});

test('the frame of a projection is dragged on the stage, as one step of undo', async ({ page }) => {
	const { position } = await placed(page, 'sphere');
	const [x = 0, y = 0, z = 0] = position;
	const origin = { space: 'world', faces: 'z', frame: 'own', positionX: x, positionY: y, positionZ: z };
	const id = await made(page, {
		format: 'rilta-material/2',
		name: 'Framed',
		lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: origin }, { step: 'size', on: true, values: { u: 1 } }] }],
		layers: [{ id: 'ground', name: 'Ground', lane: 'main', set: 'lime-plaster' }]
	});
	await open(page, id);
	await page.getByRole('button', { name: 'Origin, step of the lane' }).click();
	await page.getByText('Move', { exact: true }).click();
	await settled(page);
	const sent = requests(page);
	await pull(page, position, -1);
	const field = page.getByRole('spinbutton', { name: 'Centre X', exact: true });
	await expect.poll(async () => Number(await field.getAttribute('aria-valuenow'))).toBeCloseTo(x - 1, 0);
	await expect(page.getByRole('spinbutton', { name: 'Centre Y', exact: true })).toHaveAttribute('aria-valuenow', String(y));
	expect(sent().filter((request) => request.url().endsWith('/lower'))).toEqual([]);
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(field).toHaveAttribute('aria-valuenow', String(x));
	await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
});

test('a shader that does not compile is shown with its line, and the last picture stays', async ({ page }) => {
	const id = await fresh(page, 'Broken');
	await open(page, id);
	await page.route('**/lower', async (route) => {
		const response = await route.fetch();
		const body = (await response.json()) as { hash: string; material: string };
		await route.fulfill({ response, json: { ...body, hash: `${body.hash}-broken`, material: body.material.replace('return RiltaMaterial', 'return Nonsense') } });
	});
	await page.getByRole('button', { name: 'Origin, step of the lane' }).click();
	await page.getByText('Object', { exact: true }).click();
	const alert = page.getByRole('alert').filter({ hasText: 'does not compile' });
	await expect(alert).toContainText('Nonsense');
	await expect(alert).toContainText(/Line \d+: return Nonsense/);
});

test('two tabs in conflict lose nothing', async ({ page, context }) => {
	const id = await fresh(page, 'Contested');
	const other = await context.newPage();
	// One that hears nothing of others: what it does meanwhile is a conflict.
	await page.route(/\/events\?/, (route) => route.abort());
	await open(page, id);
	await open(other, id);
	const type = async (tab: Page, value: string): Promise<void> => {
		await tab.getByRole('spinbutton', { name: 'Size', exact: true }).first().click();
		// What is typed takes the place of what stands there.
		await tab.keyboard.type(value);
		await tab.keyboard.press('Enter');
	};
	await other.getByRole('spinbutton', { name: 'Size', exact: true }).first().focus();
	await other.keyboard.type('3');
	await other.keyboard.press('Enter');
	await expect(other.getByTestId('saving')).toHaveText('Saved');
	await type(page, '5');
	const sheet = page.getByRole('dialog', { name: 'Changed somewhere else' });
	await expect(sheet.getByRole('row', { name: /values\/u/ })).toContainText('3');
	await sheet.getByRole('button', { name: 'Keep both as two materials' }).click();
	await expect(sheet).toBeHidden();
	expect((await stored(page, id)).document.lanes[0]?.steps[1]?.values.u).toBe(3);
	// There may be more than a page of materials by now.
	await page.goto(`/${PROJECT}`);
	await page.getByLabel('Search materials').fill('contested');
	await expect(page.getByRole('link', { name: 'Contested (my version)' }).first()).toContainText('5 m per repeat');
});

test('a bake runs to its end with progress, and its files can be fetched', async ({ page }) => {
	await open(page, await fresh(page, 'Baked'));
	await page.getByRole('button', { name: 'Output', exact: true }).click();
	await page.getByRole('button', { name: 'Bake …' }).click();
	await page.getByLabel('Pixels a side').selectOption('512');
	await page.getByRole('dialog').getByRole('button', { name: 'Bake', exact: true }).click();
	await expect(page.getByRole('progressbar')).toBeVisible();
	await expect(page.getByTestId('bake-facts')).toHaveText(/baked-512(-\d)?: 512 × 512 px, 1\.6 × 1\.6 m,\s+a seamless tile\./);
	const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'normal' }).click()]);
	expect(download.suggestedFilename()).toMatch(/^baked-512(-\d)?-normal\.png$/);
});

test('an object of the stage is baked into its UVs, after what is wrong with them was said', async ({ page }) => {
	await open(page, await fresh(page, 'Baked onto'));
	await page.getByRole('button', { name: 'Output', exact: true }).click();
	await page.getByRole('button', { name: 'Bake …' }).click();
	const sheet = page.getByRole('dialog');
	await sheet.getByLabel('Over', { exact: true }).selectOption({ label: 'Cube' });
	await sheet.getByLabel('Pixels a side').selectOption('256');
	const layout = sheet.getByTestId('layout');
	await expect(layout).toContainText(/It covers 9\d % of the picture, with 99\.\d+ pixels a metre in the middle/);
	// 99 times 5.2 are 512: the next size that has them is eight times as large.
	await expect(layout).toContainText('The material wants 512 pixels a metre, which 2048 pixels a side have.');
	await sheet.getByLabel('Pixels a side').selectOption('2048');
	await expect(layout).toContainText('It covers');
	await expect(layout).not.toContainText('The material wants');
	await sheet.getByLabel('Pixels a side').selectOption('256');
	// All sides of the cube lie over each other in its first set.
	await sheet.getByLabel('UV set').selectOption('1');
	await expect(layout).toContainText('of that is covered twice');
	await sheet.getByLabel('Over', { exact: true }).selectOption({ label: 'Floor' });
	await expect(layout.getByRole('alert')).toContainText('unwrap it first');
	await expect(sheet.getByRole('button', { name: 'Bake', exact: true })).toBeDisabled();
	await sheet.getByLabel('Over', { exact: true }).selectOption({ label: 'Cube' });
	await sheet.getByLabel('UV set').selectOption('2');
	await sheet.getByRole('button', { name: 'Bake', exact: true }).click();
	await expect(page.getByTestId('bake-facts')).toHaveText(/baked-onto-on-cube-256(-\d)?: 256 × 256 px, of which 9\d % are covered, 99\.\d+ px a metre\./);
	const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'All files as a ZIP' }).click()]);
	expect(download.suggestedFilename()).toMatch(/^baked-onto-on-cube-256(-\d)?\.zip$/);
});

test('a bake that has failed says why and goes on where it was', async ({ page }) => {
	await open(page, await fresh(page, 'Kiln'));
	// The workers died over it, as far as the page is told.
	let broken = true;
	await page.route(/\/api\/bakes\/\d+$/, async (route) => {
		const answer = await route.fetch();
		await route.fulfill({ response: answer, json: { ...(await answer.json()) as object, ...(broken && { state: 'failed', failure: 'There was no room.' }) } });
	});
	await page.getByRole('button', { name: 'Output', exact: true }).click();
	await page.getByRole('button', { name: 'Bake …' }).click();
	await page.getByLabel('Pixels a side').selectOption('256');
	await page.getByRole('dialog').getByRole('button', { name: 'Bake', exact: true }).click();
	await expect(page.getByRole('dialog').getByRole('alert')).toHaveText('The bake failed: There was no room.');
	broken = false;
	await page.getByRole('button', { name: 'Try again' }).click();
	await expect(page.getByTestId('bake-facts')).toContainText('256 × 256 px');
});

test('the workbench is worked by keyboard', async ({ page }) => {
	const id = await fresh(page, 'Keys');
	await open(page, id);
	const size = page.getByRole('spinbutton', { name: 'Size', exact: true }).first();
	await size.focus();
	await page.keyboard.press('ArrowUp');
	await expect(size).toHaveAttribute('aria-valuenow', '1.65');
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type('250 cm');
	await page.keyboard.press('Enter');
	await expect(size).toHaveAttribute('aria-valuenow', '2.5');
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type('0');
	await page.keyboard.press('Enter');
	await expect(page.getByRole('textbox', { name: 'Size' })).toHaveAttribute('title', 'Expected 0.001 to 10000 m');
	await page.keyboard.press('Escape');
	await expect(size).toHaveAttribute('aria-valuenow', '2.5');
	await page.keyboard.press('Control+s');
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	await page.reload();
	await expect(page.getByTestId('sentence')).toContainText('2.5 m per repeat');
});

test('F6 goes from part to part of the window, arrow keys along the tiles', async ({ page }) => {
	const id = await fresh(page, 'By keys');
	await open(page, id);
	const part = (): Promise<string> => page.evaluate(() => {
		const region = document.activeElement?.closest('.bench > header, .bench > .stage, .bench > aside, .bench > section, .right > section');
		return region?.getAttribute('aria-label') ?? region?.tagName ?? '';
	});
	const seen: string[] = [];
	for (let i = 0; i < 7; i++) {
		await page.keyboard.press('F6');
		seen.push(await part());
	}
	expect(seen).toEqual(['HEADER', 'DIV', 'Distance strip', 'Layers and objects', 'Values', 'Parameters', 'Lanes']);
	await page.keyboard.press('ArrowRight');
	await expect(page.getByRole('button', { name: 'Size, step of the lane' })).toBeFocused();
	await page.keyboard.press('Shift+F6');
	expect(await part()).toBe('Parameters');
	// Where one was in it, not at its beginning.
	await page.keyboard.press('F6');
	await expect(page.getByRole('button', { name: 'Size, step of the lane' })).toBeFocused();
});

test('whatever can be done is found by typing, and all keys are told', async ({ page }) => {
	await open(page, await fresh(page, 'Commanded'));
	await page.keyboard.press('Control+k');
	const dialog = page.getByRole('dialog', { name: 'Commands' });
	const options = dialog.getByRole('option');
	await dialog.getByRole('combobox').fill('look far');
	await expect(options).toHaveText(['Look from: FarStage']);
	const away = () => page.evaluate(() => Math.hypot(...window.riltaStage!.camera.position.toArray()));
	const before = await away();
	await page.keyboard.press('Enter');
	await expect(dialog).toBeHidden();
	expect(await away()).toBeGreaterThan(2 * before);
	// Arrow keys choose, and what cannot be done is not offered.
	await page.keyboard.press('Control+k');
	await expect(options.filter({ hasText: 'Undo' })).toHaveCount(0);
	await dialog.getByRole('combobox').fill('pointer');
	await page.keyboard.press('ArrowDown');
	await expect(options.nth(1)).toHaveAttribute('data-highlighted', '');
	await expect(dialog.getByRole('combobox')).toHaveAttribute('aria-activedescendant', (await options.nth(1).getAttribute('id'))!);
	await page.keyboard.press('Enter');
	await expect(page.getByRole('radio', { name: 'Move', exact: true })).toBeChecked();
	await page.keyboard.press('?');
	const keys = page.getByRole('dialog', { name: 'Keys' });
	await expect(keys.getByText('Ctrl+Shift+Z', { exact: true })).toBeVisible();
	await expect(keys.getByText('Make a group', { exact: true })).toBeVisible();
	await page.keyboard.press('Escape');
	await expect(keys).toBeHidden();
	// A picture that takes long holds frames back: Escape is heard without one.
	const frames = await page.evaluateHandle(() => {
		const own = window.requestAnimationFrame;
		const held: FrameRequestCallback[] = [];
		window.requestAnimationFrame = (callback) => held.push(callback);
		return { release: () => ((window.requestAnimationFrame = own), held.forEach((callback) => own(callback))) };
	});
	await page.keyboard.press('?');
	await page.keyboard.press('Escape');
	await expect(keys).toBeHidden();
	// So is what is typed ahead of it; and the keyboard goes on where it was done.
	await page.keyboard.press('Control+k');
	await page.keyboard.type('insert mirror');
	await page.keyboard.press('Enter');
	await frames.evaluate((held) => held.release());
	await expect(page.getByRole('button', { name: 'Mirror, step of the lane' })).toBeFocused();
	const done = async (typed: string): Promise<void> => {
		await page.keyboard.press('Control+k');
		await page.keyboard.type(typed);
		await page.keyboard.press('Enter');
		await expect(dialog).toBeHidden();
	};
	await done('step size');
	await expect(page.getByRole('button', { name: 'Size, step of the lane' })).toBeFocused();
	await done('layer lime');
	const layer = page.getByRole('button', { name: 'Lime plaster, layer' });
	await expect(layer).toBeFocused();
	// What a layer offers goes with it.
	await done('step size');
	await expect(page.getByRole('button', { name: 'Size, step of the lane' })).toBeFocused();
	// Of several that exclude each other, the one that is chosen.
	await done('step origin');
	await done('values');
	await expect(page.getByRole('radio', { name: 'World', exact: true })).toBeFocused();
	await done('seam width');
	await expect(page.getByRole('region', { name: 'Values' }).getByRole('spinbutton', { name: 'Seam width' })).toBeFocused();
	await done('layer lime');
	await done('finish roughness');
	await expect(page.getByRole('radio', { name: 'Its map' }).or(page.getByLabel('Made from'))).toBeFocused();
	// A row that is added is gone on with.
	await done('insert place');
	await done('add place');
	await expect(page.getByRole('spinbutton', { name: 'Centre U of row 1' })).toBeFocused();
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await done('layer lime');
	await done('lane copy');
	await expect(page.getByLabel('Name of the lane')).toHaveCount(2);
	await expect(page.getByLabel('Name of the lane').nth(1)).toHaveValue('Lime plaster');
	await layer.press('Control+d');
	await expect(page.getByRole('button', { name: 'Lime plaster 2, layer' })).toBeFocused();
	// What a pointer would click has its command.
	await done('probe middle');
	await expect(page.getByRole('region', { name: 'Trail' })).toContainText('Lime plaster');
	await done('layer lime plaster 2');
	await done('add mask slope');
	await expect(page.getByRole('region', { name: 'Mask' }).locator(':focus')).toHaveCount(1);
	await done('add parameter');
	await expect(page.getByRole('region', { name: 'Values' }).locator(':focus')).toHaveValue('Parameter 1');
	// Where text is typed, a sign is a sign.
	await page.getByLabel('Name of the material').fill('What?');
	await page.getByLabel('Name of the material').press('?');
	await expect(keys).toBeHidden();
	await page.keyboard.press('Control+k');
	await dialog.getByRole('combobox').fill('maps');
	await page.keyboard.press('Enter');
	await expect(page).toHaveURL(/\/maps$/);
	// Maps, shelf and projects have theirs, once they are there.
	await expect(page.getByRole('button', { name: 'Supplier' })).toBeVisible();
	await done('supplier');
	await expect(page.getByRole('dialog', { name: 'Supplier’s catalogue' })).toBeVisible();
	await page.keyboard.press('Escape');
	await done('materials project');
	await expect(page).toHaveURL(new RegExp(`/${PROJECT}$`));
	await done('new material');
	await expect(page.getByRole('dialog', { name: 'New material' }).getByLabel('Name')).toBeFocused();
	await page.keyboard.press('Escape');
	await expect(page.getByRole('dialog')).toHaveCount(0);
	// Enter chooses what was searched for, and goes on with it only then.
	await done('new material');
	await page.getByRole('dialog', { name: 'New material' }).getByLabel('Name').fill('Sought');
	await page.getByLabel('Search map sets').fill('silt');
	await page.keyboard.press('Enter');
	await expect(page.getByRole('radio', { name: /^tidal-silt/ })).toBeChecked();
	await page.keyboard.press('Enter');
	await expect(page).toHaveURL(/\/materials\/\d+$/);
	expect((await stored(page, Number(page.url().split('/').at(-1)))).document.layers).toMatchObject([{ set: 'tidal-silt' }]);
	await done('shelf');
	await expect(page.getByRole('link', { name: /^Long wall/ }).first()).toBeVisible();
	await done('open long wall');
	await expect(page).toHaveURL(/\/materials\/\d+$/);
	await expect(page.getByLabel('Name of the material')).toHaveValue(/^Long wall/);
});
