import { getContext, setContext } from 'svelte';
import { api, type Costs, type Encoding, type Fix, type JudgedFinding, type MaterialDocument, type StageDocument } from '../api/client';
import { passes, pause } from './retry';

export type Severity = JudgedFinding['severity'];
/** The gravest first, and what is said of them. */
export const SEVERITIES: readonly { value: Severity; label: string }[] = [
	{ value: 'wrong', label: 'Wrong' },
	{ value: 'doubtful', label: 'Doubtful' },
	{ value: 'note', label: 'Good to know' }
];
/** Milliseconds after all has been stored until it is looked through. */
const CALM = 1500;
const NAME = 'rilta-budget';

/** What the core finds in the open material on the stage, and what its parts cost. */
export class Findings {
	all = $state.raw<JudgedFinding[] | null>(null);
	costs = $state.raw<Costs | null>(null);
	/** Whether they are of the document as it is. */
	current = $state(false);
	trouble = $state('');
	/** The budget that it has to keep; kept for the person. */
	budget = $state(localStorage.getItem(NAME) ?? '');
	private asked = new AbortController();
	private timer = 0;

	constructor(private readonly project: string) {}

	/** How many there are of a severity. */
	count(severity: Severity): number {
		return this.all?.filter((one) => one.severity === severity).length ?? 0;
	}

	/** The gravest at a place, or within it. */
	at(path: string): Severity | null {
		const here = this.all?.filter((one) => one.path === path || one.path.startsWith(`${path}/`)) ?? [];
		return SEVERITIES.find(({ value }) => here.some((one) => one.severity === value))?.value ?? null;
	}

	keep(budget: string): void {
		this.budget = budget;
		localStorage.setItem(NAME, budget);
	}

	/** The document or the stage may be another; they are looked through soon, or at once. */
	follow(asked: () => { document: MaterialDocument; stage: StageDocument }, now = false): void {
		this.stop();
		this.timer = window.setTimeout(() => void this.ask(asked()), now ? 0 : CALM);
	}

	stop(): void {
		this.current = false;
		clearTimeout(this.timer);
		this.asked.abort();
		this.asked = new AbortController();
	}

	/** Does to a map what would mend it. */
	async mend(map: NonNullable<JudgedFinding['map']>): Promise<void> {
		const encoding = /^read-as-(.+)$/.exec(map.mend)?.[1];
		if (encoding === undefined) await api.fixMap(map.id, map.mend as Fix);
		else await api.changeMap(map.id, { encoding: encoding as Encoding });
	}

	private async ask(asked: { document: MaterialDocument; stage: StageDocument }, tries = 0): Promise<void> {
		const { document, stage } = asked;
		const { signal } = this.asked;
		try {
			const found = await api.findings(this.project, { document, stage, profile: this.budget }, signal);
			if (signal.aborted) return;
			[this.all, this.current, this.trouble] = [found.findings, true, ''];
			const costs = await api.costs(this.project, document, signal);
			if (!signal.aborted) this.costs = costs;
		} catch (error) {
			if (signal.aborted) return;
			this.trouble = error instanceof Error ? error.message : String(error);
			if (passes(error)) this.timer = window.setTimeout(() => void this.ask(asked, tries + 1), pause(tries));
		}
	}
}

const KEY = Symbol('findings');
export const offerFindings = (findings: () => Findings): void => void setContext(KEY, findings);
/** Those of the workbench that a part stands on; none elsewhere. */
export const findingsHere = (): (() => Findings) | undefined => getContext(KEY);
