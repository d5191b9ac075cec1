import { VIEWS, type Sidecar } from './sidecar';

/** How each input of a surface is got here, in WGSL: only what the code asks for is. */
function inputs(): Record<string, string> {
	const all: Record<string, string> = {
		position: 'v.position', normal: 'normalize(v.normal) * facing', dpdx: 'dpdx(v.position)', dpdy: 'dpdy(v.position)', section: 'v.section', painted: 'vec4f(0.0)',
		objectOrigin: 'host_seen.model[3].xyz', objectX: 'normalize(host_seen.model[0].xyz)', objectY: 'normalize(host_seen.model[1].xyz)', objectZ: 'normalize(host_seen.model[2].xyz)',
		objectSeed: '1.0', objectValue: '0.0', viewDistance: 'distance(host_seen.eye, v.position)', facing: 'facing'
	};
	for (const [set, at] of [['uv', 'v.uv.xy'], ['uv2', 'v.uv.zw'], ['uv3', 'v.others.xy'], ['uv4', 'v.others.zw']] as const) {
		Object.assign(all, { [set]: at, [`${set}Dx`]: `dpdx(${at})`, [`${set}Dy`]: `dpdy(${at})`, [`${set}T`]: `host_along(${at}, v.position, vec2f(1.0, 0.0))`, [`${set}B`]: `host_along(${at}, v.position, vec2f(0.0, 1.0))` });
	}
	return all;
}

/** Numbers of a vertex: position, normal, four sets of UVs, section. */
export const VERTEX_FLOATS = 15;

/** A vertex and a fragment that call the material's function, and show one of what it tells. What is theirs begins with host_, which no material's name does. */
export function module(code: string, told: Sidecar): string {
	const known = inputs();
	const missing = told.inputs.filter((one) => known[one.name] === undefined).map((one) => one.name);
	if (missing.length > 0) throw new Error(`The code asks for what this page does not know: ${missing.join(', ')}.`);
	const or = (name: string, otherwise: string): string => (told.outputs.some((one) => one.name === name) ? `m.${name}` : otherwise);
	const view = (name: (typeof VIEWS)[number]['value']): number => VIEWS.findIndex((one) => one.value === name);
	return `${code}

struct host_Seen { projection: mat4x4f, view: mat4x4f, model: mat4x4f, turned: mat4x4f, eye: vec3f, shown: f32 }
@group(1) @binding(0) var<uniform> host_seen: host_Seen;
struct host_Vertex { @builtin(position) at: vec4f, @location(0) position: vec3f, @location(1) normal: vec3f, @location(2) uv: vec4f, @location(3) others: vec4f, @location(4) @interpolate(flat) section: f32 }
@vertex
fn host_vertex(@location(0) position: vec3f, @location(1) normal: vec3f, @location(2) uv: vec4f, @location(3) others: vec4f, @location(4) section: f32) -> host_Vertex {
	let place = host_seen.model * vec4f(position, 1.0);
	let at = host_seen.projection * host_seen.view * place;
	// Depth goes from 0 to 1 here.
	return host_Vertex(vec4f(at.xy, 0.5 * (at.z + at.w), at.w), place.xyz, (host_seen.turned * vec4f(normal, 0.0)).xyz, uv, others, section);
}
// Where something grows along the surface.
fn host_along(at: vec2f, position: vec3f, way: vec2f) -> vec3f {
	let dx = dpdx(at);
	let dy = dpdy(at);
	let px = dpdx(position);
	let py = dpdy(position);
	let found = ((px * dy.y - py * dx.y) * way.x + (py * dx.x - px * dy.x) * way.y) * sign(dx.x * dy.y - dx.y * dy.x);
	return select(vec3f(1.0, 0.0, 0.0), normalize(found), length(found) > 0.0);
}
fn host_curved(light: vec3f) -> vec3f {
	let c = clamp(light, vec3f(0.0), vec3f(1.0));
	return select(1.055 * pow(c, vec3f(1.0 / 2.4)) - 0.055, c * 12.92, c < vec3f(0.0031308));
}
// One sun and a sky, after Walter et al. 2007 and Schlick 1994.
fn host_lit(at: vec3f, base: vec3f, n: vec3f, rough: f32, metal: f32, open: f32, glow: vec3f) -> vec3f {
	let v = normalize(host_seen.eye - at);
	let l = normalize(vec3f(0.5, 0.7, 0.45));
	let h = normalize(v + l);
	let a = max(rough * rough, 0.002);
	let nl = max(dot(n, l), 0.0);
	let nv = max(dot(n, v), 1e-3);
	let nh = max(dot(n, h), 0.0);
	let f0 = mix(vec3f(0.04), base, metal);
	let f = f0 + (1.0 - f0) * pow(1.0 - max(dot(v, h), 0.0), 5.0);
	let d = a * a / (3.14159265 * pow(nh * nh * (a * a - 1.0) + 1.0, 2.0));
	let k = a / 2.0;
	let g = 1.0 / ((nl * (1.0 - k) + k) * (nv * (1.0 - k) + k) * 4.0);
	let sky = mix(vec3f(0.12, 0.11, 0.1), vec3f(0.5, 0.58, 0.68), 0.5 + 0.5 * n.y);
	let mirrored = mix(vec3f(0.14, 0.13, 0.12), vec3f(0.55, 0.64, 0.76), smoothstep(-0.3, 0.5, reflect(-v, n).y));
	let grazing = f0 + (max(vec3f(1.0 - rough), f0) - f0) * pow(1.0 - nv, 5.0);
	return (base * (1.0 - metal) / 3.14159265 + f * d * g) * nl * vec3f(3.0, 2.85, 2.6) + open * (base * (1.0 - metal) * sky + grazing * mirrored) + glow;
}
@fragment
fn host_fragment(v: host_Vertex, @builtin(front_facing) front: bool) -> @location(0) vec4f {
	let facing = select(-1.0, 1.0, front);
	var s: ${told.structs.surface};
${told.inputs.map((one) => `	s.${one.name} = ${known[one.name]!};`).join('\n')}
	let m = ${told.functions.material}(s, ${told.functions.prepare}());
	let covered = ${or('coverage', '1.0')};
	if (covered < 0.004) { discard; }
	let base = ${or('baseColour', 'vec3f(0.5)')};
	let n = ${or('normal', 'normalize(v.normal) * facing')};
	let glow = ${or('emission', 'vec3f(0.0)')};
	let rough = ${or('roughness', '0.5')};
	let metal = ${or('metallic', '0.0')};
	let open = ${or('occlusion', '1.0')};
	switch i32(host_seen.shown) {
		case ${view('baseColour')}: { return vec4f(host_curved(base), 1.0); }
		case ${view('normal')}: { return vec4f(n * 0.5 + 0.5, 1.0); }
		case ${view('roughness')}: { return vec4f(vec3f(rough), 1.0); }
		case ${view('metallic')}: { return vec4f(vec3f(metal), 1.0); }
		case ${view('occlusion')}: { return vec4f(vec3f(open), 1.0); }
		case ${view('emission')}: { return vec4f(host_curved(glow), 1.0); }
		default: { return vec4f(host_curved(host_lit(v.position, base, n, rough, metal, open, glow)), covered); }
	}
}
`;
}
