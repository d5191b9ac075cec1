import { BufferGeometry, Group, Mesh, MeshBasicMaterial, type BufferAttribute } from 'three';
import { sharedOf } from './objects';

/** Above the surface, so that it is not hidden by it. */
const OFFSET = { polygonOffset: true, polygonOffsetFactor: -2, polygonOffsetUnits: -2 };

/** Faces of an object that are chosen, as a veil over it. */
export class ChosenFaces {
	/** Not a mesh of the stage's own. */
	readonly shown = new Group();
	private readonly veil = new Mesh(new BufferGeometry(), new MeshBasicMaterial({ color: 0x9ccc50, transparent: true, opacity: 0.45, depthWrite: false, ...OFFSET }));

	constructor() {
		this.veil.frustumCulled = false;
		this.veil.matrixAutoUpdate = false;
		this.veil.renderOrder = 5;
		this.shown.add(this.veil);
		this.shown.visible = false;
	}

	/** @param runs first triangles, and how many follow each other */
	show(mesh: Mesh | undefined, runs: readonly (readonly [number, number])[]): void {
		this.shown.visible = mesh !== undefined && runs.length > 0;
		if (mesh === undefined || !this.shown.visible) return;
		const shared = sharedOf(mesh);
		const { array } = shared.index as BufferAttribute;
		const some = new Uint32Array(3 * runs.reduce((sum, [, count]) => sum + count, 0));
		let at = 0;
		for (const [first, count] of runs) {
			some.set((array as Uint32Array).subarray(3 * first, 3 * (first + count)), at);
			at += 3 * count;
		}
		const { geometry } = this.veil;
		geometry.setAttribute('position', shared.getAttribute('position'));
		geometry.setIndex([...some]);
		// It goes where the object goes.
		this.veil.matrix = mesh.matrixWorld;
		this.veil.matrixWorldNeedsUpdate = true;
	}

	dispose(): void {
		this.veil.geometry.dispose();
		this.veil.material.dispose();
	}
}
