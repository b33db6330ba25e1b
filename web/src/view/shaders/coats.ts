/**
 * Coats on pieces, by the formulas of core/coat: COATED how many of them there are. `vCell` is where a place lies in the grid of
 * its mesh; `uCoatCells` holds those of all meshes: in a block of `uCoatBlock` how sharply it bends (red), in one of a copy's own
 * what is painted on it, a channel a coat. A bit a coat says what of it there is, so that nobody pays for what there is not:
 * COATS_RULE it lies here by its rule, COATS_BEND, COATS_SIDE, COATS_NOISE that goes by these, COATS_GROUND, COATS_WORN and
 * COATS_VARIED its colour does; COATS_PAINT 1 where any is painted.
 */
/** Code for each coat there is. */
const each = (code: (i: number) => string): string => [0, 1, 2, 3].map((i) => `#if COATED > ${i}${code(i)}\n#endif`).join('\n');

/** Does something with each coat that may lie here: `coats[i]` its share, `coatColour<i>` its colour. */
export const overCoats = (code: (i: number) => string): string =>
  each((i) => `\n#if COATS_PAINT != 0 || (COATS_RULE & ${1 << i}) != 0\n  if (coats[${i}] > 0.0) {${code(i)}}\n#endif`);

export const COATS_VERTEX = /* glsl */ `
#ifdef COATED
#ifdef MERGED
in vec3 local;
#endif
in vec3 painted;
uniform vec4 uCoatGrid;
out vec3 vCell;
flat out vec3 vPainted;
#endif
`;

/** In the vertex shader's `main`. */
export const COATS_CARRY = /* glsl */ `
#ifdef COATED
#ifdef MERGED
  vCell = (local - uCoatGrid.xyz) * uCoatGrid.w;
#else
  vCell = (position - uCoatGrid.xyz) * uCoatGrid.w;
#endif
  vPainted = painted;
#endif
`;

export const COATS_FRAGMENT = /* glsl */ `
#ifdef COATED
uniform highp sampler3D uCoatCells;
uniform vec4 uCoatFacing[COATED];
uniform vec4 uCoatSide[COATED];
uniform vec4 uCoatFoot[COATED];
uniform vec4 uCoatHeight[COATED];
uniform vec4 uCoatSky[COATED];
uniform vec4 uCoatBend[COATED];
uniform vec4 uCoatNoise[COATED];
uniform vec3 uCoatTowards[COATED];
uniform float uCoatPer[COATED];
uniform int uCoatSeed[COATED];
/** red, green, blue as one sees them, and how far they vary */
uniform vec4 uCoatColour[COATED];
/** roughness, metalness, how far it levels, share */
uniform vec4 uCoatStuff[COATED];
/** layer and tile of the surface it wears */
uniform vec2 uCoatWorn[COATED];
uniform vec3 uCoatBlock;
in vec3 vCell;
flat in vec3 vPainted;
#ifndef STONE
uniform highp sampler2D uGroundHeight;
uniform sampler2D uGroundColour;
uniform float uGroundLow;
#endif
#ifndef PAINTED
uniform highp sampler2DArray uSurfaces;
#endif
uint mixed(uint h) {
  h = (h ^ (h >> 16)) * 0x85ebca6bu;
  h = (h ^ (h >> 13)) * 0xc2b2ae35u;
  return h ^ (h >> 16);
}
float lattice(int seed, ivec3 i) {
  uvec3 k = uvec3(i) * uvec3(0x27d4eb2du, 0x165667b1u, 0x1b873593u);
  return float(mixed(uint(seed) ^ k.x ^ k.y ^ k.z)) / 4294967295.0;
}
float patchOctave(int seed, vec3 p) {
  vec3 f = floor(p);
  ivec3 i = ivec3(f);
  f = p - f;
  f = f * f * (3.0 - 2.0 * f);
  vec4 near = vec4(lattice(seed, i), lattice(seed, i + ivec3(1, 0, 0)), lattice(seed, i + ivec3(0, 1, 0)), lattice(seed, i + ivec3(1, 1, 0)));
  vec4 far = vec4(lattice(seed, i + ivec3(0, 0, 1)), lattice(seed, i + ivec3(1, 0, 1)), lattice(seed, i + ivec3(0, 1, 1)), lattice(seed, i + ivec3(1, 1, 1)));
  vec4 z = mix(near, far, f.z);
  return mix(mix(z.x, z.y, f.x), mix(z.z, z.w, f.x), f.y);
}
float patchesAt(int seed, vec3 p) {
  return clamp(0.5 + ((patchOctave(seed, p) * 2.0 + patchOctave(seed + 1, p * 2.0)) / 3.0 - 0.5) * 1.6, 0.0, 1.0);
}
float coatBand(vec4 ends, float v) {
  vec2 t = clamp((vec2(v) - ends.xz) / max(ends.yw - ends.xz, 1e-4), 0.0, 1.0);
  t = t * t * (3.0 - 2.0 * t);
  return t.x * (1.0 - t.y);
}
vec4 coatCell(vec3 block) {
  return texture(uCoatCells, (block + vCell + 0.5) / vec3(textureSize(uCoatCells, 0)));
}
vec2 coatGround(vec3 p) {
  vec2 size = vec2(textureSize(uGroundHeight, 0));
  return (p.xz / uLevelSize * (size - 1.0) + 0.5) / size;
}
/** Share of each coat at a place of a side. */
void coatShares(vec3 p, vec3 n, out float w[COATED]) {
  float facing = degrees(acos(clamp(n.y, -1.0, 1.0)));
  float over = p.y - uGroundLow - texture(uGroundHeight, coatGround(p)).r;
  vec3 cover = texture(uCover, (p.xz + n.xz * 0.7) / uLevelSize).rgb;
  float sky = mix(1.0, cover.g, smoothstep(uCoverFrom, uCoverFrom + 0.6, cover.r + uCoverLow - p.y));
#if COATS_BEND != 0
  float bend = (coatCell(uCoatBlock).r * 255.0 - 128.0) / 127.0;
#endif
#if COATS_PAINT != 0
  vec4 paint = vPainted.x < 0.0 ? vec4(0.0) : (coatCell(vPainted) * 255.0 - 128.0) / 127.0;
#else
  const vec4 paint = vec4(0.0);
#endif
${each(
  (i) => `
  float share${i} = 0.0;
