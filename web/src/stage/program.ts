import {
	Color,
	Matrix4,
	MeshStandardMaterial,
	ShaderMaterial,
	type ExternalTexture,
	type IUniform,
	type WebGLProgramParametersWithUniforms
} from 'three';
import type { Lowered, MaterialDocument } from '../api/client';
import { valueAt } from '../state/pointer';

/** What the lowered code needs from the vertex stage: the surface point, and the object's rigid frame. */
const VERTEX = `
out vec3 vRiltaPosition; out vec3 vRiltaNormal; out vec2 vRiltaUv; out vec3 vRiltaT; out vec3 vRiltaB;
out vec2 vRiltaUv2; out vec3 vRiltaT2; out vec3 vRiltaB2; flat out float vRiltaSection;
void riltaVertex(vec3 p, vec3 n, vec2 t) {
	mat3 m = mat3(modelMatrix);
	vRiltaPosition = (modelMatrix * vec4(p, 1.0)).xyz;
	// three's normal matrix leads to the view; a rotation is undone by its transpose.
	vRiltaNormal = (vec4(normalMatrix * n, 0.0) * viewMatrix).xyz;
	vRiltaUv = t;
	vRiltaT = m * tangentDir;
	vRiltaB = m * bitangentDir;
	vRiltaUv2 = uvSecond;
	vRiltaT2 = m * tangentDir2;
	vRiltaB2 = m * bitangentDir2;
	vRiltaSection = section;
}
`;
const ATTRIBUTES = `in vec3 tangentDir; in vec3 bitangentDir; in vec2 uvSecond; in vec3 tangentDir2; in vec3 bitangentDir2; in float section;\n`;

const SURFACE = `
in vec3 vRiltaPosition; in vec3 vRiltaNormal; in vec2 vRiltaUv; in vec3 vRiltaT; in vec3 vRiltaB;
in vec2 vRiltaUv2; in vec3 vRiltaT2; in vec3 vRiltaB2; flat in float vRiltaSection;
uniform mat4 riltaObject; uniform float riltaSeed; uniform float riltaValue;
RiltaSurface riltaSurface() {
	RiltaSurface s;
	s.position = vRiltaPosition;
	s.normal = normalize(vRiltaNormal);
	s.dpdx = dFdx(vRiltaPosition);
	s.dpdy = -dFdy(vRiltaPosition);
	s.uv = vRiltaUv;
	s.uvDx = dFdx(vRiltaUv);
	s.uvDy = -dFdy(vRiltaUv);
	s.uvT = normalize(vRiltaT);
	s.uvB = normalize(vRiltaB);
	s.uv2 = vRiltaUv2;
	s.uv2Dx = dFdx(vRiltaUv2);
	s.uv2Dy = -dFdy(vRiltaUv2);
	s.uv2T = normalize(vRiltaT2);
	s.uv2B = normalize(vRiltaB2);
	s.section = vRiltaSection;
	s.objectOrigin = riltaObject[3].xyz;
	s.objectX = normalize(riltaObject[0].xyz);
	s.objectY = normalize(riltaObject[1].xyz);
	s.objectZ = normalize(riltaObject[2].xyz);
	s.objectSeed = riltaSeed;
	s.objectValue = riltaValue;
	s.viewDistance = distance(cameraPosition, vRiltaPosition);
	return s;
}
`;

/** The studio around the stage in closed form: a sky that darkens to the ground, and one soft box. */
const STUDIO = `
vec3 riltaRadiance(vec3 d, float rough) {
	float soften = 0.16 + 0.9 * rough;
	float sky = smoothstep(-soften, soften, d.y);
	float box = smoothstep(0.80 - 0.9 * rough, 1.02, dot(d, normalize(vec3(0.66, 0.42, 0.62))));
	return vec3(0.16 + 0.62 * sky + box * (1.3 - rough));
}
vec3 riltaIrradiance(vec3 n) { return vec3(PI * (0.30 + 0.46 * (0.5 + 0.5 * n.y))); }
`;

/** Uniforms of a lowered material: the numbers of the document and the array textures. */
export class Program {
	readonly uniforms: Record<string, IUniform> = {};
	/**
	 * One for each object, all of one program: three hands the uniforms of a lit material over once for all objects in a
	 * row that share it, but each object has a frame, a seed and a value of its own.
	 */
	private readonly lit = new Map<string, MeshStandardMaterial>();
	readonly pictures: ShaderMaterial;

