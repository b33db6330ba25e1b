import type { CutLine } from '../block/cut';
import { sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import { meshOf, sizesOf } from './meshes';
import { PLANT_STRIDE, type GrownPlants } from './plants';

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
export function plantsAlong({ grown, species, assets }: GrownPlants, line: CutLine, [from, to]: readonly [number, number]): CutPlant[] {
  const out: CutPlant[] = [];
  for (const plants of grown) {
    const s = species.get(plants.species);
    const sizes = s && sizesOf(s, assets);
    if (!s || !sizes || s.hidden) continue;
    const { place } = plants;
    for (let i = 0; i < plants.count; i++) {
      const size = sizes[meshOf(plants, i)];
      if (!size) continue;
      const { side: radius, top } = size;
      const o = i * PLANT_STRIDE;
      const dx = place[o] - line.x0;
      const dz = place[o + 2] - line.z0;
      if (place[o + 6] > LEANS) {
        const lying = leaning(place.subarray(o, o + PLANT_STRIDE), radius, top, line);
        if (lying && lying.along + lying.wide / 2 >= from && lying.along - lying.wide / 2 <= to) out.push({ species: s.name, ...lying });
        continue;
      }
      const r = radius * place[o + 5];
      const across = dx * -line.dz + dz * line.dx;
      const along = dx * line.dx + dz * line.dz;
      if (across * across >= r * r || along < from - r || along > to + r) continue;
      out.push({
        species: s.name,
        along,
        base: place[o + 1],
        tall: top * place[o + 4],
        wide: 2 * Math.sqrt(r * r - across * across),
        trunk: size.trunk * place[o + 5],
      });
    }
  }
  return out;
}

/** Under this lean a plant is cut as upright, degrees. */
const LEANS = 15;

/** A plant that leans far, as the ellipse that the plane cuts of its ellipsoid's bounds; its stem is within. */
function leaning([x, y, z, , tall, wide, lean, to]: Float32Array, radius: number, height: number, line: CutLine): Omit<CutPlant, 'species'> | undefined {
  const [ls, lc] = sinCosDeg(lean);
  const [ts, tc] = sinCosDeg(to);
  // The stem leans about the level axis (tc, 0, ts).
  const stem: Vec3 = [-ts * ls, lc, tc * ls];
  const half = (height * tall) / 2;
  const middle: Vec3 = [x + stem[0] * half, y + stem[1] * half, z + stem[2] * half];
  const r = radius * wide;
  /** How far an ellipsoid reaches along a direction. */
  const reach = (share: number) => Math.sqrt(r * r * (1 - share * share) + half * half * share * share);
  const [dx, dz] = [middle[0] - line.x0, middle[2] - line.z0];
  const across = dx * -line.dz + dz * line.dx;
  const far = reach(stem[0] * -line.dz + stem[2] * line.dx);
  if (across * across >= far * far) return undefined;
  const share = Math.sqrt(1 - (across * across) / (far * far));
  const up = reach(stem[1]) * share;
  return { along: dx * line.dx + dz * line.dz, base: middle[1] - up, tall: 2 * up, wide: 2 * reach(stem[0] * line.dx + stem[2] * line.dz) * share, trunk: 0 };
}
