import { GLSL3, Group, Mesh, RawShaderMaterial, type Material, type MeshStandardMaterial, type Texture } from 'three';
import { GLTFLoader, type GLTF } from 'three/examples/jsm/loaders/GLTFLoader.js';
import type { View } from './sidecar';

type Said = { variants?: { name: string }[]; mappings?: { material: number; variants: number[] }[] };
const VARIANTS = 'KHR_materials_variants';

/** What was baked, as its GLB file has it: lit by three, or one of its channels alone. */
export class BakedScene {
	/** By name, in the order of the file. */
	readonly variants: string[];
	readonly meshes: Mesh[] = [];
	private readonly own = new Map<Mesh, Material>();
	private readonly flat = new Map<Material, RawShaderMaterial>();
	private view: View = 'lit';

	private constructor(private readonly file: GLTF, readonly root: Group) {
		this.variants = ((file.parser.json as { extensions?: Record<string, Said> }).extensions?.[VARIANTS]?.variants ?? []).map((one) => one.name);
		root.traverse((one) => one instanceof Mesh && this.meshes.push(one));
		for (const one of this.meshes) this.own.set(one, one.material as Material);
	}

	/**
	 * @param anisotropy that textures are filtered by
	 *
	 * @throws if there is no mesh in it
	 */
	static async read(bytes: ArrayBuffer, name: string, anisotropy: number): Promise<BakedScene> {
		const file = await new GLTFLoader().parseAsync(bytes, '');
		const scene = new BakedScene(file, file.scene);
		if (scene.meshes.length === 0) throw new Error(`There is no mesh in ${name}.`);
		// Games filter along a slant; glTF says nothing of it. What lies in another set of UVs is a copy of its texture.
		for (const material of (await file.parser.getDependencies('material')) as MeshStandardMaterial[]) {
			for (const one of [material.map, material.normalMap, material.roughnessMap, material.metalnessMap, material.aoMap, material.emissiveMap]) if (one !== null) one.anisotropy = anisotropy;
		}
		return scene;
	}

	/** Every object as it is in a variant; "" for as the file stands. */
	async wear(variant: string): Promise<void> {
		const number = this.variants.indexOf(variant);
		for (const one of this.meshes) {
			const mapping = ((one.userData.gltfExtensions as Record<string, Said> | undefined)?.[VARIANTS]?.mappings ?? []).find((other) => other.variants.includes(number));
			if (mapping === undefined) one.material = this.own.get(one)!;
			else {
				one.material = (await this.file.parser.getDependency('material', mapping.material)) as Material;
				this.file.parser.assignFinalMaterial(one);
			}
		}
		this.show(this.view);
	}

	show(view: View): void {
		this.view = view;
		for (const one of this.meshes) {
			const lit = (one.material instanceof RawShaderMaterial ? one.userData.lit : one.material) as MeshStandardMaterial;
			one.userData.lit = lit;
			const map = view === 'lit' ? null : shown(lit, view);
			if (map === null) one.material = lit;
			else {
				const flat = this.flat.get(lit) ?? unlit(lit);
				this.flat.set(lit, flat);
				map.texture.updateMatrix();
				Object.assign(flat.uniforms.map!, { value: map.texture });
				Object.assign(flat.uniforms.channel!, { value: map.channel });
				Object.assign(flat.uniforms.curved!, { value: map.curved });
				Object.assign(flat.uniforms.laid!, { value: map.texture.matrix });
				one.material = flat;
			}
		}
	}
}

/** Where a channel lies: which part of which texture (-1 for red, green and blue), and whether it is shown on the curve of sRGB. */
function shown(material: MeshStandardMaterial, view: View): { texture: Texture; channel: number; curved: boolean } | null {
	const of = (texture: Texture | null, channel: number, curved: boolean) => (texture === null ? null : { texture, channel, curved });
	switch (view) {
		case 'baseColour':
			return of(material.map, -1, true);
		case 'normal':
			return of(material.normalMap, -1, false);
		case 'roughness':
			return of(material.roughnessMap, 1, false);
		case 'metallic':
			return of(material.metalnessMap, 2, false);
		case 'occlusion':
			return of(material.aoMap, 0, false);
		case 'emission':
			return of(material.emissiveMap, -1, true);
		default:
			return null;
	}
}

/** Shows a texture of a material without light, where there is anything of it. */
function unlit(material: MeshStandardMaterial): RawShaderMaterial {
	const set = material.map?.channel ?? 0;
	const uv = set === 0 ? 'uv' : `uv${set}`;
	return new RawShaderMaterial({
		glslVersion: GLSL3,
		side: material.side,
		vertexShader: `in vec3 position; in vec2 ${uv}; uniform mat4 modelMatrix, viewMatrix, projectionMatrix; uniform mat3 laid; out vec2 at; void main() { at = (laid * vec3(${uv}, 1.0)).xy; gl_Position = projectionMatrix * viewMatrix * modelMatrix * vec4(position, 1.0); }`,
		fragmentShader: 'precision highp float; uniform sampler2D map, whole; uniform int channel; uniform bool curved; uniform float least; in vec2 at; out vec4 seen; vec3 onCurve(vec3 c) { return mix(c * 12.92, 1.055 * pow(c, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, c)); } void main() { if (texture(whole, at).a < least) discard; vec4 texel = texture(map, at); vec3 c = channel < 0 ? texel.rgb : vec3(texel[channel]); seen = vec4(curved ? onCurve(c) : c, 1.0); }',
		uniforms: { map: { value: null }, whole: { value: material.map }, channel: { value: -1 }, curved: { value: false }, laid: { value: null }, least: { value: material.alphaTest > 0 ? material.alphaTest : material.transparent ? 0.004 : 0 } }
	});
}
