import { LIGHT } from './light';

export const SKY_VERTEX = /* glsl */ `
out vec2 vAt;
void main() {
  vAt = position.xy;
  gl_Position = vec4(position.xy, 0.99999, 1.0);
}
`;

export const SKY_FRAGMENT = /* glsl */ `
precision highp float;
precision highp sampler2D;
uniform vec3 uForward;
uniform vec3 uRight;
uniform vec3 uUp;
uniform vec2 uTan;
uniform vec3 uZenith;
uniform float uDay;
uniform sampler2D uGrain;
in vec2 vAt;
out vec4 outColour;
${LIGHT}
void main() {
  vec3 d = normalize(uForward + uRight * vAt.x * uTan.x + uUp * vAt.y * uTan.y);
  float h = max(d.y, 0.0);
  vec3 sky = mix(uHaze * 1.03, uZenith, 1.0 - 1.0 / (1.0 + h * 4.5));
  if (d.y > 0.015) {
    // High thin cloud, drawn out along the wind; it thins towards the horizon.
    vec2 p = d.xz / (d.y + 0.12);
    float c = texture(uGrain, p * vec2(0.055, 0.13)).r * 0.65 + texture(uGrain, p * vec2(0.16, 0.34) + 0.3).g * 0.35;
    sky = mix(sky, mix(uHaze, vec3(1.0), 0.45 * uDay), smoothstep(0.50, 0.86, c) * 0.5 * smoothstep(0.015, 0.22, d.y));
  }
  float glow = max(dot(d, uSun), 0.0);
  glow *= glow; glow *= glow; glow *= glow;
  sky += uSunlight * vec3(0.17, 0.13, 0.07) * glow;
  sky = grade(sky);
  // Below the horizon there is no ground to draw: the sheet's own paper, a little darker towards the foot.
  // By night it is as dark as the sky, or it would be the brightest of all.
  vec3 paper = mix(vec3(0.905, 0.917, 0.900), vec3(0.80, 0.82, 0.80), smoothstep(-0.1, -0.75, d.y));
  sky = mix(sky, mix(grade(uHaze), paper, uDay), smoothstep(0.01, -0.10, d.y));
  outColour = vec4(mix(sky, vec3(0.925, 0.933, 0.918), uWork), 1.0);
}
`;
