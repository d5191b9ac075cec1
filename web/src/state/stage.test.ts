import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Stage, StageDocument, StageObject } from '../api/client';
import { merge } from './merge';

/** A server that stores one stage, and refuses what is made of an older one, unless it comes from somebody who hears the others: then it is merged. */
let kept: Stage;
const versions: Record<number, StageDocument> = {};
vi.mock('../api/client', async (original) => {
	const real = await original<typeof import('../api/client')>();
	return {
		...real,
		api: {
			stage: async () => structuredClone(kept),
			saveStage: async (_: string, id: number, version: number, document: StageDocument, key: string, _keepalive: boolean, together: boolean) => {
				versions[kept.version] = kept.document;
				if (version !== kept.version && together) return (kept = { ...kept, version: kept.version + 1, savedBy: key, document: merge(versions[version]!, kept.document, structuredClone(document)) });
				if (version !== kept.version) throw new real.ApiError(412, 'Changed meanwhile', '', [], structuredClone(kept) as never);
				expect(id).toBe(7);
				return (kept = { id, name: 'Yard', version: version + 1, savedBy: key, document: structuredClone(document) });
			}
		}
	};
});
const { StageState } = await import('./stage.svelte');
const { drafts } = await import('./drafts');

const object = (id: string, more: Partial<StageObject> = {}): StageObject => ({ id, name: id, mesh: 'cube', position: [0, 0, 0], turn: [0, 0, 0], scale: [1, 1, 1], seed: 1, value: 0, ...more }) as StageObject;
const ids = (): string[] => kept.document.objects.map((one) => one.id);

beforeEach(async () => {
	kept = { id: 7, name: 'Yard', version: 1, savedBy: '', document: { format: 'rilta-stage/1', objects: [object('a'), object('b'), object('c')] } };
	await drafts.drop('stage quay 7');
	vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] });
	vi.stubGlobal('window', globalThis);
});

describe('a stage', () => {
	it('is furnished, and each of it is one step back', async () => {
		const stage = await StageState.open('quay', { stage: 7 });
		stage.add([object('d'), object('e')]);
		stage.remove('b');
		stage.change('a', { hidden: true });
		await stage.save();
		expect(ids()).toEqual(['a', 'c', 'd', 'e']);
		expect(kept.document.objects[0]!.hidden).toBe(true);
		for (const expected of [['a', 'c', 'd', 'e'], ['a', 'b', 'c', 'd', 'e'], ['a', 'b', 'c']]) {
			stage.undo();
			await stage.save();
			expect(ids()).toEqual(expected);
		}
		expect(kept.document.objects[0]!.hidden).toBeUndefined();
		stage.redo();
		await stage.save();
		expect(ids()).toEqual(['a', 'b', 'c', 'd', 'e']);
	});

	it('gives what is new an id that nothing has', async () => {
		const stage = await StageState.open('quay', { stage: 7 });
		expect([stage.freshId('a'), stage.freshId('Kerb stone!'), stage.freshId('§')]).toEqual(['a-2', 'kerb-stone', 'object']);
		stage.add([object('a-2')]);
		expect(stage.freshId('a')).toBe('a-3');
	});

	it('keeps away what was taken away here, and keeps what was worked on there', async () => {
		const [mine, theirs] = [await StageState.open('quay', { stage: 7 }), await StageState.open('quay', { stage: 7 })];
		theirs.change('b', { position: [5, 0, 0] });
		theirs.remove('c');
		await theirs.save();
		const said: string[] = [];
		mine.onProblem = (message) => said.push(message);
		mine.remove('a');
		mine.remove('b');
		mine.add([object('d')]);
		await mine.save();
		await vi.advanceTimersByTimeAsync(5000);
		expect(ids()).toEqual(['b', 'd']);
		// Nothing was moved by both.
		expect(said).toEqual([]);
		expect(kept.document.objects[0]!.position).toEqual([5, 0, 0]);
	});

	it('is merged with what others do while they are heard, and undo takes back what was done here alone', async () => {
		const [mine, theirs] = [await StageState.open('quay', { stage: 7 }), await StageState.open('quay', { stage: 7 })];
		for (const one of [mine, theirs]) one.live = true;
		const furnished = vi.fn();
		mine.onMerged = furnished;
		mine.change('a', { position: [1, 0, 0] });
		await mine.save();
		await theirs.hear({ version: kept.version, key: kept.savedBy, by: 'Maren' });
		expect(theirs.object('a')!.position).toEqual([1, 0, 0]);
		// Of the same object other values, and another object: neither has heard of the other's yet.
		mine.change('a', { hidden: true });
		theirs.change('a', { scale: [2, 2, 2] });
		theirs.remove('c');
		await theirs.save();
		const told = { version: kept.version, key: kept.savedBy, by: 'Tomas' };
		await mine.hear(told);
		await theirs.hear({ version: kept.version, key: kept.savedBy, by: 'Maren' });
		for (const one of [mine, theirs]) {
			expect(one.object('a')).toMatchObject({ position: [1, 0, 0], scale: [2, 2, 2], hidden: true });
			expect(one.has('c')).toBe(false);
			expect(one.pending).toBe(false);
		}
		expect(furnished).toHaveBeenCalled();
		mine.undo();
		mine.undo();
		await mine.save();
		expect(kept.document.objects).toMatchObject([{ id: 'a', position: [0, 0, 0], scale: [2, 2, 2] }, { id: 'b' }]);
		expect(kept.document.objects[0]!.hidden).toBeUndefined();
		// What it has sent itself is nothing new.
		const before = mine.version;
		await mine.hear({ version: before + 1, key: kept.savedBy, by: 'Maren' });
		expect(mine.version).toBe(before);
	});

	it('tells whoever was first when somebody sets the same, and gives it back', async () => {
		const stage = await StageState.open('quay', { stage: 7 });
		stage.live = true;
		stage.change('b', { value: 0.25 });
		await stage.save();
		const over = vi.fn<(by: string, back: () => void) => void>();
		stage.onOver = over;
		kept = { ...kept, version: kept.version + 1, savedBy: 'elsewhere', document: { ...kept.document, objects: kept.document.objects.map((one) => (one.id === 'b' ? { ...one, value: 0.75 } : one)) } };
		await stage.hear({ version: kept.version, key: 'elsewhere', by: 'Tomas', over: [{ path: '/objects/b/value', was: 0.25 }] });
		expect(stage.object('b')!.value).toBe(0.75);
		expect(over).toHaveBeenCalledOnce();
		over.mock.calls[0]![1]();
		await stage.save();
		expect(kept.document.objects[1]!.value).toBe(0.25);
		stage.undo();
		expect(stage.object('b')!.value).toBe(0.75);
	});

	it('has the light that was changed last, here or there', async () => {
		const [mine, theirs] = [await StageState.open('quay', { stage: 7 }), await StageState.open('quay', { stage: 7 })];
		theirs.relight({ height: 12 });
		await theirs.save();
		mine.change('a', { seed: 9 });
		await mine.save();
		await vi.advanceTimersByTimeAsync(5000);
		expect(kept.document).toMatchObject({ format: 'rilta-stage/2', light: { height: 12 } });
		expect(kept.document.objects[0]!.seed).toBe(9);
		mine.relight({ turn: -20, exposure: 1 });
		mine.sky('overcast');
		await mine.save();
		// Another sky has a sun of its own; how bright the picture is stays.
		expect(kept.document.light).toEqual({ sky: 'overcast', exposure: 1 });
		mine.undo();
		await mine.save();
		expect(kept.document.light).toEqual({ height: 12, turn: -20, exposure: 1 });
	});

	it('says what both have moved', async () => {
		const [mine, theirs] = [await StageState.open('quay', { stage: 7 }), await StageState.open('quay', { stage: 7 })];
		const said: string[] = [];
		mine.onProblem = (message) => said.push(message);
		theirs.change('a', { position: [1, 0, 0] });
		await theirs.save();
		mine.change('a', { position: [2, 0, 0] });
		await mine.save();
		await vi.advanceTimersByTimeAsync(5000);
		expect(kept.document.objects.map((one) => one.position[0])).toEqual([2, 1, 0, 0]);
		expect(said[0]).toContain('Moved here and in another tab: a');
	});
});

