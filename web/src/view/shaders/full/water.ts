/**
 * Water of the full picture, in the water's own main: what lies under it is seen through as much water as there is on the way, bent by the
 * waves; the sky lies on it by Fresnel; foam where it is shallow. `uBehindSun` and `uBehindSky` are the level without it.
 */
export const WATER_FULL = /* glsl */ `
  float noise = pixelNoise(gl_FragCoord.xy);
  vec3 way = vPlace - uEye;
  float away = length(way);
  vec3 to = -way / max(away, 1e-3);
  // Four trains of waves over the grain, each its own way; far off they lie too close to be seen one by one.
  vec2 g1 = texture(uGrain, vPlace.xz / 3.1 + uTime * vec2(0.031, 0.012)).rg - 0.5;
  vec2 g2 = texture(uGrain, vPlace.zx / 7.7 - uTime * vec2(0.013, 0.017)).gr - 0.5;
  vec2 g3 = texture(uGrain, vPlace.xz / 1.1 + uTime * vec2(-0.05, 0.06)).rg - 0.5;
  float calm = 1.0 / (1.0 + away * 0.012);
  vec2 lean = (g1 * 0.16 + g2 * 0.14 + g3 * 0.07) * uWaves * calm;
  vec3 n = normalize(vec3(lean.x, 1.0, lean.y));
  vec2 pixels = vec2(textureSize(uFarAway, 0));
  vec2 uv = gl_FragCoord.xy / pixels;
  float own = -(viewMatrix * vec4(vPlace, 1.0)).z;
  float straight = texture(uFarAway, uv).r - own;
  vec2 bent = uv + lean * min(straight, 1.5) * 0.6 / max(own, 1.0);
  float under = texture(uFarAway, bent).r - own;
  if (under < 0.0) { under = straight; bent = uv; }
  // Along the way of the light, not straight into the picture.
  float path = max(under, 0.0) * away / max(own, 0.05);
  vec3 hue = asLight(uDeep);
  vec3 keep = hue / max(max(hue.r, hue.g), max(hue.b, 1e-3));
  vec3 clear = exp(-path * (1.15 - keep) * 1.6 / max(uClarity, 0.05));
  float shade = sunAt(vPlace, vec3(0.0, 1.0, 0.0), 1.0, noise);
  vec3 body = hue * (uSunHere * max(uSun.y, 0.0) * shade + wholeSky(vec3(0.0, 1.0, 0.0)));
  float facing = max(dot(to, n), 0.0);
  float x = 1.0 - facing;
  float fresnel = 0.02 + 0.98 * x * x * x * x * x / (1.0 + 6.0 * (0.12 * uWaves));
  vec3 r = reflect(-to, n);
  r.y = abs(r.y);
  vec3 mirrored = around(r, 0.05);
  // The sun's own path on the water.
  vec3 h = normalize(to + uSun);
  float nh = max(dot(n, h), 0.0);
  float a2 = 0.0016 + 0.004 * (1.0 - calm);
  float d = nh * nh * (a2 - 1.0) + 1.0;
  vec3 glint = uSunHere * shade * min(a2 / (d * d) * 0.25, 60.0) * (0.02 + 0.98 * x * x * x * x * x);
  vec4 behindSun = texture(uBehindSun, bent);
  vec4 behindSky = texture(uBehindSky, bent);
  // Foam and wet stones at the shore.
  float line = 1.0 - smoothstep(0.0, 0.22, depth + (g1.x + g3.y) * 0.22 + 0.03 * sin(uTime * 0.8 + vPlace.x * 0.6 + vPlace.z * 0.4));
  float foam = line * smoothstep(0.42, 0.62, texture(uGrain, vPlace.xz / 0.9 + uTime * 0.02).b + line * 0.25) * uFoam;
  vec3 white = vec3(0.75) * (uSunHere * max(uSun.y, 0.0) * shade + wholeSky(vec3(0.0, 1.0, 0.0)));
  float t = throughHaze(uEye, vPlace);
  vec3 light = behindSun.rgb * clear + body * (1.0 - clear) * 0.55;
  light = mix(light, mirrored, fresnel) + glint;
  light = mix(light, white, foam);
  outSun = vec4(light * t + uAir * (1.0 - t), 1.0);
  outSky = vec4(behindSky.rgb * clear * (1.0 - fresnel) * (1.0 - foam) * t, behindSky.a);
`;
