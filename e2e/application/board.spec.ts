import { readFile } from 'node:fs/promises';
import { expect, test, type Page } from './test';
import type { MaterialDocument } from '../../web/src/api/client';
import { fresh, judgedOn, made, open, pixel, pixels, requests, settled, stored, trained } from './bench';

const steps = async (page: Page, id: number): Promise<string[]> => {
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	return (await stored(page, id)).document.lanes[0]?.steps.map((use) => (use.on ? use.step : `(${use.step})`)) ?? [];
};

async function insert(page: Page, where: string, label: string): Promise<void> {
	await page.getByRole('button', { name: `Insert a step ${where}` }).click();
	await page.getByRole('dialog').getByRole('button', { name: new RegExp(`^${label} `) }).click();
	await expect(page.getByRole('region', { name: 'Values' }).getByRole('heading', { name: label, exact: true })).toBeVisible();
	// The keyboard goes on at the new tile.
	await expect(page.getByRole('button', { name: `${label}, step of the lane` })).toBeFocused();
}

async function type(page: Page, label: string, value: string): Promise<void> {
	const field = page.getByRole('region', { name: 'Values' }).getByRole('spinbutton', { name: label, exact: true });
	await field.focus();
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type(value);
	await page.keyboard.press('Enter');
	await expect(field).toBeFocused();
}

test('the salt flat is built from nothing on the board alone', async ({ page }) => {
	const id = await fresh(page, 'Flat again', 'salt-crust');
	await open(page, id);
	await page.getByRole('button', { name: 'Origin, step of the lane' }).click();
	await page.getByLabel('Faces').selectOption('y');
	await page.getByRole('button', { name: 'Size, step of the lane' }).click();
	await type(page, 'Size', '2 * 160cm');
	await insert(page, 'at the end', 'Breakup');
	await type(page, 'Cell', '2.6');
	await type(page, 'Feather', '14');
	await type(page, 'Turn', '180');
	await insert(page, 'at the end', 'Scales');
	await type(page, 'Near', '9');
	await expect(page.getByTestId('sentence')).toHaveText('world position, projected along Y → 3.2 m per repeat → break up in 2.6 m cells → two sizes from 9 to 60 m away');
	await expect(page.getByText('6 taps · 24 map reads')).toBeVisible();
	expect(await steps(page, id)).toEqual(['origin', 'size', 'breakup', 'scales']);
	const values = (await stored(page, id)).document.lanes[0]?.steps[2]?.values;
	expect([values?.cell, values?.feather, values?.turn]).toEqual([2.6, 14, 180]);
});

test('steps are moved, duplicated, switched off and deleted, by pointer and by keyboard, and all of it undone', async ({ page }) => {
	const id = await fresh(page, 'Shuffled');
	await open(page, id);
	await insert(page, 'before Size', 'Turn');
	await insert(page, 'at the end', 'Mirror');
	expect(await steps(page, id)).toEqual(['origin', 'turn', 'size', 'mirror']);

	// By keyboard: Turn behind Size, then in vain before the origin.
	await page.getByRole('button', { name: 'Turn, step of the lane' }).focus();
	await page.keyboard.press('Alt+ArrowRight');
	expect(await steps(page, id)).toEqual(['origin', 'size', 'turn', 'mirror']);
	// The keyboard stays with what it moves.
	await page.keyboard.press('Alt+ArrowRight');
	expect(await steps(page, id)).toEqual(['origin', 'size', 'mirror', 'turn']);
	await page.keyboard.press('Alt+ArrowLeft');
	expect(await steps(page, id)).toEqual(['origin', 'size', 'turn', 'mirror']);
	await page.getByRole('button', { name: 'Size, step of the lane' }).focus();
	await page.keyboard.press('Alt+ArrowLeft');
	await expect(page.getByText('Nothing can stand before the origin')).toBeVisible();
	await page.keyboard.press('Control+d');
	expect(await steps(page, id)).toEqual(['origin', 'size', 'size', 'turn', 'mirror']);
	await page.keyboard.press('o');
	expect(await steps(page, id)).toEqual(['origin', '(size)', 'size', 'turn', 'mirror']);
	await page.keyboard.press('Delete');
	expect(await steps(page, id)).toEqual(['origin', 'size', 'turn', 'mirror']);

	// By pointer: Mirror before Size.
	const drop = page.getByRole('listitem').filter({ has: page.getByRole('group', { name: 'Size, step 2' }) });
	await page.getByRole('group', { name: 'Mirror, step 4' }).dragTo(drop, { sourcePosition: { x: 60, y: 100 }, targetPosition: { x: 30, y: 60 } });
	expect(await steps(page, id)).toEqual(['origin', 'mirror', 'size', 'turn']);
	await page.getByRole('button', { name: 'Switch off Turn' }).click();
	expect(await steps(page, id)).toEqual(['origin', 'mirror', 'size', '(turn)']);

	await page.getByRole('button', { name: 'Undo' }).click();
	await page.getByRole('button', { name: 'Undo' }).click();
	expect(await steps(page, id)).toEqual(['origin', 'size', 'turn', 'mirror']);
	await page.getByRole('button', { name: 'Redo' }).click();
	expect(await steps(page, id)).toEqual(['origin', 'mirror', 'size', 'turn']);
});

