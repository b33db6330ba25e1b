import { assetBounds } from '../kit/asset';
import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import type { Vec3 } from '../num/vec';
import { PLANT_STRIDE, type Plants } from './plants';

/** One plant among the grown: its species' place in the list and its own in the species' arrays. */
export interface PlantRef {
  plants: Plants;
  index: number;
  distance: number;
}

/**
 * The plant a ray meets first. A plant counts as an upright ellipsoid as wide and tall as it is grown.
 *
 * @param far metres; what lies beyond (behind the ground) is not looked for
 */
export function pickPlant(grown: readonly Plants[], species: ReadonlyMap<string, Species>, assets: Assets, o: Vec3, d: Vec3, far: number): PlantRef | undefined {
  let best: PlantRef | undefined;
  for (const plants of grown) {
    const s = species.get(plants.species);
    const asset = s && assets.get(s.asset);
    if (!s || !asset || s.hidden) continue;
    const { min, max } = assetBounds(asset);
    const side = Math.max(-min[0], max[0], -min[2], max[2]);
    for (let i = 0; i < plants.count; i++) {
      const p = i * PLANT_STRIDE;
      const a = side * plants.place[p + 5] * 0.85;
      const b = (max[1] * plants.place[p + 4]) / 2;
      // The ellipsoid made a unit ball: x and z over a, y over b.
      const ox = (o[0] - plants.place[p]) / a, oy = (o[1] - plants.place[p + 1] - b) / b, oz = (o[2] - plants.place[p + 2]) / a;
      const dx = d[0] / a, dy = d[1] / b, dz = d[2] / a;
      const dd = dx * dx + dy * dy + dz * dz;
      const od = ox * dx + oy * dy + oz * dz;
      const t = -od / dd;
      const miss = ox * ox + oy * oy + oz * oz - (od * od) / dd;
      if (miss > 1 || t < 0) continue;
      const enter = t - Math.sqrt((1 - miss) / dd);
      if (enter > far || (best && enter >= best.distance)) continue;
      best = { plants, index: i, distance: Math.max(0, enter) };
    }
  }
  return best;
}
