/*
 * The arithmetic of the tri-planar bench, single-threaded, as core/bench/run.php describes it.
 * Usage: triplanar INPUT OUTPUT RUNS   Prints the seconds of each run.
 */
#include <math.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

#define SIDE 1024

typedef struct { double x, y, z; } Vec;

static uint32_t *colour, *normal;
static uint8_t *rough, *occ;
static double srgb[256];
static int widths[16], offsets[16], levels;

static double encode(double c) { return c <= 0.0031308 ? c * 12.92 : 1.055 * pow(c, 1.0 / 2.4) - 0.055; }
static double clamp(double x) { return x < 0 ? 0 : x > 1 ? 1 : x; }
static double dot(Vec a, Vec b) { return a.x * b.x + a.y * b.y + a.z * b.z; }

/* out: colour rgb, normal xyz, roughness, occlusion, added with the weight k. */
static void level_read(double u, double v, int l, double k, double *out) {
	int w = widths[l], m = w - 1;
	double a = u * w - 0.5, b = v * w - 0.5;
	int xa = (int)floor(a), ya = (int)floor(b);
	a -= xa;
	b -= ya;
	int xb = (xa + 1) & m, yb = (ya + 1) & m;
	xa &= m;
	ya &= m;
	int at[4] = {offsets[l] + ya * w + xa, offsets[l] + ya * w + xb, offsets[l] + yb * w + xa, offsets[l] + yb * w + xb};
	double weight[4] = {(1 - a) * (1 - b) * k, a * (1 - b) * k, (1 - a) * b * k, a * b * k};
	for (int i = 0; i < 4; i++) {
		uint32_t c = colour[at[i]], n = normal[at[i]];
		out[0] += weight[i] * srgb[c & 255];
		out[1] += weight[i] * srgb[c >> 8 & 255];
		out[2] += weight[i] * srgb[c >> 16 & 255];
		out[3] += weight[i] * (n & 255) / 255.0;
		out[4] += weight[i] * (n >> 8 & 255) / 255.0;
		out[5] += weight[i] * (n >> 16 & 255) / 255.0;
		out[6] += weight[i] * rough[at[i]] / 255.0;
		out[7] += weight[i] * occ[at[i]] / 255.0;
	}
}

static void read_maps(double u, double v, double level, double *out) {
	for (int i = 0; i < 8; i++) out[i] = 0;
	if (level <= 0) {
		level_read(u, v, 0, 1, out);
		return;
	}
	int l = (int)level;
	double f = level - l;
	if (l >= levels - 1) l = levels - 1, f = 0;
	level_read(u, v, l, 1 - f, out);
	if (f > 0) level_read(u, v, l + 1, f, out);
}

