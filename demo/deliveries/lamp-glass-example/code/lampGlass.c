// Lamp glass
/*
 * A material as one C99 function, in double precision. It needs nothing but the mathematics of the standard library (-lm).
 * Texels: for each map 32-bit numbers, all levels after one another, the largest first, rows from the top; each level is half as
 * wide and high as the one before, rounded down, down to 1 x 1. Four values a texel lie in it from the lowest byte up.
 */
#include <math.h>
#include <stdbool.h>
#include <stdint.h>

static double lampGlass_min(double a, double b) { return b < a ? b : a; }
static double lampGlass_max(double a, double b) { return a < b ? b : a; }
/* The linear light of sRGB bytes (IEC 61966-2-1). */
static const double lampGlass_srgb[256] = {
    0.0, 0.0003035269835488375, 0.000607053967097675, 0.0009105809506465125, 0.00121410793419535, 0.0015176349177441874, 0.001821161901293025, 0.0021246888848418626,
    0.0024282158683907, 0.0027317428519395373, 0.003035269835488375, 0.003346535763899161, 0.003676507324047436, 0.004024717018496307, 0.004391442037410293, 0.004776953480693729,
    0.005181516702338386, 0.005605391624202723, 0.006048833022857054, 0.006512090792594475, 0.006995410187265387, 0.007499032043226175, 0.008023192985384994, 0.008568125618069307,
    0.009134058702220787, 0.00972121732023785, 0.010329823029626936, 0.010960094006488246, 0.011612245179743885, 0.012286488356915872, 0.012983032342173012, 0.013702083047289686,
    0.014443843596092545, 0.01520851442291271, 0.01599629336550963, 0.016807375752887384, 0.017641954488384078, 0.018500220128379697, 0.019382360956935723, 0.0202885630566524,
    0.021219010376003555, 0.02217388479338738, 0.02315336617811041, 0.024157632448504756, 0.02518685962736163, 0.026241221894849898, 0.027320891639074894, 0.028426039504420793,
    0.0295568344378088, 0.030713443732993635, 0.03189603307301153, 0.033104766570885055, 0.03433980680868217, 0.03560131487502034, 0.03688945040110004, 0.0382043715953465,
    0.03954623527673284, 0.04091519690685319, 0.042311410620809675, 0.043735029256973465, 0.04518620438567554, 0.046665086336880095, 0.04817182422688942, 0.04970656598412723,
    0.05126945837404324, 0.052860647023180246, 0.05448027644244237, 0.05612849004960009, 0.05780543019106723, 0.0595112381629812, 0.06124605423161761, 0.06301001765316767,
    0.06480326669290577, 0.06662593864377289, 0.06847816984440017, 0.07036009569659588, 0.07227185068231748, 0.07421356838014963, 0.07618538148130785, 0.07818742180518633,
    0.08021982031446832, 0.0822827071298148, 0.08437621154414882, 0.08650046203654976, 0.08865558628577294, 0.09084171118340768, 0.09305896284668745, 0.0953074666309647,
    0.09758734714186246, 0.09989872824711389, 0.10224173308810132, 0.10461648409110419, 0.10702310297826761, 0.10946171077829933, 0.1119324278369056, 0.11443537382697373,
    0.11697066775851084, 0.11953842798834562, 0.12213877222960187, 0.12477181756095049, 0.12743768043564743, 0.1301364766903643, 0.13286832155381798, 0.13563332965520566,
    0.13843161503245183, 0.14126329114027164, 0.14412847085805777, 0.14702726649759498, 0.14995978981060856, 0.15292615199615017, 0.1559264637078274, 0.1589608350608804,
    0.162029375639111, 0.1651321945016676, 0.16826940018969075, 0.1714411007328226, 0.17464740365558504, 0.17788841598362912, 0.18116424424986022, 0.184474994500441,
    0.18782077230067787, 0.19120168274079138, 0.1946178304415758, 0.19806931955994886, 0.20155625379439707, 0.20507873639031693, 0.20863687014525575, 0.21223075741405523,
    0.21586050011389926, 0.2195261997292692, 0.2232279573168085, 0.22696587351009836, 0.23074004852434915, 0.23455058216100522, 0.238397573812271, 0.24228112246555486,
    0.24620132670783548, 0.25015828472995344, 0.25415209433082675, 0.2581828529215958, 0.26225065752969623, 0.26635560480286247, 0.2704977910130658, 0.27467731206038465,
    0.2788942634768104, 0.2831487404299921, 0.2874408377269175, 0.29177064981753587, 0.2961382707983211, 0.3005437944157765, 0.3049873140698863, 0.30946892281750854,
    0.31398871337571754, 0.31854677812509186, 0.32314320911295075, 0.3277780980565422, 0.33245153634617935, 0.33716361504833037, 0.3419144249086609, 0.3467040563550296,
    0.35153259950043936, 0.3564001441459435, 0.3613067797835095, 0.3662525955988395, 0.3712376804741491, 0.3762621229909065, 0.38132601143253014, 0.386429433787049,
    0.39157247774972326, 0.39675523072562685, 0.4019777798321958, 0.4072402119017367, 0.41254261348390375, 0.4178850708481375, 0.4232676699860717, 0.4286904966139066,
    0.43415363617474895, 0.4396571738409188, 0.44520119451622786, 0.45078578283822346, 0.45641102318040466, 0.4620769996544071, 0.467783796112159, 0.47353149614800955,
    0.4793201831008268, 0.4851499400560704, 0.4910208498478356, 0.4969329950608704, 0.5028864580325687, 0.5088813208549338, 0.5149176653765214, 0.5209955732043543,
    0.5271151257058131, 0.5332764040105052, 0.5394794890121072, 0.5457244613701866, 0.5520114015120001, 0.5583403896342679, 0.5647115057049292, 0.5711248294648731,
    0.5775804404296506, 0.5840784178911641, 0.5906188409193369, 0.5972017883637634, 0.6038273388553378, 0.6104955708078648, 0.6172065624196511, 0.6239603916750761,
    0.6307571363461468, 0.6375968739940326, 0.6444796819705821, 0.6514056374198242, 0.6583748172794485, 0.665387298282272, 0.6724431569576875, 0.6795424696330938,
    0.6866853124353135, 0.6938717612919899, 0.7011018919329731, 0.7083757798916868, 0.7156935005064807, 0.7230551289219693, 0.7304607400903537, 0.7379104087727308,
    0.7454042095403874, 0.7529422167760779, 0.7605245046752924, 0.768151147247507, 0.7758222183174236, 0.7835377915261935, 0.7912979403326302, 0.799102738014409,
    0.8069522576692516, 0.8148465722161012, 0.8227857543962835, 0.8307698767746546, 0.83879901174074, 0.846873231509858, 0.8549926081242338, 0.8631572134541023,
    0.8713671191987972, 0.8796223968878317, 0.8879231178819663, 0.8962693533742664, 0.9046611743911496, 0.9130986517934192, 0.9215818562772946, 0.9301108583754237,
    0.938685728457888, 0.9473065367331999, 0.9559733532492861, 0.9646862478944651, 0.9734452903984125, 0.9822505503331171, 0.9911020971138298, 1.0
};