test('a lane is copied into another material', async ({ page, context }) => {
	await context.grantPermissions(['clipboard-read', 'clipboard-write']);
	const from = await fresh(page, 'Lender');
	await open(page, from);
	await insert(page, 'at the end', 'Warp');
	// A browser may refuse, and that is said.
	await page.evaluate(() => Object.assign(navigator.clipboard, { writeText: () => Promise.reject(new Error('Nobody looks at this window.')) }));
	await page.getByRole('button', { name: 'Copy the lane Main' }).click();
	await expect(page.getByText('Nobody looks at this window.')).toBeVisible();
	await page.evaluate(() => Reflect.deleteProperty(navigator.clipboard, 'writeText'));
	await page.getByRole('button', { name: 'Copy the lane Main' }).click();
	// The clipboard takes its time, and leaving the page would cut it short. What is said of it is gone again after some seconds.
	await expect.poll(() => page.evaluate(() => navigator.clipboard.readText())).toContain('rilta-lane/1');
	const to = await fresh(page, 'Borrower', 'basalt-cladding');
	await open(page, to);
	await page.getByRole('button', { name: 'Paste over the lane Main' }).click();
	await expect(page.getByTestId('sentence')).toContainText('warp by 0.1 m every 1 m');
	expect(await steps(page, to)).toEqual(['origin', 'size', 'warp']);
	await page.evaluate(() => navigator.clipboard.writeText('no lane at all'));
	await page.getByRole('button', { name: /Paste over the lane/ }).click();
	await expect(page.getByText('The clipboard holds no lane.')).toBeVisible();
});

test('the clock runs, stands and is dragged; what stands is not drawn again', async ({ page }) => {
	const id = await fresh(page, 'Flowing', 'brine');
	await open(page, id);
	await expect(page.getByRole('group', { name: 'Clock' })).toBeHidden();
	await insert(page, 'at the end', 'Pan');
	await type(page, 'To the right', '0.25');
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	await settled(page);
	const sent = requests(page);
	const clock = page.getByRole('group', { name: 'Clock' });
	await page.getByLabel('View', { exact: true }).selectOption({ label: 'Coordinates' });
	await settled(page);
	const start = await pixel(page, 400, 480);
	await clock.getByRole('button', { name: 'Play the clock' }).click();
	await expect(clock).toContainText(/[1-9]\.\d\d s/);
	await clock.getByRole('button', { name: 'Pause the clock' }).click();
	await settled(page);
	const frames = await page.evaluate(() => window.riltaStage?.frames ?? 0);
	await page.waitForTimeout(1500);
	expect(await page.evaluate(() => window.riltaStage?.frames ?? 0)).toBe(frames);
	// Two seconds are half a repeat, four a whole one.
	await clock.getByLabel('Time in seconds').fill('2');
	await settled(page);
	expect(await pixel(page, 400, 480)).not.toEqual(start);
	await clock.getByLabel('Time in seconds').fill('4');
	await settled(page);
	expect(await pixel(page, 400, 480)).toEqual(start);
	expect(sent()).toEqual([]);
});

