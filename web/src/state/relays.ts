import type { Leg, MaterialDocument, Relay, RelayAnswer, StepUse } from '../api/client';
import { isTie } from './parameters';
import { below, outline, type Structure } from './structure';

/** One step of a plan: the leg that does what it does, and its values. */
export type Ran = { leg: Leg; use: StepUse };
/** A document as a relay draws it. */
export type Plan = { relay: Relay; document: MaterialDocument; lanes: Ran[][] };
/** What is known of all steps of one outline; null where they do not come apart. */
type Known = { outline: string; step: Structure; whole: Structure; leg: Leg | null };

const MOST_KNOWN = 6;

/** What of materials is known leg by leg: enough to draw any order of steps that are known, without asking anybody. */
export class Relays {
	private readonly legs = new Map<string, Known[]>();
	/** Relays by the outline of what is not steps; null where there is none. */
	private ends: { outline: string; structure: Structure; relay: Relay | null }[] = [];

	/** Whether all of a document has been asked for. */
	knows(document: MaterialDocument): boolean {
		const end = this.end(document);
		return end !== undefined && (end.relay === null || this.plan(document) !== null);
	}

	/** Whether a step has been asked for. */
	has(document: MaterialDocument, use: StepUse): boolean {
		return this.known(document, use) !== undefined;
	}

	learn(document: MaterialDocument, { relay, structure }: RelayAnswer): void {
		if (relay !== null) this.learnLegs(document, relay, structure);
		const known = this.end(document);
		this.ends = [...this.ends.filter((one) => one !== known), { outline: outline(frame(document), structure), structure, relay }].slice(-MOST_KNOWN);
	}

	/** Forgets what maps are read in the end: they may have been changed elsewhere. */
	forget(): void {
		this.ends = [];
	}

	learnLegs(document: MaterialDocument, relay: Relay, structure: Structure): void {
		for (const { id, legs } of relay.lanes) {
			const at = document.lanes.findIndex((lane) => lane.id === id);
			for (const [i, use] of (document.lanes[at]?.steps ?? []).entries()) {
				const step = below(structure, `/lanes/${at}/steps/${i}`);
				const leg = relay.legs[legs[i] ?? ''] ?? null;
				const known = this.known(document, use);
				if (known !== undefined) known.leg ??= leg;
				else this.legs.set(use.step, [...(this.legs.get(use.step) ?? []), { outline: stepOutline(document, use, step, structure), step, whole: structure, leg }]);
			}
		}
	}

	/** A document as legs that are known; null if some are not. */
	plan(document: MaterialDocument): Plan | null {
		const relay = this.end(document)?.relay ?? null;
		if (relay === null) return null;
		const lanes: Ran[][] = [];
		for (const { id } of relay.lanes.filter((lane) => lane.read)) {
			const ran: Ran[] = [];
			for (const use of document.lanes.find((lane) => lane.id === id)?.steps ?? []) {
				if (use.on === false) continue;
				const leg = this.known(document, use)?.leg ?? null;
				if (leg === null || leg.origin !== (ran.length === 0)) return null;
				ran.push({ leg, use });
			}
			if (ran.length === 0 || ran.reduce((taps, { leg }) => taps * leg.taps, 1) > relay.mostTaps) return null;
			lanes.push(ran);
		}
		return { relay, document, lanes };
	}

	private end(document: MaterialDocument): (typeof this.ends)[number] | undefined {
		return this.ends.find((one) => outline(frame(document), one.structure) === one.outline);
	}

	private known(document: MaterialDocument, use: StepUse): Known | undefined {
		return this.legs.get(use.step)?.find((one) => stepOutline(document, use, one.step, one.whole) === one.outline);
	}
}

/** All of a document but its steps. */
function frame(document: MaterialDocument): MaterialDocument {
	return { ...document, lanes: document.lanes.map((lane) => ({ ...lane, steps: [] })) };
}

/** What of a step is structure; what it follows lies in the parameters of the document. */
function stepOutline(document: MaterialDocument, use: StepUse, step: Structure, whole: Structure): string {
	const own = outline({ step: use.step, values: use.values }, step);
	return ties(use.values) ? own + outline({ parameters: document.parameters ?? [] }, whole) : own;
}

function ties(value: unknown): boolean {
	return isTie(value) || (typeof value === 'object' && value !== null && Object.values(value).some(ties));
}
