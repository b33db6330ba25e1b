import { wantedTexels } from '../../body/texel';
import type { Terrain } from '../../earth/compose';
import { islands } from '../../earth/overlays/islands';
import { distanceToMarked } from '../../num/nearest';
import { strongestOf, type GroundRaster } from '../ground';
import { SURFACE_PIXELS } from '../surfaces';

/**
 * Pixels a metre of the ground against those wanted, of each sample: 1 is as wanted, 0.5 half as many.
 * The eye stands over the nearest ground the body can get to on the terrain.
 *
 * @param terrain with `barred` where water is too deep, see earth/water
 * @param body its greatest slope, degrees, and the height of its eye, metres
 * @param home where it starts, x and z; the largest island where there is none
 */
export function texelRatio(ground: GroundRaster, terrain: Terrain, body: { maxSlope: number; eye: number }, home?: readonly [number, number]): Float32Array {
  const { nx, nz, spacing } = terrain.grid;
  const there = islands(terrain, body.maxSlope, home).of;
  const away = distanceToMarked(
    Uint8Array.from(there, (island) => (island === 1 ? 1 : 0)),
    nx,
    nz,
  );
  const have = ground.surfaces.map((s) => (s.pixels ?? SURFACE_PIXELS) / s.tile);
  return Float32Array.from(away, (d, i) => {
    const level = d * spacing;
    return have[strongestOf(ground, i)] / wantedTexels(Math.sqrt(level * level + body.eye * body.eye));
  });
}
