import type { Vec3 } from '../num/vec';
import { linkedStands, linkedTo } from './linked';
import { markerStands } from './markerStands';
import { makeProbe } from './standing';
import { findStop, type Stop } from './stop';
import { standAt, type WalkArea } from './walkArea';
import { drawTight, findWay, squareOf } from './way';
import { ENTRY_RADIUS } from './walkDots';

export type { Stop } from './stop';

export interface Reach {
  reached: boolean;
  /** from the entry to the objective, or as far as it goes: points on the ground */
  path: Vec3[];
  /** metres along the path, over the ground */
  length: number;
  /** seconds at a walk and at a run */
  walkTime: number;
  runTime: number;
  stop?: Stop;
}

/** How near to an objective a body must get, metres in plan. */
export const OBJECTIVE_RADIUS = 0.5;

const nothing = (stop: Stop): Reach => ({ reached: false, path: [], length: 0, walkTime: 0, runTime: 0, stop });

/**
 * Whether the objective can be walked to from the entry, and if not, what stops the body.
 *
 * Reached means: on the objective's own ground and storey, within its radius, and not through anything.
 */
export function findReach(area: WalkArea, entry: Vec3 | undefined, objective: Vec3 | undefined): Reach {
  if (!entry) return nothing({ code: 'no-entry', message: 'there is no entry marker: set one where the player comes in' });
  if (!objective) return nothing({ code: 'no-objective', message: 'there is no objective marker: set one where the player must get to' });
  const start = markerStands(area, entry, ENTRY_RADIUS).slice(0, 1);
  const goals = markerStands(area, objective, OBJECTIVE_RADIUS);
  if (start.length === 0) return nothing({ code: 'entry-off', message: 'the entry does not stand on walkable ground', at: entry });
  if (goals.length === 0) return nothing({ code: 'objective-off', message: 'the objective does not stand on walkable ground', at: objective });
  const linked = linkedTo(area, start[0]);
  const near = goals.filter((id) => linked.has(id));
  if (near.length > 0) {
    // The nearest of them: the others are only on the way to it.
    return shortest(area, start[0], near[0], entry, objective);
  }
  const { stop, to } = findStop(area, { linked, beyond: linkedStands(area, goals) }, start[0], objective);
  const part = walked(
    area,
    findWay(area, start, [to])!.turns.map((id) => placeOf(area, id)),
  );
  return { ...part, reached: false, stop };
}

/** Another way is looked for while that is quick, stands looked at, and this often. */
const QUICK = 120_000;
const OTHERS = 3;

/**
 * The shortest way. A search takes corners as wide as its cells, so that of two ways about as long it may take
 * the longer: each is drawn tight, and another looked for that shuns its ground, as long as that is shorter.
 */
function shortest(area: WalkArea, from: number, to: number, entry: Vec3, objective: Vec3): Reach {
  const shunned = new Set<number>();
  let best: Reach | undefined;
  for (let i = 0; i <= OTHERS; i++) {
    const found = findWay(area, [from], [to], shunned)!;
    const way = walked(area, [...onto(area, from, entry), ...found.turns.map((id) => placeOf(area, id)), ...onto(area, to, objective)]);
    if (best && way.length >= best.length - 1e-3) break;
    best = way;
    if (found.looked > QUICK) break;
    for (const [x, , z] of way.path) for (let dx = -1; dx <= 1; dx++) for (let dz = -1; dz <= 1; dz++) shunned.add(squareOf(x + dx, z + dz));
  }
  return best!;
}

function placeOf(area: WalkArea, id: number): Vec3 {
  const { x, z, h } = standAt(area, id, { x: 0, z: 0, h: 0 });
  return [x, h, z];
}

/** A marker's own place, where the body gets there from a stand. */
function onto(area: WalkArea, id: number, [x, , z]: Vec3): Vec3[] {
  const from = standAt(area, id, { x: 0, z: 0, h: 0 });
  const h = area.walk(from, { x, z }, makeProbe());
  return h === h ? [[x, h, z]] : [];
}

/** A way drawn tight, with its length and times. */
function walked(area: WalkArea, points: readonly Vec3[]): Reach {
  const { path, length } = drawTight(area, points);
  return { reached: true, path, length, walkTime: length / area.body.walk, runTime: length / area.body.run };
}
