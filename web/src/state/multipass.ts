import type { StepPass, MaterialDocument, MultipassPlan, MultipassAnswer, StepUse } from '../api/client';
import { isTie } from './parameters';
import { below, outline, type Structure } from './structure';

/** One step of a plan: the pass that does what it does, and its values. */
export type Ran = { stepPass: StepPass; use: StepUse };
/** A document as a multipass plan draws it. */
export type Plan = { multipass: MultipassPlan; document: MaterialDocument; lanes: Ran[][] };
/** What is known of all steps of one outline; null where they do not come apart. */
type Known = { outline: string; step: Structure; whole: Structure; stepPass: StepPass | null };

const MOST_KNOWN = 6;

/** What of materials is known pass by pass: enough to draw any order of steps that are known, without asking anybody. */
export class MultipassPlans {
	private readonly passes = new Map<string, Known[]>();
	/** Plans by the outline of all but the steps that come apart; null where there is none. */
	private ends: { outline: string; structure: Structure; multipass: MultipassPlan | null }[] = [];

	/** Whether all of a document has been asked for. */
	knows(document: MaterialDocument): boolean {
		const end = this.end(document);
		return end !== undefined && (end.multipass === null || this.plan(document) !== null);
	}

	/** Whether a step has been asked for. */
	has(document: MaterialDocument, use: StepUse): boolean {
		return this.known(document, use) !== undefined;
	}

	learn(document: MaterialDocument, { multipass, structure }: MultipassAnswer): void {
		if (multipass !== null) this.learnPasses(document, multipass, structure);
		const known = this.end(document);
		this.ends = [...this.ends.filter((one) => one !== known), { outline: outline(frame(document, multipass), structure), structure, multipass }].slice(-MOST_KNOWN);
	}

	/** Forgets what maps are read in the end: they may have been changed elsewhere. */
	forget(): void {
		this.ends = [];
	}

	learnPasses(document: MaterialDocument, multipass: MultipassPlan, structure: Structure): void {
		for (const { id, passes } of multipass.lanes) {
			const at = document.lanes.findIndex((lane) => lane.id === id);
			for (const [i, use] of (document.lanes[at]?.steps ?? []).entries()) {
				const step = below(structure, `/lanes/${at}/steps/${i}`);
				const stepPass = multipass.passes[passes[i] ?? ''] ?? null;
				const known = this.known(document, use);
				if (known !== undefined) known.stepPass ??= stepPass;
				else this.passes.set(use.step, [...(this.passes.get(use.step) ?? []), { outline: stepOutline(document, use, step, structure), step, whole: structure, stepPass }]);
			}
		}
	}

	/** A document as passes that are known; null if some are not. */
	plan(document: MaterialDocument): Plan | null {
		const multipass = this.end(document)?.multipass ?? null;
		if (multipass === null) return null;
		const lanes: Ran[][] = [];
		for (const { id } of multipass.lanes.filter((lane) => lane.read)) {
			const ran: Ran[] = [];
			for (const use of document.lanes.find((lane) => lane.id === id)?.steps ?? []) {
				if (use.on === false) continue;
				const stepPass = this.known(document, use)?.stepPass ?? null;
				if (stepPass === null || stepPass.origin !== (ran.length === 0)) return null;
				ran.push({ stepPass, use });
			}
			if (ran.length === 0 || ran.reduce((taps, { stepPass }) => taps * stepPass.taps, 1) > multipass.mostTaps) return null;
			lanes.push(ran);
		}
		return { multipass, document, lanes };
	}

	private end(document: MaterialDocument): (typeof this.ends)[number] | undefined {
		return this.ends.find((one) => outline(frame(document, one.multipass), one.structure) === one.outline);
	}

	private known(document: MaterialDocument, use: StepUse): Known | undefined {
		return this.passes.get(use.step)?.find((one) => stepOutline(document, use, one.step, one.whole) === one.outline);
	}
}

/** All of a document but the steps of lanes that come apart. */
function frame(document: MaterialDocument, multipass: MultipassPlan | null): MaterialDocument {
	const apart = new Set(multipass?.lanes.flatMap(({ id, whole }) => (whole ? [] : [id])));
	return { ...document, lanes: document.lanes.map((lane) => (apart.has(lane.id) ? { ...lane, steps: [] } : lane)) };
}

/** What of a step is structure; what it follows lies in the parameters of the document. */
function stepOutline(document: MaterialDocument, use: StepUse, step: Structure, whole: Structure): string {
	const own = outline({ step: use.step, values: use.values }, step);
	return ties(use.values) ? own + outline({ parameters: document.parameters ?? [] }, whole) : own;
}

function ties(value: unknown): boolean {
	return isTie(value) || (typeof value === 'object' && value !== null && Object.values(value).some(ties));
}
