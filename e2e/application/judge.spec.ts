import { expect, test, type Page } from './test';
import type { MaterialDocument, StepUse } from '../../web/src/api/client';
import { library, made, open, stored } from './bench';

test.use({ storageState: { cookies: [], origins: [] } });

const use = (step: string, values: StepUse['values'] = {}): StepUse => ({ step, on: true, values });
const along = (name: string, ...steps: StepUse[]): MaterialDocument => ({
	format: 'rilta-material/2',
	name,
	lanes: [{ id: 'main', name: 'Main', steps: [use('origin', { faces: 'y' }), ...steps] }],
	layers: [{ id: 'ground', name: 'Ground', lane: 'main', set: 'basalt-cladding' }]
});
const said = (page: Page): ReturnType<Page['locator']> => page.getByRole('region', { name: 'Distance strip' }).locator('.said');
/** How much the colours of the strip differ, at a share of its width. */
const differs = (page: Page, from: number, to: number): Promise<number> => page.evaluate(([a, b]) => {
	const canvas = document.querySelector<HTMLCanvasElement>('.strip canvas')!;
	const { data } = canvas.getContext('2d')!.getImageData(Math.round(a! * canvas.width), 0, Math.round((b! - a!) * canvas.width), canvas.height);
	const greens = [...data].filter((_, i) => i % 4 === 1);
	const mean = greens.reduce((sum, one) => sum + one, 0) / greens.length;
	return Math.sqrt(greens.reduce((sum, one) => sum + (one - mean) ** 2, 0) / greens.length);
}, [from, to]);

test('a repeat is seen on the strip, measured, and gone to', async ({ page }) => {
	const id = await made(page, along('Comes again', use('size', { u: 2.4 })));
	await open(page, id);
	await expect(said(page)).toHaveText(/^Noticed from \d.* on: it comes again every 2\.\d+ m (to the right|upwards)\.$/);
	// From near by there is more to be seen than from afar, where a pixel takes in whole repeats; nowhere is it blank.
	await expect.poll(() => differs(page, 0.1, 0.4)).toBeGreaterThan(4);
	expect(await differs(page, 0.8, 1)).toBeLessThan(await differs(page, 0.1, 0.4));
	const slider = page.getByRole('slider', { name: 'Look from' });
	const strip = (await page.locator('.shown').boundingBox())!;
	await page.mouse.click(strip.x + strip.width / 2, strip.y + 20);
	// Half of the way from 0.5 to 500 by times.
	await expect(slider).toHaveAttribute('aria-valuetext', '16 m');
	await slider.press('Shift+ArrowRight');
	await expect(slider).toHaveAttribute('aria-valuetext', '21 m');
	// Dragged, and let go.
	await page.mouse.move(strip.x + strip.width / 4, strip.y + 20);
	await page.mouse.down();
	await page.mouse.move(strip.x + strip.width / 3, strip.y + 20, { steps: 3 });
	await page.mouse.up();
	await expect(slider).toHaveAttribute('aria-valuetext', /^(4\.9\d|5(\.0\d)?) m$/);
	// Another size is another repeat: the curve follows the number.
	await page.getByRole('button', { name: 'Size, step of the lane' }).click();
	const field = page.getByRole('spinbutton', { name: /^Size/ }).first();
	await field.click();
	await page.keyboard.type('1.2');
	await page.keyboard.press('Enter');
	await expect(said(page)).toHaveText(/every 1\.\d+ m/);
	await page.getByRole('button', { name: 'Repetition' }).click();
	await expect(slider).toBeHidden();
	await page.reload();
	await expect(page.getByRole('button', { name: 'Repetition' })).toBeVisible();
	await expect(slider).toBeHidden();
});

test('while the server is away the strip says so, and asks again by itself', async ({ page }) => {
	let away = 2;
	for (const kind of ['repetition', 'findings']) await page.route(`**/${kind}`, (route) => (away > 0 ? route.fulfill({ status: 503, contentType: 'application/problem+json', body: JSON.stringify({ title: 'Away', status: 503, detail: 'The database is away.' }) }) : route.continue()));
	await open(page, await made(page, along('Unplugged', use('size', { u: 2.4 }))));
	await expect(said(page)).toHaveText('Not measured: The database is away.');
	away = 0;
	await expect(said(page)).toHaveText(/^Noticed from/);
});

