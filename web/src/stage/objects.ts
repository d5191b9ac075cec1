import { Box3, MathUtils, Mesh, MeshBasicMaterial, Raycaster, Vector3, type BufferGeometry, type Camera, type Material, type Scene } from 'three';
import { api, type StageDocument, type StageObject } from '../api/client';
import { readMesh } from './meshes';

/** Gives a material what is an object's own, right before the object is drawn with it. */
export type FrameOf = (material: Material, mesh: Mesh, camera: Camera) => void;

/** Metres above all that stands on a stage, and by which what stands on something may be in it. */
const HIGH = 1e4;
const NEAR = 1e-3;

/** What stands on the stage: its objects, by their ids, and the meshes that they share. */
export class StageObjects {
	private readonly all = new Map<string, Mesh>();
	private readonly meshes = new Map<string, Promise<BufferGeometry>>();
	/** Meshes that all else stands on, by name. */
	grounds: ReadonlySet<string> = new Set();
	private readonly blank = new MeshBasicMaterial({ color: 0x777777 });

	/** @param gone an object is about to leave */
	constructor(private readonly scene: Scene, private readonly frameOf: FrameOf, private readonly gone: (mesh: Mesh) => void) {}

	/** Has what a document says stand there, and nothing else. */
	async show(stage: StageDocument): Promise<void> {
		for (const [id, mesh] of this.all) {
			if (stage.objects.some((object) => object.id === id)) continue;
			this.gone(mesh);
			this.scene.remove(mesh);
			this.all.delete(id);
		}
		for (const object of stage.objects) {
			let mesh = this.all.get(object.id);
			if (mesh === undefined) {
				mesh = this.made(object, await this.geometry(object.mesh));
				this.all.set(object.id, mesh);
				this.scene.add(mesh);
			}
			place(mesh, object);
		}
	}

	/** Puts one of them where its document says; whether it is there. */
	place(object: StageObject): boolean {
		const mesh = this.all.get(object.id);
		if (mesh !== undefined) place(mesh, object);
		return mesh !== undefined;
	}

	get(id: string | null): Mesh | undefined {
		return id === null ? undefined : this.all.get(id);
	}

	ids(): IterableIterator<string> {
		return this.all.keys();
	}

	[Symbol.iterator](): IterableIterator<[string, Mesh]> {
		return this.all.entries();
	}

	values(): IterableIterator<Mesh> {
		return this.all.values();
	}

	/** What each object wears, by its id. */
	variants(): Record<string, string> {
		return Object.fromEntries([...this.all].map(([id, mesh]) => [id, String(mesh.userData.variant)]));
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
		}
		return geometry;
	}

	/** Any of the meshes that are known; null if there is none. */
	async anyGeometry(): Promise<BufferGeometry | null> {
		const [one] = this.meshes.values();
		return one ?? null;
	}

	dispose(): void {
		for (const geometry of this.meshes.values()) void geometry.then((one) => one.dispose(), () => {});
		this.blank.dispose();
	}

	private made(object: StageObject, geometry: BufferGeometry): Mesh {
		const mesh = new Mesh(geometry, this.blank);
		mesh.userData.id = object.id;
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
	mesh.userData.seed = object.seed ?? 1;
	mesh.userData.value = object.value ?? 0;
	mesh.userData.variant = object.variant ?? '';
	mesh.userData.locked = object.locked === true;
	mesh.visible = object.hidden !== true;
	mesh.updateMatrixWorld();
}
