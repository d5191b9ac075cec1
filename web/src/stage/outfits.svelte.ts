import { untrack } from 'svelte';
import { api, type Lowered, type MaterialDocument } from '../api/client';
import type { Clock } from '../state/clock.svelte';
import type { Plan } from '../state/multipass';
import { failed } from '../state/notices.svelte';
import type { Session } from '../state/session.svelte';
import type { StageState } from '../state/stage.svelte';
import { dressed, numbersOf, variantOf } from '../state/variants';
import { Program } from './program';
import type { StageScene } from './scene';
import { MapTextures } from './textures';
import type { Side } from './wardrobe';

/** Programs that are kept for when they are wanted again. */
const KEPT = 12;
/** Milliseconds of quiet before what may come is made ready, and between two pieces of that. */
const QUIET = 1500;
const BREATH = 60;

/** What surrounds it. */
export type Around = {
	session: Session;
	clock: Clock;
	slug: string;
	stage: () => StageState;
	/** Whether the lit material is looked at. */
	lit: () => boolean;
	/** Path of the selected step. */
	step: () => string | null;
	/** A program took over the stage. */
	taken: (program: Program) => void;
	/** Textures became finer. */
	finer: () => void;
};

/** The code that everything on the stage is drawn with: that of the open material, of its variants, of other materials that objects wear, and what is made ready for what may come. */
export class Outfits {
	/** What the open material is drawn with. */
	program = $state.raw<Program | null>(null);
	private readonly textures: MapTextures;
	private readonly programs = new Map<string, Program>();
	/** What multipass end in, by the hash of that, once all of it is compiled. */
	private readonly ends = new Map<string, Program>();
	/** Programs that variants need which differ in more than numbers, by variant. */
	private others = new Map<string, Program>();
	/** Other materials of the project that objects wear, in a variant: as they are stored, with their code. Null where there is none. */
	private readonly foreign = new Map<string, { document: MaterialDocument; program: Program } | null>();
	/** Those that are on their way. */
	private readonly waited = new Set<string>();
	private readonly documents = new Map<number, Promise<MaterialDocument>>();
	/** What is looked at beside the open material, by what for. */
	private readonly beside = new Map<string, Program[]>();
	private training = 0;
	private left = false;

	constructor(private readonly scene: StageScene, private readonly around: Around) {
		this.textures = new MapTextures(scene.renderer);
	}

	/** Whether the stage draws with the code at hand, and not with what came before. */
	get drawn(): boolean {
		return this.program !== null && this.program.lowered.hash === this.around.session.lowered?.hash;
	}

	/** What a plan ends in, if all that it takes is at hand, and what is looked at is the lit material. */
	runner(plan: Plan): Program | null {
		const end = this.ends.get(plan.multipass.end.hash);
		return end === undefined || !this.around.lit() || this.around.session.before !== null || !this.scene.multipass.ready(plan) || this.dressedOtherwise || this.scene.compares ? null : end;
	}

	/** Draws a plan pass by pass, if all that it takes is at hand. */
	run(plan: Plan | null): void {
		const end = plan === null ? null : this.runner(plan);
		if (plan === null || end === null) return;
		end.fill(plan.document);
		end.time(this.around.clock.seconds);
		this.scene.run({ plan, end });
	}

	/** The clock stands elsewhere. */
	tick(): void {
		if (this.scene.running) this.run(this.around.session.planned());
		const running = [this.program, ...[...this.beside.values()].flat()].filter((one) => one?.lowered.clock.runs === true);
		for (const one of running) one?.time(this.around.clock.seconds);
		if (running.length > 0) this.scene.redraw();
	}

	/** Has code compiled that is likely to be wanted. */
	foresee(lowered: Lowered): void {
		// What differs in its maps alone has nothing to be compiled.
		if (lowered.code !== this.program?.lowered.code) void this.of(lowered).then((next) => this.scene.warm(next), () => {});
	}

	/** Makes ready, while nothing happens, what other orders of the steps are drawn with, and steps that are new. */
	train(): void {
		clearTimeout(this.training);
		this.training = window.setTimeout(() => void this.trained().catch(() => {
			// A material that cannot be drawn pass by pass waits for its code.
		}), QUIET);
	}