#if (COATS_RULE & ${1 << i}) != 0
  share${i} = uCoatStuff[${i}].w * coatBand(uCoatFacing[${i}], facing) * coatBand(uCoatFoot[${i}], over);
  share${i} *= coatBand(uCoatHeight[${i}], p.y) * coatBand(uCoatSky[${i}], sky);
#if (COATS_BEND & ${1 << i}) != 0
  share${i} *= coatBand(uCoatBend[${i}], bend);
#endif
#if (COATS_SIDE & ${1 << i}) != 0
  share${i} *= coatBand(uCoatSide[${i}], degrees(acos(clamp(dot(n, uCoatTowards[${i}]), -1.0, 1.0))));
#endif
#if (COATS_NOISE & ${1 << i}) != 0
  if (share${i} > 0.0) share${i} *= coatBand(uCoatNoise[${i}], patchesAt(uCoatSeed[${i}], p * uCoatPer[${i}]));
#endif
#endif
  w[${i}] = clamp(share${i} + paint[${i}], 0.0, 1.0);`,
)}
}
${each(
  (i) => `
/** Colour of a coat at a place, as one sees it. */
vec3 coatColour${i}(vec3 p, vec3 n) {
#if (COATS_GROUND & ${1 << i}) != 0
  return texture(uGroundColour, coatGround(p)).rgb * 1.1;
#else
  vec3 colour = uCoatColour[${i}].rgb;
#if (COATS_WORN & ${1 << i}) != 0
  vec2 at = abs(n.y) > 0.76 ? p.xz : abs(n.x) > abs(n.z) ? vec2(p.z, -p.y) : vec2(p.x, -p.y);
  colour *= textureLod(uSurfaces, vec3(at / uCoatWorn[${i}].y, uCoatWorn[${i}].x), clamp(log2(distance(p, uEye) * 0.12 + 1.0), 0.0, 6.0)).rgb;
#endif
#if (COATS_VARIED & ${1 << i}) != 0
  colour *= 1.0 + uCoatColour[${i}].a * (patchOctave(uCoatSeed[${i}] + 9, p * 7.0) - 0.5) * 1.4;
#endif
  return colour;
#endif
}`,
)}
#endif
`;
