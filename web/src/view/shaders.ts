import { READINGS_CODE, READINGS_UNIFORMS } from './readingsGlsl';

/**
 * Light and air shared by everything in the level, from the mood. `uWork` 1 is the work light: even,
 * no shadow, no haze. `uPlaceLight` holds sun and open sky over the whole level in plan.
 */
export const LIGHT = /* glsl */ `
uniform vec3 uSun;
uniform vec3 uEye;
uniform float uWork;
uniform vec3 uSunlight;
uniform vec3 uFill;
uniform vec3 uBounce;
uniform vec3 uHaze;
uniform float uThick;
uniform vec3 uGrade;
vec3 lit(vec3 colour, vec3 n, float sun, float sky) {
  float d = max(dot(n, uSun), 0.0);
  vec3 full = uSunlight * d * sun + mix(uBounce, uFill, n.y * 0.5 + 0.5) * (0.25 + 0.75 * sky);
  vec3 work = vec3(0.62 + 0.38 * (n.y * 0.7 + n.x * 0.18 + n.z * 0.12)) * (0.6 + 0.4 * sky);
  return colour * mix(full, work, uWork);
}
/** Exposure, contrast about a middle grey, saturation. */
vec3 grade(vec3 c) {
  c *= uGrade.x;
  c = max(vec3(0.0), (c - 0.42) * uGrade.y + 0.42);
  return mix(vec3(dot(c, vec3(0.3, 0.59, 0.11))), c, uGrade.z);
}
/** Haze by distance and a soft curve of tones, as ratios: exp and pow are dear in software. */
vec3 air(vec3 colour, vec3 p) {
  float x = distance(p, uEye) * uThick;
  float f = x / (1.0 + x) * (1.0 - uWork);
  colour = mix(colour, uHaze, f);
  colour = mix(grade(colour), colour, uWork);
  return colour * (1.16 - 0.16 * colour);
}
`;

/** Sun and open sky where a thing stands, from the picture of the whole level. */
export const PLACE_LIGHT = /* glsl */ `
uniform sampler2D uPlaceLight;
uniform vec2 uLevelSize;
vec2 placeLight(vec2 xz) { return texture(uPlaceLight, xz / uLevelSize).rg; }
`;

export const TERRAIN_VERTEX = /* glsl */ `
uniform vec2 uOrigin;
uniform float uSide;
out vec3 vPlace;
out vec2 vTile;
void main() {
  vPlace = position;
  vTile = (position.xz - uOrigin) / uSide;
  gl_Position = projectionMatrix * viewMatrix * vec4(position, 1.0);
}
`;

/**
 * How the surfaces of a place are fetched and mixed: the tile's own projection on steep ground, by height at
 * the seams. PICTURES pictures of shares, four surfaces each; `uLaying` 1 lays a surface at two scales, 2
 * scatters it: pieces of it shifted about, so that no repeat is seen.
 */
