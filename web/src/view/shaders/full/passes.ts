import { FULL_AIR, FULL_UNIFORMS } from './light';

export const QUAD_VERTEX = /* glsl */ `
out vec2 vAt;
void main() {
  vAt = position.xy;
  gl_Position = vec4(position.xy, 0.0, 1.0);
}
`;

/** Depth of the level as metres before the eye. `uLens` near and far; x of `uFlat` 1 in Plan. */
export const FAR_AWAY = /* glsl */ `
precision highp float;
uniform highp sampler2D uDepth;
uniform vec2 uLens;
uniform float uFlat;
in vec2 vAt;
out vec4 outColour;
void main() {
  float d = texelFetch(uDepth, ivec2(gl_FragCoord.xy), 0).r;
  float z = uFlat > 0.5 ? mix(uLens.x, uLens.y, d) : uLens.x * uLens.y / (uLens.y - d * (uLens.y - uLens.x));
  outColour = vec4(z, 0.0, 0.0, 1.0);
}
`;

/** How much of what is round a place within a metre stands in the sky's way (McGuire and others 2011, Alchemy). */
export const NEAR_SHADE = /* glsl */ `
precision highp float;
uniform highp sampler2D uFarAway;
uniform vec2 uTan;
uniform float uFlat;
uniform float uPhase;
uniform float uReach;
in vec2 vAt;
out vec4 outColour;
vec3 placeAt(vec2 at, float z) { return vec3(at * uTan * (uFlat > 0.5 ? 1.0 : z), -z); }
float noiseAt(vec2 at) { return fract(52.9829189 * fract(dot(at + 5.588238 * uPhase, vec2(0.06711056, 0.00583715)))); }
void main() {
  vec2 size = vec2(textureSize(uFarAway, 0));
  ivec2 here = ivec2(gl_FragCoord.xy);
  float z = texelFetch(uFarAway, here, 0).r;
  vec2 step2 = 2.0 / size;
  vec3 p = placeAt(vAt, z);
  if (z > 400.0) { outColour = vec4(1.0); return; }
  // The flatter of both sides, so that an edge has the normal of the face it is on.
  vec3 r = placeAt(vAt + vec2(step2.x, 0.0), texelFetch(uFarAway, min(here + ivec2(1, 0), ivec2(size) - 1), 0).r) - p;
  vec3 l = p - placeAt(vAt - vec2(step2.x, 0.0), texelFetch(uFarAway, max(here - ivec2(1, 0), ivec2(0)), 0).r);
  vec3 t = placeAt(vAt + vec2(0.0, step2.y), texelFetch(uFarAway, min(here + ivec2(0, 1), ivec2(size) - 1), 0).r) - p;
  vec3 b = p - placeAt(vAt - vec2(0.0, step2.y), texelFetch(uFarAway, max(here - ivec2(0, 1), ivec2(0)), 0).r);
  vec3 n = normalize(cross(abs(r.z) < abs(l.z) ? r : l, abs(t.z) < abs(b.z) ? t : b));
  float reach = uReach;
  vec2 disc = reach / (uTan * (uFlat > 0.5 ? 1.0 : z));
  // Near by a metre is most of the picture: no further than a fifth of it.
  float most = min(1.0, 0.35 / max(disc.x, disc.y));
  disc *= most;
  reach *= most;
  float turn = noiseAt(gl_FragCoord.xy) * 6.2831853;
  float sum = 0.0;
  for (int i = 0; i < 9; i++) {
    float a = turn + float(i) * 2.3999632;
    float k = (float(i) + 0.5 + 0.5 * fract(turn * 7.31)) / 9.5;
    vec2 at = vAt + disc * k * vec2(cos(a), sin(a));
    vec2 uv = at * 0.5 + 0.5;
    if (uv.x < 0.0 || uv.y < 0.0 || uv.x > 1.0 || uv.y > 1.0) continue;
    vec3 v = placeAt(at, textureLod(uFarAway, uv, 0.0).r) - p;
    float d2 = dot(v, v);
    float f = max(reach * reach * 1.6 - d2, 0.0) / (reach * reach * 1.6);
    sum += f * f * f * max(dot(v, n) - 0.012 * (1.0 + z * 0.06), 0.0) / (d2 + 0.01) ;
  }
  outColour = vec4(max(0.0, 1.0 - sum * reach * 0.42));
}
`;

