import { describe, expect, it } from 'vitest';
import type { MaterialDocument, StageDocument } from '../api/client';
import { JOB, type Progress } from './firstjob.svelte';

type Step = { step: string; values: Record<string, unknown>; on?: boolean };
const now = (steps: Step[], more: { mask?: string; paint?: string; bakes?: number } = {}): Progress => ({
	document: { lanes: [{ id: 'a', name: 'A', steps }], layers: [{ id: 'l', mask: more.mask === undefined ? [] : [{ kind: more.mask, values: {} }] }] } as unknown as MaterialDocument,
	stage: { format: 'rilta-stage/2', objects: [{ id: 'o', ...(more.paint === undefined ? {} : { paint: more.paint }) }] } as unknown as StageDocument,
	bakes: more.bakes ?? 0
});
const done = (one: Progress): boolean[] => JOB.map((step) => step.done(one));

describe('the first job', () => {
	it('has five steps, each done by what it asks for and by nothing else', () => {
		const mesh: Step = { step: 'origin', values: { space: 'mesh' } };
		const world: Step = { step: 'origin', values: { space: 'world' } };
		expect(done(now([mesh, { step: 'size', values: { u: 2 } }]))).toEqual([false, false, false, false, false]);
		expect(done(now([world]))).toEqual([true, false, false, false, false]);
		expect(done(now([mesh, { step: 'size', values: { u: { parameter: 'size', factor: 1, offset: 0 } } }]))[1]).toBe(true);
		expect(done(now([mesh, { step: 'breakup', values: {} }]))[2]).toBe(true);
		expect(done(now([mesh, { step: 'breakup', values: {}, on: false }]))[2]).toBe(false);
		expect(done(now([mesh], { mask: 'painted' }))[3]).toBe(false);
		expect(done(now([mesh], { mask: 'noise', paint: 'x' }))[3]).toBe(false);
		expect(done(now([mesh], { mask: 'painted', paint: 'x' }))[3]).toBe(true);
		expect(done(now([mesh], { bakes: 1 }))[4]).toBe(true);
	});
});
