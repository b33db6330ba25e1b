/**
 * Plants move in the wind: the trunk bends with it, each at a time of its own, branches swing the farther they reach out of it, each
 * side for itself, and leaves flutter. `uWind` is its strength along x and z; nothing moves at 0. `leaf` is 0 for wood, 1 for leaves.
 */
export const WIND = /* glsl */ `
#if defined(FULL) || defined(SHADOW)
uniform float uTime;
uniform vec2 uWind;
uniform float uSway;
vec3 swayed(vec3 p, vec3 foot, float leaf) {
  float h = max(p.y - foot.y, 0.0);
  // Low plants bend as far for their height as tall ones, which are stiffer.
  float bend = h * 0.05 / (1.0 + 0.12 * h);
  float gust = 0.6 + 0.4 * sin(uTime * 0.7 - dot(foot.xz, vec2(0.11, 0.07)));
  float own = sin(uTime * 1.9 + dot(foot.xz, vec2(1.7, 2.3)));
  float flutter = 0.3 * leaf * sin(uTime * 5.3 + dot(p.xz, vec2(5.1, 3.7)) + p.y * 2.0);
  vec2 trunk = uWind * (bend * gust * (0.7 + 0.5 * own + flutter));
  vec2 out_ = p.xz - foot.xz;
  float far = min(length(out_), h);
  float swing = sin(uTime * 2.7 + dot(foot.xz, vec2(2.9, 1.3)) + dot(out_, vec2(0.9, 1.1)) / max(far, 0.1) * 2.0 + p.y * 0.8);
  float branch = 0.02 * far / (1.0 + 0.12 * far) * length(uWind) * gust * swing;
  return p + vec3(trunk.x, branch, trunk.y) * uSway;
}
#endif
`;
