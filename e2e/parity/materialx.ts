import { wrongNodes } from './standardnodes';
import { BufferAttribute, BufferGeometry, FloatType, LoadingManager, Mesh, MeshBasicNodeMaterial, NearestFilter, NoColorSpace, OrthographicCamera, RenderTarget, Scene, Vector3, WebGPURenderer, type NodeMaterial } from 'three/webgpu';
import { float, vec4 } from 'three/tsl';
import { MaterialXLoader } from 'three/addons/loaders/MaterialXLoader.js';
import { createStrictInterfaceValidator } from 'three/addons/loaders/materialx/MaterialXInterfaceValidation.js';

type Triple = [number, number, number];
/** A square of a plane, and what is seen there: by field of the material, lists of its components, rows from the top. */
export interface Patch { position: Triple; right: Triple; down: Triple; normal: Triple; from: [number, number]; values: Record<string, number[][]> }
export interface MaterialXCase { name: string; document: string; files: Record<string, string>; patches: Patch[]; baked: string[]; alive: Record<string, string>; tile: [number, number]; plane: { right: Triple; down: Triple; normal: Triple } }
export interface MaterialXCases { side: number; step: number; size: number; cases: MaterialXCase[] }
/** By field: the share of what is off by more than a little, the mean of how far; by channel of the tile: the farthest from its image. */
export interface MaterialXResult { errors: string[]; warnings: string[]; compared: number; off: Record<string, number>; mean: Record<string, number>; baked: Record<string, number> }
export interface MaterialXPage { riltaMaterialX: (one: MaterialXCase, side: number, step: number, size: number) => Promise<MaterialXResult>; riltaWrongNodes: typeof wrongNodes }

/** Of a material, the node that gives a field of ours. */
const NODES: Record<string, keyof NodeMaterial> = { baseColour: 'colorNode', normal: 'normalNode', roughness: 'roughnessNode', metallic: 'metalnessNode', occlusion: 'aoNode', opacity: 'opacityNode', emission: 'emissiveNode' } as unknown as Record<string, keyof NodeMaterial>;
const FIELDS: Record<string, string> = { 'base-colour': 'baseColour', normal: 'normal', roughness: 'roughness', metallic: 'metallic', occlusion: 'occlusion', opacity: 'opacity', emission: 'emission' };

/** What devices may weigh texels otherwise by. */
const LITTLE = 0.002;

const renderer = new WebGPURenderer({ forceWebGL: true, antialias: false });
let ready: Promise<unknown> | null = null;

/** A square that lies as the patch does, seen by a camera for which it is the whole picture. */
function square(patch: { position: Triple; right: Triple; down: Triple; normal: Triple; from: [number, number] }, width: number, height: number): { mesh: Mesh; camera: OrthographicCamera } {
	const [at, right, down] = [patch.position, patch.right, patch.down].map((v) => new Vector3(...v)) as [Vector3, Vector3, Vector3];
	const corners = [[0, 0], [1, 0], [0, 1], [1, 1]].map(([x, y]) => ({ x: x! * width, y: y! * height }));
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(new Float32Array(corners.flatMap(({ x, y }) => at.clone().addScaledVector(right, x).addScaledVector(down, y).toArray())), 3));
	geometry.setAttribute('normal', new BufferAttribute(new Float32Array(corners.flatMap(() => patch.normal)), 3));
	geometry.setAttribute('tangent', new BufferAttribute(new Float32Array(corners.flatMap(() => [...patch.right, 1])), 4));
	// As glTF has them, with the origin at the upper left, and in metres all of them.
	const uv = new Float32Array(corners.flatMap(({ x, y }) => [patch.from[0] + x, patch.from[1] + y]));
	for (const name of ['uv', 'uv1', 'uv2', 'uv3']) geometry.setAttribute(name, new BufferAttribute(uv, 2));
	geometry.setIndex([0, 2, 1, 1, 2, 3]);
	const camera = new OrthographicCamera(-width / 2, width / 2, height / 2, -height / 2, 0.1, 10);
	const middle = at.clone().addScaledVector(right, width / 2).addScaledVector(down, height / 2);
	camera.up.copy(down).negate();
	camera.position.copy(middle).addScaledVector(new Vector3().crossVectors(down, right), 2);
	camera.lookAt(middle);
	const mesh = new Mesh(geometry);
	mesh.frustumCulled = false;
	return { mesh, camera };
}