test('what hides a repeat is known by leaving it out', async ({ page }) => {
	const id = await made(page, along('Hidden', use('size', { u: 1.2 }), use('breakup', { cell: 0.9, shift: 100, turn: 180 })));
	await open(page, id);
	await expect(said(page)).not.toHaveText('Being measured …');
	await page.getByRole('button', { name: 'Which step?' }).click();
	const cards = page.getByRole('list', { name: 'Without each step' });
	await expect(cards.getByRole('button', { name: /Without Breakup/ })).toContainText('it hides the repeat');
	await cards.getByRole('button', { name: /Without Breakup/ }).click();
	await expect(page.getByRole('button', { name: 'Breakup, step of the lane' })).toHaveAttribute('aria-pressed', 'true');
});

test('a repeat is hidden within twelve map reads, compared, taken back', async ({ page }) => {
	const id = await made(page, along('To be hidden', use('size', { u: 2.4 })));
	await open(page, id);
	await expect(said(page)).toHaveText(/^Noticed from/);
	await page.getByRole('button', { name: 'Hide the repeat' }).click();
	const panel = page.getByRole('region', { name: 'Hide the repeat' });
	// It can be stopped.
	await panel.getByRole('button', { name: 'Search', exact: true }).click();
	await expect(panel.getByRole('status')).toContainText(/^[1-9]\d* of/);
	await panel.getByRole('button', { name: 'Stop' }).click();
	await expect(panel.getByRole('button', { name: 'Search', exact: true })).toBeVisible();
	await panel.getByRole('button', { name: 'Search', exact: true }).click();
	const offers = panel.getByRole('listitem').filter({ has: page.getByRole('button', { name: 'Take it' }) });
	await expect(offers.first()).toBeVisible();
	const told = (await offers.first().innerText()).replaceAll('\n', ' ');
	const [, before, after, reads, kept] = /(\d\.\d+) → (\d\.\d+) .*?(\d+) map reads.*Keeps (\d+) %/.exec(told)!.map(Number);
	expect([before! > 0.9, after! < 0.3, reads! <= 12, kept! >= 70]).toEqual([true, true, true, true]);
	// Looked at on the stage beside what there is, before it is taken.
	await offers.first().getByRole('button', { name: 'Compare' }).click();
	await expect(panel).toBeHidden();
	const bar = page.getByRole('group', { name: 'Comparison' });
	await expect(bar.getByRole('status')).toHaveText(/^ΔE (?!0\.00)/);
	await expect(bar).toContainText(/Hex blend|Breakup|sizes/);
	expect((await stored(page, id)).document.lanes[0]!.steps).toHaveLength(2);
	await page.getByRole('button', { name: 'End the comparison' }).click();
	await page.getByRole('button', { name: 'Hide the repeat' }).click();
	await offers.first().getByRole('button', { name: 'Take it' }).click();
	await expect(said(page)).toHaveText('Nothing is seen to come again.');
	await expect(page.getByTestId('saving')).toHaveText('Saved');
	expect((await stored(page, id)).document.lanes[0]!.steps).toHaveLength(3);
	// What was offered was for what it was.
	await expect(offers.first().getByRole('button', { name: 'Take it' })).toBeDisabled();
	// One change: undone at once.
	await page.keyboard.press('Control+z');
	await expect(said(page)).toHaveText(/^Noticed from/);
	await expect(offers.first().getByRole('button', { name: 'Take it' })).toBeEnabled();
	await expect.poll(async () => (await stored(page, id)).document.lanes[0]!.steps.length).toBe(2);
	// Where nothing is found, that is said, and the one picture is no larger than one of four.
	const few = panel.getByRole('spinbutton', { name: /^Map reads/ });
	await few.focus();
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type('1');
	await page.keyboard.press('Enter');
	await panel.getByRole('button', { name: 'Search', exact: true }).click();
	await expect(panel).toContainText(/It takes \d+ map reads as it is. Of \d+ changes, none within 1 map reads? hides more of it./);
	expect((await panel.boundingBox())!.height).toBeLessThan(320);
});

test('a budget of the project is kept, and what is over it is found', async ({ page }) => {
	await open(page, await made(page, along('Budgeted', use('size', { u: 2.4 }), use('breakup'))));
	await page.getByRole('button', { name: /^Findings/ }).click();
	const panel = page.getByRole('region', { name: 'Findings' });
	await expect(panel.getByRole('combobox', { name: 'Budget' })).toContainText('Warden\'s tablet');
	await panel.getByRole('combobox', { name: 'Budget' }).selectOption('small');
	await panel.getByRole('button', { name: 'New budget' }).click();
	const limits = panel.getByRole('group', { name: 'Limits of the budget' });
	await limits.getByRole('textbox', { name: 'Name of the budget' }).fill('Lantern');
	await limits.getByRole('textbox', { name: 'Name of the budget' }).press('Enter');
	const reads = limits.getByRole('spinbutton', { name: /^Map reads/ });
	await reads.focus();
	await page.keyboard.press('Enter');
	await page.keyboard.press('Control+a');
	await page.keyboard.type('7');
	await page.keyboard.press('Enter');
	await expect(panel).toContainText('and “Lantern” allows 7.');
	await panel.getByRole('button', { name: 'Delete the budget' }).click();
	await expect(panel.getByRole('combobox', { name: 'Budget' })).toHaveValue('');
	await expect(panel).not.toContainText('Lantern');
});

