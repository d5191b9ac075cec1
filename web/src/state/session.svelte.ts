import { api, type Lowered, type Material, type MaterialDocument, type ParameterValue, type MultipassPlan, type StepUse } from '../api/client';
import { catalogue } from './catalogue.svelte';
import { Editing } from './editing.svelte';
import { freshStep } from './lanes.svelte';
import { valueAt } from './pointer';
import { MultipassPlans, type Plan } from './multipass';
import { standIn } from './standin';
import { outline } from './structure';
import { dressed, pathOf, variantOf } from './variants';

/** How many variants of other code are made ready before anybody asks for them. */
const FORESEEN = 4;

/** One open material. */
export class Session extends Editing<MaterialDocument, Lowered, Material> {
	/** The variant that is shown, and in which parameters are changed; "" for the material as it is written. */
	private wanted = $state('');
	private alone = $state('');
	private away = false;
	/** What is shown on the left half of the stage while something is held, so that both can be seen; null for nothing. */
	before = $state.raw<MaterialDocument | null>(null);
	/** Whether it was opened with edits that had not been stored. */
	resumed = false;
	/** Whether new materials may start from it. */
	template = $state(false);

	/** The id of the one layer that is shown, all others left out; "" for all. The document knows nothing of it. */
	get solo(): string {
		return this.document.layers.some((layer) => layer.id === this.alone) ? this.alone : '';
	}

	set solo(id: string) {
		this.alone = id;
		void this.lower();
	}

	/** Whether the stage lies so far from the world's origin that code has to count places from elsewhere. */
	set far(far: boolean) {
		if (this.away === far) return;
		this.away = far;
		void this.lower();
	}

	protected override get manner(): string {
		return this.away ? 'far ' : '';
	}

	/** The document as it is seen: with one layer alone, if that is wanted. */
	get seen(): MaterialDocument {
		return this.only(this.snapshot());
	}

	private only(document: MaterialDocument): MaterialDocument {
		return this.solo === '' ? document : { ...document, layers: document.layers.map((layer) => ({ ...layer, on: layer.id === this.solo })) };
	}

	get variant(): string {
		return variantOf(this.document, this.wanted) === undefined ? '' : this.wanted;
	}

	set variant(id: string) {
		this.wanted = id;
		this.refresh();
	}

	/** The document as the shown variant has it. */
	get dressed(): MaterialDocument {
		return dressed(this.document, this.variant);
	}

	override hold(compare = false): void {
		super.hold();
		if (compare) this.before = $state.snapshot(this.dressed) as MaterialDocument;
	}

	override release(): void {
		this.before = null;
		super.release();
	}

	/**
	 * Called while a document waits for code: with one that looks like it with the code at hand, or with it as passes that are known; with
	 * neither if there is neither. Tells when that has been drawn, or that it is not.
	 */
	onBridge: (standIn: MaterialDocument | null, plan: Plan | null) => Promise<void> | null = () => null;
	private drawn: Promise<void> | null = null;
	/** Whether a plan can be drawn at once. */
	canRun: (plan: Plan) => boolean = () => false;
	private readonly plans = new MultipassPlans();

	protected override bridge(last: MaterialDocument): void {
		const document = this.worn(this.snapshot());
		// A layer that is seen alone is seen whether it is hidden or not.
		this.drawn = this.onBridge(this.solo === '' ? standIn(this.worn(last), document) : null, this.planned());
	}

	/** What is seen without code is seen the sooner, the less else goes on. */
	protected override async leisure(): Promise<void> {
		// Changes are bridged right after code was asked for.
		await Promise.resolve();
		const { drawn } = this;
		this.drawn = null;
		await drawn;
	}

	protected override drawable(document: MaterialDocument): boolean {
		const plan = this.plans.plan(this.only(document));
		return plan !== null && this.canRun(plan);
	}

	/** Asks for the passes of the document, if they are not known, so that other orders of its steps can be drawn without asking. */
	async multipass(): Promise<Plan | null> {
		const document = this.worn(this.snapshot());
		if (!this.plans.knows(document)) this.plans.learn(document, await api.multipass(this.project, document));
		return this.plans.plan(document);
	}

	/** Asks for the passes of all steps as they are when they are new. */
	newSteps(): Promise<MultipassPlan | null> {
		return this.ask((catalogue.value?.steps ?? []).map((kind) => freshStep(kind.name)));
	}

