import { Color, GLSL3, Mesh, PerspectiveCamera, SRGBColorSpace, Scene, ShaderMaterial, Sphere, Vector3, WebGLRenderTarget, type BufferGeometry } from 'three';
import { light } from './light';
import { drawInto } from './readback';
import type { StageScene } from './scene';

/** Degrees seen from top to bottom. */
const FIELD = 30;
/** Where they are seen from: from the right, a little from above. */
const FROM = new Vector3(0.62, 0.5, 1).normalize();

/** Draws small pictures of meshes in plain grey, in the light that the stage has by itself. */
export class Portraits {
	private readonly scene = new Scene();
	private readonly camera = new PerspectiveCamera(FIELD, 1, 0.05, 600);
	private readonly material = new ShaderMaterial({
		glslVersion: GLSL3,
		vertexShader: 'out vec3 vNormal, vAt; void main() { vNormal = normal; vAt = position; gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }',
		fragmentShader: `in vec3 vNormal, vAt; out vec4 colour;
			${light.fixed}
			void main() {
				vec3 n = normalize(gl_FrontFacing ? vNormal : -vNormal);
				vec3 seen = riltaLit(vec3(0.4), n, 0.7, 0.0, 1.0, vec3(0.0), normalize(cameraPosition - vAt), normalize(vec3(-0.5, 0.7, 0.6)), 1.0);
				colour = linearToOutputTexel(vec4(riltaToned(seen), 1.0));
			}`
	});

	private readonly mesh = new Mesh<BufferGeometry, ShaderMaterial>(undefined, this.material);

	constructor(private readonly stage: StageScene) {
		this.scene.add(this.mesh);
	}

	/** Draws a mesh, by its name, into a canvas of its own size. */
	async paint(name: string, canvas: HTMLCanvasElement, background: string): Promise<void> {
		this.frame(await this.stage.geometry(name), canvas.width / canvas.height);
		this.scene.background = new Color(background);
		drawInto(canvas, this.stage.renderer, () => this.stage.renderer.render(this.scene, this.camera), new WebGLRenderTarget(1, 1, { colorSpace: SRGBColorSpace, samples: 4 }));
	}

	dispose(): void {
		this.material.dispose();
	}

	/** Has a mesh fill the picture, and nothing else be in it. */
	private frame(geometry: BufferGeometry, aspect: number): void {
		this.mesh.geometry = geometry;
		if (geometry.boundingSphere === null) geometry.computeBoundingSphere();
		const { center, radius } = geometry.boundingSphere ?? new Sphere(new Vector3(), 1);
		this.camera.aspect = aspect;
		this.camera.position.copy(center).addScaledVector(FROM, (1.02 * radius) / Math.sin((FIELD * Math.PI) / 360));
		this.camera.lookAt(center);
		this.camera.updateProjectionMatrix();
	}
}