describe('several objects at once', () => {
	const object = (id: string, position: [number, number, number]): StageObject => ({ id, name: id, mesh: 'cube', position, turn: [0, 10, 0], scale: [1, 2, 1] }) as StageObject;
	const three = (): InstanceType<typeof StageState> => {
		const state = new StageState('p', 1, 'Stage');
		state.document.objects = [object('a', [0, 0, 0]), object('b', [5, 0, 0]), { ...object('c', [9, 0, 0]), locked: true }];
		return state;
	};

	it('go along with what is dragged, but for what is locked, and come back in one step', () => {
		const state = three();
		const moved = state.drag('a', { position: [1, 0.5, -2], turn: [0, 40, 0], scale: [2, 4, 2] }, ['b', 'c']);
		expect(moved.map((one) => one.id)).toEqual(['b']);
		expect(state.object('b')).toMatchObject({ position: [6, 0.5, -2], turn: [0, 40, 0], scale: [2, 4, 2] });
		expect(state.object('c')?.position).toEqual([9, 0, 0]);
		state.undo();
		expect([state.object('a')?.position, state.object('b')?.position]).toEqual([[0, 0, 0], [5, 0, 0]]);
	});

	it('come back in one step after a drag that rests on the way, and what changes nothing is no step', async () => {
		const stage = await StageState.open('quay', { stage: 7 });
		const place = (): number[][] => ['a', 'b'].map((id) => [...stage.object(id)!.position]);
		const to = (x: number): unknown => stage.drag('a', { position: [x, 0, 0], turn: [0, 0, 0], scale: [1, 1, 1] }, ['b']);
		stage.hold();
		for (const x of [0, 0.5, 0.5, 1.5]) {
			to(x);
			await vi.advanceTimersByTimeAsync(3000);
		}
		stage.release();
		expect(place()).toEqual([[1.5, 0, 0], [1.5, 0, 0]]);
		// The next drag is another step, and one that ends where it began is none.
		stage.hold();
		to(2);
		stage.release();
		stage.hold();
		to(2);
		stage.release();
		stage.relight({});
		stage.undo();
		expect(place()).toEqual([[1.5, 0, 0], [1.5, 0, 0]]);
		stage.undo();
		expect(place()).toEqual([[0, 0, 0], [0, 0, 0]]);
		stage.redo();
		expect(place()).toEqual([[1.5, 0, 0], [1.5, 0, 0]]);
	});

	it('are taken away in one step, and ids of copies differ from each other', () => {
		const state = three();
		expect(state.freshId('a', ['a-2'])).toBe('a-3');
		state.removeAll(['a', 'b']);
		expect(state.document.objects.map((one) => one.id)).toEqual(['c']);
		state.undo();
		expect(state.document.objects).toHaveLength(3);
	});
});
