import { describe, expect, it } from 'vitest';
import type { MaterialDocument, StepUse } from '../api/client';
import { catalogue } from './catalogue.svelte';
import { inserted, type Library } from './lanes.svelte';

catalogue.value = {
	steps: [
		{ name: 'cell', controls: [{ name: 'cut', type: 'choice', default: 'grid' }, { name: 'sheet', type: 'sheet', default: '', shownWhen: { cut: ['sheet'] } }] },
		{ name: 'choose', controls: [{ name: 'family', type: 'family', default: '' }] }
	]
} as unknown as typeof catalogue.value;

const library = {
	families: [{ name: 'shells', sets: ['shell-1', 'shell-2'] }],
	sets: [{ name: 'salt', sheet: null }, { name: 'signs', sheet: { columns: 2, rows: 2, rectangles: [] } }, { name: 'shell-2', sheet: null }]
} as unknown as Library;

/** The step that is inserted where a lane is ridden by layers of these sets. */
function fresh(name: string, ...sets: string[]): StepUse | undefined {
	const document = { lanes: [{ id: 'main', name: 'Main', steps: [] }], layers: sets.map((set) => ({ id: set, name: set, lane: set === 'signs' && sets.length > 1 ? 'other' : 'main', set })) } as unknown as MaterialDocument;
	inserted(0, 0, name, library)(document);
	return document.lanes[0]?.steps[0];
}

describe('a step that is inserted', () => {
	it('reads the parts of the sheet that rides on the lane', () => {
		expect(fresh('cell', 'signs')?.values).toEqual({ cut: 'sheet', sheet: 'signs' });
		expect(fresh('cell', 'salt')?.values).toEqual({ cut: 'grid', sheet: '' });
		expect(fresh('cell', 'salt', 'signs')?.values).toEqual({ cut: 'grid', sheet: '' });
	});
	it('chooses from the family that rides on the lane', () => {
		expect(fresh('choose', 'shell-2')?.values).toEqual({ family: 'shells' });
		expect(fresh('choose', 'signs')?.values).toEqual({ family: '' });
	});
});
