import { Color, MeshBasicMaterial, MeshLambertMaterial, SRGBColorSpace, ShaderMaterial, Vector3, type Camera, type IUniform, type Material, type Mesh } from 'three';
import type { Plan } from '../state/multipass';
import type { StageObjects } from './objects';
import { setFrame, type Program } from './program';
import type { Rows } from './rows';

/** What is drawn pass by pass, in place of the program, until the code of another is there. */
export type Passes = { plan: Plan; end: Program };
/** What a document is drawn with: its code, and its numbers by uniform. */
export type Side = { program: Program; numbers: Record<string, number> };
type Numbers = Record<string, number>;
type Two = { none: Color; all: Color };

/** Where the world begins. */
const HERE = new Vector3();
/** Metres that the eye may be from where places are counted from. */
const FAR = 250;

/** What everything on the stage is drawn with: programs, the picture of them that is looked at, and the numbers that are an object's own. */
export class Wardrobe {
	program: Program | null = null;
	passes: Passes | null = null;
	/** Programs of pieces that wear what needs other code or other maps, by their keys. */
	private readonly worn = new Map<string, Program>();
	/** Pieces of which what they wear is not there yet. */
	private waiting: ReadonlySet<string> = new Set();
	/** Pieces that wear another material than the open one. */
	private strange: ReadonlySet<string> = new Set();
	/** What is in front of others, and not seen itself. */
	private readonly absent = new MeshBasicMaterial({ colorWrite: false });
	private readonly bare = new MeshLambertMaterial({ color: 0x8d8a84, emissive: 0x55534f });
	/** What all that wears the open material is drawn with for a moment, in its place. */
	private instead: { side: Side; owns: (wears: number | null) => boolean } | null = null;
	private picture = '';
	private two: Two | null = null;
	/** Where places are counted from, in whole metres. */
	private readonly origin = new Vector3();

	/** @param shadows what throws them has changed */
	constructor(private readonly objects: StageObjects, private readonly shadows: () => void) {}

	/** Whether the lit material is shown, and no picture. */
	get lit(): boolean {
		return this.picture === '';
	}

	/** Whether anything is bare as long as its program is on its way. */
	get waits(): boolean {
		return this.waiting.size > 0;
	}

	/** Whether the picture is one of large even parts, on which a little shade tells what is near and far. */
	get shaped(): boolean {
		return this.program?.lowered.views.some((one) => one.name === this.picture && one.form) === true;
	}

	/** All programs that objects are drawn with, but for those that draw pass by pass. */
	programs(): Set<Program> {
		return new Set([...(this.program === null ? [] : [this.program]), ...this.worn.values(), ...(this.instead === null ? [] : [this.instead.side.program])]);
	}

	/** Shows a picture of the program instead of the lit material, by name; "" for lit. In two colours (sRGB, 0…1), if any are given. */
	view(picture: string, two: { none: number[]; all: number[] } | null): void {
		this.picture = picture;
		const colour = ([r = 0, g = 0, b = 0]: number[]): Color => new Color().setRGB(r, g, b, SRGBColorSpace);
		this.two = two === null ? null : { none: colour(two.none), all: colour(two.all) };
		this.assign();
	}

	/** Gives everything the numbers of what it wears, and a program where numbers alone do not do. What waits for its program is bare until then. */
	dress(worn: (material: number | null, variant: string) => { program: Program | null; numbers: Record<string, number>; waits?: boolean; strange?: boolean }): void {
		this.objects.sort((material, variant) => {
			const { program, waits = false } = worn(material, variant);
			if (waits) return `waits in ${variant}`;
			// What one sees through is drawn from the farthest to the nearest, which three does object by object.
			return (program ?? this.program)?.lowered.surface.kind === 'translucent' ? null : (program?.lowered.hash ?? '');
		});
		let others = false;
		// Anew each time: what has been taken off the stage waits for nothing.
		const [waiting, strangers] = [new Set<string>(), new Set<string>()];
		for (const { key, mesh } of this.objects.pieces()) {
			const { program, numbers, waits = false, strange = false } = worn(mesh.userData.wears as number | null, String(mesh.userData.variant));
			mesh.userData.worn = numbers;
			mesh.userData.all = (mesh.userData.variants as string[] | undefined)?.map((variant) => worn(mesh.userData.wears as number | null, variant).numbers);
			others ||= waits !== this.waiting.has(key);
			if (waits) waiting.add(key);
			if (strange) strangers.add(key);
			// What came in pieces just now has no material yet.
			others ||= (this.worn.get(key) ?? null) !== program || (!waits && !(mesh.material instanceof ShaderMaterial));
			if (program === null) this.worn.delete(key);
			else this.worn.set(key, program);
		}
		[this.waiting, this.strange] = [waiting, strangers];
		if (others) this.assign();
	}

