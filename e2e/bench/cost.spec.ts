import { test } from '@playwright/test';
import type { Costs, MaterialDocument, StepUse } from '../../web/src/api/client';
import { made, PROJECT, settled, staged } from '../application/bench';

const MANY = 60;
const RUNS = 5;
/** Of the smaller ones: maps are loaded anew each time. */
const SETS = ['tidal-silt', 'shell-aggregate-a', 'shell-aggregate-b', 'sea-wall'];

/** The same numbers each time (a linear congruential generator; Knuth 1997). */
function chance(seed: number): () => number {
	let at = seed;
	return () => (at = (at * 1664525 + 1013904223) % 4294967296) / 4294967296;
}

function random(next: () => number, name: string): MaterialDocument {
	const pick = <T>(all: readonly T[]): T => all[Math.floor(next() * all.length)]!;
	const use = (step: string, values: StepUse['values']): StepUse => ({ step, on: true, values });
	const some = [
		() => use('turn', { angle: Math.round(90 * next()) }), () => use('warp', { amount: 0.1 }), () => use('breakup', { cell: 1 + next() }), () => use('hex-blend', { cell: 0.5 + next() }),
		() => use('scales', { by: 'noise', count: pick(['two', 'three']) }), () => use('scatter', { shift: 50 }), () => use('bond', {})
	];
	const lanes = [...Array(1 + Math.floor(2 * next())).keys()].map((i) => ({ id: `lane-${i}`, name: `Lane ${i}`, steps: [use('origin', { faces: pick(['y', 'y', 'xyz']) }), use('size', { u: 1 + next() }), ...[...Array(Math.floor(2.4 * next())).keys()].map(() => pick(some)())] }));
	const layers = [...Array(1 + Math.floor(3 * next())).keys()].map((i) => ({ id: `layer-${i}`, name: `Layer ${i}`, lane: pick(lanes).id, set: pick(SETS), ...(i === 0 ? {} : { mask: [{ kind: 'noise', lane: lanes[0]!.id, values: {} }] }) }));
	return { format: 'rilta-material/2', name, lanes, layers } as MaterialDocument;
}

function ranks(values: readonly number[]): number[] {
	const order = [...values.keys()].sort((a, b) => values[a]! - values[b]!);
	return values.map((_, i) => order.indexOf(i));
}

/** What is estimated of random materials against what a picture of them takes in software GL, on a ball that fills it and turns to all three axes: where one face alone is seen, the reads of the others are left out. */
test('the estimated cost against the time of a picture', async ({ page }) => {
	test.setTimeout(1_500_000);
	// What is made ready, and judged, takes time of the same processors.
	for (const kind of ['multipass', 'repetition', 'findings']) await page.route(`**/${kind}`, (route) => route.abort());
	await staged(page, (stage) => {
		stage.objects = [{ id: 'ball', name: 'Ball', mesh: 'sphere', position: [0, 0, 0], turn: [0, 0, 0], scale: [8, 8, 8], seed: 1, value: 0 }];
		stage.camera = { position: [2.7, 2.7, 2.7], target: [0, 0, 0] };
	});
	const next = chance(9);
	const [estimates, times]: [number[], number[]] = [[], []];
	for (let i = 0; i < MANY; i++) {
		const document = random(next, `Priced ${i}`);
		estimates.push(((await (await page.request.post(`/api/projects/${PROJECT}/costs`, { data: { document } })).json()) as Costs).whole.estimate);
		const id = await made(page, document);
		await page.goto(`/${PROJECT}/materials/${id}`);
		await page.waitForFunction(() => (window.riltaStage?.shown ?? 0) > 0, undefined, { timeout: 90_000 });
		await settled(page);
		times.push(await page.evaluate((runs) => Math.min(...[...Array(runs).keys()].map(() => { const start = performance.now(); window.riltaStage!.draw(1); return performance.now() - start; })), RUNS));
		await page.request.delete(`/api/materials/${id}`, { headers: { 'X-Rilta': '1' } });
	}
	const [one, other] = [ranks(estimates), ranks(times)];
	const apart = one.reduce((sum, rank, i) => sum + (rank - other[i]!) ** 2, 0);
	console.log(`  estimated costs of ${MANY} random materials and the time of a picture in software GL (${Math.round(Math.min(...times))} to ${Math.round(Math.max(...times))} ms): rank correlation ${(1 - (6 * apart) / (MANY * (MANY ** 2 - 1))).toFixed(3)} (aim: 0.9)`);
});
