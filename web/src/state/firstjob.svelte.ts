import { api, type MaterialDocument, type StageDocument } from '../api/client';
import { isTie } from './parameters';

/** What of a material and its stage tells how far somebody has come. */
export type Progress = { document: MaterialDocument; stage: StageDocument; bakes: number };
export type JobStep = { title: string; text: string; term: string; done: (now: Progress) => boolean };

const steps = ({ document }: Progress): MaterialDocument['lanes'][number]['steps'] => document.lanes.flatMap((lane) => lane.steps);

/** One real job on the demo: what to do, where the guide tells more, and when it is done. */
export const JOB: JobStep[] = [
	{ title: 'A wall by its place in the world', text: 'The first tile of the lane below is the Origin: where coordinates come from. Click it, and choose World on the right: the map, which was stretched over each object by itself, then runs on over all of them.', term: 'Origin', done: (now) => steps(now).some((one) => one.step === 'origin' && one.values.space === 'world') },
	{ title: 'Its size as a parameter', text: 'Click the tile Size, or insert it with the + behind the Origin. The link beside its number makes a parameter of it: one name for the size, which variants and games can change.', term: 'Parameters', done: (now) => steps(now).some((one) => one.step === 'size' && (isTie(one.values.u) || isTie(one.values.v))) },
	{ title: 'Break the repeat up', text: 'Insert Breakup with the + at the end of the lane: irregular cells, each read from elsewhere on the map. Drag the number on its tile and look at the wall.', term: 'Breakup', done: (now) => steps(now).some((one) => one.step === 'breakup' && one.on !== false) },
	{ title: 'A second layer where you paint', text: 'The + beside Layers adds one. Under Mask, on the right, add the term Painted; then press Paint above the stage and draw on an object.', term: 'Painting', done: (now) => now.document.layers.some((layer) => layer.mask?.some((term) => term.kind === 'painted') === true) && now.stage.objects.some((object) => object.paint !== undefined) },
	{ title: 'Bake it', text: 'In the view Output, above, Bake computes a tile of it to files. The sheet says beforehand what repeats, and afterwards whether the edges meet.', term: 'Bake', done: (now) => now.bakes > 0 }
];

const NAME = 'rilta-first-job';
type State = 'new' | 'asking' | 'left' | { material: number };

/** The first job: offered once, left at any time, and back only when it is asked for. */
class FirstJob {
	state = $state.raw<State>('left');

	constructor() {
		try {
			const kept = JSON.parse(localStorage.getItem(NAME) ?? '"new"') as State;
			this.state = typeof kept === 'object' && Number.isInteger(kept.material) ? { material: kept.material } : kept === 'left' ? 'left' : 'new';
		} catch {
			// Nobody is asked again and again where that cannot be kept.
		}
	}

	get asks(): boolean {
		return this.state === 'new' || this.state === 'asking';
	}

	/** Whether it is done on a material. */
	on(material: number): boolean {
		return typeof this.state === 'object' && this.state.material === material;
	}

	/** Asked for. */
	offer(): void {
		this.state = 'asking';
	}

	/** Begins on a material of its own; answers which. */
	async begin(project: string): Promise<number> {
		const sets = (await api.project(project)).sets;
		const set = sets.find((one) => one.name === 'lime-plaster') ?? sets[0];
		const { id } = await api.createMaterial(project, {
			format: 'rilta-material/2',
			name: 'A first wall',
			lanes: [{ id: 'main', name: 'Main', steps: [{ step: 'origin', on: true, values: { space: 'mesh' } }] }],
			layers: [{ id: 'wall', name: 'Wall', lane: 'main', set: set?.name ?? '' }]
		});
		this.keep({ material: id });
		return id;
	}

	leave(): void {
		this.keep('left');
	}

	private keep(state: State): void {
		this.state = state;
		try {
			localStorage.setItem(NAME, JSON.stringify(state));
		} catch {
			// It holds as long as the page does.
		}
	}
}

export const firstJob = new FirstJob();