test('a reach is moved by the pad on the stage, and comes to rest with a double click', async ({ page }) => {
	const id = await fresh(page, 'Dial', 'tide-scale');
	await open(page, id);
	await expect(page.getByRole('application')).toBeHidden();
	await insert(page, 'at the end', 'Reach');
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	await settled(page);
	const pad = page.getByRole('application', { name: /^Pad/ });
	const box = await pad.boundingBox();
	if (box === null) throw new Error('No pad.');
	const sent = requests(page);
	await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
	await page.mouse.down();
	for (let i = 1; i <= 6; i++) await page.mouse.move(box.x + box.width * (0.5 + 0.25 * (i / 6)), box.y + box.height * (0.5 - 0.4 * (i / 6)));
	expect(sent()).toEqual([]);
	await page.mouse.up();
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	const at = async (): Promise<unknown[]> => {
		const values = (await stored(page, id)).document.lanes[0]?.steps[2]?.values;
		return [values?.x, values?.y];
	};
	const [x, y] = (await at()) as number[];
	expect(x).toBeCloseTo(0.5, 1);
	expect(y).toBeCloseTo(-0.8, 1);
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	await expect.poll(at).toEqual([0, 0]);
	await page.getByRole('button', { name: 'Redo' }).click();
	await pad.dblclick({ position: { x: 20, y: 20 } });
	await expect.poll(at).toEqual([0, 0]);
});

test('a step that makes too many taps is left out and says so with its place', async ({ page, context }) => {
	await context.grantPermissions(['clipboard-read', 'clipboard-write']);
	const id = await fresh(page, 'Too much');
	await open(page, id);
	const steps = ['origin', 'size', 'breakup', 'hex-blend', 'scales'].map((step) => ({ step, on: true, values: {} }));
	await page.evaluate((text) => navigator.clipboard.writeText(text), JSON.stringify({ format: 'rilta-lane/1', name: 'Everything', steps }));
	await page.getByRole('button', { name: 'Paste over the lane Main' }).click();
	const alert = page.getByRole('alert').filter({ hasText: 'left out' });
	// 27 taps take long to be compiled here.
	await expect(alert).toContainText('/lanes/0/steps/4 Scales makes 54 taps of this lane; at most 36 can be read');
	await expect(page.getByText('27 taps · ')).toBeVisible();
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(alert).toBeHidden();
	await expect(page.getByTestId('sentence')).toHaveText('world position, tri-planar → 1.6 m per repeat');
});

test('what goes from a lane is gone from the picture before there is code for it', async ({ page }) => {
	const use = (step: string, values: object) => ({ step, on: true, values: { ...values } });
	const id = await made(page, {
		format: 'rilta-material/2',
		name: 'Ahead of its code',
		parameters: [{ id: 'lean', name: 'Lean', kind: 'number', value: 15 }],
		lanes: [{ id: 'main', name: 'Main', steps: [use('origin', {}), use('size', { u: 1.6 }), use('turn', { angle: { parameter: 'lean', factor: 2, offset: 4 } }), use('scatter', { by: 'object' }), use('mirror', { u: 'all' })] }],
		layers: [
			{ id: 'ground', name: 'Ground', lane: 'main', set: 'basalt-cladding' },
			{ id: 'paint', name: 'Paint', lane: 'main', set: '', opacity: 60, finish: { values: { tint: [0.9, 0.2, 0.1] } } }
		]
	});
	// Nothing is known of its steps one by one.
	await page.route('**/multipass', (route) => route.abort());
	await open(page, id);
	const places = [[200, 300], [320, 220], [420, 420], [610, 260], [660, 470]] as const;
	const turned = await pixels(page, places);
	let answer = (): void => {};
	const held = new Promise<void>((resolve) => (answer = resolve));
	await page.route('**/lower', async (route) => {
		await held;
		await route.continue();
	});
	const standing = (): Promise<boolean> => page.evaluate(() => (window.riltaStage as unknown as { standing: boolean }).standing);
	// Off, then the other one deleted, and a layer hidden: all are gone, though no code has come.
	await page.getByRole('button', { name: 'Turn, step of the lane' }).focus();
	await page.keyboard.press('o');
	await expect.poll(standing).toBe(true);
	const straight = await pixels(page, places);
	expect(straight).not.toEqual(turned);
	await page.getByRole('button', { name: 'Scatter, step of the lane' }).focus();
	await page.keyboard.press('Delete');
	await settled(page);
	expect(await standing()).toBe(true);
	const painted = await pixels(page, places);
	expect(painted).not.toEqual(straight);
	await page.getByRole('button', { name: 'Paint, layer' }).focus();
	await page.keyboard.press('o');
	await settled(page);
	expect(await standing()).toBe(true);
	const alone = await pixels(page, places);
	expect(alone).not.toEqual(painted);
	// The code comes, and the picture stays.
	answer();
	await expect.poll(standing).toBe(false);
	await settled(page);
	const after = await pixels(page, places);
	for (const [i, colour] of after.entries()) colour.forEach((part, c) => expect(Math.abs(part - alone[i]![c]!), `place ${i}`).toBeLessThanOrEqual(2));
	// What takes other code is awaited.
	await page.getByRole('button', { name: 'Mirror, step of the lane' }).focus();
	await page.keyboard.press('o');
	expect(await standing()).toBe(false);
	expect(await steps(page, id)).toEqual(['origin', 'size', '(turn)', '(mirror)']);
});