enum { LAMPGLASS_GREY8, LAMPGLASS_GREY16, LAMPGLASS_RGBA8, LAMPGLASS_SRGB8 };
enum { LAMPGLASS_REPEAT, LAMPGLASS_MIRROR, LAMPGLASS_EDGE };
typedef struct { double x, y, z, w; } lampGlass_texel;
static const lampGlass_texel lampGlass_nothing = { 0.0, 0.0, 0.0, 0.0 };

/* The texel that a coordinate in texels, 0 to 1 repeats or a little beside, falls on. */
static int lampGlass_wrap(int t, int size, int how) {
    if (t >= 0 && t < size) return t;
    if (how == LAMPGLASS_EDGE) return t < 0 ? 0 : size - 1;
    if (how == LAMPGLASS_MIRROR) {
        t %= 2 * size;
        if (t < 0) t += 2 * size;
        return t >= size ? 2 * size - 1 - t : t;
    }
    t %= size;
    return t < 0 ? t + size : t;
}

/* Whole repeats make no difference; of what is reversed in every other one, pairs. */
static double lampGlass_within(double t, int how) {
    return how == LAMPGLASS_REPEAT ? t - floor(t) : how == LAMPGLASS_MIRROR ? t - 2.0 * floor(t * 0.5) : t < -1.0 ? -1.0 : t > 2.0 ? 2.0 : t;
}

/* Between the four texels around a coordinate, or the one that it lies in, of one level. */
static void lampGlass_level(lampGlass_texel *sum, const uint32_t *texels, int width, int height, int kind, bool sharp, int wrap_u, int wrap_v, double u, double v, double share) {
    const double x = u * width - (sharp ? 0.0 : 0.5), y = v * height - (sharp ? 0.0 : 0.5);
    const double left = floor(x), top = floor(y);
    const double a = sharp ? 0.0 : x - left, b = sharp ? 0.0 : y - top;
    const int x0 = lampGlass_wrap((int) left, width, wrap_u), x1 = lampGlass_wrap((int) left + 1, width, wrap_u);
    const uint32_t *upper = texels + (int64_t) lampGlass_wrap((int) top, height, wrap_v) * width;
    const uint32_t *lower = texels + (int64_t) lampGlass_wrap((int) top + 1, height, wrap_v) * width;
    const uint32_t t[4] = { upper[x0], upper[x1], lower[x0], lower[x1] };
    const double s[4] = { share * ((1.0 - a) * (1.0 - b)), share * (a * (1.0 - b)), share * ((1.0 - a) * b), share * (a * b) };
    if (kind == LAMPGLASS_GREY8 || kind == LAMPGLASS_GREY16) {
        const double one = kind == LAMPGLASS_GREY8 ? 255.0 : 65535.0;
        for (int i = 0; i < 4; ++i) sum->x += s[i] * (double) t[i] / one;
        sum->w += share;
        return;
    }
    for (int i = 0; i < 4; ++i) {
        const uint32_t red = t[i] & 255u, green = t[i] >> 8 & 255u, blue = t[i] >> 16 & 255u;
        sum->x += s[i] * (kind == LAMPGLASS_SRGB8 ? lampGlass_srgb[red] : (double) red / 255.0);
        sum->y += s[i] * (kind == LAMPGLASS_SRGB8 ? lampGlass_srgb[green] : (double) green / 255.0);
        sum->z += s[i] * (kind == LAMPGLASS_SRGB8 ? lampGlass_srgb[blue] : (double) blue / 255.0);
        sum->w += s[i] * (double) (t[i] >> 24) / 255.0;
    }
}

