import { api, ApiError, type Stage, type StageDocument, type StageObject } from '../api/client';

const SAVE_AFTER = 900;

/** The project's stage. Changes from another tab are merged object by object; nothing is lost. */
export class StageState {
	document = $state<StageDocument>({ format: 'rilta-stage/1', objects: [] });
	onProblem: (message: string) => void = () => {};
	onMerged: () => void = () => {};
	private version = 0;
	/** What was stored when this tab last agreed with the server. */
	private base: StageDocument = { format: 'rilta-stage/1', objects: [] };
	private timer = 0;

	constructor(readonly project: string) {}

	static async open(project: string): Promise<StageState> {
		const stage = await api.stage(project);
		const state = new StageState(project);
		state.document = stage.document;
		state.base = structuredClone(stage.document);
		state.version = stage.version;
		return state;
	}

	object(id: string): StageObject | undefined {
		return this.document.objects.find((object) => object.id === id);
	}

	change(id: string, change: Partial<StageObject>): void {
		const object = this.object(id);
		if (object === undefined) return;
		Object.assign(object, change);
		this.schedule();
	}

	look(camera: NonNullable<StageDocument['camera']>): void {
		this.document.camera = camera;
		this.schedule();
	}

	snapshot(): StageDocument {
		return $state.snapshot(this.document) as StageDocument;
	}

	async save(): Promise<void> {
		clearTimeout(this.timer);
		const sent = this.snapshot();
		try {
			this.version = (await api.saveStage(this.project, this.version, sent)).version;
			this.base = sent;
		} catch (error) {
			if (error instanceof ApiError && error.status === 412) {
				const theirs = error.theirs as Stage;
				const doubled = this.merge(theirs.document);
				this.version = theirs.version;
				this.base = structuredClone(theirs.document);
				this.onMerged();
				if (doubled.length > 0) {
					this.onProblem(`Moved here and in another tab: ${doubled.join(', ')}. The other tab's stands beside yours.`);
				}
				this.schedule();
			} else if (error instanceof ApiError && error.unreachable) {
				this.schedule();
			} else {
				throw error;
			}
		}
	}

	/** Mine where I changed it, theirs elsewhere; what both changed stands twice. Returns the names of the doubled. */
	private merge(theirs: StageDocument): string[] {
		const mine = this.snapshot();
		const before = new Map(this.base.objects.map((object) => [object.id, JSON.stringify(object)]));
		const doubled: string[] = [];
		const objects: StageObject[] = [];
		for (const other of theirs.objects) {
			const own = mine.objects.find((object) => object.id === other.id);
			const iChanged = own !== undefined && JSON.stringify(own) !== before.get(own.id);
			const theyChanged = JSON.stringify(other) !== before.get(other.id);
			objects.push(iChanged ? own : other);
			if (iChanged && theyChanged && JSON.stringify(own) !== JSON.stringify(other)) {
				doubled.push(other.name);
				objects.push({ ...other, id: `${other.id}-${theirs.objects.length + doubled.length}`, name: `${other.name} (other tab)` });
			}
		}
		for (const own of mine.objects) {
			if (!theirs.objects.some((object) => object.id === own.id) && !before.has(own.id)) objects.push(own);
		}
		this.document = { ...mine, objects };
		return doubled;
	}

	private schedule(): void {
		clearTimeout(this.timer);
		this.timer = window.setTimeout(() => void this.save().catch((e: unknown) => this.onProblem(String(e))), SAVE_AFTER);
	}
}
