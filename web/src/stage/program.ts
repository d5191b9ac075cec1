import {
	Color,
	DoubleSide,
	FrontSide,
	Matrix4,
	MeshDepthMaterial,
	type Mesh,
	type Camera,
	ShaderMaterial,
	type Texture,
	UniformsLib,
	UniformsUtils,
	Vector3,
	type ExternalTexture,
	type IUniform,
	type Material,
	type WebGLProgramParametersWithUniforms
} from 'three';
import type { Lowered, MaterialDocument } from '../api/client';
import { PLACED, toldOfMany } from './crowds';
import { light } from './light';
import { unpainted } from './meshes';
import { valueAt } from '../state/pointer';
import { prepared } from './prelude';
import { ROW, inRows, type RowNumber, type Rows } from './rows';

/** What is there of a surface: all, nothing where it is cut, or as much as it says. */
const COVERED = {
	opaque: { discard: '', alpha: '1.0' },
	'cut-out': { discard: 'if (rm.coverage < 0.5) discard;', alpha: '1.0' },
	translucent: { discard: '', alpha: 'rm.coverage' }
};

/** The uniforms that say where places of a large world are counted from: far from its origin, single precision has no digits left for what is near. */
const ORIGIN = ['riltaOriginX', 'riltaOriginY', 'riltaOriginZ'] as const;

/** Uniforms of a lowered material: the numbers of the document and the array textures. */
export class Program {
	readonly uniforms: Record<string, IUniform> = {};
	/** The numbers of the document, by uniform. */
	private readonly filled: Record<string, number> = {};
	/** What objects that wear nothing of their own are drawn with. */
	private base: Record<string, number> = this.filled;
	/**
	 * One for each object, all of one program: three hands the uniforms of a lit material over once for all objects in a
	 * row that share it, but each object has a frame, a seed and a value of its own.
	 */
	private readonly lit = new Map<string, ShaderMaterial>();
	private readonly shadows = new Map<string, MeshDepthMaterial>();
	readonly pictures: ShaderMaterial;
	/** Its numbers as they stand in rows, and what declares them so. */
	private readonly inRows: RowNumber[];
	private readonly declarations: string;

	/** @param sky the uniforms that the light reads */
	constructor(
		readonly lowered: Lowered,
		textures: Map<string, ExternalTexture>,
		private readonly sky: Record<string, IUniform>,
		more: Record<string, IUniform> = {}
	) {
		({ code: this.declarations, numbers: this.inRows } = inRows(lowered.declarations));
		Object.assign(this.uniforms, more);
		for (const slot of lowered.slots) this.uniforms[slot.uniform] = { value: 0 };
		for (const name of [lowered.clock.uniform, ...ORIGIN]) this.uniforms[name] = { value: 0 };
		for (const name of Object.keys(lowered.prelude.results)) this.uniforms[name] = { value: 0 };
		for (const [name, texture] of textures) this.uniforms[name] = { value: texture };
		this.pictures = this.makePictures();
		this.prepare();
	}

	/** Other textures in place of those that it has. */
	retexture(textures: Map<string, ExternalTexture>): void {
		for (const [name, texture] of textures) {
			for (const uniforms of [this.uniforms, this.pictures.uniforms]) if (uniforms[name] !== undefined) uniforms[name].value = texture;
		}
	}

	/** The uniforms that parameters drive, with the numbers that they have somewhere, by JSON Pointer. */
	driven(numbers: Record<string, number>): Record<string, number> {
		return Object.fromEntries(this.lowered.slots.filter((slot) => numbers[slot.path] !== undefined).map((slot) => [slot.uniform, numbers[slot.path]!]));
	}

	/** The numbers of a document with the same structure, by uniform. */
	numbers(document: MaterialDocument): Record<string, number> {
		const wrong = new Set(this.lowered.problems.map((problem) => problem.path));
		return Object.fromEntries(
			this.lowered.slots.map((slot) => {
				return [slot.uniform, wrong.has(slot.path) ? slot.value : numberAt(document, slot)];
			})
		);
	}

	/** Takes the numbers of a document with the same structure. */
	fill(document: MaterialDocument): void {
		Object.assign(this.filled, this.numbers(document));
		this.undress();
	}

	/** Other numbers, by uniform. */
	private wear(numbers: Record<string, number>): void {
		const other = Object.entries(numbers).filter(([name, value]) => this.uniforms[name] !== undefined && this.uniforms[name].value !== value);
		for (const [name, value] of other) this.uniforms[name]!.value = value;
		if (other.length > 0) this.prepare();
	}

	/** Has places counted from a point, in metres in the world. */
	rebase(origin: Vector3): void {
		this.wear(Object.fromEntries(origin.toArray().map((metres, i) => [ORIGIN[i]!, metres])));
	}

	/** What follows from the numbers and the clock. */
	private prepare(): void {
		for (const [name, value] of Object.entries(prepared(this.lowered.prelude, (uniform) => this.uniforms[uniform]!.value as number))) this.uniforms[name]!.value = value;
	}

