import { FULL } from './full/light';
import { BUILT_LIGHT, LIGHT } from './light';
import { CONTACT, PAINTED_TOPS } from './surfaces';

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
${LIGHT}
${FULL}
#ifdef SHADOW
void main() {}
#else
${BUILT_LIGHT}
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
  vec2 light = builtLight(vPlace, n);
#ifdef FULL
  vec3 colour = base;
#else
  vec3 colour = lit(base, n, light.x, light.y) * mix(contact, 1.0, abs(n.y));
#endif
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
#ifdef FULL
  giveMatt(asLight(colour), n, vPlace, light, 0.0);
#else
  outColour = vec4(air(colour, vPlace), 1.0);
#endif
}
#endif
`;
