import { OVERLAYS_CODE, OVERLAYS_UNIFORMS } from './overlays';
import { AROUND } from './full/around';
import { FULL } from './full/light';
import { WET } from './full/wet';
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
${LIGHT}
${FULL}
#ifdef SHADOW
void main() {}
#else
${SURFACES_GLSL}
#ifdef FULL
uniform float uRaise;
uniform float uWet[COUNT];
${AROUND}${WET}/** A normal leant by a height over the surface, by how both change from pixel to pixel (Mikkelsen 2010). */
vec3 raised(vec3 n, vec3 p, float h) {
  vec3 dx = dFdx(p), dy = dFdy(p);
  vec3 a = cross(dy, n), b = cross(n, dx);
  float det = dot(dx, a);
  vec3 g = sign(det) * (dFdx(h) * a + dFdy(h) * b);
  return normalize(abs(det) * n - g);
}
#endif
void main() {
  vec2 at = (vTile * 64.0 + 0.5) / 65.0;
  vec4 t = texture(uTile, at);
  vec2 g = t.xy * 2.0 - 1.0;
  vec3 n = normalize(vec3(g.x, sqrt(max(1.0 - dot(g, g), 0.04)), g.y));
  vec4 broad = texture(uGrain, vPlace.xz / 37.0 + vPlace.y * 0.011);
  // The broad grain frays the seams and breaks the repeat.
  float w[COUNT];
  sharesAt(uShares, at + (broad.rg - 0.5) * 0.012, w);
  vec4 laid = surfacesRound(w, vPlace, n);
  vec3 colour = laid.rgb * (0.78 + 0.44 * broad.b);
#ifndef QUICK
  float away = distance(vPlace, uEye);
  if (away < 16.0) {
    float chip = textureLod(uGrain, vec2(vPlace.x + vPlace.y, vPlace.z) / 0.62, log2(away * uBlur * 10.0 + 0.001)).a;
    colour *= mix(1.0, 0.74 + 0.52 * chip, 1.0 - away / 16.0);
  }
#endif
  float upright = n.y;
  n = normalize(n + vec3(broad.r - 0.5, 0.0, broad.g - 0.5) * 0.3);
#ifdef FULL
  // Stones stand out of the ground by the height of their picture.
  n = raised(n, vPlace, laid.a * uRaise * (1.0 - smoothstep(3.0, 30.0, distance(vPlace, uEye))));
  float wet = 0.0;
  for (int i = 0; i < COUNT; i++) wet += w[i] * uWet[i];
  vec3 albedo = asLight(min(colour * 1.06, 1.0));
  if (wet > 0.05) giveWet(albedo, n, vPlace, vec2(t.z, t.w), vec2(wet, laid.a));
  else giveMatt(albedo, n, vPlace, vec2(t.z, t.w), 0.0);
#else
  vec3 shaded = air(lit(colour * 1.18, n, t.z, t.w), vPlace);
${OVERLAYS_CODE}  outColour = vec4(shaded, 1.0);
#endif
}
#endif
`;
