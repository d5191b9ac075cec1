import { DoubleSide, FrontSide, GLSL3, NearestFilter, RGBAIntegerFormat, ShaderMaterial, UnsignedIntType, WebGLRenderTarget, type IUniform, type WebGLRenderer } from 'three';
import { PLACED, toldOfMany } from './crowds';
import type { StepPass, MultipassPlan, StepUse } from '../api/client';
import { link } from '../maps/lens';
import type { Plan } from '../state/multipass';
import { prepared } from './prelude';
import { frameUniforms, numberAt } from './program';

/** The fields of all taps may have so many pixels between them. */
const MOST_PIXELS = 500_000;
/** Pixels to a side of what code is tried out on. */
const SMALL = 8;

type Render = (material: ShaderMaterial) => void;
type StepPassProgram = {
	program: WebGLProgram;
	at: (name: string) => WebGLUniformLocation | null;
	/** Fills a uniform of the program in use by the type that it has there; others are let go. */
	set: (name: string, value: number) => void;
};

/**
 * Draws a material pass by pass: each step is a program of its own that reads what the one before has left of every tap and leaves its
 * own, in integer textures; two sets of them take turns. No order of steps needs any code but that of the steps themselves.
 */
export class MultipassRunner {
	private readonly gl: WebGL2RenderingContext;
	private sets: [WebGLRenderTarget, WebGLRenderTarget] | null = null;
	/** What three has made for the sets: their textures, and the depth of the first. */
	private readonly attached: WebGLTexture[][] = [];
	private depth: WebGLRenderbuffer | null = null;
	/** Framebuffers of some carriers each, by what is in them. */
	private frames = new Map<string, WebGLFramebuffer>();
	private readonly linked = new Map<string, StepPassProgram>();
	private readonly starts = new Map<string, ShaderMaterial>();
	private readonly nothing: WebGLVertexArrayObject | null;
	private culling: WebGLProgram | null = null;
	/** Whether the stage has been left. */
	over = false;

	constructor(private readonly renderer: WebGLRenderer) {
		this.gl = renderer.getContext() as WebGL2RenderingContext;
		this.nothing = this.gl.createVertexArray();
	}

	/** Whether the device can write as many textures at once as a tap takes. */
	can(multipass: MultipassPlan): boolean {
		return (this.gl.getParameter(this.gl.MAX_DRAW_BUFFERS) as number) > multipass.carriers;
	}

	/** The share of the resolution that the fields of all taps have room for. */
	room(plan: Plan, width: number, height: number): number {
		const taps = this.tapsOf(plan);
		return Math.min(1, Math.sqrt(MOST_PIXELS / (width * height * taps)), (this.gl.getParameter(this.gl.MAX_TEXTURE_SIZE) as number) / (width * taps));
	}

	/** How many taps all lanes end with between them; one at least. */
	tapsOf(plan: Plan): number {
		return Math.max(1, this.taps(plan).reduce((sum, n) => sum + n, 0));
	}

	/** What the end of a multipass plan reads the taps from, by uniform. */
	uniforms(multipass: MultipassPlan): Record<string, IUniform> {
		return {
			riltaWidth: { value: 1 },
			...Object.fromEntries(multipass.lanes.filter((lane) => lane.read).map((_, i) => [`riltaLane${i}`, { value: [0, 0] }])),
			...Object.fromEntries(Array.from({ length: multipass.carriers }, (_, c) => [`riltaCarried${c}`, { value: null }]))
		};
	}

