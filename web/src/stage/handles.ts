import { AxesHelper, Group, MathUtils, Object3D, type Camera, type Material, type Mesh, type Scene } from 'three';
import type { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { TransformControls } from 'three/addons/controls/TransformControls.js';
import type { StageObject, Triple } from '../api/client';
import type { Frame } from '../state/handles';

export type Tool = 'probe' | 'move' | 'turn' | 'scale';
/** What the pointer can do on the stage. */
export const TOOLS: { value: Tool; label: string; help: string }[] = [
	{ value: 'probe', label: 'Probe', help: 'Click a point to read its trail' },
	{ value: 'move', label: 'Move', help: 'Click an object, then drag its arrows' },
	{ value: 'turn', label: 'Turn', help: 'Click an object, then drag its rings' },
	{ value: 'scale', label: 'Scale', help: 'Click an object, then drag its handles' }
];

/** What is taken hold of on the stage: an object, or the frame of a projection. */
export class Handles {
	private readonly gizmo: TransformControls;
	/** The frame of a projection, in the world's or an object's. */
	private readonly base = new Group();
	private readonly axes = new AxesHelper(0.6);
	/** The smallest and the largest factor that an object may be scaled by. */
	scales: [number, number] = [1, 1];
	/** A frame, or an object, is taken hold of, is being dragged, and is let go. */
	onGrasp: (what: 'frame' | 'object') => void = () => {};
	onFrame: (frame: Pick<Frame, 'place' | 'turn'>) => void = () => {};
	onObject: (id: string, change: Pick<StageObject, 'position' | 'turn' | 'scale'>) => void = () => {};
	onLet: (what: 'frame' | 'object') => void = () => {};

	/**
	 * @param redraw what is seen of them has changed
	 * @param moved  an object stands elsewhere
	 */
	constructor(scene: Scene, camera: Camera, canvas: HTMLCanvasElement, orbit: OrbitControls, redraw: () => void, private readonly moved: () => void) {
		this.gizmo = new TransformControls(camera, canvas);
		this.gizmo.setSize(0.8);
		this.gizmo.addEventListener('dragging-changed', (event) => {
			orbit.enabled = event.value !== true;
			(event.value === true ? this.onGrasp : this.onLet)(this.gizmo.object === this.axes ? 'frame' : 'object');
		});
		this.gizmo.addEventListener('objectChange', () => this.report());
		this.gizmo.addEventListener('change', redraw);
		scene.add(this.gizmo.getHelper());
		this.axes.renderOrder = 1;
		(this.axes.material as Material).depthTest = false;
		this.base.add(this.axes);
		scene.add(this.base);
	}

	/**
	 * Puts handles on the selected object or on the frame of a projection. Frames show their axes with every tool.
	 *
	 * @param anchor what an object's projection is shown at
	 */
	grasp(selected: Mesh | undefined, frame: Frame | null, anchor: Mesh | undefined, tool: Tool): void {
		const mesh = tool === 'probe' ? undefined : selected;
		this.axes.visible = frame !== null;
		if (frame !== null && !this.gizmo.dragging) {
			if (frame.space === 'object' && anchor !== undefined) {
				this.base.position.copy(anchor.position);
				this.base.quaternion.copy(anchor.quaternion);
			} else {
				this.base.position.set(0, 0, 0);
				this.base.quaternion.identity();
			}
			this.axes.position.fromArray(frame.place);
			this.axes.rotation.fromArray(frame.turn.map(MathUtils.degToRad) as Triple);
			this.base.updateMatrixWorld(true);
		}
		const held = mesh ?? (frame !== null && (tool === 'move' || tool === 'turn') ? this.axes : undefined);
		if (held === undefined) {
			this.gizmo.detach();
			return;
		}
		this.gizmo.setMode(tool === 'turn' ? 'rotate' : tool === 'scale' ? 'scale' : 'translate');
		this.gizmo.setSpace(tool === 'scale' || held === this.axes ? 'local' : 'world');
		this.gizmo.attach(held);
	}

	/** Has what is dragged stop at whole steps: metres and degrees, 0 for none. */
	snap(metres: number, degrees: number): void {
		this.gizmo.setTranslationSnap(metres === 0 ? null : metres);
		this.gizmo.setRotationSnap(degrees === 0 ? null : MathUtils.degToRad(degrees));
	}

	/** Lets go of what leaves the stage. */
	release(mesh: Mesh): void {
		if (this.gizmo.object === mesh) this.gizmo.detach();
	}

	dispose(): void {
		this.gizmo.detach();
		this.gizmo.dispose();
		this.axes.dispose();
	}

	private report(): void {
		const held = this.gizmo.object;
		if (!(held instanceof Object3D)) return;
		const degrees = (r: number): number => Math.round(MathUtils.radToDeg(r) * 1000) / 1000;
		const metres = (m: number): number => Math.round(m * 10000) / 10000;
		const position = held.position.toArray().map(metres) as Triple;
		const turn: Triple = [degrees(held.rotation.x), degrees(held.rotation.y), degrees(held.rotation.z)];
		if (held === this.axes) {
			this.onFrame({ place: position, turn });
			return;
		}
		held.scale.clampScalar(...this.scales);
		this.moved();
		this.onObject(String(held.userData.id), { position, turn, scale: held.scale.toArray().map(metres) as Triple });
	}
}
