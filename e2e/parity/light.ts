/** Runs in the browser: lights surfaces in each of the skies, and compares them with what the kernel makes of them. */
import { link } from '../../web/src/maps/lens';

export type LightCase = {
	side: number;
	code: string;
	prefix: string;
	exposure: Record<string, number[]>;
	normals: string;
	views: string;
	colours: string;
	skies: { name: string; fields: Record<string, number[]>; pixels: string }[];
};
export type LightComparison = { name: string; samples: number; off: number; worst: number };

/** Steps of a byte that they may differ by. */
const NEAR = 2;
const TEXTURES = ['normals', 'views', 'colours'] as const;
const bytesOf = (text: string): Uint8Array => Uint8Array.from(atob(text), (c) => c.charCodeAt(0));

export function compareLight(one: LightCase): LightComparison[] {
	const canvas = document.createElement('canvas');
	const gl = canvas.getContext('webgl2', { antialias: false, alpha: false });
	if (gl === null) throw new Error('No WebGL 2.');
	canvas.width = canvas.height = one.side;
	const program = link(gl, `#version 300 es
precision highp float; precision highp int; precision highp sampler2D;
uniform sampler2D normals, views, colours;
out vec4 colour;
${one.code}
vec3 encode(vec3 c) { return mix(c * 12.92, 1.055 * pow(max(c, 1e-6), vec3(1.0 / 2.4)) - 0.055, step(vec3(0.0031308), c)); }
void main() {
	ivec2 at = ivec2(gl_FragCoord.xy);
	vec4 n = texelFetch(normals, at, 0), v = texelFetch(views, at, 0), c = texelFetch(colours, at, 0);
	vec3 seen = riltaLit(c.rgb, n.xyz, n.w, v.w, 1.0, vec3(0.0), v.xyz, ${one.prefix}sun, c.w);
	colour = vec4(encode(clamp(riltaToned(seen), 0.0, 1.0)), 1.0);
}`);
	gl.useProgram(program);
	gl.viewport(0, 0, one.side, one.side);
	for (const [unit, name] of TEXTURES.entries()) {
		gl.activeTexture(gl.TEXTURE0 + unit);
		gl.bindTexture(gl.TEXTURE_2D, gl.createTexture());
		gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA32F, one.side, one.side, 0, gl.RGBA, gl.FLOAT, new Float32Array(bytesOf(one[name]).buffer));
		gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.NEAREST);
		gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, gl.NEAREST);
		gl.uniform1i(gl.getUniformLocation(program, name), unit);
	}
	const fill = (name: string, numbers: number[]): void => {
		const place = gl.getUniformLocation(program, name);
		if (numbers.length === 1) gl.uniform1f(place, numbers[0]!);
		else if (numbers.length === 3) gl.uniform3fv(place, numbers);
		else gl.uniform4fv(place, numbers);
	};
	for (const [name, numbers] of Object.entries(one.exposure)) fill(name, numbers);
	return one.skies.map(({ name, fields, pixels }) => {
		for (const [field, numbers] of Object.entries(fields)) fill(one.prefix + field, numbers);
		gl.drawArrays(gl.TRIANGLES, 0, 3);
		const drawn = new Uint8Array(4 * one.side * one.side);
		gl.readPixels(0, 0, one.side, one.side, gl.RGBA, gl.UNSIGNED_BYTE, drawn);
		const expected = bytesOf(pixels);
		const apart = [...drawn].map((byte, i) => Math.abs(byte - expected[i]!)).filter((_, i) => i % 4 !== 3);
		return { name, samples: apart.length, off: apart.filter((by) => by > NEAR).length, worst: Math.max(...apart) };
	});
}
