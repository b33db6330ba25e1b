import { cellsAlong } from '../num/cellsAlong';
import { axisRotation, toOwn } from '../num/pose';
import { sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import { meshOf, sizesOf } from './meshes';
import { cellRange, PLANT_CELL, plantGrid } from './plantGrid';
import { PLANT_STRIDE, type GrownPlants, type Plants } from './plants';

/** One plant among the grown: its species' place in the list and its own in the species' arrays. */
export interface PlantRef {
  plants: Plants;
  index: number;
  distance: number;
}

/**
 * The plant a ray meets first. A plant counts as an ellipsoid as wide and tall as it is grown, upright or leaning as it does.
 *
 * @param ray `far` in metres: what lies beyond (behind the ground) is not looked for
 */
export function pickPlant(
  { grown, species, assets }: GrownPlants,
  { origin: o, direction: d, far }: { origin: Vec3; direction: Vec3; far: number },
): PlantRef | undefined {
  let best: PlantRef | undefined;
  for (const plants of grown) {
    const s = species.get(plants.species);
    const sizes = s && sizesOf(s, assets);
    if (!s || !sizes || s.hidden) continue;
    const grid = plantGrid(plants, Math.max(...sizes.map((m) => (m ? Math.sqrt(m.side * m.side + m.top * m.top) : 0))));
    const { place } = plants;
    const look = (i: number): void => {
      const size = sizes[meshOf(plants, i)];
      if (!size) return;
      const { side, top } = size;
      const p = i * PLANT_STRIDE;
      const a = side * place[p + 5] * 0.85;
      const b = (top * place[p + 4]) / 2;
      const foot: Vec3 = [place[p], place[p + 1], place[p + 2]];
      // What leans far is met in its own axes.
      const lean = place[p + 6];
      const own = lean > LEANS ? leaned(foot, lean, place[p + 7], o, d) : undefined;
      const [fx, fy, fz] = own ? own.from : [o[0] - foot[0], o[1] - foot[1], o[2] - foot[2]];
      const [ux, uy, uz] = own ? own.along : d;
      // The ellipsoid made a unit ball: x and z over a, y over b.
      const ox = fx / a,
        oy = (fy - b) / b,
        oz = fz / a;
      const dx = ux / a,
        dy = uy / b,
        dz = uz / a;
      const dd = dx * dx + dy * dy + dz * dz;
      const od = ox * dx + oy * dy + oz * dz;
      const t = -od / dd;
      const miss = ox * ox + oy * oy + oz * oz - (od * od) / dd;
      if (miss > 1 || t < 0) return;
      const enter = t - Math.sqrt((1 - miss) / dd);
      if (enter > far || (best && (enter > best.distance || (enter === best.distance && i >= best.index)))) return;
      best = { plants, index: i, distance: Math.max(0, enter) };
    };
    cellsAlong(o, d, far, PLANT_CELL, (cx, cz, leaves) => {
      const [first, end] = cellRange(grid, cx, cz);
      for (let k = first; k < end; k++) look(grid.order[k]);
      return best !== undefined && best.distance <= leaves;
    });
  }
  return best;
}

/** Under this lean a plant is taken as upright, degrees. */
const LEANS = 15;

/** A ray in the axes of what stands at a foot and leans. */
function leaned(foot: Vec3, lean: number, to: number, o: Vec3, d: Vec3): { from: Vec3; along: Vec3 } {
  const [ts, tc] = sinCosDeg(to);
  const tilt = axisRotation([tc, 0, ts], lean);
  return { from: toOwn({ at: foot, turn: 0, tilt }, o), along: toOwn({ at: [0, 0, 0], turn: 0, tilt }, d) };
}
