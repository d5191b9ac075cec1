// WGSL.
// Lamp glass
struct LampGlassNumbers {
    main_1_size_u: f32, // Size, m (/lanes/0/steps/1/values/lampGlass_u)
    finish_glass_tint_0: f32, // Tint, red (/layers/0/finish/values/tint/0)
    finish_glass_tint_1: f32, // Tint, green (/layers/0/finish/values/tint/1)
    finish_glass_tint_2: f32, // Tint, blue (/layers/0/finish/values/tint/2)
    finish_glass_roughnessFrom: f32, // Black becomes (/layers/0/finish/values/roughnessFrom)
    finish_glass_roughnessTo: f32, // White becomes (/layers/0/finish/values/roughnessTo)
    finish_glass_opacityFrom: f32, // Black becomes (/layers/0/finish/values/opacityFrom)
    mask_glow_0_size: f32, // Size, m (/layers/1/mask/0/values/size)
    mask_glow_0_at: f32, // At, m (/layers/1/mask/0/values/at)
    mask_glow_0_seed: u32, // Seed (/layers/1/mask/0/values/seed)
    mask_glow_0_breaks: f32, // Broken by, m (/layers/1/mask/0/values/breaks)
    mask_glow_0_band: f32, // Band, m (/layers/1/mask/0/values/band)
    mask_glow_0_low: f32, // Black at (/layers/1/mask/0/values/low)
    mask_glow_0_pivot: f32, // Pivot (/layers/1/mask/0/values/pivot)
    finish_glow_glow_0: f32, // Glow, red (/layers/1/finish/values/glow/0)
    finish_glow_glow_1: f32, // Glow, green (/layers/1/finish/values/glow/1)
    finish_glow_glow_2: f32, // Glow, blue (/layers/1/finish/values/glow/2)
    main_0_origin_seam: f32, // Seam width, ° (/lanes/0/steps/0/values/seam)
    finish_glass_hue: f32, // Hue, ° (/layers/0/finish/values/hue)
    finish_glass_saturation: f32, // Saturation, % (/layers/0/finish/values/saturation)
    finish_glass_lightness: f32, // Lightness, % (/layers/0/finish/values/lightness)
    finish_glass_roughnessFactor: f32, // Factor, % (/layers/0/finish/values/roughnessFactor)
    parameter_clear: f32, // Clear, % (/parameters/1/value)
    finish_glass_opacityTo_factor: f32, // White becomes, times (/layers/0/finish/values/opacityTo/factor)
    finish_glass_opacityTo_offset: f32, // White becomes, plus (/layers/0/finish/values/opacityTo/offset)
    finish_glass_opacityFactor: f32, // Factor, % (/layers/0/finish/values/opacityFactor)
    mask_glow_0_fade: f32, // Fade, m (/layers/1/mask/0/values/fade)
    mask_glow_0_high: f32, // White at (/layers/1/mask/0/values/high)
    mask_glow_0_gamma: f32, // Middle (/layers/1/mask/0/values/gamma)
    mask_glow_0_contrast: f32, // Contrast, % (/layers/1/mask/0/values/contrast)
    parameter_lit: f32, // Lit, % (/parameters/0/value)
    finish_glow_glowStrength_factor: f32, // Strength, times (/layers/1/finish/values/glowStrength/factor)
    finish_glow_glowStrength_offset: f32, // Strength, plus, % (/layers/1/finish/values/glowStrength/offset)
    opacity_glow: f32, // Opacity, % (/layers/1/opacity)
}
@group(0) @binding(0) var<uniform> lampGlass_u: LampGlassNumbers;
@group(0) @binding(1) var lampGlass_map_crackle_glaze_base_colour: texture_2d<f32>; // crackle-glaze/base-colour
@group(0) @binding(2) var lampGlass_map_crackle_glaze_base_colour_sampler: sampler;
@group(0) @binding(3) var lampGlass_map_crackle_glaze_normal: texture_2d<f32>; // crackle-glaze/normal
@group(0) @binding(4) var lampGlass_map_crackle_glaze_normal_sampler: sampler;
@group(0) @binding(5) var lampGlass_map_crackle_glaze_roughness: texture_2d<f32>; // crackle-glaze/roughness
@group(0) @binding(6) var lampGlass_map_crackle_glaze_roughness_sampler: sampler;
@group(0) @binding(7) var lampGlass_map_crackle_glaze_occlusion: texture_2d<f32>; // crackle-glaze/occlusion
@group(0) @binding(8) var lampGlass_map_crackle_glaze_occlusion_sampler: sampler;