/** A picture of few pixels, whatever draws it. */
function coarse(page: Page): Promise<number[][]> {
	return page.evaluate(() => {
		const stage = window.riltaStage!;
		stage.draw(0.5);
		const { width, height } = stage.renderer.domElement;
		const gl = stage.renderer.getContext();
		const out: number[][] = [];
		for (let y = 40; y < height; y += 30) {
			for (let x = 30; x < width; x += 40) {
				const at = new Uint8Array(4);
				gl.readPixels(x, y, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, at);
				out.push([...at.subarray(0, 3)]);
			}
		}
		return out;
	});
}

/** How many places of two pictures differ, of a hundred: edges lie half a pixel elsewhere. */
const apart = (a: number[][], b: number[][]): number => (100 * a.filter((colour, i) => colour.some((part, c) => Math.abs(part - b[i]![c]!) > 6)).length) / a.length;
const passByPass = (page: Page): Promise<boolean> => page.evaluate(() => window.riltaStage!.running);

test('holes are where they will be before there is code for another order of steps', async ({ page }) => {
	const document = JSON.parse(await readFile('demo/materials/bronze-screen.json', 'utf8')) as MaterialDocument;
	const steps: MaterialDocument['lanes'][number]['steps'] = [{ step: 'turn', on: true, values: { angle: 30 } }, { step: 'size', on: true, values: { linked: false, u: 2.4, v: 6 } }];
	const id = await made(page, { ...document, name: 'Holes', lanes: document.lanes.map((lane, i) => (i === 0 ? { ...lane, steps: [...lane.steps, ...steps] } : lane)) });
	await judgedOn(page, id, { objects: [{ id: 'card', name: 'Card', mesh: 'card', position: [0, 0, 0], turn: [0, 0, 0], scale: [2, 2, 2], seed: 1 }], camera: { position: [0, 1, 2.6], target: [0, 1, 0] } });
	await open(page, id);
	await settled(page);
	await trained(page);
	const before = await coarse(page);
	let answer = (): void => {};
	const held = new Promise<void>((resolve) => (answer = resolve));
	await page.route('**/lower', async (route) => {
		await held;
		await route.continue();
	});
	await page.getByRole('button', { name: 'Turn, step of the lane' }).focus();
	await page.keyboard.press('Alt+ArrowRight');
	await expect.poll(() => passByPass(page)).toBe(true);
	const seen = await coarse(page);
	expect(apart(seen, before)).toBeGreaterThan(5);
	answer();
	await expect.poll(() => passByPass(page)).toBe(false);
	await settled(page);
	expect(apart(seen, await coarse(page))).toBeLessThan(4);
});

