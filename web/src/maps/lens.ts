import { light } from '../stage/light';
import { uploadArray } from '../stage/textures';
import type { Texels } from './texels';

export type Show = 'colour' | 'x' | 'y' | 'z' | 'w' | 'lit';
export type View = {
	show: Show;
	/** Half a map to the right and down: its borders lie in the middle. */
	rolled: boolean;
	/** Copies side by side. */
	copies: number;
	level: number;
	/** Pixels of the canvas that a texel of the largest level takes. */
	zoom: number;
	/** What lies in the middle of the canvas, in repeats. */
	centre: [number, number];
	/** Where the light stands over the canvas, 0…1 from the upper left. */
	light: [number, number];
	/** Share of the canvas, from the left, that shows the first of two maps. */
	divider: number;
};

const SHOWS: Show[] = ['colour', 'x', 'y', 'z', 'w', 'lit'];

const VERTEX = `#version 300 es
void main() { gl_Position = vec4(vec2(gl_VertexID & 1, gl_VertexID >> 1) * 4.0 - 1.0, 0.0, 1.0); }`;

const fragment = (): string => `#version 300 es
precision highp float; precision highp sampler2DArray;
uniform sampler2DArray map0, map1;
uniform vec2 canvas, centre, light, texels0, texels1;
uniform float zoom, level, divider, copies;
uniform int show;
uniform bool rolled, two, encode0, encode1, grey0, grey1;
out vec4 colour;
vec3 encode(vec3 c) { return mix(c * 12.92, 1.055 * pow(max(c, 1e-6), vec3(1.0 / 2.4)) - 0.055, step(vec3(0.0031308), c)); }
vec4 read(sampler2DArray map, vec2 uv, vec2 texels, bool encoded, bool grey) {
	float l = level;
	// Large texels are shown as they are, small ones as they would be seen.
	vec2 size = max(floor(texels / exp2(l)), vec2(1.0));
	float across = zoom * texels.x / size.x;
	vec4 t = across >= 1.5
		? texelFetch(map, ivec3(ivec2(floor(fract(uv) * size)), 0), int(l))
		: textureLod(map, vec3(uv, 0.0), max(l, -log2(zoom)));
	if (encoded) t.rgb = encode(t.rgb);
	return grey ? vec4(t.rrr, 1.0) : t;
}
${light.fixed}
void main() {
	vec2 p = vec2(gl_FragCoord.x, canvas.y - gl_FragCoord.y);
	vec2 uv = centre + (p - 0.5 * canvas) / (zoom * texels0);
	if (any(lessThan(uv, vec2(0.5 - 0.5 * copies))) || any(greaterThan(uv, vec2(0.5 + 0.5 * copies)))) discard;
	vec2 at = rolled ? uv + 0.5 : uv;
	bool second = two && p.x > divider * canvas.x;
	vec4 t = second ? read(map1, at, texels1, encode1, grey1) : read(map0, at, texels0, encode0, grey0);
	vec3 c = show == 0 ? t.rgb : vec3(show == 1 ? t.r : show == 2 ? t.g : show == 3 ? t.b : t.a);
	if (show == 5) {
		vec3 n = normalize(t.rgb * 2.0 - 1.0);
		vec3 to = normalize(vec3((light - p / canvas) * vec2(canvas.x / canvas.y, -1.0), 0.5));
		// A surface of middle grey, half rough, under a lamp.
		c = encode(riltaToned(riltaLit(vec3(0.18), n, 0.5, 0.0, 1.0, vec3(0.0), vec3(0.0, 0.0, 1.0), to, 1.0)));
	}
	if (two && abs(p.x - divider * canvas.x) < 1.0) c = vec3(0.7, 0.9, 0.4);
	colour = vec4(c, 1.0);
}`;

/** A program that covers what it draws on with one triangle. */
export function link(gl: WebGL2RenderingContext, fragment: string): WebGLProgram {
	const program = gl.createProgram();
	for (const [type, source] of [[gl.VERTEX_SHADER, VERTEX], [gl.FRAGMENT_SHADER, fragment]] as const) {
		const shader = gl.createShader(type)!;
		gl.shaderSource(shader, source);
		gl.compileShader(shader);
		if (gl.isContextLost()) throw new Error('The browser has taken the drawing context away; open the page again.');
		if (gl.getShaderParameter(shader, gl.COMPILE_STATUS) !== true) throw new Error(gl.getShaderInfoLog(shader) ?? 'The shader does not compile.');
		gl.attachShader(program, shader);
	}
	gl.linkProgram(program);
	return program;
}

