import { expect, test, type Page, type Response } from '@playwright/test';
import type { MaterialDocument } from '../../web/src/api/client';
import { made, open, trained, PROJECT, settled } from '../application/bench';

/** The server keeps code by document: every run has documents of its own. */
const RUN = Date.now() % 4_000_000_000;

/** A change of structure on a lane of eight steps: from the key to the picture, and the server's part of it. */
const STEPS = [['origin', {}], ['size', { u: 1.6 }], ['turn', { angle: 20 }], ['shift', {}], ['mirror', {}], ['bond', {}], ['scatter', { by: 'piece', seed: RUN }], ['pan', {}]] as const;

declare global {
	interface Window {
		riltaPicture?: Promise<number>;
	}
}
type Program = { lowered: { hash: string } };
type Drawing = { draw: (share: number) => void };
type Measured = { server: number; picture: number };

/** Presses a key on a tile and waits for a frame that shows what it changed; then for the server, if that was asked. */
async function measure(page: Page, key: string): Promise<Measured> {
	let asked: Promise<number> | null = null;
	const heard = (response: Response): void => {
		if (response.url().endsWith('/lower')) asked = response.headerValue('server-timing').then((said) => served(said ?? undefined));
	};
	page.on('response', heard);
	// It has to look before the key comes. A picture counts when it has been drawn, by code of its own or by the code before with
	// numbers that make it look the same.
	await page.evaluate(() => {
		window.riltaPicture = new Promise<number>((resolve) => {
			const stage = window.riltaStage as unknown as { program: Program; drawing: Drawing; standing: boolean };
			const before = stage.program.lowered.hash;
			const draw = stage.drawing.draw;
			let start = 0;
			addEventListener('keydown', () => (start = performance.now()), { once: true, capture: true });
			stage.drawing.draw = (share) => {
				draw.call(stage.drawing, share);
				if (start === 0 || (stage.program.lowered.hash === before && !stage.standing)) return;
				stage.drawing.draw = draw;
				resolve(performance.now() - start);
			};
		});
	});
	await page.keyboard.press(key);
	const picture = (await page.evaluate(() => window.riltaPicture)) ?? Number.NaN;
	await settled(page);
	page.off('response', heard);
	return { server: (await asked) ?? 0, picture };
}

/** Milliseconds that the server says it took. */
const served = (said: string | undefined): number => Number(/lower;dur=([\d.]+)/.exec(said ?? '')?.[1]);
const middle = (all: number[]): number => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)] ?? Number.NaN;