	/** Asks for the passes of a step with each other choice that it leaves. */
	choices(path: string): Promise<MultipassPlan | null> {
		const use = structuredClone(valueAt(this.snapshot(), path)) as StepUse | undefined;
		if (use === undefined) return Promise.resolve(null);
		const others = (catalogue.step(use.step)?.controls ?? []).filter((control) => control.structural).flatMap((control) => {
			const now = use.values[control.name] ?? control.default;
			const values = control.type === 'choice' ? control.options.map((option) => option.value) : control.type === 'switch' ? [!now] : [];
			return values.filter((value) => value !== now).map((value) => ({ ...use, on: true, values: { ...use.values, [control.name]: value } }));
		});
		return this.ask(others);
	}

	/** Asks for the passes of steps, each in a lane of its own; null if all are known, or none come apart. */
	private async ask(uses: StepUse[]): Promise<MultipassPlan | null> {
		const document = this.worn(this.snapshot());
		const wanted = uses.filter((use) => !this.plans.has(document, use)).slice(0, (catalogue.value?.limits.lanes ?? 1) - 1);
		const first = catalogue.value?.steps.find((kind) => kind.origin);
		if (wanted.length === 0 || first === undefined) return null;
		const lanes = wanted.map((use, i) => ({ id: `lane-${i}`, name: use.step, steps: catalogue.step(use.step)?.origin === true ? [use] : [freshStep(first.name), use] }));
		const asked: MaterialDocument = {
			...document,
			lanes: [{ id: 'ground', name: 'Ground', steps: [freshStep(first.name)] }, ...lanes],
			layers: [{ id: 'ground', name: 'Ground', lane: 'ground', set: '' }],
			groups: [], variants: [], surface: {}
		};
		const { multipass, structure } = await api.multipass(this.project, asked);
		if (multipass !== null) this.plans.learnPasses(asked, multipass, structure);
		return multipass;
	}

	override forget(): void {
		super.forget();
		this.plans.forget();
	}

	/** The document as passes, if all are known. */
	planned(): Plan | null {
		return this.plans.plan(this.worn(this.snapshot()));
	}

	protected override worn(document: MaterialDocument): MaterialDocument {
		return this.only(dressed(document, this.variant));
	}

	/** The code that a variant needs, if it is another than what is shown; null if numbers are all that differs. */
	async codeFor(variant: string): Promise<Lowered | null> {
		const document = dressed(this.snapshot(), variant);
		return this.alike(document) ? null : this.codeOf(document);
	}

	/** Has the code of the first variants made that numbers alone do not make. */
	async foreseeVariants(): Promise<void> {
		const document = this.snapshot();
		const others = (document.variants ?? []).map((variant) => dressed(document, variant.id)).filter((one) => !this.alike(one));
		for (const other of others.slice(0, FORESEEN)) await this.prepare(other);
	}

	/** Changes a parameter, in the variant that is shown. */
	drive(parameter: string, value: ParameterValue): void {
		this.set(pathOf(this.document, this.variant, parameter), value);
	}

	/** Has the shown variant inherit a parameter again. */
	inherit(parameter: string): void {
		this.edit((document) => { delete variantOf(document, this.variant)?.values[parameter]; });
	}

	static async open(project: string, id: number): Promise<Session> {
		const [material] = await Promise.all([api.material(id), catalogue.load()]);
		const session = new Session(id, project, material.document);
		session.version = material.version;
		session.template = material.template;
		session.resumed = await session.resume(material);
		return session;
	}

	protected code(document: MaterialDocument, signal?: AbortSignal): Promise<Lowered> {
		return api.lower(this.project, this.only(document), this.away, signal);
	}

	protected get draftName(): string {
		return `material ${this.id}`;
	}

	protected store(version: number, document: MaterialDocument, key: string, keepalive: boolean, passing: boolean): Promise<Material> {
		return api.saveMaterial(this.id, version, document, key, keepalive, this.live, passing);
	}

	/** It stays in the history. */
	protected setAside(document: MaterialDocument): Promise<Material> {
		return api.setAside(this.id, document);
	}

	protected copy(document: MaterialDocument): Promise<Material> {
		return api.createMaterial(this.project, { ...document, name: `${document.name} (my version)`.slice(0, 120) });
	}

	protected outline(document: MaterialDocument, { structure }: Lowered): string {
		return this.manner + outline(this.only(document), structure);
	}
}