	/** What each object wears; one that wears nothing of this material's shows what the stage does. */
	dress(): void {
		const { session } = this.around;
		const current = this.program;
		if (current === null) return;
		this.bringForeign();
		this.draw();
		const wanted = [...new Set(this.scene.variants().map((worn) => this.named(worn)))].filter((variant) => variant !== session.variant);
		void Promise.all(wanted.map(async (variant) => {
			const lowered = await session.codeFor(variant);
			return lowered === null ? null : ([variant, await this.of(lowered)] as const);
		})).then((found) => {
			if (this.program !== current) return;
			const next = new Map(found.filter((one) => one !== null));
			if (next.size === this.others.size && [...next].every(([variant, one]) => this.others.get(variant) === one)) return;
			this.others = next;
			this.draw();
		}, (error: unknown) => failed('A variant could not be shown', error));
	}

	/**
	 * What documents are drawn with that are looked at beside the open material; those before are not looked at any more.
	 *
	 * @param use what for
	 */
	async sides(use: string, documents: readonly (MaterialDocument | null)[]): Promise<(Side | null)[]> {
		const made = await Promise.all(documents.map(async (document) => {
			if (document === null) return null;
			const program = await this.of(await api.lower(this.around.slug, document, this.around.session.far));
			program.time(this.around.clock.seconds);
			return { program, numbers: program.numbers(document) };
		}));
		const programs = [...new Set(made.flatMap((one) => (one === null ? [] : [one.program])))];
		this.beside.set(use, programs);
		for (const program of programs) await this.scene.warm(program);
		return made;
	}

	/** New structure: other code, the same textures where possible. */
	async takeOver(lowered: Lowered): Promise<void> {
		const { session, clock } = this.around;
		try {
			const next = await this.of(lowered);
			// What is seen already has time to be compiled beside it.
			if (this.scene.standing) await this.scene.warm(next);
			if (session.lowered !== lowered || this.left) return;
			next.fill(session.dressed);
			next.time(clock.seconds);
			this.program = next;
			this.others = new Map();
			this.around.taken(next);
			this.scene.use(next);
			this.dress();
			void session.foreseeVariants();
			this.train();
		} catch (error) {
			failed('The maps could not be loaded', error);
		}
	}

	dispose(): void {
		this.left = true;
		clearTimeout(this.training);
		for (const one of [...this.programs.values(), ...this.ends.values()]) one.dispose();
		this.textures.dispose();
	}

	/** A variant that the open material has, or else the one that is shown. */
	private named(worn: string): string {
		const { session } = this.around;
		return variantOf(session.document, worn) === undefined ? session.variant : worn;
	}

	/** @param soon whether somebody asked for it, and it did not just come by itself */
	private draw(soon = true): void {
		const { session, clock } = this.around;
		const current = this.program;
		if (current === null) return;
		this.scene.dress((material, worn) => {
			const strange = material !== null && material !== session.id;
			if (strange) {
				const other = this.foreign.get(wornAs(material, worn));
				if (other !== undefined && other !== null) {
					other.program.time(clock.seconds);
					// Materials of one structure share a program: all numbers are its own.
					return { program: other.program, numbers: other.program.numbers(other.document), strange };
				}
				// What another material looks like is not known before its code is there.
				if (this.waited.has(wornAs(material, worn))) return { program: null, numbers: {}, waits: true, strange };
			}
			const other = this.others.get(this.named(worn)) ?? null;
			other?.fill(dressed(session.document, this.named(worn)));
			other?.time(clock.seconds);
			return { program: other, numbers: (other ?? current).driven(numbersOf(session.document, this.named(worn))), strange };
		}, soon);
	}

	/** Whether some object wears another material, or another variant than what is shown. */
	private get dressedOtherwise(): boolean {
		const { session } = this.around;
		return this.strangers().length > 0 || this.scene.variants().some((worn) => variantOf(session.document, worn) !== undefined && worn !== session.variant);
	}