static lampGlass_texel lampGlass_read(const uint32_t *texels, int width, int height, int kind, bool sharp, bool mips, int wrap_u, int wrap_v, double u, double v, double level) {
    lampGlass_texel sum = lampGlass_nothing;
    double part = mips && level > 0.0 ? level : 0.0;
    u = lampGlass_within(u, wrap_u);
    v = lampGlass_within(v, wrap_v);
    while (part >= 1.0 && (width > 1 || height > 1)) {
        texels += (int64_t) width * height;
        width = width > 1 ? width / 2 : 1;
        height = height > 1 ? height / 2 : 1;
        part -= 1.0;
    }
    if (width == 1 && height == 1) part = 0.0;
    lampGlass_level(&sum, texels, width, height, kind, sharp, wrap_u, wrap_v, u, v, 1.0 - part);
    if (part > 0.0) lampGlass_level(&sum, texels + (int64_t) width * height, width > 1 ? width / 2 : 1, height > 1 ? height / 2 : 1, kind, sharp, wrap_u, wrap_v, u, v, part);
    return sum;
}

/* The numbers of the document, and the clock in 1/1024 s. */
typedef struct {
    uint32_t clock;
    double main_0_origin_seam;
    double main_1_size_u;
    double finish_glass_hue;
    double finish_glass_saturation;
    double finish_glass_lightness;
    double finish_glass_tint_0;
    double finish_glass_tint_1;
    double finish_glass_tint_2;
    double finish_glass_roughnessFrom;
    double finish_glass_roughnessTo;
    double finish_glass_roughnessFactor;
    double finish_glass_opacityFrom;
    double parameter_clear;
    double finish_glass_opacityTo_factor;
    double finish_glass_opacityTo_offset;
    double finish_glass_opacityFactor;
    double mask_glow_0_size;
    double mask_glow_0_at;
    uint32_t mask_glow_0_seed;
    double mask_glow_0_breaks;
    double mask_glow_0_fade;
    double mask_glow_0_band;
    double mask_glow_0_high;
    double mask_glow_0_low;
    double mask_glow_0_gamma;
    double mask_glow_0_pivot;
    double mask_glow_0_contrast;
    double finish_glow_glow_0;
    double finish_glow_glow_1;
    double finish_glow_glow_2;
    double parameter_lit;
    double finish_glow_glowStrength_factor;
    double finish_glow_glowStrength_offset;
    double opacity_glow;
    double surface_density;
} lampGlass_uniforms;

/* The texels of the maps. */
typedef struct {
    const uint32_t *crackle_glaze_base_colour; /* 512 x 512 */
    const uint32_t *crackle_glaze_normal; /* 512 x 512 */
    const uint32_t *crackle_glaze_roughness; /* 512 x 512 */
    const uint32_t *crackle_glaze_occlusion; /* 512 x 512 */
    const uint32_t *crackle_glaze_height; /* 512 x 512 */
} lampGlass_maps;

/* A point of a surface: metres, in the world; directions are unit vectors; …Dx and …Dy to the next pixel on the right and below. */
typedef struct {
    double position[3];
    double normal[3];
    double dpdx[3];
    double dpdy[3];
    double uv[2];
    double uvDx[2];
    double uvDy[2];
    double uvT[3];
    double uvB[3];
    double uv2[2];
    double uv2Dx[2];
    double uv2Dy[2];
    double uv2T[3];
    double uv2B[3];
    double uv3[2];
    double uv3Dx[2];
    double uv3Dy[2];
    double uv3T[3];
    double uv3B[3];
    double uv4[2];
    double uv4Dx[2];
    double uv4Dy[2];
    double uv4T[3];
    double uv4B[3];
    double section;
    double painted[4];
    double objectOrigin[3];
    double objectX[3];
    double objectY[3];
    double objectZ[3];
    double objectSeed;
    double objectValue;
    double viewDistance;
    double facing;
} lampGlass_surface;

/* What the material is there. Colours in linear light. */
typedef struct {
    double baseColour[3];
    double slope[3];
    double normal[3];
    double opacity;
    double roughness;
    double metallic;
    double occlusion;
    double height;
    double emission[3];
    double coverage;
} lampGlass_result;


/* What follows from the numbers and the clock alone: once, before points are computed. */
void lampGlass_prepare(lampGlass_uniforms *u);
void lampGlass_prepare(lampGlass_uniforms *u) {
    (void) u;
}