export const SURFACES_GLSL = /* glsl */ `
precision highp sampler2DArray;
#define COUNT (PICTURES * 4)
uniform sampler2DArray uSurfaces;
uniform float uLayer[COUNT];
uniform float uTileSide[COUNT];
uniform float uLaying[COUNT];
uniform vec3 uTints[COUNT];
/** Where a surface's tile lies at a place: from above, or on steep ground from the side with v upright. */
vec2 tileAt(vec3 p, vec3 n) {
  if (n.y > 0.76) return p.xz;
  return abs(n.x) > abs(n.z) ? vec2(p.z, -p.y) : vec2(p.x, -p.y);
}
vec4 one(int i, vec2 at) {
  vec2 uv = at / uTileSide[i];
  vec4 t = texture(uSurfaces, vec3(uv, uLayer[i]));
#ifndef QUICK
  if (uLaying[i] > 1.5) {
    // Which of eight shifts a place has wanders with a broad noise; between two they are mixed.
    float which = texture(uGrain, at / uTileSide[i] * 0.21).r * 8.0;
    vec2 a = sin(vec2(3.0, 7.0) * floor(which));
    vec2 b = sin(vec2(3.0, 7.0) * (floor(which) + 1.0));
    vec4 ta = texture(uSurfaces, vec3(uv + a, uLayer[i]));
    vec4 tb = texture(uSurfaces, vec3(uv + b, uLayer[i]));
    t = mix(ta, tb, smoothstep(0.25, 0.75, fract(which) - 0.12 * (ta.a - tb.a)));
  } else if (uLaying[i] > 0.5) {
    vec4 broad = texture(uSurfaces, vec3(uv * 0.23 + 0.37, uLayer[i]));
    t = vec4(mix(t.rgb, broad.rgb, 0.42), mix(t.a, broad.a, 0.25));
  }
#endif
  return vec4(t.rgb * uTints[i], t.a);
}
/** The strongest surfaces of a place, mixed; those that stand out win at a seam. QUICK: two of them. */
vec3 surfaces(float w[COUNT], vec2 at) {
#ifdef QUICK
  int first = w[1] > w[0] ? 1 : 0;
  int second = 1 - first;
  for (int i = 2; i < COUNT; i++) {
    if (w[i] > w[first]) { second = first; first = i; } else if (w[i] > w[second]) second = i;
  }
  vec4 a = one(first, at);
  vec4 b = one(second, at);
  vec2 k = vec2(w[first], w[second]) * (0.25 + vec2(a.a, b.a));
  k *= k;
  return (a.rgb * k.x + b.rgb * k.y) / max(k.x + k.y, 1e-4);
#else
  vec3 sum = vec3(0.0);
  float total = 0.0;
  for (int i = 0; i < COUNT; i++) {
    float k = w[i];
    if (k < 0.04) continue;
    vec4 t = one(i, at);
    k *= k > 0.9 ? 1.0 : 0.25 + t.a;
    k *= k;
    sum += t.rgb * k;
    total += k;
  }
  return sum / max(total, 1e-4);
#endif
}
/**
 * The surfaces from above, from the east and from the south, mixed by where the ground faces, so that no
 * seam runs along a slope; what faces one way takes one of them. QUICK: the nearest way alone.
 */
vec3 surfacesRound(float w[COUNT], vec3 p, vec3 n) {
#ifdef QUICK
  return surfaces(w, tileAt(p, n));
#else
  vec3 k = abs(n) * vec3(0.92, 1.0, 0.92);
  k *= k; k *= k; k *= k;
  k /= k.x + k.y + k.z;
  if (k.y > 0.88) return surfaces(w, p.xz);
  k = max(k - 0.12, 0.0);
  vec3 sum = vec3(0.0);
  if (k.y > 0.0) sum += surfaces(w, p.xz) * k.y;
  if (k.x > 0.0) sum += surfaces(w, vec2(p.z, -p.y)) * k.x;
  if (k.z > 0.0) sum += surfaces(w, vec2(p.x, -p.y)) * k.z;
  return sum / (k.x + k.y + k.z);
#endif
}
/** Shares of the surfaces at a place of their pictures. */
void sharesAt(sampler2DArray pictures, vec2 at, out float w[COUNT]) {
  for (int p = 0; p < PICTURES; p++) {
    vec4 four = texture(pictures, vec3(at, float(p)));
    w[p * 4] = four.x;
    w[p * 4 + 1] = four.y;
    w[p * 4 + 2] = four.z;
    w[p * 4 + 3] = four.w;
  }
}
`;

/** The foot of what stands in the ground takes on its colour, frayed over half a metre. */
export const CONTACT = /* glsl */ `
uniform highp sampler2D uGroundHeight;
uniform sampler2D uGroundColour;
uniform float uGroundLow;
vec3 groundedFoot(vec3 own, vec3 p) {
  vec2 size = vec2(textureSize(uGroundHeight, 0));
  vec2 at = (p.xz / uLevelSize * (size - 1.0) + 0.5) / size;
  float over = p.y - uGroundLow - texture(uGroundHeight, at).r;
  if (over > 0.8 || over < -4.0) return own;
  float fray = texture(uGrain, vec2(p.x + p.z, p.y * 1.3) / 1.9).g;
  return mix(own, texture(uGroundColour, at).rgb * 1.1, (1.0 - smoothstep(0.0, 0.72, over + fray * 0.3)) * 0.95);
}
`;