// A point of a surface.
struct LampGlassSurface {
    position: vec3f, // the point, in the world, m
    normal: vec3f, // the unit normal of the mesh, in the world, towards the eye
    dpdx: vec3f, // how position changes to the next pixel on the right, m
    dpdy: vec3f, // how position changes to the next pixel below, m
    objectOrigin: vec3f, // where the object stands, in the world, m
    objectX: vec3f, // the x axis of the object, of length 1, in the world
    objectY: vec3f, // the y axis of the object, of length 1, in the world
    objectZ: vec3f, // the z axis of the object, of length 1, in the world
}

// What follows from the numbers alone, and is the same all over a picture.
struct LampGlassReady {
    riltaReady0: f32,
    riltaReady1: bool,
    riltaReady2: f32,
    riltaReady3: f32,
    riltaReady4: f32,
    riltaReady5: f32,
    riltaReady6: f32,
    riltaReady7: f32,
    riltaReady8: f32,
    riltaReady9: f32,
    riltaReady10: bool,
    riltaReady11: f32,
    riltaReady12: f32,
    riltaReady13: f32,
    riltaReady14: f32,
    riltaReady15: f32,
}

// What the material is at a point.
struct LampGlassMaterial {
    baseColour: vec3f, // linear light, 0 to 1
    normal: vec3f, // of length 1, in the world
    roughness: f32, // 0 to 1; its square is the alpha of GGX
    metallic: f32, // 0 to 1
    occlusion: f32, // 1 is open, 0 is closed
    emission: vec3f, // linear light
    coverage: f32, // how much there is of the surface: 0 to 1
}

// A texel, where it counts.
fn lampGlassRead_map_crackle_glaze_base_colour(uv: vec2f, dx: vec2f, dy: vec2f, weight: f32) -> vec4f {
    if (weight > 0.0) { return textureSampleGrad(lampGlass_map_crackle_glaze_base_colour, lampGlass_map_crackle_glaze_base_colour_sampler, uv, dx, dy); }
    return vec4f(0.0);
}

// The linear light of one sRGB-encoded value. IEC 61966-2-1.
fn lampGlass_decodeSrgb(encoded: f32) -> f32 {
    let v12: f32 = select(pow((max(encoded, 0.04045) + 0.055) * 0.947867299, 2.4), encoded * 0.0773993808, encoded <= 0.04045);
    return v12;
}

// A texel, where it counts.
fn lampGlassRead_map_crackle_glaze_normal(uv: vec2f, dx: vec2f, dy: vec2f, weight: f32) -> vec4f {
    if (weight > 0.0) { return textureSampleGrad(lampGlass_map_crackle_glaze_normal, lampGlass_map_crackle_glaze_normal_sampler, uv, dx, dy); }
    return vec4f(0.0);
}

// The gradient a tangent-space normal (+Y up) stands for, along the directions t of lampGlass_u and b of v. Mikkelsen 2020.
fn lampGlass_surfaceGradient(texel: vec3f, t: vec3f, b: vec3f) -> vec3f {
    let v6: vec3f = texel * 2.0 - 1.0;
    let v9: f32 = max(v6.z, 0.0625);
    return b * (v6.y / v9) - t * (v6.x / v9);
}

// The part of a gradient that lies in the tangent plane of n.
fn lampGlass_onSurface(n: vec3f, gradient: vec3f) -> vec3f {
    return gradient - n * dot(n, gradient);
}

// A texel, where it counts.
fn lampGlassRead_map_crackle_glaze_roughness(uv: vec2f, dx: vec2f, dy: vec2f, weight: f32) -> vec4f {
    if (weight > 0.0) { return textureSampleGrad(lampGlass_map_crackle_glaze_roughness, lampGlass_map_crackle_glaze_roughness_sampler, uv, dx, dy); }
    return vec4f(0.0);
}

