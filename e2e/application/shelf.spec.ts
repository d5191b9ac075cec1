import AxeBuilder from '@axe-core/playwright';
import { expect, test } from './test';
import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { fresh, open, PROJECT, project, shelf } from './bench';

test('the shelf shows every material as a lit swatch', async ({ page }) => {
	await page.goto('/');
	await page.getByRole('link', { name: /Ebbwater Station/ }).click();
	await expect(page).toHaveURL(new RegExp(`/${PROJECT}$`));
	// Those of the demo; other tests have left some of their own.
	const materials = (await shelf(page)).slice(0, 9);
	expect(materials.map((m) => m.name)).toContain('Observatory roof');
	for (const material of materials) {
		const card = page.getByRole('link', { name: material.name }).first();
		await expect(card).toContainText(material.sentence);
		// A swatch is a picture with something on it, not a blank.
		const swatch = async (): Promise<number> => {
			const answer = await page.request.get(material.swatch);
			// As many as are computed at once are being computed: that is said, and asked again, as the page does.
			if (answer.status() === 503) return 0;
			expect(answer.headers()['content-type']).toBe('image/png');
			return (await answer.body()).length;
		};
		await expect.poll(swatch).toBeGreaterThan(20_000);
	}
	await page.getByRole('link', { name: 'Laboratory wall' }).click();
	await expect(page.getByLabel('Name of the material')).toHaveValue('Laboratory wall');
});

test('a new material is made from a set', async ({ page }) => {
	await page.goto(`/${PROJECT}`);
	await page.getByRole('button', { name: 'New material' }).click();
	await page.getByRole('radio', { name: /basalt-cladding/ }).check();
	await page.getByRole('radio', { name: 'Floor' }).check();
	// Whoever says no name takes what is offered.
	await expect(page.getByLabel('Name')).toHaveAttribute('placeholder', 'Basalt cladding floor');
	await page.getByRole('radio', { name: 'Plain' }).check();
	await page.getByRole('button', { name: 'Create' }).click();
	await expect(page.getByLabel('Name of the material')).toHaveValue('Basalt cladding');
	await expect(page.getByTestId('sentence')).toHaveText('world position, tri-planar → 2.4 m per repeat');
	await expect(page.getByText('3 taps · 12 map reads')).toBeVisible();
});

test('an address that leads nowhere says so', async ({ page }) => {
	await page.goto(`/${PROJECT}/materials/987654`);
	await expect(page.getByText('There is no material 987654.')).toBeVisible();
	await page.goto('/no-such-project');
	await expect(page.getByText('There is no project "no-such-project".')).toBeVisible();
});

test('views pass the checks of WCAG 2.2 AA that a program can make, in both themes', async ({ page }) => {
	// Every view twice, each drawn in software.
	const check = async (): Promise<void> => {
		const found = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze();
		expect(found.violations.map((v) => `${v.id}: ${v.nodes[0]?.html} ${v.nodes[0]?.failureSummary}`)).toEqual([]);
	};
	for (let theme = 0; theme < 2; theme++) {
		await page.goto(`/${PROJECT}`);
		await expect(page.getByRole('link', { name: 'Laboratory wall' })).toBeVisible();
		await check();
		await page.goto('/');
		await expect(page.getByRole('link', { name: /Ebbwater Station/ })).toBeVisible();
		await check();
		await page.goto(`/${PROJECT}/maps`);
		await expect(page.getByText('px/m').first()).toBeVisible();
		await check();
		const materials = await shelf(page);
		await open(page, materials.find((one) => one.name === 'Lamp glass')?.id ?? 0);
		await page.getByRole('button', { name: /^Surface/ }).click();
		await page.getByLabel('Variant shown').selectOption({ label: 'Storm night' });
		await check();
		await page.getByRole('button', { name: 'Table of variants' }).click();
		await expect(page.getByRole('dialog', { name: 'Variants of Lamp glass' })).toBeVisible();
		await check();
		await page.keyboard.press('Escape');
		await page.getByRole('button', { name: 'History' }).click();
		await page.getByRole('list', { name: 'Revisions' }).getByRole('button').first().click();
		await expect(page.getByText('No value differs.')).toBeVisible();
		await check();
		await page.keyboard.press('Escape');
		await page.goto(`/${PROJECT}/recipes/${(await project(page)).recipes[0]?.id ?? 0}`);
		await expect(page.getByRole('slider', { name: 'White at' })).toBeVisible();
		await check();
		await page.getByRole('button', { name: /light|dark/i }).click();
	}
});

