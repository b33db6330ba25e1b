import { beginStroke, endStroke, workTile } from '../earth/brush';
import { grownRect, overTiles, rectAround, type Rect } from '../earth/rect';
import { outlineRow, stretchesOf } from '../earth/stretches';
import { TILE_QUADS, TILE_SIDE } from '../level/tiles';
import { addRasters } from '../num/fixed';
import { signedArea, type Point2 } from '../num/outline';
import { grow, type GrowthInput } from './grow';
import { plantId, PLANT_STRIDE, type Plants } from './plants';
import { grownParts, passesOf } from './passes';
import { wantedDensity } from './ruleShares';
import { MOST_SOWN } from './sown';

/** So often the density of a total is looked for. */
const MOST_TRIES = 14;
/** Over the diagonal of a square of the ceiling, metres. */
const SQUARE = 15;

/** What is asked of an area. */
export interface AreaOrder {
  species: string;
  /** corners in plan, metres */
  outline: readonly Point2[];
  /** plants of it on 100 m2 inside; what its rule grows there counts */
  density: number;
  /** so many of it inside, instead */
  total?: number;
  /** all other species are cleared there */
  clear: boolean;
}

/** What sowing an area would come to. Nothing is changed by it. */
export interface AreaPlan {
  /** m2 in plan */
  area: number;
  /** changes of what is sown, by tile */
  deltas: { key: string; delta: Int32Array }[];
  /** plants of the species inside before and after, and of the others */
  before: number;
  after: number;
  others: { before: number; after: number };
  /** those that come */
  added: Plants;
  /** the density was more than can be sown anywhere: `MOST_SOWN` times the species' own */
  short: boolean;
}

/**
 * Sows a species inside an outline so that with its rule it stands there at one density, and grows it to see what comes.
 *
 * @param grown the plants as they are, in the species' order
 * @returns in words why not, where it cannot be
 */
export function sowArea(input: GrowthInput, grown: readonly Plants[], order: AreaOrder): AreaPlan | string {
  if (order.total === undefined) return planOf(input, grown, order);
  // Each candidate has a number of its own: the more is asked, the more stand. So the density of a total is found by halves.
  const species = input.species.find((s) => s.id === order.species);
  const cap = (species?.density ?? 0) * (MOST_SOWN + 1);
  let [low, high] = [0, cap];
  let best: AreaPlan | undefined;
  const off = (plan: AreaPlan) => Math.abs(plan.after - order.total!);
  for (let i = 0, density = order.density; i < MOST_TRIES && (i === 0 || high - low > 1e-3); i++, density = (low + high) / 2) {
    const plan = planOf(input, grown, { ...order, density: Math.min(high, density) });
    if (typeof plan === 'string') return plan;
    if (!best || off(plan) < off(best)) best = plan;
    if (plan.after === order.total) break;
    if (plan.after < order.total) low = Math.min(high, density);
    else high = Math.min(high, density);
  }
  return { ...best!, short: best!.after < order.total && low > cap * 0.98 };
}

