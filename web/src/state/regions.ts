/** Going from one region of a page to the next by F6: each has one place where the keyboard comes in, and remembers where it was. */
const REGIONS = '.bench > header, .bench > .stage, .bench > aside, .bench > section, .bench > .right > section';
const ABLE = 'button:not(:disabled), input:not(:disabled), select:not(:disabled), a[href], [tabindex="0"]';
/** What a region is entered by, if it has been nowhere yet. */
const FIRST = '[aria-pressed="true"].face, .face, .tile .face';

const before = new WeakMap<Element, HTMLElement>();

/** Moves the focus to the next region that can take it, or to the one before. */
export function goThroughRegions(root: ParentNode, by: 1 | -1): void {
	const regions = [...root.querySelectorAll<HTMLElement>(REGIONS)].filter((one) => one.querySelector(ABLE) !== null);
	if (regions.length === 0) return;
	const active = document.activeElement as HTMLElement | null;
	const at = regions.findIndex((one) => one.contains(active));
	if (at >= 0 && active !== null) before.set(regions[at]!, active);
	const region = regions[(at < 0 ? (by > 0 ? 0 : regions.length - 1) : at + by + regions.length) % regions.length]!;
	const last = before.get(region);
	(last?.isConnected === true ? last : (region.querySelector<HTMLElement>(FIRST) ?? region.querySelector<HTMLElement>(ABLE)))?.focus();
}

/** Moves the focus among the tiles or bands beside one another. */
export function goAlong(from: HTMLElement, selector: string, by: number): void {
	const all = [...(from.closest('section, aside')?.querySelectorAll<HTMLElement>(selector) ?? [])];
	all[Math.max(0, Math.min(all.length - 1, all.indexOf(from) + by))]?.focus();
}
