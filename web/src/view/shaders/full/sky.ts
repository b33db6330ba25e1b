/**
 * The sky as light. COLOURS: from the horizon's colour to the one overhead. AIR: a clear day's, from the table of `light/atmosphere`.
 * PANORAMA: a picture of all round, columns from -z over +x. Clouds over each but the last.
 */
export const SKY_LIGHT = /* glsl */ `
uniform vec3 uSun;
uniform vec3 uSunHere;
uniform vec3 uSkyZenith;
uniform vec3 uSkyHorizon;
uniform vec3 uSkyGround;
uniform highp sampler2D uSkyTable;
uniform float uSkyFill;
uniform float uSkyTurn;
uniform vec4 uClouds;
uniform float uDay;
uniform sampler2D uGrain;
float cloudAt(vec2 p) {
  float c = texture(uGrain, p * 0.09).r * 0.5 + texture(uGrain, p * 0.21 + 0.37).g * 0.3 + texture(uGrain, p * 0.57 + 0.11).b * 0.2;
  float edge = 0.74 - 0.60 * uClouds.x;
  return smoothstep(edge, edge + 0.22, c) * step(0.001, uClouds.x);
}
vec3 skyAt(vec3 d, float disc) {
  vec3 sky;
#ifdef PANORAMA
  vec2 at = vec2(fract(atan(d.x, -d.z) / 6.28318530718 + uSkyTurn), asin(clamp(d.y, -1.0, 1.0)) / 3.14159265359 + 0.5);
  sky = textureLod(uSkyTable, at, 0.0).rgb * uSkyFill;
  // Its sun lights as the sun: it is not to light a second time as a part of the sky.
  if (disc < 0.5) sky = min(sky, vec3(6.0));
#else
  float h = max(d.y, 0.0);
#ifdef AIR
  float round = acos(clamp(dot(normalize(d.xz + 1e-6), normalize(uSun.xz + 1e-6)), -1.0, 1.0)) / 3.14159265359;
  float high = sqrt(asin(clamp(h, 0.0, 1.0)) / 1.57079632679);
  vec2 size = vec2(textureSize(uSkyTable, 0));
  sky = textureLod(uSkyTable, (vec2(round, high) * (size - 1.0) + 0.5) / size, 0.0).rgb * uSkyFill;
#else
  sky = mix(uSkyHorizon, uSkyZenith, 1.0 - 1.0 / (1.0 + h * 4.5));
  float glow = max(dot(d, uSun), 0.0);
  glow *= glow; glow *= glow; glow *= glow;
  sky += uSunHere * vec3(0.10, 0.07, 0.04) * glow;
#endif
  // Stars come out as the sky goes dark.
  if (uDay < 0.35 && d.y > 0.0) {
    vec3 cell = floor(d * 150.0);
    float pick = fract(sin(dot(cell, vec3(12.9898, 78.233, 37.719))) * 43758.5453);
    vec3 off = fract(d * 150.0) - 0.5;
    float star = step(0.985, pick) * (1.0 - smoothstep(0.05, 0.2, dot(off, off))) * smoothstep(0.0, 0.25, d.y) * disc;
    sky += vec3(0.85, 0.9, 1.0) * 0.22 * (1.0 - uDay / 0.35) * star;
  }
  // The sun, or a moon, as wide as it is in the sky and no brighter than a picture can hold.
  float across = dot(d, uSun);
  sky += uSunHere * disc * smoothstep(0.99996, 0.999985, across) * mix(6.0, 40.0, uDay);
  if (d.y > 0.01 && uClouds.x > 0.0) {
    vec2 p = d.xz / (d.y + 0.11) + uClouds.yz;
    float c = cloudAt(p);
    // How much cloud lies between this and the sun: a step that way.
    vec2 toSun = normalize(uSun.xz + 1e-5) * 0.3;
    float before = cloudAt(p + toSun * (1.0 - uSun.y));
    vec3 bright = uSunHere * (0.30 + 0.55 * exp(-2.2 * before) + 0.5 * pow(max(across, 0.0), 12.0) * (1.0 - c));
    vec3 cloud = bright * (1.0 - 0.45 * c * uClouds.x) + uSkyFill * mix(uSkyZenith, uSkyHorizon, 0.6) * 0.55;
    sky = mix(sky, cloud, c * smoothstep(0.01, 0.16, d.y) * 0.92);
  }
  // Below the horizon: what the ground throws back; seen, it is far off and in haze.
  sky = mix(sky, mix(uSkyGround, uSkyHorizon, disc * smoothstep(-0.9, 0.0, d.y)), smoothstep(0.0, -0.06, d.y));
#endif
  return max(sky, vec3(0.0));
}
`;

/** The dome behind the level. */
export const DOME_FRAGMENT = /* glsl */ `
precision highp float;
precision highp sampler2D;
layout(location = 0) out vec4 outSun;
layout(location = 1) out vec4 outSky;
uniform vec3 uForward;
uniform vec3 uRight;
uniform vec3 uUp;
uniform vec2 uTan;
in vec2 vAt;
${SKY_LIGHT}
void main() {
  vec3 d = normalize(uForward + uRight * vAt.x * uTan.x + uUp * vAt.y * uTan.y);
  outSun = vec4(skyAt(d, 1.0), 1.0);
  outSky = vec4(0.0, 0.0, 0.0, 1.0);
}
`;

/** The sky round a place, for the faces of a cube: without the sun's disc, whose light is the sun's. */
export const AROUND_VERTEX = /* glsl */ `
out vec3 vDirection;
void main() {
  vDirection = position;
  gl_Position = projectionMatrix * viewMatrix * vec4(position + cameraPosition, 1.0);
}
`;
export const AROUND_FRAGMENT = /* glsl */ `
precision highp float;
precision highp sampler2D;
in vec3 vDirection;
out vec4 outColour;
${SKY_LIGHT}
void main() { outColour = vec4(skyAt(normalize(vDirection), 0.0), 1.0); }
`;

/** The sky as a map of all round; see \`mapDirection\` of core. */
export const MAP_FRAGMENT = /* glsl */ `
precision highp float;
precision highp sampler2D;
in vec2 vAt;
out vec4 outColour;
${SKY_LIGHT}
void main() {
  vec2 at = (vAt * 0.5 + 0.5) * vec2(6.28318530718, 3.14159265359);
  float up = at.y - 1.57079632679;
  outColour = vec4(skyAt(vec3(sin(at.x) * cos(up), sin(up), -cos(at.x) * cos(up)), 0.0), 1.0);
}
`;