	/**
	 * Has the passes compiled, one after another, so that the picture is not held up for long. Answers when all are.
	 *
	 * @param render draws all objects with a material, into what is set
	 */
	async prepare(multipass: MultipassPlan, pause: () => Promise<void>, render: Render): Promise<void> {
		for (const stepPass of Object.values(multipass.passes)) {
			if (this.linked.has(stepPass.code) || this.starts.has(startKey(stepPass, multipass.end.surface.twoSided))) continue;
			const made = stepPass.origin ? null : await this.linkPass(stepPass.code);
			if (this.over) return;
			// Drivers finish code only when something is drawn with it.
			const [first] = this.fit(multipass, SMALL, SMALL);
			if (made === null) {
				const start = this.start(stepPass, multipass.end.surface.twoSided);
				for (const { uniform, value } of [...stepPass.numbers, ...stepPass.shared]) start.uniforms[uniform] = { value };
				for (const uniform of [multipass.end.clock.uniform, ...Object.keys(stepPass.prelude.results)]) start.uniforms[uniform] = { value: 0 };
				first.viewport.set(0, 0, 1, 1);
				this.renderer.setRenderTarget(first);
				render(start);
			} else {
				this.pass(multipass, stepPass, made, Array.from({ length: multipass.carriers }, () => 0), { part: 0, from: 0, fields: [0, SMALL, 1], area: [0, 0, 1, 1] });
				this.linked.set(stepPass.code, made);
			}
			this.after();
			await pause();
		}
	}

	/** Whether all passes of a plan are compiled. */
	ready(plan: Plan): boolean {
		return plan.lanes.every((lane) => lane.every(({ stepPass }) => (stepPass.origin ? this.starts.has(startKey(stepPass, plan.multipass.end.surface.twoSided)) : this.linked.has(stepPass.code))));
	}

	/**
	 * Runs all passes over a picture of so many pixels.
	 *
	 * @param render draws all objects with a material, into what is set
	 * @returns what the end reads, by uniform
	 */
	run(plan: Plan, width: number, height: number, ticks: number, render: Render): Record<string, unknown> {
		const { multipass } = plan;
		const counts = this.taps(plan);
		const all = counts.reduce((sum, n) => sum + n, 0);
		const [first] = this.fit(multipass, width * all, height);
		const { gl, renderer } = this;
		renderer.setRenderTarget(first);
		renderer.clearDepth();
		// A tap without a weight is none: nothing else of it has to be cleared.
		for (const side of [0, 1]) this.clear(side, [0, 0, width * all, height]);
		this.after();
		let field = 0;
		const fields = counts.map((count) => (field += count) - count);
		for (const [l, lane] of plan.lanes.entries()) {
			const { stepPass, use } = lane[0]!;
			const start = this.start(stepPass, multipass.end.surface.twoSided);
			this.fill(plan, stepPass, use, ticks, (name, value) => { start.uniforms[name] ??= { value }; start.uniforms[name].value = value; });
			for (let part = 0; part < stepPass.taps; part++) {
				first.viewport.set((fields[l]! + part) * width, 0, width, height);
				renderer.setRenderTarget(first);
				start.uniforms.riltaPart!.value = part;
				start.uniformsNeedUpdate = true;
				render(start);
			}
		}
		this.cull([0, 0, width * all, height]);
		const ended: number[][] = [];
		for (const [l, lane] of plan.lanes.entries()) {
			const sides = Array.from({ length: multipass.carriers }, () => 0);
			const origins = lane[0]!.stepPass.taps;
			let taps = origins;
			const from = fields[l]! * width;
			for (const { stepPass, use } of lane.slice(1)) {
				const made = this.linked.get(stepPass.code)!;
				gl.useProgram(made.program);
				this.fill(plan, stepPass, use, ticks, made.set);
				const fieldsOf = [from, width, taps / origins] as const;
				if (stepPass.taps === 1) {
					this.pass(multipass, stepPass, made, sides, { part: 0, from: 0, fields: fieldsOf, area: [from, 0, taps * width, height] });
				} else {
					// Taps go to other fields: what is drawn there is found out anew.
					this.clear(1 - sides[0]!, [from, 0, taps * stepPass.taps * width, height], true);
					for (let tap = 0; tap < taps; tap++) {
						for (let part = 0; part < stepPass.taps; part++) {
							const to = tap * stepPass.taps + part;
							this.pass(multipass, stepPass, made, sides, { part, from: (tap - to) * width, fields: fieldsOf, area: [from + to * width, 0, width, height] });
						}
					}
				}
				for (const carrier of stepPass.writes) sides[carrier] = 1 - sides[carrier]!;
				taps *= stepPass.taps;
			}
			// Lanes that ended in different sets meet in that of the first.
			ended.push(sides);
			for (let c = 0; l > 0 && c < multipass.carriers; c++) if (sides[c] !== ended[0]![c]) this.copy(c, sides[c]!, [from, 0, from + taps * width, height]);
		}
		this.after();
		const sides = ended[0] ?? [];
		return {
			riltaWidth: width,
			...Object.fromEntries(counts.map((count, l) => [`riltaLane${l}`, [fields[l]!, count]])),
			...Object.fromEntries(Array.from({ length: multipass.carriers }, (_, c) => [`riltaCarried${c}`, this.sets![sides[c] ?? 0]!.textures[c]]))
		};
	}