/** The paint on tops of blocks and pieces over their own colour. PAINTED only where a level has any: a software renderer pays for the code on every fragment. */
export const PAINTED_TOPS = /* glsl */ `
#ifdef PAINTED
uniform highp sampler2DArray uTops;
${SURFACES_GLSL}
#endif
vec3 top(vec3 own, vec3 p, float strength) {
#ifdef PAINTED
  float w[COUNT];
  sharesAt(uTops, p.xz / uLevelSize, w);
  float painted = 0.0;
  for (int i = 0; i < COUNT; i++) painted += w[i];
  if (painted > 0.04) {
    for (int i = 0; i < COUNT; i++) w[i] /= painted;
    return mix(own, surfaces(w, p.xz) * strength, min(1.0, painted));
  }
#endif
  return own;
}
`;

/** Ground by its surfaces: one fetch for the light, one for the shares, one for broad variation, one a surface. QUICK while a slow machine moves the view; READING shows what is too steep. */
export const TERRAIN_FRAGMENT = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uTile;
uniform highp sampler2DArray uShares;
uniform sampler2D uGrain;
uniform float uBlur;
${READINGS_UNIFORMS}in vec3 vPlace;
in vec2 vTile;
out vec4 outColour;
${LIGHT}
${SURFACES_GLSL}
void main() {
  vec2 at = (vTile * 64.0 + 0.5) / 65.0;
  vec4 t = texture(uTile, at);
  vec2 g = t.xy * 2.0 - 1.0;
  vec3 n = normalize(vec3(g.x, sqrt(max(1.0 - dot(g, g), 0.04)), g.y));
  vec4 broad = texture(uGrain, vPlace.xz / 37.0 + vPlace.y * 0.011);
  // The broad grain frays the seams and breaks the repeat.
  float w[COUNT];
  sharesAt(uShares, at + (broad.rg - 0.5) * 0.012, w);
  vec3 colour = surfacesRound(w, vPlace, n) * (0.78 + 0.44 * broad.b);
#ifndef QUICK
  float away = distance(vPlace, uEye);
  if (away < 16.0) {
    float chip = textureLod(uGrain, vec2(vPlace.x + vPlace.y, vPlace.z) / 0.62, log2(away * uBlur * 10.0 + 0.001)).a;
    colour *= mix(1.0, 0.74 + 0.52 * chip, 1.0 - away / 16.0);
  }
#endif
  float upright = n.y;
  n = normalize(n + vec3(broad.r - 0.5, 0.0, broad.g - 0.5) * 0.3);
  vec3 shaded = air(lit(colour * 1.18, n, t.z, t.w), vPlace);
${READINGS_CODE}  outColour = vec4(shaded, 1.0);
}
`;

export const BLOCK_VERTEX = /* glsl */ `
in vec4 face;
in float course;
out vec3 vPlace;
out vec3 vNormal;
out vec4 vFace;
out float vCourse;
void main() {
  vPlace = (modelMatrix * vec4(position, 1.0)).xyz;
  vNormal = normal;
  vFace = face;
  vCourse = course;
  gl_Position = projectionMatrix * viewMatrix * vec4(vPlace, 1.0);
}
`;

/** A block: a course line each metre of its own height, a heavier one each five, and its edges inked. */
export const BLOCK_FRAGMENT = /* glsl */ `
precision highp float;
precision highp sampler2D;
in vec3 vPlace;
in vec3 vNormal;
in vec4 vFace;
in float vCourse;
uniform vec3 uColour;
uniform sampler2D uGrain;
uniform vec2 uLevelSize;
out vec4 outColour;
${LIGHT}
${CONTACT}
${PAINTED_TOPS}
float mark(float metres, float width) {
  float px = max(fwidth(metres), 1e-5);
  return 1.0 - smoothstep(width * 0.5, width * 0.5 + 1.0, abs(metres) / px);
}
void main() {
  vec3 n = normalize(vNormal);
  float contact = 0.72 + 0.28 * smoothstep(0.0, 0.7, vCourse);
  vec3 base = uColour;
  if (n.y > 0.5) base = top(base, vPlace, 1.18);
  else if (vCourse < 2.5) base = groundedFoot(base, vPlace);
#ifdef STILL
  // Still blockout: ochre in broad bands that lean, so that it is told from what is built by more than its hue.
  base = mix(vec3(0.80, 0.52, 0.10), vec3(0.93, 0.86, 0.68), step(0.5, fract((vPlace.x + vPlace.y + vPlace.z) * 0.7)));
#endif
  vec3 colour = lit(base, n, 1.0, 1.0) * mix(contact, 1.0, abs(n.y));
  float ink = 0.0;
  if (abs(n.y) < 0.999) {
    float nearest = floor(vCourse + 0.5);
    float weight = mod(nearest, 5.0) < 0.5 ? 1.6 : 0.6;
    float fade = 1.0 - smoothstep(0.12, 0.45, fwidth(vCourse));
    if (nearest > 0.5) ink = mark(vCourse - nearest, weight) * 0.55 * fade;
  }
  float edge = mark(min(vFace.x, vFace.y), 1.6);
  edge = max(edge, mark(vFace.w < 0.0 ? vFace.z : min(vFace.z, vFace.w), 1.6));
  if (vFace.w < 0.0) {
    // What a void cut is hatched, two lines a foot; it fades before it turns to grey.
    float along = (vPlace.x + vPlace.y + vPlace.z) / 0.16;
    float fade = 1.0 - smoothstep(0.15, 0.4, fwidth(along));
    ink = max(ink, (1.0 - smoothstep(0.10, 0.22, abs(fract(along) - 0.5))) * 0.42 * fade);
  }
  ink = max(ink, edge * 0.85);
  colour = mix(colour, vec3(0.09, 0.13, 0.12), ink);
  outColour = vec4(air(colour, vPlace), 1.0);
}
`;

export const SKY_VERTEX = /* glsl */ `
out vec2 vAt;
void main() {
  vAt = position.xy;
  gl_Position = vec4(position.xy, 0.99999, 1.0);
}
`;

export const SKY_FRAGMENT = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform vec3 uForward;
uniform vec3 uRight;
uniform vec3 uUp;
uniform vec2 uTan;
uniform vec3 uZenith;
uniform sampler2D uGrain;
in vec2 vAt;
out vec4 outColour;
${LIGHT}
void main() {
  vec3 d = normalize(uForward + uRight * vAt.x * uTan.x + uUp * vAt.y * uTan.y);
  float h = max(d.y, 0.0);
  vec3 sky = mix(uHaze * 1.03, uZenith, 1.0 - 1.0 / (1.0 + h * 4.5));
  if (d.y > 0.015) {
    // High thin cloud, drawn out along the wind; it thins towards the horizon.
    vec2 p = d.xz / (d.y + 0.12);
    float c = texture(uGrain, p * vec2(0.055, 0.13)).r * 0.65 + texture(uGrain, p * vec2(0.16, 0.34) + 0.3).g * 0.35;
    sky = mix(sky, mix(uHaze, vec3(1.0), 0.45), smoothstep(0.50, 0.86, c) * 0.5 * smoothstep(0.015, 0.22, d.y));
  }
  float glow = max(dot(d, uSun), 0.0);
  glow *= glow; glow *= glow; glow *= glow;
  sky += uSunlight * vec3(0.17, 0.13, 0.07) * glow;
  sky = grade(sky);
  // Below the horizon there is no ground to draw: the sheet's own paper, a little darker towards the foot.
  sky = mix(sky, mix(vec3(0.905, 0.917, 0.900), vec3(0.80, 0.82, 0.80), smoothstep(-0.1, -0.75, d.y)), smoothstep(0.01, -0.10, d.y));
  outColour = vec4(mix(sky, vec3(0.925, 0.933, 0.918), uWork), 1.0);
}
`;