	constructor(
		readonly lowered: Lowered,
		textures: Map<string, ExternalTexture>
	) {
		for (const slot of lowered.slots) this.uniforms[slot.uniform] = { value: 0 };
		this.uniforms[lowered.clock.uniform] = { value: 0 };
		for (const [name, texture] of textures) this.uniforms[name] = { value: texture };
		this.pictures = this.makePictures();
	}

	/** Takes the numbers of a document with the same structure. */
	fill(document: MaterialDocument): void {
		const wrong = new Set(this.lowered.problems.map((problem) => problem.path));
		for (const slot of this.lowered.slots) {
			const value = valueAt(document, slot.path);
			const uniform = this.uniforms[slot.uniform];
			// Where the document has no number that can be used, the code stands on the one that it was made with.
			if (uniform !== undefined) uniform.value = typeof value === 'number' && !wrong.has(slot.path) ? value : slot.value;
		}
	}

	/** Sets the clock, in whole ticks. */
	time(seconds: number): void {
		this.uniforms[this.lowered.clock.uniform]!.value = Math.floor(seconds * this.lowered.clock.ticks);
	}

	dispose(): void {
		for (const material of this.lit.values()) material.dispose();
		this.pictures.dispose();
	}

	litFor(object: string): MeshStandardMaterial {
		let material = this.lit.get(object);
		if (material === undefined) {
			material = this.makeLit();
			this.lit.set(object, material);
		}
		return material;
	}

	private makeLit(): MeshStandardMaterial {
		const material = new MeshStandardMaterial({ color: new Color(1, 1, 1) });
		const code = this.lowered.declarations + this.lowered.material + SURFACE + STUDIO;
		material.customProgramCacheKey = () => this.lowered.hash;
		material.onBeforeCompile = (shader: WebGLProgramParametersWithUniforms) => {
			Object.assign(shader.uniforms, this.uniforms);
			shader.uniforms.riltaObject = { value: new Matrix4() };
			shader.uniforms.riltaSeed = { value: 1 };
			shader.uniforms.riltaValue = { value: 0 };
			shader.vertexShader = shader.vertexShader
				.replace('#include <common>', `#include <common>\n${ATTRIBUTES}${VERTEX}`)
				.replace('#include <project_vertex>', '#include <project_vertex>\nriltaVertex(transformed, objectNormal, uv);');
			shader.fragmentShader = shader.fragmentShader
				.replace('#include <common>', `#include <common>\n${code}`)
				.replace(
					'#include <map_fragment>',
					'RiltaMaterial rm = riltaMaterial(riltaSurface());\ndiffuseColor.rgb = rm.baseColour;'
				)
				.replace('#include <roughnessmap_fragment>', 'float roughnessFactor = rm.roughness;')
				.replace('#include <metalnessmap_fragment>', 'float metalnessFactor = rm.metallic;')
				.replace(
					'#include <normal_fragment_maps>',
					'normal = normalize((viewMatrix * vec4(rm.normal, 0.0)).xyz);'
				)
				.replace(
					'#include <lights_fragment_maps>',
					`#include <lights_fragment_maps>
					vec3 riltaMirror = inverseTransformDirection(reflect(-geometryViewDir, geometryNormal), viewMatrix);
					radiance += riltaRadiance(riltaMirror, material.roughness);
					iblIrradiance += riltaIrradiance(inverseTransformDirection(geometryNormal, viewMatrix));`
				)
				.replace(
					'#include <aomap_fragment>',
					`reflectedLight.indirectDiffuse *= rm.occlusion;
					reflectedLight.indirectSpecular *= rm.occlusion;`
				);
			material.userData.uniforms = shader.uniforms;
		};
		return material;
	}

	private makePictures(): ShaderMaterial {
		this.uniforms.riltaView = { value: 0 };
		this.uniforms.riltaForm = { value: 0 };
		return new ShaderMaterial({
			uniforms: { ...this.uniforms, riltaObject: { value: new Matrix4() }, riltaSeed: { value: 1 }, riltaValue: { value: 0 } },
			vertexShader: `${ATTRIBUTES}${VERTEX}
				void main() {
					riltaVertex(position, normal, uv);
					gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
				}`,
			fragmentShader: `${this.lowered.declarations}${this.lowered.pictures}${SURFACE}
				uniform int riltaView; uniform float riltaForm;
				void main() {
					vec3 colour = riltaPicture(riltaView, riltaSurface());
					float facing = abs(normalize((viewMatrix * vec4(vRiltaNormal, 0.0)).xyz).z);
					gl_FragColor = vec4(colour * mix(1.0, 0.35 + 0.65 * facing, riltaForm), 1.0);
					#include <colorspace_fragment>
				}`
		});
	}
}
