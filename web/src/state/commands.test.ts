import { describe, expect, it, vi } from 'vitest';
import { commands, matching, pressed } from './commands.svelte';

class Field {
	type = 'text';
}
vi.stubGlobal('HTMLInputElement', Field);
vi.stubGlobal('HTMLTextAreaElement', Field);
const event = (key: string, more: Partial<KeyboardEvent> = {}): KeyboardEvent => ({ key, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false, target: null, preventDefault: vi.fn(), ...more }) as unknown as KeyboardEvent;

describe('commands', () => {
	it('are told by their keys, with Shift where letters have it and signs may', () => {
		expect(pressed('Ctrl+Z', event('z', { ctrlKey: true }))).toBe(true);
		expect(pressed('Ctrl+Z', event('z', { metaKey: true }))).toBe(true);
		expect(pressed('Ctrl+Z', event('Z', { ctrlKey: true, shiftKey: true }))).toBe(false);
		expect(pressed('Ctrl+Shift+Z', event('Z', { ctrlKey: true, shiftKey: true }))).toBe(true);
		expect(pressed('?', event('?', { shiftKey: true }))).toBe(true);
		expect(pressed('P', event('p', { altKey: true }))).toBe(false);
	});

	it('are done if they can be, and not while text is typed, but for those that always are', () => {
		const [undo, save, next] = [vi.fn(), vi.fn(), vi.fn()];
		const withdraw = commands.offer('here', () => [
			{ group: 'A', label: 'Undo', keys: 'Ctrl+Z', run: undo, can: false },
			{ group: 'A', label: 'Save', keys: 'Ctrl+S', run: save },
			{ group: 'A', label: 'Next', keys: 'F6', run: next, always: true }
		]);
		const field = new Field() as unknown as EventTarget;
		const kept = event('s', { ctrlKey: true });
		commands.press(kept);
		expect(kept.preventDefault).toHaveBeenCalled();
		commands.press(event('z', { ctrlKey: true }));
		commands.press(event('s', { ctrlKey: true, target: field }));
		commands.press(event('F6', { target: field }));
		expect([undo, save, next].map((one) => one.mock.calls.length)).toEqual([0, 1, 1]);
		withdraw();
		commands.press(event('F6'));
		expect(next).toHaveBeenCalledTimes(1);
	});

	it('are found by the beginnings of words', () => {
		const all = ['See all', 'See selected', 'Save'].map((label) => ({ group: 'Stage', label }));
		expect(matching(all, 'se st').map((one) => one.label)).toEqual(['See all', 'See selected']);
		expect(matching(all, ' sel').map((one) => one.label)).toEqual(['See selected']);
		expect(matching(all, '')).toHaveLength(3);
		// Whose name says it comes before whose group does.
		expect(matching([{ group: 'Maps', label: 'Bin' }, { group: 'Go to', label: 'Maps' }], 'maps').map((one) => one.label)).toEqual(['Maps', 'Bin']);
	});
});
