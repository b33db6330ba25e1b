/**
 * How the surfaces of a place are fetched and mixed: the tile's own projection on steep ground, by height at
 * the seams. PICTURES pictures of shares, four surfaces each; `uLaying` 1 lays a surface at two scales, 2
 * scatters it: pieces of it shifted about, so that no repeat is seen.
 */
export const SURFACES_GLSL = /* glsl */ `
precision highp sampler2DArray;
#define COUNT (PICTURES * 4)
uniform sampler2DArray uSurfaces;
uniform float uLayer[COUNT];
uniform float uTileSide[COUNT];
uniform float uLaying[COUNT];
uniform vec3 uTints[COUNT];
/** Where a surface's tile lies at a place: from above, or on steep ground from the side with v upright. */
vec2 tileAt(vec3 p, vec3 n) {
  if (n.y > 0.76) return p.xz;
  return abs(n.x) > abs(n.z) ? vec2(p.z, -p.y) : vec2(p.x, -p.y);
}
/** A surface at a place of its plane. dx, dy: how that place changes from pixel to pixel, taken before any branch: within one nobody knows it. */
vec4 one(int i, vec2 at, vec2 dx, vec2 dy) {
  vec2 uv = at / uTileSide[i];
#ifdef QUICK
  vec4 t = texture(uSurfaces, vec3(uv, uLayer[i]));
#else
  vec2 across = dx / uTileSide[i];
  vec2 down = dy / uTileSide[i];
  vec4 t = textureGrad(uSurfaces, vec3(uv, uLayer[i]), across, down);
  if (uLaying[i] > 1.5) {
    // Which of eight shifts a place has wanders with a broad noise; between two they are mixed.
    float which = textureGrad(uGrain, uv * 0.21, across * 0.21, down * 0.21).r * 8.0;
    vec2 a = sin(vec2(3.0, 7.0) * floor(which));
    vec2 b = sin(vec2(3.0, 7.0) * (floor(which) + 1.0));
    // Where the shift leaps the pixels beside do not say how fine the picture is: their own steps do.
    vec4 ta = textureGrad(uSurfaces, vec3(uv + a, uLayer[i]), across, down);
    vec4 tb = textureGrad(uSurfaces, vec3(uv + b, uLayer[i]), across, down);
    t = mix(ta, tb, smoothstep(0.25, 0.75, fract(which) - 0.12 * (ta.a - tb.a)));
  } else if (uLaying[i] > 0.5) {
    vec4 broad = textureGrad(uSurfaces, vec3(uv * 0.23 + 0.37, uLayer[i]), across * 0.23, down * 0.23);
    t = vec4(mix(t.rgb, broad.rgb, 0.42), mix(t.a, broad.a, 0.25));
  }
#endif
  return vec4(t.rgb * uTints[i], t.a);
}
/** The strongest surfaces of a place, mixed: colour and height; those that stand out win at a seam. QUICK: two of them. */
vec4 surfaces(float w[COUNT], vec2 at, vec2 dx, vec2 dy) {
#ifdef QUICK
  int first = w[1] > w[0] ? 1 : 0;
  int second = 1 - first;
  for (int i = 2; i < COUNT; i++) {
    if (w[i] > w[first]) { second = first; first = i; } else if (w[i] > w[second]) second = i;
  }
  vec4 a = one(first, at, dx, dy);
  vec4 b = one(second, at, dx, dy);
  vec2 k = vec2(w[first], w[second]) * (0.25 + vec2(a.a, b.a));
  k *= k;
  return (a * k.x + b * k.y) / max(k.x + k.y, 1e-4);
#else
  vec4 sum = vec4(0.0);
  float total = 0.0;
  for (int i = 0; i < COUNT; i++) {
    float k = w[i];
    if (k < 0.04) continue;
    vec4 t = one(i, at, dx, dy);
    k *= k > 0.9 ? 1.0 : 0.25 + t.a;
    k *= k;
    sum += t * k;
    total += k;
  }
  return sum / max(total, 1e-4);
#endif
}
/**
 * The surfaces from above, from the east and from the south, mixed by where the ground faces, so that no
 * seam runs along a slope; what faces one way takes one of them. QUICK: the nearest way alone.
 */
vec4 surfacesRound(float w[COUNT], vec3 p, vec3 n) {
#ifdef QUICK
  return surfaces(w, tileAt(p, n), vec2(0.0), vec2(0.0));
#else
  vec3 k = abs(n) * vec3(0.92, 1.0, 0.92);
  k *= k; k *= k; k *= k;
  k /= k.x + k.y + k.z;
  vec3 dx = dFdx(p), dy = dFdy(p);
  if (k.y > 0.88) return surfaces(w, p.xz, dx.xz, dy.xz);
  k = max(k - 0.12, 0.0);
  vec4 sum = vec4(0.0);
  if (k.y > 0.0) sum += surfaces(w, p.xz, dx.xz, dy.xz) * k.y;
  if (k.x > 0.0) sum += surfaces(w, vec2(p.z, -p.y), vec2(dx.z, -dx.y), vec2(dy.z, -dy.y)) * k.x;
  if (k.z > 0.0) sum += surfaces(w, vec2(p.x, -p.y), vec2(dx.x, -dx.y), vec2(dy.x, -dy.y)) * k.z;
  return sum / (k.x + k.y + k.z);
#endif
}
/** Shares of the surfaces at a place of their pictures. */
void sharesAt(sampler2DArray pictures, vec2 at, out float w[COUNT]) {
  for (int p = 0; p < PICTURES; p++) {
    vec4 four = texture(pictures, vec3(at, float(p)));
    w[p * 4] = four.x;
    w[p * 4 + 1] = four.y;
    w[p * 4 + 2] = four.z;
    w[p * 4 + 3] = four.w;
  }
}
`;

/** The foot of what stands in the ground takes on its colour, frayed over half a metre. */
export const CONTACT = /* glsl */ `
uniform highp sampler2D uGroundHeight;
uniform sampler2D uGroundColour;
uniform float uGroundLow;
vec3 groundedFoot(vec3 own, vec3 p) {
  vec2 size = vec2(textureSize(uGroundHeight, 0));
  vec2 at = (p.xz / uLevelSize * (size - 1.0) + 0.5) / size;
  float over = p.y - uGroundLow - texture(uGroundHeight, at).r;
  if (over > 0.8 || over < -4.0) return own;
  float fray = texture(uGrain, vec2(p.x + p.z, p.y * 1.3) / 1.9).g;
  return mix(own, texture(uGroundColour, at).rgb * 1.1, (1.0 - smoothstep(0.0, 0.72, over + fray * 0.3)) * 0.95);
}
`;

/**
 * The paint on tops of blocks and pieces over their own colour. PAINTED only where a level has any: a software renderer pays for
 * the code on every fragment.
 */
export const PAINTED_TOPS = /* glsl */ `
#ifdef PAINTED
uniform highp sampler2DArray uTops;
${SURFACES_GLSL}
#endif
vec3 top(vec3 own, vec3 p, float strength) {
#ifdef PAINTED
  float w[COUNT];
  sharesAt(uTops, p.xz / uLevelSize, w);
  float painted = 0.0;
  for (int i = 0; i < COUNT; i++) painted += w[i];
  vec2 dx = dFdx(p.xz), dy = dFdy(p.xz);
  if (painted > 0.04) {
    for (int i = 0; i < COUNT; i++) w[i] /= painted;
    return mix(own, surfaces(w, p.xz, dx, dy).rgb * strength, min(1.0, painted));
  }
#endif
  return own;
}
`;
