import { expect, test, type Browser, type Page } from './test';
import { execFileSync, spawnSync } from 'node:child_process';
import { createHmac } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { plain, PROJECT } from './bench';

/** Where people sign in: the same server as everywhere, by another port. */
const CLOSED = `http://127.0.0.1:${process.env.RILTA_CLOSED_PORT ?? ''}`;
const PASSWORD = 'grey herons at low tide';

test.describe.configure({ mode: 'serial' });
test.skip(process.env.RILTA_CLOSED_PORT === undefined, 'This server has no port where people sign in.');

/** What an app shows now for a secret (RFC 6238). */
function codeOf(secret: string): string {
	const bits = [...secret].map((letter) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(letter).toString(2).padStart(5, '0')).join('');
	const key = Buffer.from(bits.match(/.{8}/g)!.map((eight) => parseInt(eight, 2)));
	const step = Buffer.alloc(8);
	step.writeBigUInt64BE(BigInt(Math.floor(Date.now() / 30000)));
	const hash = createHmac('sha1', key).update(step).digest();
	const at = hash[19]! & 15;
	return String((hash.readUInt32BE(at) & 0x7fffffff) % 1_000_000).padStart(6, '0');
}
const page_ = async (browser: Browser): Promise<Page> => (await browser.newContext({ baseURL: CLOSED })).newPage();
const link = (): string => `/sign-in${new URL(execFileSync('bin/rilta', ['link'], { encoding: 'utf8' }).trim()).hash}`;
const asOwner = async (browser: Browser): Promise<Page> => {
	const page = await page_(browser);
	await page.goto(link());
	// The first time a password is chosen, or left for later.
	const later = page.getByRole('button', { name: 'Later' });
	const projects = page.getByRole('heading', { name: 'Projects' });
	await expect(later.or(projects)).toBeVisible();
	if (await later.isVisible()) await later.click();
	await expect(projects).toBeVisible();
	return page;
};

test('nobody comes in who is not known; the owner is in the demo within one click, or by a link that counts once', async ({ browser }) => {
	const page = await page_(browser);
	await page.goto(`/${PROJECT}`);
	await expect(page.getByRole('region', { name: 'Sign in' })).toBeVisible();
	expect((await page.request.get(`/api/projects/${PROJECT}`)).status()).toBe(401);
	expect((await page.request.get(`/api/projects/${PROJECT}/events`)).status()).toBe(401);
	await page.getByLabel('E-mail address').fill('nobody@ebbwater.example');
	await page.getByLabel('Password').fill('not this one, surely');
	await page.getByRole('button', { name: 'Sign in', exact: true }).click();
	await expect(page.getByRole('alert')).toContainText('do not belong together');
	const begin = page.getByRole('button', { name: 'Begin', exact: true });
	if (await begin.isVisible()) {
		// Nobody was here before.
		await begin.click();
		await expect(page.getByRole('link', { name: /Laboratory wall/ })).toBeVisible();
	}
	const once = link();
	const other = await page_(browser);
	await other.goto(once);
	await expect(other.getByText('You are in').or(other.getByRole('heading', { name: 'Projects' }))).toBeVisible();
	// What it showed is in no history.
	expect(other.url()).not.toContain(once.split('#')[1]!);
	// Nor is what happens elsewhere heard.
	const unheard = await other.request.get('/api/projects/nowhere/events');
	expect([unheard.status(), ((await unheard.json()) as { detail: string }).detail]).toEqual([403, 'What happens there is not yours to hear, or there is no such project.']);
	const third = await page_(browser);
	await third.goto(once);
	await expect(third.getByRole('alert')).toContainText('used already');
});

