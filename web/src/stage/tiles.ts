import { Color, Mesh, OrthographicCamera, Scene, Vector3 } from 'three';
import { setFrame, type Program } from './program';
import { drawInto } from './readback';
import type { StageScene } from './scene';

const HERE = new Vector3();

/** Draws small pictures of stations, from the same code that draws the stage. */
export class TilePainter {
	private readonly scene = new Scene();
	private readonly camera = new OrthographicCamera(-1, 1, 1, -1, 0.1, 20);
	private readonly body: Promise<Mesh>;

	constructor(private readonly stage: StageScene) {
		this.camera.position.set(2.6, 2.1, 3.4);
		this.camera.lookAt(new Vector3(0, 0.5, 0));
		this.body = stage.geometry('sphere').then((geometry) => {
			const mesh = new Mesh(geometry);
			mesh.scale.setScalar(1.6);
			mesh.position.set(0, -0.3, 0);
			mesh.updateMatrixWorld();
			this.scene.add(mesh);
			return mesh;
		});
	}

	/** Milliseconds to leave the stage to itself before tiles are painted. */
	get patience(): number {
		return this.stage.slow || this.stage.frames === 0 ? 360 : 0;
	}

	/** How much of what is seen on the stage each layer is and each mask covers, 0…1, by the layer's place and by the name of the mask's view. */
	shares(program: Program): Record<string, number> {
		const { shares, views } = program.lowered;
		const found: Record<string, number> = {};
		for (let at = 0; at < shares.length; at += 3) {
			const mean = this.stage.pictures.mean(`shares:${at}`, false);
			shares.slice(at, at + 3).forEach((path, i) => (found[path] = mean[i]!));
		}
		for (const { name } of views) if (name.startsWith('mask:')) found[name] = this.stage.pictures.mean(name, true)[0];
		return found;
	}

	/** Paints a picture of the program into a canvas of its own size. */
	async paint(program: Program, picture: number, canvas: HTMLCanvasElement, background: string): Promise<void> {
		const body = await this.body;
		const { width, height } = canvas;
		const renderer = this.stage.renderer;
		const half = 0.8;
		[this.camera.left, this.camera.right, this.camera.top, this.camera.bottom] = [-half * (width / height), half * (width / height), half, -half];
		this.camera.updateProjectionMatrix();
		this.scene.background = new Color(background);
		body.material = program.pictures;
		const before = [program.uniforms.riltaView!.value, program.uniforms.riltaForm!.value, program.uniforms.riltaTwo!.value] as const;
		program.uniforms.riltaTwo!.value = 0;
		program.uniforms.riltaView!.value = picture;
		program.uniforms.riltaForm!.value = 1;
		program.undress();
		// It lies where the world begins, wherever the stage is seen from.
		program.rebase(HERE);
		setFrame(program.pictures.uniforms, body, this.camera, HERE);
		program.pictures.uniformsNeedUpdate = true;
		drawInto(canvas, renderer, () => renderer.render(this.scene, this.camera));
		program.rebase(this.stage.originOf(program));
		[program.uniforms.riltaView!.value, program.uniforms.riltaForm!.value, program.uniforms.riltaTwo!.value] = before;
	}
}
