import type { CutLine } from '../block/cut';
import { assetBounds } from '../kit/asset';
import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import { PLANT_STRIDE, type Plants } from './plants';

/** A plant that a section passes through: where, how tall and how wide at the cut, metres. */
export interface CutPlant {
  species: string;
  along: number;
  base: number;
  tall: number;
  wide: number;
  trunk: number;
}

/** Plants whose crown a vertical plane passes through, between two distances along the line. */
export function plantsAlong(grown: readonly Plants[], species: ReadonlyMap<string, Species>, assets: Assets, line: CutLine, from: number, to: number): CutPlant[] {
  const out: CutPlant[] = [];
  for (const plants of grown) {
    const s = species.get(plants.species);
    const asset = s && assets.get(s.asset);
    if (!s || !asset || s.hidden) continue;
    const { min, max } = assetBounds(asset);
    const radius = Math.max(-min[0], max[0], -min[2], max[2]);
    for (let i = 0; i < plants.count; i++) {
      const o = i * PLANT_STRIDE;
      const dx = plants.place[o] - line.x0;
      const dz = plants.place[o + 2] - line.z0;
      const r = radius * plants.place[o + 5];
      const across = dx * -line.dz + dz * line.dx;
      const along = dx * line.dx + dz * line.dz;
      if (across * across >= r * r || along < from - r || along > to + r) continue;
      out.push({ species: s.name, along, base: plants.place[o + 1], tall: max[1] * plants.place[o + 4], wide: 2 * Math.sqrt(r * r - across * across), trunk: asset.trunk * plants.place[o + 5] });
    }
  }
  return out;
}