// A texel, where it counts.
fn lampGlassRead_map_crackle_glaze_occlusion(uv: vec2f, dx: vec2f, dy: vec2f, weight: f32) -> vec4f {
    if (weight > 0.0) { return textureSampleGrad(lampGlass_map_crackle_glaze_occlusion, lampGlass_map_crackle_glaze_occlusion_sampler, uv, dx, dy); }
    return vec4f(0.0);
}

// Three hashed integers from three. Jarzynski & Olano 2020.
fn lampGlass_pcg3d(v: vec3u) -> vec3u {
    let v4: vec3u = v * 1664525u + 1013904223u;
    let v9: u32 = v4.x + v4.y * v4.z;
    let v11: u32 = v4.y + v4.z * v9;
    let v13: u32 = v4.z + v9 * v11;
    let v18: u32 = v11 ^ (v11 >> 16u);
    let v20: u32 = v13 ^ (v13 >> 16u);
    let v22: u32 = (v9 ^ (v9 >> 16u)) + v18 * v20;
    let v24: u32 = v18 + v20 * v22;
    return vec3u(v22, v24, v20 + v22 * v24);
}

// Gradient noise, -1 to 1, and its two derivatives. Perlin 2002; hash of Jarzynski & Olano 2020.
fn lampGlass_noiseWithSlope(cell: vec2f, f: vec2f, seed: u32) -> vec3f {
    let v16: f32 = 0.5 + f32((lampGlass_pcg3d(vec3u(vec2u(vec2i(floor(cell))), seed)).x >> 9u) & 1u) * 0.5;
    let v34: f32 = (f32((lampGlass_pcg3d(vec3u(vec2u(vec2i(floor(cell))), seed)).x >> 8u) & 1u) * 2.0 - 1.0) * (1.5 - v16);
    let v35: vec2f = vec2f((f32((lampGlass_pcg3d(vec3u(vec2u(vec2i(floor(cell))), seed)).x >> 7u) & 1u) * 2.0 - 1.0) * v16, v34);
    let v36: f32 = dot(v35, f);
    let v47: f32 = 0.5 + f32((lampGlass_pcg3d(vec3u(vec2u(vec2i(floor(cell + vec2f(1.0, 0.0)))), seed)).x >> 9u) & 1u) * 0.5;
    let v52: f32 = f32((lampGlass_pcg3d(vec3u(vec2u(vec2i(floor(cell + vec2f(1.0, 0.0)))), seed)).x >> 7u) & 1u) * 2.0 - 1.0;
    let v58: f32 = f32((lampGlass_pcg3d(vec3u(vec2u(vec2i(floor(cell + vec2f(1.0, 0.0)))), seed)).x >> 8u) & 1u) * 2.0 - 1.0;
    let v61: vec2f = vec2f(v52 * v47, v58 * (1.5 - v47));
    let v63: f32 = dot(v61, f - vec2f(1.0, 0.0));
    let v74: f32 = 0.5 + f32((lampGlass_pcg3d(vec3u(vec2u(vec2i(floor(cell + vec2f(0.0, 1.0)))), seed)).x >> 9u) & 1u) * 0.5;
    let v79: f32 = f32((lampGlass_pcg3d(vec3u(vec2u(vec2i(floor(cell + vec2f(0.0, 1.0)))), seed)).x >> 7u) & 1u) * 2.0 - 1.0;
    let v85: f32 = f32((lampGlass_pcg3d(vec3u(vec2u(vec2i(floor(cell + vec2f(0.0, 1.0)))), seed)).x >> 8u) & 1u) * 2.0 - 1.0;
    let v88: vec2f = vec2f(v79 * v74, v85 * (1.5 - v74));
    let v90: f32 = dot(v88, f - vec2f(0.0, 1.0));
    let v101: f32 = 0.5 + f32((lampGlass_pcg3d(vec3u(vec2u(vec2i(floor(cell + vec2f(1.0)))), seed)).x >> 9u) & 1u) * 0.5;
    let v106: f32 = f32((lampGlass_pcg3d(vec3u(vec2u(vec2i(floor(cell + vec2f(1.0)))), seed)).x >> 7u) & 1u) * 2.0 - 1.0;
    let v112: f32 = f32((lampGlass_pcg3d(vec3u(vec2u(vec2i(floor(cell + vec2f(1.0)))), seed)).x >> 8u) & 1u) * 2.0 - 1.0;
    let v115: vec2f = vec2f(v106 * v101, v112 * (1.5 - v101));
    let v117: f32 = dot(v115, f - vec2f(1.0));
    let v118: vec2f = f * f;
    let v127: vec2f = v118 * f * (f * (f * 6.0 - 15.0) + 10.0);
    let v130: vec2f = f - 1.0;
    let v134: vec2f = v118 * (v130 * v130) * 30.0;
    let v137: vec2f = mix(mix(v35, v61, v127.x), mix(v88, v115, v127.x), v127.y);
    let v138: f32 = mix(v36, v63, v127.x);
    let v139: f32 = mix(v90, v117, v127.x);
    let v153: vec3f = vec3f(mix(v138, v139, v127.y), v137.x + v134.x * mix(v63 - v36, v117 - v90, v127.y), v137.y + v134.y * (v139 - v138));
    return v153;
}

