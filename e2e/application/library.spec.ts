import { expect, test, type Page } from './test';
import { fresh, library, open, png, PROJECT, requests, settled } from './bench';

const file = (name: string, buffer: Buffer) => ({ name, buffer, mimeType: 'application/octet-stream' });

/** Imports files as they are guessed. */
async function kept(page: Page, files: ReturnType<typeof file>[]): Promise<void> {
	await page.goto(`/${PROJECT}/maps`);
	await page.getByLabel('Files to import').setInputFiles(files);
	await page.getByRole('button', { name: new RegExp(`^Keep ${files.length} map`) }).click();
	await expect(page.getByRole('region', { name: 'Import review' })).toBeHidden();
}
/** Waves along both diagonals; green points up for 1, down for -1. */
const normals = (green: 1 | -1): Buffer =>
	png(32, 32, (x, y) => {
		const slope = 0.4 * Math.cos(((x + y) * Math.PI) / 8);
		const long = Math.hypot(slope, slope, 1);
		const byte = (v: number): number => Math.round((v / long + 1) * 127.5);
		return [byte(-slope), byte(green * slope), byte(1)];
	});

test('a normal map that points down is told, mended, and its first version comes back', async ({ page }) => {
	await kept(page, [file('ripple_normal.png', normals(-1))]);
	await page.getByLabel('Search maps').fill('ripple/normal');
	await expect(page.getByRole('region', { name: /^Map set/ })).toHaveCount(1);
	await page.getByRole('button', { name: 'Normal of ripple' }).click();
	const inspector = page.getByRole('complementary', { name: 'Map ripple/normal' });
	const findings = inspector.getByRole('region', { name: 'Findings' });
	await expect(findings).toContainText('green channel points down');
	await findings.getByRole('button', { name: 'Flip green' }).click();
	await expect(inspector.getByText('points down')).toBeHidden();
	const versions = inspector.getByRole('region', { name: 'Versions' });
	await expect(versions.getByRole('listitem')).toHaveCount(2);
	await versions.getByRole('button', { name: 'Restore version 1' }).click();
	await expect(findings).toContainText('green channel points down');
	await expect(versions.getByRole('listitem')).toHaveCount(3);
	const map = (await library(page, 'ripple'))?.maps[0];
	expect([map?.number, map?.made]).toEqual([3, 'as version 1']);
});

test('the viewer shows texels, channels, offset and repeated, with the numbers under the pointer', async ({ page }) => {
	await kept(page, [file('quarters_albedo.png', png(4, 4, (x, y) => [x < 2 ? 255 : 0, y < 2 ? 255 : 0, 51]))]);
	await page.getByRole('button', { name: 'Base colour of quarters' }).click();
	const inspector = page.getByRole('complementary', { name: 'Map quarters/base-colour' });
	const canvas = inspector.locator('canvas');
	await expect(inspector.getByText('Loading the texels')).toBeHidden();
	const box = (await canvas.boundingBox())!;
	/** The colour in the middle of a texel, counted from the upper left of the map. */
	const seen = async (x: number, y: number): Promise<number[]> => {
		const side = Math.min(box.width, box.height) / 4;
		const [px, py] = [box.width / 2 + (x - 1.5) * side, box.height / 2 + (y - 1.5) * side];
		await page.mouse.move(box.x + px, box.y + py);
		return canvas.evaluate(
			(element: HTMLCanvasElement, [sx, sy]) => {
				const gl = element.getContext('webgl2')!;
				const out = new Uint8Array(4);
				gl.readPixels(Math.round(sx! * element.width), element.height - Math.round(sy! * element.height), 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, out);
				return [...out.subarray(0, 3)];
			},
			[px / box.width, py / box.height]
		);
	};
	expect(await seen(0, 0)).toEqual([255, 255, 51]);
	await expect(inspector).toContainText('0, 0');
	await expect(inspector).toContainText('stored 255 255 51 255');
	await expect(inspector).toContainText('linear 1.000  1.000  0.033');
	expect(await seen(3, 0)).toEqual([0, 255, 51]);
	await inspector.getByRole('button', { name: 'Offset by half' }).click();
	expect(await seen(0, 0)).toEqual([0, 0, 51]);
	await expect(inspector).toContainText('2, 2');
	await inspector.getByRole('button', { name: 'Offset by half' }).click();
	await inspector.getByRole('button', { name: 'B', exact: true }).click();
	expect(await seen(1, 1)).toEqual([51, 51, 51]);
	await inspector.getByRole('button', { name: 'RGB', exact: true }).click();
	await inspector.getByLabel('Mip level').selectOption('2');
	// The mean of the map in linear light: half of the light is 188 of 255.
	const mean = await seen(1, 1);
	for (const [i, wanted] of [188, 188, 51].entries()) expect(Math.abs(mean[i]! - wanted)).toBeLessThanOrEqual(1);
});

