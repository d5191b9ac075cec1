// HLSL, shader model 5 or 6.
// Lamp glass
cbuffer LampGlassNumbers : register(b0) {
    float lampGlass_main_1_size_u; // Size, m (/lanes/0/steps/1/values/u)
    float lampGlass_finish_glass_tint_0; // Tint, red (/layers/0/finish/values/tint/0)
    float lampGlass_finish_glass_tint_1; // Tint, green (/layers/0/finish/values/tint/1)
    float lampGlass_finish_glass_tint_2; // Tint, blue (/layers/0/finish/values/tint/2)
    float lampGlass_finish_glass_roughnessFrom; // Black becomes (/layers/0/finish/values/roughnessFrom)
    float lampGlass_finish_glass_roughnessTo; // White becomes (/layers/0/finish/values/roughnessTo)
    float lampGlass_finish_glass_opacityFrom; // Black becomes (/layers/0/finish/values/opacityFrom)
    float lampGlass_mask_glow_0_size; // Size, m (/layers/1/mask/0/values/size)
    float lampGlass_mask_glow_0_at; // At, m (/layers/1/mask/0/values/at)
    uint lampGlass_mask_glow_0_seed; // Seed (/layers/1/mask/0/values/seed)
    float lampGlass_mask_glow_0_breaks; // Broken by, m (/layers/1/mask/0/values/breaks)
    float lampGlass_mask_glow_0_band; // Band, m (/layers/1/mask/0/values/band)
    float lampGlass_mask_glow_0_low; // Black at (/layers/1/mask/0/values/low)
    float lampGlass_mask_glow_0_pivot; // Pivot (/layers/1/mask/0/values/pivot)
    float lampGlass_finish_glow_glow_0; // Glow, red (/layers/1/finish/values/glow/0)
    float lampGlass_finish_glow_glow_1; // Glow, green (/layers/1/finish/values/glow/1)
    float lampGlass_finish_glow_glow_2; // Glow, blue (/layers/1/finish/values/glow/2)
    float lampGlass_main_0_origin_seam; // Seam width, ° (/lanes/0/steps/0/values/seam)
    float lampGlass_finish_glass_hue; // Hue, ° (/layers/0/finish/values/hue)
    float lampGlass_finish_glass_saturation; // Saturation, % (/layers/0/finish/values/saturation)
    float lampGlass_finish_glass_lightness; // Lightness, % (/layers/0/finish/values/lightness)
    float lampGlass_finish_glass_roughnessFactor; // Factor, % (/layers/0/finish/values/roughnessFactor)
    float lampGlass_parameter_clear; // Clear, % (/parameters/1/value)
    float lampGlass_finish_glass_opacityTo_factor; // White becomes, times (/layers/0/finish/values/opacityTo/factor)
    float lampGlass_finish_glass_opacityTo_offset; // White becomes, plus (/layers/0/finish/values/opacityTo/offset)
    float lampGlass_finish_glass_opacityFactor; // Factor, % (/layers/0/finish/values/opacityFactor)
    float lampGlass_mask_glow_0_fade; // Fade, m (/layers/1/mask/0/values/fade)
    float lampGlass_mask_glow_0_high; // White at (/layers/1/mask/0/values/high)
    float lampGlass_mask_glow_0_gamma; // Middle (/layers/1/mask/0/values/gamma)
    float lampGlass_mask_glow_0_contrast; // Contrast, % (/layers/1/mask/0/values/contrast)
    float lampGlass_parameter_lit; // Lit, % (/parameters/0/value)
    float lampGlass_finish_glow_glowStrength_factor; // Strength, times (/layers/1/finish/values/glowStrength/factor)
    float lampGlass_finish_glow_glowStrength_offset; // Strength, plus, % (/layers/1/finish/values/glowStrength/offset)
    float lampGlass_opacity_glow; // Opacity, % (/layers/1/opacity)
};
Texture2D<float4> lampGlass_map_crackle_glaze_base_colour : register(t0); // crackle-glaze/base-colour
SamplerState lampGlass_map_crackle_glaze_base_colour_sampler : register(s0);
Texture2D<float4> lampGlass_map_crackle_glaze_normal : register(t1); // crackle-glaze/normal
SamplerState lampGlass_map_crackle_glaze_normal_sampler : register(s1);
Texture2D<float4> lampGlass_map_crackle_glaze_roughness : register(t2); // crackle-glaze/roughness
SamplerState lampGlass_map_crackle_glaze_roughness_sampler : register(s2);
Texture2D<float4> lampGlass_map_crackle_glaze_occlusion : register(t3); // crackle-glaze/occlusion
SamplerState lampGlass_map_crackle_glaze_occlusion_sampler : register(s3);

