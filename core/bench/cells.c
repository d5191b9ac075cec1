/*
 * The arithmetic of the benches of Breakup and Hex blend on a floor, single-threaded, as core/bench/run.php describes it.
 * Usage: cells INPUT OUTPUT RUNS breakup|hex   Prints the seconds of each run.
 */
#include <string.h>
#include "maps.h"

#define SQRT3 1.7320508075688772

typedef struct { double weight, x, y; uint32_t i, j; } Point;

/* Jarzynski & Olano 2020. */
static void pcg3d(uint32_t x, uint32_t y, uint32_t z, uint32_t *out) {
	x = x * 1664525u + 1013904223u, y = y * 1664525u + 1013904223u, z = z * 1664525u + 1013904223u;
	x += y * z, y += z * x, z += x * y;
	x ^= x >> 16, y ^= y >> 16, z ^= z >> 16;
	x += y * z, y += z * x, z += x * y;
	out[0] = x, out[1] = y, out[2] = z;
}

static void dice(uint32_t i, uint32_t j, uint32_t seed, uint32_t throw, double *out) {
	uint32_t h[3];
	pcg3d(i, j, seed + throw * 0x9E3779B9u, h);
	for (int c = 0; c < 3; c++) out[c] = (h[c] >> 8) * 0x1p-24;
}

static uint32_t whole(double x) { return (uint32_t)(int64_t)x; }

static double noise(double x, double y, uint32_t seed) {
	double fx = floor(x), fy = floor(y), tx = x - fx, ty = y - fy, v[4];
	for (int k = 0; k < 4; k++) {
		uint32_t h[3];
		pcg3d(whole(fx + (k & 1)), whole(fy + (k >> 1)), seed, h);
		double lng = 0.5 + 0.5 * (h[0] >> 9 & 1);
		v[k] = ((h[0] >> 7 & 1) * 2.0 - 1) * lng * (tx - (k & 1)) + ((h[0] >> 8 & 1) * 2.0 - 1) * (1.5 - lng) * (ty - (k >> 1));
	}
	double ux = tx * tx * tx * (tx * (tx * 6 - 15) + 10), uy = ty * ty * ty * (ty * (ty * 6 - 15) + 10);
	double a = v[0] + (v[1] - v[0]) * ux, b = v[2] + (v[3] - v[2]) * ux;
	return a + (b - a) * uy;
}

static void lattice(double x, double y, Point *p) {
	double sx = x - y / SQRT3, sy = y * 2 / SQRT3, bx = floor(sx), by = floor(sy), fx = sx - bx, fy = sy - by, z = 1 - fx - fy;
	double s = z < 0, sign = z < 0 ? 1 : -1, w[3] = {-z * sign, s - fy * sign, s - fx * sign};
	double cx[3] = {s, s, 1 - s}, cy[3] = {s, 1 - s, s};
	for (int k = 0; k < 3; k++) {
		double i = bx + cx[k], j = by + cy[k];
		p[k] = (Point){w[k], i + j * 0.5, j * SQRT3 / 2, whole(i), whole(j)};
	}
}

/* Oklab: Ottosson 2020. */
static void drift(double *c, const double *by) {
	double l = cbrt(fmax(0.4122214708 * c[0] + 0.5363325363 * c[1] + 0.0514459929 * c[2], 1e-9));
	double m = cbrt(fmax(0.2119034982 * c[0] + 0.6806995451 * c[1] + 0.1073969566 * c[2], 1e-9));
	double s = cbrt(fmax(0.0883024619 * c[0] + 0.2817188376 * c[1] + 0.6299787005 * c[2], 1e-9));
	double L = (0.2104542553 * l + 0.7936177850 * m - 0.0040720468 * s) * (1 + by[0]);
	double a = 1.9779984951 * l - 2.4285922050 * m + 0.4505937099 * s, b = 0.0259040371 * l + 0.7827717662 * m - 0.8086757660 * s;
	double chroma = fmax(1 + by[2], 0), cs = cos(by[1]), sn = sin(by[1]), A = (a * cs - b * sn) * chroma, B = (a * sn + b * cs) * chroma;
	l = L + 0.3963377774 * A + 0.2158037573 * B, m = L - 0.1055613458 * A - 0.0638541728 * B, s = L - 0.0894841775 * A - 1.2914855480 * B;
	l = l * l * l, m = m * m * m, s = s * s * s;
	c[0] = fmax(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s, 0);
	c[1] = fmax(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s, 0);
	c[2] = fmax(-0.0041960863 * l - 0.7034186147 * m + 1.7076147010 * s, 0);
}

