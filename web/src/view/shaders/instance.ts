import { COATS_CARRY, COATS_FRAGMENT, COATS_VERTEX, overCoats } from './coats';
import { FULL } from './full/light';
import { BUILT_LIGHT, LIGHT, PLACE_LIGHT } from './light';
import { WIND } from './full/wind';
import { ROOTS } from './roots';
import { CONTACT, PAINTED_TOPS } from './surfaces';

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
#if defined(STONE) || defined(FULL) || defined(SHADOW)
uniform vec3 uEye;
out vec3 vPlace;
out vec3 vNormal;
flat out vec2 vFoot;
#else
${LIGHT}
${PLACE_LIGHT}
#define LEVEL_SIZE
#endif
${WIND}
${ROOTS}
${COATS_VERTEX}
void main() {
${COATS_CARRY}
  vec3 tint = vec3(1.0);
  vec3 n;
#ifdef MERGED
  vec3 at = foot;
  vec3 p = position;
#ifdef STONE
  tint = tintOf;
#else
  tint = mix(vec3(1.0), tintOf, colour.a);
#endif
#else
  vec3 at = instanceMatrix[3].xyz;
  vec3 p = vec3(position.x * length(instanceMatrix[0].xyz), position.y * length(instanceMatrix[1].xyz), 0.0);
#ifdef USE_INSTANCING_COLOR
#ifdef STONE
  tint = instanceColor;
#else
  tint = mix(vec3(1.0), instanceColor, colour.a);
#endif
#endif
#endif
  if (uBillboard > 0.5) {
    // About Y to the eye; in Plan to the south.
    vec2 to = uView.y < -0.99 ? vec2(0.0, 1.0) : normalize(uEye.xz - at.xz + 1e-4);
    // About its own stem, which need not stand upright.
#ifdef MERGED
    vec3 up = normal;
#else
    vec3 up = normalize(instanceMatrix[1].xyz);
#endif
    vec3 eye = uView.y < -0.99 && up.y < 0.7 ? vec3(0.0, 1.0, 0.0) : vec3(to.x, 0.0, to.y);
    vec3 aside = cross(up, eye);
    p = at + aside / max(length(aside), 1e-3) * p.x + up * p.y;
    n = normalize(vec3(to.x * 0.6 + to.y * position.x * 0.5, 0.7, to.y * 0.6 - to.x * position.x * 0.5));
  } else {
#ifdef MERGED
    n = normal;
#else
    p = (instanceMatrix * vec4(position, 1.0)).xyz;
    // By the inverse transpose: sizes differ along the axes.
    mat3 m = mat3(instanceMatrix);
    n = normalize(m * (normal / max(vec3(dot(m[0], m[0]), dot(m[1], m[1]), dot(m[2], m[2])), 1e-12)));
#endif
  }
  vColour = sqrt(max(colour.rgb, vec3(0.0))) * tint;
#ifdef ROOTS
  vec4 root = rootOf(p, at);
  vColour = mix(vColour, root.rgb, root.a);
#endif
#if defined(STONE) || defined(FULL) || defined(SHADOW)
#if !defined(STONE)
  p = swayed(p, at, colour.a);
#endif
  vPlace = p;
  vNormal = n;
  vFoot = at.xz;
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
#if defined(STONE) || defined(FULL)
in vec3 vPlace;
in vec3 vNormal;
flat in vec2 vFoot;
uniform sampler2D uGrain;
#ifdef STONE
uniform vec2 uLevelSize;
#endif
${LIGHT}
#endif
${FULL}
#ifdef SHADOW
void main() {}
#else
#ifdef STONE
${BUILT_LIGHT}
${CONTACT}
${PAINTED_TOPS}
${COATS_FRAGMENT}
#elif defined(FULL)
${PLACE_LIGHT}
#endif
void main() {
#ifdef FULL
  if (uFade != 1.0 && faded()) discard;
#endif
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
#ifdef COATED
  float coats[COATED];
  coatShares(vPlace, n, coats);
${overCoats((i) => ` colour = mix(colour, coatColour${i}(vPlace, n), coats[${i}]); `)}
#endif
  vec2 light = builtLight(vPlace, n);
#ifdef FULL
  giveMatt(asLight(min(colour * 1.06, 1.0)), n, vPlace, light, 0.0);
#else
  colour = air(lit(colour * 1.18, n, light.x, light.y), vPlace);
#endif
#elif defined(FULL)
  vec2 light = placeLight(vFoot);
  giveMatt(asLight(min(colour * 1.06, 1.0)), normalize(vNormal), vPlace, vec2(0.5 + 0.5 * light.x, 0.6 + 0.4 * light.y), 0.3);
#endif
#ifndef FULL
  outColour = vec4(colour, 1.0);
#endif
}
#endif
`;
