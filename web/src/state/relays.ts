import type { Leg, MaterialDocument, Relay, StepUse } from '../api/client';

/** One step of a plan: the leg that does what it does, and its values. */
export type Ran = { leg: Leg; use: StepUse };
/** A document as a relay draws it. */
export type Plan = { relay: Relay; document: MaterialDocument; lanes: Ran[][] };

const MOST_KNOWN = 6;

/** What of materials is known leg by leg: enough to draw any order of steps that are known, without asking anybody. */
export class Relays {
	private readonly legs = new Map<string, Leg>();
	/** Steps that were asked for, whether they have legs or not. */
	private readonly asked = new Set<string>();
	/** Relays by the structure of what is not steps; null where there is none. */
	private readonly ends = new Map<string, Relay | null>();

	/**
	 * @param frame what of a document is structure, its steps aside
	 * @param step  what of a step is structure
	 */
	constructor(
		private readonly frame: (document: MaterialDocument) => string,
		private readonly step: (document: MaterialDocument, use: StepUse) => string
	) {}

	/** Whether all of a document has been asked for. */
	knows(document: MaterialDocument): boolean {
		const relay = this.ends.get(this.frame(document));
		return relay === null || (relay !== undefined && this.plan(document) !== null);
	}

	/** Whether a step has been asked for. */
	has(document: MaterialDocument, use: StepUse): boolean {
		return this.asked.has(this.step(document, use));
	}

	learn(document: MaterialDocument, relay: Relay | null): void {
		if (relay !== null) this.learnLegs(document, relay);
		this.ends.set(this.frame(document), relay);
		const oldest = this.ends.keys().next().value;
		if (this.ends.size > MOST_KNOWN && oldest !== undefined) this.ends.delete(oldest);
	}

	/** Forgets what maps are read in the end: they may have been changed elsewhere. */
	forget(): void {
		this.ends.clear();
	}

	learnLegs(document: MaterialDocument, relay: Relay): void {
		for (const { id, legs } of relay.lanes) {
			for (const [i, use] of (document.lanes.find((lane) => lane.id === id)?.steps ?? []).entries()) {
				const [key, leg] = [this.step(document, use), relay.legs[legs[i] ?? '']];
				this.asked.add(key);
				if (leg !== undefined) this.legs.set(key, leg);
			}
		}
	}

	/** A document as legs that are known; null if some are not. */
	plan(document: MaterialDocument): Plan | null {
		const relay = this.ends.get(this.frame(document)) ?? null;
		if (relay === null) return null;
		const lanes: Ran[][] = [];
		for (const { id } of relay.lanes.filter((lane) => lane.read)) {
			const ran: Ran[] = [];
			for (const use of document.lanes.find((lane) => lane.id === id)?.steps ?? []) {
				if (use.on === false) continue;
				const leg = this.legs.get(this.step(document, use));
				if (leg === undefined || leg.origin !== (ran.length === 0)) return null;
				ran.push({ leg, use });
			}
			if (ran.length === 0 || ran.reduce((taps, { leg }) => taps * leg.taps, 1) > relay.mostTaps) return null;
			lanes.push(ran);
		}
		return { relay, document, lanes };
	}
}
