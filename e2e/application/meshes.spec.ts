import { expect, test, type Page } from './test';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { OwnMesh, StageDocument } from '../../web/src/api/client';
import { judgedOn, made, on, open, pixel, plain, PROJECT, settled, storedStage } from './bench';

const sample = (name: string): string => fileURLToPath(new URL(`../../core/tests/Format/meshes/${name}`, import.meta.url));
const file = (name: string, content: string | Buffer) => ({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(content) });
/** Another one each time, so that what an earlier run left is not found. */
const tag = Date.now().toString(36);
const values = (page: Page) => page.getByRole('region', { name: 'Values' });
const tray = (page: Page) => page.getByRole('region', { name: 'Meshes' });
const bring = (page: Page, files: Parameters<ReturnType<Page['getByLabel']>['setInputFiles']>[0]) => tray(page).getByLabel('Files of meshes').setInputFiles(files);

const owned = async (page: Page, label: string): Promise<OwnMesh | undefined> => ((await (await page.request.get(`/api/projects/${PROJECT}/meshes`)).json()) as { meshes: OwnMesh[] }).meshes.find((one) => one.label === label);

test('a mesh is brought, its three sections wear three materials, and all is there after a reload', async ({ page }) => {
	const [red, blue, green] = [await made(page, plain('Sealing wax', [0.7, 0.1, 0.1])), await made(page, plain('Ink', [0.1, 0.15, 0.7])), await made(page, plain('Verdigris', [0.1, 0.6, 0.15]))];
	const stage = await judgedOn(page, red, { camera: { position: [17, 2, 7], target: [10.5, 0.8, -1] } });
	await open(page, red);
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	await bring(page, file(`trough ${tag}.glb`, readFileSync(sample('planter.glb'))));
	// One that is brought alone stands on the stage at once, and has a picture.
	await expect(page.getByRole('button', { name: `trough ${tag} trough ${tag}` })).toHaveAttribute('aria-pressed', 'true');
	await expect(tray(page).getByRole('button', { name: `Add: trough ${tag}` })).toBeVisible();
	for (const axis of ['X', 'Y', 'Z']) {
		await values(page).getByRole('spinbutton', { name: `Position ${axis}`, exact: true }).focus();
		await page.keyboard.press('Enter');
		await page.keyboard.press('Control+a');
		await page.keyboard.type('0');
		await page.keyboard.press('Enter');
	}
	await values(page).getByLabel('Rim wears').selectOption(String(blue));
	await values(page).getByLabel('Soil wears').selectOption(String(green));
	await expect.poll(async () => (await storedStage(page, stage)).objects[0]).toMatchObject({ name: `trough ${tag}`, position: [0, 0, 0], sections: [{ section: 'Rim', wears: blue }, { section: 'Soil', wears: green }] });

	const worn = async (): Promise<string> => {
		await settled(page);
		// On the wall, on the rim beside it, and on the bed, which looks to the side.
		const at = async (place: [number, number, number]): Promise<string> => {
			const [r = 0, g = 0, b = 0] = await pixel(page, ...(await on(page, place)));
			return r > 1.5 * Math.max(g, b) ? 'red' : b > 1.5 * Math.max(r, g) ? 'blue' : g > 1.5 * Math.max(r, b) ? 'green' : `${r} ${g} ${b}`;
		};
		return [await at([10.5, 0.75, 0]), await at([11.5, 0.25, 0]), await at([10, 1.5, -1])].join(', ');
	};
	await expect.poll(worn).toBe('red, blue, green');
	await page.reload();
	await expect.poll(worn).toBe('red, blue, green');

	// The probe knows the section under the pointer.
	const [x, y] = await on(page, [11.5, 0.25, 0]);
	const answer = page.waitForResponse((response) => response.url().endsWith('/probe'));
	await page.locator('.stage canvas').click({ position: { x, y } });
	expect(((await (await answer).json()) as { object: { section: string } }).object.section).toBe('Rim');

	// It is left while its fields are open, and the shelf has commands of its own.
	await page.getByRole('complementary', { name: 'Layers and objects' }).getByRole('button', { name: `trough ${tag}` }).click();
	await expect(values(page).getByText('Mesh of your own')).toBeVisible();
	await page.getByRole('link', { name: 'Ebbwater Station' }).click();
	await expect(page.getByRole('button', { name: 'New material' })).toBeVisible();
	await page.keyboard.press('Control+k');
	await page.getByRole('dialog', { name: 'Commands' }).getByRole('combobox').fill('insert');
	await expect(page.getByRole('dialog', { name: 'Commands' }).getByRole('option')).toHaveCount(0);
	await open(page, red);

	// Another file takes its place: what it lacks is said, and the first comes back.
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	await page.getByRole('button', { name: `trough ${tag} trough ${tag}` }).click();
	await values(page).getByText('Mesh of your own').click();
	await values(page).getByLabel(`Another file for trough ${tag}`).setInputFiles(sample('quantised.glb'));
	await expect(page.getByText('The new file has no Wall, Rim, Soil.', { exact: false })).toBeVisible();
	await expect(values(page).getByText('4.00 × 2.00 × 0 m · 1 triangle', { exact: false })).toBeVisible();
	await values(page).getByLabel('Version of the mesh').selectOption({ label: `1: trough ${tag}.glb, 8 triangles` });
	await expect.poll(worn).toBe('red, blue, green');
});