// The normal of a surface that rises by a surface gradient. Mikkelsen 2020.
fn lampGlass_perturbed(n: vec3f, gradient: vec3f) -> vec3f {
    return normalize(n - gradient);
}

// The lampGlass_sine, to 2e-7 on every device.
fn lampGlass_sine(x: f32) -> f32 {
    let k: f32 = floor(x * 0.318309886 + 0.5);
    let r: f32 = (x - k * 3.140625) - k * 0.000967653590;
    let q: f32 = r * r;
    let p: f32 = r * (1.0 + q * (-0.166666667 + q * (0.00833333333 + q * (-0.000198412698 + q * (2.75573192e-6 - q * 2.50521084e-8)))));
    return p * (1.0 - 4.0 * fract(k * 0.5));
}

// Once for a picture: by the host in double precision, or here.
fn lampGlassPrepare() -> LampGlassReady {
    let v33: f32 = lampGlass_sine(lampGlass_u.main_0_origin_seam * 0.0174532925 * 0.5) * 1.41421356;
    let v142: f32 = lampGlass_u.finish_glass_hue * 0.0174532925;
    let v250: f32 = clamp(lampGlass_u.parameter_clear * lampGlass_u.finish_glass_opacityTo_factor + lampGlass_u.finish_glass_opacityTo_offset, -4.0, 4.0);
    let v307: f32 = lampGlass_u.mask_glow_0_high - lampGlass_u.mask_glow_0_low;
    let v352: f32 = clamp(lampGlass_u.parameter_lit * lampGlass_u.finish_glow_glowStrength_factor + lampGlass_u.finish_glow_glowStrength_offset, 0.0, 100000.0);
    return LampGlassReady(v33, v33 <= 1.0e-6, lampGlass_u.finish_glass_lightness * 0.01, lampGlass_sine(v142 + 1.57079633), lampGlass_sine(v142), lampGlass_u.finish_glass_saturation * 0.01, lampGlass_u.finish_glass_roughnessFactor * 0.01, v250, lampGlass_u.finish_glass_opacityFactor * 0.01, lampGlass_u.mask_glow_0_fade * 0.5, 0.0 < lampGlass_u.mask_glow_0_band, select(v307, 1.0e-5, abs(v307) < 1.0e-5), 1.0 / lampGlass_u.mask_glow_0_gamma, lampGlass_u.mask_glow_0_contrast * 0.01, v352 * 0.01, lampGlass_u.opacity_glow * 0.01);
}

