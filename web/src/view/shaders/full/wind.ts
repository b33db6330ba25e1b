/** Plants move in the wind: their tops go with it, each at a time of its own. `uWind` is its strength along x and z; nothing moves at 0. */
export const WIND = /* glsl */ `
#if defined(FULL) || defined(SHADOW)
uniform float uTime;
uniform vec2 uWind;
vec3 swayed(vec3 p, vec3 foot) {
  float h = max(p.y - foot.y, 0.0);
  // Low plants bend as far for their height as tall ones, which are stiffer.
  float bend = h * 0.05 / (1.0 + 0.12 * h);
  float gust = 0.6 + 0.4 * sin(uTime * 0.7 - dot(foot.xz, vec2(0.11, 0.07)));
  float own = sin(uTime * 1.9 + dot(foot.xz, vec2(1.7, 2.3)));
  float flutter = 0.25 * sin(uTime * 5.3 + dot(p.xz, vec2(5.1, 3.7)) + p.y * 2.0);
  vec2 by = uWind * (bend * gust * (0.7 + 0.5 * own + flutter));
  return p + vec3(by.x, 0.0, by.y);
}
#endif
`;