	/** The numbers that it was filled with, after something was drawn with others. */
	undress(): void {
		this.stand(null);
	}

	/** Other numbers for all that is drawn, until there are none. */
	stand(numbers: Record<string, number> | null): void {
		this.base = numbers ?? this.filled;
		this.wear(this.base);
	}

	/** Those of one object. */
	dress(numbers: Record<string, number>): void {
		this.wear({ ...this.base, ...numbers });
	}

	/** Those of objects that are drawn at once: a row for each of what they wear. */
	dressAll(rows: Rows, worn: readonly Record<string, number>[]): Texture {
		return rows.fill(this.inRows, this.uniforms, worn.length, (row) => this.dress(worn[row]!));
	}

	/** Sets the clock, in whole ticks. */
	time(seconds: number): void {
		this.uniforms[this.lowered.clock.uniform]!.value = Math.floor(seconds * this.lowered.clock.ticks);
		this.prepare();
	}

	dispose(): void {
		for (const material of [...this.lit.values(), ...this.shadows.values()]) material.dispose();
		this.pictures.dispose();
	}

	litFor(object: string): ShaderMaterial {
		return kept(this.lit, object, () => this.makeLit());
	}

	private makeLit(): ShaderMaterial {
		const { kind, twoSided } = this.lowered.surface;
		const { vertex, fragment } = this.lowered.host;
		const emission = this.lowered.channels.includes('emission') ? 'rm.emission' : 'vec3(0.0)';
		return hosted(new ShaderMaterial({
			lights: true,
			uniforms: { ...UniformsUtils.clone(UniformsLib.lights), ...this.ownUniforms(), ...this.sky, riltaStrip: { value: new Vector3() } },
			side: twoSided ? DoubleSide : FrontSide,
			shadowSide: twoSided ? DoubleSide : FrontSide,
			transparent: kind === 'translucent',
			depthWrite: kind !== 'translucent',
			vertexShader: `#include <common>
				${PLACED}${ROW}
				#include <shadowmap_pars_vertex>
				uniform vec4 riltaContactArea;
				uniform float riltaContactFloor;
				// Of a strip over all distances: metres at its left end, the logarithm of how many times as much is at its right end, and half its height by what is there.
				uniform vec3 riltaStrip;
				varying vec3 vContact;
				${vertex}
				void main() {
					#include <beginnormal_vertex>
					#include <defaultnormal_vertex>
					#include <begin_vertex>
					#include <project_vertex>
					if (riltaStrip.x > 0.0) gl_Position = vec4(2.0 * log(transformed.x / riltaStrip.x) / riltaStrip.y - 1.0, transformed.y / (riltaStrip.z * transformed.x), 0.5, 1.0);
					#include <worldpos_vertex>
					#include <shadowmap_vertex>
					vec3 inWorld = (modelMatrix * RILTA_PLACED(transformed)).xyz;
					vContact = vec3((inWorld.xz - riltaContactArea.xy) * riltaContactArea.zw, inWorld.y - riltaContactFloor);
					riltaVertex(transformed, objectNormal);
					RILTA_ROW
				}`,
			// Comments name maps: materials that differ in their maps alone are drawn by one program.
			fragmentShader: uncommented(`#include <common>
				#include <bsdfs>
				#include <lights_pars_begin>
				#include <shadowmap_pars_fragment>
				#include <shadowmask_pars_fragment>
				${this.declarations}${this.lowered.material}${fragment}${light.code}
				uniform sampler2D riltaContact;
				varying vec3 vContact;
				// What stands on the ground shuts out some of the sky there.
				float besideOthers() {
					float ground = smoothstep(0.5, 0.8, vRiltaNormal.y) * (1.0 - smoothstep(0.02, 0.15, abs(vContact.z)));
					return ground <= 0.0 || any(lessThan(vContact.xy, vec2(0.0))) || any(greaterThan(vContact.xy, vec2(1.0))) ? 1.0 : mix(1.0, texture2D(riltaContact, vContact.xy).r, ground);
				}
				void main() {
					RILTA_WEAR
					RiltaMaterial rm = riltaMaterial(riltaSurface());
					${COVERED[kind].discard}
					vec3 light = riltaLit(rm.baseColour, rm.normal, rm.roughness, rm.metallic, rm.occlusion * besideOthers(), ${emission}, normalize(riltaEye - vRiltaPosition), ${light.prefix}sun, getShadowMask());
					gl_FragColor = vec4(riltaToned(light), ${COVERED[kind].alpha});
					#include <colorspace_fragment>
				}`)
		}));
	}

	/** What a cut surface throws shadows with: the same holes. Null for surfaces that are closed. */
	shadowFor(object: string): MeshDepthMaterial | null {
		return this.lowered.surface.kind === 'cut-out' ? kept(this.shadows, object, () => this.makeShadow()) : null;
	}