test('somebody is invited, looks without changing anything, and changes once they may; signed out in the middle, nothing is lost', async ({ browser }) => {
	const email = `bo-${Date.now()}@ebbwater.example`;
	const owner = await asOwner(browser);
	const { id } = (await (await owner.request.post(`/api/projects/${PROJECT}/materials`, { data: { document: plain('Shared board', [0.5, 0.5, 0.5]) } })).json()) as { id: number };
	await owner.goto(`/${PROJECT}`);
	const menu = owner.getByRole('button', { name: /^You:/ });
	await menu.click();
	await owner.getByRole('menuitem', { name: 'People of the project' }).click();
	const people = owner.getByRole('dialog');
	await people.getByLabel('E-mail address').fill(email);
	await people.getByLabel('Name', { exact: true }).fill('Bo');
	await people.getByLabel('Role', { exact: true }).selectOption('viewer');
	await people.getByRole('button', { name: 'Invite' }).click();
	await expect(people.getByRole('row', { name: new RegExp(email) })).toContainText('invited');
	await people.getByRole('button', { name: 'Close' }).click();
	await menu.click();
	await owner.getByRole('menuitem', { name: 'Outbox' }).click();
	const mail = owner.getByRole('article', { name: `Mail to ${email}` });
	await expect(mail).toContainText('has made you a viewer of the project “Ebbwater Station”');
	const way = /\/sign-in#\S+/.exec(await mail.innerText())![0];
	// Who came in or could not is told, to whoever looks after the server.
	await owner.getByRole('button', { name: 'Close' }).click();
	await menu.click();
	await owner.getByRole('menuitem', { name: 'Sign-ins and accounts' }).click();
	const came = owner.getByRole('table', { name: 'What was done' });
	await owner.getByRole('searchbox', { name: 'Search' }).fill('failed');
	await expect(came.getByRole('row', { name: /nobody@ebbwater\.example.*failed to sign in.*127\.0\.0\.1/ }).first()).toBeVisible();
	await owner.getByRole('searchbox', { name: 'Search' }).fill('nobody ever');
	await expect(came).toContainText('Nothing with “nobody ever” was done.');

	// By the link; a password that everybody tries first is not taken.
	const guest = await page_(browser);
	await guest.goto(way);
	await guest.getByLabel('Password').fill('password1234');
	await guest.getByRole('button', { name: 'Choose it, and go on' }).click();
	await expect(guest.getByRole('alert')).toContainText('everybody tries first');
	await guest.getByLabel('Password').fill(PASSWORD);
	await guest.getByRole('button', { name: 'Choose it, and go on' }).click();
	await guest.getByRole('link', { name: /Ebbwater Station/ }).click();
	await expect(guest.getByRole('button', { name: 'New material' })).toBeDisabled();
	const stored = async (): Promise<string> => ((await (await owner.request.get(`/api/materials/${id}`)).json()) as { document: { name: string } }).document.name;
	const name = guest.getByRole('textbox', { name: 'Name of the material' });
	const call = async (what: string): Promise<void> => {
		await name.fill(what);
		await name.press('Enter');
	};
	// What is tried stays in the tab.
	await guest.goto(`/${PROJECT}/materials/${id}`);
	await call('Tried');
	await expect(guest.getByTestId('saving')).toHaveText('Looking: what you try stays in this tab');
	await guest.waitForTimeout(2500);
	expect(await stored()).toBe('Shared board');
	expect((await guest.request.patch(`/api/materials/${id}`, { data: { name: 'Mine' } })).status()).toBe(403);

	// As an editor.
	const members = (await (await owner.request.get(`/api/projects/${PROJECT}/people`)).json()) as { id: number; email: string }[];
	const bo = members.find((one) => one.email === email)!;
	expect((await owner.request.patch(`/api/projects/${PROJECT}/people/${bo.id}`, { data: { role: 'editor' } })).status()).toBe(200);
	await guest.reload();
	await call('Written');
	await expect(guest.getByTestId('saving')).toHaveText('Saved');
	expect(await stored()).toBe('Written');

	// Signed out elsewhere: what was changed waits, and is stored once they are back.
	await guest.context().clearCookies();
	await call('Kept');
	const again = guest.getByRole('region', { name: 'Sign in' });
	await expect(again).toBeVisible();
	expect(await stored()).toBe('Written');
	await again.getByLabel('E-mail address').fill(email);
	await again.getByLabel('Password').fill(PASSWORD);
	await again.getByRole('button', { name: 'Sign in', exact: true }).click();
	await expect(again).toBeHidden();
	await expect(guest.getByTestId('saving')).toHaveText('Saved');
	expect(await stored()).toBe('Kept');

	// What was done is told, and by whom.
	await owner.getByRole('button', { name: 'Close' }).click();
	await menu.click();
	await owner.getByRole('menuitem', { name: 'People of the project' }).click();
	await people.getByText('What was done').click();
	await expect(people.getByRole('table', { name: 'What was done' }).getByRole('row', { name: /Bo.*material: save.*materials/ }).first()).toBeVisible();
});

