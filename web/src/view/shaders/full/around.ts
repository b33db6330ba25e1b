/** Light mirrored from around at a roughness: the sky, filtered by three's `PMREMGenerator` into six levels, the last for roughness 1. */
export const AROUND = /* glsl */ `
uniform samplerCube uAround;
vec3 around(vec3 d, float rough) {
  // The inverse of its lodToRoughness.
  float level = 5.0 * rough * (2.0 - rough);
  return textureLod(uAround, d, level).rgb;
}
`;