test('a finding leads to its place, is tried, taken back and kept', async ({ page }) => {
	const id = await made(page, along('Idle', use('size', { u: 1.2 }), use('turn', { angle: 0 })));
	await open(page, id);
	await page.getByRole('button', { name: /^Findings/ }).click();
	const panel = page.getByRole('region', { name: 'Findings' });
	const found = panel.getByRole('listitem').filter({ hasText: 'A step that changes nothing' });
	await expect(found).toBeVisible();
	await expect(page.getByRole('group', { name: 'Turn, step 3' }).getByRole('img', { name: /Good to know/ })).toBeVisible();
	const steps = async (): Promise<string[]> => (await stored(page, id)).document.lanes[0]!.steps.map((one) => one.step);
	await found.getByRole('button', { name: 'Take it out' }).click();
	await expect.poll(steps).toEqual(['origin', 'size']);
	await panel.getByRole('button', { name: 'Take it back' }).click();
	await expect.poll(steps).toEqual(['origin', 'size', 'turn']);
	await expect(found.getByRole('button', { name: 'Take it out' })).toBeEnabled();
	await found.getByRole('button', { name: 'Take it out' }).click();
	await panel.getByRole('button', { name: 'Keep it' }).click();
	await expect(found).toBeHidden();
	// A budget is kept or not, and says what is dearest.
	await page.evaluate(() => localStorage.removeItem('rilta-budget'));
	const dear = await made(page, { ...along('Dear', use('breakup')), lanes: [{ id: 'main', name: 'Main', steps: [use('origin', { space: 'world' }), use('breakup')] }] });
	await open(page, dear);
	await page.getByRole('button', { name: /^Findings/ }).click();
	await panel.getByRole('combobox', { name: 'Budget' }).selectOption({ label: 'Small' });
	await expect(panel.getByText('36 map reads, and “Small” allows 16. Breakup costs most: 24 map reads', { exact: false })).toBeVisible();
	await panel.getByText('Cost', { exact: true }).click();
	await expect(panel.getByText('36 of 16')).toBeVisible();
	await expect(panel.getByRole('row', { name: /Main › Breakup/ }).getByRole('cell').first()).toHaveText('24');
	await panel.getByText('Findings', { exact: true }).click();
	await panel.getByRole('button', { name: 'Main › Breakup' }).first().click();
	await expect(panel).toBeHidden();
	await expect(page.getByRole('button', { name: 'Breakup, step of the lane' })).toHaveAttribute('aria-pressed', 'true');
});

test('a map that is read the wrong way is found and mended from the workbench', async ({ page }) => {
	const set = await library(page, 'shell-aggregate-a');
	const normal = set?.maps.find((map) => map.role === 'normal');
	const reading = async (): Promise<string | undefined> => (await library(page, 'shell-aggregate-a'))?.maps.find((map) => map.role === 'normal')?.encoding;
	const headers = { 'X-Rilta': '1' };
	expect((await page.request.patch(`/api/maps/${normal?.id}`, { headers, data: { encoding: 'colour' } })).status()).toBe(200);
	try {
		const id = await made(page, { ...along('Bent', use('size', { u: 1 })), layers: [{ id: 'ground', name: 'Ground', lane: 'main', set: 'shell-aggregate-a' }] });
		await open(page, id);
		await page.getByRole('button', { name: /^Findings/ }).click();
		const found = page.getByRole('region', { name: 'Findings' }).getByRole('listitem').filter({ hasText: 'is read as colour' });
		await expect(found).toContainText('A normal map is read as colour: its numbers are bent by the sRGB curve.');
		await found.getByRole('button', { name: 'Read it as data' }).click();
		await expect.poll(reading).toBe('data');
		await expect(found).toBeHidden();
	} finally {
		await page.request.patch(`/api/maps/${normal?.id}`, { headers, data: { encoding: 'data' } });
	}
});
