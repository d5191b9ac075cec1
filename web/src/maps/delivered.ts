import { GLSL3, LinearSRGBColorSpace, Mesh, NearestFilter, OrthographicCamera, PlaneGeometry, RawShaderMaterial, RED_RGTC1_Format, RedFormat, Scene, SRGBColorSpace, WebGLRenderer, type Texture } from 'three';
import { TextureFiles } from './texturefiles';

/** Which parts of a picture are seen: colours, or one value as grey. */
export type Part = 'all' | 'red' | 'green' | 'blue' | 'alpha';

const WEIGHTS: Record<Part, [number, number, number, number]> = { all: [0, 0, 0, 0], red: [1, 0, 0, 0], green: [0, 1, 0, 0], blue: [0, 0, 1, 0], alpha: [0, 0, 0, 1] };

const fragment = (array: boolean): string => `precision highp float;
precision highp ${array ? 'sampler2DArray' : 'sampler2D'};
uniform ${array ? 'sampler2DArray' : 'sampler2D'} picture;
uniform vec4 part;
uniform float layer;
uniform bool grey, curved;
in vec2 at;
out vec4 seen;
void main() {
	// Rows come from the top.
	vec2 uv = vec2(at.x, 1.0 - at.y);
	vec4 texel = texture(picture, ${array ? 'vec3(uv, layer)' : 'uv'});
	// As it is stored: what the device has taken off its curve goes back.
	if (curved) texel.rgb = mix(texel.rgb * 12.92, 1.055 * pow(max(texel.rgb, vec3(0.0)), vec3(1.0 / 2.4)) - 0.055, step(0.0031308, texel.rgb));
	seen = part == vec4(0.0) ? vec4(grey ? texel.rrr : texel.rgb, 1.0) : vec4(vec3(dot(part, texel)), 1.0);
}`;

/** Pictures of deliveries, read by three's loaders as a game's would be, and drawn as they are stored. */
export class DeliveredPictures {
	private readonly renderer: WebGLRenderer;
	private readonly scene = new Scene();
	private readonly quad = new Mesh(new PlaneGeometry(2, 2));
	private readonly files: TextureFiles;
	private texture: Texture | null = null;

	constructor(canvas: HTMLCanvasElement) {
		this.renderer = new WebGLRenderer({ canvas });
		this.renderer.outputColorSpace = LinearSRGBColorSpace;
		this.files = new TextureFiles(this.renderer);
		this.scene.add(this.quad);
		this.quad.frustumCulled = false;
	}

	/** Reads a file; its name tells of which format it is. */
	async load(bytes: ArrayBuffer, name: string): Promise<void> {
		const texture = await this.files.read(bytes, name);
		this.texture?.dispose();
		this.texture = texture;
		texture.magFilter = NearestFilter;
		const array = 'isDataArrayTexture' in texture || 'isCompressedArrayTexture' in texture;
		(this.quad.material as RawShaderMaterial).dispose();
		this.quad.material = new RawShaderMaterial({
			glslVersion: GLSL3,
			vertexShader: 'in vec3 position; in vec2 uv; out vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }',
			fragmentShader: fragment(array),
			uniforms: { picture: { value: texture }, part: { value: WEIGHTS.all }, layer: { value: 0 }, grey: { value: GREY.has(texture.format) }, curved: { value: texture.colorSpace === SRGBColorSpace } }
		});
	}

	draw(part: Part, layer: number, width: number, height: number): void {
		if (this.texture === null) return;
		const { uniforms } = this.quad.material as RawShaderMaterial;
		uniforms.part!.value = WEIGHTS[part];
		uniforms.layer!.value = layer;
		this.renderer.setSize(width, height, false);
		this.renderer.render(this.scene, CAMERA);
	}

	close(): void {
		this.texture?.dispose();
		this.files.close();
		this.renderer.dispose();
		this.renderer.forceContextLoss();
	}
}

const CAMERA = new OrthographicCamera();
/** Of one value. */
const GREY = new Set<unknown>([RedFormat, RED_RGTC1_Format]);
