/** What a material was: revisions in the order of time, and the places where two differ, in words. */
import type { MaterialDocument, Revision } from '../api/client';
import { FINISH, masked } from './parameters';

/** Saves that follow each other so closely are one sitting. */
const SITTING = 10 * 60 * 1000;

/** The last of every sitting, and all that have a name or lost a conflict; the latest first. */
export function landmarks(revisions: Revision[]): Revision[] {
	return revisions.filter((one, i) => {
		const later = revisions[i - 1];
		return later === undefined || one.name !== '' || one.approvedBy !== '' || one.aside || later.aside || Date.parse(later.savedAt) - Date.parse(one.savedAt) > SITTING;
	});
}

type Label = (step: string, name: string) => string;

/** A place of a document in words: whose it is, and what of it. Where the document has nothing there, what is left of the pointer. */
export function placeOf(document: MaterialDocument, path: string, label: Label): string {
	const [list, index, part, at, , name, ...rest] = path.split('/').slice(1);
	const more = rest.length > 0 ? ` ${rest.join(' ')}` : '';
	if (list === 'lanes') {
		const lane = document.lanes[Number(index)];
		const use = part === 'steps' ? lane?.steps[Number(at)] : undefined;
		if (use !== undefined && name !== undefined) return `${lane!.name} › ${label(use.step, '')} › ${label(use.step, name)}${more}`;
		if (use !== undefined) return `${lane!.name} › ${label(use.step, '')}`;
		if (lane !== undefined) return `${lane.name} › ${part ?? 'lane'}${at === undefined ? '' : ` ${Number(at) + 1}`}`;
	}
	const [, , , , value] = path.split('/').slice(1);
	const layer = list === 'layers' ? document.layers[Number(index)] : undefined;
	if (layer !== undefined) {
		if (part === 'finish' && value !== undefined) return `${layer.name} › ${label(FINISH, value)}${name === undefined ? '' : ` ${name}`}`;
		const term = part === 'mask' ? layer.mask?.[Number(at)] : undefined;
		if (term !== undefined) return `${layer.name} › mask ${Number(at) + 1}${name === undefined ? '' : ` › ${label(masked(term.kind), name)}${more}`}`;
		return `${layer.name}${part === undefined ? '' : ` › ${part}`}${at === undefined ? '' : ` ${at}`}`;
	}
	const parameter = list === 'parameters' ? document.parameters?.[Number(index)] : undefined;
	if (parameter !== undefined) return `${parameter.name}${part === undefined ? '' : ` › ${part}`}`;
	const variant = list === 'variants' ? document.variants?.[Number(index)] : undefined;
	if (variant !== undefined) {
		const driven = part === 'values' ? document.parameters?.find((one) => one.id === at) : undefined;
		return `${variant.name}${part === undefined ? '' : ` › ${driven?.name ?? part}`}`;
	}
	return path.split('/').slice(1).join(' ');
}
