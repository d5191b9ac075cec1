import { expect, test } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { fresh, PROJECT, shelf } from './bench';

function rilta(...command: string[]): string {
	return execFileSync(fileURLToPath(new URL('../../bin/rilta', import.meta.url)), command, { encoding: 'utf8', env: { ...process.env, RILTA_PORT: new URL(process.env.RILTA_ADDRESS ?? '').port } });
}

/** All that a folder says, by file; numbers are those of a server, the name is a project's own. */
const said = (folder: string): Record<string, string> =>
	Object.fromEntries(readdirSync(folder, { recursive: true, withFileTypes: true })
		.filter((one) => one.isFile() && !one.parentPath.includes('.rilta') && !['numbers.json', 'project.json'].includes(one.name))
		.map((one) => [join(one.parentPath, one.name).slice(folder.length), readFileSync(join(one.parentPath, one.name), 'latin1')] as const)
		.sort(([a], [b]) => a.localeCompare(b)));

test('the demo goes into a folder of text and comes back as it was; what is changed there is seen', async ({ page }) => {
	test.setTimeout(180_000);
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
