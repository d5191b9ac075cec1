import { chromium, test } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import type { Languages } from '../parity/languages';
import type { Cases, Parity } from '../parity/page';

const root = fileURLToPath(new URL('../../', import.meta.url));
const file = (name: string): string => `${root}var/test/parity/${name}`;
const TIMES = 512;
const RUNS = 5;

/** The same points of demo materials in each language that is delivered: what one takes beyond what a single row of them takes, with compiling and reading back. */
test('each language against GLSL', async () => {
	test.setTimeout(900_000);
	mkdirSync(`${root}var/test/parity`, { recursive: true });
	execFileSync('php', ['-d', 'memory_limit=2G', `${root}core/bench/languages.php`, file('languages.json')], { stdio: 'inherit' });
	execFileSync('npx', ['vite', 'build', '--config', 'e2e/parity/vite.config.ts', '--mode', 'page', '--logLevel', 'error'], { cwd: root });
	const { points, packs, cases } = JSON.parse(readFileSync(file('languages.json'), 'utf8')) as Pick<Cases, 'points' | 'packs'> & { cases: { name: string; c: number; languages: Languages }[] };
	const { executablePath, args } = test.info().project.use.launchOptions!;
	const browser = await chromium.launch({ executablePath, args: [...args!, '--enable-unsafe-webgpu', '--use-webgpu-adapter=swiftshader'] });
	const server = createServer((_, answer) => answer.setHeader('Content-Type', 'text/html').end('<title>Bench</title>')).listen(0, '127.0.0.1');
	await once(server, 'listening');
	const took: Record<string, Record<string, number>> = {};
	for (const machine of ['hlsl', 'wgsl'] as const) {
		const page = await browser.newPage();
		await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
		await page.addScriptTag({ path: file('page.js') });
		await page.evaluate(([which, said]) => (window as unknown as Parity).riltaParity.speak(which, said), [machine, { points, packs, cases: [], passes: [], hlsl: {} }] as ['hlsl' | 'wgsl', Cases]);
		for (const { name, languages } of cases) {
			for (const language of machine === 'hlsl' ? (['glsl', 'hlsl'] as const) : (['wgsl'] as const)) {
				(took[name] ??= {})[language] = await page.evaluate(async ([of, one, times, runs]) => {
					const least = async (many: number): Promise<number> => {
						let best = Infinity;
						for (let i = 0; i < runs; i++) best = Math.min(best, await (window as unknown as Parity).riltaParity.timed(of, one, many));
						return best;
					};
					return ((await least(times)) - (await least(1))) / ((times - 1) * one.count);
				}, [language, languages, TIMES, RUNS] as const);
			}
		}
		await page.close();
	}
	server.close();
	await browser.close();
	for (const { name, c } of cases) {
		const { glsl, hlsl, wgsl } = took[name]!;
		const times = (one: number): string => (one / glsl!).toFixed(2);
		console.log(`  ${name}: a point takes ${(1e6 * glsl!).toFixed(0)} ns in GLSL, drawn in software; times that: HLSL (through SPIR-V) ${times(hlsl!)}, WGSL ${times(wgsl!)}, C on one core, in double precision ${times(c)}`);
	}
});
