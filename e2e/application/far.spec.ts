import { expect, test, type Page } from './test';
import type { Stage as StageAnswer } from '../../web/src/api/client';
import { open, pixels, PROJECT, settled, shelf } from './bench';

/** Metres from the world's origin: a whole number of the wall's repeats of 2.4 m. */
const AWAY = [96_000, 0, -48_000] as const;

/** Opens a material on the project's stage, moved; nothing of that is kept. */
async function opened(page: Page, id: number, by: readonly [number, number, number]): Promise<boolean[]> {
	const moved = (place: number[]): number[] => place.map((metres, i) => metres + by[i]!);
	await page.unrouteAll();
	await page.route(new RegExp(`/api/projects/${PROJECT}/stage(\\?|$)`), async (route) => {
		if (route.request().method() !== 'GET') return route.abort();
		const answer = (await (await route.fetch()).json()) as StageAnswer;
		for (const object of answer.document.objects) object.position = moved(object.position) as typeof object.position;
		const camera = answer.document.camera!;
		[camera.position, camera.target] = [moved(camera.position) as typeof camera.position, moved(camera.target) as typeof camera.target];
		await route.fulfill({ json: answer });
	});
	const asked: boolean[] = [];
	page.on('request', (request) => { if (request.url().endsWith('/lower')) asked.push((request.postDataJSON() as { far: boolean }).far); });
	await open(page, id);
	await settled(page);
	return asked;
}

/** Colours all over the lower part of the stage. */
async function colours(page: Page): Promise<number[][]> {
	const [width, height] = await page.evaluate(() => { const { width, height } = window.riltaStage!.renderer.domElement; return [width, height] as const; });
	return pixels(page, Array.from({ length: 160 }, (_, i) => [width * (0.08 + (0.84 * (i % 20)) / 19), height * (0.45 + (0.5 * Math.floor(i / 20)) / 7)] as const));
}

test('a hundred kilometres from the origin of the world the picture is the same', async ({ page }) => {
	const wall = (await shelf(page)).find((one) => one.name === 'Long wall run')!;
	expect((await opened(page, wall.id, [0, 0, 0])).includes(true)).toBe(false);
	const near = await colours(page);
	expect(new Set(near.map((colour) => colour.join())).size).toBeGreaterThan(80);
	expect((await opened(page, wall.id, AWAY)).includes(true)).toBe(true);
	// At the borders of shadows a place is known to 8 mm there.
	await expect.poll(async () => {
		const far = await colours(page);
		return near.map((colour, i) => Math.max(...colour.map((c, k) => Math.abs(c - far[i]![k]!)))).sort((a, b) => a - b)[Math.floor(0.95 * near.length)];
	}).toBeLessThanOrEqual(2);
});
