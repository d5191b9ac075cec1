import { expect, test } from '@playwright/test';
import { fresh, library, PROJECT, settled } from '../application/bench';

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
	const start = Date.now();
	await page.getByLabel('Files to import').setInputFiles(files.map((one) => ({ name: one.name, buffer: Buffer.from(one.data, 'base64'), mimeType: 'image/png' })));
	await expect(page.getByText('Check before keeping')).toBeVisible({ timeout: 120_000 });
	const looked = Date.now();
	await page.getByRole('button', { name: /^Keep 4/ }).click();
	await expect(page.getByRole('region', { name: 'Import review' })).toBeHidden({ timeout: 120_000 });
	const kept = Date.now();
	const id = await fresh(page, 'Bench', 'benchset');
	await page.goto(`/${PROJECT}/materials/${id}`);
	await page.waitForFunction(() => { const stage = window.riltaStage as unknown as { program: object | null; frames: number } | undefined; return stage !== undefined && stage.program !== null && stage.frames > 1; }, undefined, { timeout: 120_000 });
	const usable = Date.now();
	await settled(page);
	const stage = Date.now();
	await expect
		.poll(
			async () => (await library(page, 'benchset'))?.maps.every((map) => map.derived),
			{ intervals: [500], timeout: 180_000 }
		)
		.toBe(true);
	console.log(`  four maps of 2048 x 2048: looked at after ${looked - start} ms, kept ${kept - looked} ms later, on the stage ${usable - kept} ms after that, at rest after ${stage - kept} ms; all derived data ${Date.now() - kept} ms after they were kept`);
});