test('channels are packed by drag and by keyboard, and a material reads them', async ({ page }) => {
	const grey = (value: number): Buffer => png(16, 16, (x) => [value, value, x]);
	await kept(page, [file('jetty_albedo.png', grey(90)), file('jetty_ao.png', grey(255)), file('jetty_rough.png', grey(153)), file('jetty_height.png', grey(40)), file('jetty_mask.png', png(16, 16, () => [10, 20, 30]))]);
	await page.getByRole('button', { name: 'Pack channels of jetty' }).click();
	const sheet = page.getByRole('dialog');
	// A mask in colours is one in each of its channels.
	for (const [name, count] of [['Mask, G', 1], ['Mask, value', 0], ['Height, G', 0]] as const) await expect(sheet.getByRole('button', { name, exact: true })).toHaveCount(count);
	await expect(sheet.getByRole('button', { name: 'Occlusion, roughness, metallic' })).toBeDisabled();
	await sheet.getByRole('button', { name: 'Occlusion, roughness, height' }).click();
	await expect(sheet).toContainText('3 maps in one: 5 map reads a place before, 3 after.');
	// Roughness goes where height was, turned over; by keyboard.
	await sheet.getByRole('button', { name: 'Roughness, value' }).focus();
	await page.keyboard.press('Enter');
	await sheet.getByRole('button', { name: /^B: Height, put it here/ }).focus();
	await page.keyboard.press('Enter');
	await expect(sheet.getByRole('button', { name: /^B: Roughness/ })).toBeVisible();
	await sheet.getByRole('button', { name: 'Height, value' }).dragTo(sheet.getByRole('button', { name: /^G: Roughness/ }));
	await expect(sheet.getByRole('button', { name: /^G: Height/ })).toBeVisible();
	await sheet.getByLabel('B: roughness or smoothness').selectOption('smoothness');
	await sheet.getByRole('button', { name: 'Make the map' }).click();
	await expect(page.getByRole('button', { name: 'Packed of jetty' })).toBeVisible();
	const set = (await library(page, 'jetty'));
	expect(set?.maps.at(-1)?.channels).toEqual([
		{ role: 'occlusion', channels: 'x', inverted: false },
		{ role: 'height', channels: 'y', inverted: false },
		{ role: 'roughness', channels: 'z', inverted: true }
	]);
	const id = await fresh(page, 'Jetty', 'jetty');
	const { document } = (await (await page.request.get(`/api/materials/${id}`)).json()) as { document: unknown };
	const lowered = (await (await page.request.post(`/api/projects/${PROJECT}/lower`, { data: { document } })).json()) as { maps: object };
	expect(Object.keys(lowered.maps)).toEqual(['jetty/base-colour', 'jetty/packed-ohs']);
});

test('a sheet is drawn over the image, and a cell of it is read', async ({ page }) => {
	await kept(page, [file('stamps_albedo.png', png(16, 16, (x, y) => [x < 8 ? 20 : 220, y < 8 ? 20 : 220, 90]))]);
	await page.getByRole('button', { name: 'Cut stamps into a sheet' }).click();
	const dialog = page.getByRole('dialog', { name: 'Cut stamps into a sheet' });
	await dialog.getByLabel('Columns', { exact: true }).fill('3');
	await expect(dialog).toContainText('Borders do not fall between texels.');
	await dialog.getByRole('button', { name: 'Rectangles with names' }).click();
	const drawing = dialog.getByRole('application');
	const box = (await drawing.boundingBox())!;
	const draw = async (from: [number, number], to: [number, number]): Promise<void> => {
		await page.mouse.move(box.x + from[0] * box.width, box.y + from[1] * box.height);
		await page.mouse.down();
		await page.mouse.move(box.x + to[0] * box.width, box.y + to[1] * box.height, { steps: 4 });
		await page.mouse.up();
	};
	await draw([0.52, 0.02], [0.98, 0.49]);
	await draw([0.02, 0.55], [0.45, 0.95]);
	await dialog.getByLabel('Name of part 1').fill('Lower left');
	// By keyboard: one texel to the right, and a texel wider.
	await drawing.focus();
	await page.keyboard.press('ArrowRight');
	await page.keyboard.press('Shift+ArrowRight');
	await expect(dialog.getByRole('listitem').nth(1)).toContainText('1, 9 · 8 × 6 px');
	// One is added, and measured in pixels; Enter keeps them.
	await dialog.getByRole('button', { name: 'Add a part' }).click();
	for (const [measure, pixels] of [['Left', 12], ['Top', 4], ['Width', 40], ['Height', 2]] as const) await dialog.getByLabel(`${measure} of part 2, in pixels`).fill(String(pixels));
	await dialog.getByLabel('Height of part 2, in pixels').press('Enter');
	await expect(dialog).toBeHidden();
	expect((await library(page, 'stamps'))?.sheet?.rectangles).toEqual([
		{ name: 'Part 1', x: 50, y: 0, width: 50, height: 50 },
		{ name: 'Lower left', x: 6.25, y: 56.25, width: 50, height: 37.5 },
		{ name: 'Part 3', x: 75, y: 25, width: 25, height: 12.5 }
	]);

	const id = await fresh(page, 'Stamped', 'stamps');
	await open(page, id);
	await page.getByRole('button', { name: 'Insert a step at the end' }).click();
	await page.getByRole('dialog').getByRole('button', { name: /^Cell / }).click();
	const values = page.getByRole('region', { name: 'Values' });
	// The parts are those of the sheet on its lane.
	await expect(values.getByRole('combobox', { name: 'Sheet', exact: true })).toHaveValue('stamps');
	await expect(page.getByTestId('sentence')).toContainText('part 0 of stamps');
	await settled(page);
	expect(await page.evaluate(() => (window.riltaStage as unknown as { program: { lowered: { problems: unknown[] } } }).program.lowered.problems)).toEqual([]);
});

