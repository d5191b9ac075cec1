import { expect, test } from './test';
import { execFileSync, spawn } from 'node:child_process';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { fresh, PROJECT } from './bench';

/** Runs bin/rilta with the same folder and ports as the instance under test. */
function rilta(command: string, more: Record<string, string> = {}): string {
	return execFileSync(fileURLToPath(new URL('../../bin/rilta', import.meta.url)), [command], {
		encoding: 'utf8',
		env: { ...process.env, ...more, RILTA_PORT: new URL(process.env.RILTA_ADDRESS ?? '').port }
	});
}

test('everything is as it was left after a restart', async ({ page }) => {
	const id = await fresh(page, 'Left over night');
	expect(rilta('status')).toContain('nginx: running');
	expect(rilta('stop')).toContain('stopped mariadb');
	expect(rilta('status')).toContain('mariadb: not running');
	await expect(page.request.get('/api/projects')).rejects.toThrow();
	expect(rilta('start')).toContain(`Rilta is at ${process.env.RILTA_ADDRESS}/`);
	await page.goto(`/${PROJECT}`);
	await page.getByLabel('Search materials').fill('left over');
	await expect(page.getByRole('link', { name: 'Left over night' }).first()).toBeVisible();
	const response = await page.request.get(`/api/materials/${id}`);
	expect(response.status()).toBe(200);
	expect(rilta('start')).toContain('Ebbwater Station is there already.');
	// With other secrets, from a file that something else keeps.
	const secrets = `${process.env.RILTA_DATA}/other secrets`;
	writeFileSync(secrets, readFileSync(`${process.env.RILTA_DATA}/secrets`, 'utf8').replace(/^PASSWORD=.*$/m, 'PASSWORD=another0word'), { mode: 0o600 });
	expect(() => rilta('status', { RILTA_SECRETS: `${secrets}.away` })).toThrow(/expected a file that can be read/);
	rilta('stop');
	expect(rilta('start', { RILTA_SECRETS: secrets })).toContain(`Rilta is at ${process.env.RILTA_ADDRESS}/`);
	expect((await page.request.get(`/api/materials/${id}`)).status()).toBe(200);
	expect(rilta('link', { RILTA_SECRETS: secrets })).toContain('/sign-in#');
	expect(() => rilta('link')).toThrow();
	rilta('stop');
	rmSync(secrets);
	// After a machine was killed, numbers of its processes are somebody else's; what is left of a service goes.
	const services = `${process.env.RILTA_DATA}/run/services`;
	const [foreign, left] = [process.cwd(), `${services}/events`].map((cwd) => spawn('sleep', ['600'], { cwd, detached: true, stdio: 'ignore' }));
	writeFileSync(`${services}/supplier/group`, String(foreign!.pid));
	writeFileSync(`${services}/events/group`, String(left!.pid));
	rilta('stop');
	await expect.poll(() => [foreign!.signalCode, left!.signalCode]).toEqual([null, 'SIGKILL']);
	foreign!.kill();
	expect(rilta('start')).toContain(`Rilta is at ${process.env.RILTA_ADDRESS}/`);
	expect((await page.request.get(`/api/materials/${id}`)).status()).toBe(200);
});