int main(int argc, char **argv) {
	if (argc != 4) return 2;
	FILE *in = fopen(argv[1], "rb");
	if (!in) return 1;
	double head[4]; /* pixels a side, metres a pixel, metres per repeat, seam in degrees */
	if (fread(head, sizeof head, 1, in) != 1) return 1;
	int total = 0;
	for (int w = SIDE; w >= 1; w /= 2) {
		widths[levels] = w;
		offsets[levels++] = total;
		total += w * w;
	}
	colour = malloc(4 * total);
	normal = malloc(4 * total);
	rough = malloc(total);
	occ = malloc(total);
	if (fread(colour, 4, total, in) != (size_t)total || fread(normal, 4, total, in) != (size_t)total ||
		fread(rough, 1, total, in) != (size_t)total || fread(occ, 1, total, in) != (size_t)total)
		return 1;
	fclose(in);
	for (int i = 0; i < 256; i++) {
		double c = i / 255.0;
		srgb[i] = c <= 0.04045 ? c / 12.92 : pow((c + 0.055) / 1.055, 2.4);
	}
	int size = (int)head[0];
	double step = head[1], repeat = head[2], reach = sqrt(2) * sin(head[3] * M_PI / 180 / 2);
	uint8_t *out = malloc((size_t)size * size * 8);
	Vec n = {1 / sqrt(3), 1 / sqrt(3), 1 / sqrt(3)}, right = {1 / sqrt(2), 0, -1 / sqrt(2)},
		down = {1 / sqrt(6), -2 / sqrt(6), 1 / sqrt(6)};
	for (int run = atoi(argv[3]); run > 0; run--) {
		struct timespec t0, t1;
		clock_gettime(CLOCK_MONOTONIC, &t0);
		uint8_t *o = out;
		for (int y = 0; y < size; y++)
			for (int x = 0; x < size; x++) {
				double px = (x + 0.5) * step, py = (y + 0.5) * step;
				Vec p = {right.x * px + down.x * py, right.y * px + down.y * py, right.z * px + down.z * py};
				double ax = fabs(n.x), ay = fabs(n.y), az = fabs(n.z), big = fmax(ax, fmax(ay, az));
				double w[3] = {fmax(ax - big + reach, 0), fmax(ay - big + reach, 0), fmax(az - big + reach, 0)};
				double sum = fmax(w[0] + w[1] + w[2], 1e-9);
				/* u and v of each face, their directions and their derivatives */
				double uv[3][2] = {{-p.z, -p.y}, {p.x, p.z}, {p.x, -p.y}};
				double dx[3][2] = {{-right.z, -right.y}, {right.x, right.z}, {right.x, -right.y}};
				double dy[3][2] = {{-down.z, -down.y}, {down.x, down.z}, {down.x, -down.y}};
				Vec t[3] = {{0, 0, -1}, {1, 0, 0}, {1, 0, 0}}, b[3] = {{0, -1, 0}, {0, 0, 1}, {0, -1, 0}};
				double acc[5] = {0}, r[8];
				Vec g = {0, 0, 0};
				for (int i = 0; i < 3; i++) {
					double k = w[i] / sum, s = step / repeat * SIDE;
					if (k <= 0) continue;
					double gx = dx[i][0] * s, gy = dx[i][1] * s, hx = dy[i][0] * s, hy = dy[i][1] * s;
					double level = 0.5 * log2(fmax(fmax(gx * gx + gy * gy, hx * hx + hy * hy), 1));
					read_maps(uv[i][0] / repeat, uv[i][1] / repeat, level, r);
					for (int c = 0; c < 3; c++) acc[c] += k * r[c];
					acc[3] += k * r[6];
					acc[4] += k * r[7];
					double mx = 2 * r[3] - 1, my = 2 * r[4] - 1, mz = fmax(2 * r[5] - 1, 1.0 / 16);
					double su = -mx / mz * k, sv = my / mz * k;
					g.x += t[i].x * su + b[i].x * sv;
					g.y += t[i].y * su + b[i].y * sv;
					g.z += t[i].z * su + b[i].z * sv;
				}
				double along = dot(n, g);
				Vec m = {n.x - (g.x - n.x * along), n.y - (g.y - n.y * along), n.z - (g.z - n.z * along)};
				double length = sqrt(dot(m, m));
				for (int c = 0; c < 3; c++) *o++ = (uint8_t)(clamp(encode(acc[c])) * 255 + 0.5);
				*o++ = (uint8_t)(clamp(m.x / length * 0.5 + 0.5) * 255 + 0.5);
				*o++ = (uint8_t)(clamp(m.y / length * 0.5 + 0.5) * 255 + 0.5);
				*o++ = (uint8_t)(clamp(m.z / length * 0.5 + 0.5) * 255 + 0.5);
				*o++ = (uint8_t)(clamp(acc[3]) * 255 + 0.5);
				*o++ = (uint8_t)(clamp(acc[4]) * 255 + 0.5);
			}
		clock_gettime(CLOCK_MONOTONIC, &t1);
		printf("%.6f\n", (t1.tv_sec - t0.tv_sec) + (t1.tv_nsec - t0.tv_nsec) * 1e-9);
	}
	FILE *f = fopen(argv[2], "wb");
	if (!f || fwrite(out, 8, (size_t)size * size, f) != (size_t)size * size) return 1;
	return fclose(f);
}
