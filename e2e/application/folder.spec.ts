import { expect, test } from './test';
import { execFile, execFileSync } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { fresh, library, PROJECT, shelf } from './bench';

const BIN = fileURLToPath(new URL('../../bin/rilta', import.meta.url));
const ENV = { ...process.env, RILTA_PORT: new URL(process.env.RILTA_ADDRESS ?? '').port };
const rilta = (...command: string[]): string => execFileSync(BIN, command, { encoding: 'utf8', env: ENV });

/** All that a folder says, by file; numbers are those of a server, the name is a project's own. */
const said = (folder: string): Record<string, string> =>
	Object.fromEntries(readdirSync(folder, { recursive: true, withFileTypes: true })
		.filter((one) => one.isFile() && !one.parentPath.includes('.rilta') && !['numbers.json', 'project.json'].includes(one.name))
		.map((one) => [join(one.parentPath, one.name).slice(folder.length), readFileSync(join(one.parentPath, one.name), 'latin1')] as const)
		.sort(([a], [b]) => a.localeCompare(b)));

test('the demo goes into a folder of text and comes back as it was; what is changed there is seen', async ({ page }) => {
	const root = mkdtempSync(join(tmpdir(), 'rilta-folder-'));
	const [one, other] = [join(root, 'one'), join(root, 'other')];
	const id = await fresh(page, 'Kept as text');
	rilta('checkout', PROJECT, one);
	expect(Object.keys(said(one)).filter((name) => name.startsWith('/materials/')).length).toBeGreaterThan(33);
	expect(rilta('commit', one)).toContain('The server has all that the folder has.');

	// All of it is made again, and says the same.
	const slug = / is at \/([^;]+);/.exec(rilta('commit', one, '--as', 'Out of a folder'))![1]!;
	rilta('checkout', slug, other);
	const names = (folder: string): string[] => Object.keys(said(folder));
	expect(names(other).filter((name) => name.startsWith('/sets/') || name.startsWith('/files/'))).toEqual(names(one).filter((name) => name.startsWith('/sets/') || name.startsWith('/files/')));
	expect(Object.values(said(other)).sort()).toEqual(Object.values(said(one)).sort());
	await page.request.patch(`/api/projects/${slug}`, { headers: { 'X-Rilta': '1' }, data: { archived: true } });

	// A name that is changed in the text is on the shelf.
	const file = join(one, 'materials/kept-as-text.json');
	writeFileSync(file, readFileSync(file, 'utf8').replace('"Kept as text"', '"Written by hand"'));
	expect(rilta('commit', one)).toContain('materials/kept-as-text.json/name: "Kept as text" → "Written by hand"');
	await page.goto(`/${PROJECT}`);
	await page.getByLabel('Search materials').fill('written by hand');
	await expect(page.getByRole('link', { name: 'Written by hand' }).first()).toBeVisible();
	expect((await shelf(page)).find((card) => card.id === id)?.name ?? 'Written by hand').toBe('Written by hand');
	rmSync(root, { recursive: true });
});

test('of two who commit at once both are heard, or one is told', async ({ page }) => {
	const root = mkdtempSync(join(tmpdir(), 'rilta-folder-'));
	const folders = ['one', 'two'].map((name) => join(root, name)) as [string, string];
	rilta('checkout', PROJECT, folders[0]);
	cpSync(folders[0], folders[1], { recursive: true });
	const change = (folder: string, set: string, extent: number): void => {
		const file = join(folder, `sets/${set}.json`);
		writeFileSync(file, readFileSync(file, 'utf8').replace(/"extent": [\d.]+/, `"extent": ${extent}`));
	};
	const both = (): Promise<PromiseSettledResult<unknown>[]> => Promise.allSettled(folders.map((folder) => promisify(execFile)(BIN, ['commit', folder], { env: ENV })));
	const extent = async (name: string): Promise<number> => (await library(page, name))!.extent;
	const before = { brine: await extent('brine'), 'sea-wall': await extent('sea-wall') };

	// Different things: both are there.
	change(folders[0], 'brine', 3.25);
	change(folders[1], 'sea-wall', 4.25);
	expect((await both()).map((one) => one.status)).toEqual(['fulfilled', 'fulfilled']);
	expect([await extent('brine'), await extent('sea-wall')]).toEqual([3.25, 4.25]);

	// The same one: who comes second is told what the first did, and nothing is overwritten.
	for (const folder of folders) rilta('checkout', PROJECT, folder);
	change(folders[0], 'brine', 5.5);
	change(folders[1], 'brine', 6.5);
	const said = await both();
	expect(said.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected']);
	const lost = said.findIndex((one) => one.status === 'rejected');
	expect(String((said[lost] as PromiseRejectedResult & { reason: { stdout: string } }).reason.stdout)).toMatch(/sets\/brine\.json\/extent: folder: [56]\.5, server: [56]\.5/);
	expect(await extent('brine')).toBe([5.5, 6.5][1 - lost]);

	// As it was, for the tests that follow.
	for (const [set, metres] of Object.entries(before)) change(folders[1 - lost]!, set, metres);
	rilta('checkout', PROJECT, folders[1 - lost]!);
	rilta('commit', folders[1 - lost]!);
	expect(await extent('brine')).toBe(before.brine);
	rmSync(root, { recursive: true });
});