void lampGlass_material(const lampGlass_uniforms *u, const lampGlass_maps *m, const lampGlass_surface *s, lampGlass_result *out);
void lampGlass_material(const lampGlass_uniforms *u, const lampGlass_maps *m, const lampGlass_surface *s, lampGlass_result *out) {
    (void) u;
    (void) m;
    (void) s;
    const double v17 = s->position[0] - s->objectOrigin[0];
    const double v18 = s->position[1] - s->objectOrigin[1];
    const double v19 = s->position[2] - s->objectOrigin[2];
    const double v24 = v17 * s->objectX[0] + v18 * s->objectX[1] + v19 * s->objectX[2];
    const double v34 = v17 * s->objectZ[0] + v18 * s->objectZ[1] + v19 * s->objectZ[2];
    const double v42 = s->normal[0] * s->objectX[0] + s->normal[1] * s->objectX[1] + s->normal[2] * s->objectX[2];
    const double v47 = s->normal[0] * s->objectY[0] + s->normal[1] * s->objectY[1] + s->normal[2] * s->objectY[2];
    const double v52 = s->normal[0] * s->objectZ[0] + s->normal[1] * s->objectZ[1] + s->normal[2] * s->objectZ[2];
    const double v60 = s->dpdx[0] * s->objectX[0] + s->dpdx[1] * s->objectX[1] + s->dpdx[2] * s->objectX[2];
    const double v70 = s->dpdx[0] * s->objectZ[0] + s->dpdx[1] * s->objectZ[1] + s->dpdx[2] * s->objectZ[2];
    const double v78 = s->dpdy[0] * s->objectX[0] + s->dpdy[1] * s->objectX[1] + s->dpdy[2] * s->objectX[2];
    const double v88 = s->dpdy[0] * s->objectZ[0] + s->dpdy[1] * s->objectZ[1] + s->dpdy[2] * s->objectZ[2];
    const double v89 = fabs(v42);
    const double v90 = fabs(v47);
    const double v91 = fabs(v52);
    const double v99 = sin(u->main_0_origin_seam * 0.017453292519943295 * 0.5) * 1.4142135623730951;
    const double v101 = lampGlass_max(lampGlass_max(v89, v90), v91);
    const double v104 = lampGlass_max(v89 - v101 + v99, 0.0);
    const double v107 = lampGlass_max(v90 - v101 + v99, 0.0);
    const double v110 = lampGlass_max(v91 - v101 + v99, 0.0);
    const double v114 = lampGlass_max(v104 + v107 + v110, 1.0e-9);
    const bool v116 = v99 <= 1.0e-6;
    const bool v117 = v101 <= v89;
    const double v120 = v116 ? (v117 ? 1.0 : 0.0) : v104 / v114;
    const bool v121 = v101 <= v90;
    const double v127 = v116 ? (v121 && !v117 ? 1.0 : 0.0) : v107 / v114;
    const double v133 = v116 ? (v101 <= v91 && !(v117 || v121) ? 1.0 : 0.0) : v110 / v114;
    const double v137 = (v42 < 0.0 ? -1.0 : 1.0) * -1.0;
    const double v141 = (s->dpdx[0] * s->objectY[0] + s->dpdx[1] * s->objectY[1] + s->dpdx[2] * s->objectY[2]) * -1.0;
    const double v143 = (s->dpdy[0] * s->objectY[0] + s->dpdy[1] * s->objectY[1] + s->dpdy[2] * s->objectY[2]) * -1.0;
    const double v145 = v47 < 0.0 ? -1.0 : 1.0;
    const double v150 = v52 < 0.0 ? -1.0 : 1.0;
    const double v155 = v34 * v137 / u->main_1_size_u;
    const double v156 = (v17 * s->objectY[0] + v18 * s->objectY[1] + v19 * s->objectY[2]) * -1.0 / u->main_1_size_u;
    const double v161 = v24 * v145 / u->main_1_size_u;
    const double v162 = v34 / u->main_1_size_u;
    const double v167 = v24 * v150 / u->main_1_size_u;
    const double v171 = v70 * v137 / u->main_1_size_u * 512.0;
    const double v172 = v141 / u->main_1_size_u * 512.0;
    const double v174 = v172 * v172;
    const double v176 = v88 * v137 / u->main_1_size_u * 512.0;
    const double v177 = v143 / u->main_1_size_u * 512.0;
    const double v179 = v177 * v177;
    const double v184 = log2(lampGlass_max(lampGlass_max(v171 * v171 + v174, v176 * v176 + v179), 1.0)) * 0.5;
    const lampGlass_texel v185 = v120 > 0.0 ? lampGlass_read(m->crackle_glaze_base_colour, 512, 512, LAMPGLASS_SRGB8, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v155, v156, v184) : lampGlass_nothing;
    const double v193 = v60 * v145 / u->main_1_size_u * 512.0;
    const double v194 = v70 / u->main_1_size_u * 512.0;
    const double v198 = v78 * v145 / u->main_1_size_u * 512.0;
    const double v199 = v88 / u->main_1_size_u * 512.0;
    const double v206 = log2(lampGlass_max(lampGlass_max(v193 * v193 + v194 * v194, v198 * v198 + v199 * v199), 1.0)) * 0.5;
    const lampGlass_texel v207 = v127 > 0.0 ? lampGlass_read(m->crackle_glaze_base_colour, 512, 512, LAMPGLASS_SRGB8, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v161, v162, v206) : lampGlass_nothing;
    const double v218 = v60 * v150 / u->main_1_size_u * 512.0;
    const double v221 = v78 * v150 / u->main_1_size_u * 512.0;
    const double v227 = log2(lampGlass_max(lampGlass_max(v218 * v218 + v174, v221 * v221 + v179), 1.0)) * 0.5;
    const lampGlass_texel v228 = v133 > 0.0 ? lampGlass_read(m->crackle_glaze_base_colour, 512, 512, LAMPGLASS_SRGB8, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v167, v156, v227) : lampGlass_nothing;
    const double v236 = v185.x * v120 + v207.x * v127 + v228.x * v133;
    const double v237 = v185.y * v120 + v207.y * v127 + v228.y * v133;
    const double v238 = v185.z * v120 + v207.z * v127 + v228.z * v133;
    const double v267 = pow(lampGlass_max(v236 * 0.4122214708 + v237 * 0.5363325363 + v238 * 0.0514459929, 1.0e-9), 0.3333333333333333);
    const double v268 = pow(lampGlass_max(v236 * 0.2119034982 + v237 * 0.6806995451 + v238 * 0.1073969566, 1.0e-9), 0.3333333333333333);
    const double v269 = pow(lampGlass_max(v236 * 0.0883024619 + v237 * 0.2817188376 + v238 * 0.6299787005, 1.0e-9), 0.3333333333333333);
    const double v285 = v267 * 1.9779984951 + v268 * -2.428592205 + v269 * 0.4505937099;
    const double v293 = v267 * 0.0259040371 + v268 * 0.7827717662 + v269 * -0.808675766;
    const double v295 = u->finish_glass_hue * 0.017453292519943295;
    const double v296 = cos(v295);
    const double v297 = sin(v295);
    const double v300 = u->finish_glass_saturation * 0.01;
    const double v303 = (v267 * 0.2104542553 + v268 * 0.793617785 + v269 * -0.0040720468) * (u->finish_glass_lightness * 0.01);
    const double v307 = (v285 * v296 - v293 * v297) * v300;
    const double v311 = (v285 * v297 + v293 * v296) * v300;
    const double v317 = v303 + v307 * 0.3963377774 + v311 * 0.2158037573;
    const double v323 = v303 + v307 * -0.1055613458 + v311 * -0.0638541728;
    const double v329 = v303 + v307 * -0.0894841775 + v311 * -1.291485548;
    const double v333 = v317 * v317 * v317;
    const double v334 = v323 * v323 * v323;
    const double v335 = v329 * v329 * v329;
    const double v377 = u->finish_glass_tint_0 <= 0.04045 ? u->finish_glass_tint_0 * 0.07739938080495357 : pow((lampGlass_max(u->finish_glass_tint_0, 0.04045) + 0.055) * 0.9478672985781991, 2.4);
    const double v384 = u->finish_glass_tint_1 <= 0.04045 ? u->finish_glass_tint_1 * 0.07739938080495357 : pow((lampGlass_max(u->finish_glass_tint_1, 0.04045) + 0.055) * 0.9478672985781991, 2.4);
    const double v391 = u->finish_glass_tint_2 <= 0.04045 ? u->finish_glass_tint_2 * 0.07739938080495357 : pow((lampGlass_max(u->finish_glass_tint_2, 0.04045) + 0.055) * 0.9478672985781991, 2.4);
    const double v398 = s->objectY[0] * -1.0;
    const double v399 = s->objectY[1] * -1.0;
    const double v400 = s->objectY[2] * -1.0;
    const lampGlass_texel v407 = v120 > 0.0 ? lampGlass_read(m->crackle_glaze_normal, 512, 512, LAMPGLASS_RGBA8, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v155, v156, v184) : lampGlass_nothing;
    const double v420 = lampGlass_max(v407.z * 2.0 - 1.0, 0.0625);
    const double v421 = (v407.y * 2.0 - 1.0) / v420;
    const double v425 = (v407.x * 2.0 - 1.0) / v420;
    const lampGlass_texel v435 = v127 > 0.0 ? lampGlass_read(m->crackle_glaze_normal, 512, 512, LAMPGLASS_RGBA8, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v161, v162, v206) : lampGlass_nothing;
    const double v446 = lampGlass_max(v435.z * 2.0 - 1.0, 0.0625);
    const double v447 = (v435.y * 2.0 - 1.0) / v446;
    const double v451 = (v435.x * 2.0 - 1.0) / v446;
    const double v461 = (v398 * v421 - s->objectZ[0] * v137 * v425) * v120 + (s->objectZ[0] * v447 - s->objectX[0] * v145 * v451) * v127;
    const double v462 = (v399 * v421 - s->objectZ[1] * v137 * v425) * v120 + (s->objectZ[1] * v447 - s->objectX[1] * v145 * v451) * v127;
    const double v463 = (v400 * v421 - s->objectZ[2] * v137 * v425) * v120 + (s->objectZ[2] * v447 - s->objectX[2] * v145 * v451) * v127;
    const lampGlass_texel v464 = v133 > 0.0 ? lampGlass_read(m->crackle_glaze_normal, 512, 512, LAMPGLASS_RGBA8, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v167, v156, v227) : lampGlass_nothing;
    const double v475 = lampGlass_max(v464.z * 2.0 - 1.0, 0.0625);
    const double v476 = (v464.y * 2.0 - 1.0) / v475;
    const double v480 = (v464.x * 2.0 - 1.0) / v475;
    const double v490 = v461 + (v398 * v476 - s->objectX[0] * v150 * v480) * v133;
    const double v491 = v462 + (v399 * v476 - s->objectX[1] * v150 * v480) * v133;
    const double v492 = v463 + (v400 * v476 - s->objectX[2] * v150 * v480) * v133;
    const double v497 = s->normal[0] * v490 + s->normal[1] * v491 + s->normal[2] * v492;
    const double v501 = v490 - s->normal[0] * v497;
    const double v502 = v491 - s->normal[1] * v497;
    const double v503 = v492 - s->normal[2] * v497;
    const double v504 = s->normal[0] - v501;
    const double v505 = s->normal[1] - v502;
    const double v506 = s->normal[2] - v503;
    const double v513 = 1.0 / sqrt(v504 * v504 + v505 * v505 + v506 * v506);
    const double v530 = lampGlass_max(u->parameter_clear * u->finish_glass_opacityTo_factor + u->finish_glass_opacityTo_offset, -4.0);
    const double v533 = (lampGlass_min(v530, 4.0) - u->finish_glass_opacityFrom) * (v185.w * v120 + v207.w * v127 + v228.w * v133);
    const double v538 = lampGlass_max((u->finish_glass_opacityFrom + v533) * (u->finish_glass_opacityFactor * 0.01), 0.0);
    const double v539 = lampGlass_min(v538, 1.0);
    const lampGlass_texel v540 = v120 > 0.0 ? lampGlass_read(m->crackle_glaze_roughness, 512, 512, LAMPGLASS_GREY8, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v155, v156, v184) : lampGlass_nothing;
    const lampGlass_texel v546 = v127 > 0.0 ? lampGlass_read(m->crackle_glaze_roughness, 512, 512, LAMPGLASS_GREY8, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v161, v162, v206) : lampGlass_nothing;
    const lampGlass_texel v553 = v133 > 0.0 ? lampGlass_read(m->crackle_glaze_roughness, 512, 512, LAMPGLASS_GREY8, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v167, v156, v227) : lampGlass_nothing;
    const double v563 = (u->finish_glass_roughnessTo - u->finish_glass_roughnessFrom) * (v540.x * v120 + v546.x * v127 + v553.x * v133);
    const double v568 = lampGlass_max((u->finish_glass_roughnessFrom + v563) * (u->finish_glass_roughnessFactor * 0.01), 0.0);
    const lampGlass_texel v570 = v120 > 0.0 ? lampGlass_read(m->crackle_glaze_occlusion, 512, 512, LAMPGLASS_GREY8, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v155, v156, v184) : lampGlass_nothing;
    const lampGlass_texel v576 = v127 > 0.0 ? lampGlass_read(m->crackle_glaze_occlusion, 512, 512, LAMPGLASS_GREY8, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v161, v162, v206) : lampGlass_nothing;
    const lampGlass_texel v583 = v133 > 0.0 ? lampGlass_read(m->crackle_glaze_occlusion, 512, 512, LAMPGLASS_GREY8, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v167, v156, v227) : lampGlass_nothing;
    const lampGlass_texel v590 = v120 > 0.0 ? lampGlass_read(m->crackle_glaze_height, 512, 512, LAMPGLASS_GREY16, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v155, v156, v184) : lampGlass_nothing;
    const lampGlass_texel v596 = v127 > 0.0 ? lampGlass_read(m->crackle_glaze_height, 512, 512, LAMPGLASS_GREY16, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v161, v162, v206) : lampGlass_nothing;
    const lampGlass_texel v603 = v133 > 0.0 ? lampGlass_read(m->crackle_glaze_height, 512, 512, LAMPGLASS_GREY16, false, true, LAMPGLASS_REPEAT, LAMPGLASS_REPEAT, v167, v156, v227) : lampGlass_nothing;
    const double v616 = (s->position[0] + s->position[2] * 0.61) / u->mask_glow_0_size;
    const double v617 = (s->position[2] - s->position[0] * 0.61) / u->mask_glow_0_size;
    const double v620 = floor(v616);
    const double v621 = floor(v617);
    const double v622 = v616 - v620;
    const double v623 = v617 - v621;
    const uint32_t v631 = (uint32_t) (int64_t) floor(v620) * 1664525u + 1013904223u;
    const uint32_t v632 = (uint32_t) (int64_t) floor(v621) * 1664525u + 1013904223u;
    const uint32_t v633 = u->mask_glow_0_seed * 1664525u + 1013904223u;
    const uint32_t v634 = v632 * v633;
    const uint32_t v635 = v631 + v634;
    const uint32_t v637 = v632 + v633 * v635;
    const uint32_t v639 = v633 + v635 * v637;
    const uint32_t v648 = (v635 ^ (v635 >> 16u)) + (v637 ^ (v637 >> 16u)) * (v639 ^ (v639 >> 16u));
    const double v655 = 0.5 + (double) ((v648 >> 9u) & 1u) * 0.5;
    const double v674 = ((double) ((v648 >> 7u) & 1u) * 2.0 - 1.0) * v655 * v622 + ((double) ((v648 >> 8u) & 1u) * 2.0 - 1.0) * (1.5 - v655) * v623;
    const uint32_t v678 = (uint32_t) (int64_t) floor(v620 + 1.0) * 1664525u + 1013904223u;
    const uint32_t v679 = v678 + v634;
    const uint32_t v681 = v632 + v633 * v679;
    const uint32_t v683 = v633 + v679 * v681;
    const uint32_t v691 = (v679 ^ (v679 >> 16u)) + (v681 ^ (v681 >> 16u)) * (v683 ^ (v683 >> 16u));
    const double v696 = 0.5 + (double) ((v691 >> 9u) & 1u) * 0.5;
    const double v710 = v622 - 1.0;
    const double v713 = ((double) ((v691 >> 7u) & 1u) * 2.0 - 1.0) * v696 * v710 + ((double) ((v691 >> 8u) & 1u) * 2.0 - 1.0) * (1.5 - v696) * v623;
    const uint32_t v717 = (uint32_t) (int64_t) floor(v621 + 1.0) * 1664525u + 1013904223u;
    const uint32_t v718 = v717 * v633;
    const uint32_t v719 = v631 + v718;
    const uint32_t v721 = v717 + v633 * v719;
    const uint32_t v723 = v633 + v719 * v721;
    const uint32_t v731 = (v719 ^ (v719 >> 16u)) + (v721 ^ (v721 >> 16u)) * (v723 ^ (v723 >> 16u));
    const double v736 = 0.5 + (double) ((v731 >> 9u) & 1u) * 0.5;
    const double v750 = v623 - 1.0;
    const double v753 = ((double) ((v731 >> 7u) & 1u) * 2.0 - 1.0) * v736 * v622 + ((double) ((v731 >> 8u) & 1u) * 2.0 - 1.0) * (1.5 - v736) * v750;
    const uint32_t v754 = v678 + v718;
    const uint32_t v756 = v717 + v633 * v754;
    const uint32_t v758 = v633 + v754 * v756;
    const uint32_t v766 = (v754 ^ (v754 >> 16u)) + (v756 ^ (v756 >> 16u)) * (v758 ^ (v758 >> 16u));
    const double v771 = 0.5 + (double) ((v766 >> 9u) & 1u) * 0.5;
    const double v787 = ((double) ((v766 >> 7u) & 1u) * 2.0 - 1.0) * v771 * v710 + ((double) ((v766 >> 8u) & 1u) * 2.0 - 1.0) * (1.5 - v771) * v750;
    const double v803 = v622 * v622 * v622 * (v622 * (v622 * 6.0 - 15.0) + 10.0);
    const double v807 = v674 + (v713 - v674) * v803;
    const double v812 = (v753 + (v787 - v753) * v803 - v807) * (v623 * v623 * v623 * (v623 * (v623 * 6.0 - 15.0) + 10.0));
    const double v816 = u->mask_glow_0_at + (v807 + v812) * u->mask_glow_0_breaks;
    const double v818 = u->mask_glow_0_fade * 0.5;
    const double v820 = v816 - v818;
    const double v828 = lampGlass_min(lampGlass_max((s->position[1] - v820) / lampGlass_max(v816 + v818 - v820, 1.0e-5), 0.0), 1.0);
    const double v831 = v816 - u->mask_glow_0_band;
    const double v832 = v831 - v818;
    const double v839 = lampGlass_min(lampGlass_max((s->position[1] - v832) / lampGlass_max(v831 + v818 - v832, 1.0e-5), 0.0), 1.0);
    const double v846 = u->mask_glow_0_high - u->mask_glow_0_low;
    const double v847 = (1.0 - v828) * (0.0 < u->mask_glow_0_band ? 1.0 - (1.0 - v839) : 1.0) - u->mask_glow_0_low;
    const double v853 = lampGlass_min(lampGlass_max(v847 / (fabs(v846) < 1.0e-5 ? 1.0e-5 : v846), 0.0), 1.0);
    const double v862 = pow(lampGlass_max(v853, 1.0e-7), 1.0 / u->mask_glow_0_gamma) * lampGlass_min(v853 * 10000000.0, 1.0);
    const double v869 = lampGlass_max((v862 - u->mask_glow_0_pivot) * (u->mask_glow_0_contrast * 0.01) + u->mask_glow_0_pivot, 0.0);
    const double v872 = v120 + v127 + v133;
    const double v882 = u->finish_glow_glow_0 <= 0.04045 ? u->finish_glow_glow_0 * 0.07739938080495357 : pow((lampGlass_max(u->finish_glow_glow_0, 0.04045) + 0.055) * 0.9478672985781991, 2.4);
    const double v889 = u->finish_glow_glow_1 <= 0.04045 ? u->finish_glow_glow_1 * 0.07739938080495357 : pow((lampGlass_max(u->finish_glow_glow_1, 0.04045) + 0.055) * 0.9478672985781991, 2.4);
    const double v896 = u->finish_glow_glow_2 <= 0.04045 ? u->finish_glow_glow_2 * 0.07739938080495357 : pow((lampGlass_max(u->finish_glow_glow_2, 0.04045) + 0.055) * 0.9478672985781991, 2.4);
    const double v901 = u->parameter_lit * u->finish_glow_glowStrength_factor + u->finish_glow_glowStrength_offset;
    const double v905 = lampGlass_min(lampGlass_max(v901, 0.0), 100000.0) * 0.01;
    const double v914 = u->opacity_glow * 0.01 * lampGlass_min(v869, 1.0);
    out->baseColour[0] = lampGlass_max(v333 * 4.0767416621 + v334 * -3.3077115913 + v335 * 0.2309699292, 0.0) * v377;
    out->baseColour[1] = lampGlass_max(v333 * -1.2684380046 + v334 * 2.6097574011 + v335 * -0.3413193965, 0.0) * v384;
    out->baseColour[2] = lampGlass_max(v333 * -0.0041960863 + v334 * -0.7034186147 + v335 * 1.707614701, 0.0) * v391;
    out->slope[0] = v501;
    out->slope[1] = v502;
    out->slope[2] = v503;
    out->normal[0] = v504 * v513;
    out->normal[1] = v505 * v513;
    out->normal[2] = v506 * v513;
    out->opacity = v539;
    out->roughness = lampGlass_min(v568, 1.0);
    out->metallic = 0.0;
    out->occlusion = v570.x * v120 + v576.x * v127 + v583.x * v133;
    out->height = v590.x * v120 + v596.x * v127 + v603.x * v133;
    out->emission[0] = v872 * (v882 * v905) * v914;
    out->emission[1] = v872 * (v889 * v905) * v914;
    out->emission[2] = v872 * (v896 * v905) * v914;
    out->coverage = v539;
}