/** What a map looks like to the lens: its size in texels, its levels, how its numbers are meant. */
type Shown = { width: number; height: number; levels: number; colour: boolean; grey: boolean };

/** Draws one map, or two with a divider between them, as large and as it is asked for. */
export class MapLens {
	readonly gl: WebGL2RenderingContext;
	private readonly program: WebGLProgram;
	private readonly textures: (WebGLTexture | null)[] = [null, null];
	/** Whether the texture at a place was made here. */
	private readonly own = [false, false];
	private maps: (Shown | null)[] = [null, null];

	constructor(readonly canvas: HTMLCanvasElement) {
		const gl = canvas.getContext('webgl2', { antialias: false, preserveDrawingBuffer: true });
		if (gl === null) throw new Error('This browser draws no WebGL 2.');
		this.gl = gl;
		this.program = link(gl, fragment());
	}

	/** The first or the second map; null takes the second away. */
	load(place: 0 | 1, texels: Texels | null, colour: boolean): void {
		this.put(place, texels === null ? null : uploadArray(this.gl, { key: texels.key(colour) }, [texels.pack]), texels === null ? null : { width: texels.width, height: texels.height, levels: texels.levels.length, colour, grey: texels.size !== 4 });
		this.own[place] = true;
	}

	/** Shows a texture that somebody else draws, and keeps. */
	adopt(texture: WebGLTexture, shown: Shown): void {
		this.put(0, texture, shown);
	}

	private put(place: 0 | 1, texture: WebGLTexture | null, shown: Shown | null): void {
		const before = this.textures[place] ?? null;
		if (before !== null && this.own[place] === true) this.gl.deleteTexture(before);
		this.own[place] = false;
		this.textures[place] = texture;
		this.maps[place] = shown;
	}

	draw(view: View): void {
		const { gl, program } = this;
		const [first, second] = this.maps;
		if (first === null || first === undefined) return;
		gl.bindFramebuffer(gl.FRAMEBUFFER, null);
		gl.viewport(0, 0, this.canvas.width, this.canvas.height);
		gl.clearColor(0, 0, 0, 0);
		gl.clear(gl.COLOR_BUFFER_BIT);
		gl.useProgram(program);
		const place = (name: string): WebGLUniformLocation | null => gl.getUniformLocation(program, name);
		[first, second ?? first].forEach((map, i) => {
			gl.activeTexture(gl.TEXTURE0 + i);
			gl.bindTexture(gl.TEXTURE_2D_ARRAY, this.textures[i] ?? this.textures[0]!);
			gl.uniform1i(place(`map${i}`), i);
			gl.uniform2f(place(`texels${i}`), map.width, map.height);
			gl.uniform1i(place(`encode${i}`), map.colour ? 1 : 0);
			gl.uniform1i(place(`grey${i}`), map.grey ? 1 : 0);
		});
		gl.uniform2f(place('canvas'), this.canvas.width, this.canvas.height);
		gl.uniform2f(place('centre'), ...view.centre);
		gl.uniform2f(place('light'), ...view.light);
		gl.uniform1f(place('zoom'), view.zoom);
		gl.uniform1f(place('level'), Math.min(view.level, first.levels - 1));
		gl.uniform1f(place('copies'), view.copies);
		gl.uniform1f(place('divider'), view.divider);
		gl.uniform1i(place('show'), SHOWS.indexOf(view.show));
		gl.uniform1i(place('rolled'), view.rolled ? 1 : 0);
		gl.uniform1i(place('two'), second === null || second === undefined ? 0 : 1);
		gl.drawArrays(gl.TRIANGLES, 0, 3);
	}

	dispose(): void {
		this.gl.getExtension('WEBGL_lose_context')?.loseContext();
	}
}

/** The texel of the largest level under a point of the canvas, in texels from the upper left of the map; it may lie outside. */
export function texelAt(view: View, canvas: { width: number; height: number }, texels: { width: number; height: number }, x: number, y: number): [number, number] {
	const roll = view.rolled ? 0.5 : 0;
	return [
		Math.floor((view.centre[0] + (x - canvas.width / 2) / (view.zoom * texels.width) + roll) * texels.width),
		Math.floor((view.centre[1] + (y - canvas.height / 2) / (view.zoom * texels.height) + roll) * texels.height)
	];
}
