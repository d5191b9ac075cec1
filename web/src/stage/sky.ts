import { BufferAttribute, BufferGeometry, Color, GLSL3, Group, MathUtils, Mesh, ShaderMaterial, SRGBColorSpace, Vector3, Vector4, type IUniform } from 'three';
import { light, lightValue, skyOf, type StageLight } from './light';

/** Towards a place of the sky, by degrees to the right of -z and above the horizon. */
export function directionOf(turn: number, height: number): Vector3 {
	const [t, h] = [MathUtils.degToRad(turn), MathUtils.degToRad(height)];
	return new Vector3(Math.sin(t) * Math.cos(h), Math.sin(h), -Math.cos(t) * Math.cos(h));
}

/** The sky and the sun of a stage, as the uniforms of all that is lit there, and the sky as it is seen behind the objects. */
export class Sky {
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
		this.uniforms[light.exposure.uniform] = { value: 1 };
		this.drawn = new Mesh(
			new BufferGeometry().setAttribute('position', new BufferAttribute(new Float32Array([-1, -1, 0, 3, -1, 0, -1, 3, 0]), 3)),
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
		const value = (name: keyof StageLight): number => Number(lightValue(one, name) ?? 0);
		const [r = 1, g = 1, b = 1] = (lightValue(one, 'colour') as number[] | undefined) ?? [];
		const tint = new Color().setRGB(r, g, b, SRGBColorSpace);
		for (const [name, numbers] of Object.entries(skyOf(one)?.fields ?? {})) this.fill(name, numbers);
		this.sun.copy(directionOf(value('turn'), value('height')));
		this.fill('sun', this.sun.toArray());
		this.fill('sunColour', (skyOf(one)?.fields.sunColour ?? []).map((part, i) => part * tint.toArray()[i]!));
		this.fill('sunStrength', [value('strength')]);
		this.fill('brightness', [value('brightness') / 100]);
		this.uniforms[light.exposure.uniform]!.value = light.exposure.value * 2 ** value('exposure');
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
