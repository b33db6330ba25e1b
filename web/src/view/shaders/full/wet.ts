/** Wet ground in the full picture; it needs `FULL` and `AROUND` before it. */
export const WET = /* glsl */ `
/**
 * Ground that is wet: darker for the water in it, shining where it is smooth, and level where water stands in its hollows.
 * @param baked sun and open sky as they were baked
 * @param how how wet, and how far it stands out, both 0 to 1
 */
void giveWet(vec3 albedo, vec3 n, vec3 p, vec2 baked, vec2 how) {
  float noise = pixelNoise(gl_FragCoord.xy);
  float film = how.x * (1.0 - smoothstep(0.3, 0.55, how.y));
  n = normalize(mix(n, vec3(0.0, 1.0, 0.0), film * 0.96));
  albedo *= 1.0 - 0.42 * how.x;
  float rough = mix(mix(0.85, 0.4, how.x), 0.07, film);
  vec3 v = normalize(uEye - p);
  float nl = max(dot(n, uSun), 0.0), nv = max(dot(n, v), 0.05);
  float shadow = nl > 0.0 ? sunAt(p, n, baked.x, noise) : 0.0;
  // Water throws back 2 % head on, all of it along the surface (Schlick, 1994).
  float fresnel = (0.02 + 0.98 * pow(1.0 - nv, 5.0)) * how.x * (1.0 - 0.6 * rough);
  vec3 h = normalize(uSun + v);
  float a2 = rough * rough * rough * rough, nh = max(dot(n, h), 0.0);
  float d = nh * nh * (a2 - 1.0) + 1.0;
  float shine = 0.02 * how.x * a2 / (d * d) * 0.25 / max(nl * nv, 0.05) * nl;
  vec3 lit = uSunHere * shadow * (albedo * nl * (1.0 - fresnel) + shine);
  vec3 sky = albedo * wholeSky(n) * (1.0 - fresnel) + around(reflect(-v, n), rough) * fresnel;
  give(lit, sky, openness(p, n, baked.y, noise), p);
}
`;