test('a material is found, renamed, copied, put into the bin and brought back', async ({ page }) => {
	await fresh(page, 'Sluice gate');
	await page.goto(`/${PROJECT}`);
	const search = page.getByRole('searchbox', { name: 'Search materials' });
	await search.fill('sluice gate');
	const cards = page.getByRole('main').getByRole('listitem');
	await expect(cards).toHaveCount(1);
	const act = async (name: string, what: string): Promise<void> => {
		await page.getByRole('button', { name: `What can be done with ${name}`, exact: true }).click();
		await page.getByRole('menuitem', { name: what }).click();
	};
	await act('Sluice gate', 'Rename …');
	await page.getByRole('dialog').getByLabel('Name').fill('Sluice gate, west');
	await page.getByRole('button', { name: 'Rename', exact: true }).click();
	await expect(page.getByRole('heading', { name: 'Sluice gate, west' })).toBeVisible();
	await act('Sluice gate, west', 'Duplicate');
	await expect(cards).toHaveCount(2);
	await act('Sluice gate, west copy', 'Delete');
	await expect(cards).toHaveCount(1);
	await page.getByRole('button', { name: /^Bin/ }).click();
	await expect(page.getByRole('heading', { name: 'Sluice gate, west copy' })).toBeVisible();
	await page.getByRole('button', { name: 'Bring back', exact: true }).last().click();
	await expect(page.getByRole('heading', { name: 'The bin is empty.' })).toBeVisible();
	await page.getByRole('button', { name: /^Bin/ }).click();
	await expect(cards).toHaveCount(2);
	await search.fill('nothing is called this');
	await expect(page.getByRole('heading', { name: /No material is called that/ })).toBeVisible();
});

test('projects are made, renamed, exported, imported and put into the archive', async ({ page }) => {
	await page.goto('/');
	await page.getByRole('button', { name: 'New project' }).click();
	// Whoever says no name is told that it is missing, and nothing is made.
	await page.getByRole('button', { name: 'Create' }).click();
	await expect(page.getByLabel('Name')).toBeFocused();
	expect(await page.getByLabel('Name').evaluate((field) => (field as HTMLInputElement).validity.valueMissing)).toBe(true);
	await page.getByLabel('Name').fill('Harbour light');
	await page.getByRole('button', { name: 'Create' }).click();
	await expect(page).toHaveURL(/\/harbour-light$/);
	await expect(page.getByText('The shelf is empty.')).toBeVisible();
	await page.goto('/');
	const act = async (what: string): Promise<void> => {
		await page.getByRole('button', { name: 'What can be done with Harbour light' }).first().click();
		await page.getByRole('menuitem', { name: what }).click();
	};
	const download = page.waitForEvent('download');
	await act('Export as one file');
	const file = await (await download).path();
	await page.getByLabel('Project file').setInputFiles({ name: 'harbour-light.zip', mimeType: 'application/zip', buffer: (await import('node:fs')).readFileSync(file) });
	await expect(page.getByRole('heading', { name: 'Harbour light' })).toHaveCount(2);
	await page.getByLabel('Project file').setInputFiles({ name: 'wrong.zip', mimeType: 'application/zip', buffer: Buffer.from('no zip') });
	await expect(page.getByText('wrong.zip was not imported')).toBeVisible();
	await act('Archive');
	await expect(page.getByRole('heading', { name: 'Harbour light' })).toHaveCount(1);
	await page.getByRole('button', { name: 'Archive', exact: true }).click();
	await expect(page.getByRole('heading', { name: 'Harbour light' })).toHaveCount(1);
});

test('the shelf brings no code of the stage; what cannot be fetched later is told', async ({ page }) => {
	const fetched: string[] = [];
	page.on('response', async (response) => { if (response.url().endsWith('.js')) fetched.push(await response.text().catch(() => '')); });
	await page.goto(`/${PROJECT}`);
	await expect(page.getByRole('link', { name: /Long wall run/ })).toBeVisible();
	expect(fetched.length).toBeGreaterThan(0);
	expect(fetched.some((code) => code.includes('WebGLRenderer') || code.includes('webgl2'))).toBe(false);
	expect(fetched.reduce((sum, code) => sum + gzipSync(code).length, 0)).toBeLessThan(150_000);

	await page.route(/assets\/Workbench.*\.js/, (route) => route.abort());
	await page.getByRole('link', { name: /Long wall run/ }).click();
	await expect(page.getByRole('alert')).toContainText('This view could not be fetched');
	await page.unroute(/assets\/Workbench.*\.js/);
	await page.getByRole('button', { name: 'Load the page again' }).click();
	await expect(page.getByRole('region', { name: 'Values' })).toBeVisible();
});