/** The level with the sky's light dimmed near by, and the sun's light that the haze before it throws to the eye: shafts between shadows. */
export const JOIN = /* glsl */ `
precision highp float;
precision highp sampler2D;
layout(location = 0) out vec4 outSun;
layout(location = 1) out vec4 outSky;
${FULL_UNIFORMS}
#define ONE_TAP
${FULL_AIR}
uniform sampler2D uOfSun;
uniform sampler2D uOfSky;
uniform sampler2D uNearShade;
uniform highp sampler2D uFarAway;
uniform float uShadeStrength;
uniform float uShafts;
uniform vec3 uSun;
uniform vec3 uEye;
uniform vec3 uForward;
uniform vec3 uRight;
uniform vec3 uUp;
uniform vec2 uTan;
uniform float uFlat;
in vec2 vAt;
void main() {
  ivec2 here = ivec2(gl_FragCoord.xy);
  float z = texelFetch(uFarAway, here, 0).r;
  float shade = 0.0;
  float weights = 0.0;
  ivec2 last = textureSize(uNearShade, 0) - 1;
  for (int y = -BLUR; y <= BLUR; y++) for (int x = -BLUR; x <= BLUR; x++) {
    ivec2 at = clamp(here + ivec2(x, y), ivec2(0), last);
    float w = 1.0 / (0.02 + abs(texelFetch(uFarAway, at, 0).r - z) / (0.02 * z + 0.02));
    shade += texelFetch(uNearShade, at, 0).r * w;
    weights += w;
  }
  shade = mix(1.0, shade / weights, uShadeStrength);
  vec4 sun = texelFetch(uOfSun, here, 0);
  vec4 sky = texelFetch(uOfSky, here, 0);
  sky.rgb *= shade;
#if STEPS > 0
  if (uShafts > 0.0 && uFlat < 0.5) {
    vec3 way = uForward + uRight * vAt.x * uTan.x + uUp * vAt.y * uTan.y;
    float reach = min(z, 110.0);
    float noise = pixelNoise(gl_FragCoord.xy);
    float l = length(way);
    float g = 0.55;
    float c = dot(way / l, uSun);
    // Per steradian, times pi: the sun's light is given over pi.
    float phase = (1.0 - g * g) / (4.0 * pow(1.0 + g * g - 2.0 * g * c, 1.5));
    float sum = 0.0;
    for (int i = 0; i < STEPS; i++) {
      float d = reach * (float(i) + noise) / float(STEPS);
      vec3 p = uEye + way * d;
      float thick = uAirAt.z > 0.0 ? exp(-max(0.0, (p.y - uAirAt.y) * uAirAt.z)) : 1.0;
      sum += thick * throughHaze(uEye, p) * sunAt(p, vec3(0.0), 1.0, noise);
    }
    sun.rgb += uSunHere * (sum * reach * l / float(STEPS) * uAirAt.x * phase * uShafts);
  }
#endif
  outSun = sun;
  outSky = sky;
}
`;

/** Two pictures as they are. */
export const COPY = /* glsl */ `
precision highp float;
layout(location = 0) out vec4 outSun;
layout(location = 1) out vec4 outSky;
uniform sampler2D uOfSun;
uniform sampler2D uOfSky;
void main() {
  outSun = texelFetch(uOfSun, ivec2(gl_FragCoord.xy), 0);
  outSky = texelFetch(uOfSky, ivec2(gl_FragCoord.xy), 0);
}
`;

/** One more frame of a picture that refines: sums of both, so that the weights of the sky's directions are kept. */
export const GATHER = /* glsl */ `
precision highp float;
layout(location = 0) out vec4 outSun;
layout(location = 1) out vec4 outSky;
uniform highp sampler2D uSumSun;
uniform highp sampler2D uSumSky;
uniform sampler2D uOfSun;
uniform sampler2D uOfSky;
uniform float uFirst;
void main() {
  ivec2 here = ivec2(gl_FragCoord.xy);
  // A glint brighter than any picture holds would stand in it alone for many frames.
  vec4 sun = vec4(min(texelFetch(uOfSun, here, 0).rgb, vec3(12.0)), 1.0);
  vec4 sky = texelFetch(uOfSky, here, 0);
  outSun = uFirst > 0.5 ? sun : texelFetch(uSumSun, here, 0) + sun;
  outSky = uFirst > 0.5 ? sky : texelFetch(uSumSky, here, 0) + sky;
}
`;

/** Grade, neutral tone mapping (see \`light/toneMap\`) and sRGB. While few frames are gathered the first, of baked light, shows through: \`uShare\`. */
export const TONE = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uOfSun;
uniform sampler2D uOfSky;
uniform sampler2D uBeforeSun;
uniform sampler2D uBeforeSky;
uniform float uShare;
uniform vec3 uGrade;
out vec4 outColour;
vec3 lightAt(vec4 sun, vec4 sky) { return sun.rgb / max(sun.a, 1e-4) + sky.rgb / max(sky.a, 1e-4); }
vec3 toneMap(vec3 c) {
  float x = min(c.r, min(c.g, c.b));
  c -= x < 0.08 ? x - 6.25 * x * x : 0.04;
  float peak = max(c.r, max(c.g, c.b));
  if (peak < 0.76) return c;
  float next = 1.0 - 0.0576 / (peak + 0.24 - 0.76);
  c *= next / peak;
  return mix(c, vec3(next), 1.0 - 1.0 / (0.15 * (peak - next) + 1.0));
}
void main() {
  ivec2 here = ivec2(gl_FragCoord.xy);
  vec3 c = lightAt(texelFetch(uOfSun, here, 0), texelFetch(uOfSky, here, 0));
  if (uShare < 1.0) c = mix(lightAt(texelFetch(uBeforeSun, here, 0), texelFetch(uBeforeSky, here, 0)), c, uShare);
  c = max(c, vec3(0.0)) * uGrade.x;
  c = 0.18 * pow(c / 0.18, vec3(uGrade.y));
  c = max(vec3(0.0), mix(vec3(dot(c, vec3(0.2126, 0.7152, 0.0722))), c, uGrade.z));
  c = clamp(toneMap(c), 0.0, 1.0);
  outColour = vec4(mix(12.92 * c, 1.055 * pow(c, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, c)), 1.0);
}
`;

/** A finished picture to the screen, with the level's depth, so that figures and handles stand in it. */
export const SHOW = /* glsl */ `
precision highp float;
uniform highp sampler2D uDepth;
uniform sampler2D uPictured;
out vec4 outColour;
void main() {
  ivec2 here = ivec2(gl_FragCoord.xy);
  outColour = texelFetch(uPictured, here, 0);
  gl_FragDepth = texelFetch(uDepth, here, 0).r;
}
`;
