import { Box3, MathUtils, Mesh, MeshBasicMaterial, Raycaster, Vector3, type BufferAttribute, type BufferGeometry, type Camera, type Material, type Scene } from 'three';
import { api, type StageDocument, type StageObject } from '../api/client';
import { paints } from '../state/paints';
import { Crowds } from './crowds';
import { PAINT, painted, readMesh, sectionOf, sectionsOf } from './meshes';

/** Gives a material what is an object's own, right before the object is drawn with it. */
export type FrameOf = (material: Material, mesh: Mesh, camera: Camera) => void;

/** Metres above all that stands on a stage, and by which what stands on something may be in it. */
const HIGH = 1e4;
const NEAR = 1e-3;

/** What is drawn by itself: an object, or a section of one of which some wear something of their own. */
export type Piece = { key: string; id: string; mesh: Mesh };

/** Where an object is that is drawn section by section: it is met by rays, and not seen. */
const APART = 1;

/** What stands on the stage: its objects, by their ids, and the meshes that they share. */
export class StageObjects {
	private readonly all = new Map<string, Mesh>();
	private readonly meshes = new Map<string, Promise<BufferGeometry>>();
	/** Counts the documents that were shown. */
	private shown = 0;
	/** Meshes that all else stands on, by name. */
	grounds: ReadonlySet<string> = new Set();
	private readonly blank = new MeshBasicMaterial({ color: 0x777777 });
	private readonly crowds: Crowds;
	/** Other things are drawn by themselves than before. */
	onPieces: () => void = () => {};
	/** What those are drawn by that wear a material in a variant; null for what is drawn one by one. */
	private programOf = (_wears: number | null, variant: string): string | null => `in ${variant}`;
	private programs = '';

	/**
	 * @param gone    an object is about to leave
	 * @param changed something looks different
	 */
	constructor(private readonly scene: Scene, private readonly frameOf: FrameOf, private readonly gone: (mesh: Mesh) => void, private readonly changed: () => void) {
		this.crowds = new Crowds(scene, frameOf);
	}

	/**
	 * Has what a document says stand there, and nothing else; until another document says otherwise.
	 *
	 * @returns why meshes could not be had; all else stands there
	 */
	async show(stage: StageDocument): Promise<unknown[]> {
		const mine = ++this.shown;
		const failures: unknown[] = [];
		// What was painted on an object and is gone is not painted.
		await Promise.all([...new Set(stage.objects.map((object) => object.mesh))].map((name) => this.geometry(name).catch((error: unknown) => failures.push(error))));
		await Promise.all(stage.objects.flatMap(({ paint }) => (paint === undefined ? [] : [paints.load(paint).catch(() => {})])));
		if (mine !== this.shown) return [];
		for (const [id, mesh] of this.all) {
			if (stage.objects.some((object) => object.id === id)) continue;
			this.gone(mesh);
			this.scene.remove(mesh);
			this.all.delete(id);
		}
		for (const object of stage.objects) {
			const geometry = await this.geometry(object.mesh).catch(() => null);
			if (mine !== this.shown) return [];
			if (geometry === null) continue;
			let mesh = this.all.get(object.id);
			if (mesh === undefined) {
				mesh = this.made(object, geometry);
				this.all.set(object.id, mesh);
				this.scene.add(mesh);
			} else if (mesh.userData.shared !== geometry) {
				// Another file took the place of its mesh.
				mesh.userData.shared = geometry;
				reshape(mesh, geometry);
				delete mesh.userData.paint;
			}
			this.put(mesh, object);
		}
		this.regroup();
		return failures;
	}

	/** Puts one of them where its document says; whether it is there. */
	place(object: StageObject): boolean {
		const mesh = this.all.get(object.id);
		if (mesh === undefined) return false;
		this.put(mesh, object);
		this.regroup();
		return true;
	}

	/** Objects stand elsewhere than before. */
	follow(): void {
		this.crowds.follow();
	}

	/** Says what those are drawn by that wear a material in a variant: what is drawn by one program can be drawn at once. Null for what cannot. */
	sort(programOf: (wears: number | null, variant: string) => string | null): void {
		const worn = new Map<string, string | null>();
		for (const { userData } of this.worn()) {
			const [wears, variant] = [userData.wears as number | null, String(userData.variant)];
			if (!worn.has(`${wears} ${variant}`)) worn.set(`${wears} ${variant}`, programOf(wears, variant));
		}
		this.programOf = programOf;
		const programs = JSON.stringify([...worn].sort());
		if (programs === this.programs) return;
		this.programs = programs;
		this.gather();
	}

