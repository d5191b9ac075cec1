import { BufferGeometry, InstancedBufferAttribute, InstancedMesh, Matrix4, Mesh, MeshBasicMaterial, type Camera, type Material, type Object3D } from 'three';
import { Rows } from './rows';

/** So many objects of one mesh that are drawn by one program are drawn in one call. */
export const CROWD = 8;
/** What each object has for itself, as code calls it where many are drawn at once. */
const OWN = { seed: 'riltaOwn_seed', value: 'riltaOwn_value', row: 'riltaOwn_row' } as const;

/** Where vertices are, of one object or of one among many. */
export const PLACED = `
#ifdef USE_INSTANCING
#define RILTA_PLACED(p) (instanceMatrix * vec4(p, 1.0))
#else
#define RILTA_PLACED(p) vec4(p, 1.0)
#endif
`;

/** Three tells the vertices alone that many are drawn at once; what is shown of them has to know as well. */
export function toldOfMany(shader: { fragmentShader: string }): void {
	if ((shader as { instancing?: boolean }).instancing === true) shader.fragmentShader = `#define USE_INSTANCING\n${shader.fragmentShader}`;
}

type Crowd = { drawn: InstancedMesh; members: Mesh[] };

/** Variants that those wear which are drawn at once; what each comes to is a row. */
const variantsOf = (members: Mesh[]): string[] => [...new Set(members.map((one) => String(one.userData.variant)))];

/** Objects of one mesh and one program, each drawn in one call with all of its kind; each keeps its own place, seed, value and variant. */
export class Crowds {
	private readonly all = new Map<string, Crowd>();
	private readonly blank = new MeshBasicMaterial({ color: 0x777777 });

	/** @param frameOf gives a material what is an object's own, right before it is drawn */
	constructor(private readonly scene: Object3D, private readonly frameOf: (material: Material, mesh: Mesh, camera: Camera) => void) {}

	/**
	 * Has objects that are of a kind drawn together.
	 *
	 * @param objects all of them
	 * @param alike   what those have in common that are of a kind; null for one that is drawn by itself
	 *
	 * @returns whether anything is drawn in another way than before, or in other variants
	 */
	group(objects: Iterable<Mesh>, alike: (mesh: Mesh) => string | null): boolean {
		const found = new Map<string, Mesh[]>();
		for (const mesh of objects) {
			const key = alike(mesh);
			mesh.userData.crowd = null;
			if (key !== null) found.set(key, [...(found.get(key) ?? []), mesh]);
		}
		let changed = false;
		for (const [key, members] of found) if (members.length < CROWD) found.delete(key);
		for (const [key, { drawn, members }] of this.all) {
			const now = found.get(key);
			if (now?.length === members.length && now.every((one, i) => one === members[i]) && now[0]!.geometry === drawn.userData.shared) continue;
			this.drop(key);
			changed = true;
		}
		for (const [key, members] of found) {
			for (const one of members) one.userData.crowd = key;
			if (this.all.has(key)) continue;
			this.all.set(key, { drawn: this.made(key, members), members });
			changed = true;
		}
		return this.follow() || changed;
	}

	/** Has all be where their objects are, with the numbers that those have; whether they wear other variants than before. */
	follow(): boolean {
		let others = false;
		for (const { drawn, members } of this.all.values()) {
			const [first] = members;
			if (first === undefined) continue;
			// Counted from the first one: what is far from the world's origin is exact beside it.
			drawn.position.setFromMatrixPosition(first.matrixWorld);
			drawn.updateMatrixWorld();
			const back = new Matrix4().makeTranslation(drawn.position.clone().negate());
			const [seeds, values, rows] = Object.values(OWN).map((name) => drawn.geometry.getAttribute(name) as InstancedBufferAttribute) as [InstancedBufferAttribute, InstancedBufferAttribute, InstancedBufferAttribute];
			const variants = variantsOf(members);
			for (const [i, one] of members.entries()) {
				drawn.setMatrixAt(i, back.clone().multiply(one.matrixWorld));
				seeds.setX(i, Number(one.userData.seed ?? 1));
				values.setX(i, Number(one.userData.value ?? 0));
				rows.setX(i, variants.indexOf(String(one.userData.variant)));
			}
			for (const attribute of [drawn.instanceMatrix, seeds, values, rows]) attribute.needsUpdate = true;
			others ||= (drawn.userData.variants as string[]).join('\n') !== variants.join('\n');
			Object.assign(drawn.userData, { variants, variant: variants[0], wears: first.userData.wears });
			drawn.computeBoundingSphere();
		}
		return others;
	}

	*values(): Generator<{ key: string; mesh: Mesh }> {
		for (const [key, { drawn }] of this.all) yield { key: `crowd ${key}`, mesh: drawn };
	}

	dispose(): void {
		for (const key of [...this.all.keys()]) this.drop(key);
		this.blank.dispose();
	}

	private made(key: string, members: Mesh[]): InstancedMesh {
		const { geometry: shared, castShadow } = members[0]!;
		const own = new BufferGeometry();
		for (const [name, attribute] of Object.entries(shared.attributes)) own.setAttribute(name, attribute);
		own.setIndex(shared.index);
		for (const name of Object.values(OWN)) own.setAttribute(name, new InstancedBufferAttribute(new Float32Array(members.length), 1));
		const drawn = new InstancedMesh(own, this.blank as Material, members.length);
		Object.assign(drawn.userData, { id: '', key: `crowd ${key}`, shared, seed: 1, value: 0, rows: new Rows(), variants: variantsOf(members) });
		drawn.castShadow = castShadow;
		drawn.receiveShadow = true;
		drawn.onBeforeRender = (_r, _s, camera, _g, material) => this.frameOf(material, drawn, camera);
		drawn.onBeforeShadow = (_r, _o, camera, _l, _g, material) => this.frameOf(material, drawn, camera);
		this.scene.add(drawn);
		return drawn;
	}

	private drop(key: string): void {
		const { drawn } = this.all.get(key)!;
		this.scene.remove(drawn);
		// What its members share stays.
		for (const name of Object.keys(drawn.geometry.attributes)) if (!(Object.values(OWN) as string[]).includes(name)) drawn.geometry.deleteAttribute(name);
		drawn.geometry.setIndex(null);
		drawn.geometry.dispose();
		(drawn.userData.rows as Rows).dispose();
		drawn.dispose();
		this.all.delete(key);
	}
}
