import { untrack } from 'svelte';
import { typesText } from './typing';

/** Something that can be done, or that keys do where they are pressed. */
export type Command = {
	group: string;
	label: string;
	/** "Ctrl+Shift+Z", "F6", "?": the Command key does for Ctrl. */
	keys?: string;
	/** What keys alone do, where they are pressed, has none. */
	run?: () => void;
	/** Whether it can be done now. */
	can?: boolean;
	/** What the keyboard goes on at when it is done (a selector, or the element). */
	lands?: string | HTMLElement;
	/** Whether its keys are taken while text is typed as well. */
	always?: boolean;
};

/** What can be set; of several that exclude each other, the one that is chosen. */
export const FIELD = ':is(input:not([type="radio"]:not(:checked)), select, textarea, [role="spinbutton"])';
/** The values of what is selected. */
export const VALUES = `[aria-label="Values"] ${FIELD}`;

/** The tile of the step that is selected. */
export const TILE = '.tile.selected .face';

/** What keys do in places of their own; those places hear them. */
const IN_PLACE: Command[] = [
	{ group: 'Layers', label: 'Choose several', keys: 'Shift+↑ ↓' },
	{ group: 'Layers', label: 'Move up or down', keys: 'Alt+↑ ↓' },
	{ group: 'Layers', label: 'All', keys: 'Ctrl+A' },
	{ group: 'Layers', label: 'Make a group', keys: 'Ctrl+G' },
	{ group: 'Layers', label: 'Delete', keys: 'Delete' },
	{ group: 'Steps of a lane', label: 'Go along', keys: '← →' },
	{ group: 'Steps of a lane', label: 'Move along', keys: 'Alt+← →' },
	{ group: 'Steps of a lane', label: 'Delete', keys: 'Delete' },
	{ group: 'Numbers', label: 'Type', keys: 'Enter' },
	{ group: 'Numbers', label: 'More or less', keys: '↑ ↓' },
	{ group: 'Numbers', label: 'As usual', keys: 'Delete' },
	{ group: 'Brush', label: 'Value 0, ½ and 1', keys: '0 5 1' },
	{ group: 'Brush', label: 'Wider or narrower', keys: '+ -' },
	{ group: 'Stage', label: 'Turn the eye', keys: '← → ↑ ↓' },
	{ group: 'Stage', label: 'Closer or away', keys: '+ -' },
	{ group: 'Walk', label: 'Go', keys: 'W A S D' },
	{ group: 'Walk', label: 'Turn', keys: 'Q E' },
	{ group: 'Walk', label: 'Hurry', keys: 'Shift' }
];

class Commands {
	private sources = $state.raw<Record<string, () => Command[]>>({});

	/** Offers commands for as long as it is not taken back. */
	offer(name: string, list: () => Command[]): () => void {
		this.put((all) => ({ ...all, [name]: list }));
		return () => this.put((all) => (all[name] === list ? Object.fromEntries(Object.entries(all).filter(([one]) => one !== name)) : all));
	}

	/** Whoever offers something is not to do so again because somebody else does. */
	private put(change: (all: Record<string, () => Command[]>) => Record<string, () => Command[]>): void {
		this.sources = change(untrack(() => this.sources));
	}

	/** All that can be done where somebody is; what can be done everywhere was offered first, and comes last. */
	get all(): Command[] {
		return Object.values(this.sources).reverse().flatMap((list) => list());
	}

	/** All that has keys, with what keys do in places of their own. */
	get keyed(): Command[] {
		return [...this.all.filter((one) => one.keys !== undefined), ...IN_PLACE];
	}

	/** Does what the keys stand for, if they stand for something that can be done. */
	press(event: KeyboardEvent): void {
		const typing = typesText(event.target);
		const found = this.all.find((one) => one.keys !== undefined && one.run !== undefined && one.can !== false && (!typing || one.always === true) && pressed(one.keys, event));
		if (found === undefined) return;
		event.preventDefault();
		found.run!();
	}
}

/** What a field is called beside it. */
function called(field: HTMLElement): string {
	const group = field.closest('[role="radiogroup"]');
	const label = field.closest('label');
	const beside = label === null ? '' : [...label.childNodes].filter((one) => !one.contains(field)).map((one) => one.textContent).join(' ');
	const said = group === null ? (field.getAttribute('aria-label') ?? beside) : (group.getAttribute('aria-label') ?? document.getElementById(group.getAttribute('aria-labelledby') ?? '')?.textContent ?? '');
	return said.replace(/\s+/g, ' ').trim();
}

/** The values that are in sight, to be gone to by their names. */
export function values(): Command[] {
	return [...document.querySelectorAll<HTMLElement>(VALUES)].map((field) => ({ group: 'Value', label: called(field), lands: field, run: () => undefined })).filter((one) => one.label !== '');
}

/** Whether these are the keys. */
export function pressed(keys: string, event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>): boolean {
	const parts = keys.split('+');
	const key = parts.at(-1)!.toLowerCase();
	// Signs are typed with Shift on some keyboards, and without on others.
	const sign = key.length === 1 && !/[a-z0-9]/.test(key);
	return event.key.toLowerCase() === key && (event.ctrlKey || event.metaKey) === parts.includes('Ctrl') && event.altKey === parts.includes('Alt') && (sign || event.shiftKey === parts.includes('Shift'));
}

/** Those whose words begin with all of what was typed, in any order; those whose names alone do come first. */
export function matching(commands: Command[], typed: string): Command[] {
	const words = typed.toLowerCase().split(/\s+/).filter((word) => word !== '');
	const says = (text: string): boolean => words.every((word) => ` ${text}`.toLowerCase().includes(` ${word}`));
	const found = commands.filter((one) => says(`${one.group} ${one.label}`));
	return [...found.filter((one) => says(one.label)), ...found.filter((one) => !says(one.label))];
}

export const commands = new Commands();
