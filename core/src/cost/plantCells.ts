import { assetsOfSpecies, meshesOf, meshOf, tintOf } from '../growth/meshes';
import { PLANT_STRIDE, type Plants } from '../growth/plants';
import type { Asset } from '../kit/asset';
import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import { sinCosDeg } from '../num/trig';
import type { Listed } from './batches';
import { emptyCell, growBounds, INSTANCE_CELL, instanceMatrix, reachOf, type InstanceCell } from './instances';

const NONE: ReadonlySet<string> = new Set();

/**
 * So few plants of a cell, in the mean, are not worth a draw of their own: the cells of such a species are twice as wide, up to
 * four times. What is drawn at too fine a LOD for it costs less.
 */
const WORTH_A_DRAW = 12;
const WIDEST = 4 * INSTANCE_CELL;

/** Plants by species, mesh and cell. @param hidden ids of those set by hand that are in the level and not seen */
export function plantCells(
  grown: readonly Plants[],
  species: ReadonlyMap<string, Species>,
  assets: Assets,
  listed: Listed = 'all',
  hidden: ReadonlySet<string> = NONE,
): InstanceCell[] {
  const out: InstanceCell[] = [];
  for (const plants of grown) {
    const s = species.get(plants.species);
    if (!s || (listed === 'seen' && s.hidden)) continue;
    const ids = meshesOf(s);
    assetsOfSpecies(s, assets).forEach((asset, mesh) => {
      if (!asset) return;
      for (const [key, list] of byCell(plants, mesh, hidden))
        out.push(plantCell({ key: `plants/${s.id}/${mesh > 0 ? `${mesh}/` : ''}${key}`, asset: ids[mesh].asset, owner: s.id }, plants, list, asset));
    });
  }
  return out;
}

/** Indices of the plants that have a mesh, by the cell they stand in; cells are as wide as it takes to be worth a draw. */
function byCell(plants: Plants, mesh: number, hidden: ReadonlySet<string>): Map<string, number[]> {
  const mine: number[] = [];
  for (let i = 0; i < plants.count; i++) {
    if (meshOf(plants, i) !== mesh) continue;
    if (hidden.size > 0 && plants.id[i * 3 + 2] < 0 && hidden.has(plants.hand[plants.id[i * 3]])) continue;
    mine.push(i);
  }
  let cells = new Map<string, number[]>();
  for (let side: number = INSTANCE_CELL; ; side *= 2) {
    cells = new Map();
    const name = side === INSTANCE_CELL ? '' : `@${side}`;
    for (const i of mine) {
      const o = i * PLANT_STRIDE;
      const key = `${Math.floor(plants.place[o] / side)},${Math.floor(plants.place[o + 2] / side)}${name}`;
      const list = cells.get(key);
      if (list) list.push(i);
      else cells.set(key, [i]);
    }
    if (side >= WIDEST || mine.length >= WORTH_A_DRAW * cells.size) return cells;
  }
}

/** Some plants of a species that have one mesh, as one cell. @param list which of them */
export function plantCell(of: { key: string; asset: string; owner: string }, plants: Pick<Plants, 'place' | 'look'>, list: readonly number[], asset: Asset): InstanceCell {
  const cell = emptyCell(of.key, of.asset, of.owner, list.length);
  const reach = reachOf(asset);
  list.forEach((i, n) => {
    const o = i * PLANT_STRIDE;
    const [x, y, z, turn, tall, own, lean, leanTo, deep] = plants.place.subarray(o, o + PLANT_STRIDE);
    instanceMatrix(cell.matrices, n * 16, { at: [x, y, z], turn, tall, wide: own, lean, leanTo, deep });
    const wide = Math.max(own, deep);
    cell.tints[n] = tintOf(plants, i);
    cell.index.push(i);
    cell.radius = Math.max(cell.radius, reach.radius * Math.max(tall, wide));
    // Leaning, the top goes aside and the flank goes up and down.
    const flank = reach.side * wide * 1.42;
    const [aside, up] = sinCosDeg(lean);
    const top = reach.top * tall;
    growBounds(
      cell,
      [x, y, z],
      flank + top * aside,
      Math.min(0, reach.bottom * tall, top * up) - flank * aside,
      top * Math.max(0, up < 0.7 ? up : 1) + flank * aside,
    );
  });
  return cell;
}
