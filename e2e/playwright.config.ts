import { defineConfig } from '@playwright/test';

/** Debian's Chromium, headless, drawing in software. RILTA_ADDRESS says where the application is. */
export default defineConfig({
	testDir: '.',
	outputDir: '../var/test/playwright',
	fullyParallel: false,
	workers: 1,
	retries: 0,
	timeout: 90_000,
	expect: { timeout: 15_000 },
	reporter: [['list']],
	use: {
		baseURL: process.env.RILTA_ADDRESS,
		viewport: { width: 1280, height: 800 },
		screenshot: 'only-on-failure',
		launchOptions: {
			executablePath: process.env.RILTA_CHROMIUM ?? '/usr/bin/chromium',
			args: [
				'--no-sandbox',
				'--disable-quic',
				'--no-first-run',
				'--disable-background-networking',
				'--disable-component-update',
				'--disable-sync',
				'--use-angle=swiftshader',
				'--enable-unsafe-swiftshader',
				'--ignore-gpu-blocklist'
			]
		}
	},
	projects: [
		{ name: 'parity', testDir: 'parity' },
		{ name: 'bench', testDir: 'bench' },
		{ name: 'attack', testDir: 'attack' },
		// The distance strip is folded but where it is what is tested: tests point at places of the stage.
		{ name: 'application', testDir: 'application', use: { storageState: { cookies: [], origins: [{ origin: process.env.RILTA_ADDRESS ?? 'http://127.0.0.1', localStorage: [{ name: 'rilta-panels', value: '{"strip":false}' }] }] } } }
	]
});