test('a token lets a program in until it is taken away; an open server says so', async ({ browser, page, request }) => {
	const owner = await asOwner(browser);
	await owner.getByRole('button', { name: /^You:/ }).click();
	await owner.getByRole('menuitem', { name: 'Your account' }).click();
	const sheet = owner.getByRole('dialog');
	const name = `Pipeline ${Date.now()}`;
	await sheet.getByLabel('Name of the token').fill(name);
	await sheet.getByRole('button', { name: 'Make a token' }).click();
	const secret = (await sheet.getByRole('status').locator('code').innerText()).trim();
	const headers = { Authorization: `Bearer ${secret}`, 'X-Rilta': '1' };
	expect((await request.get(`${CLOSED}/api/projects/${PROJECT}`, { headers })).status()).toBe(200);
	expect((await request.post(`${CLOSED}/api/projects/${PROJECT}/materials`, { headers, data: {} })).status()).toBe(403);
	// The command line goes in by it, and no further than that.
	const folder = mkdtempSync(`${tmpdir()}/rilta-afar-`);
	const afar = (token: string, ...args: string[]): string => {
		const { stdout, stderr } = spawnSync('bin/rilta', ['--server', CLOSED, ...args], { encoding: 'utf8', env: { ...process.env, RILTA_TOKEN: token } });
		return stdout + stderr;
	};
	expect(afar(secret, 'checkout', PROJECT, folder)).toContain(`is in ${folder}`);
	const wall = `${folder}/materials/long-wall-run.json`;
	writeFileSync(wall, readFileSync(wall, 'utf8').replace('"name": "Long wall run"', '"name": "Longer wall run"'));
	expect(afar(secret, 'commit', folder)).toContain('This token is not for that: it would have to be for "write".');
	expect(afar(secret, 'bake', PROJECT, 'Long wall run', '--size', '64', '--out', folder)).toContain('"bake"');
	expect(afar('', 'checkout', PROJECT, folder)).toContain('wants to know who asks');
	rmSync(folder, { recursive: true });
	await sheet.getByRole('button', { name: `Take ${name} away` }).click();
	await expect(sheet.getByText(name)).toHaveCount(0);
	expect((await request.get(`${CLOSED}/api/projects/${PROJECT}`, { headers })).status()).toBe(401);
	// Where nobody signs in, every page says so.
	await page.goto(`/${PROJECT}`);
	await expect(page.getByTitle(/^Whoever reaches this address may do everything/)).toHaveText('Open');
});