/**
 * Pieces and plants: colour a vertex, a tint an instance. MERGED: positions and normals are in the level
 * already (of billboards from their foot), with foot and tint as attributes. `uBillboard` turns it to the
 * eye. Plants are lit at their vertices, by the light where they stand: their triangles are small, and in
 * software the fragments of a wood cost more than all its vertices. STONE is lit a fragment at a time.
 */
export const INSTANCE_VERTEX = /* glsl */ `
in vec4 colour;
#ifdef MERGED
in vec3 foot;
in vec3 tintOf;
#endif
uniform float uBillboard;
uniform vec3 uView;
out vec3 vColour;
#ifdef STONE
uniform vec3 uEye;
out vec3 vPlace;
out vec3 vNormal;
#else
${LIGHT}
${PLACE_LIGHT}
#endif
void main() {
  vec3 tint = vec3(1.0);
  vec3 n;
#ifdef MERGED
  vec3 at = foot;
  vec3 p = position;
  tint = mix(vec3(1.0), tintOf, colour.a);
#else
  vec3 at = instanceMatrix[3].xyz;
  vec3 p = vec3(position.x * length(instanceMatrix[0].xyz), position.y * length(instanceMatrix[1].xyz), 0.0);
#ifdef USE_INSTANCING_COLOR
  tint = mix(vec3(1.0), instanceColor, colour.a);
#endif
#endif
  if (uBillboard > 0.5) {
    // About Y to the eye; in Plan to the south.
    vec2 to = uView.y < -0.99 ? vec2(0.0, 1.0) : normalize(uEye.xz - at.xz + 1e-4);
    p = at + vec3(to.y * p.x, p.y, -to.x * p.x);
    n = normalize(vec3(to.x * 0.6 + to.y * position.x * 0.5, 0.7, to.y * 0.6 - to.x * position.x * 0.5));
  } else {
#ifdef MERGED
    n = normal;
#else
    p = (instanceMatrix * vec4(position, 1.0)).xyz;
    n = normalize(mat3(instanceMatrix) * normal);
#endif
  }
  vColour = sqrt(max(colour.rgb, vec3(0.0))) * tint;
#ifdef STONE
  vPlace = p;
  vNormal = n;
#else
  vec2 light = placeLight(at.xz);
  vColour = air(lit(vColour * 1.18, n, 0.5 + 0.5 * light.x, 0.6 + 0.4 * light.y), p);
#endif
  gl_Position = projectionMatrix * viewMatrix * vec4(p, 1.0);
}
`;

