/**
 * The foot of a plant takes on the colour of the ground it stands in, so that grass does not stand on it like pins: the colour as one
 * sees it, and how much of it at a place. What stands on a block or a piece has none. Only where ROOTS is defined, and in the full
 * picture: it looks at two pictures for each vertex, which a machine without a GPU pays for.
 */
export const ROOTS = /* glsl */ `
#if defined(ROOTS) && !defined(FULL)
#undef ROOTS
#endif
#ifdef ROOTS
uniform highp sampler2D uGroundHeight;
uniform highp sampler2D uGroundColour;
uniform float uGroundLow;
uniform float uRoots;
uniform float uRootsTo;
#ifndef LEVEL_SIZE
uniform vec2 uLevelSize;
#endif
vec4 rootOf(vec3 p, vec3 foot) {
  vec2 size = vec2(textureSize(uGroundHeight, 0));
  vec2 at = (foot.xz / uLevelSize * (size - 1.0) + 0.5) / size;
  float over = foot.y - uGroundLow - textureLod(uGroundHeight, at, 0.0).r;
  float here = 1.0 - smoothstep(0.4, 1.0, abs(over));
  float low = 1.0 - smoothstep(0.0, uRootsTo, p.y - foot.y + min(over, 0.0));
  return vec4(textureLod(uGroundColour, at, 0.0).rgb * 1.1, uRoots * low * here);
}
#endif
`;
