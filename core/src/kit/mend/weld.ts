import { weldPoints } from '../../num/weld';
import type { Asset, Primitive } from '../asset';
import { joinEqual } from './corners';

/**
 * Vertices of a primitive that lie within a distance and say the same become one; triangles that vanish are left out.
 * Hard edges, seams of pictures and changes of colour stay.
 *
 * @param within metres
 */
export function weldAsset(asset: Asset, within: number): Asset {
  return { ...asset, lods: asset.lods.map((lod) => lod.map((p): Primitive => joinEqual(p, weldPoints(p.positions, within)))) };
}

/** How many vertices a weld would take away, of how many. @param within metres */
export function weldable(asset: Asset, within: number): { spare: number; of: number } {
  let [spare, of] = [0, 0];
  for (const p of asset.lods[0]) {
    const before = p.positions.length / 3;
    of += before;
    spare += before - joinEqual(p, weldPoints(p.positions, within)).positions.length / 3;
  }
  return { spare, of };
}
