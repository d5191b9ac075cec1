import {
	Color,
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
void riltaVertex(vec3 p, vec3 n, vec2 t) {
	mat3 m = mat3(modelMatrix);
	vRiltaPosition = (modelMatrix * vec4(p, 1.0)).xyz;
	vRiltaNormal = transpose(inverse(m)) * n;
	vRiltaUv = t;
	vRiltaT = m * tangentDir;
	vRiltaB = m * bitangentDir;
}
`;
const ATTRIBUTES = `in vec3 tangentDir; in vec3 bitangentDir;\n`;

const SURFACE = `
in vec3 vRiltaPosition; in vec3 vRiltaNormal; in vec2 vRiltaUv; in vec3 vRiltaT; in vec3 vRiltaB;
uniform mat4 riltaObject;
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
	s.objectOrigin = riltaObject[3].xyz;
	s.objectX = normalize(riltaObject[0].xyz);
	s.objectY = normalize(riltaObject[1].xyz);
	s.objectZ = normalize(riltaObject[2].xyz);
	return s;
}
`;

/** Uniforms of a lowered material: the numbers of the document and the array textures. */
export class Program {
	readonly uniforms: Record<string, IUniform> = {};
	readonly lit: MeshStandardMaterial;
	readonly pictures: ShaderMaterial;

	constructor(
		readonly lowered: Lowered,
		textures: Map<string, ExternalTexture>
	) {
		for (const slot of lowered.slots) this.uniforms[slot.uniform] = { value: 0 };
		for (const [name, texture] of textures) this.uniforms[name] = { value: texture };
		this.lit = this.makeLit();
		this.pictures = this.makePictures();
	}

	/** Takes the numbers of a document with the same structure. */
	fill(document: MaterialDocument): void {
		for (const slot of this.lowered.slots) {
			const value = valueAt(document, slot.path);
			const uniform = this.uniforms[slot.uniform];
			if (typeof value === 'number' && uniform !== undefined) uniform.value = value;
		}
	}

	dispose(): void {
		this.lit.dispose();
		this.pictures.dispose();
	}

	private makeLit(): MeshStandardMaterial {
		const material = new MeshStandardMaterial({ color: new Color(1, 1, 1) });
		const code = this.lowered.declarations + this.lowered.material + SURFACE;
		material.customProgramCacheKey = () => this.lowered.hash;
		material.onBeforeCompile = (shader: WebGLProgramParametersWithUniforms) => {
			Object.assign(shader.uniforms, this.uniforms);
			shader.uniforms.riltaObject = { value: null };
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
					'#include <aomap_fragment>',
					`reflectedLight.indirectDiffuse *= rm.occlusion;
					#if defined( USE_ENVMAP ) && defined( STANDARD )
					reflectedLight.indirectSpecular *= computeSpecularOcclusion(
						saturate(dot(geometryNormal, geometryViewDir)), rm.occlusion, material.roughness);
					#endif`
				);
			material.userData.uniforms = shader.uniforms;
		};
		return material;
	}

	private makePictures(): ShaderMaterial {
		this.uniforms.riltaView = { value: 0 };
		this.uniforms.riltaForm = { value: 0 };
		return new ShaderMaterial({
			uniforms: { ...this.uniforms, riltaObject: { value: null } },
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