int main(int argc, char **argv) {
	if (argc != 5) return 2;
	int hex = strcmp(argv[4], "hex") == 0;
	FILE *in = fopen(argv[1], "rb");
	if (!in) return 1;
	/* pixels a side, metres a pixel, metres per repeat, cell, turn in degrees, seed, brightness, hue in degrees, saturation */
	double head[9];
	if (fread(head, sizeof head, 1, in) != 1 || !load(in)) return 1;
	fclose(in);
	int size = (int)head[0];
	double step = head[1], repeat = head[2], per = repeat / head[3], turn = head[4] * M_PI / 180;
	double amount[3] = {head[6], head[7] * M_PI / 180, head[8]};
	uint32_t seed = (uint32_t)head[5];
	uint8_t *out = malloc((size_t)size * size * 8);
	double mean[8], t = step / repeat * SIDE, level = mip(t, 0, 0, t);
	read_maps(0.5, 0.5, 99, mean);
	for (int run = atoi(argv[3]); run > 0; run--) {
		double start = now();
		uint8_t *o = out;
		for (int y = 0; y < size; y++)
			for (int x = 0; x < size; x++) {
				double u = (x + 0.5) * step / repeat, v = (y + 0.5) * step / repeat, px = u * per, py = v * per, w[3], sum = 0, squares = 0;
				Point p[3];
				if (hex) {
					lattice(px, py, p);
					for (int k = 0; k < 3; k++) sum += w[k] = pow(fmax(p[k].weight, 1e-5), 7);
				} else {
					double bx = px / 0.4, by = py / 0.4, best = -1e9, score[3];
					px += noise(bx, by, seed) * 0.25, py += noise(bx, by, seed + 7) * 0.25;
					lattice(px, py, p);
					for (int k = 0; k < 3; k++) {
						double d[3];
						dice(p[k].i, p[k].j, seed, 5, d);
						double qx = p[k].x + (2 * d[0] - 1) * 0.18 - px, qy = p[k].y + (2 * d[1] - 1) * 0.18 - py;
						score[k] = -(sqrt(qx * qx + qy * qy) + (1 - clamp(p[k].weight * 8)) * 2);
						best = fmax(best, score[k]);
					}
					for (int k = 0; k < 3; k++) sum += w[k] = fmax(score[k] - best + 0.2, 0);
				}
				for (int k = 0; k < 3; k++) {
					w[k] /= sum;
					squares += w[k] * w[k];
				}
				double gain = 1 / sqrt(squares), acc[5] = {0}, gx = 0, gz = 0;
				for (int k = 0; k < 3; k++) {
					if (w[k] <= 0) continue;
					double place[3], shape[3], tint[3], r[8], by[3], around[3];
					dice(p[k].i, p[k].j, seed, 0, place);
					double angle = turn * (2 * place[2] - 1);
					if (!hex) {
						dice(p[k].i, p[k].j, seed, 1, shape);
						dice(p[k].i, p[k].j, seed, 2, tint);
						angle = turn * (2 * shape[0] - 1);
					}
					double c = cos(angle), s = sin(angle), cu = p[k].x / per, cv = p[k].y / per;
					read_maps(c * (u - cu) - s * (v - cv) + cu + place[0], s * (u - cu) + c * (v - cv) + cv + place[1], level, r);
					memcpy(around, mean, sizeof around);
					if (!hex) {
						for (int i = 0; i < 3; i++) by[i] = amount[i] * (2 * tint[i] - 1);
						drift(r, by);
						drift(around, by);
					}
					for (int i = 0; i < 3; i++) acc[i] += w[k] * (around[i] + (r[i] - around[i]) * gain);
					acc[3] += w[k] * (mean[6] + (r[6] - mean[6]) * gain);
					acc[4] += w[k] * (mean[7] + (r[7] - mean[7]) * gain);
					double mx = 2 * r[3] - 1, my = 2 * r[4] - 1, mz = fmax(2 * r[5] - 1, 1.0 / 16), su = -mx / mz * w[k] * gain, sv = my / mz * w[k] * gain;
					/* u grows along x, v along z; both are turned with the cell. */
					gx += c * su + s * sv;
					gz += -s * su + c * sv;
				}
				for (int i = 0; i < 3; i++) acc[i] = fmax(acc[i], 0);
				o = put(o, acc, (Vec){-gx, 1, -gz}, acc[3], acc[4]);
			}
		printf("%.6f\n", now() - start);
	}
	return keep(argv[2], out, size);
}