// A point of a surface.
struct LampGlassSurface {
    float3 position; // the point, in the world, m
    float3 normal; // the unit normal of the mesh, in the world, towards the eye
    float3 dpdx; // how position changes to the next pixel on the right, m
    float3 dpdy; // how position changes to the next pixel below, m
    float3 objectOrigin; // where the object stands, in the world, m
    float3 objectX; // the x axis of the object, of length 1, in the world
    float3 objectY; // the y axis of the object, of length 1, in the world
    float3 objectZ; // the z axis of the object, of length 1, in the world
};

// What follows from the numbers alone, and is the same all over a picture.
struct LampGlassReady {
    float riltaReady0;
    bool riltaReady1;
    float riltaReady2;
    float riltaReady3;
    float riltaReady4;
    float riltaReady5;
    float riltaReady6;
    float riltaReady7;
    float riltaReady8;
    float riltaReady9;
    bool riltaReady10;
    float riltaReady11;
    float riltaReady12;
    float riltaReady13;
    float riltaReady14;
    float riltaReady15;
};

// What the material is at a point.
struct LampGlassMaterial {
    float3 baseColour; // linear light, 0 to 1
    float3 normal; // of length 1, in the world
    float roughness; // 0 to 1; its square is the alpha of GGX
    float metallic; // 0 to 1
    float occlusion; // 1 is open, 0 is closed
    float3 emission; // linear light
    float coverage; // how much there is of the surface: 0 to 1
};

// A texel, where it counts.
float4 lampGlassRead_map_crackle_glaze_base_colour(float2 at, float2 dx, float2 dy, float weight) {
    if (weight > 0.0) { return lampGlass_map_crackle_glaze_base_colour.SampleGrad(lampGlass_map_crackle_glaze_base_colour_sampler, at, dx, dy); }
    return float4(0.0, 0.0, 0.0, 0.0);
}

// The linear light of one sRGB-encoded value. IEC 61966-2-1.
float lampGlass_decodeSrgb(float encoded) {
    float v12 = encoded <= 0.04045 ? encoded * 0.0773993808 : pow((max(encoded, 0.04045) + 0.055) * 0.947867299, 2.4);
    return v12;
}

// A texel, where it counts.
float4 lampGlassRead_map_crackle_glaze_normal(float2 at, float2 dx, float2 dy, float weight) {
    if (weight > 0.0) { return lampGlass_map_crackle_glaze_normal.SampleGrad(lampGlass_map_crackle_glaze_normal_sampler, at, dx, dy); }
    return float4(0.0, 0.0, 0.0, 0.0);
}

// The gradient a tangent-space normal (+Y up) stands for, along the directions t of u and b of v. Mikkelsen 2020.
float3 lampGlass_surfaceGradient(float3 texel, float3 t, float3 b) {
    float3 v6 = texel * 2.0 - 1.0;
    float v9 = max(v6.z, 0.0625);
    return b * (v6.y / v9) - t * (v6.x / v9);
}

