/* Four maps with their mip levels, as the benches read them: in memory, trilinear, in double precision. */
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

/* Reads the four maps from an open file: largest level first. */
static int load(FILE *in) {
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
		return 0;
	for (int i = 0; i < 256; i++) {
		double c = i / 255.0;
		srgb[i] = c <= 0.04045 ? c / 12.92 : pow((c + 0.055) / 1.055, 2.4);
	}
	return 1;
}

/* The level at which a pixel covers one texel: derivatives in texels. */
static double mip(double gx, double gy, double hx, double hy) {
	return 0.5 * log2(fmax(fmax(gx * gx + gy * gy, hx * hx + hy * hy), 1));
}

static uint8_t *put(uint8_t *o, const double *linear, Vec m, double roughness, double occlusion) {
	double length = sqrt(dot(m, m));
	for (int c = 0; c < 3; c++) *o++ = (uint8_t)(clamp(encode(linear[c])) * 255 + 0.5);
	*o++ = (uint8_t)(clamp(m.x / length * 0.5 + 0.5) * 255 + 0.5);
	*o++ = (uint8_t)(clamp(m.y / length * 0.5 + 0.5) * 255 + 0.5);
	*o++ = (uint8_t)(clamp(m.z / length * 0.5 + 0.5) * 255 + 0.5);
	*o++ = (uint8_t)(clamp(roughness) * 255 + 0.5);
	*o++ = (uint8_t)(clamp(occlusion) * 255 + 0.5);
	return o;
}

static double now(void) {
	struct timespec t;
	clock_gettime(CLOCK_MONOTONIC, &t);
	return t.tv_sec + t.tv_nsec * 1e-9;
}

static int keep(const char *path, const uint8_t *out, int size) {
	FILE *f = fopen(path, "wb");
	if (!f || fwrite(out, 8, (size_t)size * size, f) != (size_t)size * size) return 1;
	return fclose(f);
}
