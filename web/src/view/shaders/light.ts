/**
 * Light and air shared by everything in the level, from the lighting. `uWork` 1 is the work light: even,
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

/**
 * Sun and open sky on a face of what is built, for `lit`: those of the ground it looks out on, less the higher up it is;
 * under a roof no sun, and as much sky as comes in. A face looks out a step along its normal.
 */
export const BUILT_LIGHT = /* glsl */ `
uniform highp sampler2D uPlaceLight;
uniform highp sampler2D uCover;
uniform float uCoverLow;
uniform float uCoverFrom;
vec2 builtLight(vec3 p, vec3 n) {
  vec2 at = (p.xz + n.xz * 0.7) / uLevelSize;
  if (at.x < 0.0 || at.y < 0.0 || at.x > 1.0 || at.y > 1.0) return vec2(1.0);
  vec3 cover = texture(uCover, at).rgb;
  float under = smoothstep(uCoverFrom, uCoverFrom + 0.6, cover.r + uCoverLow - p.y);
  vec2 light = texture(uPlaceLight, at).rg;
  // What lies in shade at the foot of a wall leaves its top in the sun. Roofs that hang are not in the picture of the light.
  float up = n.y > 0.5 ? cover.b : smoothstep(0.5, 7.0, p.y - (cover.r + uCoverLow));
  light = mix(light, vec2(1.0), up);
  return mix(vec2(0.15 + 0.85 * light.x, 0.5 + 0.5 * light.y), vec2(0.0, cover.g), under);
}
`;

/** Sun and open sky where a thing stands, from the picture of the whole level. */
export const PLACE_LIGHT = /* glsl */ `
uniform highp sampler2D uPlaceLight;
uniform vec2 uLevelSize;
vec2 placeLight(vec2 xz) { return texture(uPlaceLight, xz / uLevelSize).rg; }
`;
