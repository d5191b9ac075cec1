import { describe, expect, it } from 'vitest';
import type { StepPass, MaterialDocument, MultipassPlan, StepUse } from '../api/client';
import { MultipassPlans } from './multipass';

const stepPass = (code: string, origin = false): StepPass => ({ code, origin, taps: code === 'turn' ? 4 : 1, reads: [], writes: [], surface: false, prelude: { operations: [], results: {} }, clock: false, numbers: [], shared: [], host: { inputs: [], vertex: '', fragment: '' } });
const use = (step: string, on = true): StepUse => ({ step, on, values: {} }) as StepUse;
const material = (...steps: StepUse[]): MaterialDocument => ({
	format: 'rilta-material/2',
	name: 'Wall',
	lanes: [{ id: 'main', name: 'Main', steps }, { id: 'spare', name: 'Spare', steps: [use('origin'), use('bond')] }],
	layers: [{ id: 'ground', name: 'Ground', lane: 'main', set: 'rock' }]
});
const multipass: MultipassPlan = {
	end: { hash: 'end' } as MultipassPlan['end'],
	carriers: 5,
	mostTaps: 36,
	passes: { o: stepPass('origin', true), s: stepPass('size'), t: stepPass('turn'), b: stepPass('bond') },
	lanes: [{ id: 'main', read: true, whole: false, passes: ['o', 's', 't', null] }, { id: 'spare', read: false, whole: false, passes: ['o', 'b'] }]
};
const structure = { numbers: {}, words: ['/name'], rising: {} };
const answer = { multipass, why: '', structure };
const learned = (): MultipassPlans => {
	const multipass = new MultipassPlans();
	multipass.learn(material(use('origin'), use('size'), use('turn'), use('warp')), answer);
	return multipass;
};
const codes = (multipass: MultipassPlans, document: MaterialDocument): string[][] | undefined => multipass.plan(document)?.lanes.map((lane) => lane.map((ran) => ran.stepPass.code));

describe('what is known of materials stepPass by stepPass', () => {
	it('plans any order of known steps, as often as they stand there, with those of lanes that nothing reads', () => {
		expect(codes(learned(), material(use('origin'), use('turn'), use('bond'), use('turn', false), use('size'), use('size')))).toEqual([['origin', 'turn', 'bond', 'size', 'size']]);
	});

	it('plans nothing with steps that it does not know, without an origin, with too many taps, or over other layers', () => {
		const multipass = learned();
		expect(multipass.plan(material(use('origin'), use('warp')))).toBeNull();
		expect(multipass.plan(material(use('turn'), use('size')))).toBeNull();
		expect(multipass.plan(material(use('origin'), use('origin')))).toBeNull();
		expect(multipass.plan(material())).toBeNull();
		expect(multipass.plan(material(use('origin'), use('turn'), use('turn')))).not.toBeNull();
		expect(multipass.plan(material(use('origin'), use('turn'), use('turn'), use('turn')))).toBeNull();
		expect(multipass.plan({ ...material(use('origin')), layers: [] })).toBeNull();
	});

	it('asks for nothing twice, neither for what it knows nor for what does not come apart', () => {
		const multipass = learned();
		const document = material(use('origin'), use('size'));
		expect([multipass.has(document, use('turn')), multipass.has(document, use('warp')), multipass.has(document, use('place'))]).toEqual([true, true, false]);
		expect([multipass.knows(document), multipass.knows({ ...document, layers: [] })]).toEqual([true, false]);
		multipass.learn({ ...document, layers: [] }, { multipass: null, why: 'no', structure });
		expect(multipass.knows({ ...document, layers: [] })).toBe(true);
		expect(multipass.plan({ ...document, layers: [] })).toBeNull();
	});

	it('stands for the steps alone of lanes that are whole in the end', () => {
		const plans = new MultipassPlans();
		const whole = { ...multipass, lanes: [multipass.lanes[0]!, { id: 'spare', read: false, whole: true, passes: [null, 'b'] }] };
		plans.learn(material(use('origin'), use('size')), { ...answer, multipass: whole });
		const other = material(use('origin'), use('size'), use('size'));
		expect(codes(plans, other)).toEqual([['origin', 'size', 'size']]);
		expect(plans.plan({ ...other, lanes: [other.lanes[0]!, { ...other.lanes[1]!, steps: [use('origin')] }] })).toBeNull();
		// What does not come apart may do so with other steps.
		const none = material(use('origin'), use('place'));
		plans.learn({ ...none, layers: [] }, { multipass: null, why: 'no', structure });
		expect([plans.knows({ ...none, layers: [] }), plans.knows({ ...material(use('origin')), layers: [] })]).toEqual([true, false]);
	});

	it('keeps the multipass of a few materials', () => {
		const multipass = learned();
		for (let i = 0; i < 6; i++) multipass.learn({ ...material(use('origin')), layers: [{ id: `l${i}`, name: '', lane: 'main', set: '' }] }, answer);
		expect(multipass.plan(material(use('origin')))).toBeNull();
		expect(multipass.has(material(), use('turn'))).toBe(true);
	});

	it('knows a step by all but the numbers that its stepPass is handed', () => {
		const multipass = new MultipassPlans();
		const sized = (u: number, by: string): StepUse => ({ step: 'size', on: true, values: { u, by } });
		const document = (one: StepUse): MaterialDocument => material(use('origin'), one);
		multipass.learn(document(sized(2, 'metres')), { ...answer, structure: { numbers: { '/lanes/0/steps/1/values/u': [0.1, 9, false, null] }, words: [], rising: {} } });
		const has = (one: StepUse): boolean => multipass.has(document(one), one);
		expect([has(sized(3, 'metres')), has(sized(0, 'metres')), has(sized(3, 'count'))]).toEqual([true, false, false]);
		// Where in a lane it stands is of no matter.
		expect(codes(multipass, material(use('origin'), sized(5, 'metres'), sized(7, 'metres')))).toEqual([['origin', 'size', 'size']]);
	});

	it('knows a step that follows a parameter only with parameters like those', () => {
		const multipass = new MultipassPlans();
		const follows: StepUse = { step: 'size', on: true, values: { linked: { parameter: 'p' } } };
		const document = (value: boolean): MaterialDocument => ({ ...material(use('origin'), follows), parameters: [{ id: 'p', name: 'P', kind: 'switch', value }] });
		multipass.learn(document(true), answer);
		expect([multipass.has(document(true), follows), multipass.has(document(false), follows)]).toEqual([true, false]);
	});
});
