import { OVERLAYS_CODE, OVERLAYS_UNIFORMS } from './overlays';
import { LIGHT } from './light';
import { SURFACES_GLSL } from './surfaces';

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
 * Ground by its surfaces: one fetch for the light, one for the shares, one for broad variation, one a surface. QUICK while a slow
 * machine moves the view; TOO_STEEP shows what is too steep.
 */
export const TERRAIN_FRAGMENT = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uTile;
uniform highp sampler2DArray uShares;
uniform sampler2D uGrain;
uniform float uBlur;
${OVERLAYS_UNIFORMS}in vec3 vPlace;
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
${OVERLAYS_CODE}  outColour = vec4(shaded, 1.0);
}
`;
