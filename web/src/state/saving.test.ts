import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { ApiError, type MaterialDocument, type Stage, type StageDocument } from '../api/client';

/** A server that stores like ours does, and can be made to fail. */
const server = {
	version: 1,
	document: null as unknown as MaterialDocument,
	savedBy: '',
	/** what is thrown next, in order; "lost" stores and loses the answer */
	fails: [] as (ApiError | 'lost')[],
	saves: [] as string[]
};
const material = () => ({ id: 1, version: server.version, document: structuredClone(server.document), savedBy: server.savedBy, template: false });
const stage: Stage = { id: 7, name: 'Yard', version: 1, savedBy: '', document: { format: 'rilta-stage/1', objects: [] } };

vi.mock('../api/client', async (original) => {
	const real = await original<typeof import('../api/client')>();
	return {
		...real,
		api: {
			catalogue: async () => ({ limits: { layers: 8, groups: 8 }, surface: [], layer: { finish: [], masks: [], group: {}, set: {}, opacity: {}, width: {} }, steps: [] }),
			material: async () => material(),
			lower: async () => ({ hash: 'x', problems: [] }),
			stage: async () => structuredClone(stage),
			saveStage: async (_: string, version: number, document: StageDocument) => ({ version: version + 1, document, savedBy: '' }),
			saveMaterial: async (_: number, version: number, document: MaterialDocument, key: string) => {
				server.saves.push(key);
				const fault = server.fails.shift();
				if (fault instanceof real.ApiError) throw fault;
				if (server.savedBy === key && server.version === version + 1) return material();
				if (server.version !== version) throw new real.ApiError(412, 'Changed meanwhile', '', [], material());
				server.version += 1;
				server.document = structuredClone(document);
				server.savedBy = key;
				if (fault === 'lost') throw new real.ApiError(0, 'No connection', '');
				return material();
			}
		}
	};
});
const { Session } = await import('./session.svelte');
const { StageState } = await import('./stage.svelte');
const { Together } = await import('./together');
const { drafts } = await import('./drafts');
const { eyes } = await import('./eyes');

const first: MaterialDocument = { format: 'rilta-material/2', name: 'Wall', lanes: [], layers: [] };
const status = (code: number): ApiError => new ApiError(code, 'Failed', 'It failed.');