function planOf(input: GrowthInput, grown: readonly Plants[], { species: id, outline, density, clear }: AreaOrder): AreaPlan | string {
  const index = input.species.findIndex((s) => s.id === id);
  const species = input.species[index];
  if (!species) return 'its species is not in the level';
  if (species.amount === 0) return `nothing is left of ${species.name}: raise its amount first`;
  if (species.density === 0) return `${species.name} has a density of 0: give it one first`;
  if (species.about) return `${species.name} grows about another species: sow that one`;
  const { grid } = input.terrain;
  const rect = rectAround(outline, 0.001, grid);
  if (!rect) return 'the outline lies outside the level';
  const parts = grownParts(passesOf(input.species, input.habitats), grown);
  const own = wantedDensity(
    input,
    parts,
    parts.filter((g) => g.pass.index === index && g.pass.key === ''),
    rect,
  );
  const ruled = wantedDensity(
    input,
    parts,
    parts.filter((g) => g.pass.index === index && g.pass.key !== '' && !g.pass.species.about),
    rect,
  );
  const inside = insideOf(outline, rect, grid.spacing);
  const stroke = beginStroke('', grid);
  const others = clear ? input.species.filter((s) => s.id !== id).map((s) => s.id) : [];
  let short = false;
  overTiles(rect, (tx, tz, part) => {
    const tile = workTile(stroke, input.tiles, 'sown', [tx, tz], id);
    const cleared = others.map((other) => workTile(stroke, input.tiles, 'sown', [tx, tz], other));
    for (let z = part.z0; z <= part.z1; z++)
      for (let x = part.x0; x <= part.x1; x++) {
        if (!inside(x, z)) continue;
        const local = (z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS;
        const wanted = shareFor(density, species.density * (species.amount ?? 1), own[z * grid.nx + x], ruled[z * grid.nx + x]);
        if (wanted > MOST_SOWN) short = true;
        tile[local] = Math.round(Math.max(-1, Math.min(MOST_SOWN, wanted)) * 1024);
        for (const other of cleared) other[local] = -1024;
      }
  });
  const deltas = endStroke(stroke);
  const tiles = new Map(input.tiles);
  for (const { key, delta } of deltas) tiles.set(key, tiles.has(key) ? addRasters(tiles.get(key)!, delta) : delta);
  // What stands beside counts too: it keeps its distance, and squares of the ceiling are whole.
  const about = Math.max(SQUARE, ...input.species.map((s) => Math.max(s.clearance, s.spacing)));
  const then = grow({ ...input, tiles }, grownRect(rect, Math.ceil(about / grid.spacing), grid));
  const within = ({ place }: Plants, i: number) => inside(place[i * PLANT_STRIDE] / grid.spacing, place[i * PLANT_STRIDE + 2] / grid.spacing);
  const count = (list: readonly Plants[], of: (p: Plants) => boolean) =>
    list.reduce((sum, p) => {
      if (of(p)) for (let i = 0; i < p.count; i++) if (within(p, i)) sum++;
      return sum;
    }, 0);
  const mine = (p: Plants) => p.species === id;
  const stood = new Set(Array.from({ length: grown[index]?.count ?? 0 }, (_, i) => plantId(grown[index], i)));
  return {
    area: Math.abs(signedArea(outline)),
    deltas,
    before: count(grown, mine),
    after: count(then, mine),
    others: { before: count(grown, (p) => !mine(p)), after: count(then, (p) => !mine(p)) },
    added: picked(then[index], (i) => within(then[index], i) && !stood.has(plantId(then[index], i))),
    short,
  };
}

/**
 * What has to be sown, as a share of the species' density, so that so much stands: what is sown adds to its own rule; what is
 * taken away is taken of what habitats grow too.
 *
 * @param own plants on 100 m2 of its own rule, `ruled` of habitats
 */
function shareFor(wanted: number, density: number, own: number, ruled: number): number {
  const over = wanted - own - ruled;
  if (over >= 0 || ruled === 0) return over / density;
  const share = over / (density + ruled);
  return own + share * density >= 0 ? share : wanted / ruled - 1;
}

/** Whether a place, in samples, lies in an outline. */
function insideOf(outline: readonly Point2[], rect: Rect, spacing: number): (x: number, z: number) => boolean {
  const sides = stretchesOf([...outline], true, 0.001);
  const row = new Float64Array(1);
  return (x, z) => {
    if (x < rect.x0 - 1 || z < rect.z0 - 1 || x > rect.x1 + 1 || z > rect.z1 + 1) return false;
    outlineRow(outline, sides, { z: z * spacing, x0: x, count: 1, spacing }, row);
    return row[0] > 0;
  };
}

/** Some of the plants of a species. */
function picked(plants: Plants, keep: (i: number) => boolean): Plants {
  const list = Array.from({ length: plants.count }, (_, i) => i).filter(keep);
  return {
    ...plants,
    count: list.length,
    place: Float32Array.from(list.flatMap((i) => [...plants.place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE)])),
    look: Uint8Array.from(list, (i) => plants.look[i]),
    id: Int32Array.from(list.flatMap((i) => [...plants.id.subarray(i * 3, i * 3 + 3)])),
  };
}