	dispose(): void {
		this.over = true;
		this.empty();
		for (const made of this.linked.values()) this.gl.deleteProgram(made.program);
		for (const start of this.starts.values()) start.dispose();
		this.gl.deleteProgram(this.culling);
		this.gl.deleteVertexArray(this.nothing);
	}

	/** How many taps each lane ends with. */
	private taps(plan: Plan): number[] {
		return plan.lanes.map((lane) => lane.reduce((product, { stepPass }) => product * stepPass.taps, 1));
	}

	/** The two sets of textures, of at least that size. */
	private fit(multipass: MultipassPlan, width: number, height: number): [WebGLRenderTarget, WebGLRenderTarget] {
		const now = this.sets;
		if (now !== null && now[0].width >= width && now[0].height === height) return now;
		if (now !== null && width <= SMALL && height <= SMALL) return now;
		this.empty();
		const make = (depthBuffer: boolean): WebGLRenderTarget => {
			const target = new WebGLRenderTarget(width, height, {
				count: multipass.carriers + 1, format: RGBAIntegerFormat, type: UnsignedIntType, internalFormat: 'RGBA32UI', minFilter: NearestFilter, magFilter: NearestFilter, generateMipmaps: false, depthBuffer, stencilBuffer: false
			});
			this.renderer.initRenderTarget(target);
			this.renderer.setRenderTarget(target);
			const { gl } = this;
			const attached = (place: number): unknown => gl.getFramebufferAttachmentParameter(gl.FRAMEBUFFER, place, gl.FRAMEBUFFER_ATTACHMENT_OBJECT_NAME);
			this.attached.push(target.textures.map((_, i) => attached(gl.COLOR_ATTACHMENT0 + i) as WebGLTexture));
			if (depthBuffer) this.depth = attached(gl.DEPTH_ATTACHMENT) as WebGLRenderbuffer;
			return target;
		};
		this.sets = [make(true), make(false)];
		return this.sets;
	}

	private empty(): void {
		for (const target of this.sets ?? []) target.dispose();
		for (const frame of this.frames.values()) this.gl.deleteFramebuffer(frame);
		this.frames.clear();
		this.attached.length = 0;
		this.sets = null;
	}

