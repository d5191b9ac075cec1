import { NodeIO } from '@gltf-transform/core';
import { KHRMaterialsEmissiveStrength, KHRMaterialsVariants, type EmissiveStrength } from '@gltf-transform/extensions';
import { expect, test, type Page } from './test';
import { validateBytes } from 'gltf-validator';
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { judgedOn, made, open, plain, PROJECT, shelf } from './bench';

const named = async (page: Page, name: string): Promise<number> => (await shelf(page)).find((one) => one.name === name)!.id;

test('what is handed over is read, saved, and follows the document', async ({ page }) => {
	await open(page, await named(page, 'Sea wall'));
	await page.getByRole('button', { name: 'Output', exact: true }).click();
	await page.getByRole('radio', { name: 'Code' }).check({ force: true });
	const code = page.getByLabel('The code', { exact: true });
	await expect(code).toContainText('SeaWallMaterial seaWallMaterial(SeaWallSurface s, SeaWallReady ready)');
	const told = page.getByRole('region', { name: 'What the code needs' });
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

test('layers are looked up at many points, from a file and from the stage, as the command line tells them', async ({ page }) => {
	await open(page, await named(page, 'Quay paving'));
	await page.getByRole('button', { name: 'Output', exact: true }).click();
	await page.getByRole('radio', { name: 'Points' }).check({ force: true });
	const board = page.getByRole('region', { name: 'Layers at points' });
	const points = board.getByRole('textbox', { name: 'Points' });
	await expect(board.getByRole('button', { name: 'Save as CSV' })).toBeDisabled();
	await points.fill('0, 0, 0\n3.2, x, 1.7');
	await expect(board.getByRole('alert')).toHaveText('Line 2: expected 3 numbers, or 6 with a direction, found “3.2, x, 1.7”.');
	await board.getByLabel('A file of points').setInputFiles({ name: 'points.csv', mimeType: 'text/csv', buffer: Buffer.from('x,y,z\n0,0,0\n3.2,0,1.7\n-5,0,2.25,0,1,0\n') });
	const rows = board.getByRole('region', { name: 'What lies there' }).getByRole('row');
	await expect(rows).toHaveCount(4);
	const told = JSON.parse(execFileSync('bin/rilta', ['at', 'demo/materials/quay.json', '--at', '0,0,0', '--at', '3.2,0,1.7', '--at=-5,0,2.25', '--format', 'json'], { encoding: 'utf8' })) as { layers: { name: string }[]; weights: number[][] };
	expect(await rows.first().getByRole('columnheader').allTextContents()).toEqual(['Point, m', ...told.layers.map((one) => one.name)]);
	for (const [i, of] of told.weights.entries()) expect(await rows.nth(i + 1).getByRole('cell').allTextContents()).toEqual(of.map((share) => `${(100 * share).toFixed(1)} %`));
	await expect(page.getByRole('region', { name: 'What lies at all points' })).toContainText(`Points${told.weights.length}`);
	const saving = page.waitForEvent('download');
	await board.getByRole('button', { name: 'Save as CSV' }).click();
	const file = await saving;
	expect(file.suggestedFilename()).toBe('quayPaving-layers.csv');
	const lines = readFileSync(await file.path(), 'utf8').trim().split('\n').map((line) => line.split(','));
	expect(lines[2]!.slice(0, 3)).toEqual(['3.2', '0', '1.7']);
	for (const [layer, share] of told.weights[1]!.entries()) expect(Number(lines[2]![3 + layer])).toBeCloseTo(share, 6);
	// Another direction is another surface; the point that is clicked comes with its own.
	await board.getByLabel('Others face').selectOption('+X');
	await expect(rows).toHaveCount(4);
	const stage = (await page.locator('canvas').first().boundingBox())!;
	await page.mouse.click(stage.x + stage.width / 2, stage.y + stage.height * 0.7);
	await expect(board.getByRole('button', { name: 'The clicked point' })).toBeEnabled();
	await board.getByRole('button', { name: 'The clicked point' }).click();
	expect((await points.inputValue()).trim().split('\n').at(-1)!.split(', ')).toHaveLength(6);
	await expect(rows).toHaveCount(5);
});

test('a prefix that is none is said, and nothing is lost', async ({ page }) => {
	await open(page, await named(page, 'Sea wall'));
	await page.getByRole('button', { name: 'Output', exact: true }).click();
	await page.getByRole('radio', { name: 'Code' }).check({ force: true });
	const told = page.getByRole('region', { name: 'What the code needs' });
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
	await page.getByRole('radio', { name: 'Code' }).check({ force: true });
	const told = page.getByRole('region', { name: 'What the code needs' });
	await expect(told).toContainText('seaWall.glsl');
	await page.route('**/code', (route) => route.fulfill({ status: 503, contentType: 'application/problem+json', body: '{"title":"Busy","status":503,"detail":"Too much to do at once."}' }));
	await page.getByLabel('WGSL').check();
	await expect(told.getByRole('alert')).toHaveText('Too much to do at once.');
	await page.unroute('**/code');
	await expect(told).toContainText('seaWall.wgsl');
	await expect(told.getByRole('alert')).toHaveCount(0);
});

test('a material is delivered, looked at by parts, and taken as one file; a profile of the own says what comes', async ({ page }) => {
	const id = await made(page, plain('Handed', [0.6, 0.2, 0.1]));
	await open(page, id);
	await page.getByRole('button', { name: 'Output', exact: true }).click();
	const board = page.getByRole('region', { name: 'Deliveries' });
	await expect(board).toContainText('Nothing of this material was delivered yet');
	// A profile of the project's own, by copying; what is wrong in it is said where it is.
	await page.getByLabel('Profile', { exact: true }).selectOption('images');
	await page.getByRole('button', { name: 'Copy the profile' }).click();
	const sheet = page.getByRole('dialog');
	const name = `Ferry ${Date.now()}`;
	await sheet.getByLabel('Name', { exact: true }).fill(name);
	await sheet.getByLabel('Pixels a side').selectOption('64');
	await sheet.getByLabel('Files', { exact: true }).selectOption('ktx2-blocks');
	await expect(sheet.getByLabel('With its variants')).toHaveCount(0);
	await sheet.getByLabel('On a mesh, as GLB').selectOption('cube');
	await sheet.getByLabel('With its variants').check();
	await sheet.getByLabel('Names', { exact: true }).fill('{material}');
	await sheet.getByRole('button', { name: 'Keep' }).click();
	await expect(sheet.getByRole('alert')).toContainText('expected {role} in it');
	await sheet.getByLabel('Names', { exact: true }).fill('ferry_{material}_{variant}_{role}');
	await expect(sheet.getByTestId('example')).toContainText('ferry_handed_wet_roughness.ktx2');
	// What goes into light lies in one image, and colours in a larger one than the rest; a colour's parts stay together.
	await sheet.getByRole('button', { name: 'Add a packed image' }).click();
	await sheet.getByLabel('Name of the packed image').fill('light');
	await sheet.getByLabel('Alpha', { exact: true }).selectOption({ label: '1 − roughness' });
	await sheet.getByText('Other sizes').click();
	await sheet.getByLabel('In memory, MiB').fill('0.01');
	await sheet.getByLabel('Blue', { exact: true }).selectOption({ label: 'base colour red' });
	await sheet.getByRole('button', { name: 'Keep' }).click();
	await expect(sheet.getByRole('alert')).toContainText('colours are encoded together');
	await sheet.getByLabel('Blue', { exact: true }).selectOption({ label: 'metallic' });
	await sheet.getByLabel('Size of base-colour').selectOption('128');
	await sheet.getByRole('button', { name: 'Keep' }).click();
	await expect(sheet).toBeHidden();
	await expect(page.getByRole('list', { name: 'What the profile brings' })).toContainText('Packed as light: occlusion, roughness, metallic, 1 − roughness');
	await expect(page.getByRole('list', { name: 'What the profile brings' })).toContainText('as GLB, with its variants');
	await expect(page.getByLabel('Profile', { exact: true }).locator('option:checked')).toHaveText(name);
	// It is made by the workers, and lies there.
	await page.getByRole('button', { name: 'Deliver', exact: true }).click();
	await expect(board.getByRole('row', { name: /ferry_handed_base-colour\.ktx2/ })).toBeVisible();
	await expect(board.getByRole('row', { name: /ferry_handed_(roughness|occlusion)\.ktx2/ })).toHaveCount(0);
	await expect(page.getByRole('region', { name: 'What came out' }).getByRole('alert')).toContainText('MiB in memory, and 0.01 MiB are wanted at most');
	const light = await page.evaluate(async (): Promise<number[]> => {
		const list = (await (await fetch('/api/projects/ebbwater-station/deliveries?material=' + location.pathname.split('/').pop())).json()) as { files: { path: string; url: string; picture?: { width: number } }[] }[];
		return ['light', 'base-colour', 'normal'].map((role) => list[0]!.files.find((one) => one.path.endsWith(`_${role}.ktx2`))!.picture!.width);
	});
	expect(light).toEqual([64, 128, 64]);
	await board.getByRole('button', { name: 'textures/ferry_handed_base-colour.ktx2' }).click();
	// How far it is off stands beside it, as the manifest has it; the stage shows the same channel.
	const off = await page.evaluate(async () => {
		const list = (await (await fetch('/api/projects/ebbwater-station/deliveries?material=' + location.pathname.split('/').pop())).json()) as { files: { path: string; picture?: { off: { mean: number; within: number } } }[] }[];
		return list[0]!.files.find((one) => one.path.endsWith('_base-colour.ktx2'))!.picture!.off;
	});
	const figure = (x: number): string => (x === 0 ? '0' : x < 0.05 ? '< 0.1' : x.toFixed(1));
	// One colour, in blocks: what is off is how it is rounded.
	expect(off.within).toBeLessThan(1.5);
	await expect(board.getByRole('row', { name: /ferry_handed_base-colour\.ktx2/ }).getByRole('cell').nth(2)).toHaveText(off.mean === 0 && off.within === 0 ? '0' : `${figure(off.mean)}, within ${figure(off.within)}`);
	await board.getByRole('button', { name: 'On the stage' }).click();
	await expect(page.getByLabel('View', { exact: true })).toHaveValue('base-colour');
	const picture = board.getByRole('figure').locator('canvas');
	await expect(picture).toHaveAttribute('data-drawn', 'true');
	// What a device unpacks, against what the material says: colours of documents and of files are on the curve of sRGB.
	const middle = async (): Promise<number[]> => {
		const image = await picture.screenshot();
		return page.evaluate(async (bytes) => {
			const bitmap = await createImageBitmap(await (await fetch(`data:image/png;base64,${bytes}`)).blob());
			const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
			const context = canvas.getContext('2d')!;
			context.drawImage(bitmap, 0, 0);
			return [...context.getImageData(bitmap.width >> 1, bitmap.height >> 1, 1, 1).data.slice(0, 3)];
		}, image.toString('base64'));
	};
	const stored = [0.6, 0.2, 0.1].map((x) => 255 * x);
	const near = (found: number[], wants: number[]) => found.every((one, i) => Math.abs(one - wants[i]!) <= 3);
	expect(near(await middle(), stored), `${await middle()} for ${stored}`).toBe(true);
	await board.getByRole('figure').getByText('G', { exact: true }).click();
	expect(near(await middle(), [stored[1]!, stored[1]!, stored[1]!]), `${await middle()}`).toBe(true);
	// Once more: nothing has changed, and that is told.
	await page.getByRole('button', { name: 'Deliver', exact: true }).click();
	await expect(board.getByRole('listitem').first()).toContainText('unchanged since then');
	await expect(page.getByRole('region', { name: 'What came out' })).toContainText('Nothing that it follows from had changed');
	const [download] = await Promise.all([page.waitForEvent('download'), board.getByRole('link', { name: /as a ZIP$/ }).first().click()]);
	expect(download.suggestedFilename()).toMatch(/^handed-own-\d+(-\d+)?\.zip$/);
	// The profile goes; what was delivered stays.
	await page.getByRole('button', { name: 'Delete the profile' }).click();
	await expect(page.getByLabel('Profile', { exact: true }).locator('option', { hasText: name })).toHaveCount(0);
	await expect(board.getByRole('listitem')).toHaveCount(2);
	await board.getByRole('button', { name: /^Throw .* away$/ }).first().click();
	await expect(board.getByRole('listitem')).toHaveCount(1);
});

test('several materials are delivered at once, and a delivery that failed says why and is tried again', async ({ page }) => {
	const [one, other] = [await made(page, plain('Handed first', [0.5, 0.5, 0.5])), await made(page, plain('Handed second', [0.5, 0.5, 0.5]))];
	let broken = true;
	await page.route(/\/api\/projects\/[^/]+\/deliveries\?material=/, async (route) => {
		const list = (await (await route.fetch()).json()) as Record<string, unknown>[];
		await route.fulfill({ json: list.map((found) => (broken ? { ...found, state: 'failed', failure: 'There was no room.', archive: null, files: [] } : found)) });
	});
	await open(page, one);
	await page.getByRole('button', { name: 'Output', exact: true }).click();
	await page.getByLabel('Profile', { exact: true }).selectOption('renderer');
	// A lost connection is said, and stays said.
	await page.route(/\/deliveries$/, (route) => route.abort());
	await page.getByRole('button', { name: 'Deliver', exact: true }).click();
	await expect(page.getByText('It cannot be delivered')).toBeVisible();
	await page.waitForTimeout(1500);
	await expect(page.getByText('It cannot be delivered')).toBeVisible();
	await page.unroute(/\/deliveries$/);
	await page.getByRole('button', { name: 'Several materials …' }).click();
	const sheet = page.getByRole('dialog');
	await sheet.getByLabel('Handed first', { exact: true }).last().check();
	await sheet.getByLabel('Handed second', { exact: true }).last().check();
	await sheet.getByRole('button', { name: 'Deliver 2' }).click();
	const board = page.getByRole('region', { name: 'Deliveries' });
	await expect(board.getByRole('alert')).toHaveText('There was no room.');
	broken = false;
	await board.getByRole('button', { name: /^Try .* again$/ }).click();
	await expect(board.getByRole('row', { name: /code\/handedFirst\.hlsl / })).toBeVisible();
	await expect.poll(async () => ((await (await page.request.get(`/api/projects/${PROJECT}/deliveries?material=${other}`)).json()) as { state: string }[]).map((found) => found.state)).toEqual(['done']);
});

test('what is seen on a stage becomes one GLB with what it wears, variants and light above 1, which others read', async ({ page }) => {
	const other = await made(page, plain('Worn apart', [0.1, 0.6, 0.1]));
	const lamp = plain('Baked together', [0.8, 0.2, 0.1]);
	lamp.layers[0]!.finish!.values = { ...lamp.layers[0]!.finish!.values, glow: [1, 0.5, 0], glowStrength: 300 };
	const id = await made(page, {
		...lamp,
		parameters: [{ id: 'paint', name: 'Paint', kind: 'colour', value: [0.8, 0.2, 0.1] }],
		layers: [{ ...lamp.layers[0]!, finish: { values: { ...lamp.layers[0]!.finish!.values, tint: { parameter: 'paint' } } } }],
		variants: [{ id: 'blue', name: 'Blue', values: { paint: [0.1, 0.2, 0.8] } }]
	} as never);
	const object = { turn: [0, 0, 0], scale: [1, 1, 1], seed: 1, value: 0 } as const;
	await judgedOn(page, id, {
		objects: [
			{ ...object, id: 'a', name: 'First', mesh: 'cube', position: [-1, 0, 0], sections: [{ section: 'Top', wears: other }] },
			{ ...object, id: 'b', name: 'Second', mesh: 'sphere', position: [1, 0, 0] },
			{ ...object, id: 'c', name: 'Unseen', mesh: 'cube', position: [3, 0, 0], hidden: true }
		]
	} as never);
	await open(page, id);
	await page.getByRole('button', { name: 'Output', exact: true }).click();
	await page.getByRole('button', { name: 'Bake …' }).click();
	const sheet = page.getByRole('dialog');
	await sheet.getByLabel('Over', { exact: true }).selectOption({ label: 'All that is seen on the stage: 2' });
	await sheet.getByLabel('Pixels a side').selectOption('64');
	await sheet.getByRole('checkbox', { name: 'Blue' }).check();
	await sheet.getByRole('button', { name: 'Bake', exact: true }).click();
	// Five sides in two ways, the sixth as it is; the sphere in two.
	await expect(page.getByTestId('bake-facts')).toContainText(/2 objects with 13 baked surfaces of 64 × 64 px, as one GLB file of .* MiB, which can be switched to Blue/);
	await expect(sheet).toContainText('glTF cannot say');
	const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'All files as a ZIP' }).click()]);
	const bytes = new Uint8Array(execFileSync('unzip', ['-p', await download.path(), '*.glb'], { maxBuffer: 1 << 26 }));
	const { issues } = await validateBytes(bytes, { maxIssues: 20 });
	expect([issues.numErrors, issues.numWarnings], JSON.stringify(issues.messages)).toEqual([0, 0]);
	const root = (await new NodeIO().registerExtensions([KHRMaterialsVariants, KHRMaterialsEmissiveStrength]).readBinary(bytes)).getRoot();
	expect(root.listNodes().map((node) => [node.getName(), node.getTranslation()])).toEqual([['First', [-1, 0, 0]], ['Second', [1, 0, 0]]]);
	const worn = root.listMeshes()[0]!.listPrimitives().map((one) => [one.getMaterial()!.getName(), one.getExtension('KHR_materials_variants') !== null]);
	expect(worn.filter(([name]) => name === 'Worn apart')).toEqual([['Worn apart', false]]);
	expect(worn.filter(([name, variants]) => name === 'Baked together' && variants)).toHaveLength(5);
	const strength = root.listMaterials().map((one) => one.getExtension<EmissiveStrength>('KHR_materials_emissive_strength')?.getEmissiveStrength());
	expect(Math.max(...strength.map((one) => one ?? 0))).toBeCloseTo(3, 2);
});