export const INSTANCE_FRAGMENT = /* glsl */ `
precision highp float;
precision highp sampler2D;
in vec3 vColour;
out vec4 outColour;
#ifdef STONE
in vec3 vPlace;
in vec3 vNormal;
uniform sampler2D uGrain;
uniform vec2 uLevelSize;
${LIGHT}
${CONTACT}
${PAINTED_TOPS}
#endif
void main() {
  vec3 colour = vColour;
#ifdef STONE
  // Laid stone: thin courses, each with stones of its own shade.
  vec3 n = normalize(vNormal);
  vec3 a = abs(n);
  float along = a.x > a.z ? vPlace.z : vPlace.x;
  if (a.y < 0.6) {
    float row = floor(vPlace.y / 0.17);
    float stone = texture(uGrain, vec2(floor((along + row * 0.37) / 0.46) * 0.173, row * 0.119)).r;
    float seam = smoothstep(0.0, 0.10, fract(vPlace.y / 0.17)) * smoothstep(0.0, 0.05, fract((along + row * 0.37) / 0.46));
    float near = 1.0 - smoothstep(14.0, 55.0, distance(vPlace, uEye));
    colour *= mix(1.0, (0.72 + 0.56 * stone) * (0.78 + 0.22 * seam), 0.35 + 0.65 * near);
    colour = groundedFoot(colour, vPlace);
  } else {
    colour = top(colour * (0.84 + 0.32 * texture(uGrain, vPlace.xz / 1.7).g), vPlace, 1.0);
  }
  colour = air(lit(colour * 1.18, n, 1.0, 1.0), vPlace);
#endif
  outColour = vec4(colour, 1.0);
}
`;