	/** Has those drawn together that can be, and the others by themselves. */
	private regroup(): void {
		if (this.gather()) this.onPieces();
	}

	private gather(): boolean {
		const programs = new Map<string, string | null>();
		const changed = this.crowds.group(this.all.values(), (mesh) => {
			const { wears, variant } = mesh.userData as { wears: number | null; variant: string };
			const worn = `${wears ?? ''} ${variant}`;
			if (!programs.has(worn)) programs.set(worn, this.programOf(wears, variant));
			const program = programs.get(worn)!;
			return program !== null && mesh.visible && mesh.children.length === 0 && mesh.geometry === sharedOf(mesh) ? `${mesh.geometry.uuid} ${wears ?? ''} ${program}` : null;
		});
		for (const mesh of this.all.values()) if (mesh.children.length === 0) mesh.layers.set(mesh.userData.crowd === null ? 0 : APART);
		return changed;
	}

	/** Has an object stand where its document says, in pieces if its sections wear something of their own. */
	private put(mesh: Mesh, object: StageObject): void {
		this.coat(mesh, object.paint);
		const names = sectionsOf(mesh.geometry);
		if (object.sections?.some(({ section }) => names.includes(section)) !== true) join(mesh);
		else if (mesh.children.length === 0) {
			mesh.layers.set(APART);
			mesh.add(...names.map((section, i) => {
				const piece = this.made(object, sectionOf(mesh.geometry, i));
				Object.assign(piece.userData, { key: `${object.id}/${section}`, section });
				return piece;
			}));
		}
		place(mesh, object);
	}

	/** Has an object be painted as is said. */
	private coat(mesh: Mesh, name: string | undefined): void {
		mesh.userData.coat = name;
		if (mesh.userData.paint === name) return;
		const shared = sharedOf(mesh);
		const paint = name === undefined ? undefined : paints.known(name);
		if (name !== undefined && paint === undefined) {
			paints.load(name).then(() => {
				if (mesh.userData.coat !== name) return;
				this.coat(mesh, name);
				this.changed();
			}, () => {});
			return;
		}
		mesh.userData.paint = name;
		// What was painted on a mesh that had other vertices is kept, and not seen.
		const fits = paint !== undefined && paint.length === 4 * shared.getAttribute('position').count;
		reshape(mesh, fits ? painted(shared, paint.slice()) : shared);
	}

	/** What is painted on an object, to be changed: four bytes a vertex. */
	canvas(mesh: Mesh): BufferAttribute {
		const known = mesh.geometry.getAttribute(PAINT) as BufferAttribute | undefined;
		if (known !== undefined) return known;
		const shared = sharedOf(mesh);
		const own = painted(shared, new Uint8Array(4 * shared.getAttribute('position').count));
		reshape(mesh, own);
		this.regroup();
		return own.getAttribute(PAINT) as BufferAttribute;
	}

	get(id: string | null): Mesh | undefined {
		return id === null ? undefined : this.all.get(id);
	}

	/** All that is drawn by itself. */
	*pieces(): Generator<Piece> {
		for (const { key, mesh } of this.crowds.values()) yield { key, id: '', mesh };
		for (const [id, mesh] of this.all) {
			if (mesh.userData.crowd != null) continue;
			for (const one of mesh.children.length === 0 ? [mesh] : (mesh.children as Mesh[])) yield { key: String(one.userData.key), id, mesh: one };
		}
	}

	values(): IterableIterator<Mesh> {
		return this.all.values();
	}

	/** Variants that anything wears. */
	variants(): string[] {
		return [...new Set([...this.worn()].map(({ userData }) => String(userData.variant)))];
	}

	/** All that wears something: objects, or their sections. */
	private *worn(): Generator<Mesh> {
		for (const mesh of this.all.values()) yield* mesh.children.length === 0 ? [mesh] : (mesh.children as Mesh[]);
	}

	/** The room that some of them take; of all that throw shadows if none are named, and of all if there is nothing else. */
	room(ids: string[] | null): Box3 {
		const box = new Box3();
		for (const [id, mesh] of this.all) if (ids?.includes(id) ?? (mesh.castShadow && mesh.visible)) box.expandByObject(mesh);
		if (box.isEmpty()) for (const mesh of this.all.values()) box.expandByObject(mesh);
		return box;
	}

	/** Those that can be taken hold of under the pointer. */
	*free(): Generator<Mesh> {
		for (const mesh of this.all.values()) if (mesh.visible && mesh.userData.locked !== true) yield mesh;
	}

