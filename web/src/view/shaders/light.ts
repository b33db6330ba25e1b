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

/** Sun and open sky where a thing stands, from the picture of the whole level. */
export const PLACE_LIGHT = /* glsl */ `
uniform sampler2D uPlaceLight;
uniform vec2 uLevelSize;
vec2 placeLight(vec2 xz) { return texture(uPlaceLight, xz / uLevelSize).rg; }
`;