test('sampling is chosen in words and kept', async ({ page }) => {
	await kept(page, [file('grating_albedo.png', png(8, 8, (x) => [x * 30, 60, 60]))]);
	await page.getByRole('button', { name: 'Base colour of grating' }).click();
	const sampling = page.getByRole('complementary', { name: 'Map grating/base-colour' }).getByRole('region', { name: 'Sampling' });
	await sampling.getByLabel('Between texels').selectOption('Sharp texels');
	await sampling.getByLabel('Beyond, down').selectOption('Hold the edge');
	await sampling.getByLabel('Smaller levels in the distance').uncheck();
	await expect.poll(async () => (await library(page, 'grating'))?.maps[0]?.sampling).toEqual({ filter: 'sharp', mips: false, anisotropy: 1, wrapU: 'repeat', wrapV: 'edge' });
	// The stage reads it so: neither mixed nor from smaller levels.
	const id = await fresh(page, 'Grating', 'grating');
	await open(page, id);
	const array = await page.evaluate(() => (window.riltaStage as unknown as { program: { lowered: { arrays: { sampling: unknown }[] } } }).program.lowered.arrays[0]?.sampling);
	expect(array).toEqual({ filter: 'sharp', mips: false, anisotropy: 1, wrapU: 'repeat', wrapV: 'edge' });
});

test('taking out a map that is used asks, and can be taken back', async ({ page }) => {
	await kept(page, [file('buoy_albedo.png', png(8, 8, () => [200, 40, 30])), file('buoy_rough.png', png(8, 8, () => [99, 99, 99]))]);
	await fresh(page, 'Buoy', 'buoy');
	await page.reload();
	const set = page.getByRole('region', { name: 'Map set buoy' });
	await expect(set).toContainText('used by 1 material');
	await set.getByRole('button', { name: 'Roughness of buoy' }).click();
	await page.getByRole('button', { name: 'Delete buoy/roughness' }).click();
	const sheet = page.getByRole('dialog', { name: 'Take out buoy/roughness?' });
	await expect(sheet).toContainText('A material reads this set: Buoy.');
	await sheet.getByRole('button', { name: 'Take it out' }).click();
	await expect(set.getByText('no roughness')).toBeVisible();
	await page.getByRole('button', { name: 'Bring it back' }).click();
	await expect(set.getByRole('button', { name: 'Roughness of buoy' })).toBeVisible();
});

test('what a set lacks is made from what it has', async ({ page }) => {
	await kept(page, [file('dune_height.png', png(16, 16, (x) => { const v = Math.round(127 + 120 * Math.sin((x * Math.PI) / 8)); return [v, v, v]; })), file('dune_albedo.png', png(16, 16, (x) => [x * 15, x * 15, x * 15]))]);
	const set = page.getByRole('region', { name: 'Map set dune' });
	await set.getByRole('button', { name: 'Height of dune' }).click();
	await page.getByRole('region', { name: 'Make from it' }).getByRole('button', { name: 'Occlusion' }).click();
	await expect(set.getByRole('button', { name: 'Occlusion of dune' })).toBeVisible();
	await set.getByRole('button', { name: 'Make it from height' }).click();
	await expect(set.getByRole('button', { name: 'Normal of dune' })).toBeVisible();
	await set.getByRole('button', { name: 'Make it from base colour' }).click();
	await expect(set.getByRole('button', { name: 'Roughness of dune' })).toBeVisible();
	await expect(set.getByText(/^no /)).toBeHidden();
	const maps = (await library(page, 'dune'))?.maps;
	expect(maps?.map((map) => [map.role, map.made])).toEqual([
		['height', ''], ['base-colour', ''], ['occlusion', 'made from height'], ['normal', 'made from height'], ['roughness', 'made from base colour']
	]);
});

