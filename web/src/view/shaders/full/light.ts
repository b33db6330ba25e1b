/**
 * Light of the full picture, linear. What is drawn writes two colours: `outSun`, light that comes as it is (sun, lamps, haze), and
 * `outSky`, light of the sky, which is dimmed afterwards by what stands close by; its alpha is the weight of this frame's sky direction.
 *
 * `uShadow` holds the sun's shadows, four boxes of light two by two; `uSkyShadow` those of one direction of the sky, near and far side by
 * side. `uTraced` 1: the sky's light is what that direction sees of it, over many frames all of it; 0: how open the place was baked to be.
 */
export const FULL_UNIFORMS = /* glsl */ `
uniform highp sampler2DShadow uShadow;
uniform mat4 uShadowAt[4];
uniform vec4 uShadowTexel;
uniform float uTraced;
uniform highp sampler2DShadow uSkyShadow;
uniform mat4 uSkyAt[2];
uniform vec2 uSkyTexel;
uniform vec3 uSkyFrom;
uniform vec3 uSky[9];
uniform vec3 uSunHere;
uniform vec3 uAir;
uniform vec3 uAirAt;
uniform float uPhase;
uniform float uTime;
uniform float uFade;
`;

/** Shadows of the sun and haze along a line, which the passes behind the level use too. */
export const FULL_AIR = /* glsl */ `
/** Noise that differs from pixel to pixel and frame to frame, 0 to 1 (Jimenez 2014). */
float pixelNoise(vec2 at) {
  return fract(52.9829189 * fract(dot(at + 5.588238 * uPhase, vec2(0.06711056, 0.00583715))));
}
/** Sun at a place by the boxes of light; \`baked\` beyond them. */
float sunAt(vec3 p, vec3 n, float baked, float noise) {
  for (int i = 0; i < 4; i++) {
    vec3 s = (uShadowAt[i] * vec4(p + n * uShadowTexel[i] * 1.6, 1.0)).xyz;
    vec2 m = abs(s.xy - 0.5);
    // The next box takes over within a band, pixel by pixel, so that no seam is seen.
    if (max(m.x, m.y) > 0.485 - 0.04 * noise) continue;
    vec2 uv = (s.xy + vec2(i & 1, i >> 1)) * 0.5;
#ifdef ONE_TAP
    return texture(uShadow, vec3(uv, s.z));
#else
    // Over many frames the sun moves within its disc: one look each is enough.
    if (uTraced > 0.5) return texture(uShadow, vec3(uv, s.z));
    float sum = 0.0;
    float turn = noise * 6.2831853;
    float texel = 0.5 / float(textureSize(uShadow, 0).x / 2);
    for (int k = 0; k < 6; k++) {
      float a = turn + float(k) * 2.3999632;
      float r = sqrt((float(k) + 0.5) / 6.0) * 1.7 * texel;
      sum += texture(uShadow, vec3(uv + r * vec2(cos(a), sin(a)), s.z));
    }
    return sum / 6.0;
#endif
  }
  return baked;
}
/** Mean thickness of the haze between two heights; see \`light/haze\`. */
float hazeFrom(float x) { return x < 0.0 ? x : 1.0 - exp(-x); }
float thickness(float from, float to) {
  if (uAirAt.z <= 0.0) return 1.0;
  float a = (from - uAirAt.y) * uAirAt.z, b = (to - uAirAt.y) * uAirAt.z;
  if (abs(b - a) < 1e-3) return exp(-max(0.0, 0.5 * (a + b)));
  return (hazeFrom(b) - hazeFrom(a)) / (b - a);
}
/** How much of what is seen at a place comes through the haze. */
float throughHaze(vec3 from, vec3 to) { return exp(-uAirAt.x * distance(from, to) * thickness(from.y, to.y)); }
`;

/** What every shader of the level writes in the full picture; it needs \`LIGHT\` before it. */
export const FULL = /* glsl */ `
#ifdef FULL
layout(location = 0) out vec4 outSun;
layout(location = 1) out vec4 outSky;
${FULL_UNIFORMS}
${FULL_AIR}
/** Whether a pixel is left to the LOD that comes or goes. */
bool faded() {
  float n = pixelNoise(gl_FragCoord.xy);
  return uFade < 0.0 ? n < -uFade : n > uFade;
}
/** A colour as it is chosen, sRGB, as light. */
vec3 asLight(vec3 c) { return c * (c * (c * 0.305306011 + 0.682171111) + 0.012522878); }
/** Light of the whole sky on a face, over pi, nothing in its way. */
vec3 wholeSky(vec3 n) {
  return max(vec3(0.0), uSky[0] * 0.282094791774 + 0.488602511903 * (uSky[1] * n.y + uSky[2] * n.z + uSky[3] * n.x)
    + 1.092548430592 * (uSky[4] * n.x * n.y + uSky[5] * n.y * n.z + uSky[7] * n.x * n.z)
    + uSky[6] * (0.315391565253 * (3.0 * n.z * n.z - 1.0)) + uSky[8] * (0.546274215296 * (n.x * n.x - n.y * n.y)));
}
/** How much of the sky's light reaches a face: x, and the weight of that in the mean of all frames: y. */
vec2 openness(vec3 p, vec3 n, float baked, float noise) {
  if (uTraced < 0.5) return vec2(baked, 1.0);
  // A little of every direction counts for every face: what faces down is lit by what the open ground throws back.
  float weight = max(dot(n, uSkyFrom), 0.0) + 0.02;
  for (int i = 0; i < 2; i++) {
    vec3 s = (uSkyAt[i] * vec4(p + n * uSkyTexel[i] * 1.5, 1.0)).xyz;
    vec2 m = abs(s.xy - 0.5);
    if (max(m.x, m.y) > 0.49 - 0.03 * noise) continue;
    return vec2(texture(uSkyShadow, vec3((s.x + float(i)) * 0.5, s.y, s.z)), weight);
  }
  return vec2(baked, weight);
}
/** Gives light of the sun and of the sky to the picture, through the haze before it. */
void give(vec3 sun, vec3 sky, vec2 open, vec3 p) {
  float t = throughHaze(uEye, p);
  outSun = vec4(sun * t + uAir * (1.0 - t), 1.0);
  outSky = vec4(sky * (t * open.x * open.y), open.y);
}
/**
 * A matt surface. \`leaf\`: so much of the sun behind it comes through.
 * @param baked sun and open sky as they were baked
 */
void giveMatt(vec3 albedo, vec3 n, vec3 p, vec2 baked, float leaf) {
  float noise = pixelNoise(gl_FragCoord.xy);
  float d = dot(n, uSun);
  float facing = max(d, 0.0) + leaf * max(-d, 0.0);
  float sun = facing > 0.0 ? facing * sunAt(p, d < 0.0 ? -n : n, baked.x, noise) : 0.0;
  give(albedo * uSunHere * sun, albedo * wholeSky(n), openness(p, n, baked.y, noise), p);
}
#elif !defined(SHADOW)
out vec4 outColour;
#endif
`;