	/** A framebuffer with some carriers, each of one of the sets. */
	private frame(carriers: readonly (readonly [carrier: number, side: number])[]): WebGLFramebuffer {
		const key = carriers.join(' ');
		const known = this.frames.get(key);
		if (known !== undefined) return known;
		const { gl } = this;
		const made = gl.createFramebuffer();
		gl.bindFramebuffer(gl.FRAMEBUFFER, made);
		// All of them have the depth of what the origins drew.
		gl.framebufferRenderbuffer(gl.FRAMEBUFFER, gl.DEPTH_ATTACHMENT, gl.RENDERBUFFER, this.depth);
		for (const [i, [carrier, side]] of carriers.entries()) gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0 + i, gl.TEXTURE_2D, this.attached[side]![carrier]!, 0);
		gl.drawBuffers(carriers.map((_, i) => gl.COLOR_ATTACHMENT0 + i));
		this.frames.set(key, made);
		return made;
	}

	/** Leaves no taps in an area of one of the sets, and no depth either if that is wanted. */
	private clear(side: number, area: readonly [number, number, number, number], depth = false): void {
		const { gl } = this;
		gl.bindFramebuffer(gl.FRAMEBUFFER, this.frame([[0, side]]));
		gl.enable(gl.SCISSOR_TEST);
		gl.scissor(...area);
		gl.depthMask(true);
		gl.clearBufferuiv(gl.COLOR, 0, [0, 0, 0, 0]);
		if (depth) gl.clearBufferfv(gl.DEPTH, 0, [1]);
		gl.disable(gl.SCISSOR_TEST);
	}

	/** Taps of origins that count for nothing go to the far end, where passes draw nothing. */
	private cull(area: readonly [number, number, number, number]): void {
		const { gl } = this;
		this.culling ??= link(gl, `#version 300 es
precision highp float; precision highp int; precision highp usampler2D;
uniform usampler2D riltaCarried0;
void main() { if (texelFetch(riltaCarried0, ivec2(gl_FragCoord.xy), 0).z != 0u) discard; }`);
		gl.useProgram(this.culling);
		gl.bindVertexArray(this.nothing);
		gl.bindFramebuffer(gl.FRAMEBUFFER, this.frame([[0, 1]]));
		gl.activeTexture(gl.TEXTURE0);
		gl.bindTexture(gl.TEXTURE_2D, this.attached[0]![0]!);
		this.plain(gl.ALWAYS, true);
		gl.depthRange(1, 1);
		gl.colorMask(false, false, false, false);
		gl.viewport(...area);
		gl.drawArrays(gl.TRIANGLES, 0, 3);
		gl.colorMask(true, true, true, true);
	}

	/** Nothing but a test of depth. */
	private plain(test: number, writes: boolean): void {
		const { gl } = this;
		gl.disable(gl.BLEND);
		gl.disable(gl.CULL_FACE);
		gl.disable(gl.SCISSOR_TEST);
		gl.enable(gl.DEPTH_TEST);
		gl.depthFunc(test);
		gl.depthMask(writes);
	}

	/** One pass over one area: from where its carriers lie into the others of their sets. */
	private pass(multipass: MultipassPlan, stepPass: StepPass, { program, at }: StepPassProgram, sides: readonly number[], where: { part: number; from: number; fields: readonly [number, number, number]; area: readonly [number, number, number, number] }): void {
		const { gl } = this;
		gl.useProgram(program);
		gl.bindVertexArray(this.nothing);
		// Passes are drawn at the far end: only where there is something nearer, there are taps. Those that part leave that in new places.
		const parts = stepPass.taps > 1;
		this.plain(parts ? gl.ALWAYS : gl.GREATER, parts);
		gl.depthRange(parts ? 0.5 : 1, parts ? 0.5 : 1);
		gl.bindFramebuffer(gl.FRAMEBUFFER, this.frame(stepPass.writes.map((carrier) => [carrier, 1 - sides[carrier]!] as const)));
		const read = [...stepPass.reads.map((carrier) => [carrier, sides[carrier]!] as const), ...(stepPass.surface ? [[multipass.carriers, 0] as const] : [])];
		for (const [unit, [carrier, side]] of read.entries()) {
			gl.activeTexture(gl.TEXTURE0 + unit);
			gl.bindTexture(gl.TEXTURE_2D, this.attached[side]![carrier]!);
			gl.uniform1i(at(`riltaCarried${carrier}`), unit);
		}
		gl.uniform1i(at('riltaPart'), where.part);
		gl.uniform1i(at('riltaFrom'), where.from);
		gl.uniform3i(at('riltaFields'), ...where.fields);
		gl.viewport(...where.area);
		gl.drawArrays(gl.TRIANGLES, 0, 3);
	}

	private copy(carrier: number, side: number, [x0, y0, x1, y1]: readonly [number, number, number, number]): void {
		const { gl } = this;
		const [from, to] = [this.frame([[carrier, side]]), this.frame([[carrier, 1 - side]])];
		gl.bindFramebuffer(gl.READ_FRAMEBUFFER, from);
		gl.bindFramebuffer(gl.DRAW_FRAMEBUFFER, to);
		gl.blitFramebuffer(x0, y0, x1, y1, x0, y0, x1, y1, gl.COLOR_BUFFER_BIT, gl.NEAREST);
	}

	/** Gives the device back as three left it. */
	private after(): void {
		this.gl.bindVertexArray(null);
		this.gl.depthRange(0, 1);
		this.renderer.resetState();
		this.renderer.setRenderTarget(null);
	}

	private fill({ multipass, document }: Plan, stepPass: StepPass, use: StepUse, ticks: number, set: (name: string, value: number) => void): void {
		const known: Record<string, number> = { [multipass.end.clock.uniform]: ticks };
		const take = (one: StepPass['numbers'][number], value: number): void => {
			known[one.uniform] = value;
			set(one.uniform, value);
		};
		for (const one of stepPass.numbers) take(one, numberAt(use, one));
		for (const one of stepPass.shared) take(one, numberAt(document, one));
		if (stepPass.clock) set(multipass.end.clock.uniform, ticks);
		for (const [name, value] of Object.entries(prepared(stepPass.prelude, (uniform) => known[uniform]!))) set(name, value);
	}

	private start(stepPass: StepPass, twoSided: boolean): ShaderMaterial {
		const known = this.starts.get(startKey(stepPass, twoSided));
		if (known !== undefined) return known;
		const { vertex, fragment } = stepPass.host;
		const made = new ShaderMaterial({
			glslVersion: GLSL3,
			uniforms: { riltaPart: { value: 0 }, ...frameUniforms() },
			side: twoSided ? DoubleSide : FrontSide,
			vertexShader: `${PLACED}${vertex}
				void main() {
					riltaVertex(position, normal);
					gl_Position = projectionMatrix * modelViewMatrix * RILTA_PLACED(position);
				}`,
			fragmentShader: `precision highp int;
				${stepPass.code}${fragment}
				void main() { riltaStart(riltaSurface()); }`
		});
		made.onBeforeCompile = toldOfMany;
		this.starts.set(startKey(stepPass, twoSided), made);
		return made;
	}

	private async linkPass(code: string): Promise<StepPassProgram> {
		const { gl } = this;
		const program = link(gl, code);
		const parallel = gl.getExtension('KHR_parallel_shader_compile') as { COMPLETION_STATUS_KHR: number } | null;
		while (parallel !== null && gl.getProgramParameter(program, parallel.COMPLETION_STATUS_KHR) !== true) await new Promise((resolve) => setTimeout(resolve, 10));
		if (gl.getProgramParameter(program, gl.LINK_STATUS) !== true) throw new Error(gl.getProgramInfoLog(program) ?? 'A pass does not link.');
		const known = new Map<string, { place: WebGLUniformLocation | null; whole: boolean }>();
		for (let i = 0; i < (gl.getProgramParameter(program, gl.ACTIVE_UNIFORMS) as number); i++) {
			const { name, type } = gl.getActiveUniform(program, i)!;
			known.set(name, { place: gl.getUniformLocation(program, name), whole: type === gl.UNSIGNED_INT });
		}
		return {
			program,
			at: (name) => known.get(name)?.place ?? null,
			set: (name, value) => {
				const one = known.get(name);
				if (one?.whole === true) gl.uniform1ui(one.place, value);
				else if (one !== undefined) gl.uniform1f(one.place, value);
			}
		};
	}
}

/** Backs have normals of their own. */
const startKey = (stepPass: StepPass, twoSided: boolean): string => `${twoSided} ${stepPass.code}`;
