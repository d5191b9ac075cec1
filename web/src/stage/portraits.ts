import { Color, GLSL3, Mesh, PerspectiveCamera, Scene, ShaderMaterial, Sphere, SRGBColorSpace, Vector3, WebGLRenderTarget, type BufferGeometry } from 'three';
import { light } from './light';
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

	constructor(private readonly stage: StageScene) {}

	/** Draws a mesh, by its name, into a canvas of its own size. */
	async paint(name: string, canvas: HTMLCanvasElement, background: string): Promise<void> {
		const geometry = await this.stage.geometry(name);
		const { width, height } = canvas;
		const pixels = this.draw(geometry, width, height, background);
		const image = new ImageData(width, height);
		for (let y = 0; y < height; y++) image.data.set(pixels.subarray((height - 1 - y) * width * 4, (height - y) * width * 4), y * width * 4);
		canvas.getContext('2d')?.putImageData(image, 0, 0);
	}

	dispose(): void {
		this.material.dispose();
	}

	private draw(geometry: BufferGeometry, width: number, height: number, background: string): Uint8Array {
		const { renderer } = this.stage;
		const mesh = new Mesh(geometry, this.material);
		if (geometry.boundingSphere === null) geometry.computeBoundingSphere();
		const { center, radius } = geometry.boundingSphere ?? new Sphere(new Vector3(), 1);
		this.camera.aspect = width / height;
		this.camera.position.copy(center).addScaledVector(FROM, (1.02 * radius) / Math.sin((FIELD * Math.PI) / 360));
		this.camera.lookAt(center);
		this.camera.updateProjectionMatrix();
		this.scene.background = new Color(background);
		this.scene.add(mesh);
		const target = new WebGLRenderTarget(width, height, { colorSpace: SRGBColorSpace, samples: 4 });
		const pixels = new Uint8Array(width * height * 4);
		renderer.setRenderTarget(target);
		renderer.render(this.scene, this.camera);
		renderer.readRenderTargetPixels(target, 0, 0, width, height, pixels);
		renderer.setRenderTarget(null);
		target.dispose();
		this.scene.remove(mesh);
		return pixels;
	}
}