describe('saving', () => {
	beforeEach(async () => {
		Object.assign(server, { version: 1, document: structuredClone(first), savedBy: '', fails: [], saves: [] });
		for (const name of ['material 1', 'stage quay']) await drafts.drop(name);
		vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] });
		vi.stubGlobal('window', globalThis);
	});

	it('tries again with growing pauses while the server fails, says so, and loses nothing', async () => {
		const session = await Session.open('quay', 1);
		server.fails = [status(503), status(500), status(502)];
		session.set('/name', 'Harbour wall');
		await vi.advanceTimersByTimeAsync(800);
		expect([session.saving, session.reason, server.saves.length]).toEqual(['failing', 'It failed.', 1]);
		expect((await drafts.get<MaterialDocument>('material 1'))?.document.name).toBe('Harbour wall');
		await vi.advanceTimersByTimeAsync(1100);
		expect(server.saves.length).toBe(2);
		await vi.advanceTimersByTimeAsync(1100);
		expect(server.saves.length).toBe(2);
		await vi.advanceTimersByTimeAsync(1000);
		expect(server.saves.length).toBe(3);
		await vi.advanceTimersByTimeAsync(4100);
		expect([session.saving, session.reason, server.document.name]).toEqual(['saved', '', 'Harbour wall']);
		await vi.waitFor(async () => expect(await drafts.get('material 1')).toBeNull());
		expect(new Set(server.saves).size).toBe(1);
	});

	it('is in no conflict with itself when an answer was lost', async () => {
		const session = await Session.open('quay', 1);
		server.fails = ['lost'];
		session.set('/name', 'One');
		await vi.advanceTimersByTimeAsync(800);
		expect(session.saving).toBe('offline');
		// Nothing more was changed: the same save is sent again.
		await vi.advanceTimersByTimeAsync(1100);
		expect([session.saving, session.version, server.version]).toEqual(['saved', 2, 2]);
		server.fails = ['lost'];
		session.set('/name', 'Two');
		await vi.advanceTimersByTimeAsync(800);
		// Meanwhile more was.
		session.set('/name', 'Three');
		await vi.advanceTimersByTimeAsync(3000);
		expect([session.saving, server.document.name, session.theirs]).toEqual(['saved', 'Three', null]);
	});

	it('finds what somebody else did to be a conflict', async () => {
		const session = await Session.open('quay', 1);
		Object.assign(server, { version: 2, document: { ...first, name: 'Theirs' }, savedBy: 'somebody-else' });
		session.set('/name', 'Mine');
		await vi.advanceTimersByTimeAsync(800);
		expect([session.saving, session.theirs?.document.name, session.document.name]).toEqual(['conflict', 'Theirs', 'Mine']);
	});

	it('stops trying what the server will not take, and keeps it', async () => {
		const session = await Session.open('quay', 1);
		server.fails = [status(413)];
		session.set('/name', 'Too large');
		await vi.advanceTimersByTimeAsync(60_000);
		expect([session.saving, server.saves.length, session.pending]).toEqual(['refused', 1, true]);
		await expect(session.stored()).resolves.toBeUndefined();
	});

	it('brings back after a crash what had not been stored', async () => {
		const before = await Session.open('quay', 1);
		server.fails = Array.from({ length: 50 }, () => status(503));
		before.set('/name', 'Unsaved');
		await vi.advanceTimersByTimeAsync(400);
		// The browser is gone without a word; the server is well again.
		server.fails = [];
		clearTimers();
		const after = await Session.open('quay', 1);
		expect([after.resumed, after.document.name, after.saving]).toEqual([true, 'Unsaved', 'changed']);
		await vi.advanceTimersByTimeAsync(800);
		expect(server.document.name).toBe('Unsaved');
		expect((await Session.open('quay', 1)).resumed).toBe(false);
	});

	it('shows both when somebody else saved meanwhile, and neither when it had arrived after all', async () => {
		await drafts.put('material 1', { version: 1, document: { ...first, name: 'Mine' }, key: 'k1', at: 0 });
		Object.assign(server, { version: 2, document: { ...first, name: 'Theirs' }, savedBy: 'other' });
		const both = await Session.open('quay', 1);
		expect([both.saving, both.document.name, both.theirs?.document.name]).toEqual(['conflict', 'Mine', 'Theirs']);
		server.savedBy = 'k1';
		const arrived = await Session.open('quay', 1);
		expect([arrived.saving, arrived.document.name, arrived.resumed]).toEqual(['saved', 'Theirs', false]);
	});

	it('takes back changes of the stage and of the document in one order', async () => {
		stage.document.objects = [{ id: 'a', name: 'A', mesh: 'cube', position: [0, 0, 0], turn: [0, 0, 0], scale: [1, 1, 1], seed: 1, value: 0 }] as unknown as StageDocument['objects'];
		const [session, place] = [await Session.open('quay', 1), await StageState.open('quay', { material: 1 })];
		const together = new Together({ document: session, stage: place });
		session.onChange = () => together.note('document');
		place.onChange = () => together.note('stage');
		session.set('/name', 'One');
		for (let x = 1; x <= 5; x++) place.change('a', { position: [x, 0, 0] });
		session.set('/name', 'Two');
		const now = (): unknown => [session.document.name, place.object('a')?.position[0]];
		const seen = [now()];
		for (let n = 0; n < 3; n++) { together.undo(); seen.push(now()); }
		expect(seen).toEqual([['Two', 5], ['One', 5], ['One', 0], ['Wall', 0]]);
		for (let n = 0; n < 3; n++) together.redo();
		expect(now()).toEqual(['Two', 5]);
	});

	it('keeps the eye of one person on one material', () => {
		const store = new Map<string, string>();
		vi.stubGlobal('localStorage', { getItem: (key: string) => store.get(key) ?? null, setItem: (key: string, value: string) => store.set(key, value) });
		eyes.put('quay', 1, 7, { position: [1, 2, 3], target: [0, 0, 0] });
		expect(eyes.get('quay', 1, 7)?.position).toEqual([1, 2, 3]);
		expect(eyes.get('quay', 1, 8)).toBeNull();
		store.set('rilta-eye quay 1 8', '{"position":[1,null,3],"target":[0,0,0]}');
		expect(eyes.get('quay', 1, 8)).toBeNull();
	});
});

function clearTimers(): void {
	vi.clearAllTimers();
}
