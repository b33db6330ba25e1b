import { assetBounds, type Asset } from '../kit/asset';
import { tanDeg } from '../num/trig';
import { lodOnScreen } from './lods';

/** Height of the screen a LOD is judged on, pixels, and its vertical field of view, degrees. */
export const SCREEN = { height: 1080, fov: 60 };

/** Where a LOD takes over from the one before, and what one sees of it there. */
export interface LodSwap {
  /** metres from the eye */
  distance: number;
  /** how far its outline is off at most, pixels of a screen 1080 high */
  pixels?: number;
}

/**
 * Swaps of an asset's LODs but the finest, by the rule of `instanceLod`: at screen height s an error e of a thing of radius r is
 * e / r * s of half a screen.
 */
export function lodSwaps(asset: Pick<Asset, 'lods' | 'errors' | 'detail'>): LodSwap[] {
  const { min, max } = assetBounds(asset);
  const d = [max[0] - min[0], max[1] - min[1], max[2] - min[2]];
  const radius = Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]) / 2;
  return asset.lods.slice(1).map((_, i) => {
    const s = lodOnScreen(asset.lods.length, i) / (asset.detail ?? 1);
    const error = asset.errors?.[i];
    return { distance: radius / (s * tanDeg(SCREEN.fov / 2)), ...(error === undefined ? {} : { pixels: (error / radius) * s * (SCREEN.height / 2) }) };
  });
}