test('whoever signs out leaves nothing behind, and is asked before what is not stored is thrown away; the lead signs somebody out', async ({ browser }) => {
	const owner = await asOwner(browser);
	const { id } = (await (await owner.request.post(`/api/projects/${PROJECT}/materials`, { data: { document: plain('Left behind', [0.5, 0.5, 0.5]) } })).json()) as { id: number };
	await owner.goto(`/${PROJECT}/materials/${id}`);
	const name = owner.getByRole('textbox', { name: 'Name of the material' });
	await expect(name).toHaveValue('Left behind');
	await owner.route(`**/api/materials/${id}`, (route) => (route.request().method() === 'PUT' ? route.abort('connectionrefused') : route.continue()));
	await name.fill('Not stored');
	await name.press('Enter');
	await expect(owner.getByTestId('saving')).toHaveText(/No connection/);
	const signOut = async (): Promise<void> => {
		await owner.getByRole('button', { name: /^You:/ }).click();
		await owner.getByRole('menuitem', { name: 'Sign out' }).click();
	};
	const kept = (): Promise<number> => owner.evaluate(() => new Promise<number>((done) => {
		const open = indexedDB.open('rilta-drafts');
		open.onsuccess = () => { const all = open.result.transaction('drafts').objectStore('drafts').getAllKeys(); all.onsuccess = () => done(all.result.length); };
	}));
	expect(await kept()).toBe(1);
	await signOut();
	const asked = owner.getByRole('dialog', { name: 'Not everything is stored' });
	await expect(asked).toContainText('Changes of a material are in this browser alone');
	await asked.getByRole('button', { name: 'Stay' }).click();
	await expect(name).toHaveValue('Not stored');
	await signOut();
	await asked.getByRole('button', { name: 'Sign out and throw them away' }).click();
	await expect(owner.getByRole('region', { name: 'Sign in' })).toBeVisible();
	expect([await kept(), await owner.evaluate(() => Object.keys(localStorage).filter((key) => key.startsWith('rilta-eye')).length)]).toEqual([0, 0]);

	// Somebody is out everywhere, at once, because whoever looks after the server says so.
	const [lead, lost] = [await asOwner(browser), await asOwner(browser)];
	await lead.getByRole('button', { name: /^You:/ }).click();
	await lead.getByRole('menuitem', { name: 'Sign-ins and accounts' }).click();
	const whom = lead.getByLabel('Whom to sign out: their e-mail address');
	await whom.fill('nobody@ebbwater.example');
	await lead.getByRole('button', { name: 'Sign out', exact: true }).click();
	await expect(lead.getByText('Nobody has the address nobody@ebbwater.example.')).toBeVisible();
	const { person } = (await (await lead.request.get('/api/me')).json()) as { person: { email: string } };
	await whom.fill(person.email);
	await lead.getByRole('button', { name: 'Sign out', exact: true }).click();
	await expect.poll(async () => (await lost.request.get('/api/projects')).status()).toBe(401);
});

test('where codes are asked for, nothing is seen before they are turned on', async ({ browser }) => {
	const owner = await page_(browser);
	// As on a server with RILTA_CODES=1.
	await owner.route('**/api/me', async (route) => {
		const response = await route.fetch();
		await route.fulfill({ response, json: { ...((await response.json()) as object), codes: true } });
	});
	await owner.goto(link());
	const later = owner.getByRole('button', { name: 'Later' });
	const owes = owner.getByText('One-time codes are asked for here beside passwords');
	await expect(later.or(owes)).toBeVisible();
	if (await later.isVisible()) await later.click();
	await expect(owes).toBeVisible();
	await expect(owner.getByRole('heading', { name: 'Projects' })).toHaveCount(0);
	await owner.getByRole('button', { name: 'Turn them on' }).click();
	const secret = await owner.locator('code').innerText();
	expect(secret).toMatch(/^[A-Z2-7]{32}$/);
	await owner.getByLabel('The code that the app shows').fill('000000');
	await owner.getByRole('button', { name: 'Turn them on' }).click();
	await expect(owner.getByRole('alert')).toContainText('no code of now');
	const shown = codeOf(secret);
	await owner.getByLabel('The code that the app shows').fill(shown);
	await owner.getByRole('button', { name: 'Turn them on' }).click();
	await expect(owner.getByRole('status')).toContainText('Write these down');
	const [paper] = (await owner.locator('.paper').innerText()).split(/\s+/);
	await owner.getByRole('button', { name: 'I have written them down' }).click();
	await expect(owner.getByRole('heading', { name: 'Projects' })).toBeVisible();
	expect((await owner.request.delete('/api/me/codes', { data: { code: paper } })).status()).toBe(204);
});