test('what is wrong with a mesh is said with its figure, and mended; what cannot be read says why', async ({ page }) => {
	const material = await made(page, plain('Chalk', [0.6, 0.6, 0.6]));
	await judgedOn(page, material, {});
	await open(page, material);
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	// A crate in centimetres, its faces the wrong way round.
	const corners = [0, 1].flatMap((x) => [0, 1].flatMap((y) => [0, 1].map((z) => `v ${300 * x} ${300 * y} ${300 * z}`)));
	await bring(page, file(`crate ${tag}.obj`, [...corners, 'f 1 3 4 2', 'f 5 6 8 7', 'f 1 2 6 5', 'f 3 7 8 4', 'f 1 5 7 3', 'f 2 4 8 6'].join('\n')));
	await expect(values(page).getByText('It is 300 m long: that looks like centimetres.', { exact: false })).toBeVisible();
	await expect(tray(page).getByTitle(/things are wrong with it/)).toBeVisible();
	await values(page).getByRole('button', { name: 'Scale to 3 m' }).click();
	await expect(values(page).getByText('3.00 × 3.00 × 3.00 m · 12 triangles', { exact: false })).toBeVisible();
	await values(page).getByRole('button', { name: 'Turn the faces' }).click();
	await expect(values(page).getByText('Its faces look inwards', { exact: false })).toBeHidden();
	expect((await owned(page, `crate ${tag}`))?.options).toEqual({ scale: 0.01, up: 'y', turned: true, crease: 40 });

	// Of several files some are kept.
	await bring(page, [file('bad.obj', 'v 0 0 0\nf 1 2 3\n'), file(`good ${tag}.obj`, 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n')]);
	await expect(tray(page).getByRole('alert')).toHaveText(/bad\.obj, line 2: there is no place 2; there are 1 so far\./);
	await expect(tray(page).getByRole('button', { name: `Add: good ${tag}` })).toBeVisible();

	// What is packed is unpacked by its own decoder.
	for (const [name, triangles] of [['draco', 8], ['meshopt', 2]] as const) {
		await bring(page, file(`${name} ${tag}.glb`, readFileSync(sample(`${name}.glb`))));
		await expect(tray(page).getByRole('button', { name: `Add: ${name} ${tag}` })).toBeVisible();
		expect((await owned(page, `${name} ${tag}`))?.triangles).toBe(triangles);
	}
	// A mesh that is taken out comes back.
	await page.getByRole('button', { name: `crate ${tag} crate ${tag}` }).click();
	await values(page).getByRole('button', { name: 'Take out' }).click();
	await expect(tray(page).getByRole('button', { name: `Add: crate ${tag}` })).toBeHidden();
	await page.getByRole('button', { name: 'Take back' }).click();
	await expect(tray(page).getByRole('button', { name: `Add: crate ${tag}` })).toBeVisible();
});

test('stages have names, are made, copied, left and found again, with places of the eye', async ({ page }) => {
	const material = await made(page, plain('Slate', [0.3, 0.3, 0.35]));
	await open(page, material);
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	const column = page.getByRole('complementary', { name: 'Objects' });
	const chosen = column.getByLabel('Stage', { exact: true });
	const act = async (name: string): Promise<void> => {
		await column.getByRole('button', { name: /^What can be done with/ }).click();
		await page.getByRole('menuitem', { name }).click();
	};
	const name = async (to: string, button: string): Promise<void> => {
		await page.getByRole('dialog').getByLabel('Name').fill(to);
		await page.getByRole('dialog').getByRole('button', { name: button }).click();
	};
	await expect(chosen.locator('option:checked')).toHaveText('Small stage');
	await act('New stage');
	await name(`Weir ${tag}`, 'Create');
	await expect(chosen.locator('option:checked')).toHaveText(`Weir ${tag}`);
	await expect(column.getByRole('listitem')).toHaveCount(5);
	await column.getByRole('button', { name: 'Hide Sphere' }).click();
	await act('Rename');
	await name(`Weir in spring ${tag}`, 'Rename');
	await expect(chosen.locator('option:checked')).toHaveText(`Weir in spring ${tag}`);

	// A place of the eye is kept, left and found.
	const eye = () => page.evaluate(() => window.riltaStage!.camera.position.toArray().map((one) => Math.round(one * 100) / 100));
	const began = await eye();
	const place = async (label: string): Promise<void> => {
		await page.getByRole('button', { name: 'Places' }).click();
		await page.getByRole('menuitem', { name: label, exact: true }).click();
	};
	await place('Keep this place …');
	await page.getByRole('dialog').getByLabel('Name of the place').fill('At the sill');
	await page.getByRole('dialog').getByRole('button', { name: 'Keep' }).click();
	await place('Far');
	const far = await eye();
	await place('Near');
	const near = await eye();
	const away = ([x = 0, y = 0, z = 0]: number[]): number => Math.hypot(x, y, z);
	expect(away(far)).toBeGreaterThan(4 * away(near));
	await place('At the sill');
	await expect.poll(eye).toEqual(began);
	await expect(page.getByText('Saved', { exact: true })).toBeVisible();

	await act('Duplicate');
	await name(`Weir, copied ${tag}`, 'Create');
	await expect(chosen.locator('option:checked')).toHaveText(`Weir, copied ${tag}`);
	await expect(column.getByRole('button', { name: 'Show Sphere' })).toBeVisible();
	await column.getByRole('button', { name: 'Hide Floor' }).click();
	// What is done on one is not done on the other; each is what it was when it is looked at again.
	await chosen.selectOption({ label: `Weir in spring ${tag}` });
	await expect(column.getByRole('button', { name: 'Hide Floor' })).toBeVisible();
	await page.reload();
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	await expect(chosen.locator('option:checked')).toHaveText(`Weir in spring ${tag}`);
	await chosen.selectOption({ label: `Weir, copied ${tag}` });
	await expect(column.getByRole('button', { name: 'Show Floor' })).toBeVisible();
	await page.getByRole('button', { name: 'Places' }).click();
	await expect(page.getByRole('menuitem', { name: 'At the sill', exact: true })).toBeVisible();
	await page.keyboard.press('Escape');

	// A file of it is another stage; one that is deleted comes back.
	const download = page.waitForEvent('download');
	await act('Save as a file');
	const text = readFileSync((await (await download).path())!, 'utf8');
	expect((JSON.parse(text) as StageDocument).places?.[0]?.name).toBe('At the sill');
	await act('Delete');
	await expect(chosen.locator('option', { hasText: `Weir, copied ${tag}` })).toHaveCount(0);
	await page.getByRole('button', { name: 'Take back' }).click();
	await expect(chosen.locator('option:checked')).toHaveText(`Weir, copied ${tag}`);
	await column.getByLabel('A stage from a file').setInputFiles(file(`From elsewhere ${tag}.stage.json`, text));
	await expect(chosen.locator('option:checked')).toHaveText(`From elsewhere ${tag}`);
	await expect(column.getByRole('button', { name: 'Show Floor' })).toBeVisible();
	await column.getByLabel('A stage from a file').setInputFiles(file('No stage.json', '{"format": "rilta-stage/9"}'));
	await expect(page.getByText('No stage.json is no stage that can be read here')).toBeVisible();
});

test('UVs are made, chosen, moved and filled, and faces become a section that wears its own material', async ({ page }) => {
	const [red, blue] = [await made(page, plain('Sealing wax', [0.7, 0.1, 0.1])), await made(page, plain('Ink', [0.1, 0.15, 0.7]))];
	const stage = await judgedOn(page, red, { objects: [{ id: 'ball', name: 'Ball', mesh: 'sphere', position: [0, 0, 0], turn: [0, 0, 0], scale: [2, 2, 2] }], camera: { position: [0, 4, 4], target: [0, 1, 0] } });
	await open(page, red);
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	await page.getByRole('button', { name: 'Ball Sphere' }).click();
	await page.getByText('UVs and sections', { exact: true }).click();
	const board = page.getByRole('region', { name: 'UVs and sections' });
	type Ranges = { sections: string[]; ranges: number[][] };
	/** Least and most u and v of each section. */
	const ranges = async (set: number): Promise<Ranges> => {
		const { mesh } = (await storedStage(page, stage)).objects[0]!;
		return page.evaluate(async ([name, at]) => {
			type Shape = { index: { array: ArrayLike<number> }; groups: { start: number; count: number }[]; userData: { sections: string[] }; getAttribute: (name: string) => { getX: (i: number) => number; getY: (i: number) => number } };
			const shape = await (window as unknown as { riltaStage: { geometry: (name: string) => Promise<Shape> } }).riltaStage.geometry(String(name));
			const uv = shape.getAttribute(`rilta_TEXCOORD_${Number(at) - 1}`);
			return {
				sections: shape.userData.sections,
				ranges: shape.groups.map(({ start, count }) => {
					const all = Array.from({ length: count }, (_, i) => shape.index.array[start + i]!);
					const [us, vs] = [all.map((i) => uv.getX(i)), all.map((i) => uv.getY(i))];
					return [Math.min(...us), Math.min(...vs), Math.max(...us), Math.max(...vs)].map((one) => Math.round(one * 1000) / 1000);
				})
			};
		}, [mesh, set] as const);
	};
	// The cap that looks up becomes a section: a face of it is clicked on the stage.
	await board.getByText('Facing', { exact: true }).click();
	await expect(board.getByText('Click a face, here or on the stage.')).toBeVisible();
	const [x, y] = await on(page, [0, 2, 0]);
	await page.locator('.stage canvas').click({ position: { x, y } });
	await expect(board.getByText(/^Chosen faces \d/)).toBeVisible();
	await board.getByLabel('Name of the section').fill('Cap');
	await board.getByRole('button', { name: 'Make it one' }).click();
	await expect.poll(async () => (await ranges(1)).sections).toContain('Cap');
	await values(page).getByLabel('Cap wears').selectOption(String(blue));

	// Its UVs alone fill the square.
	await board.getByText('Section', { exact: true }).click();
	await board.getByLabel('Section that is chosen').selectOption('Cap');
	await board.getByRole('button', { name: 'Y', exact: true }).click();
	await expect.poll(async () => (await ranges(1)).ranges[2]![2]).toBeLessThan(0.5);
	const others = (await ranges(1)).ranges.slice(0, 2);
	await board.getByRole('button', { name: 'Fill 0…1', exact: true }).click();
	await expect.poll(async () => (await ranges(1)).ranges[2]).toEqual([0, 0, 1, 1]);
	expect((await ranges(1)).ranges.slice(0, 2)).toEqual(others);

	// What is chosen is dragged in the plane.
	const plane = board.getByLabel('UV set 1', { exact: true });
	const box = (await plane.boundingBox())!;
	await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width / 2 + 40, box.y + box.height / 2, { steps: 4 });
	await page.mouse.up();
	await expect.poll(async () => (await ranges(1)).ranges[2]![0]!).toBeGreaterThan(0.05);
	expect((await ranges(1)).ranges[2]![1]).toBe(0);

	// Unwrapped, all lies side by side in the square.
	await board.getByText('2', { exact: true }).click();
	// A server that is busy, and a line that breaks, are asked again.
	let refused = 0;
	await page.route('**/mesh-edits', (route) => (refused++ === 0 ? route.fulfill({ status: 503, headers: { 'Retry-After': '1' }, json: { title: 'Busy', status: 503, detail: 'Busy.', problems: [] } }) : refused === 2 ? route.abort('connectionreset') : route.continue()));
	await board.getByRole('button', { name: 'Unwrap' }).click();
	await expect.poll(async () => Math.max(...(await ranges(2)).ranges.flat())).toBeLessThanOrEqual(1);
	await expect(board.getByText(/px\/m/)).toBeVisible();
	await expect.poll(() => refused).toBe(3);
	await expect(board.getByLabel('Name of the UV set')).toHaveValue('Unwrapped');
	await page.unroute('**/mesh-edits');

	// What it is for is said, and faces are picked one by one.
	await expect(board.getByLabel('Name of the UV set')).toHaveValue('Unwrapped');
	await board.getByLabel('Name of the UV set').fill('For bakes');
	await board.getByLabel('Name of the UV set').press('Enter');
	await expect.poll(async () => {
		const { mesh } = (await storedStage(page, stage)).objects[0]!;
		return ((await (await page.request.get(`/api/projects/${PROJECT}/meshes`)).json()) as { meshes: OwnMesh[] }).meshes.find((one) => one.name === mesh)?.uvNames[1];
	}).toBe('For bakes');
	await board.getByText('By hand', { exact: true }).click();
	for (const place of [[0, 2, 0.02], [0.3, 1.95, 0.1]] as const) {
		const [px, py] = await on(page, place);
		await page.locator('.stage canvas').click({ position: { x: px, y: py } });
	}
	await expect(board.getByText(/^Chosen faces 2$/)).toBeVisible();
	// With a reach, what lies around comes with it; with Shift it goes again.
	await board.getByRole('spinbutton', { name: 'Reach' }).focus();
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type('0.3');
	await page.keyboard.press('Enter');
	const [hx, hy] = await on(page, [0, 1.2, 0.98]);
	await page.locator('.stage canvas').click({ position: { x: hx, y: hy } });
	const chosen = async (): Promise<number> => Number((/\d+/.exec((await board.getByText(/^Chosen faces/).textContent()) ?? ''))?.[0]);
	await expect.poll(chosen).toBeGreaterThan(20);
	await page.keyboard.down('Shift');
	await page.locator('.stage canvas').click({ position: { x: hx, y: hy } });
	await page.keyboard.up('Shift');
	await expect(board.getByText(/^Chosen faces 2$/)).toBeVisible();

	// A set as the material's lane begins: metres of the world, on the face that each triangle looks at.
	await board.getByText('All', { exact: true }).click();
	await board.getByLabel('UV set', { exact: true }).getByText('4', { exact: true }).click();
	await board.getByRole('button', { name: 'Lane', exact: true }).click();
	// A ball of 2 m that stands on the ground: its sides reach from nearly 2 m up to nearly none, and v runs down.
	const least = async (): Promise<number> => Math.min(...(await ranges(4)).ranges.map(([, v = 0]) => v));
	await expect.poll(least).toBeLessThan(-1.6);
	expect(await least()).toBeGreaterThanOrEqual(-2);
	const most = Math.max(...(await ranges(4)).ranges.map(([, , u = 0]) => u));
	expect([most > 0.6, most <= 1]).toEqual([true, true]);

	// All is there after a reload, and the cap is blue.
	await expect(page.getByText('Saved', { exact: true })).toBeVisible();
	const { mesh } = (await storedStage(page, stage)).objects[0]!;
	await page.reload();
	const colour = async (place: [number, number, number]): Promise<string> => {
		await settled(page);
		const [r = 0, , b = 0] = await pixel(page, ...(await on(page, place)));
		return r > 1.5 * b ? 'red' : b > 1.5 * r ? 'blue' : `${r} ${b}`;
	};
	await expect.poll(async () => `${await colour([0, 2, 0])} ${await colour([0, 1, 1])}`).toBe('blue red');
	// A wrong order is told, and nothing is changed.
	const answer = await page.request.post(`/api/projects/${PROJECT}/mesh-edits`, { headers: { 'X-Rilta': '1' }, data: { mesh, edit: { edit: 'section', name: 'a', faces: { by: 'section', section: 'Moss' } } } });
	expect([answer.status(), ((await answer.json()) as { detail: string }).detail]).toEqual([422, 'Sphere stays as it is: it has no section "Moss".']);
});

test('a change that takes long says how far it is, and is given up', async ({ page }) => {
	const material = await made(page, plain('Chalk', [0.8, 0.8, 0.75]));
	const stage = await judgedOn(page, material, { objects: [{ id: 'cloth', name: 'Cloth', mesh: 'cloth', position: [0, 0, 0], turn: [0, 0, 0], scale: [1, 1, 1] }], camera: { position: [0, 2, 4], target: [0, 1, 0] } });
	await open(page, material);
	await page.getByRole('button', { name: 'Stage', exact: true }).click();
	await page.getByRole('button', { name: /^Cloth/ }).first().click();
	await page.getByText('UVs and sections', { exact: true }).click();
	const board = page.getByRole('region', { name: 'UVs and sections' });
	// The change reaches the server as slowly as if it took long: once it has been given up, which the server remembers.
	let release = (): void => {};
	const givenUp = new Promise<void>((resolve) => (release = resolve));
	await page.route('**/mesh-edits', async (route) => { await givenUp; await route.continue(); });
	await page.route('**/api/mesh-edits/*', async (route) => {
		if (route.request().method() !== 'DELETE') return route.fulfill({ json: { share: 0.42 } });
		await route.fulfill({ response: await route.fetch() });
		release();
	});
	const refused = page.waitForResponse((response) => response.url().endsWith('/mesh-edits'));
	await board.getByRole('button', { name: 'Unwrap' }).click();
	const working = board.getByRole('status');
	await expect(working).toContainText(/Working …\s42 %/);
	await working.getByRole('button', { name: 'Give up' }).click();
	expect((await refused).status()).toBe(422);
	await expect(working).toBeHidden();
	expect((await storedStage(page, stage)).objects[0]!.mesh).toBe('cloth');
	// What was given up on purpose is no mistake to be told.
	await expect(page.getByText('The mesh was not changed')).toHaveCount(0);
	await page.unrouteAll();
	await board.getByRole('button', { name: 'Box' }).click();
	await expect.poll(async () => (await storedStage(page, stage)).objects[0]!.mesh).not.toBe('cloth');
});