	/**
	 * The highest surface below a place, or above it if there is none below.
	 *
	 * @param without an object that does not count
	 */
	below(x: number, z: number, from: number, without: string | null): number | null {
		const caster = new Raycaster(new Vector3(x, HIGH, z), new Vector3(0, -1, 0));
		caster.layers.enableAll();
		const others = [...this.all].filter(([id, mesh]) => id !== without && mesh.visible).map(([, mesh]) => mesh);
		const heights = caster.intersectObjects(others, false).map((hit) => hit.point.y).sort((a, b) => b - a);
		return heights.find((height) => height <= from + NEAR) ?? heights.at(-1) ?? null;
	}

	/** How high an object would have to be placed to stand on what lies below it; null where there is nothing. */
	restingHeight(id: string): number | null {
		const mesh = this.all.get(id);
		if (mesh === undefined) return null;
		const box = new Box3().setFromObject(mesh);
		const inner = (from: number, to: number, share: number): number => from + (0.1 + 0.8 * share) * (to - from);
		const found = [0, 0.5, 1].flatMap((u) => [0, 0.5, 1].map((v) => this.below(inner(box.min.x, box.max.x, u), inner(box.min.z, box.max.z, v), box.min.y, id))).filter((one) => one !== null);
		return found.length === 0 ? null : Math.max(...found) + mesh.position.y - box.min.y;
	}

	geometry(name: string): Promise<BufferGeometry> {
		let geometry = this.meshes.get(name);
		if (geometry === undefined) {
			geometry = api.mesh(name).then(readMesh);
			this.meshes.set(name, geometry);
			// What could not be had is asked for again.
			geometry.catch(() => this.meshes.delete(name));
		}
		return geometry;
	}

	/** Another file took the place of a mesh: who asks for it next gets that. */
	forget(name: string): void {
		void this.meshes.get(name)?.then((one) => one.dispose(), () => {});
		this.meshes.delete(name);
	}

	/** Any of the meshes that are known; null if there is none. */
	async anyGeometry(): Promise<BufferGeometry | null> {
		const [one] = this.meshes.values();
		return one ?? null;
	}

	dispose(): void {
		for (const geometry of this.meshes.values()) void geometry.then((one) => one.dispose(), () => {});
		this.crowds.dispose();
		this.blank.dispose();
	}

	private made(object: StageObject, geometry: BufferGeometry): Mesh {
		const mesh = new Mesh(geometry, this.blank);
		Object.assign(mesh.userData, { id: object.id, key: object.id, shared: geometry });
		mesh.castShadow = !this.grounds.has(object.mesh);
		mesh.receiveShadow = true;
		// Programs are shared by objects; each draws with its own frame.
		mesh.onBeforeRender = (_r, _s, camera, _g, material) => this.frameOf(material, mesh, camera);
		mesh.onBeforeShadow = (_r, _o, camera, _l, _g, material) => this.frameOf(material, mesh, camera);
		return mesh;
	}
}

function place(mesh: Mesh, object: StageObject): void {
	const [x = 0, y = 0, z = 0] = object.turn.map(MathUtils.degToRad);
	mesh.position.fromArray(object.position);
	mesh.rotation.set(x, y, z, 'XYZ');
	mesh.scale.fromArray(object.scale);
	mesh.userData.locked = object.locked === true;
	mesh.visible = object.hidden !== true;
	for (const one of [mesh, ...mesh.children]) {
		const worn = object.sections?.find(({ section }) => section === one.userData.section) ?? object;
		Object.assign(one.userData, { seed: object.seed ?? 1, value: object.value ?? 0, variant: worn.variant ?? '', wears: worn.wears ?? null });
	}
	mesh.updateMatrixWorld();
}

/** The mesh as all objects have it that are made of it. */
export const sharedOf = (mesh: Mesh): BufferGeometry => mesh.userData.shared as BufferGeometry;

/** Has an object be drawn with another mesh, in pieces if it was. */
function reshape(mesh: Mesh, geometry: BufferGeometry): void {
	const before = mesh.geometry;
	mesh.geometry = geometry;
	for (const [i, piece] of (mesh.children as Mesh[]).entries()) {
		piece.geometry.dispose();
		if (i < geometry.groups.length) piece.geometry = sectionOf(geometry, i);
	}
	if (before.hasAttribute(PAINT)) before.dispose();
	// Other sections are other pieces.
	if (mesh.children.length > 0 && sectionsOf(geometry).join() !== mesh.children.map((one) => String(one.userData.section)).join()) join(mesh);
}

/** Has an object be one piece again. */
function join(mesh: Mesh): void {
	for (const piece of mesh.children as Mesh[]) piece.geometry.dispose();
	mesh.clear();
	mesh.layers.set(0);
}