/* How much of each layer is seen at a point, 0 to 1: the same question as bin/rilta at asks. */
typedef struct {
    double glass;
    double glow;
} lampGlass_shares;

void lampGlass_layers(const lampGlass_uniforms *u, const lampGlass_maps *m, const lampGlass_surface *s, lampGlass_shares *out);
void lampGlass_layers(const lampGlass_uniforms *u, const lampGlass_maps *m, const lampGlass_surface *s, lampGlass_shares *out) {
    (void) u;
    (void) m;
    (void) s;
    const double v13 = (s->position[0] + s->position[2] * 0.61) / u->mask_glow_0_size;
    const double v14 = (s->position[2] - s->position[0] * 0.61) / u->mask_glow_0_size;
    const double v17 = floor(v13);
    const double v18 = floor(v14);
    const double v19 = v13 - v17;
    const double v20 = v14 - v18;
    const uint32_t v28 = (uint32_t) (int64_t) floor(v17) * 1664525u + 1013904223u;
    const uint32_t v29 = (uint32_t) (int64_t) floor(v18) * 1664525u + 1013904223u;
    const uint32_t v30 = u->mask_glow_0_seed * 1664525u + 1013904223u;
    const uint32_t v31 = v29 * v30;
    const uint32_t v32 = v28 + v31;
    const uint32_t v34 = v29 + v30 * v32;
    const uint32_t v36 = v30 + v32 * v34;
    const uint32_t v45 = (v32 ^ (v32 >> 16u)) + (v34 ^ (v34 >> 16u)) * (v36 ^ (v36 >> 16u));
    const double v52 = 0.5 + (double) ((v45 >> 9u) & 1u) * 0.5;
    const double v72 = ((double) ((v45 >> 7u) & 1u) * 2.0 - 1.0) * v52 * v19 + ((double) ((v45 >> 8u) & 1u) * 2.0 - 1.0) * (1.5 - v52) * v20;
    const uint32_t v76 = (uint32_t) (int64_t) floor(v17 + 1.0) * 1664525u + 1013904223u;
    const uint32_t v77 = v76 + v31;
    const uint32_t v79 = v29 + v30 * v77;
    const uint32_t v81 = v30 + v77 * v79;
    const uint32_t v89 = (v77 ^ (v77 >> 16u)) + (v79 ^ (v79 >> 16u)) * (v81 ^ (v81 >> 16u));
    const double v94 = 0.5 + (double) ((v89 >> 9u) & 1u) * 0.5;
    const double v108 = v19 - 1.0;
    const double v111 = ((double) ((v89 >> 7u) & 1u) * 2.0 - 1.0) * v94 * v108 + ((double) ((v89 >> 8u) & 1u) * 2.0 - 1.0) * (1.5 - v94) * v20;
    const uint32_t v115 = (uint32_t) (int64_t) floor(v18 + 1.0) * 1664525u + 1013904223u;
    const uint32_t v116 = v115 * v30;
    const uint32_t v117 = v28 + v116;
    const uint32_t v119 = v115 + v30 * v117;
    const uint32_t v121 = v30 + v117 * v119;
    const uint32_t v129 = (v117 ^ (v117 >> 16u)) + (v119 ^ (v119 >> 16u)) * (v121 ^ (v121 >> 16u));
    const double v134 = 0.5 + (double) ((v129 >> 9u) & 1u) * 0.5;
    const double v148 = v20 - 1.0;
    const double v151 = ((double) ((v129 >> 7u) & 1u) * 2.0 - 1.0) * v134 * v19 + ((double) ((v129 >> 8u) & 1u) * 2.0 - 1.0) * (1.5 - v134) * v148;
    const uint32_t v152 = v76 + v116;
    const uint32_t v154 = v115 + v30 * v152;
    const uint32_t v156 = v30 + v152 * v154;
    const uint32_t v164 = (v152 ^ (v152 >> 16u)) + (v154 ^ (v154 >> 16u)) * (v156 ^ (v156 >> 16u));
    const double v169 = 0.5 + (double) ((v164 >> 9u) & 1u) * 0.5;
    const double v185 = ((double) ((v164 >> 7u) & 1u) * 2.0 - 1.0) * v169 * v108 + ((double) ((v164 >> 8u) & 1u) * 2.0 - 1.0) * (1.5 - v169) * v148;
    const double v201 = v19 * v19 * v19 * (v19 * (v19 * 6.0 - 15.0) + 10.0);
    const double v205 = v72 + (v111 - v72) * v201;
    const double v210 = (v151 + (v185 - v151) * v201 - v205) * (v20 * v20 * v20 * (v20 * (v20 * 6.0 - 15.0) + 10.0));
    const double v214 = u->mask_glow_0_at + (v205 + v210) * u->mask_glow_0_breaks;
    const double v216 = u->mask_glow_0_fade * 0.5;
    const double v218 = v214 - v216;
    const double v226 = lampGlass_min(lampGlass_max((s->position[1] - v218) / lampGlass_max(v214 + v216 - v218, 1.0e-5), 0.0), 1.0);
    const double v229 = v214 - u->mask_glow_0_band;
    const double v230 = v229 - v216;
    const double v237 = lampGlass_min(lampGlass_max((s->position[1] - v230) / lampGlass_max(v229 + v216 - v230, 1.0e-5), 0.0), 1.0);
    const double v244 = u->mask_glow_0_high - u->mask_glow_0_low;
    const double v245 = (1.0 - v226) * (0.0 < u->mask_glow_0_band ? 1.0 - (1.0 - v237) : 1.0) - u->mask_glow_0_low;
    const double v251 = lampGlass_min(lampGlass_max(v245 / (fabs(v244) < 1.0e-5 ? 1.0e-5 : v244), 0.0), 1.0);
    const double v260 = pow(lampGlass_max(v251, 1.0e-7), 1.0 / u->mask_glow_0_gamma) * lampGlass_min(v251 * 10000000.0, 1.0);
    const double v267 = lampGlass_max((v260 - u->mask_glow_0_pivot) * (u->mask_glow_0_contrast * 0.01) + u->mask_glow_0_pivot, 0.0);
    out->glass = 1.0;
    out->glow = u->opacity_glow * 0.01 * lampGlass_min(v267, 1.0);
}
