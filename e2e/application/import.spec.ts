import { expect, test } from './test';
import { library, pixel, png, project, PROJECT, settled } from './bench';

test('a map set is looked at, corrected and kept; what is no map is refused by name', async ({ page }) => {
	await page.goto(`/${PROJECT}/maps`);
	// JPEG comes from the browser itself.
	const jpeg = await page.evaluate(async () => {
		const canvas = new OffscreenCanvas(64, 64);
		const context = canvas.getContext('2d')!;
		context.fillStyle = 'rgb(150,120,90)';
		context.fillRect(0, 0, 64, 64);
		const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.95 });
		return [...new Uint8Array(await blob.arrayBuffer())];
	});
	const wide = png(4, 4, () => [0, 0, 0]);
	wide.writeUInt32BE(9000, 16);
	const file = (name: string, buffer: Buffer) => ({ name, buffer, mimeType: 'application/octet-stream' });
	await page.getByLabel('Files to import').setInputFiles([
		file('Marsh_Clay_BaseColor.jpg', Buffer.from(jpeg)),
		file('Marsh_Clay_Normal.png', png(64, 64, () => [128, 128, 255])),
		file('Marsh_Clay_Roughness.png', png(64, 64, () => [200, 200, 200])),
		file('Marsh_Clay_AO.png', png(32, 32, () => [255, 255, 255])),
		file('Marsh_Clay_thing.png', png(64, 64, (x) => [x * 4, x * 4, x * 4])),
		file('readme.txt', Buffer.from('These are the maps.')),
		file('panorama.png', wide)
	]);
	const review = page.getByRole('region', { name: 'Import review' });
	await expect(review.getByRole('row')).toHaveCount(6);
	await expect(review.getByLabel('Role of Marsh_Clay_Normal.png')).toHaveValue('normal');
	await expect(review.getByLabel('Encoding of Marsh_Clay_BaseColor.jpg')).toHaveValue('colour');
	await expect(review.getByLabel('Encoding of Marsh_Clay_Roughness.png')).toHaveValue('data');
	await expect(review.getByText('"ao" in the name')).toBeVisible();
	const refused = review.getByRole('list', { name: 'Refused files' });
	await expect(refused).toContainText('readme.txt is no PNG, JPEG, WebP or TGA image.');
	await expect(refused).toContainText('panorama.png has 9000 x 4 pixels; a map may have 4096 a side.');

	// The name said nothing of the last one: it is a height, and belongs to the others.
	await review.getByLabel('Role of Marsh_Clay_thing.png').selectOption('height');
	await expect(review.getByLabel('Encoding of Marsh_Clay_thing.png')).toHaveValue('data');
	await review.getByLabel('Set of Marsh_Clay_thing.png').fill('marsh-clay');
	await review.getByLabel('Extent of marsh-clay in metres').fill('1.25');
	await review.getByRole('button', { name: 'Keep 5 maps' }).click();

	const set = page.getByRole('region', { name: 'Map set marsh-clay' });
	await expect(set.getByRole('button', { name: /(colour|Normal|Roughness|Occlusion|Height) of marsh-clay$/ })).toHaveCount(5);
	await expect(set.getByLabel('Pixels per metre of marsh-clay')).toHaveValue('51.2');
	// One is smaller than the others: it is kept, told, and mended from where it is told.
	await set.getByRole('button', { name: 'Occlusion of marsh-clay' }).click();
	const inspector = page.getByRole('complementary', { name: 'Map marsh-clay/occlusion' });
	await expect(inspector).toContainText('Marsh_Clay_AO.png has 32 x 32 pixels; the set has 64 x 64.');
	await inspector.getByRole('region', { name: 'Findings' }).getByRole('button', { name: 'Resample' }).click();
	await expect(inspector).toContainText('64 × 64 · 8 bit');
	await expect(inspector.getByRole('region', { name: 'Findings' })).not.toContainText('32 x 32');
	await set.getByLabel('Pixels per metre of marsh-clay').fill('32');
	await set.getByLabel('Pixels per metre of marsh-clay').blur();
	await expect(set.getByLabel('Metres that one repeat of marsh-clay covers')).toHaveValue('2');
	await set.getByLabel('Metres that one repeat of marsh-clay covers').fill('0');
	await set.getByLabel('Metres that one repeat of marsh-clay covers').blur();
	await expect(page.getByText('marsh-clay keeps its extent')).toBeVisible();
	await expect(set.getByLabel('Metres that one repeat of marsh-clay covers')).toHaveValue('2');
	const stored = (await library(page, 'marsh-clay'));
	expect(stored?.extent).toBe(2);
	expect(stored?.maps.map((map) => map.role)).toEqual(['base-colour', 'normal', 'roughness', 'occlusion', 'height']);
});