test('any order of steps that are known is seen before there is code for it', async ({ page }) => {
	const use = (step: string, values: object) => ({ step, on: true, values: values as Record<string, number> });
	const id = await made(page, {
		format: 'rilta-material/2',
		name: 'Known steps',
		parameters: [{ id: 'lean', name: 'Lean', kind: 'number', value: 15 }],
		lanes: [
			{ id: 'main', name: 'Main', steps: [use('origin', {}), use('size', { u: 1.6 }), use('turn', { angle: { parameter: 'lean', factor: 2, offset: 4 } }), use('warp', { amount: 0.05, size: 0.6 }), use('bond', { joint: 0.03 }), use('scatter', { by: 'piece', turn: 25, hue: 30 })] },
			{ id: 'upper', name: 'Upper', steps: [use('origin', { faces: 'y' }), use('size', { u: 2.3 }), use('mirror', {})] },
			// Steps that read maps on their way do not come apart.
			{ id: 'waves', name: 'Waves', steps: [use('origin', { faces: 'y' }), { step: 'warp', on: true, values: { by: 'map', map: 'salt-crust/normal', amount: 0.2, size: 2 } }] }
		],
		layers: [
			{ id: 'ground', name: 'Ground', lane: 'main', set: 'basalt-cladding' },
			{ id: 'salt', name: 'Salt', lane: 'upper', set: 'salt-crust', opacity: 80, mask: [{ kind: 'noise', values: { size: 1.5, low: 0.4, high: 0.6 } }] },
			{ id: 'wet', name: 'Wet', lane: 'waves', set: 'lime-plaster', mask: [{ kind: 'noise', values: { size: 1.1, seed: 4, low: 0.65, high: 0.75 } }] }
		]
	});
	await open(page, id);
	await trained(page);
	const [picture, running] = [() => coarse(page), () => passByPass(page)];
	const changes: [string, () => Promise<void>][] = [
		['reordered', async () => { await page.getByRole('button', { name: 'Turn, step of the lane' }).focus(); await page.keyboard.press('Alt+ArrowRight'); }],
		['duplicated', async () => { await page.getByRole('button', { name: 'Turn, step of the lane' }).focus(); await page.keyboard.press('Control+d'); }],
		['another lane', async () => { await page.getByRole('button', { name: 'Salt, layer' }).click(); await page.getByRole('button', { name: 'Mirror, step of the lane' }).focus(); await page.keyboard.press('o'); }],
		['inserted, and it parts taps', async () => { await page.getByRole('button', { name: 'Ground, layer' }).click(); await insert(page, 'at the end', 'Breakup'); }]
	];
	let last = await picture();
	for (const [name, change] of changes) {
		let answer = (): void => {};
		const held = new Promise<void>((resolve) => (answer = resolve));
		await page.route('**/lower', async (route) => {
			await held;
			await route.continue();
		});
		await change();
		await expect.poll(running, { message: name }).toBe(true);
		const seen = await picture();
		expect(apart(seen, last), `${name}: seen`).toBeGreaterThan(5);
		// The code comes, and the picture stays.
		answer();
		await expect.poll(running, { message: name }).toBe(false);
		await settled(page);
		last = await picture();
		expect(apart(seen, last), `${name}: as with code of its own`).toBeLessThan(2);
		await page.unrouteAll({ behavior: 'wait' });
		await trained(page);
	}
	// Numbers are followed before there is code, too.
	let answer = (): void => {};
	const held = new Promise<void>((resolve) => (answer = resolve));
	await page.route('**/lower', async (route) => {
		await held;
		await route.continue();
	});
	await page.getByRole('button', { name: 'Bond, step of the lane' }).focus();
	await page.keyboard.press('Alt+ArrowLeft');
	await expect.poll(running).toBe(true);
	const before = await picture();
	const lean = page.getByRole('spinbutton', { name: 'Lean', exact: true });
	await lean.focus();
	await page.keyboard.press('Delete');
	await expect.poll(async () => apart(await picture(), before)).toBeGreaterThan(10);
	expect(await running()).toBe(true);
	answer();
	await expect.poll(running).toBe(false);
});
