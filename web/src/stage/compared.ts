import { Camera, FloatType, Mesh, NearestFilter, ShaderMaterial, WebGLRenderTarget, type WebGLRenderer } from 'three';
import { catalogue } from '../state/catalogue.svelte';
import { summed, type Difference, type Way } from '../state/comparing';
import type { Eye } from './eye';
import { screen } from './frames';
import { covering } from './meshes';
import type { Side } from './wardrobe';

/** Two things on one stage, before one eye and in one light. */
export type TwoSides = {
	/** Null for the open material as it is. */
	left: Side | null;
	right: Side | null;
	/** Whether what wears a material wears what is compared. */
	owns: (wears: number | null) => boolean;
	way: Way;
	/** Where the divider stands, 0…1. */
	at: number;
	/** Whether the right one is shown of two that take turns. */
	second: boolean;
};
type Draw = (side: 'left' | 'right') => void;

/** Differences from which on a picture of them is as bright as it gets. */
const BRIGHTEST = 10;

/** Draws and measures two pictures beside each other. */
export class Compared {
	private readonly left = screen();
	private readonly right = screen();
	private readonly flat = new Camera();
	private readonly over: Mesh<ReturnType<typeof covering>, ShaderMaterial>;

	constructor(private readonly renderer: WebGLRenderer) {
		const uniforms = { one: { value: this.left.texture }, other: { value: this.right.texture }, shown: { value: true } };
		this.over = new Mesh(covering(), new ShaderMaterial({
			uniforms,
			depthTest: false,
			depthWrite: false,
			vertexShader: 'varying vec2 at; void main() { at = 0.5 * position.xy + 0.5; gl_Position = vec4(position.xy, 0.0, 1.0); }',
			fragmentShader: `uniform sampler2D one; uniform sampler2D other; uniform bool shown; varying vec2 at;
${catalogue.value?.difference.code ?? ''}
void main() {
	vec4 a = texture2D(one, at), b = texture2D(other, at);
	float d = colourDifference(clamp(a.rgb, 0.0, 1.0), clamp(b.rgb, 0.0, 1.0));
	float t = clamp(d / ${BRIGHTEST.toFixed(1)}, 0.0, 1.0);
	gl_FragColor = shown ? vec4(mix(vec3(dot(a.rgb, vec3(0.2, 0.7, 0.1)) * 0.35), mix(vec3(0.10, 0.45, 0.42), vec3(1.0, 0.86, 0.42), t), smoothstep(0.02, 0.15, t)), 1.0) : vec4(d, 0.0, 0.0, min(a.a, b.a));
}`
		}));
		this.over.frustumCulled = false;
	}

	draw({ way, at, second }: TwoSides, target: WebGLRenderTarget, eye: Eye, draw: Draw): void {
		const { renderer } = this;
		const { width, height } = target;
		if (way === 'blink') return draw(second ? 'right' : 'left');
		if (way === 'difference') {
			for (const side of ['left', 'right'] as const) {
				this[side].setSize(width, height);
				renderer.setRenderTarget(this[side]);
				draw(side);
			}
			this.over.material.uniforms.shown!.value = true;
			renderer.setRenderTarget(target);
			renderer.render(this.over, this.flat);
			return;
		}
		const middle = Math.round(width * (way === 'beside' ? 0.5 : at));
		const { aspect } = eye.camera;
		if (way === 'beside') eye.shape(aspect / 2);
		target.scissorTest = true;
		for (const [side, from, to] of [['left', 0, middle], ['right', middle, width]] as const) {
			if (to <= from) continue;
			target.scissor.set(from, 0, to - from, height);
			if (way === 'beside') target.viewport.set(from, 0, to - from, height);
			renderer.setRenderTarget(target);
			draw(side);
		}
		target.scissorTest = false;
		target.viewport.set(0, 0, width, height);
		if (way === 'beside') eye.shape(aspect);
		renderer.setRenderTarget(target);
	}

	/** How different two pictures of so many pixels look, where something is seen in both; null if nothing is. */
	measure([width, height]: [number, number], draw: Draw): Difference | null {
		const { renderer } = this;
		for (const side of ['left', 'right'] as const) {
			this[side].setSize(width, height);
			renderer.setRenderTarget(this[side]);
			draw(side);
		}
		const target = new WebGLRenderTarget(width, height, { type: FloatType, minFilter: NearestFilter, magFilter: NearestFilter });
		this.over.material.uniforms.shown!.value = false;
		renderer.setRenderTarget(target);
		renderer.render(this.over, this.flat);
		const pixels = new Float32Array(width * height * 4);
		renderer.readRenderTargetPixels(target, 0, 0, width, height, pixels);
		renderer.setRenderTarget(null);
		target.dispose();
		return summed(pixels, catalogue.value?.difference.seen ?? 0);
	}

	dispose(): void {
		for (const one of [this.left, this.right, this.over.geometry, this.over.material]) one.dispose();
	}
}