	/** Has every object drawn with what it wears. */
	assign(): void {
		if (this.program === null) return;
		this.show(this.picture, this.two);
		for (const { key, mesh } of this.objects.pieces()) {
			const shadow = this.of(key, mesh)!.shadowFor(key) ?? undefined;
			// Closed surfaces throw the same shadow whatever they are made of.
			if (shadow !== mesh.customDepthMaterial) this.shadows();
			if (shadow === undefined) delete mesh.customDepthMaterial;
			else mesh.customDepthMaterial = shadow;
		}
	}

	/**
	 * Has what wears the open material drawn for a while with a picture of its program, and with holes where it is cut; what wears another
	 * is in front of it, and counts for nothing, though it may have a picture of that name too. What was shown comes back.
	 */
	apart(picture: string, draw: () => void): void {
		const { passes } = this;
		this.passes = null;
		this.show(picture, null);
		for (const { key, mesh } of this.objects.pieces()) if (this.strange.has(key)) mesh.material = this.absent;
		// What has no such picture does not count.
		const without = [...this.objects.pieces()].filter(({ key, mesh }) => mesh.visible && !this.strange.has(key) && (this.waiting.has(key) || !hasPicture(this.of(key, mesh)!, picture))).map(({ mesh }) => mesh);
		for (const mesh of without) mesh.visible = false;
		for (const program of this.programs()) program.uniforms.riltaCut!.value = 1;
		draw();
		for (const mesh of without) mesh.visible = true;
		for (const program of this.programs()) program.uniforms.riltaCut!.value = 0;
		this.passes = passes;
		this.show(this.picture, this.two);
	}

	/**
	 * Draws with something else in place of the open material.
	 *
	 * @param side what; null for the open material as it is
	 * @param owns whether what wears a material wears the open one
	 */
	as(side: Side | null, owns: (wears: number | null) => boolean, draw: () => void): void {
		if (side === null) return draw();
		const { passes } = this;
		this.passes = null;
		this.instead = { side, owns };
		this.show(this.picture, this.two);
		draw();
		this.instead = null;
		this.passes = passes;
		this.show(this.picture, this.two);
	}

	/** Gives a material what is an object's own. */
	frameOf(material: Material, mesh: Mesh, camera: Camera): void {
		const uniforms = material instanceof ShaderMaterial ? material.uniforms : (material.userData.uniforms as Record<string, IUniform> | undefined);
		if (uniforms?.riltaObject === undefined) return;
		const program = this.passes === null ? this.of(String(mesh.userData.key), mesh) : this.passes.end;
		setFrame(uniforms, mesh, camera, this.originOf(program));
		const numbers = this.replaced(mesh)?.numbers;
		const { worn = {}, all = [worn], rows } = mesh.userData as { worn?: Numbers; all?: Numbers[]; rows?: Rows };
		if (rows === undefined) program?.dress(numbers ?? worn);
		else uniforms.riltaRows!.value = program?.dressAll(rows, numbers === undefined ? all : all.map(() => numbers)) ?? null;
		(material as ShaderMaterial).uniformsNeedUpdate = true;
	}

	/** Has places counted from near the eye, before something is drawn. */
	rebase(eye: Vector3): void {
		if (eye.distanceTo(this.origin) > FAR) this.origin.copy(eye).round();
		for (const program of this.programs()) program.rebase(this.originOf(program));
	}

	/** Where a program's places are counted from. */
	originOf(program: Program | null): Vector3 {
		return program?.lowered.far === true ? this.origin : HERE;
	}

	dispose(): void {
		this.absent.dispose();
		this.bare.dispose();
	}

	private of(key: string, mesh: Mesh): Program | null {
		return this.replaced(mesh)?.program ?? this.worn.get(key) ?? this.program;
	}

	private replaced(mesh: Mesh): Side | null {
		return this.instead?.owns(mesh.userData.wears as number | null) === true ? this.instead.side : null;
	}

	/** Has all objects drawn with a picture, or lit if it is "" or none of their program's. */
	private show(picture: string, two: Two | null): void {
		for (const program of this.programs()) {
			const index = program.lowered.views.findIndex((one) => one.name === picture);
			if (index >= 0) program.uniforms.riltaView!.value = index;
			program.uniforms.riltaTwo!.value = two === null ? 0 : 1;
			if (two !== null) [program.uniforms.riltaNone!.value, program.uniforms.riltaAll!.value] = [two.none, two.all];
		}
		for (const { key, mesh } of this.objects.pieces()) {
			const program = this.of(key, mesh)!;
			if (this.waiting.has(key) && this.replaced(mesh) === null) mesh.material = this.bare;
			else if (this.passes !== null) mesh.material = this.passes.end.litFor(key);
			else mesh.material = hasPicture(program, picture) ? program.pictures : program.litFor(key);
		}
	}
}

const hasPicture = (program: Program, picture: string): boolean => program.lowered.views.some((one) => one.name === picture);