test('two work on one material: each sees who is there and the other’s numbers move; nobody loses anything, and undoes what is theirs', async ({ browser }) => {
	const owner = await asOwner(browser);
	const other = await asOwner(browser);
	const lane = { id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: { seam: 10 } }, { step: 'size', on: true, values: { u: 2 } }] };
	const { id } = (await (await owner.request.post(`/api/projects/${PROJECT}/materials`, { data: { document: { ...plain('Board of two', [0.5, 0.4, 0.3]), lanes: [lane] } } })).json()) as { id: number };
	const values = async (): Promise<Record<string, unknown>[]> => ((await (await owner.request.get(`/api/materials/${id}`)).json()) as { document: { lanes: { steps: { values: Record<string, unknown> }[] }[] } }).document.lanes[0]!.steps.map((one) => one.values);
	await owner.goto(`/${PROJECT}/materials/${id}`);
	await other.goto(`/${PROJECT}/materials/${id}`);
	for (const page of [owner, other]) await expect(page.getByRole('list', { name: 'Who else is here' }).getByRole('listitem')).toHaveCount(1);
	const seam = (page: Page) => page.getByRole('region', { name: 'Values' }).getByRole('spinbutton', { name: 'Seam width', exact: true });
	const size = (page: Page) => page.getByRole('region', { name: 'Values' }).getByRole('spinbutton', { name: 'Size', exact: true });
	const put = async (field: ReturnType<typeof seam>, value: string): Promise<void> => {
		await field.click();
		await field.page().keyboard.type(value);
		await field.page().keyboard.press('Enter');
	};
	// Two values at once: both are there, everywhere.
	await other.getByRole('button', { name: /^Size/ }).first().click();
	await Promise.all([put(seam(owner), '30'), put(size(other), '5')]);
	for (const page of [owner, other]) await expect(page.getByTestId('saving')).toHaveText('Saved');
	await expect.poll(values).toMatchObject([{ seam: 30 }, { u: 5 }]);
	await owner.getByRole('button', { name: /^Size/ }).first().click();
	await expect(size(owner)).toHaveAttribute('aria-valuenow', '5');
	// The other's next number comes by itself, soon after it is stored.
	await put(size(other), '6');
	await expect(other.getByTestId('saving')).toHaveText('Saved');
	await expect(size(owner)).toHaveAttribute('aria-valuenow', '6');
	// A drag is seen as it goes, while it goes on; it is one step back and one version.
	const versions = async (): Promise<number> => ((await (await owner.request.get(`/api/materials/${id}/revisions`)).json()) as unknown[]).length;
	const kept = await versions();
	const track = (await size(other).boundingBox())!;
	await other.mouse.move(track.x + track.width / 2, track.y + track.height / 2);
	await other.mouse.down();
	const seen = new Set<string>();
	let moves = 0;
	await expect
		.poll(
			async () => {
				await other.mouse.move(track.x + track.width / 2 + 6 * (++moves % 12), track.y + track.height / 2);
				return seen.add((await size(owner).getAttribute('aria-valuenow')) ?? '').size;
			},
			{ intervals: [150] }
		)
		.toBeGreaterThan(4);
	await other.mouse.up();
	await expect(other.getByTestId('saving')).toHaveText('Saved');
	await expect(size(owner)).toHaveAttribute('aria-valuenow', (await size(other).getAttribute('aria-valuenow'))!);
	await expect.poll(versions).toBe(kept + 1);
	await other.getByRole('button', { name: 'Undo' }).click();
	await expect(size(owner)).toHaveAttribute('aria-valuenow', '6');
	// Undone is what was done here: the seam, not the other's size.
	await owner.getByRole('button', { name: 'Undo' }).click();
	await expect.poll(values).toMatchObject([{ seam: 10 }, { u: 6 }]);
	// The same value: the later counts, whoever was first is told and takes it back.
	let goOn = (): void => undefined;
	const other8 = new Promise<void>((resolve) => (goOn = resolve));
	await owner.route(`**/api/materials/${id}`, async (route) => {
		if (route.request().method() === 'PUT') await other8;
		await route.continue();
	});
	await put(size(owner), '7');
	await put(size(other), '8');
	await expect.poll(async () => (await values())[1]).toMatchObject({ u: 8 });
	goOn();
	const told = other.getByText(/has set what you had set/);
	await expect(told).toBeVisible();
	expect((await values())[1]).toMatchObject({ u: 7 });
	await other.getByRole('button', { name: 'Take mine back' }).click();
	await expect.poll(async () => (await values())[1]).toMatchObject({ u: 8 });
	await owner.unroute(`**/api/materials/${id}`);
	await expect(size(owner)).toHaveAttribute('aria-valuenow', '8');
	// A lost connection loses nothing: what was stored meanwhile is there once it is back.
	await owner.context().setOffline(true);
	await put(size(other), '9');
	await expect(other.getByTestId('saving')).toHaveText('Saved');
	await owner.context().setOffline(false);
	await expect(size(owner)).toHaveAttribute('aria-valuenow', '9');
	// The process that tells is killed, and comes back: they are heard again.
	const events = `${process.env.RILTA_DATA}/run/services/events/supervise/pid`;
	const before = Number(readFileSync(events, 'utf8'));
	process.kill(before, 'SIGKILL');
	await put(size(other), '11');
	await expect(size(owner)).toHaveAttribute('aria-valuenow', '11');
	await expect(owner.getByRole('list', { name: 'Who else is here' }).getByRole('listitem')).toHaveCount(1);
	expect(Number(readFileSync(events, 'utf8'))).not.toBe(before);
	// The stage as well: both put the same object elsewhere at the same moment, and each takes back what is theirs.
	const along = (page: Page, axis: string) => page.getByRole('region', { name: 'Values' }).getByRole('spinbutton', { name: `Position ${axis}`, exact: true });
	for (const page of [owner, other]) await page.getByRole('button', { name: /^Cube 1×1×1/ }).click();
	const x = (await along(owner, 'X').getAttribute('aria-valuenow'))!;
	const turned = (page: Page) => page.getByRole('region', { name: 'Values' }).getByRole('spinbutton', { name: 'Turn Y', exact: true });
	const turn = (await turned(other).getAttribute('aria-valuenow'))!;
	await Promise.all([put(along(owner, 'X'), '-4'), put(turned(other), '33')]);
	for (const page of [owner, other]) {
		await expect(along(page, 'X')).toHaveAttribute('aria-valuenow', '-4');
		await expect(turned(page)).toHaveAttribute('aria-valuenow', '33');
	}
	await owner.getByRole('button', { name: 'Undo' }).click();
	for (const page of [owner, other]) {
		await expect(along(page, 'X')).toHaveAttribute('aria-valuenow', x);
		await expect(turned(page)).toHaveAttribute('aria-valuenow', '33');
	}
	await other.getByRole('button', { name: 'Undo' }).click();
	for (const page of [owner, other]) await expect(turned(page)).toHaveAttribute('aria-valuenow', turn);
	// Where the other looks is seen on the stage, as long as they wish it.
	const mark = owner.getByRole('img', { name: /looks from here$/ });
	const ahead = (page: Page, position: [number, number, number]): Promise<void> => page.evaluate((at) => (window.riltaStage as unknown as { eye: { go: (place: object) => void } }).eye.go({ position: at, target: [0, 0.5, 0] }), position);
	await ahead(owner, [0, 1, 9]);
	await ahead(other, [1.5, 1, 3]);
	await expect(mark).toBeVisible();
	const first = (await mark.boundingBox())!;
	await ahead(other, [-1.5, 1, 3]);
	await expect.poll(async () => (await mark.boundingBox())!.x).toBeLessThan(first.x - 50);
	await other.getByRole('button', { name: 'Places', exact: true }).click();
	await other.getByRole('menuitem', { name: 'Hide from others where I look' }).click();
	await expect(mark).toHaveCount(0);
	await other.close();
	await expect(owner.getByRole('list', { name: 'Who else is here' })).toHaveCount(0);
});