// The part of a gradient that lies in the tangent plane of n.
float3 lampGlass_onSurface(float3 n, float3 gradient) {
    return gradient - n * dot(n, gradient);
}

// A texel, where it counts.
float4 lampGlassRead_map_crackle_glaze_roughness(float2 at, float2 dx, float2 dy, float weight) {
    if (weight > 0.0) { return lampGlass_map_crackle_glaze_roughness.SampleGrad(lampGlass_map_crackle_glaze_roughness_sampler, at, dx, dy); }
    return float4(0.0, 0.0, 0.0, 0.0);
}

// A texel, where it counts.
float4 lampGlassRead_map_crackle_glaze_occlusion(float2 at, float2 dx, float2 dy, float weight) {
    if (weight > 0.0) { return lampGlass_map_crackle_glaze_occlusion.SampleGrad(lampGlass_map_crackle_glaze_occlusion_sampler, at, dx, dy); }
    return float4(0.0, 0.0, 0.0, 0.0);
}

// Three hashed integers from three. Jarzynski & Olano 2020.
uint3 lampGlass_pcg3d(uint3 v) {
    uint3 v4 = v * 1664525u + 1013904223u;
    uint v9 = v4.x + v4.y * v4.z;
    uint v11 = v4.y + v4.z * v9;
    uint v13 = v4.z + v9 * v11;
    uint v18 = v11 ^ (v11 >> 16u);
    uint v20 = v13 ^ (v13 >> 16u);
    uint v22 = (v9 ^ (v9 >> 16u)) + v18 * v20;
    uint v24 = v18 + v20 * v22;
    return uint3(v22, v24, v20 + v22 * v24);
}

// Gradient noise, -1 to 1, and its two derivatives. Perlin 2002; hash of Jarzynski & Olano 2020.
float3 lampGlass_noiseWithSlope(float2 cell, float2 f, uint seed) {
    float v16 = 0.5 + float((lampGlass_pcg3d(uint3(uint2(int2(floor(cell))), seed)).x >> 9u) & 1u) * 0.5;
    float v34 = (float((lampGlass_pcg3d(uint3(uint2(int2(floor(cell))), seed)).x >> 8u) & 1u) * 2.0 - 1.0) * (1.5 - v16);
    float2 v35 = float2((float((lampGlass_pcg3d(uint3(uint2(int2(floor(cell))), seed)).x >> 7u) & 1u) * 2.0 - 1.0) * v16, v34);
    float v36 = dot(v35, f);
    float v46 = float((lampGlass_pcg3d(uint3(uint2(int2(floor(cell + float2(1.0, 0.0)))), seed)).x >> 9u) & 1u) * 0.5;
    float v47 = 0.5 + v46;
    float v51 = float((lampGlass_pcg3d(uint3(uint2(int2(floor(cell + float2(1.0, 0.0)))), seed)).x >> 7u) & 1u) * 2.0;
    float v57 = float((lampGlass_pcg3d(uint3(uint2(int2(floor(cell + float2(1.0, 0.0)))), seed)).x >> 8u) & 1u) * 2.0;
    float2 v61 = float2((v51 - 1.0) * v47, (v57 - 1.0) * (1.5 - v47));
    float v63 = dot(v61, f - float2(1.0, 0.0));
    float v73 = float((lampGlass_pcg3d(uint3(uint2(int2(floor(cell + float2(0.0, 1.0)))), seed)).x >> 9u) & 1u) * 0.5;
    float v74 = 0.5 + v73;
    float v78 = float((lampGlass_pcg3d(uint3(uint2(int2(floor(cell + float2(0.0, 1.0)))), seed)).x >> 7u) & 1u) * 2.0;
    float v84 = float((lampGlass_pcg3d(uint3(uint2(int2(floor(cell + float2(0.0, 1.0)))), seed)).x >> 8u) & 1u) * 2.0;
    float2 v88 = float2((v78 - 1.0) * v74, (v84 - 1.0) * (1.5 - v74));
    float v90 = dot(v88, f - float2(0.0, 1.0));
    float v101 = 0.5 + float((lampGlass_pcg3d(uint3(uint2(int2(floor(cell + ((float2) 1.0)))), seed)).x >> 9u) & 1u) * 0.5;
    float v106 = float((lampGlass_pcg3d(uint3(uint2(int2(floor(cell + ((float2) 1.0)))), seed)).x >> 7u) & 1u) * 2.0 - 1.0;
    float v112 = float((lampGlass_pcg3d(uint3(uint2(int2(floor(cell + ((float2) 1.0)))), seed)).x >> 8u) & 1u) * 2.0 - 1.0;
    float2 v115 = float2(v106 * v101, v112 * (1.5 - v101));
    float v117 = dot(v115, f - ((float2) 1.0));
    float2 v118 = f * f;
    float2 v127 = v118 * f * (f * (f * 6.0 - 15.0) + 10.0);
    float2 v130 = f - 1.0;
    float2 v134 = v118 * (v130 * v130) * 30.0;
    float2 v137 = lerp(lerp(v35, v61, v127.x), lerp(v88, v115, v127.x), v127.y);
    float v138 = lerp(v36, v63, v127.x);
    float v139 = lerp(v90, v117, v127.x);
    float3 v153 = float3(lerp(v138, v139, v127.y), v137.x + v134.x * lerp(v63 - v36, v117 - v90, v127.y), v137.y + v134.y * (v139 - v138));
    return v153;
}