test('files can be dropped on the page', async ({ page }) => {
	await page.goto(`/${PROJECT}/maps`);
	await expect(page.getByText('px/m').first()).toBeVisible();
	const bytes = [...png(16, 16, () => [90, 100, 80])];
	const transfer = await page.evaluateHandle((data) => {
		const transfer = new DataTransfer();
		transfer.items.add(new File([new Uint8Array(data)], 'weed_albedo.png', { type: 'image/png' }));
		return transfer;
	}, bytes);
	await page.getByRole('main').dispatchEvent('drop', { dataTransfer: transfer });
	await expect(page.getByLabel('Set of weed_albedo.png')).toHaveValue('weed');
	await page.getByRole('button', { name: 'Discard' }).click();
	await expect(page.getByRole('region', { name: 'Import review' })).toBeHidden();
	expect((await project(page)).sets.some((one) => one.name === 'weed')).toBe(false);
});

test('a file that the library has already need not come twice', async ({ page }) => {
	const same = png(16, 16, (x, y) => [4 * x, 4 * y, 77]);
	const bring = (name: string) => page.getByLabel('Files to import').setInputFiles([{ name, mimeType: 'image/png', buffer: same }]);
	await page.goto(`/${PROJECT}/maps`);
	await bring('shingle_albedo.png');
	await page.getByRole('button', { name: /^Keep 1 map/ }).click();
	await expect(page.getByRole('region', { name: 'Map set shingle' })).toBeVisible();
	await bring('pebbles_basecolor.png');
	const review = page.getByRole('region', { name: 'Import review' });
	await expect(review).toContainText('In the library already, as shingle/base-colour.');
	await review.getByRole('button', { name: 'Use shingle/base-colour instead of pebbles_basecolor.png' }).click();
	await expect(review).toBeHidden();
	expect((await project(page)).sets.some((one) => one.name === 'pebbles')).toBe(false);
});

test('a set goes from the review straight to the stage, and a second stage takes the canvas over', async ({ page }) => {
	await page.goto(`/${PROJECT}/maps`);
	const file = (name: string, buffer: Buffer) => ({ name, buffer, mimeType: 'image/png' });
	await page.getByLabel('Files to import').setInputFiles([
		file('Kelp_Matting_BaseColor.png', png(64, 64, () => [30, 190, 60])),
		file('Kelp_Matting_Roughness.png', png(64, 64, () => [230, 230, 230]))
	]);
	const review = page.getByRole('region', { name: 'Import review' });
	await review.getByRole('button', { name: 'Keep, then to the stage' }).click();
	await expect(page.getByLabel('Name of the material')).toHaveValue('Kelp matting');
	await settled(page);
	const green = await pixel(page, 300, 300);
	expect(green[1]!).toBeGreaterThan(green[0]! + 20);

	// Back in the library, another set goes the same way; the stage is another, drawn into the same canvas.
	const canvas = await page.evaluate(() => { const one = window.riltaStage!.renderer.domElement; one.dataset.kept = 'yes'; return one.isConnected; });
	expect(canvas).toBe(true);
	await page.getByRole('link', { name: 'Maps' }).click();
	expect(await page.evaluate(() => window.riltaStage === undefined)).toBe(true);
	await page.getByLabel('Search maps').fill('patinated-copper');
	await page.getByRole('button', { name: 'New material on patinated-copper' }).click();
	await expect(page.getByLabel('Name of the material')).toHaveValue('Patinated copper');
	await settled(page);
	expect(await page.evaluate(() => window.riltaStage!.renderer.domElement.dataset.kept)).toBe('yes');
	const other = await pixel(page, 300, 300);
	expect(Math.hypot(...other.map((value, i) => value - green[i]!))).toBeGreaterThan(20);
	await expect(page.getByRole('alert')).toHaveCount(0);
});
