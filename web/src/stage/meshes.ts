import { BufferAttribute, BufferGeometry, Float32BufferAttribute, Mesh, Uint32BufferAttribute, type Material } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';

/** A mesh of the server's as one geometry: its attributes as lowered code calls them, its sections as groups, and their names with it. */
export async function readMesh(file: ArrayBuffer): Promise<BufferGeometry> {
	const { scene } = await new GLTFLoader().parseAsync(file, '');
	const parts: BufferGeometry[] = [];
	const sections: string[] = [];
	scene.traverse((one) => {
		if (!(one instanceof Mesh)) return;
		parts.push(one.geometry as BufferGeometry);
		sections.push((one.material as Material).name);
	});
	const first = parts[0];
	if (first === undefined) throw new Error('There is no mesh in the file.');
	const geometry = new BufferGeometry();
	for (const [name, attribute] of Object.entries(first.attributes)) geometry.setAttribute(inCode(name), attribute);
	const indices = parts.map((part) => part.index!.array);
	const all = new Uint32Array(indices.reduce((sum, one) => sum + one.length, 0));
	let at = 0;
	for (const [i, one] of indices.entries()) {
		all.set(one, at);
		geometry.addGroup(at, one.length, i);
		at += one.length;
	}
	geometry.setIndex(new Uint32BufferAttribute(all, 1));
	geometry.userData.sections = sections;
	return geometry;
}

/** What the sections of a mesh are called. */
export const sectionsOf = (geometry: BufferGeometry): string[] => (geometry.userData.sections ?? []) as string[];

/** The attribute that has what was painted, as code calls it, and as the vertices of what was not painted on have it. */
export const PAINT = 'rilta_PAINT';
export const unpainted = { [PAINT]: [0, 0, 0, 0] };

/** A mesh of an object's own, painted on, four bytes a vertex; all else of it is shared. */
export function painted(geometry: BufferGeometry, paint: Uint8Array): BufferGeometry {
	const own = new BufferGeometry();
	for (const [name, attribute] of Object.entries(geometry.attributes)) own.setAttribute(name, attribute);
	own.setIndex(geometry.index);
	own.groups = geometry.groups;
	own.userData = geometry.userData;
	if (geometry.boundingSphere === null) geometry.computeBoundingSphere();
	own.boundingSphere = geometry.boundingSphere;
	return own.setAttribute(PAINT, new BufferAttribute(paint, 4, true));
}

/** A section of a mesh by itself; its vertices are those of the mesh. */
export function sectionOf(geometry: BufferGeometry, index: number): BufferGeometry {
	const section = new BufferGeometry();
	for (const [name, attribute] of Object.entries(geometry.attributes)) section.setAttribute(name, attribute);
	section.setIndex(geometry.index);
	const group = geometry.groups[index]!;
	section.setDrawRange(group.start, group.count);
	if (geometry.boundingSphere === null) geometry.computeBoundingSphere();
	section.boundingSphere = geometry.boundingSphere;
	return section;
}

/** Three has names of its own for attributes; positions and normals keep them, the others are called in code as the file calls them. */
export function inCode(name: string): string {
	const set = /^uv(\d?)$/.exec(name);
	if (set !== null) return `rilta_TEXCOORD_${set[1] === '' ? '0' : set[1]}`;
	if (name === 'color') return 'rilta_COLOR_0';
	return name.startsWith('_') ? `rilta_${name.slice(1).toUpperCase()}` : name;
}

/** One triangle over all of a picture, in the device's coordinates. */
export const covering = (): BufferGeometry => new BufferGeometry().setAttribute('position', new Float32BufferAttribute([-1, -1, 0, 3, -1, 0, -1, 3, 0], 3));

/** A triangle a metre behind the eye, which is drawn with all the attributes that a mesh has. */
export function behind(like: BufferGeometry | undefined): BufferGeometry {
	const geometry = new BufferGeometry();
	for (const [name, attribute] of Object.entries(like?.attributes ?? {})) geometry.setAttribute(name, attribute as BufferAttribute);
	const corners = [0, 0, 1, 1, 0, 1, 0, 1, 1];
	for (const name of ['position', 'normal']) geometry.setAttribute(name, new Float32BufferAttribute(corners, 3));
	geometry.setIndex([0, 1, 2]);
	return geometry;
}