// The normal of a surface that rises by a surface gradient. Mikkelsen 2020.
float3 lampGlass_perturbed(float3 n, float3 gradient) {
    return normalize(n - gradient);
}

// The lampGlass_sine, to 2e-7 on every device.
float lampGlass_sine(float x) {
    float k = floor(x * 0.318309886 + 0.5);
    float r = (x - k * 3.140625) - k * 0.000967653590;
    float q = r * r;
    float p = r * (1.0 + q * (-0.166666667 + q * (0.00833333333 + q * (-0.000198412698 + q * (2.75573192e-6 - q * 2.50521084e-8)))));
    return p * (1.0 - 4.0 * frac(k * 0.5));
}

// Once for a picture: by the host in double precision, or here.
LampGlassReady lampGlassPrepare() {
    float v33 = lampGlass_sine(lampGlass_main_0_origin_seam * 0.0174532925 * 0.5) * 1.41421356;
    float v142 = lampGlass_finish_glass_hue * 0.0174532925;
    float v250 = clamp(lampGlass_parameter_clear * lampGlass_finish_glass_opacityTo_factor + lampGlass_finish_glass_opacityTo_offset, -4.0, 4.0);
    float v307 = lampGlass_mask_glow_0_high - lampGlass_mask_glow_0_low;
    float v352 = clamp(lampGlass_parameter_lit * lampGlass_finish_glow_glowStrength_factor + lampGlass_finish_glow_glowStrength_offset, 0.0, 100000.0);
    LampGlassReady made = { v33, v33 <= 1.0e-6, lampGlass_finish_glass_lightness * 0.01, lampGlass_sine(v142 + 1.57079633), lampGlass_sine(v142), lampGlass_finish_glass_saturation * 0.01, lampGlass_finish_glass_roughnessFactor * 0.01, v250, lampGlass_finish_glass_opacityFactor * 0.01, lampGlass_mask_glow_0_fade * 0.5, 0.0 < lampGlass_mask_glow_0_band, abs(v307) < 1.0e-5 ? 1.0e-5 : v307, 1.0 / lampGlass_mask_glow_0_gamma, lampGlass_mask_glow_0_contrast * 0.01, v352 * 0.01, lampGlass_opacity_glow * 0.01 };
    return made;
}

