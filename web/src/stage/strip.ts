import { BufferGeometry, Float32BufferAttribute, Group, Matrix4, Mesh, PerspectiveCamera, Vector3, type ShaderMaterial } from 'three';
import type { Repetition } from '../api/client';
import { FARTHEST, NEAREST } from '../state/repetition';
import { setFrame, type Program } from './program';
import type { StageScene } from './scene';

/** Degrees that a pixel of the strip is wide, as the eye sees it. */
const PIXEL = 0.06;
/** Each is seen from a place of its own, right before its middle. */
const BANDS = 24;
const COLUMNS = 8;
const HERE = new Vector3();

/**
 * Draws a surface from near to far, side by side: each column of the picture as it is seen from the distance that belongs to it. Such
 * columns lie beside one another on the surface as well: where a pixel is so many times larger, the place is so many times as far to the right.
 */
export class StripPainter {
	private readonly camera = new PerspectiveCamera();
	private readonly group = new Group();
	private bands: Mesh<BufferGeometry, ShaderMaterial>[] = [];
	private width = 0;

	constructor(private readonly stage: StageScene) {}

	/** Draws into a canvas of its own size. */
	paint(program: Program, plane: Repetition['plane'], canvas: HTMLCanvasElement): void {
		const metres = Math.tan((PIXEL * Math.PI) / 180);
		const ratio = Math.log(FARTHEST / NEAREST);
		/** Metres to the right, by metres away. */
		const share = (metres * canvas.width) / ratio;
		if (this.width !== canvas.width) {
			this.width = canvas.width;
			this.lay(share, (metres * canvas.height) / 2);
		}
		const [right, down, normal] = [plane.right, plane.down, plane.normal].map((one) => new Vector3().fromArray(one)) as [Vector3, Vector3, Vector3];
		this.group.matrixAutoUpdate = false;
		this.group.matrix.copy(new Matrix4().makeBasis(right, down.negate(), normal));
		this.group.updateMatrixWorld(true);
		program.undress();
		program.rebase(HERE);
		for (const [i, band] of this.bands.entries()) {
			const away = NEAREST * Math.exp((ratio * (i + 0.5)) / BANDS);
			this.camera.position.copy(right).multiplyScalar(share * away).addScaledVector(normal, away);
			this.camera.updateMatrixWorld();
			band.material = program.litFor(`strip ${i}`);
			const { uniforms } = band.material;
			setFrame(uniforms, band, this.camera, HERE);
			(uniforms.riltaStrip!.value as Vector3).set(share * NEAREST, ratio, (metres * canvas.height) / 2 / share);
			band.material.uniformsNeedUpdate = true;
		}
		this.stage.pictures.beside(this.group, canvas, this.camera);
		program.rebase(this.stage.originOf(program));
	}

	dispose(): void {
		for (const band of this.bands) band.geometry.dispose();
	}

	/** @param half metres up and down, by metres away */
	private lay(share: number, half: number): void {
		this.dispose();
		this.group.clear();
		this.bands = Array.from({ length: BANDS }, (_, i) => {
			const mesh = new Mesh<BufferGeometry, ShaderMaterial>(bandFrom(i, share, half));
			mesh.frustumCulled = false;
			this.group.add(mesh);
			return mesh;
		});
	}
}

/** A part of the strip, in metres: to the right, upwards and towards the eye. */
function bandFrom(i: number, share: number, half: number): BufferGeometry {
	const geometry = new BufferGeometry();
	const positions: number[] = [];
	for (let column = 0; column <= COLUMNS; column++) {
		const away = NEAREST * Math.exp((Math.log(FARTHEST / NEAREST) * (i + column / COLUMNS)) / BANDS);
		for (const side of [-1, 1]) positions.push(share * away, side * half * away, 0);
	}
	const many = (one: number[]): number[] => Array.from({ length: positions.length / 3 }, () => one).flat();
	geometry.setAttribute('position', new Float32BufferAttribute(positions, 3));
	geometry.setAttribute('normal', new Float32BufferAttribute(many([0, 0, 1]), 3));
	for (let set = 0; set < 4; set++) {
		// The coordinates of its meshes are metres, and count downwards.
		geometry.setAttribute(`rilta_TEXCOORD_${set}`, new Float32BufferAttribute(positions.flatMap((one, n) => (n % 3 === 0 ? [one] : n % 3 === 1 ? [-one] : [])), 2));
		geometry.setAttribute(`rilta_TEXCOORD_${set}_U`, new Float32BufferAttribute(many([1, 0, 0]), 3));
		geometry.setAttribute(`rilta_TEXCOORD_${set}_V`, new Float32BufferAttribute(many([0, -1, 0]), 3));
	}
	geometry.setAttribute('rilta_SECTION', new Float32BufferAttribute(many([0]), 1));
	geometry.setIndex(Array.from({ length: COLUMNS }, (_, column) => [0, 2, 1, 1, 2, 3].map((one) => one + 2 * column)).flat());
	return geometry;
}