async function drawn(node: unknown, normal: boolean, patch: Parameters<typeof square>[0], width: number, height: number, side: number): Promise<Float32Array> {
	const { mesh, camera } = square(patch, width, height);
	const material = new MeshBasicNodeMaterial({ side: 2 });
	material.fog = false;
	material.toneMapped = false;
	// Normals come in the eye's space.
	const told = node as ReturnType<typeof float>;
	material.fragmentNode = normal ? vec4(told as never, 1) : vec4(told as never);
	mesh.material = material;
	const scene = new Scene();
	scene.add(mesh);
	const target = new RenderTarget(side, side, { type: FloatType, colorSpace: NoColorSpace, minFilter: NearestFilter, magFilter: NearestFilter });
	renderer.setRenderTarget(target);
	await renderer.renderAsync(scene, camera);
	const pixels = (await renderer.readRenderTargetPixelsAsync(target, 0, 0, side, side)) as Float32Array;
	target.dispose();
	material.dispose();
	mesh.geometry.dispose();
	if (!normal) return pixels;
	for (let i = 0; i < pixels.length; i += 4) {
		const world = new Vector3(pixels[i], pixels[i + 1], pixels[i + 2]).transformDirection(camera.matrixWorld);
		[pixels[i], pixels[i + 1], pixels[i + 2]] = world.toArray() as Triple;
	}
	return pixels;
}

const linear = (c: number): number => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);

/** A normal of an image, in the world. */
function world(told: Triple, right: Triple, down: Triple, normal: Triple): number[] {
	const n = told.map((c) => 2 * c - 1) as Triple;
	return new Vector3().addScaledVector(new Vector3(...right), n[0]).addScaledVector(new Vector3(...down), -n[1]).addScaledVector(new Vector3(...normal), n[2]).normalize().toArray();
}

async function pixels(png: string, size: number): Promise<Uint8ClampedArray> {
	const bitmap = await createImageBitmap(await (await fetch(`data:image/png;base64,${png}`)).blob(), { colorSpaceConversion: 'none' });
	const context = new OffscreenCanvas(size, size).getContext('2d')!;
	context.drawImage(bitmap, 0, 0);
	return context.getImageData(0, 0, size, size).data;
}

// The clock stands: all is as at its beginning.
const now = performance.now();
performance.now = () => now;

(window as unknown as MaterialXPage).riltaWrongNodes = wrongNodes;
(window as unknown as MaterialXPage).riltaMaterialX = async (one, side, step, size) => {
	await (ready ??= renderer.init());
	// Files beside it, as addresses of their own.
	const manager = new LoadingManager();
	manager.setURLModifier((asked) => {
		const name = asked.slice(asked.lastIndexOf('/') + 1);
		return one.files[name] === undefined ? asked : `data:image/png;base64,${one.files[name]}`;
	});
	const loader = new MaterialXLoader(manager);
	const url = URL.createObjectURL(new Blob([one.document]));
	const found = (await loader.loadAsync(url, { interfaceValidator: createStrictInterfaceValidator(), throwOnErrors: false, uvSpace: 'top-left' } as never)) as unknown as { materials: Record<string, NodeMaterial>; errors: { message: string }[]; warnings: { message: string }[] };
	const material = Object.values(found.materials)[0] as unknown as Record<string, unknown>;
	const result: MaterialXResult = { errors: found.errors.map((e) => e.message), warnings: found.warnings.map((e) => e.message), compared: 0, off: {}, mean: {}, baked: {} };
	const add = (into: Record<string, number>, key: string, by: number): void => void (into[key] = Math.max(into[key] ?? 0, by));
	for (const patch of one.patches) {
		for (const [field, parts] of Object.entries(patch.values)) {
			const node = material[NODES[field] as string];
			if (node === null || node === undefined) {
				result.errors.push(`no node gives ${field}`);
				continue;
			}
			const pixels = await drawn(node, field === 'normal', patch, side * step, side * step, side);
			let [sum, many] = [0, 0];
			parts.forEach((part, c) => part.forEach((wanted, i) => {
				// Rows of what was read begin at the bottom.
				const [x, y] = [i % side, side - 1 - Math.floor(i / side)];
				const off = Math.abs(pixels[4 * (y * side + x) + c]! - wanted);
				sum += off;
				many += off > LITTLE ? 1 : 0;
				result.compared++;
			}));
			add(result.off, field, many / (parts.length * side * side));
			add(result.mean, field, sum / (parts.length * side * side));
		}
	}
	const { right, down, normal } = one.plane;
	const times = Number(/name="emissive_strength" type="float" value="([^"]+)"/.exec(one.document)?.[1] ?? 1);
	for (const channel of one.baked) {
		const name = Object.keys(one.files).find((file) => file.endsWith(`-${channel}.png`))!;
		const wanted = await pixels(one.files[name]!, size);
		const field = FIELDS[channel]!;
		const seen = await drawn(material[NODES[field] as string], field === 'normal', { position: [0, 0, 0], right, down, normal, from: [0, 0] }, one.tile[0], one.tile[1], size);
		for (let i = 0; i < size * size; i++) {
			const at = 4 * ((size - 1 - Math.floor(i / size)) * size + (i % size));
			const told = [0, 1, 2].map((c) => wanted[4 * i + c]! / 255);
			const meant = field === 'normal' ? world(told as Triple, right, down, normal) : field === 'baseColour' ? told.map(linear) : field === 'emission' ? told.map((c) => times * linear(c)) : told.slice(0, 1);
			meant.forEach((value, c) => add(result.baked, channel, Math.abs(seen[at + c]! - value)));
		}
	}
	return result;
};
