import { COATS_CARRY, COATS_FRAGMENT, COATS_VERTEX, overCoats } from './coats';
import { AROUND } from './full/around';
import { FULL } from './full/light';
import { WIND } from './full/wind';
import { ROOTS } from './roots';
import { BUILT_LIGHT, LIGHT } from './light';

/**
 * Meshes in the materials their authors made: metallic-roughness of glTF 2.0 with a GGX lobe, after the formulas of its appendix B.
 * Light is reckoned as light and becomes what one sees at the end. MERGED: see `INSTANCE_VERTEX`. STUDIO: one lamp and an even
 * sky, no air, to be held against another renderer. DISTANT: a card that turns to the eye, with pictures from eight sides.
 */
export const AUTHORED_VERTEX = /* glsl */ `
#ifdef UV1
in vec2 second;
#endif
#ifdef COLOURS
in vec4 colour;
out vec4 vColour;
#endif
#ifdef MERGED
in vec3 tintOf;
#endif
#ifdef DISTANT
#ifdef MERGED
in vec3 foot;
in vec2 across;
#endif
uniform vec3 uEye;
uniform vec3 uView;
uniform vec2 uSides;
uniform float uBetween[8];
flat out ivec2 vSides;
flat out float vMix;
flat out mat3 vAxes;
#endif
#ifdef SHIFTED
in vec3 shift;
flat out vec3 vShift;
#endif
out vec3 vTint;
out vec3 vPlace;
out vec3 vNormal;
out vec2 vUv;
out vec2 vUv1;
#if defined(SWAYS) && defined(MERGED) && !defined(DISTANT)
in vec3 foot;
#endif
${WIND}
${ROOTS}
#ifdef ROOTS
out vec4 vRoot;
#endif
${COATS_VERTEX}
void main() {
${COATS_CARRY}
#ifdef SHIFTED
  vShift = shift;
#endif
  vUv = uv;
  vUv1 = vec2(0.0);
#ifdef UV1
  vUv1 = second;
#endif
#ifdef COLOURS
  vColour = colour;
#endif
  vTint = vec3(1.0);
#ifdef MERGED
  vTint = tintOf;
  vPlace = position;
  vNormal = normal;
#else
#ifdef USE_INSTANCING_COLOR
  vTint = instanceColor;
#endif
  vPlace = (instanceMatrix * vec4(position, 1.0)).xyz;
  // By the inverse transpose: sizes differ along the axes.
  mat3 m = mat3(instanceMatrix);
  vNormal = normalize(m * (normal / max(vec3(dot(m[0], m[0]), dot(m[1], m[1]), dot(m[2], m[2])), 1e-12)));
#endif
#ifdef DISTANT
#ifdef MERGED
  vec3 at = foot, up = normal, card = position;
  vec2 x = across;
#else
  vec3 at = instanceMatrix[3].xyz, up = normalize(instanceMatrix[1].xyz);
  vec3 card = vec3(position.x * length(instanceMatrix[0].xyz), position.y * length(instanceMatrix[1].xyz), 0.0);
  vec2 x = normalize(instanceMatrix[0].xz + vec2(1e-6, 0.0));
#endif
  // About Y to the eye; in Plan to the south. Which side that is follows from how it is turned.
  vec2 to = uView.y < -0.99 ? vec2(0.0, 1.0) : normalize(uEye.xz - at.xz + 1e-4);
  float side = mod(atan(dot(to, x), dot(to, vec2(-x.y, x.x))) / 6.28318530718 * 8.0 + 8.0, 8.0);
  int first = int(side) % 8;
  vMix = fract(side);
  vSides = ivec2(first, (first + 1) % 8);
  vec3 aside = normalize(cross(up, vec3(to.x, 0.0, to.y)));
  vPlace = at + aside * card.x * (1.0 + uBetween[first] * 4.0 * vMix * (1.0 - vMix)) + up * card.y;
  vAxes = mat3(vec3(x.x, 0.0, x.y), up, vec3(-x.y, 0.0, x.x));
  vUv = uv * uSides;
#endif
#ifdef SWAYS
#ifdef MERGED
  vec3 stem = foot;
#else
  vec3 stem = instanceMatrix[3].xyz;
#endif
#ifdef ROOTS
  vRoot = rootOf(vPlace, stem);
#endif
#if defined(FULL) || defined(SHADOW)
#if defined(MASK) || defined(LEAF)
  vPlace = swayed(vPlace, stem, 1.0);
#else
  vPlace = swayed(vPlace, stem, 0.2);
#endif
#endif
#endif
  gl_Position = projectionMatrix * viewMatrix * vec4(vPlace, 1.0);
}
`;

