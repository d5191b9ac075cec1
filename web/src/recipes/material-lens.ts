import { link, type View } from '../maps/lens';
import { light } from '../stage/light';

/** Roles that the light asks for, and what stands where a recipe makes no such map. */
export const LIT = { 'base-colour': [0.5, 0.5, 0.5], normal: [0.5, 0.5, 1], roughness: [0.6], metallic: [0], occlusion: [1], emission: [0, 0, 0] } as const;
export type LitRole = keyof typeof LIT;
const ROLES = Object.keys(LIT) as LitRole[];

const name = (role: LitRole): string => role.replace('-', '');
const fragment = (): string => `#version 300 es
precision highp float; precision highp sampler2DArray;
${ROLES.map((role) => `uniform sampler2DArray ${name(role)}; uniform bool has_${name(role)};`).join('\n')}
uniform vec2 canvas, centre, light;
uniform float zoom, side, copies;
uniform bool rolled;
out vec4 colour;
${light.fixed}
vec3 encode(vec3 c) { return mix(c * 12.92, 1.055 * pow(max(c, 1e-6), vec3(1.0 / 2.4)) - 0.055, step(vec3(0.0031308), c)); }
void main() {
	vec2 p = vec2(gl_FragCoord.x, canvas.y - gl_FragCoord.y);
	vec2 uv = centre + (p - 0.5 * canvas) / (zoom * side);
	if (any(lessThan(uv, vec2(0.5 - 0.5 * copies))) || any(greaterThan(uv, vec2(0.5 + 0.5 * copies)))) discard;
	vec3 at = vec3(rolled ? uv + 0.5 : uv, 0.0);
	float lod = max(0.0, -log2(zoom));
${ROLES.map((role) => {
	const values = LIT[role];
	const fallback = values.length === 3 ? `vec3(${values.map((v) => v.toFixed(2)).join(', ')})` : `vec3(${values[0].toFixed(2)})`;
	return `	vec3 t_${name(role)} = has_${name(role)} ? textureLod(${name(role)}, at, lod).rgb : ${fallback};`;
}).join('\n')}
	vec3 n = normalize(t_normal * 2.0 - 1.0);
	// The sun is a lamp over the plane, where the pointer is.
	vec3 to = normalize(vec3((light - p / canvas) * vec2(canvas.x / canvas.y, -1.0), 0.55));
	vec3 seen = riltaLit(t_basecolour, n, t_roughness.x, t_metallic.x, t_occlusion.x, t_emission, vec3(0.0, 0.0, 1.0), to, 1.0);
	colour = vec4(encode(riltaToned(seen)), 1.0);
}`;

/** Draws the maps of a recipe as a lit plane, the lamp at the pointer. */
export class MaterialLens {
	private readonly program: WebGLProgram;

	constructor(private readonly gl: WebGL2RenderingContext) {
		this.program = link(gl, fragment());
	}

	draw(view: View, side: number, textures: Map<string, WebGLTexture>): void {
		const { gl, program } = this;
		const canvas = gl.canvas;
		gl.bindFramebuffer(gl.FRAMEBUFFER, null);
		gl.viewport(0, 0, canvas.width, canvas.height);
		gl.clearColor(0, 0, 0, 0);
		gl.clear(gl.COLOR_BUFFER_BIT);
		gl.useProgram(program);
		const place = (uniform: string): WebGLUniformLocation | null => gl.getUniformLocation(program, uniform);
		const any = [...textures.values()][0] ?? null;
		ROLES.forEach((role, i) => {
			const texture = textures.get(role);
			gl.activeTexture(gl.TEXTURE0 + i);
			gl.bindTexture(gl.TEXTURE_2D_ARRAY, texture ?? any);
			gl.uniform1i(place(name(role)), i);
			gl.uniform1i(place(`has_${name(role)}`), texture === undefined ? 0 : 1);
		});
		gl.activeTexture(gl.TEXTURE0);
		gl.uniform2f(place('canvas'), canvas.width, canvas.height);
		gl.uniform2f(place('centre'), ...view.centre);
		gl.uniform2f(place('light'), ...view.light);
		gl.uniform1f(place('zoom'), view.zoom);
		gl.uniform1f(place('side'), side);
		gl.uniform1f(place('copies'), view.copies);
		gl.uniform1i(place('rolled'), view.rolled ? 1 : 0);
		gl.drawArrays(gl.TRIANGLES, 0, 3);
	}
}
