/** Light and air shared by ground and blocks. `uWork` 1 is the work light: even, no shadow, no haze. */
export const LIGHT = /* glsl */ `
uniform vec3 uSun;
uniform vec3 uEye;
uniform float uWork;
const vec3 SUN = vec3(1.28, 1.13, 0.92);
const vec3 SKY = vec3(0.42, 0.50, 0.60);
const vec3 BOUNCE = vec3(0.25, 0.22, 0.17);
const vec3 HAZE = vec3(0.74, 0.78, 0.79);

vec3 lit(vec3 colour, vec3 n, float sun, float sky) {
  float d = max(dot(n, uSun), 0.0);
  vec3 full = SUN * d * sun + mix(BOUNCE, SKY, n.y * 0.5 + 0.5) * (0.25 + 0.75 * sky);
  vec3 work = vec3(0.62 + 0.38 * (n.y * 0.7 + n.x * 0.18 + n.z * 0.12)) * (0.6 + 0.4 * sky);
  return colour * mix(full, work, uWork);
}

/** Haze by distance and a soft curve of tones, as ratios: exp and pow are dear in software. */
vec3 air(vec3 colour, vec3 p) {
  float x = distance(p, uEye) * 0.0024;
  float f = x / (1.0 + 0.9 * x) * 0.85 * (1.0 - uWork);
  colour = mix(colour, HAZE, f);
  return colour * (1.16 - 0.16 * colour);
}
`;

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

/** Ground by slope: turf, then slate with its bedding. One fetch for the light, two for the grain, three more where there is rock. */
export const TERRAIN_FRAGMENT = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform sampler2D uTile;
uniform sampler2D uGrain;
uniform vec2 uSlate;
uniform float uBlur;
uniform float uReading;
uniform float uLimit;
in vec3 vPlace;
in vec2 vTile;
out vec4 outColour;
${LIGHT}
void main() {
  vec4 t = texture(uTile, (vTile * 64.0 + 0.5) / 65.0);
  vec2 g = t.xy * 2.0 - 1.0;
  vec3 n = vec3(g.x, sqrt(max(1.0 - dot(g, g), 0.04)), g.y);
  n = normalize(n);
  float n0 = n.y;
  vec4 broad = texture(uGrain, vPlace.xz / 23.0);
  vec4 fine = texture(uGrain, vec2(vPlace.x + vPlace.y * 0.7, vPlace.z - vPlace.y * 0.4) / 3.1);
  // Slope as 1 - cos: no arc cosine a pixel.
  float steep = 1.0 - n.y + (fine.r - 0.5) * 0.10 + (broad.g - 0.5) * 0.09;
  float slate = smoothstep(uSlate.x, uSlate.y, steep);
  vec3 turf = mix(vec3(0.235, 0.255, 0.125), vec3(0.40, 0.385, 0.19), broad.r * 0.65 + fine.g * 0.45 - 0.1);
  turf = mix(turf, vec3(0.36, 0.30, 0.235), smoothstep(0.52, 0.80, broad.b + fine.r * 0.22 - 0.06) * 0.75);
  float away = distance(vPlace, uEye);
  if (away < 18.0) {
    // Close to the eye the ground has blades and chips.
    float blade = textureLod(uGrain, vec2(vPlace.x + vPlace.y, vPlace.z) / 0.62, log2(away * uBlur * 10.0 + 0.001)).a;
    turf *= mix(1.0, 0.72 + 0.56 * blade, 1.0 - away / 18.0);
  }
  vec3 rock = turf;
  if (slate > 0.01) {
    // Thick beds, thin leaves and upright joints; each is long one way and short the other.
    float blur = log2(away * uBlur + 0.001);
    float beds = textureLod(uGrain, vec2(vPlace.y / 6.1, (vPlace.x - vPlace.z) / 83.0), blur + 0.6).r;
    float leaves = textureLod(uGrain, vec2(vPlace.y / 1.3, (vPlace.x + vPlace.z) / 19.0), blur + 2.8).g;
    float joints = textureLod(uGrain, vec2((vPlace.x * 0.8 + vPlace.z * 0.6) / 5.2, vPlace.y / 23.0), blur + 0.8).b;
    rock = mix(vec3(0.185, 0.195, 0.225), vec3(0.435, 0.435, 0.455), clamp(beds * 0.85 + leaves * 0.55 - 0.22, 0.0, 1.0));
    rock *= 0.70 + 0.36 * smoothstep(0.30, 0.52, joints);
    rock = mix(rock, vec3(0.33, 0.25, 0.22), smoothstep(0.58, 0.82, broad.a + beds * 0.15) * 0.45);
    rock = mix(rock, vec3(0.27, 0.29, 0.19), smoothstep(0.60, 0.78, fine.b * 0.5 + broad.b * 0.5) * 0.5);
  }
  vec3 colour = mix(turf, rock, slate);
  n = normalize(n + vec3(fine.r - 0.5, 0.0, fine.g - 0.5) * mix(0.22, 0.42, slate));
  vec3 shaded = lit(colour * 1.18, n, t.z, t.w);
  shaded = air(shaded, vPlace);
  if (uReading > 0.5) {
    float line = abs(fract(vPlace.y) - 0.5);
    float w = fwidth(vPlace.y) * 0.9;
    float degreesUp = degrees(acos(clamp(n0, 0.0, 1.0)));
    float over = smoothstep(uLimit - 0.6, uLimit + 0.6, degreesUp);
    float tick = (1.0 - smoothstep(w, w * 2.0, 0.5 - line)) * over;
    shaded = mix(shaded, mix(shaded, vec3(0.79, 0.545, 0.106), 0.42), over);
    shaded = mix(shaded, vec3(0.09, 0.13, 0.12), tick * 0.9);
  }
  outColour = vec4(shaded, 1.0);
}
`;

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
in vec3 vPlace;
in vec3 vNormal;
in vec4 vFace;
in float vCourse;
uniform vec3 uColour;
out vec4 outColour;
${LIGHT}
float mark(float metres, float width) {
  float px = max(fwidth(metres), 1e-5);
  return 1.0 - smoothstep(width * 0.5, width * 0.5 + 1.0, abs(metres) / px);
}
void main() {
  vec3 n = normalize(vNormal);
  float contact = 0.72 + 0.28 * smoothstep(0.0, 0.7, vCourse);
  vec3 colour = lit(uColour, n, 1.0, 1.0) * mix(contact, 1.0, abs(n.y));
  float ink = 0.0;
  if (abs(n.y) < 0.999) {
    float nearest = floor(vCourse + 0.5);
    float weight = mod(nearest, 5.0) < 0.5 ? 1.6 : 0.6;
    float fade = 1.0 - smoothstep(0.12, 0.45, fwidth(vCourse));
    if (nearest > 0.5) ink = mark(vCourse - nearest, weight) * 0.55 * fade;
  }
  float edge = mark(min(vFace.x, vFace.y), 1.6);
  edge = max(edge, mark(min(vFace.z, vFace.w), 1.6));
  ink = max(ink, edge * 0.85);
  colour = mix(colour, vec3(0.09, 0.13, 0.12), ink);
  outColour = vec4(air(colour, vPlace), 1.0);
}
`;