// For each point.
LampGlassMaterial lampGlassMaterial(LampGlassSurface s, LampGlassReady ready) {
    float3 v7 = s.position - s.objectOrigin;
    float v8 = dot(v7, s.objectX);
    float v10 = dot(v7, s.objectZ);
    float v12 = dot(s.normal, s.objectX);
    float v13 = dot(s.normal, s.objectY);
    float v14 = dot(s.normal, s.objectZ);
    float v16 = dot(s.dpdx, s.objectX);
    float v18 = dot(s.dpdx, s.objectZ);
    float v20 = dot(s.dpdy, s.objectX);
    float v22 = dot(s.dpdy, s.objectZ);
    float v23 = abs(v12);
    float v24 = abs(v13);
    float v25 = abs(v14);
    float v35 = max(max(v23, v24), v25);
    float v39 = max(v23 - v35 + ready.riltaReady0, 0.0);
    float v42 = max(v24 - v35 + ready.riltaReady0, 0.0);
    float v45 = max(v25 - v35 + ready.riltaReady0, 0.0);
    float v49 = max(v39 + v42 + v45, 1.0e-9);
    bool v52 = v35 <= v23;
    float main_0_origin_weight_x = ready.riltaReady1 ? (v52 ? 1.0 : 0.0) : v39 / v49;
    bool v57 = v35 <= v24;
    float main_0_origin_weight_y = ready.riltaReady1 ? (v57 && !v52 ? 1.0 : 0.0) : v42 / v49;
    float main_0_origin_weight_z = ready.riltaReady1 ? (v35 <= v25 && !(v52 || v57) ? 1.0 : 0.0) : v45 / v49;
    float v73 = (v12 < 0.0 ? -1.0 : 1.0) * -1.0;
    float v75 = dot(v7, s.objectY) * -1.0;
    float2 main_0_origin_x = float2(v10 * v73, v75);
    float v78 = dot(s.dpdx, s.objectY) * -1.0;
    float2 main_0_origin_x_dx = float2(v18 * v73, v78);
    float v81 = dot(s.dpdy, s.objectY) * -1.0;
    float2 main_0_origin_x_dy = float2(v22 * v73, v81);
    float3 v84 = s.objectY * -1.0;
    float v86 = v13 < 0.0 ? -1.0 : 1.0;
    float2 main_0_origin_y = float2(v8 * v86, v10);
    float2 main_0_origin_y_dx = float2(v16 * v86, v18);
    float2 main_0_origin_y_dy = float2(v20 * v86, v22);
    float v95 = v14 < 0.0 ? -1.0 : 1.0;
    float2 main_0_origin_z = float2(v8 * v95, v75);
    float2 main_0_origin_z_dx = float2(v16 * v95, v78);
    float2 main_0_origin_z_dy = float2(v20 * v95, v81);
    float2 v104 = float2(lampGlass_main_1_size_u, lampGlass_main_1_size_u);
    float2 main_1_size_x = main_0_origin_x / v104;
    float2 main_1_size_x_dx = main_0_origin_x_dx / v104;
    float2 main_1_size_x_dy = main_0_origin_x_dy / v104;
    float2 main_1_size_y = main_0_origin_y / v104;
    float2 main_1_size_y_dx = main_0_origin_y_dx / v104;
    float2 main_1_size_y_dy = main_0_origin_y_dy / v104;
    float2 main_1_size_z = main_0_origin_z / v104;
    float2 main_1_size_z_dx = main_0_origin_z_dx / v104;
    float2 main_1_size_z_dy = main_0_origin_z_dy / v104;
    float4 texel_base_colour_x = lampGlassRead_map_crackle_glaze_base_colour(main_1_size_x, main_1_size_x_dx, main_1_size_x_dy, main_0_origin_weight_x);
    float4 texel_base_colour_y = lampGlassRead_map_crackle_glaze_base_colour(main_1_size_y, main_1_size_y_dx, main_1_size_y_dy, main_0_origin_weight_y);
    float3 v120 = texel_base_colour_x.xyz * main_0_origin_weight_x + texel_base_colour_y.xyz * main_0_origin_weight_y;
    float4 texel_base_colour_z = lampGlassRead_map_crackle_glaze_base_colour(main_1_size_z, main_1_size_z_dx, main_1_size_z_dy, main_0_origin_weight_z);
    float3 v124 = v120 + texel_base_colour_z.xyz * main_0_origin_weight_z;
    float3 v131 = float3(dot(v124, float3(0.412221471, 0.536332536, 0.0514459929)), dot(v124, float3(0.211903498, 0.680699545, 0.107396957)), dot(v124, float3(0.0883024619, 0.281718838, 0.629978701)));
    float3 v134 = pow(max(v131, ((float3) 1.0e-9)), ((float3) 0.333333333));
    float v138 = dot(v134, float3(1.9779985, -2.42859221, 0.45059371));
    float v140 = dot(v134, float3(0.0259040371, 0.782771766, -0.808675766));
    float3 v163 = float3(dot(v134, float3(0.210454255, 0.793617785, -0.0040720468)) * ready.riltaReady2, (v138 * ready.riltaReady3 - v140 * ready.riltaReady4) * ready.riltaReady5, (v138 * ready.riltaReady4 + v140 * ready.riltaReady3) * ready.riltaReady5);
    float3 v170 = float3(dot(v163, float3(1.0, 0.396337777, 0.215803757)), dot(v163, float3(1.0, -0.105561346, -0.0638541728)), dot(v163, float3(1.0, -0.0894841775, -1.29148555)));
    float3 v172 = v170 * v170 * v170;
    float3 v179 = float3(dot(v172, float3(4.07674166, -3.30771159, 0.230969929)), dot(v172, float3(-1.268438, 2.6097574, -0.341319396)), dot(v172, float3(-0.0041960863, -0.703418615, 1.7076147)));
    float3 v187 = float3(lampGlass_decodeSrgb(lampGlass_finish_glass_tint_0), lampGlass_decodeSrgb(lampGlass_finish_glass_tint_1), lampGlass_decodeSrgb(lampGlass_finish_glass_tint_2));
    float3 baseColour = max(v179, ((float3) 0.0)) * v187;
    float4 texel_normal_x = lampGlassRead_map_crackle_glaze_normal(main_1_size_x, main_1_size_x_dx, main_1_size_x_dy, main_0_origin_weight_x);
    float4 texel_normal_y = lampGlassRead_map_crackle_glaze_normal(main_1_size_y, main_1_size_y_dx, main_1_size_y_dy, main_0_origin_weight_y);
    float3 v197 = lampGlass_surfaceGradient(texel_normal_x.xyz, s.objectZ * v73, v84) * main_0_origin_weight_x + lampGlass_surfaceGradient(texel_normal_y.xyz, s.objectX * v86, s.objectZ) * main_0_origin_weight_y;
    float4 texel_normal_z = lampGlassRead_map_crackle_glaze_normal(main_1_size_z, main_1_size_z_dx, main_1_size_z_dy, main_0_origin_weight_z);
    float3 slope = lampGlass_onSurface(s.normal, v197 + lampGlass_surfaceGradient(texel_normal_z.xyz, s.objectX * v95, v84) * main_0_origin_weight_z);
    float4 texel_roughness_x = lampGlassRead_map_crackle_glaze_roughness(main_1_size_x, main_1_size_x_dx, main_1_size_x_dy, main_0_origin_weight_x);
    float4 texel_roughness_y = lampGlassRead_map_crackle_glaze_roughness(main_1_size_y, main_1_size_y_dx, main_1_size_y_dy, main_0_origin_weight_y);
    float v210 = texel_roughness_x.x * main_0_origin_weight_x + texel_roughness_y.x * main_0_origin_weight_y;
    float4 texel_roughness_z = lampGlassRead_map_crackle_glaze_roughness(main_1_size_z, main_1_size_z_dx, main_1_size_z_dy, main_0_origin_weight_z);
    float v217 = lerp(lampGlass_finish_glass_roughnessFrom, lampGlass_finish_glass_roughnessTo, v210 + texel_roughness_z.x * main_0_origin_weight_z);
    float roughness = clamp(v217 * ready.riltaReady6, 0.0, 1.0);
    float4 texel_occlusion_x = lampGlassRead_map_crackle_glaze_occlusion(main_1_size_x, main_1_size_x_dx, main_1_size_x_dy, main_0_origin_weight_x);
    float4 texel_occlusion_y = lampGlassRead_map_crackle_glaze_occlusion(main_1_size_y, main_1_size_y_dx, main_1_size_y_dy, main_0_origin_weight_y);
    float v229 = texel_occlusion_x.x * main_0_origin_weight_x + texel_occlusion_y.x * main_0_origin_weight_y;
    float4 texel_occlusion_z = lampGlassRead_map_crackle_glaze_occlusion(main_1_size_z, main_1_size_z_dx, main_1_size_z_dy, main_0_origin_weight_z);
    float occlusion = v229 + texel_occlusion_z.x * main_0_origin_weight_z;
    float v238 = texel_base_colour_x.w * main_0_origin_weight_x + texel_base_colour_y.w * main_0_origin_weight_y;
    float v252 = lerp(lampGlass_finish_glass_opacityFrom, ready.riltaReady7, v238 + texel_base_colour_z.w * main_0_origin_weight_z);
    float opacity = clamp(v252 * ready.riltaReady8, 0.0, 1.0);
    float2 v267 = float2(s.position.x + s.position.z * 0.61, s.position.z - s.position.x * 0.61) / lampGlass_mask_glow_0_size;
    float2 v270 = floor(v267);
    float v276 = lampGlass_mask_glow_0_at + lampGlass_noiseWithSlope(v270, v267 - v270, lampGlass_mask_glow_0_seed).x * lampGlass_mask_glow_0_breaks;
    float v282 = v276 - ready.riltaReady9;
    float v290 = 1.0 - clamp((s.position.y - v282) / max(v276 + ready.riltaReady9 - v282, 1.0e-5), 0.0, 1.0);
    float v292 = v276 - lampGlass_mask_glow_0_band;
    float v293 = v292 - ready.riltaReady9;
    float v300 = 1.0 - clamp((s.position.y - v293) / max(v292 + ready.riltaReady9 - v293, 1.0e-5), 0.0, 1.0);
    float v314 = clamp((v290 * (ready.riltaReady10 ? 1.0 - v300 : 1.0) - lampGlass_mask_glow_0_low) / ready.riltaReady11, 0.0, 1.0);
    float v326 = pow(max(v314, 1.0e-7), ready.riltaReady12) * min(v314 * 10000000.0, 1.0) - lampGlass_mask_glow_0_pivot;
    float mask_glow = clamp(v326 * ready.riltaReady13 + lampGlass_mask_glow_0_pivot, 0.0, 1.0);
    float3 v338 = ((float3) 1.0) * main_0_origin_weight_x + ((float3) 1.0) * main_0_origin_weight_y + ((float3) 1.0) * main_0_origin_weight_z;
    float3 v345 = float3(lampGlass_decodeSrgb(lampGlass_finish_glow_glow_0), lampGlass_decodeSrgb(lampGlass_finish_glow_glow_1), lampGlass_decodeSrgb(lampGlass_finish_glow_glow_2));
    float3 emission = v338 * (v345 * ready.riltaReady14) * (ready.riltaReady15 * mask_glow);
    float3 normal = lampGlass_perturbed(s.normal, slope);
    LampGlassMaterial made = { baseColour, normal, roughness, 0.0, occlusion, emission, opacity };
    return made;
}
