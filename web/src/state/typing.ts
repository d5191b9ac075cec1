/** Whether keys go into a field for text, which has an undo of its own. */
export function typesText(target: EventTarget | null): boolean {
	return target instanceof HTMLTextAreaElement || (target instanceof HTMLInputElement && !['radio', 'checkbox', 'range', 'color'].includes(target.type));
}
