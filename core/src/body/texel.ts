/**
 * Pixels a metre a texture should have where the nearest eye that can get there is `distance` away: 512 up
 * to 3 m, then falling with the distance, never under 64. The profile of numbers.md, metric checks.
 *
 * @param distance metres
 */
export const wantedTexels = (distance: number): number => Math.max(64, distance <= 3 ? 512 : (512 * 3) / distance);

/** A texture is told of where it has less than half of the pixels wanted, or more than twice. */
export const TEXELS_COARSE = 0.5;
export const TEXELS_FINE = 2;
