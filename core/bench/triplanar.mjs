// The arithmetic of the tri-planar bench on Node, as core/bench/run.php describes it.
// Usage: node triplanar.mjs INPUT OUTPUT RUNS   Prints the seconds of each run.
import { readFileSync, writeFileSync } from 'node:fs';

const SIDE = 1024;
const [, , input, output, runs] = process.argv;
const file = readFileSync(input);
const view = new DataView(file.buffer, file.byteOffset, file.byteLength);
const [size, step, repeat, seam] = [0, 8, 16, 24].map((at) => view.getFloat64(at, true));

const widths = [];
const offsets = [];
let total = 0;
for (let w = SIDE; w >= 1; w /= 2) {
	widths.push(w);
	offsets.push(total);
	total += w * w;
}
const words = (at) => new Uint32Array(file.buffer.slice(file.byteOffset + at, file.byteOffset + at + 4 * total));
const bytes = (at) => new Uint8Array(file.buffer.slice(file.byteOffset + at, file.byteOffset + at + total));
const colour = words(32);
const normal = words(32 + 4 * total);
const rough = bytes(32 + 8 * total);
const occ = bytes(32 + 9 * total);
const srgb = Float64Array.from({ length: 256 }, (_, i) => (i / 255 <= 0.04045 ? i / 255 / 12.92 : ((i / 255 + 0.055) / 1.055) ** 2.4));

const encode = (c) => (c <= 0.0031308 ? c * 12.92 : 1.055 * c ** (1 / 2.4) - 0.055);
const byte = (x) => Math.floor(Math.min(Math.max(x, 0), 1) * 255 + 0.5);
const r = new Float64Array(8);

function levelRead(u, v, l, k) {
	const w = widths[l];
	const m = w - 1;
	let a = u * w - 0.5;
	let b = v * w - 0.5;
	let xa = Math.floor(a);
	let ya = Math.floor(b);
	a -= xa;
	b -= ya;
	const xb = (xa + 1) & m;
	const base = offsets[l];
	const rowB = base + ((ya + 1) & m) * w;
	xa &= m;
	ya &= m;
	const rowA = base + ya * w;
	for (let i = 0; i < 4; i++) {
		const at = (i < 2 ? rowA : rowB) + ((i & 1) === 0 ? xa : xb);
		const weight = (i < 2 ? 1 - b : b) * ((i & 1) === 0 ? 1 - a : a) * k;
		const c = colour[at];
		const n = normal[at];
		r[0] += weight * srgb[c & 255];
		r[1] += weight * srgb[(c >> 8) & 255];
		r[2] += weight * srgb[(c >> 16) & 255];
		r[3] += (weight * (n & 255)) / 255;
		r[4] += (weight * ((n >> 8) & 255)) / 255;
		r[5] += (weight * ((n >> 16) & 255)) / 255;
		r[6] += (weight * rough[at]) / 255;
		r[7] += (weight * occ[at]) / 255;
	}
}

function readMaps(u, v, level) {
	r.fill(0);
	if (level <= 0) return levelRead(u, v, 0, 1);
	let l = Math.floor(level);
	let f = level - l;
	if (l >= widths.length - 1) [l, f] = [widths.length - 1, 0];
	levelRead(u, v, l, 1 - f);
	if (f > 0) levelRead(u, v, l + 1, f);
}

const out = new Uint8Array(size * size * 8);
const [s2, s3, s6] = [Math.SQRT1_2, 1 / Math.sqrt(3), 1 / Math.sqrt(6)];
const [nx, ny, nz] = [s3, s3, s3];
const [rx, ry, rz] = [s2, 0, -s2];
const [dx, dy, dz] = [s6, -2 * s6, s6];
// The directions of u and v on the faces x, y, z, and how far u and v go in a pixel to the right and down.
const T = [[0, 0, -1], [1, 0, 0], [1, 0, 0]];
const B = [[0, -1, 0], [0, 0, 1], [0, -1, 0]];
const along = (d, x, y, z) => d[0] * x + d[1] * y + d[2] * z;

function draw() {
	const reach = Math.SQRT2 * Math.sin((seam * Math.PI) / 360);
	let o = 0;
	for (let y = 0; y < size; y++) {
		for (let x = 0; x < size; x++) {
			const px = (x + 0.5) * step;
			const py = (y + 0.5) * step;
			const [X, Y, Z] = [rx * px + dx * py, ry * px + dy * py, rz * px + dz * py];
			const big = Math.max(Math.abs(nx), Math.abs(ny), Math.abs(nz));
			const wx = Math.max(Math.abs(nx) - big + reach, 0);
			const wy = Math.max(Math.abs(ny) - big + reach, 0);
			const wz = Math.max(Math.abs(nz) - big + reach, 0);
			const sum = Math.max(wx + wy + wz, 1e-9);
			let [c0, c1, c2, c3, c4, gx, gy, gz] = [0, 0, 0, 0, 0, 0, 0, 0];
			for (let i = 0; i < 3; i++) {
				const k = (i === 0 ? wx : i === 1 ? wy : wz) / sum;
				if (k <= 0) continue;
				const [t, b] = [T[i], B[i]];
				const s = (step / repeat) * SIDE;
				const [g1, g2] = [along(t, rx, ry, rz) * s, along(b, rx, ry, rz) * s];
				const [h1, h2] = [along(t, dx, dy, dz) * s, along(b, dx, dy, dz) * s];
				const level = 0.5 * Math.log2(Math.max(g1 * g1 + g2 * g2, h1 * h1 + h2 * h2, 1));
				readMaps(along(t, X, Y, Z) / repeat, along(b, X, Y, Z) / repeat, level);
				c0 += k * r[0];
				c1 += k * r[1];
				c2 += k * r[2];
				c3 += k * r[6];
				c4 += k * r[7];
				const mz = Math.max(2 * r[5] - 1, 1 / 16);
				const su = (-(2 * r[3] - 1) / mz) * k;
				const sv = ((2 * r[4] - 1) / mz) * k;
				gx += t[0] * su + b[0] * sv;
				gy += t[1] * su + b[1] * sv;
				gz += t[2] * su + b[2] * sv;
			}
			const up = nx * gx + ny * gy + nz * gz;
			const [mx, my, mz] = [nx - (gx - nx * up), ny - (gy - ny * up), nz - (gz - nz * up)];
			const length = Math.sqrt(mx * mx + my * my + mz * mz);
			out[o++] = byte(encode(c0));
			out[o++] = byte(encode(c1));
			out[o++] = byte(encode(c2));
			out[o++] = byte((mx / length) * 0.5 + 0.5);
			out[o++] = byte((my / length) * 0.5 + 0.5);
			out[o++] = byte((mz / length) * 0.5 + 0.5);
			out[o++] = byte(c3);
			out[o++] = byte(c4);
		}
	}
}

for (let i = Number(runs); i > 0; i--) {
	const start = performance.now();
	draw();
	console.log(((performance.now() - start) / 1000).toFixed(6));
}
writeFileSync(output, out);
