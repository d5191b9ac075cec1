import { defineConfig } from '@playwright/test';

// Tests that run beside each other have an application each (ops/test.sh): what ends in _1 is of the second one.
const worker = process.env.TEST_PARALLEL_INDEX ?? '0';
for (const [name, value] of Object.entries(process.env)) if (name.startsWith('RILTA_') && name.endsWith(`_${worker}`)) process.env[name.slice(0, -2)] = value;

const CHROMIUM = process.env.RILTA_CHROMIUM ?? '/usr/bin/chromium';
const ARGS = [
	'--no-sandbox',
	'--disable-quic',
	'--no-first-run',
	'--disable-background-networking',
	'--disable-component-update',
	'--disable-sync',
	'--use-angle=swiftshader',
	'--enable-unsafe-swiftshader',
	'--ignore-gpu-blocklist',
	// A busy machine takes long to compile; that is no reason to take the device away.
	'--disable-gpu-watchdog',
	// The page is put together without the device: what it draws in software is the stage alone.
	'--disable-gpu-compositing'
];

/** Debian's Chromium, headless, drawing in software. RILTA_ADDRESS says where the application is. */
export default defineConfig({
	testDir: '.',
	outputDir: '../var/test/playwright',
	fullyParallel: false,
	workers: 1,
	retries: 0,
	// Machines that are shared may be several times as slow as they were a minute ago: what takes long is no failure.
	timeout: 600_000,
	expect: { timeout: 120_000 },
	reporter: [['list']],
	use: {
		baseURL: process.env.RILTA_ADDRESS,
		viewport: { width: 1280, height: 800 },
		// Half as sharp: drawing in software takes a quarter of the time, and nothing that is tested is smaller.
		deviceScaleFactor: 0.5,
		screenshot: 'only-on-failure',
		launchOptions: {
			executablePath: CHROMIUM,
			args: ARGS
		}
	},
	projects: [
		// WebGPU as well, in software.
		{ name: 'parity', testDir: 'parity', use: { launchOptions: { executablePath: CHROMIUM, args: [...ARGS, '--enable-unsafe-webgpu', '--use-webgpu-adapter=swiftshader'] } } },
		{ name: 'bench', testDir: 'bench', use: { deviceScaleFactor: 1 } },
		{ name: 'attack', testDir: 'attack' },
		// The distance strip is folded but where it is what is tested: tests point at places of the stage.
		{ name: 'application', testDir: 'application', use: { storageState: { cookies: [], origins: [{ origin: process.env.RILTA_ADDRESS ?? 'http://127.0.0.1', localStorage: [{ name: 'rilta-panels', value: '{"strip":false}' }] }] } } }
	]
});