test('a material comes from a glTF file: its textures, how they lie, its factors; what is not read is said', async ({ page }) => {
	const { slug } = (await (await page.request.post('/api/projects', { data: { name: `Ferry ${Date.now()}` } })).json()) as { slug: string };
	await page.goto(`/${slug}`);
	await page.getByRole('button', { name: 'New material' }).first().click();
	const sheet = page.getByRole('dialog');
	const glb = readFileSync(new URL('../../demo/deliveries/lamp-glass-example/lamp-glass.glb', import.meta.url));
	// One that has what is not read here, and one that is broken.
	const gate = { asset: { version: '2.0' }, materials: [{ name: 'Ferry gate', pbrMetallicRoughness: { baseColorFactor: [0.1, 0.2, 0.3, 1] }, extensions: { KHR_materials_clearcoat: {} } }] };
	const choose = (files: { name: string; mimeType: string; buffer: Buffer }[]) => sheet.getByLabel('Files of materials').setInputFiles(files);
	await choose([{ name: 'gate.gltf', mimeType: 'model/gltf+json', buffer: Buffer.from(JSON.stringify(gate)) }, { name: 'broken.gltf', mimeType: 'model/gltf+json', buffer: Buffer.from('{') }]);
	await expect(sheet.getByRole('listitem').filter({ hasText: 'Ferry gate' })).toContainText('Not read: KHR_materials_clearcoat');
	await expect(sheet.getByRole('alert')).toContainText('broken.gltf: expected a glTF file');
	// MaterialX of others, with its image: what it says is computed.
	const image = readFileSync(new URL('../../demo/deliveries/lamp-glass-example/textures/lamp-glass_base-colour.png', import.meta.url));
	const said = `<?xml version="1.0"?><materialx version="1.39"><place2d name="p" type="vector2"><input name="scale" type="vector2" value="0.5, 0.25"/></place2d><tiledimage name="i" type="color3"><input name="file" type="filename" value="hull.png"/><input name="texcoord" type="vector2" nodename="p"/></tiledimage><noise2d name="n" type="float"/><open_pbr_surface name="s" type="surfaceshader"><input name="base_color" type="color3" nodename="i"/><input name="specular_roughness" type="float" nodename="n"/></open_pbr_surface><surfacematerial name="Hull" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/></surfacematerial></materialx>`;
	await choose([{ name: 'hull.mtlx', mimeType: 'application/xml', buffer: Buffer.from(said) }, { name: 'hull.png', mimeType: 'image/png', buffer: image }]);
	const hull = sheet.getByRole('listitem').filter({ hasText: 'Hull' });
	await expect(hull).toContainText('Not read: roughness: "noise2d"');
	const path = (await hull.getByRole('link').getAttribute('href'))!;
	const { document: read } = (await (await page.request.get(`/api/materials/${path.split('/').pop()}`)).json()) as { document: { layers: { set: string }[]; lanes: { steps: { step: string; values: Record<string, unknown> }[] }[] } };
	expect(read.layers[0]!.set).toBe('hull');
	expect(read.lanes[0]!.steps.find((one) => one.step === 'size')?.values).toMatchObject({ countU: 2, countV: 4 });
	await choose([{ name: 'lamp.glb', mimeType: 'model/gltf-binary', buffer: glb }]);
	// One that is read whole opens by itself, on maps of its own.
	await page.waitForURL(/\/materials\/\d+$/);
	const id = Number(new URL(page.url()).pathname.split('/').pop());
	const { document } = (await (await page.request.get(`/api/materials/${id}`)).json()) as { document: { name: string; layers: { set: string }[]; lanes: { steps: { step: string }[] }[] } };
	expect(document.name).toMatch(/^Lamp glass/);
	expect(document.layers[0]!.set).toMatch(/^lamp-glass/);
	expect(document.lanes[0]!.steps.map((one) => one.step)).toEqual(['origin', 'size']);
	await expect(page.getByText('Preparing the stage')).toBeHidden();
});