/** Pictures a material may wear, each with how it is laid. */
const PICTURES = ['MAP', 'METAL_ROUGH', 'NORMAL', 'OCCLUSION', 'EMISSION', 'SPECULAR', 'SPECULAR_COLOUR']
  .map((name) => `#ifdef ${name}\nuniform sampler2D u${name}; uniform mat3 u${name}_AT;\n#endif`)
  .join('\n');

export const AUTHORED_FRAGMENT = /* glsl */ `
precision highp float;
precision highp sampler2D;
#ifdef COLOURS
in vec4 vColour;
#endif
#ifdef SHIFTED
flat in vec3 vShift;
#endif
in vec3 vTint;
in vec3 vPlace;
in vec3 vNormal;
in vec2 vUv;
in vec2 vUv1;
#if defined(ROOTS) && defined(FULL)
in vec4 vRoot;
#endif
uniform vec2 uLevelSize;
uniform vec4 uBase;
uniform float uMetalness;
uniform float uRoughness;
uniform vec3 uEmission;
uniform float uCutoff;
#ifdef KEEP
uniform float uKeep[12];
#endif
uniform vec3 uF0;
uniform float uF90;
${PICTURES}
uniform float uNormalScale;
uniform float uOcclusionStrength;
#ifdef DISTANT
uniform sampler2D uDIRECTIONS;
uniform vec2 uSides;
flat in ivec2 vSides;
flat in float vMix;
flat in mat3 vAxes;
#endif
${LIGHT}
${FULL}
${BUILT_LIGHT}
${COATS_FRAGMENT}
#ifdef FULL
${AROUND}
#endif
const float PI = 3.14159265359;
/** Light as one sees it: sRGB by roots, to a thousandth. */
vec3 seen(vec3 c) {
  vec3 a = sqrt(max(c, vec3(0.0)));
  vec3 b = sqrt(a);
  vec3 bright = 0.662002687 * a + 0.684122060 * b - 0.323583601 * sqrt(b) - 0.0225411470 * c;
  return mix(bright, 12.92 * max(c, vec3(0.0)), lessThan(c, vec3(0.0031308)));
}
#ifdef NORMAL
/** Axes of texture coordinates on the surface, from how both change on the screen (Schueler, 2013). */
vec3 bumped(vec3 n, vec2 uv, vec3 by) {
  vec3 p1 = dFdx(vPlace), p2 = dFdy(vPlace);
  vec2 t1 = dFdx(uv), t2 = dFdy(uv);
  vec3 a = cross(p2, n), b = cross(n, p1);
  vec3 t = a * t1.x + b * t2.x;
  vec3 s = a * t1.y + b * t2.y;
  float longest = max(dot(t, t), dot(s, s));
  float k = longest == 0.0 ? 0.0 : inversesqrt(longest);
  return normalize(t * (by.x * k) + s * (by.y * k) + n * by.z);
}
#endif
void main() {
#ifdef FULL
  if (uFade != 1.0 && faded()) discard;
#endif
  vec4 base = uBase;
#ifdef DISTANT
  // Of two sides each pixel shows one, more often the nearer; no finer level than a few pixels of a side, for they lie beside each other.
  float grain = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715))));
  int shown = grain < vMix ? vSides.y : vSides.x;
  vec2 frame = vec2(textureSize(uMAP, 0)) / uSides;
  vec2 inside = clamp(vUv, 0.5 / frame, 1.0 - 0.5 / frame);
  vec2 sideAt = (vec2(shown % int(uSides.x), shown / int(uSides.x)) + inside) / uSides;
  vec2 dx = dFdx(vUv) * frame, dy = dFdy(vUv) * frame;
  float level = clamp(0.5 * log2(max(dot(dx, dx), dot(dy, dy))), 0.0, 3.0);
  base *= textureLod(uMAP, sideAt, level);
#elif defined(MAP)
  base *= texture(uMAP, (uMAP_AT * vec3(MAP_UV, 1.0)).xy);
#endif
#ifdef COLOURS
  base *= vColour;
#endif
  base.rgb *= vTint * vTint;
#if defined(ROOTS) && defined(FULL)
  base.rgb = mix(base.rgb, vRoot.rgb * vRoot.rgb, vRoot.a);
#endif
#ifdef SHIFTED
  // A use of its own: stronger colours, harder ones about a middle grey, rougher.
  base.rgb = mix(vec3(dot(base.rgb, vec3(0.2126, 0.7152, 0.0722))), base.rgb, 1.0 + vShift.x);
  base.rgb = max(vec3(0.0), (base.rgb - 0.18) * (1.0 + vShift.y) + 0.18);
#endif
#ifdef MASK
#ifdef KEEP
  // As much of each level is drawn as of the picture itself, so that a crown does not thin out as it goes away.
#ifndef DISTANT
  vec2 kx = dFdx(MAP_UV) * vec2(textureSize(uMAP, 0)), ky = dFdy(MAP_UV) * vec2(textureSize(uMAP, 0));
  float level = 0.5 * log2(max(max(dot(kx, kx), dot(ky, ky)), 1e-8));
#endif
  float lv = clamp(level, 0.0, 11.0);
  base.a *= mix(uKeep[int(lv)], uKeep[min(int(lv) + 1, 11)], fract(lv));
#endif
  if (base.a < uCutoff) discard;
  base.a = 1.0;
#endif
#ifndef BLEND
  base.a = 1.0;
#endif
#ifndef SHADOW
#ifdef UNLIT
#ifdef FULL
  give(base.rgb, vec3(0.0), vec2(1.0), vPlace);
#else
  vec3 colour = seen(base.rgb);
#endif
#else
  vec3 n = normalize(vNormal);
#ifdef TWO_SIDED
  if (!gl_FrontFacing) n = -n;
#endif
#ifdef DISTANT
  n = normalize(vAxes * (textureLod(uDIRECTIONS, sideAt, level).xyz * 2.0 - 1.0));
#endif
  vec3 smoothN = n;
#ifdef NORMAL
  vec2 at = (uNORMAL_AT * vec3(NORMAL_UV, 1.0)).xy;
  vec3 by = texture(uNORMAL, at).xyz * 2.0 - 1.0;
  // Texture coordinates run down the picture, a tangent's other axis up.
  by.xy *= vec2(uNormalScale, -uNormalScale);
  n = bumped(n, NORMAL_UV, by);
#endif
  float rough = uRoughness, metal = uMetalness;
#ifdef METAL_ROUGH
  vec4 mr = texture(uMETAL_ROUGH, (uMETAL_ROUGH_AT * vec3(METAL_ROUGH_UV, 1.0)).xy);
  rough *= mr.g;
  metal *= mr.b;
#endif
#ifdef SHIFTED
  rough = clamp(rough + vShift.z, 0.0, 1.0);
#endif
#ifdef COATED
  float coats[COATED];
  coatShares(vPlace, smoothN, coats);
${overCoats(
  (i) => `
    vec3 c = coatColour${i}(vPlace, smoothN);
    base.rgb = mix(base.rgb, c * c, coats[${i}]);
    rough = mix(rough, uCoatStuff[${i}].x, coats[${i}]);
    metal = mix(metal, uCoatStuff[${i}].y, coats[${i}]);
    n = normalize(mix(n, smoothN, coats[${i}] * uCoatStuff[${i}].z));
  `,
)}
#endif
  // A highlight smaller than a pixel flickers: where the surface bends within one it is as rough as that.
  vec3 bend = max(abs(dFdx(smoothN)), abs(dFdy(smoothN)));
  rough = min(1.0, max(rough, 0.045) + max(max(bend.x, bend.y), bend.z));
  float occlusion = 1.0;
#ifdef OCCLUSION
  occlusion = (texture(uOCCLUSION, (uOCCLUSION_AT * vec3(OCCLUSION_UV, 1.0)).xy).r - 1.0) * uOcclusionStrength + 1.0;
#endif
  vec3 plainF0 = uF0;
  float plainF90 = uF90;
#ifdef SPECULAR_COLOUR
  plainF0 *= texture(uSPECULAR_COLOUR, (uSPECULAR_COLOUR_AT * vec3(SPECULAR_COLOUR_UV, 1.0)).xy).rgb;
#endif
#ifdef SPECULAR
  float strength = texture(uSPECULAR, (uSPECULAR_AT * vec3(SPECULAR_UV, 1.0)).xy).a;
  plainF0 *= strength;
  plainF90 *= strength;
#endif
  vec3 v = normalize(uEye - vPlace);
  vec3 diffuse = base.rgb * (1.0 - metal);
  vec3 f0 = mix(plainF0, base.rgb, metal);
  float f90 = mix(plainF90, 1.0, metal);
#ifdef STUDIO
  vec2 light = vec2(1.0);
#else
  vec2 light = builtLight(vPlace, n);
#endif
#ifdef FULL
  float noise = pixelNoise(gl_FragCoord.xy);
#ifdef LEAF
  vec3 sun = uSunHere * sunAt(vPlace, dot(smoothN, uSun) > 0.0 ? smoothN : -smoothN, light.x, noise);
#else
  vec3 sun = dot(n, uSun) > 0.0 ? uSunHere * sunAt(vPlace, smoothN, light.x, noise) : vec3(0.0);
#endif
#else
  // The scene's lights are given as they look.
  vec3 sun = uSunlight * uSunlight * light.x;
  vec3 above = uFill * uFill, below = uBounce * uBounce;
  float open = (0.25 + 0.75 * light.y) * occlusion;
  float even = 0.62 + 0.38 * (n.y * 0.7 + n.x * 0.18 + n.z * 0.12);
  sun *= 1.0 - uWork;
  above = mix(above, vec3(even * even), uWork);
  below = mix(below, vec3(even * even), uWork);
#endif
  float nl = clamp(dot(n, uSun), 0.0, 1.0), nv = clamp(dot(n, v), 0.0, 1.0);
  vec3 h = normalize(uSun + v);
  float nh = clamp(dot(n, h), 0.0, 1.0), vh = clamp(dot(v, h), 0.0, 1.0);
  float alpha = rough * rough, a2 = alpha * alpha;
  float d = nh * nh * (a2 - 1.0) + 1.0;
  float spread = a2 / (PI * d * d);
  float seenBoth = 0.5 / max(nl * sqrt(a2 + (1.0 - a2) * nv * nv) + nv * sqrt(a2 + (1.0 - a2) * nl * nl), 1e-6);
  float x = 1.0 - vh, x2 = x * x;
  vec3 fresnel = f0 + (vec3(f90) - f0) * (x2 * x2 * x);
  // Its lobe over all directions, by roughness and angle (Karis, 2014).
  vec4 r = rough * vec4(-1.0, -0.0275, -0.572, 0.022) + vec4(1.0, 0.0425, 1.04, -0.04);
  float a004 = min(r.x * r.x, exp2(-9.28 * nv)) * r.x + r.y;
  vec2 ab = vec2(-1.04, 1.04) * a004 + r.zw;
  // Light that bounces more than once within the surface comes out too (Turquin, 2019; Fdez-Aguera, 2019).
  float once = ab.x + ab.y;
  vec3 shine = fresnel * (spread * seenBoth) * PI * (1.0 + f0 * (1.0 / (1.0 - 0.45 * a2) - 1.0));
  vec3 single = plainF0 * ab.x + plainF90 * ab.y;
  vec3 mean = plainF0 + (1.0 - plainF0) * 0.047619;
  vec3 many = single * mean / (1.0 - (1.0 - once) * mean) * (1.0 - once);
  // What is mirrored reaches nothing below the surface.
  vec3 mirrored = plainF0 + (vec3(plainF90) - plainF0) * (x2 * x2 * x);
#ifdef FULL
  vec3 lit = sun * nl * (diffuse * (1.0 - mirrored) + shine);
  vec3 ambient = wholeSky(n) * diffuse * (1.0 - single - many) + around(reflect(-v, n), rough) * (f0 * ab.x + f90 * ab.y);
#else
  vec3 sky = mix(below, above, n.y * 0.5 + 0.5);
  vec3 lit = sun * nl * (diffuse * (1.0 - mirrored) + shine) + sky * diffuse * (1.0 - single - many) * open;
#ifndef STUDIO
  float to = reflect(-v, n).y;
  vec3 around = mix(below, above, smoothstep(-0.5 - rough, 0.5 + rough, to));
  lit += around * (f0 * ab.x + f90 * ab.y) * open;
#endif
#endif
#ifdef LEAF
  // A leaf lets through some of what falls on its other side, greener and warmer than it came.
  vec3 through = base.rgb * vec3(0.52, 0.56, 0.26);
  lit += sun * through * clamp(-dot(n, uSun), 0.0, 1.0);
#ifdef FULL
  ambient += wholeSky(-n) * through * 0.8;
#else
  lit += mix(below, above, 0.5 - n.y * 0.5) * through * 0.8 * open;
#endif
#endif
  vec3 glow = uEmission;
#ifdef EMISSION
  glow *= texture(uEMISSION, (uEMISSION_AT * vec3(EMISSION_UV, 1.0)).xy).rgb;
#endif
#ifdef FULL
  give(lit + glow, ambient * occlusion, openness(vPlace, smoothN, light.y, noise), vPlace);
#else
  vec3 colour = seen(lit + glow);
#endif
#endif
#ifndef FULL
#ifndef STUDIO
  colour = air(colour, vPlace);
#endif
  outColour = vec4(colour, base.a);
#elif defined(BLEND)
  outSun.a = base.a;
  outSky *= base.a;
#endif
#endif
}
`;
