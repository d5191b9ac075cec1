import { Color, GLSL3, Group, Mesh, ShaderMaterial, SRGBColorSpace, Vector3, Vector4, type BufferGeometry, type IUniform } from 'three';
import { light, lightValue, skyOf, type StageLight } from './light';
import { covering } from './meshes';
import { prepared } from './prelude';

/** The sky and the sun of a stage, as the uniforms of all that is lit there, and the sky as it is seen behind the objects. */
export class Sky {
	/** Whether it is seen behind the objects. */
	shown = false;
	readonly uniforms: Record<string, IUniform> = {};
	/** Towards the sun. */
	readonly sun = new Vector3(0, 1, 0);
	/** Not a mesh of the stage's own. */
	readonly backdrop = new Group();
	private readonly drawn: Mesh<BufferGeometry, ShaderMaterial>;

	constructor() {
		for (const [name, numbers] of Object.entries(light.skies[0]?.fields ?? {})) {
			this.uniforms[light.prefix + name] = { value: numbers.length === 1 ? 0 : numbers.length === 3 ? new Vector3() : new Vector4() };
		}
		this.uniforms[light.exposure] = { value: 1 };
		this.uniforms[light.partsUniform] = { value: new Vector3(1, 1, 1) };
		this.drawn = new Mesh(
			covering(),
			new ShaderMaterial({
				glslVersion: GLSL3,
				uniforms: this.uniforms,
				depthTest: false,
				depthWrite: false,
				vertexShader: `out vec3 vFrom;
					void main() {
						vec4 far = inverse(projectionMatrix) * vec4(position.xy, 1.0, 1.0);
						vFrom = inverse(mat3(viewMatrix)) * (far.xyz / far.w);
						gl_Position = vec4(position.xy, 1.0, 1.0);
					}`,
				fragmentShader: `in vec3 vFrom; out vec4 colour;
					${light.code}
					void main() { colour = linearToOutputTexel(vec4(riltaToned(riltaSky(normalize(vFrom))), 1.0)); }`
			})
		);
		this.drawn.frustumCulled = false;
		this.drawn.renderOrder = -1;
		this.backdrop.add(this.drawn);
	}

	/** Takes over what a stage says. */
	show(one: StageLight | undefined): void {
		this.shown = lightValue(one, 'shown') === true;
		const sky = skyOf(one);
		if (sky === undefined) return;
		for (const [name, numbers] of Object.entries(sky.fields)) this.fill(name, numbers);
		const [r = 1, g = 1, b = 1] = lightValue(one, 'colour') as number[];
		const colour = new Color().setRGB(r, g, b, SRGBColorSpace).toArray();
		const found = prepared(sky.prelude, (name) => (name.startsWith('colour/') ? colour[Number(name.slice(7))]! : Number(lightValue(one, name as keyof StageLight))));
		this.uniforms[light.exposure]!.value = found.exposure;
		for (const field of new Set(Object.keys(found).filter((name) => name.includes('/')).map((name) => name.replace(/\/\d$/, '')))) {
			this.fill(field, [0, 1, 2].map((i) => found[`${field}/${i}`]).filter((number) => number !== undefined));
		}
		this.sun.copy(this.uniforms[`${light.prefix}sun`]!.value as Vector3);
	}

	/** Shows a part of the light that surfaces send, or all of it. */
	part(shown: readonly number[] = [1, 1, 1]): void {
		(this.uniforms[light.partsUniform]?.value as Vector3 | undefined)?.fromArray(shown);
	}

	dispose(): void {
		this.drawn.geometry.dispose();
		this.drawn.material.dispose();
	}

	private fill(name: string, numbers: readonly number[]): void {
		const uniform = this.uniforms[light.prefix + name];
		if (uniform === undefined) return;
		if (numbers.length === 1) uniform.value = numbers[0];
		else (uniform.value as Vector4).fromArray(numbers);
	}
}
