/*
 * The arithmetic of the tri-planar bench, single-threaded, as core/bench/run.php describes it.
 * Usage: triplanar INPUT OUTPUT RUNS   Prints the seconds of each run.
 */
#include "maps.h"

int main(int argc, char **argv) {
	if (argc != 4) return 2;
	FILE *in = fopen(argv[1], "rb");
	if (!in) return 1;
	double head[4]; /* pixels a side, metres a pixel, metres per repeat, seam in degrees */
	if (fread(head, sizeof head, 1, in) != 1) return 1;
	if (!load(in)) return 1;
	fclose(in);
	int size = (int)head[0];
	double step = head[1], repeat = head[2], reach = sqrt(2) * sin(head[3] * M_PI / 180 / 2);
	uint8_t *out = malloc((size_t)size * size * 8);
	Vec n = {1 / sqrt(3), 1 / sqrt(3), 1 / sqrt(3)}, right = {1 / sqrt(2), 0, -1 / sqrt(2)},
		down = {1 / sqrt(6), -2 / sqrt(6), 1 / sqrt(6)};
	for (int run = atoi(argv[3]); run > 0; run--) {
		double start = now();
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
					double level = mip(gx, gy, hx, hy);
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
				o = put(o, acc, m, acc[3], acc[4]);
			}
		printf("%.6f\n", now() - start);
	}
	return keep(argv[2], out, size);
}
