import { AROUND } from './full/around';
import { FULL } from './full/light';
import { WATER_FULL } from './full/water';
import { LIGHT } from './light';

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
${LIGHT}
${FULL}
#ifdef FULL
${AROUND}
#endif
#ifdef FULL
uniform sampler2D uBehindSun;
uniform sampler2D uBehindSky;
uniform highp sampler2D uFarAway;
#endif
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
#ifdef FULL
${WATER_FULL}
#else
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
#endif
}
`;