test('a file is left out while it is being sent, and what is discarded is never kept', async ({ page }) => {
	await page.goto(`/${PROJECT}/maps`);
	await page.route('**/uploads', async (route) => {
		if ((route.request().postDataBuffer() ?? Buffer.alloc(0)).includes('slow.png')) await new Promise((resolve) => setTimeout(resolve, 3000));
		await route.continue().catch(() => {});
	});
	await page.getByLabel('Files to import').setInputFiles([file('slow.png', png(8, 8, () => [1, 2, 3])), file('quick_rough.png', png(8, 8, () => [9, 9, 9]))]);
	const review = page.getByRole('region', { name: 'Import review' });
	await expect(review.getByLabel('Role of quick_rough.png')).toHaveValue('roughness');
	await review.getByRole('button', { name: 'Leave out slow.png' }).click();
	await expect(review.getByRole('row')).toHaveCount(2);
	await expect(review.getByRole('list', { name: 'Refused files' })).toBeHidden();
	const heard = requests(page);
	await review.getByRole('button', { name: 'Discard' }).click();
	await expect(review).toBeHidden();
	// Whether names look alike may still be asked; nothing is kept.
	expect(heard().filter((one) => one.method() !== 'GET' && !one.url().endsWith('/alternates'))).toEqual([]);
});

test('large maps are mended by the workers, with progress, and can be given up', async ({ page }) => {
	const wide = (name: string, shift: number) => file(name, png(1280, 1280, (x, y) => [(x + shift) % 256, y % 256, 90]));
	await kept(page, [wide('bluff_albedo.png', 0), wide('bluff_mask.png', 40)]);
	await page.getByRole('button', { name: 'Base colour of bluff' }).click();
	const inspector = page.getByRole('complementary', { name: 'Map bluff/base-colour' });
	const work = page.getByRole('list', { name: 'Work in the background' });
	await inspector.getByRole('button', { name: 'Make seamless by a cut' }).last().click();
	await expect(work).toContainText('Make seamless by a cut: bluff/base-colour');
	await work.getByRole('button', { name: 'Cancel' }).click();
	await expect(page.getByText('It was cancelled.')).toBeVisible();
	expect((await library(page, 'bluff'))?.maps.map((map) => map.number)).toEqual([1, 1]);
	await inspector.getByRole('button', { name: 'Invert', exact: true }).last().click();
	await expect(inspector.getByRole('region', { name: 'Versions' }).getByRole('listitem')).toHaveCount(2);
	await expect(work).toBeHidden();
	expect((await library(page, 'bluff'))?.maps.map((map) => map.number)).toEqual([2, 1]);
});

test('tags that are typed one after the other are all kept, searched for, and taken off', async ({ page }) => {
	await kept(page, [file('slate_albedo.png', png(8, 8, () => [90, 95, 99]))]);
	await page.getByLabel('Search maps').fill('slate/base-colour');
	const set = page.getByRole('region', { name: 'Map set slate' });
	const held: (() => void)[] = [];
	await page.route('**/api/sets/*', async (route) => {
		if (route.request().method() === 'PATCH' && held.length === 0) await new Promise<void>((go) => held.push(go));
		await route.continue();
	});
	const field = set.getByLabel('Tag slate');
	for (const one of ['roof', 'dark']) {
		await field.fill(one);
		await field.press('Enter');
	}
	await expect(set.getByTitle(/^Search for/)).toHaveText(['roof', 'dark']);
	const stored = page.waitForResponse((response) => response.request().method() === 'PATCH' && response.request().postData()!.includes('dark'));
	held[0]?.();
	await stored;
	await page.unrouteAll({ behavior: 'wait' });
	await page.reload();
	await page.getByLabel('Search maps').fill('slate/base-colour');
	await expect(set.getByTitle(/^Search for/)).toHaveText(['roof', 'dark']);
	await set.getByTitle('Search for dark').click();
	await expect(page.getByLabel('Search maps')).toHaveValue('dark');
	for (const one of ['dark', 'roof']) {
		await set.getByLabel(`Take the tag ${one} off slate`).click();
		await page.getByLabel('Search maps').fill('slate/base-colour');
		await expect(set.getByTitle(`Search for ${one}`)).toBeHidden();
	}
});
