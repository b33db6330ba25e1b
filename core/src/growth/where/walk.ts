import { barred } from '../../earth/water';
import { islands } from '../../earth/overlays/islands';
import { distanceToMarked } from '../../num/nearest';
import type { PlaceKind, WhereOf, WhereSource } from './field';
import { markInPlan, meshesOf } from './inPlan';

/** Of each source what was reckoned: a rule may ask for it twice. */
const known = new WeakMap<WhereSource, Float32Array | undefined>();

/**
 * Metres inside ground that the level's body can stand on, negative beside it, one entry a sample; to half a sample. Such is
 * ground on no slope steeper than it walks, in no water deeper than it wades, in pieces of 4 m2 and more, farther than its radius in
 * plan from what it neither steps onto nor passes under. Plants stop nobody here: they are what grows by it.
 *
 * @returns nothing where there is none, or nobody to walk
 */
function inside(source: WhereSource): Float32Array | undefined {
  const { walker, terrain, waters } = source;
  if (!walker) return undefined;
  const { grid, heights } = terrain;
  const { nx, nz, spacing } = grid;
  const stops = new Uint8Array(nx * nz);
  for (const what of ['block', 'piece'] as const)
    for (const mesh of meshesOf(source, what)) {
      const [low, high] = ends(mesh.positions);
      // A sample stands for half a step about it.
      const reach = 0.5 + walker.radius / spacing;
      markInPlan(stops, grid, mesh, { reach, counts: (i) => high > heights[i] + walker.step && low < heights[i] + walker.height });
    }
  const { of } = islands(barred(terrain, waters, walker.wade), walker.maxSlope);
  const [free, other] = [new Uint8Array(nx * nz), new Uint8Array(nx * nz)];
  for (let i = 0; i < free.length; i++) (of[i] > 0 && stops[i] === 0 ? free : other)[i] = 1;
  if (!free.includes(1)) return undefined;
  const [toFree, toOther] = [free, other].map((marked) => distanceToMarked(marked, nx, nz));
  const out = new Float32Array(nx * nz);
  for (let i = 0; i < out.length; i++) out[i] = (free[i] === 1 ? Math.min(toOther[i], nx + nz) - 0.5 : 0.5 - toFree[i]) * spacing;
  return out;
}

/** Lowest and highest of some points, metres. */
function ends(positions: ArrayLike<number>): [low: number, high: number] {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 1; i < positions.length; i += 3) {
    low = Math.min(low, positions[i]);
    high = Math.max(high, positions[i]);
  }
  return [low, high];
}

/** Metres inside ground that the level's body can walk on, negative beside it: see `inside`. */
export const walk: PlaceKind<WhereOf<'walk'>> = {
  name: 'walkable',
  unit: 'm',
  make(_, source) {
    if (!known.has(source)) known.set(source, inside(source));
    const of = known.get(source);
    const { nx, nz, spacing } = source.terrain.grid;
    const sample = (v: number, n: number) => Math.min(n - 1, Math.max(0, Math.round(v / spacing)));
    return {
      at: (x, z) => (of ? of[sample(z, nz) * nx + sample(x, nx)] : NaN),
      open: { below: -200, above: 200 },
    };
  },
};
