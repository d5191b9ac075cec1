import { untrack } from 'svelte';
import { api, type MaterialDocument } from '../api/client';
import type { StageScene } from '../stage/scene';
import type { Side } from '../stage/wardrobe';
import type { Difference, Way } from './comparing';
import type { Session } from './session.svelte';
import { dressed, variantOf } from './variants';

/** What is looked at on one side: the open material as it is shown, as it was before the last change, in a variant, as a revision, or as it would be; or another material in a variant. */
export type Choice = { kind: 'open' } | { kind: 'before' } | { kind: 'variant'; variant: string } | { kind: 'revision'; id: number; name: string } | { kind: 'material'; id: number; name: string; variant: string } | { kind: 'offer'; document: MaterialDocument; name: string };
export type Hand = 'left' | 'right';
export const HANDS = ['left', 'right'] as const;

/** Milliseconds of quiet after a change until the sides follow. */
const CALM = 250;
/** Milliseconds for which each of two is seen that take turns. */
const TURN = 900;

/** Two of anything on one stage, before one eye, in one light. */
export class Comparison {
	on = $state(false);
	choices = $state.raw<Record<Hand, Choice>>({ left: { kind: 'open' }, right: { kind: 'before' } });
	way = $state<Way>('divider');
	at = $state(0.5);
	second = $state(false);
	/** How different the two look; null if nothing of it is seen, undefined as long as nobody knows. */
	figures = $state.raw<Difference | null | undefined>(undefined);
	trouble = $state('');
	/** What is being made ready. */
	waits = $state(false);
	documents = $state.raw<Record<Hand, MaterialDocument | null>>({ left: null, right: null });
	private sides: Record<Hand, Side | null> = { left: null, right: null };
	private readonly stored = new Map<string, Promise<MaterialDocument>>();
	private asked = 0;

	constructor(readonly session: Session) {}

	label(hand: Hand): string {
		const choice = this.choices[hand];
		if (choice.kind === 'open') return 'As it is shown';
		if (choice.kind === 'before') return 'Before the last change';
		if (choice.kind === 'variant') return choice.variant === '' ? 'As written' : (variantOf(this.session.document, choice.variant)?.name ?? choice.variant);
		return choice.name;
	}

	choose(hand: Hand, choice: Choice): void {
		this.choices = { ...this.choices, [hand]: choice };
	}

	/** Left is right, and right is left. */
	swap(): void {
		this.choices = { left: this.choices.right, right: this.choices.left };
	}

	/** Begins to look at what was chosen last; where nothing was, at what is shown and something else. */
	begin(): void {
		const variant = this.session.document.variants?.[0]?.id;
		if (this.choices.right.kind === 'before' && this.session.past.length === 0 && variant !== undefined) this.choices = { left: { kind: 'variant', variant: '' }, right: { kind: 'variant', variant } };
		this.on = true;
	}

	/** Begins to look at two things: what is shown, and what it would be. */
	withOffer(document: MaterialDocument, name: string): void {
		this.choices = { left: { kind: 'open' }, right: { kind: 'offer', document, name } };
		this.on = true;
	}

	/** Begins to look at two things: what is shown, and what it was before the last change. */
	withBefore(): void {
		this.choices = { left: { kind: 'before' }, right: { kind: 'open' } };
		this.on = true;
	}

	/**
	 * Has the sides follow what is chosen and changed; to be called from an effect.
	 *
	 * @returns what ends it
	 */
	follow(scene: StageScene, sides: (documents: readonly (MaterialDocument | null)[]) => Promise<(Side | null)[]>): () => void {
		// All of it is a reason to begin anew.
		void [JSON.stringify(this.choices), JSON.stringify(this.session.document), this.session.variant, this.session.past.length];
		const later = setTimeout(() => void this.take(scene, sides), untrack(() => this.documents.left ?? this.documents.right) === null ? 0 : CALM);
		return () => clearTimeout(later);
	}

	/** Has the picture follow how it is looked at; to be called from an effect. */
	show(scene: StageScene): void {
		const { way, at, second } = this;
		void this.documents;
		scene.compare({ ...this.sides, owns: (wears) => wears === null || wears === this.session.id, way, at, second });
	}

	/** Has two take turns, as long as that is how they are looked at; to be called from an effect. */
	turn(): () => void {
		const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
		const turning = this.way === 'blink' && !still ? window.setInterval(() => (this.second = !this.second), TURN) : 0;
		return () => clearInterval(turning);
	}

	measure(scene: StageScene): void {
		if (!this.waits) this.figures = scene.difference();
	}

	private async take(scene: StageScene, sides: Parameters<Comparison['follow']>[1]): Promise<void> {
		const mine = ++this.asked;
		this.waits = true;
		this.figures = undefined;
		try {
			const documents = await Promise.all(HANDS.map((hand) => this.documentOf(this.choices[hand])));
			const [left = null, right = null] = await sides(documents);
			if (mine !== this.asked || !this.on) return;
			this.sides = { left, right };
			this.documents = { left: documents[0] ?? null, right: documents[1] ?? null };
			this.trouble = '';
			this.waits = false;
			scene.redraw();
		} catch (error) {
			if (mine !== this.asked) return;
			this.waits = false;
			this.trouble = error instanceof Error ? error.message : String(error);
		}
	}

	/** Null for the open material as it is shown. */
	private async documentOf(choice: Choice): Promise<MaterialDocument | null> {
		const { session } = this;
		if (choice.kind === 'open') return null;
		if (choice.kind === 'variant') return dressed($state.snapshot(session.document) as MaterialDocument, choice.variant);
		if (choice.kind === 'before') {
			const last = session.past.at(-1);
			return last === undefined ? null : dressed(JSON.parse(last) as MaterialDocument, session.variant);
		}
		if (choice.kind === 'offer') return choice.document;
		const name = `${choice.kind} ${choice.id}`;
		const asked = this.stored.get(name) ?? (choice.kind === 'revision' ? api.revision(choice.id).then((one) => one.document) : api.material(choice.id).then((one) => one.document));
		this.stored.set(name, asked);
		asked.catch(() => this.stored.delete(name));
		return choice.kind === 'material' ? dressed(await asked, choice.variant) : await asked;
	}
}
