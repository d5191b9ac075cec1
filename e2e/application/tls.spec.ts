import { expect, test } from './test';
import { execFileSync, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { connect } from 'node:tls';
import { plain, PROJECT } from './bench';

/** A proxy as the guide has it, in front of the server under test. */
const PROXY = process.env.RILTA_PROXY_PORT;
test.skip(PROXY === undefined, 'This server has no port for a proxy.');

const freePort = (): Promise<number> => new Promise((resolve) => {
	const server = createServer().listen(0, '127.0.0.1', () => {
		const { port } = server.address() as { port: number };
		server.close(() => resolve(port));
	});
});

test('behind a proxy that does TLS, cookies are for TLS alone, what is done is told with who asked from where, and what happens is heard', async ({ browser }) => {
	const folder = mkdtempSync(`${tmpdir()}/rilta-tls-`);
	const [http, https] = [await freePort(), await freePort()];
	execFileSync('openssl', ['req', '-x509', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes', '-days', '2', '-subj', '/CN=localhost', '-keyout', `${folder}/key.pem`, '-out', `${folder}/certificate.pem`], { stdio: 'ignore' });
	const values: Record<string, string> = { NAME: 'localhost', CERTIFICATE: `${folder}/certificate.pem`, KEY: `${folder}/key.pem`, PROXY_PORT: PROXY!, HTTP_PORT: `127.0.0.1:${http}`, HTTPS_PORT: `127.0.0.1:${https}` };
	const site = readFileSync('ops/tls.conf', 'utf8').replace(/^#.*\n/gm, '').replace(/@(\w+)@/g, (_, name: string) => values[name]!);
	const paths = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map((one) => `${one}_temp_path ${folder}/${one};`).join(' ');
	writeFileSync(`${folder}/nginx.conf`, `${process.getuid?.() === 0 ? 'user root;' : ''} daemon off; pid ${folder}/pid; events {} http { access_log off; ${paths}\n${site}}`);
	const nginx = spawn('nginx', ['-e', 'stderr', '-c', `${folder}/nginx.conf`], { stdio: ['ignore', 'ignore', 'pipe'] });
	let said = '';
	nginx.stderr.on('data', (bytes: Buffer) => (said += bytes.toString()));
	try {
		const context = await browser.newContext({ baseURL: `https://localhost:${https}`, ignoreHTTPSErrors: true });
		const page = await context.newPage();
		await expect.poll(async () => (await context.request.get('/').catch(() => null))?.status() ?? said).toBe(200);
		// Whoever comes without TLS is led to it, and comes with it for a year.
		const led = await context.request.get(`http://localhost:${http}/${PROJECT}`, { maxRedirects: 0 });
		expect([led.status(), led.headers().location]).toEqual([301, `https://localhost:${http}/${PROJECT}`]);
		const { headers } = { headers: (await context.request.get('/')).headers() };
		expect(headers['strict-transport-security']).toBe('max-age=31536000; includeSubDomains');
		expect(headers['content-security-policy']).toContain("default-src 'self'");
		const older = await new Promise<string>((resolve) => connect({ host: '127.0.0.1', port: https, maxVersion: 'TLSv1.1', minVersion: 'TLSv1', rejectUnauthorized: false, ciphers: 'DEFAULT@SECLEVEL=0' }, () => resolve('connected')).on('error', () => resolve('refused')));
		expect(older).toBe('refused');

		// Nobody is let in because the server itself is open, or because the proxy is on its machine.
		expect((await context.request.get(`/api/projects/${PROJECT}`)).status()).toBe(401);
		expect((await context.request.post('/api/sign-in/begin', { headers: { 'X-Rilta': '1' } })).status()).toBe(403);
		await page.goto(`/sign-in${new URL(execFileSync('bin/rilta', ['link'], { encoding: 'utf8' }).trim()).hash}`);
		const later = page.getByRole('button', { name: 'Later' });
		const projects = page.getByRole('heading', { name: 'Projects' });
		await expect(later.or(projects)).toBeVisible();
		if (await later.isVisible()) await later.click();
		await expect(projects).toBeVisible();
		const cookies = await context.cookies();
		expect(cookies.map(({ name, secure, httpOnly, sameSite, path }) => ({ name: name.replace(/\d+$/, ''), secure, httpOnly, sameSite, path }))).toEqual([{ name: '__Host-rilta-', secure: true, httpOnly: true, sameSite: 'Strict', path: '/' }]);

		// What its own pages ask counts as theirs, what others ask does not.
		const document = plain('Behind a proxy', [0.5, 0.5, 0.5]);
		const status = await page.evaluate(async ([project, body]) => (await fetch(`/api/projects/${project}/materials`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: body! })).status, [PROJECT, JSON.stringify({ document })]);
		expect(status).toBe(201);
		expect((await context.request.post(`/api/projects/${PROJECT}/materials`, { data: { document }, headers: { Origin: 'https://elsewhere.example' } })).status()).toBe(403);
		// Who says to come from elsewhere is told to come from where they do.
		expect((await context.request.post(`/api/projects/${PROJECT}/materials`, { data: { document }, headers: { 'X-Forwarded-For': '203.0.113.9', Forwarded: 'for=203.0.113.9' } })).status()).toBe(201);
		const audit = (await (await context.request.get(`/api/projects/${PROJECT}/audit`)).json()) as { address: string }[];
		expect(audit[0]!.address).toBe('127.0.0.1');
		expect(JSON.stringify(audit)).not.toContain('203.0.113.9');
		// What happens comes as it happens.
		const heard = await page.evaluate((project) => new Promise<string>((resolve) => {
			const events = new EventSource(`/api/projects/${project}/events`);
			events.onopen = () => { resolve('open'); events.close(); };
			events.onerror = () => resolve('error');
		}), PROJECT);
		expect(heard).toBe('open');
		await context.close();
	} finally {
		nginx.kill();
		rmSync(folder, { recursive: true, force: true });
	}
});
