import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { MaterialDocument } from '../api/client';
import type { Structure } from './structure';

/** As the core tells it: the numbers that it could use, switches that nothing stiff follows, and words. */
function structureOf(document: MaterialDocument): Structure {
	const numbers: Structure['numbers'] = {};
	const walk = (value: unknown, path: string): void => {
		if (typeof value === 'object' && value !== null) for (const [key, one] of Object.entries(value)) walk(one, `${path}/${key}`);
		else if (typeof value === 'number' && !(path.endsWith('/u') && value < 0.01)) numbers[path] = path.endsWith('/u') ? [0.01, 100, false, null] : [-1e6, 1e6, false, null];
		else if (typeof value === 'boolean' && /^.parameters.\d+.value$/.test(path) && !JSON.stringify(document).includes('"stiff":{')) numbers[path] = [0, 1, true, null];
	};
	walk(document, '');
	return { numbers, words: ['/name', '/variants'], rising: {} };
}

const saved: { version: number; name: string }[] = [];
/** What each save had for a number, and whether it was in passing. */
const passed: [u: unknown, passing: boolean][] = [];
vi.mock('../api/client', async (original) => ({
	...(await original<typeof import('../api/client')>()),
	api: {
		catalogue: async () => ({ limits: { layers: 8, groups: 8 }, steps: [] }),
		material: async () => ({ id: 1, version: 1, document: structuredClone(first) }),
		lower: vi.fn(async (_: string, document: MaterialDocument) => ({ hash: 'x', problems: [], structure: structureOf(document) })),
		multipass: async (_: string, document: MaterialDocument) => ({ why: '', structure: structureOf(document), multipass: { end: {}, carriers: 5, mostTaps: 36, passes: { o: { code: 'start', origin: true }, s: { code: 'stepPass', origin: false } }, lanes: [{ id: 'main', read: true, passes: ['o', 's'] }] } }),
		saveMaterial: async (_: number, version: number, document: MaterialDocument, _key: string, _keepalive: boolean, _together: boolean, passing: boolean) => {
			saved.push({ version, name: document.name });
			// The server has the same already where a drag ends with what was seen last.
			const same = passed.at(-1)?.[0] === document.lanes[0]!.steps[0]!.values.u && passed.at(-1)?.[1] === true;
			passed.push([document.lanes[0]!.steps[0]!.values.u, passing]);
			return { version: version + (same && !passing ? 0 : 1), document };
		}
	}
}));
const { api, ApiError } = await import('../api/client');
const { Session } = await import('./session.svelte');

const first: MaterialDocument = {
	format: 'rilta-material/2',
	name: 'Wall',
	lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'size', on: true, values: { u: 2, w: 0, linked: true } }] }],
	layers: [{ id: 'ground', name: 'Ground', lane: 'main', set: 'rock', opacity: 100 }]
};
const u = '/lanes/0/steps/0/values/u';