	/** Other materials that anything wears, and in which variants. */
	private strangers(): { material: number; variant: string }[] {
		const all = this.around.stage().document.objects.flatMap((object) => [object, ...(object.sections ?? [])]);
		const worn = all.flatMap(({ wears, variant }) => (wears === undefined || wears === this.around.session.id ? [] : [{ material: wears, variant: variant ?? '' }]));
		return [...new Map(worn.map((one) => [wornAs(one.material, one.variant), one])).values()];
	}

	/** Has those that are worn and not known yet drawn as soon as they are there. */
	private bringForeign(): void {
		for (const { material, variant } of this.strangers()) {
			const name = wornAs(material, variant);
			if (this.foreign.has(name)) continue;
			this.foreign.set(name, null);
			this.waited.add(name);
			void this.bring(material, variant).then((found) => void this.foreign.set(name, found), (error: unknown) => failed('What an object wears could not be shown', error)).finally(() => {
				this.waited.delete(name);
				if (!this.left) this.draw(false);
			});
		}
	}

	private async bring(material: number, variant: string): Promise<{ document: MaterialDocument; program: Program }> {
		const stored = this.documents.get(material) ?? api.material(material).then((one) => one.document);
		this.documents.set(material, stored);
		const document = dressed(await stored, variant);
		const made = await this.of(await api.lower(this.around.slug, document, this.around.session.far));
		await this.scene.warm(made);
		return { document, program: made };
	}

	private async of(lowered: Lowered): Promise<Program> {
		const known = this.programs.get(lowered.hash);
		if (known !== undefined) return known;
		if (this.left) throw new Error('The stage has been left.');
		let made: Program | null = null;
		const early: Parameters<Program['retexture']>[0][] = [];
		const images = await this.textures.of(lowered, (finer) => {
			if (made === null) early.push(finer);
			made?.retexture(finer);
			this.scene.later();
			if (made !== null && made === untrack(() => this.program)) this.around.finer();
		});
		const next = this.programs.get(lowered.hash) ?? new Program(lowered, images, this.scene.surroundings);
		made = next;
		for (const finer of early) next.retexture(finer);
		this.programs.set(lowered.hash, next);
		this.forget();
		return next;
	}

	private forget(): void {
		const used = new Set([this.program, ...[...this.beside.values()].flat(), ...this.others.values(), ...[...this.foreign.values()].map((one) => one?.program)]);
		const oldest = [...this.programs.keys()].find((hash) => !used.has(this.programs.get(hash)));
		if (this.programs.size > KEPT && oldest !== undefined) {
			this.programs.get(oldest)?.dispose();
			this.programs.delete(oldest);
		}
	}

	private async trained(): Promise<void> {
		const { session } = this.around;
		// While something is dragged, or not all is dressed yet, nothing is sent and nothing is compiled.
		const pause = async (): Promise<void> => {
			do await new Promise((resolve) => setTimeout(resolve, BREATH));
			while (session.dragging || this.waited.size > 0);
		};
		await pause();
		const plan = await session.multipass();
		if (plan === null || this.left || !this.scene.multipass.can(plan.multipass)) return;
		const { end } = plan.multipass;
		if (!this.ends.has(end.hash)) {
			let program: Program | null = null;
			const images = await this.textures.of(end, (finer) => program?.retexture(finer));
			program = new Program(end, images, this.scene.surroundings, this.scene.multipass.uniforms(plan.multipass));
			await this.scene.train({ plan, end: program }, pause);
			if (this.scene.multipass.over) program.dispose();
			else this.ends.set(end.hash, program);
		} else {
			await this.scene.prepare(plan.multipass, pause);
		}
		const step = this.around.step();
		for (const ask of [() => session.newSteps(), () => (step === null ? Promise.resolve(null) : session.choices(step))]) {
			await pause();
			const multipass = await ask();
			if (multipass !== null) await this.scene.prepare(multipass, pause);
		}
		this.scene.trained += 1;
	}
}

const wornAs = (material: number, variant: string): string => `${material} ${variant}`;