test('a change of structure', async ({ page }) => {
	test.setTimeout(400_000);
	const document = (seed: number): MaterialDocument => ({
		format: 'rilta-material/2',
		name: 'Eight steps',
		lanes: [{ id: 'main', name: 'Main', steps: STEPS.map(([step, values]) => ({ step, on: true, values: { ...values, ...(step === 'scatter' ? { seed } : {}) } })) }],
		layers: [{ id: 'ground', name: 'Ground', lane: 'main', set: 'lime-plaster' }]
	});
	// While no browser draws on the same processors.
	const alone: number[] = [];
	for (let n = 1; n <= 20; n++) {
		const response = await page.request.post(`/api/projects/${PROJECT}/lower`, { data: { document: document((RUN + n) % 4_000_000_000) } });
		alone.push(served(response.headers()['server-timing']));
	}
	console.log(`  the server's part of it, asked alone: ${middle(alone).toFixed(1)} ms (${Math.min(...alone).toFixed(1)} to ${Math.max(...alone).toFixed(1)})`);
	const id = await made(page, document(RUN));
	await open(page, id);
	await trained(page);
	const rounds: Record<'idle' | 'known' | 'inserted' | 'chosen' | 'seen' | 'fresh', Measured[]> = { idle: [], known: [], inserted: [], chosen: [], seen: [], fresh: [] };
	/** Selects a step, and lets everything come to rest. */
	const select = async (label: string): Promise<void> => {
		await page.getByRole('button', { name: `${label}, step of the lane` }).first().focus();
		await settled(page);
	};
	const undone = async (): Promise<void> => {
		await page.keyboard.press('Control+z');
		await settled(page);
	};
	for (const label of ['Turn', 'Shift', 'Scatter', 'Pan']) {
		await select(label);
		rounds.idle.push(await measure(page, 'o'));
		rounds.seen.push(await measure(page, 'o'));
	}
	for (const label of ['Mirror', 'Bond']) {
		await select(label);
		rounds.known.push(await measure(page, 'o'));
		rounds.seen.push(await measure(page, 'o'));
	}
	// Every other code than the ones above.
	for (const label of ['Turn', 'Mirror', 'Scatter']) {
		await select(label);
		rounds.known.push(await measure(page, 'Alt+ArrowLeft'));
		await undone();
	}
	for (const label of ['Turn', 'Shift', 'Scatter']) {
		await page.getByRole('button', { name: `Duplicate ${label}`, exact: true }).first().focus();
		await settled(page);
		rounds.known.push(await measure(page, 'Enter'));
		await undone();
	}
	for (const label of ['Warp', 'Place', 'Breakup']) {
		await page.getByRole('button', { name: 'Insert a step at the end' }).click();
		await page.getByRole('button', { name: new RegExp(`^${label} `) }).focus();
		await settled(page);
		rounds.inserted.push(await measure(page, 'Enter'));
		await undone();
	}
	await page.getByRole('button', { name: 'Bond, step of the lane' }).click();
	await trained(page);
	for (const laid of ['Stack', 'Hexagon', 'Herringbone']) {
		await page.getByRole('combobox', { name: 'Pattern' }).focus();
		await settled(page);
		rounds.chosen.push(await measure(page, laid[0]!));
		await undone();
	}
	// Where nothing is known of what is wanted: as it was before passes, and as it is for those that do not come apart.
	await page.evaluate(() => ((window.riltaStage as unknown as { multipass: { ready: () => boolean } }).multipass.ready = () => false));
	for (const label of ['Mirror', 'Bond']) {
		await page.getByRole('button', { name: `Duplicate ${label}`, exact: true }).first().focus();
		await settled(page);
		rounds.fresh.push(await measure(page, 'Enter'));
		await page.getByRole('button', { name: `${label}, step of the lane` }).last().focus();
		await settled(page);
		rounds.fresh.push(await measure(page, 'Alt+ArrowRight'));
	}
	const words = {
		idle: 'a step switched off that can idle',
		known: 'any other order of steps that are known',
		inserted: 'a new step inserted',
		chosen: 'another choice of a step',
		seen: 'a structure seen before',
		fresh: 'a structure of which nothing is known'
	};
	for (const [name, all] of Object.entries(rounds)) {
		const [pictures, servers] = [all.map((one) => one.picture), all.map((one) => one.server)];
		console.log(`  ${words[name as keyof typeof rounds]}: ${middle(pictures).toFixed(0)} ms from the key to the picture (${pictures.map((one) => one.toFixed(0)).join(', ')}), ${middle(servers).toFixed(0)} ms in the server (${Math.max(...servers).toFixed(0)} at most)`);
	}
	expect(middle(rounds.known.map((one) => one.picture))).toBeLessThan(middle(rounds.fresh.map((one) => one.picture)));
});

test('lowering eight layers on the server', async ({ page }) => {
	const document = (n: number) => ({
		format: 'rilta-material/2',
		name: `Eight layers ${n}`,
		lanes: [
			{ id: 'a', name: 'A', steps: [{ step: 'origin', values: { faces: 'y' } }, { step: 'size', values: { u: 1.6 } }, { step: 'breakup', values: {} }] },
			{ id: 'b', name: 'B', steps: [{ step: 'origin', values: {} }, { step: 'size', values: { u: 2.4 } }] }
		],
		layers: [...Array(8).keys()].map((i) => ({
			id: `layer-${i}`,
			name: `Layer ${i}`,
			lane: i % 2 === 0 ? 'a' : 'b',
			set: ['salt-crust', 'tidal-silt', 'lime-plaster', 'basalt-cladding'][i % 4],
			mode: ['mix', 'height', 'multiply', 'overlay'][i % 4],
			opacity: 60,
			mask: [{ kind: 'noise', values: { size: 3, seed: RUN + n } }, { kind: 'slope', values: {} }],
			finish: { values: { lightness: 90, saturation: 110, roughnessFactor: 80 } }
		}))
	});
	const asked = async (n: number): Promise<number> => {
		const response = await page.request.post(`/api/projects/${PROJECT}/lower`, { data: { document: document(n) } });
		expect(response.status()).toBe(200);
		return served(response.headers()['server-timing']);
	};
	const [fresh, kept]: number[][] = [[], []];
	for (let n = 0; n < 9; n++) {
		fresh!.push(await asked(n));
		kept!.push(await asked(n));
	}
	console.log(`  eight layers on two lanes: ${middle(fresh!).toFixed(1)} ms to lower on the server, ${middle(kept!).toFixed(1)} ms if that was done before`);
	expect(middle(kept!)).toBeLessThan(middle(fresh!));
});
