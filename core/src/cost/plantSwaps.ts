import { COVER_RINGS } from '../growth/cover/coverCell';
import { coverReach } from '../growth/cover/coverSpecies';
import { assetsOfSpecies } from '../growth/meshes';
import { assetBounds } from '../kit/asset';
import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import { tanDeg } from '../num/trig';
import { lodSwaps, SCREEN } from './lodPixels';

/** A distance at which one sees plants of a species change. */
export interface PlantSwap {
  /** metres from the eye */
  distance: number;
  what: 'swap' | 'thinner' | 'left out';
  /** how far its outline jumps at most at a swap; how tall one is that is left out; pixels of a screen 1080 high; unknown where it is not */
  pixels?: number;
  /** share of what is seen there that is haze */
  haze: number;
}

/**
 * Where plants of a species swap LODs, where its cover thins and where it is left out, the nearest first: of its tallest plants,
 * for those are seen to change from farthest.
 *
 * @param covers whether it covers ground @param haze share of what is seen at a distance that is haze, 0 to 1
 */
export function plantSwaps(species: Species, assets: Assets, { covers, haze = () => 0 }: { covers: boolean; haze?(distance: number): number }): PlantSwap[] {
  const tall = species.height[1];
  const end = covers ? coverReach(species) : species.cutoff > 0 ? species.cutoff : Infinity;
  const swaps = assetsOfSpecies(species, assets).flatMap((asset) => {
    if (!asset) return [];
    const scale = tall / Math.max(0.01, assetBounds(asset).max[1]);
    const { swap = 1 } = species;
    return lodSwaps(asset).map(({ distance, pixels }): PlantSwap => {
      const at = distance * scale * swap;
      // Nearer it is the larger on the screen.
      return { what: 'swap', distance: at, ...(pixels === undefined ? {} : { pixels: pixels / swap }), haze: haze(at) };
    });
  });
  const rings = covers ? COVER_RINGS.slice(1).map(({ reach }): PlantSwap => ({ what: 'thinner', distance: end * reach, haze: haze(end * reach) })) : [];
  const pixels = (tall / (2 * end * tanDeg(SCREEN.fov / 2))) * SCREEN.height;
  const out: PlantSwap[] = Number.isFinite(end) ? [{ what: 'left out', distance: end, pixels, haze: haze(end) }] : [];
  return [...swaps, ...rings, ...out].filter((s) => s.distance <= end).sort((a, b) => a.distance - b.distance);
}

/** A swap in words: `12 m: 3.1 px`, `80 m: left out, 7 px tall, haze hides 4 %`. */
export function swapText({ distance, what, pixels, haze }: PlantSwap): string {
  const far = `${distance.toFixed(distance < 10 ? 1 : 0)} m`;
  const px = pixels === undefined ? undefined : `${pixels.toFixed(pixels < 10 ? 1 : 0)} px`;
  if (what === 'swap') return `${far}: LOD${px ? `, ${px}` : ''}`;
  if (what === 'thinner') return `${far}: thinner`;
  return `${far}: left out, ${px} tall${haze > 0.005 ? `, haze hides ${(haze * 100).toFixed(0)} %` : ''}`;
}
