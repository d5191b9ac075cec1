import { DoubleSide, FloatType, GLSL3, Mesh, NearestFilter, OrthographicCamera, Scene, ShaderMaterial, Vector2, Vector4, WebGLRenderTarget, type Box3, type IUniform, type WebGLRenderer } from 'three';
import { PLACED } from './crowds';
import { covering } from './meshes';

/** Texels to a side: of heights, and of what is shaded. */
const SIDE = 512;
const SHADED = 256;
/** Directions that the sky is seen in, and places along each. */
const TURNS = 16;
const PLACES = 12;
/** How far around objects the ground is shaded, of their height and at least, m. */
const AROUND = 1.5;
const LEAST_AROUND = 0.5;
/** Farther than anything stands, m. */
const FAR = 1e7;

/**
 * How much of the sky the ground sees beside and under what stands on it: objects are taken as columns between their undersides and
 * their tops, seen from right above. Computed once, whenever something has moved.
 */
export class Contact {
	readonly uniforms: Record<string, IUniform>;
	private readonly top = heights();
	private readonly under = heights();
	private readonly shade = new WebGLRenderTarget(SHADED, SHADED, { depthBuffer: false });
	/** Sees everything: what lies where on the picture, the shader says. */
	private readonly camera = new OrthographicCamera(-FAR, FAR, FAR, -FAR, -FAR, FAR);
	private readonly height: ShaderMaterial;
	private readonly screen = new Scene();
	private readonly seen: ShaderMaterial;

	constructor(private readonly renderer: WebGLRenderer) {
		this.uniforms = { riltaContact: { value: this.shade.texture }, riltaContactArea: { value: new Vector4() }, riltaContactFloor: { value: FAR } };
		this.height = new ShaderMaterial({
			glslVersion: GLSL3,
			side: DoubleSide,
			uniforms: { area: this.uniforms.riltaContactArea!, ground: this.uniforms.riltaContactFloor!, tall: { value: 1 }, way: { value: 1 } },
			vertexShader: `${PLACED}uniform vec4 area; uniform float ground, tall, way; out float vHeight;
				void main() {
					vec3 at = (modelMatrix * RILTA_PLACED(position)).xyz;
					vHeight = at.y - ground;
					gl_Position = vec4(2.0 * (at.xz - area.xy) * area.zw - 1.0, way * (1.0 - 2.0 * vHeight / tall) * 0.99, 1.0);
				}`,
			fragmentShader: 'in float vHeight; out vec4 colour; void main() { colour = vec4(vHeight, 0.0, 0.0, 1.0); }'
		});
		this.seen = new ShaderMaterial({
			glslVersion: GLSL3,
			uniforms: { top: { value: this.top.texture }, under: { value: this.under.texture }, size: { value: new Vector2() }, reach: { value: 1 } },
			depthTest: false,
			vertexShader: 'out vec2 vAt; void main() { vAt = 0.5 * position.xy + 0.5; gl_Position = vec4(position.xy, 0.0, 1.0); }',
			fragmentShader: `in vec2 vAt; out vec4 colour;
				uniform sampler2D top, under; uniform vec2 size; uniform float reach;
				void main() {
					float open = 0.0;
					// Of the sky seen in each direction, by the cosine: what lies between two heights takes sin² of the one less sin² of the other.
					for (int i = 0; i < ${TURNS}; i++) {
						float turn = (float(i) + 0.5) * ${((2 * Math.PI) / TURNS).toFixed(8)};
						float shut = 0.0;
						for (int k = 1; k <= ${PLACES}; k++) {
							float away = reach * pow(float(k) / ${PLACES}.0, 2.0);
							vec2 at = vAt + away * vec2(cos(turn), sin(turn)) / size;
							vec4 high = texture(top, at), low = texture(under, at);
							if (high.a < 0.5 || any(lessThan(at, vec2(0.0))) || any(greaterThan(at, vec2(1.0)))) continue;
							float a = max(high.r, 0.0), b = max(low.r, 0.0);
							shut = max(shut, a * a / (a * a + away * away) - b * b / (b * b + away * away));
						}
						open += 1.0 - shut;
					}
					colour = vec4(vec3(open / ${TURNS}.0), 1.0);
				}`
		});
		const cover = new Mesh(covering(), this.seen);
		cover.frustumCulled = false;
		this.screen.add(cover);
	}

	/**
	 * Anew, for objects that stand in a box.
	 *
	 * @param scene with nothing visible but them
	 */
	compute(scene: Scene, box: Box3): void {
		const { renderer, uniforms } = this;
		const around = Math.max(LEAST_AROUND, AROUND * (box.max.y - box.min.y));
		const [x0, x1, z0, z1] = [box.min.x - around, box.max.x + around, box.min.z - around, box.max.z + around];
		(uniforms.riltaContactArea!.value as Vector4).set(x0, z0, 1 / (x1 - x0), 1 / (z1 - z0));
		uniforms.riltaContactFloor!.value = box.min.y;
		(this.seen.uniforms.size!.value as Vector2).set(x1 - x0, z1 - z0);
		this.seen.uniforms.reach!.value = around;
		this.height.uniforms.tall!.value = Math.max(1e-3, box.max.y - box.min.y);
		const before = { target: renderer.getRenderTarget(), background: scene.background, alpha: renderer.getClearAlpha() };
		scene.background = null;
		scene.overrideMaterial = this.height;
		renderer.setClearAlpha(0);
		for (const [target, way] of [[this.top, 1], [this.under, -1]] as const) {
			this.height.uniforms.way!.value = way;
			renderer.setRenderTarget(target);
			renderer.clear();
			renderer.render(scene, this.camera);
		}
		scene.overrideMaterial = null;
		renderer.setRenderTarget(this.shade);
		renderer.render(this.screen, this.camera);
		renderer.setRenderTarget(before.target);
		renderer.setClearAlpha(before.alpha);
		scene.background = before.background;
	}

	dispose(): void {
		for (const one of [this.top, this.under, this.shade, this.height, this.seen]) one.dispose();
	}
}

function heights(): WebGLRenderTarget {
	return new WebGLRenderTarget(SIDE, SIDE, { type: FloatType, minFilter: NearestFilter, magFilter: NearestFilter });
}