	private makeShadow(): MeshDepthMaterial {
		const material = hosted(new MeshDepthMaterial({ side: this.lowered.surface.twoSided ? DoubleSide : FrontSide }));
		const { vertex, fragment } = this.lowered.host;
		const all = this.ownUniforms();
		material.userData.uniforms = all;
		material.customProgramCacheKey = () => `shadow ${this.lowered.code}`;
		material.onBeforeCompile = (shader: WebGLProgramParametersWithUniforms) => {
			Object.assign(shader.uniforms, all);
			toldOfMany(shader);
			// The depth program has no normals of its own.
			shader.vertexShader = shader.vertexShader
				.replace('#include <common>', `#include <common>\n${ROW}${vertex}`)
				.replace('#include <project_vertex>', '#include <project_vertex>\nriltaVertex(transformed, normal);\nRILTA_ROW');
			shader.fragmentShader = shader.fragmentShader
				.replace('#include <common>', `#include <common>\n${this.declarations}${this.lowered.material}${fragment}`)
				.replace('#include <map_fragment>', `RILTA_WEAR\nRiltaMaterial rm = riltaMaterial(riltaSurface());\n${COVERED['cut-out'].discard}`);
		};
		return material;
	}

	private ownUniforms(): Record<string, IUniform> {
		return { ...this.uniforms, ...frameUniforms() };
	}

	private makePictures(): ShaderMaterial {
		this.uniforms.riltaView = { value: 0 };
		this.uniforms.riltaForm = { value: 0 };
		this.uniforms.riltaTwo = { value: 0 };
		this.uniforms.riltaNone = { value: new Color(0, 0, 0) };
		this.uniforms.riltaAll = { value: new Color(1, 1, 1) };
		this.uniforms.riltaCut = { value: 0 };
		// What is measured is what is seen: nothing where it is cut, and what lies behind.
		const cut = this.lowered.surface.kind === 'cut-out' ? this.lowered.material : '';
		const code = this.lowered.pictures + cut;
		const { vertex, fragment } = this.lowered.pictureHost;
		return hosted(new ShaderMaterial({
			uniforms: this.ownUniforms(),
			side: this.lowered.surface.twoSided ? DoubleSide : FrontSide,
			vertexShader: `${PLACED}${ROW}${vertex}
				void main() {
					riltaVertex(position, normal);
					RILTA_ROW
					gl_Position = projectionMatrix * modelViewMatrix * RILTA_PLACED(position);
				}`,
			fragmentShader: `${this.declarations}${code}${fragment}
				uniform float riltaCut; uniform int riltaView; uniform float riltaForm; uniform float riltaTwo; uniform vec3 riltaNone; uniform vec3 riltaAll;
				void main() {
					RILTA_WEAR
					RiltaSurface here = riltaSurface();
					${cut === '' ? '' : `if (riltaCut > 0.5) { RiltaMaterial rm = riltaMaterial(here); ${COVERED['cut-out'].discard} }`}
					vec3 colour = riltaPicture(riltaView, here);
					// In two colours, by the number that the grey stands for.
					if (riltaTwo > 0.5) colour = mix(riltaNone, riltaAll, sRGBTransferOETF(vec4(colour, 1.0)).r);
					float facing = abs(normalize((viewMatrix * vec4(vRiltaNormal, 0.0)).xyz).z);
					gl_FragColor = vec4(colour * mix(1.0, 0.35 + 0.65 * facing, riltaForm), 1.0);
					#include <colorspace_fragment>
				}`
		}));
	}
}

/** What is drawn with lowered code: where a mesh says nothing of an attribute, it is 0. */
function hosted<T extends Material>(material: T): T {
	return Object.assign(material, { defaultAttributeValues: unpainted, onBeforeCompile: toldOfMany });
}

/** What is of an object, and of the eye that sees it. */
export const frameUniforms = (): Record<string, IUniform> => ({ riltaObject: { value: new Matrix4() }, riltaEye: { value: new Vector3() }, riltaSeed: { value: 1 }, riltaValue: { value: 0 }, riltaRows: { value: null } });

/** Fills them, counted from a point. */
export function setFrame(uniforms: Record<string, IUniform>, mesh: Mesh, camera: Camera, origin: Vector3): void {
	const { elements } = (uniforms.riltaObject!.value as Matrix4).copy(mesh.matrixWorld);
	for (const i of [0, 1, 2] as const) elements[12 + i] = elements[12 + i]! - origin.getComponent(i);
	(uniforms.riltaEye!.value as Vector3).setFromMatrixPosition(camera.matrixWorld).sub(origin);
	uniforms.riltaSeed!.value = mesh.userData.seed ?? 1;
	uniforms.riltaValue!.value = mesh.userData.value ?? 0;
}

const uncommented = (code: string): string => code.replace(/\/\/.*/g, '');

/** The number at a place; where there is none that can be used, code stands on the one that it was made with. */
export function numberAt(document: object, slot: { path: string; value: number }): number {
	const value = valueAt(document, slot.path);
	return typeof value === 'number' || typeof value === 'boolean' ? Number(value) : slot.value;
}

/** What there is for a key, made when it is first asked for. */
function kept<T>(all: Map<string, T>, key: string, make: () => T): T {
	const known = all.get(key);
	if (known !== undefined) return known;
	const made = make();
	all.set(key, made);
	return made;
}