test('a guest comes by a link, says something of a point on the stage, and is out when the link is taken back; whoever asked resolves it', async ({ browser }) => {
	const owner = await asOwner(browser);
	const { id } = (await (await owner.request.post(`/api/projects/${PROJECT}/materials`, { data: { document: plain('Reviewed board', [0.3, 0.5, 0.4]) } })).json()) as { id: number };
	const stages = (await (await owner.request.get(`/api/projects/${PROJECT}/stages`)).json()) as { stages?: { id: number; name: string }[] } & { id: number; name: string }[];
	const small = (stages.stages ?? stages).find((one) => one.name === 'Small stage')!;
	await owner.request.put(`/api/materials/${id}/stage`, { headers: { 'X-Rilta': '1' }, data: { stage: small.id } });
	await owner.goto(`/${PROJECT}/materials/${id}`);
	await owner.getByRole('button', { name: /^You:/ }).click();
	await owner.getByRole('menuitem', { name: 'People of the project' }).click();
	const people = owner.getByRole('dialog');
	await people.getByText('Links for guests').click();
	const name = `Harbour office ${Date.now()}`;
	await people.getByLabel('For whom').fill(name);
	await people.getByRole('button', { name: 'Make a link' }).click();
	const address = new URL(await people.getByRole('status').locator('code').innerText());
	await people.getByRole('button', { name: 'Close', exact: true }).click();

	// Without an account, where the link leads.
	const guest = await page_(browser);
	await guest.goto(`/look${address.hash}`);
	await guest.waitForURL(new RegExp(`/materials/${id}$`));
	await guest.waitForFunction(() => window.riltaStage?.rests === true);
	await expect(owner.getByRole('list', { name: 'Who else is here' })).toContainText(name);
	const stage = guest.getByLabel(/^Stage:/);
	const box = (await stage.boundingBox())!;
	await guest.mouse.click(box.x + box.width / 2, box.y + box.height * 0.6);
	await expect(guest.getByRole('region', { name: 'Trail' })).toBeVisible();
	await guest.getByRole('button', { name: /^Comments/ }).click();
	const panel = guest.getByRole('region', { name: 'Comments' });
	await expect(panel.getByLabel('Of what')).toHaveValue('point');
	await panel.getByLabel('Comment', { exact: true }).fill('Too green for a wall by the sea.');
	await panel.getByRole('button', { name: 'Say it' }).click();
	await expect(panel.getByRole('listitem', { name: `Comment by ${name}` })).toContainText('A point of');

	// The owner sees it without asking, goes there, answers and resolves it.
	const count = owner.getByRole('button', { name: 'Comments, 1 open' });
	await expect(count).toBeVisible();
	await count.click();
	const said = owner.getByRole('region', { name: 'Comments' }).getByRole('listitem', { name: `Comment by ${name}` });
	await said.getByTitle('Goes there').click();
	const [pin] = ((await (await owner.request.get(`/api/materials/${id}/comments`)).json()) as { pin: { eye: number[]; position: number[]; object: string; trail: string } }[]).map((one) => one.pin);
	expect(pin!.trail).toContain('Origin');
	await expect.poll(() => owner.evaluate(() => (window.riltaStage as unknown as { eye: { place: { position: number[] } } }).eye.place.position.map((x) => Math.round(x * 100)))).toEqual(pin!.eye.slice(0, 3).map((x) => Math.round(x * 100)));
	await said.getByRole('button', { name: 'Answer' }).click();
	await said.getByLabel('Answer').fill('It is the lichen.');
	await said.getByRole('button', { name: 'Answer' }).click();
	await expect(panel).toContainText('It is the lichen.');
	await said.getByRole('button', { name: 'Resolve' }).click();
	await expect(panel.getByText('Resolved (1)')).toBeVisible();
	expect((await guest.request.patch(`/api/materials/${id}`, { data: { name: 'Mine' } })).status()).toBe(403);

	// As it is, it is approved; what is changed since is told in words.
	const approval = owner.getByRole('group', { name: 'Approval' });
	await approval.getByRole('button', { name: 'Approve it as it is' }).click();
	await expect(approval).toContainText('As it is, approved by Owner');
	await expect(panel.getByRole('group', { name: 'Approval' })).toContainText('As it is, approved by Owner');
	const title = owner.getByRole('textbox', { name: 'Name of the material' });
	await title.fill('Reviewed wall');
	await title.press('Enter');
	await expect(approval).toContainText('was approved by Owner. Changed since:');

	// Taken back: the guest is out.
	const links = (await (await owner.request.get(`/api/projects/${PROJECT}/links`)).json()) as { id: number; name: string }[];
	expect((await owner.request.delete(`/api/projects/${PROJECT}/links/${links.find((one) => one.name === name)!.id}`, { headers: { 'X-Rilta': '1' } })).status()).toBe(204);
	await guest.reload();
	await expect(guest.getByRole('region', { name: 'Sign in' })).toBeVisible();
});