// For each point.
fn lampGlassMaterial(s: LampGlassSurface, ready: LampGlassReady) -> LampGlassMaterial {
    let v7: vec3f = s.position - s.objectOrigin;
    let v8: f32 = dot(v7, s.objectX);
    let v10: f32 = dot(v7, s.objectZ);
    let v12: f32 = dot(s.normal, s.objectX);
    let v13: f32 = dot(s.normal, s.objectY);
    let v14: f32 = dot(s.normal, s.objectZ);
    let v16: f32 = dot(s.dpdx, s.objectX);
    let v18: f32 = dot(s.dpdx, s.objectZ);
    let v20: f32 = dot(s.dpdy, s.objectX);
    let v22: f32 = dot(s.dpdy, s.objectZ);
    let v23: f32 = abs(v12);
    let v24: f32 = abs(v13);
    let v25: f32 = abs(v14);
    let v35: f32 = max(max(v23, v24), v25);
    let v39: f32 = max(v23 - v35 + ready.riltaReady0, 0.0);
    let v42: f32 = max(v24 - v35 + ready.riltaReady0, 0.0);
    let v45: f32 = max(v25 - v35 + ready.riltaReady0, 0.0);
    let v49: f32 = max(v39 + v42 + v45, 1.0e-9);
    let v52: bool = v35 <= v23;
    let main_0_origin_weight_x: f32 = select(v39 / v49, select(0.0, 1.0, v52), ready.riltaReady1);
    let v57: bool = v35 <= v24;
    let main_0_origin_weight_y: f32 = select(v42 / v49, select(0.0, 1.0, v57 && !v52), ready.riltaReady1);
    let main_0_origin_weight_z: f32 = select(v45 / v49, select(0.0, 1.0, v35 <= v25 && !(v52 || v57)), ready.riltaReady1);
    let v73: f32 = select(1.0, -1.0, v12 < 0.0) * -1.0;
    let v75: f32 = dot(v7, s.objectY) * -1.0;
    let main_0_origin_x: vec2f = vec2f(v10 * v73, v75);
    let v78: f32 = dot(s.dpdx, s.objectY) * -1.0;
    let main_0_origin_x_dx: vec2f = vec2f(v18 * v73, v78);
    let v81: f32 = dot(s.dpdy, s.objectY) * -1.0;
    let main_0_origin_x_dy: vec2f = vec2f(v22 * v73, v81);
    let v84: vec3f = s.objectY * -1.0;
    let v86: f32 = select(1.0, -1.0, v13 < 0.0);
    let main_0_origin_y: vec2f = vec2f(v8 * v86, v10);
    let main_0_origin_y_dx: vec2f = vec2f(v16 * v86, v18);
    let main_0_origin_y_dy: vec2f = vec2f(v20 * v86, v22);
    let v95: f32 = select(1.0, -1.0, v14 < 0.0);
    let main_0_origin_z: vec2f = vec2f(v8 * v95, v75);
    let main_0_origin_z_dx: vec2f = vec2f(v16 * v95, v78);
    let main_0_origin_z_dy: vec2f = vec2f(v20 * v95, v81);
    let v104: vec2f = vec2f(lampGlass_u.main_1_size_u, lampGlass_u.main_1_size_u);
    let main_1_size_x: vec2f = main_0_origin_x / v104;
    let main_1_size_x_dx: vec2f = main_0_origin_x_dx / v104;
    let main_1_size_x_dy: vec2f = main_0_origin_x_dy / v104;
    let main_1_size_y: vec2f = main_0_origin_y / v104;
    let main_1_size_y_dx: vec2f = main_0_origin_y_dx / v104;
    let main_1_size_y_dy: vec2f = main_0_origin_y_dy / v104;
    let main_1_size_z: vec2f = main_0_origin_z / v104;
    let main_1_size_z_dx: vec2f = main_0_origin_z_dx / v104;
    let main_1_size_z_dy: vec2f = main_0_origin_z_dy / v104;
    let texel_base_colour_x: vec4f = lampGlassRead_map_crackle_glaze_base_colour(main_1_size_x, main_1_size_x_dx, main_1_size_x_dy, main_0_origin_weight_x);
    let texel_base_colour_y: vec4f = lampGlassRead_map_crackle_glaze_base_colour(main_1_size_y, main_1_size_y_dx, main_1_size_y_dy, main_0_origin_weight_y);
    let v120: vec3f = texel_base_colour_x.xyz * main_0_origin_weight_x + texel_base_colour_y.xyz * main_0_origin_weight_y;
    let texel_base_colour_z: vec4f = lampGlassRead_map_crackle_glaze_base_colour(main_1_size_z, main_1_size_z_dx, main_1_size_z_dy, main_0_origin_weight_z);
    let v124: vec3f = v120 + texel_base_colour_z.xyz * main_0_origin_weight_z;
    let v131: vec3f = vec3f(dot(v124, vec3f(0.412221471, 0.536332536, 0.0514459929)), dot(v124, vec3f(0.211903498, 0.680699545, 0.107396957)), dot(v124, vec3f(0.0883024619, 0.281718838, 0.629978701)));
    let v134: vec3f = pow(max(v131, vec3f(1.0e-9)), vec3f(0.333333333));
    let v138: f32 = dot(v134, vec3f(1.9779985, -2.42859221, 0.45059371));
    let v140: f32 = dot(v134, vec3f(0.0259040371, 0.782771766, -0.808675766));
    let v163: vec3f = vec3f(dot(v134, vec3f(0.210454255, 0.793617785, -0.0040720468)) * ready.riltaReady2, (v138 * ready.riltaReady3 - v140 * ready.riltaReady4) * ready.riltaReady5, (v138 * ready.riltaReady4 + v140 * ready.riltaReady3) * ready.riltaReady5);
    let v170: vec3f = vec3f(dot(v163, vec3f(1.0, 0.396337777, 0.215803757)), dot(v163, vec3f(1.0, -0.105561346, -0.0638541728)), dot(v163, vec3f(1.0, -0.0894841775, -1.29148555)));
    let v172: vec3f = v170 * v170 * v170;
    let v179: vec3f = vec3f(dot(v172, vec3f(4.07674166, -3.30771159, 0.230969929)), dot(v172, vec3f(-1.268438, 2.6097574, -0.341319396)), dot(v172, vec3f(-0.0041960863, -0.703418615, 1.7076147)));
    let v187: vec3f = vec3f(lampGlass_decodeSrgb(lampGlass_u.finish_glass_tint_0), lampGlass_decodeSrgb(lampGlass_u.finish_glass_tint_1), lampGlass_decodeSrgb(lampGlass_u.finish_glass_tint_2));
    let baseColour: vec3f = max(v179, vec3f(0.0)) * v187;
    let texel_normal_x: vec4f = lampGlassRead_map_crackle_glaze_normal(main_1_size_x, main_1_size_x_dx, main_1_size_x_dy, main_0_origin_weight_x);
    let texel_normal_y: vec4f = lampGlassRead_map_crackle_glaze_normal(main_1_size_y, main_1_size_y_dx, main_1_size_y_dy, main_0_origin_weight_y);
    let v197: vec3f = lampGlass_surfaceGradient(texel_normal_x.xyz, s.objectZ * v73, v84) * main_0_origin_weight_x + lampGlass_surfaceGradient(texel_normal_y.xyz, s.objectX * v86, s.objectZ) * main_0_origin_weight_y;
    let texel_normal_z: vec4f = lampGlassRead_map_crackle_glaze_normal(main_1_size_z, main_1_size_z_dx, main_1_size_z_dy, main_0_origin_weight_z);
    let slope: vec3f = lampGlass_onSurface(s.normal, v197 + lampGlass_surfaceGradient(texel_normal_z.xyz, s.objectX * v95, v84) * main_0_origin_weight_z);
    let texel_roughness_x: vec4f = lampGlassRead_map_crackle_glaze_roughness(main_1_size_x, main_1_size_x_dx, main_1_size_x_dy, main_0_origin_weight_x);
    let texel_roughness_y: vec4f = lampGlassRead_map_crackle_glaze_roughness(main_1_size_y, main_1_size_y_dx, main_1_size_y_dy, main_0_origin_weight_y);
    let v210: f32 = texel_roughness_x.x * main_0_origin_weight_x + texel_roughness_y.x * main_0_origin_weight_y;
    let texel_roughness_z: vec4f = lampGlassRead_map_crackle_glaze_roughness(main_1_size_z, main_1_size_z_dx, main_1_size_z_dy, main_0_origin_weight_z);
    let v217: f32 = mix(lampGlass_u.finish_glass_roughnessFrom, lampGlass_u.finish_glass_roughnessTo, v210 + texel_roughness_z.x * main_0_origin_weight_z);
    let roughness: f32 = clamp(v217 * ready.riltaReady6, 0.0, 1.0);
    let texel_occlusion_x: vec4f = lampGlassRead_map_crackle_glaze_occlusion(main_1_size_x, main_1_size_x_dx, main_1_size_x_dy, main_0_origin_weight_x);
    let texel_occlusion_y: vec4f = lampGlassRead_map_crackle_glaze_occlusion(main_1_size_y, main_1_size_y_dx, main_1_size_y_dy, main_0_origin_weight_y);
    let v229: f32 = texel_occlusion_x.x * main_0_origin_weight_x + texel_occlusion_y.x * main_0_origin_weight_y;
    let texel_occlusion_z: vec4f = lampGlassRead_map_crackle_glaze_occlusion(main_1_size_z, main_1_size_z_dx, main_1_size_z_dy, main_0_origin_weight_z);
    let occlusion: f32 = v229 + texel_occlusion_z.x * main_0_origin_weight_z;
    let v238: f32 = texel_base_colour_x.w * main_0_origin_weight_x + texel_base_colour_y.w * main_0_origin_weight_y;
    let v252: f32 = mix(lampGlass_u.finish_glass_opacityFrom, ready.riltaReady7, v238 + texel_base_colour_z.w * main_0_origin_weight_z);
    let opacity: f32 = clamp(v252 * ready.riltaReady8, 0.0, 1.0);
    let v267: vec2f = vec2f(s.position.x + s.position.z * 0.61, s.position.z - s.position.x * 0.61) / lampGlass_u.mask_glow_0_size;
    let v270: vec2f = floor(v267);
    let v276: f32 = lampGlass_u.mask_glow_0_at + lampGlass_noiseWithSlope(v270, v267 - v270, lampGlass_u.mask_glow_0_seed).x * lampGlass_u.mask_glow_0_breaks;
    let v282: f32 = v276 - ready.riltaReady9;
    let v290: f32 = 1.0 - clamp((s.position.y - v282) / max(v276 + ready.riltaReady9 - v282, 1.0e-5), 0.0, 1.0);
    let v292: f32 = v276 - lampGlass_u.mask_glow_0_band;
    let v293: f32 = v292 - ready.riltaReady9;
    let v300: f32 = 1.0 - clamp((s.position.y - v293) / max(v292 + ready.riltaReady9 - v293, 1.0e-5), 0.0, 1.0);
    let v313: f32 = (v290 * select(1.0, 1.0 - v300, ready.riltaReady10) - lampGlass_u.mask_glow_0_low) / ready.riltaReady11;
    let v314: f32 = clamp(v313, 0.0, 1.0);
    let v326: f32 = pow(max(v314, 1.0e-7), ready.riltaReady12) * min(v314 * 10000000.0, 1.0) - lampGlass_u.mask_glow_0_pivot;
    let mask_glow: f32 = clamp(v326 * ready.riltaReady13 + lampGlass_u.mask_glow_0_pivot, 0.0, 1.0);
    let v338: vec3f = vec3f(1.0) * main_0_origin_weight_x + vec3f(1.0) * main_0_origin_weight_y + vec3f(1.0) * main_0_origin_weight_z;
    let v345: vec3f = vec3f(lampGlass_decodeSrgb(lampGlass_u.finish_glow_glow_0), lampGlass_decodeSrgb(lampGlass_u.finish_glow_glow_1), lampGlass_decodeSrgb(lampGlass_u.finish_glow_glow_2));
    let emission: vec3f = v338 * (v345 * ready.riltaReady14) * (ready.riltaReady15 * mask_glow);
    let normal: vec3f = lampGlass_perturbed(s.normal, slope);
    return LampGlassMaterial(baseColour, normal, roughness, 0.0, occlusion, emission, opacity);
}