export const SKY_VERTEX = /* glsl */ `
out vec2 vAt;
void main() {
  vAt = position.xy;
  gl_Position = vec4(position.xy, 0.99999, 1.0);
}
`;

export const SKY_FRAGMENT = /* glsl */ `
precision highp float;
uniform vec3 uForward;
uniform vec3 uRight;
uniform vec3 uUp;
uniform vec2 uTan;
uniform vec3 uSun;
uniform float uWork;
in vec2 vAt;
out vec4 outColour;
void main() {
  vec3 d = normalize(uForward + uRight * vAt.x * uTan.x + uUp * vAt.y * uTan.y);
  float h = clamp(d.y, -0.3, 1.0);
  vec3 haze = vec3(0.80, 0.835, 0.835);
  vec3 zenith = vec3(0.36, 0.50, 0.63);
  vec3 sky = mix(haze, zenith, 1.0 - exp(-max(h, 0.0) * 3.4));
  // Below the horizon there is no ground to draw: the sheet's own paper, a little darker towards the foot.
  sky = mix(sky, mix(vec3(0.905, 0.917, 0.900), vec3(0.80, 0.82, 0.80), smoothstep(-0.1, -0.75, d.y)), smoothstep(0.01, -0.10, d.y));
  float glow = pow(max(dot(d, uSun), 0.0), 10.0);
  sky += vec3(0.22, 0.17, 0.09) * glow;
  outColour = vec4(mix(sky, vec3(0.925, 0.933, 0.918), uWork), 1.0);
}
`;