export const WATER_VERTEX = /* glsl */ `
out vec3 vPlace;
void main() {
  vPlace = position;
  gl_Position = projectionMatrix * viewMatrix * vec4(position, 1.0);
}
`;

/** Water with depth: clear over the shore, dark where the ground lies deep, the sky on it at a low angle. */
export const WATER_FRAGMENT = /* glsl */ `
precision highp float;
precision highp sampler2D;
in vec3 vPlace;
uniform sampler2D uGrain;
uniform sampler2D uBed;
uniform vec2 uLevelSize;
uniform float uBedLow;
uniform float uBedHigh;
uniform vec3 uZenith;
uniform vec3 uDeep;
uniform float uClarity;
uniform float uFoam;
uniform float uWaves;
out vec4 outColour;
${LIGHT}
/** Two bytes of height; the sampler cannot mix them, so it is done by hand. */
float bedAt(ivec2 i) {
  vec2 b = texelFetch(uBed, i, 0).rg;
  return mix(uBedLow, uBedHigh, (b.r * 65280.0 + b.g * 255.0) / 65535.0);
}
void main() {
  ivec2 size = textureSize(uBed, 0) - 1;
  vec2 at = clamp(vPlace.xz / uLevelSize, 0.0, 1.0) * vec2(size);
  ivec2 i = min(ivec2(at), size - 1);
  vec2 f = at - vec2(i);
  float bed = mix(mix(bedAt(i), bedAt(i + ivec2(1, 0)), f.x), mix(bedAt(i + ivec2(0, 1)), bedAt(i + 1), f.x), f.y);
  float depth = vPlace.y - bed;
  depth = max(depth, 0.0);
  vec4 g = texture(uGrain, vPlace.xz / 5.3);
  vec4 g2 = texture(uGrain, vPlace.zx / 13.0);
  vec3 n = normalize(vec3((g.r - 0.5 + g2.g - 0.5) * 0.20 * uWaves, 1.0, (g.g - 0.5 + g2.r - 0.5) * 0.20 * uWaves));
  vec3 to = normalize(uEye - vPlace);
  float fresnel = 0.04 + 0.96 * pow(1.0 - max(dot(to, n), 0.0), 5.0);
  // Over the shore it is paler, as the bed shines through.
  vec3 deep = mix(uDeep * 2.0 + vec3(0.14, 0.13, 0.09), uDeep, smoothstep(0.0, uClarity, depth));
  vec3 r = reflect(-to, n);
  vec3 sky = mix(uHaze, uZenith, clamp(r.y * 1.6, 0.0, 1.0));
  vec3 colour = mix(deep * (uFill * 0.8 + uSunlight * 0.35), sky, fresnel);
  float spark = max(dot(r, uSun), 0.0);
  spark *= spark; spark *= spark; spark *= spark; spark *= spark; spark *= spark;
  colour += uSunlight * spark * 0.5;
  // A pale rim of wet stones and foam at the shore.
  colour = mix(colour, vec3(0.62, 0.64, 0.60), (1.0 - smoothstep(0.0, 0.16, depth + (g.b - 0.5) * 0.12)) * 1.1 * uFoam);
  colour = mix(colour, vec3(0.55, 0.63, 0.64), uWork * 0.6);
  outColour = vec4(air(colour, vPlace), 1.0);
}
`;