describe('a session', () => {
	beforeEach(() => {
		saved.length = passed.length = 0;
		vi.useFakeTimers();
		vi.mocked(api.lower).mockClear();
		vi.stubGlobal('window', globalThis);
	});

	it('sends nothing while a number is dragged, and saves once afterwards', async () => {
		const session = await Session.open('quay', 1);
		await session.lower();
		session.hold();
		for (let i = 0; i < 50; i++) session.set(u, 2 + i / 10);
		await vi.advanceTimersByTimeAsync(5000);
		expect(saved).toEqual([]);
		expect(api.lower).toHaveBeenCalledTimes(1);
		session.release();
		await vi.advanceTimersByTimeAsync(1000);
		expect(saved).toEqual([{ version: 1, name: 'Wall' }]);
		expect(session.saving).toBe('saved');
	});

	it('lets whoever looks on see a drag as it goes, and keeps what it ends with', async () => {
		const session = await Session.open('quay', 1);
		await session.lower();
		session.accompanied = true;
		session.hold();
		for (let i = 1; i <= 10; i++) {
			session.set(u, 2 + i);
			await vi.advanceTimersByTimeAsync(100);
		}
		// Not put off by what comes after, and no more often than it is worth.
		expect(passed.length).toBeGreaterThanOrEqual(4);
		expect(passed.length).toBeLessThanOrEqual(6);
		expect(passed.every(([, passing]) => passing)).toBe(true);
		await vi.advanceTimersByTimeAsync(1000);
		expect([passed.at(-1), session.saving]).toEqual([[12, true], 'saved']);
		session.release();
		await vi.advanceTimersByTimeAsync(1000);
		expect([passed.at(-1), session.saving]).toEqual([[12, false], 'saved']);
		const { length } = passed;
		await vi.advanceTimersByTimeAsync(5000);
		expect(passed).toHaveLength(length);
		// All of it is one step back.
		session.undo();
		expect(session.value(u)).toBe(2);
		await vi.advanceTimersByTimeAsync(1000);
		expect(passed.at(-1)).toEqual([2, false]);
	});

	it('asks for other code far from the origin of the world, and for none on the way back', async () => {
		const session = await Session.open('quay', 1);
		await session.lower();
		session.far = true;
		session.far = true;
		await vi.advanceTimersByTimeAsync(100);
		expect(vi.mocked(api.lower).mock.calls.map((call) => call[2])).toEqual([false, true]);
		expect(session.current).toBe(true);
		session.far = false;
		await vi.advanceTimersByTimeAsync(100);
		expect(api.lower).toHaveBeenCalledTimes(2);
		expect(session.current).toBe(true);
	});

	it('makes one step of undo of one drag', async () => {
		const session = await Session.open('quay', 1);
		session.hold();
		for (let i = 1; i < 9; i++) session.set(u, 2 + i);
		session.release();
		session.undo();
		expect(session.value(u)).toBe(2);
		session.redo();
		expect(session.value(u)).toBe(10);
	});

	it('makes one step of undo of a drag that moves two values', async () => {
		const session = await Session.open('quay', 1);
		session.hold();
		for (let i = 1; i < 6; i++) {
			session.set(u, 2 + i);
			session.set('/lanes/0/steps/0/values/w', i);
		}
		session.release();
		session.undo();
		expect([session.value(u), session.value('/lanes/0/steps/0/values/w')]).toEqual([2, 0]);
		expect(session.past).toEqual([]);
	});

	it('makes code ready for a change that is likely, and changes nothing', async () => {
		const session = await Session.open('quay', 1);
		await session.lower();
		const told: unknown[] = [];
		session.onForeseen = (lowered) => told.push(lowered);
		const change = (document: MaterialDocument): void => void (document.lanes[0]!.steps[0]!.values.linked = false);
		await session.foresee(change);
		expect(session.value('/lanes/0/steps/0/values/linked')).toBe(true);
		expect([told.length, session.past.length, session.saving]).toEqual([1, 0, 'saved']);
		vi.mocked(api.lower).mockClear();
		session.edit(change);
		await vi.advanceTimersByTimeAsync(0);
		expect(api.lower).not.toHaveBeenCalled();
		expect(session.lowered).toBe(told[0]);
	});

	it('asks for code once what is seen before has been drawn, and makes no code ready for what can be drawn so', async () => {
		const session = await Session.open('quay', 1);
		session.edit((document) => void document.lanes[0]!.steps.unshift({ step: 'origin', on: true, values: {} }));
		await session.lower();
		await vi.advanceTimersByTimeAsync(0);
		vi.mocked(api.lower).mockClear();
		const told: unknown[] = [];
		let drawn = (): void => {};
		session.onBridge = (standIn, plan) => {
			told.push([standIn, plan?.lanes.map((lane) => lane.map((ran) => ran.stepPass.code))]);
			return new Promise((resolve) => (drawn = resolve));
		};
		session.onForeseen = (lowered) => told.push(lowered);
		session.canRun = () => true;
		await session.multipass();
		await session.foresee((document) => void document.lanes[0]!.steps.push(structuredClone(document.lanes[0]!.steps[1]!)));
		expect(told).toEqual([]);
		session.edit((document) => void document.lanes[0]!.steps.push(structuredClone(document.lanes[0]!.steps[1]!)));
		await vi.advanceTimersByTimeAsync(1);
		expect(told).toEqual([[null, [['start', 'stepPass', 'stepPass']]]]);
		expect(api.lower).not.toHaveBeenCalled();
		drawn();
		await vi.advanceTimersByTimeAsync(0);
		expect(api.lower).toHaveBeenCalledTimes(1);
	});

	it('says nothing of a likely change that fails', async () => {
		const session = await Session.open('quay', 1);
		await session.lower();
		vi.mocked(api.lower).mockRejectedValueOnce(new Error('gone'));
		await session.foresee((document) => void document.lanes[0]!.steps.pop());
		expect(session.trouble).toEqual([]);
		expect(session.lowered).not.toBeNull();
	});

	it('asks for new code when the structure changes', async () => {
		const session = await Session.open('quay', 1);
		await session.lower();
		session.set('/lanes/0/steps/0/values/linked', false);
		await vi.advanceTimersByTimeAsync(0);
		expect(api.lower).toHaveBeenCalledTimes(2);
	});

	it('takes rows and ties for structure, but not their numbers', async () => {
		const session = await Session.open('quay', 1);
		await session.lower();
		const asked = async (): Promise<number> => {
			await vi.advanceTimersByTimeAsync(0);
			return vi.mocked(api.lower).mock.calls.length;
		};
		session.set('/lanes/0/steps/0/values/w', [{ x: 1 }, { x: 2 }]);
		expect(await asked()).toBe(2);
		session.set('/lanes/0/steps/0/values/w/1/x', 7);
		expect(await asked()).toBe(2);
		session.set('/lanes/0/steps/0/values/w', [{ x: 1 }, { x: 7 }, { x: 9 }]);
		expect(await asked()).toBe(3);
		session.edit((document) => (document.parameters = [{ id: 'p', name: 'P', kind: 'number', unit: '', min: 0, max: 1, step: 0.1, value: 0.5 }]));
		session.set(u, { parameter: 'p', factor: 1, offset: 0 });
		// The first of two changes at once is asked for by nobody.
		expect(await asked()).toBe(4);
		session.set(`${u}/factor`, 3);
		session.set('/parameters/0/value', 0.7);
		expect(await asked()).toBe(4);
	});

	it('asks for new code when layers change, but not for their opacity', async () => {
		const session = await Session.open('quay', 1);
		await session.lower();
		session.set('/layers/0/opacity', 40);
		await vi.advanceTimersByTimeAsync(0);
		expect(api.lower).toHaveBeenCalledTimes(1);
		session.set('/layers/0/on', false);
		await vi.advanceTimersByTimeAsync(0);
		expect(api.lower).toHaveBeenCalledTimes(2);
	});

	it('asks for new code when an opacity follows a parameter, but not for its factor', async () => {
		const session = await Session.open('quay', 1);
		await session.lower();
		session.set('/layers/0/opacity', { parameter: 'tide', factor: 1, offset: 0 });
		await vi.advanceTimersByTimeAsync(0);
		expect(api.lower).toHaveBeenCalledTimes(2);
		session.set('/layers/0/opacity/factor', 3);
		await vi.advanceTimersByTimeAsync(0);
		expect(api.lower).toHaveBeenCalledTimes(2);
	});

	it('shows one layer alone without the document knowing of it', async () => {
		const session = await Session.open('quay', 1);
		session.edit((document) => document.layers.push({ id: 'moss', name: 'Moss', lane: 'main', set: 'moss', on: true }));
		await vi.advanceTimersByTimeAsync(1000);
		session.solo = 'moss';
		await vi.advanceTimersByTimeAsync(1000);
		expect(vi.mocked(api.lower).mock.lastCall?.[1].layers.map((layer) => layer.on)).toEqual([false, true]);
		expect(session.seen.layers.map((layer) => layer.on)).toEqual([false, true]);
		expect(session.document.layers.map((layer) => layer.on)).toEqual([undefined, true]);
		// A layer that goes is not shown alone any more.
		session.edit((document) => document.layers.pop());
		await vi.advanceTimersByTimeAsync(1000);
		expect([session.solo, session.seen.layers.length]).toEqual(['', 1]);
	});

	it('changes parameters in the variant that is shown', async () => {
		const session = await Session.open('quay', 1);
		session.edit((document) => {
			document.parameters = [{ id: 'tide', name: 'Tide', kind: 'number', unit: '', min: 0, max: 9, step: 1, value: 1 }];
			document.variants = [{ id: 'high', name: 'High', base: '', values: {} }];
		});
		await session.lower();
		await vi.advanceTimersByTimeAsync(0);
		const asked = vi.mocked(api.lower).mock.calls.length;
		session.variant = 'high';
		session.drive('tide', 4);
		expect([session.document.parameters?.[0]?.value, session.document.variants?.[0]?.values.tide, session.dressed.parameters?.[0]?.value]).toEqual([1, 4, 4]);
		session.inherit('tide');
		expect(session.dressed.parameters?.[0]?.value).toBe(1);
		session.undo();
		session.variant = '';
		session.drive('tide', 2);
		expect([session.document.parameters?.[0]?.value, session.document.variants?.[0]?.values.tide]).toEqual([2, 4]);
		await vi.advanceTimersByTimeAsync(2000);
		expect(vi.mocked(api.lower).mock.calls.length).toBe(asked);
	});

	it('asks for other code for variants of maps and stiff switches, and for those alone', async () => {
		const session = await Session.open('quay', 1);
		session.edit((document) => {
			document.parameters = [
				{ id: 'paint', name: 'Paint', kind: 'colour', value: [1, 0, 0] },
				{ id: 'over', name: 'Over', kind: 'switch', value: false },
				{ id: 'stuff', name: 'Stuff', kind: 'set', value: 'rock' }
			];
			document.layers[0]!.set = { parameter: 'stuff' };
			document.layers[0]!.finish = { values: { tint: { parameter: 'paint' }, flip: { parameter: 'over' }, stiff: false } };
			document.variants = [
				{ id: 'painted', name: 'Painted', base: '', values: { paint: [0, 0, 1], over: true } },
				{ id: 'sandy', name: 'Sandy', base: 'painted', values: { stuff: 'sand' } }
			];
		});
		await session.lower();
		await vi.advanceTimersByTimeAsync(0);
		const asked = (): number => vi.mocked(api.lower).mock.calls.length;
		const before = asked();
		expect(await session.codeFor('painted')).toBeNull();
		expect(asked()).toBe(before);
		expect(await session.codeFor('sandy')).not.toBeNull();
		expect(asked()).toBe(before + 1);
		// What was made for an object is there when the stage shows the variant.
		session.variant = 'sandy';
		await vi.advanceTimersByTimeAsync(0);
		expect(asked()).toBe(before + 1);
		session.variant = '';
		session.edit((document) => (document.layers[0]!.finish!.values!.stiff = { parameter: 'over' }));
		await vi.advanceTimersByTimeAsync(0);
		expect(await session.codeFor('painted')).not.toBeNull();
	});

	it('keeps what was, while something of a finish is held', async () => {
		const session = await Session.open('quay', 1);
		session.hold(true);
		session.set(u, 9);
		expect(session.before?.lanes[0]?.steps[0]?.values.u).toBe(2);
		session.release();
		expect(session.before).toBeNull();
		session.hold();
		expect(session.before).toBeNull();
	});

	it('asks for new code when a number that cannot be used is mended', async () => {
		const session = await Session.open('quay', 1);
		session.set(u, 0);
		await vi.advanceTimersByTimeAsync(0);
		expect(api.lower).toHaveBeenCalledTimes(1);
		session.set(u, 3);
		await vi.advanceTimersByTimeAsync(0);
		expect(api.lower).toHaveBeenCalledTimes(2);
		session.set(u, 4);
		await vi.advanceTimersByTimeAsync(0);
		expect(api.lower).toHaveBeenCalledTimes(2);
	});

	it('knows the code of a structure that it has seen, until it is told to forget', async () => {
		const session = await Session.open('quay', 1);
		await session.lower();
		const toggle = async (linked: boolean): Promise<number> => {
			session.set('/lanes/0/steps/0/values/linked', linked);
			await vi.advanceTimersByTimeAsync(0);
			return vi.mocked(api.lower).mock.calls.length;
		};
		expect([await toggle(false), await toggle(true), await toggle(false)]).toEqual([2, 2, 2]);
		session.forget();
		expect(await toggle(true)).toBe(3);
	});

	it('asks again when what looked like a drag was more', async () => {
		const session = await Session.open('quay', 1);
		let answer = (): void => {};
		vi.mocked(api.lower).mockImplementationOnce((_, document) => new Promise((resolve) => (answer = () => resolve({ hash: 'late', problems: [], structure: structureOf(document) } as never))));
		void session.lower();
		await vi.advanceTimersByTimeAsync(0);
		session.set(u, 5);
		expect(api.lower, 'for all that is known it is a drag').toHaveBeenCalledTimes(1);
		session.set(u, 0);
		answer();
		await vi.advanceTimersByTimeAsync(0);
		expect(api.lower, 'it has left its range').toHaveBeenCalledTimes(2);
		expect([session.current, vi.mocked(api.lower).mock.lastCall?.[1].lanes[0]!.steps[0]!.values.u]).toEqual([true, 0]);
	});

	it('draws new numbers with the code at hand, and never while other code is wanted', async () => {
		const session = await Session.open('quay', 1);
		await session.lower();
		let drawn = 0;
		session.onNumbers = () => (drawn += 1);
		session.set(u, 3);
		expect(drawn).toBe(1);
		session.set('/lanes/0/steps/0/values/linked', false);
		await vi.advanceTimersByTimeAsync(0);
		expect(drawn).toBe(1);
		// Code that was seen before is taken at once, and drawn when the stage has it.
		session.set('/lanes/0/steps/0/values/linked', true);
		expect([session.current, drawn]).toEqual([true, 1]);
	});

	it('asks again by itself where the server was away, and has no trouble left when it is there or what was is back', async () => {
		const session = await Session.open('quay', 1);
		await session.lower();
		const away = new ApiError(0, 'No connection', 'The server cannot be reached.');
		vi.mocked(api.lower).mockRejectedValueOnce(away);
		session.set('/lanes/0/steps/0/values/linked', false);
		await vi.advanceTimersByTimeAsync(0);
		expect([session.trouble.length, session.current]).toEqual([1, false]);
		await vi.advanceTimersByTimeAsync(10_000);
		expect([session.trouble, session.current]).toEqual([[], true]);
		session.forget();
		vi.mocked(api.lower).mockRejectedValueOnce(away);
		session.set('/lanes/0/steps/0/values/linked', true);
		await vi.advanceTimersByTimeAsync(0);
		expect(session.trouble.length).toBe(1);
		session.set('/lanes/0/steps/0/values/linked', false);
		expect([session.trouble, session.current]).toEqual([[], true]);
		const asked = vi.mocked(api.lower).mock.calls.length;
		await vi.advanceTimersByTimeAsync(60_000);
		expect(vi.mocked(api.lower).mock.calls.length, 'and nobody asks any more').toBe(asked);
	});
});
