import { expect, test } from '@playwright/test';
import { library, PROJECT, settled } from '../application/bench';

/** Four maps of 2048 x 2048: from the drop to the library, to the stage, and until workers have made all that is derived. */
test('an import of four maps', async ({ page }) => {
	test.setTimeout(300_000);
	await page.goto(`/${PROJECT}/maps`);
	const files = await page.evaluate(async () => {
		const out: { name: string; data: string }[] = [];
		for (const [name, shade] of [['albedo', 120], ['normal', 255], ['rough', 160], ['ao', 230]] as const) {
			const canvas = new OffscreenCanvas(2048, 2048);
			const context = canvas.getContext('2d')!;
			const image = context.createImageData(2048, 2048);
			for (let i = 0; i < image.data.length; i += 4) {
				const x = (i / 4) % 2048;
				const y = Math.floor(i / 4 / 2048);
				const v = shade + 20 * Math.sin((x * Math.PI) / 64) * Math.cos((y * Math.PI) / 128) + Math.random() * 6;
				image.data.set(name === 'normal' ? [128 + v / 30, 128, 250, 255] : [v, v, v, 255], i);
			}
			context.putImageData(image, 0, 0);
			const bytes = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
			let text = '';
			for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192));
			out.push({ name: `bench${Date.now()}_${name}.png`.replace(/\d+/, 'set'), data: btoa(text) });
		}
		return out;
	});
	// The clock is the page's own: it begins when the files are there, and nobody's time to read the review counts.
	await page.evaluate(() => {
		const clock: Record<string, number> = {};
		(window as unknown as { benchClock: Record<string, number> }).benchClock = clock;
		const ready = (): HTMLButtonElement | undefined => [...document.querySelectorAll('button')].find((one) => /then to the stage$/.test(one.textContent.trim()) && !one.disabled);
		document.addEventListener('change', () => {
			clock.start = performance.now();
			const timer = setInterval(() => {
				if (clock.looked === undefined) {
					const button = ready();
					if (button === undefined || !/Keep 4 maps/.test(document.body.textContent)) return;
					clock.looked = performance.now();
					button.click();
				} else if (clock.kept === undefined) {
					if (/materials\/\d+$/.test(location.pathname)) clock.kept = performance.now();
				} else if ((window.riltaStage?.frames ?? 0) > 0) {
					clock.shown = performance.now();
					clearInterval(timer);
				}
			}, 4);
		}, { capture: true, once: true });
	});
	await page.getByLabel('Files to import').setInputFiles(files.map((one) => ({ name: one.name, buffer: Buffer.from(one.data, 'base64'), mimeType: 'image/png' })));
	await page.waitForFunction(() => (window as unknown as { benchClock: Record<string, number> }).benchClock.shown !== undefined, undefined, { timeout: 120_000, polling: 50 });
	const clock = await page.evaluate(() => (window as unknown as { benchClock: Record<'start' | 'looked' | 'kept' | 'shown', number> }).benchClock);
	await settled(page);
	const rest = await page.evaluate(() => performance.now());
	await expect
		.poll(
			async () => (await library(page, 'benchset'))?.maps.every((map) => map.derived),
			{ intervals: [500], timeout: 180_000 }
		)
		.toBe(true);
	const all = await page.evaluate(() => performance.now());
	const ms = (from: number, to: number): string => `${Math.round(to - from)} ms`;
	console.log(`  four maps of 2048 x 2048: on the stage ${ms(clock.start, clock.shown)} after the drop (looked at after ${ms(clock.start, clock.looked)}, kept, with a material, ${ms(clock.looked, clock.kept)} later, its first picture ${ms(clock.kept, clock.shown)} after that); at rest ${ms(clock.shown, rest)} later; all derived data ${ms(clock.kept, all)} after they were kept`);
});
