import { api, type MaterialDocument, type StageObject, type Triple } from '../api/client';
import { catalogue } from './catalogue.svelte';
import type { Meshes } from './meshes.svelte';
import { failed } from './notices.svelte';
import { isTie } from './parameters';
import { insisted } from './retry';
import type { StageState } from './stage.svelte';

/** Of an edit while the server is busy or away: about half a minute. */
const TRIES = 6;
/** Milliseconds between asking how far a change is. */
const ASK_OFTEN = 700;

/** What faces have in common that are chosen. */
export const CHOICES = [
	{ value: 'all', label: 'All', help: 'All faces of the object' },
	{ value: 'section', label: 'Section', help: 'What belongs to one section' },
	{ value: 'island', label: 'Island', help: 'What hangs together in the UV set: click one face' },
	{ value: 'smooth', label: 'Smooth part', help: 'What is reached from one face over edges that are hardly bent: click one face' },
	{ value: 'facing', label: 'Facing', help: 'What faces the way of one face: click it' },
	{ value: 'list', label: 'By hand', help: 'Click or drag over faces; with Shift they are taken out' }
] as const;
export type By = (typeof CHOICES)[number]['value'];
export type Run = readonly [first: number, count: number];

/** What a change of a mesh says: its name, and its values. */
export type Edit = { edit: string } & Record<string, unknown>;

/** How a lane begins, where an object stands, as a change of its mesh says it: with the parameters that its origin follows. */
export function beginning(document: MaterialDocument, lane: number, object: StageObject): Edit {
	const origin = document.lanes[lane]?.steps[0]?.values ?? {};
	const followed = Object.values(origin).flatMap((value) => (isTie(value) ? [value.parameter] : []));
	const { position, turn, scale } = object;
	return { edit: 'origin', origin, parameters: (document.parameters ?? []).filter((one) => followed.includes(one.id)), stands: { position, turn, scale } };
}

/** Works on the mesh of one object: chooses faces, and changes it. Every change is one of the stage's, and is taken back with it. */
export class Shaping {
	/** 1 for the first. */
	set = $state(1);
	by = $state<By>('all');
	section = $state('');
	/** The face that was clicked, and the way it faces, in the mesh's own coordinates. */
	face = $state.raw<{ triangle: number; normal: Triple } | null>(null);
	/** Those that were picked one by one. */
	picked = $state.raw<ReadonlySet<number>>(new Set());
	/** Metres around the pointer in which faces are picked by hand. */
	reach = $state(usual('reach'));
	angles = $state({ smooth: usual('smooth'), facing: usual('facing') });
	/** Those that are chosen, in the mesh's order; null as long as nobody knows. */
	runs = $state.raw<readonly Run[] | null>(null);
	busy = $state(false);
	/** 0…1, how far a change is that takes long; null as long as nobody knows. */
	share = $state<number | null>(null);
	private watch = '';
	private givenUp = false;
	private asked = 0;
	/** What was picked when it was told that it cannot be more. */
	private told: ReadonlySet<number> | null = null;

	constructor(private readonly project: string, readonly stage: StageState, private readonly meshes: Meshes, readonly id: string) {}

	get object(): StageObject | undefined {
		return this.stage.object(this.id);
	}

	/** As the core is told; null while a face or a section has to be chosen first. */
	get faces(): Record<string, unknown> | null {
		const { by, face } = this;
		if (by === 'all') return { by };
		if (by === 'section') return this.section === '' ? null : { by, section: this.section };
		if (by === 'list') return this.picked.size === 0 ? null : { by, triangles: [...this.picked] };
		if (face === null) return null;
		if (by === 'island') return { by, triangle: face.triangle, set: this.set };
		return by === 'smooth' ? { by, triangle: face.triangle, angle: this.angles.smooth } : { by, direction: face.normal, angle: this.angles.facing };
	}

	/** How many faces are chosen. */
	get count(): number {
		return (this.runs ?? []).reduce((sum, [, count]) => sum + count, 0);
	}

	/**
	 * A face was clicked: what it is a part of is chosen.
	 *
	 * @param around it, and what is within the reach, for what is picked by hand
	 */
	pick(triangle: number, normal: Triple, out = false, around: number[] = [triangle]): void {
		if (this.by === 'list') {
			const picked = new Set(this.picked);
			for (const one of around) {
				if (out) picked.delete(one);
				else picked.add(one);
			}
			const most = catalogue.value?.mostPicked ?? 0;
			if (picked.size <= most) this.picked = picked;
			else if (this.told !== this.picked) failed('Not all of these faces were taken', new Error(`By hand, ${most.toLocaleString('en')} faces can be picked. More are chosen by section, island, angle or the way they face.`));
			this.told = picked.size <= most ? null : this.picked;
			return;
		}
		if (this.by === 'all' || this.by === 'section') this.by = 'island';
		this.face = { triangle, normal };
	}

	/** Asks which faces are chosen. */
	async look(): Promise<void> {
		const [faces, mesh, mine] = [this.faces, this.object?.mesh, ++this.asked];
		if (faces === null || mesh === undefined) {
			this.runs = null;
			return;
		}
		try {
			const { runs } = await api.meshFaces(this.project, mesh, faces);
			if (mine === this.asked) this.runs = runs as unknown as Run[];
		} catch {
			// What was clicked is of another mesh by now.
			if (mine === this.asked) [this.runs, this.face, this.picked] = [null, null, new Set()];
		}
	}

	/** Does not wait for a change any longer: the mesh stays as it is. */
	giveUp(): void {
		this.givenUp = true;
		api.giveUpMeshEdit(this.watch).catch((error: unknown) => failed('The change could not be given up', error));
	}

	private async ask(): Promise<void> {
		const { watch } = this;
		const share = await api.meshEditing(watch).then((answer) => answer.share, () => null);
		if (this.busy && watch === this.watch) this.share = share ?? this.share;
	}

	/** Changes the mesh; whether that was done. */
	async edit(edit: Edit): Promise<boolean> {
		const object = this.object;
		if (object === undefined || this.busy) return false;
		this.busy = true;
		[this.watch, this.givenUp] = [Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => byte.toString(16).padStart(2, '0')).join(''), false];
		const asking = setInterval(() => void this.ask(), ASK_OFTEN);
		try {
			// The same edit of the same mesh is the same mesh, however often it is asked for.
			const { mesh, paint } = $state.snapshot(object) as StageObject;
			const made = await insisted(() => api.editMesh(this.project, mesh, edit, paint ?? null, this.watch), TRIES);
			// It may have come to its end at the same time, or have been asked for again.
			if (this.givenUp) return false;
			this.meshes.took(made.mesh);
			// What was painted on another mesh stays as it is, in case that comes back.
			this.stage.change(this.id, { mesh: made.mesh.name, ...(made.paint === null ? {} : { paint: made.paint }) });
			this.stage.onMerged();
			// Triangles have other numbers.
			if (edit.edit === 'refine' || edit.edit === 'section') [this.face, this.picked] = [null, new Set()];
			return true;
		} catch (error) {
			if (!this.givenUp) failed('The mesh was not changed', error);
			return false;
		} finally {
			clearInterval(asking);
			[this.busy, this.share] = [false, null];
		}
	}
}

/** What a value of the catalogue is before anybody changes it. */
export function usual(name: string): number {
	return catalogue.value?.shaping.find((one) => one.name === name)?.default ?? 0;
}
