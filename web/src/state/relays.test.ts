import { describe, expect, it } from 'vitest';
import type { Leg, MaterialDocument, Relay, StepUse } from '../api/client';
import { Relays } from './relays';

const leg = (code: string, origin = false): Leg => ({ code, origin, taps: code === 'turn' ? 4 : 1, reads: [], writes: [], surface: false, prelude: { operations: [], results: {} }, clock: false, numbers: [], shared: [], host: { inputs: [], vertex: '', fragment: '' } });
const use = (step: string, on = true): StepUse => ({ step, on, values: {} }) as StepUse;
const material = (...steps: StepUse[]): MaterialDocument => ({
	format: 'rilta-material/2',
	name: 'Wall',
	lanes: [{ id: 'main', name: 'Main', steps }, { id: 'spare', name: 'Spare', steps: [use('origin'), use('bond')] }],
	layers: [{ id: 'ground', name: 'Ground', lane: 'main', set: 'rock' }]
});
const relay: Relay = {
	end: { hash: 'end' } as Relay['end'],
	carriers: 5,
	mostTaps: 36,
	legs: { o: leg('origin', true), s: leg('size'), t: leg('turn'), b: leg('bond') },
	lanes: [{ id: 'main', read: true, legs: ['o', 's', 't', null] }, { id: 'spare', read: false, legs: ['o', 'b'] }]
};
const structure = { numbers: {}, words: ['/name'], rising: {} };
const answer = { relay, why: '', structure };
const learned = (): Relays => {
	const relays = new Relays();
	relays.learn(material(use('origin'), use('size'), use('turn'), use('warp')), answer);
	return relays;
};
const codes = (relays: Relays, document: MaterialDocument): string[][] | undefined => relays.plan(document)?.lanes.map((lane) => lane.map((ran) => ran.leg.code));

describe('what is known of materials leg by leg', () => {
	it('plans any order of known steps, as often as they stand there, with those of lanes that nothing reads', () => {
		expect(codes(learned(), material(use('origin'), use('turn'), use('bond'), use('turn', false), use('size'), use('size')))).toEqual([['origin', 'turn', 'bond', 'size', 'size']]);
	});

	it('plans nothing with steps that it does not know, without an origin, with too many taps, or over other layers', () => {
		const relays = learned();
		expect(relays.plan(material(use('origin'), use('warp')))).toBeNull();
		expect(relays.plan(material(use('turn'), use('size')))).toBeNull();
		expect(relays.plan(material(use('origin'), use('origin')))).toBeNull();
		expect(relays.plan(material())).toBeNull();
		expect(relays.plan(material(use('origin'), use('turn'), use('turn')))).not.toBeNull();
		expect(relays.plan(material(use('origin'), use('turn'), use('turn'), use('turn')))).toBeNull();
		expect(relays.plan({ ...material(use('origin')), layers: [] })).toBeNull();
	});

	it('asks for nothing twice, neither for what it knows nor for what does not come apart', () => {
		const relays = learned();
		const document = material(use('origin'), use('size'));
		expect([relays.has(document, use('turn')), relays.has(document, use('warp')), relays.has(document, use('place'))]).toEqual([true, true, false]);
		expect([relays.knows(document), relays.knows({ ...document, layers: [] })]).toEqual([true, false]);
		relays.learn({ ...document, layers: [] }, { relay: null, why: 'no', structure });
		expect(relays.knows({ ...document, layers: [] })).toBe(true);
		expect(relays.plan({ ...document, layers: [] })).toBeNull();
	});

	it('keeps the relays of a few materials', () => {
		const relays = learned();
		for (let i = 0; i < 6; i++) relays.learn({ ...material(use('origin')), layers: [{ id: `l${i}`, name: '', lane: 'main', set: '' }] }, answer);
		expect(relays.plan(material(use('origin')))).toBeNull();
		expect(relays.has(material(), use('turn'))).toBe(true);
	});

	it('knows a step by all but the numbers that its leg is handed', () => {
		const relays = new Relays();
		const sized = (u: number, by: string): StepUse => ({ step: 'size', on: true, values: { u, by } });
		const document = (one: StepUse): MaterialDocument => material(use('origin'), one);
		relays.learn(document(sized(2, 'metres')), { ...answer, structure: { numbers: { '/lanes/0/steps/1/values/u': [0.1, 9, false, null] }, words: [], rising: {} } });
		const has = (one: StepUse): boolean => relays.has(document(one), one);
		expect([has(sized(3, 'metres')), has(sized(0, 'metres')), has(sized(3, 'count'))]).toEqual([true, false, false]);
		// Where in a lane it stands is of no matter.
		expect(codes(relays, material(use('origin'), sized(5, 'metres'), sized(7, 'metres')))).toEqual([['origin', 'size', 'size']]);
	});

	it('knows a step that follows a parameter only with parameters like those', () => {
		const relays = new Relays();
		const follows: StepUse = { step: 'size', on: true, values: { linked: { parameter: 'p' } } };
		const document = (value: boolean): MaterialDocument => ({ ...material(use('origin'), follows), parameters: [{ id: 'p', name: 'P', kind: 'switch', value }] });
		relays.learn(document(true), answer);
		expect([relays.has(document(true), follows), relays.has(document(false), follows)]).toEqual([true, false]);
	});
});
