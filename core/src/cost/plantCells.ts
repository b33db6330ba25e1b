import { assetsOfSpecies, meshesOf, meshOf, tintOf } from '../growth/meshes';
import { PLANT_STRIDE, type Plants } from '../growth/plants';
import { assetFacts, type Asset } from '../kit/asset';
import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import { sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import type { Listed } from './drawable';
import { growBounds, INSTANCE_CELL, instanceMatrix, reachOf, type InstanceCell } from './instances';

const NONE: ReadonlySet<string> = new Set();

/** Sides of the wider cells that are drawn in the place of those they hold where all of these are at their coarsest LOD, metres. */
const WIDER = [4 * INSTANCE_CELL, 2 * INSTANCE_CELL] as const;
/** Where the coarsest LOD has more triangles than this, those out of view that a wider cell draws as well cost more than its draws save. */
const FEW_TRIANGLES = 24;

/** What a cell of plants is called, which mesh it is of and whom it counts for. */
interface Named {
  key: string;
  asset: string;
  owner: string;
}

/**
 * Some plants of a species that have one mesh. Matrices and tints are made when it is first drawn; until then it is four bytes
 * a plant, and nothing where it holds other cells.
 */
export class PlantCell implements InstanceCell {
  readonly key: string;
  readonly asset: string;
  readonly owner: string;
  readonly ids: string[] = [];
  readonly count: number;
  min: Vec3 = [Infinity, Infinity, Infinity];
  max: Vec3 = [-Infinity, -Infinity, -Infinity];
  radius = 0;
  print = 0;
  size = 0;
  cutoff?: number;
  holds?: readonly string[];
  private made?: { matrices: Float32Array; tints: Uint8Array };

  /** @param of which of the plants, or the cells it holds */
  constructor(
    { key, asset, owner }: Named,
    private readonly plants: Pick<Plants, 'place' | 'look'>,
    private readonly of: Int32Array | readonly PlantCell[],
  ) {
    this.key = key;
    this.asset = asset;
    this.owner = owner;
    this.count = of instanceof Int32Array ? of.length : of.reduce((n, p) => n + p.count, 0);
  }

  /** Bytes it takes before it is drawn. */
  get bytes(): number {
    return this.of instanceof Int32Array ? this.of.byteLength : 0;
  }

  /** Which of the plants. */
  private *indices(): Generator<Int32Array> {
    if (this.of instanceof Int32Array) yield this.of;
    else for (const part of this.of) yield* part.indices();
  }

  get matrices(): Float32Array {
    return this.whole.matrices;
  }
  get tints(): Uint8Array {
    return this.whole.tints;
  }

  private get whole(): { matrices: Float32Array; tints: Uint8Array } {
    if (this.made) return this.made;
    const matrices = new Float32Array(this.count * 16);
    const tints = new Uint8Array(this.count);
    const { place } = this.plants;
    let n = 0;
    for (const list of this.indices())
      for (const i of list) {
        const [x, y, z, turn, tall, wide, lean, leanTo, deep] = place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE);
        instanceMatrix(matrices, n * 16, { at: [x, y, z], turn, tall, wide, lean, leanTo, deep });
        tints[n++] = tintOf(this.plants, i);
      }
    return (this.made = { matrices, tints });
  }

  /** Bounds, the largest radius, and what tells it from another, of its plants. */
  measure(asset: Asset): this {
    const reach = reachOf(asset);
    const { place } = this.plants;
    const bits = new Int32Array(place.buffer, place.byteOffset, place.length);
    for (const i of this.of as Int32Array) {
      const o = i * PLANT_STRIDE;
      const [tall, lean] = [place[o + 4], place[o + 6]];
      const wide = Math.max(place[o + 5], place[o + 8]);
      this.radius = Math.max(this.radius, reach.radius * Math.max(tall, wide));
      this.size += (tall * tall) / this.count;
      // Leaning, the top goes aside and the flank goes up and down.
      const flank = reach.side * wide * 1.42;
      const [aside, up] = sinCosDeg(lean);
      const top = reach.top * tall;
      const low = Math.min(0, reach.bottom * tall, top * up) - flank * aside;
      growBounds(this, [place[o], place[o + 1], place[o + 2]], flank + top * aside, low, top * Math.max(0, up < 0.7 ? up : 1) + flank * aside);
      for (let k = o; k < o + PLANT_STRIDE; k++) this.print = Math.imul(this.print ^ bits[k], 0x01000193) ^ (this.print >>> 15);
      this.print = Math.imul(this.print ^ this.plants.look[i], 0x01000193);
    }
    return this;
  }

  /** The same as a cell of all that others hold. */
  static over(named: Named, plants: Plants, parts: readonly PlantCell[]): PlantCell {
    const cell = new PlantCell(named, plants, parts);
    for (const p of parts) {
      for (let k = 0; k < 3; k++) {
        cell.min[k] = Math.min(cell.min[k], p.min[k]);
        cell.max[k] = Math.max(cell.max[k], p.max[k]);
      }
      cell.radius = Math.max(cell.radius, p.radius);
      cell.size += (p.size * p.count) / cell.count;
      cell.print = Math.imul(cell.print ^ p.print, 0x01000193);
    }
    cell.holds = parts.map((p) => p.key);
    return cell;
  }
}

/**
 * Plants by species, mesh and cell, the widest first: a wide one holds narrower ones and is drawn in their place where all of
 * them are far, see `batchList`.
 *
 * @param hidden ids of those set by hand that are in the level and not seen
 */
export function plantCells(
  grown: readonly Plants[],
  species: ReadonlyMap<string, Species>,
  assets: Assets,
  listed: Listed = 'all',
  hidden: ReadonlySet<string> = NONE,
): PlantCell[] {
  const out: PlantCell[] = [];
  for (const plants of grown) {
    const s = species.get(plants.species);
    if (!s || (listed === 'seen' && s.hidden)) continue;
    const ids = meshesOf(s);
    assetsOfSpecies(s, assets).forEach((asset, mesh) => {
      if (!asset) return;
      const of = { key: `plants/${s.id}/${mesh > 0 ? `${mesh}/` : ''}`, asset: ids[mesh].asset, owner: s.id };
      const cells = byCell(plants, mesh, hidden).map(([place, list]) => new PlantCell({ ...of, key: of.key + place }, plants, list).measure(asset));
      const { triangles } = assetFacts(asset);
      if (triangles.length > 1 && triangles[triangles.length - 1] <= FEW_TRIANGLES) out.push(...widerCells(of, plants, cells));
      out.push(...cells);
    });
  }
  return out;
}

/** Indices of the plants that have a mesh, by the cell they stand in. */
function byCell(plants: Plants, mesh: number, hidden: ReadonlySet<string>): [place: string, list: Int32Array][] {
  const cells = new Map<string, number[]>();
  const { place, id } = plants;
  for (let i = 0; i < plants.count; i++) {
    if (meshOf(plants, i) !== mesh) continue;
    if (hidden.size > 0 && id[i * 3 + 2] < 0 && hidden.has(plants.hand[id[i * 3]])) continue;
    const o = i * PLANT_STRIDE;
    const key = `${Math.floor(place[o] / INSTANCE_CELL)},${Math.floor(place[o + 2] / INSTANCE_CELL)}`;
    const list = cells.get(key);
    if (list) list.push(i);
    else cells.set(key, [i]);
  }
  return [...cells].map(([key, list]) => [key, Int32Array.from(list)]);
}

/** Cells of wider sides over those there are; over a single one there is none. */
function widerCells(of: Named, plants: Plants, cells: readonly PlantCell[]): PlantCell[] {
  return WIDER.flatMap((side) => {
    const held = new Map<string, PlantCell[]>();
    for (const cell of cells) {
      const [cx, cz] = cell.key.slice(of.key.length).split(',').map(Number);
      const key = `${Math.floor((cx * INSTANCE_CELL) / side)},${Math.floor((cz * INSTANCE_CELL) / side)}`;
      const list = held.get(key);
      if (list) list.push(cell);
      else held.set(key, [cell]);
    }
    return [...held].flatMap(([key, parts]) => (parts.length > 1 ? [PlantCell.over({ ...of, key: `${of.key}${key}@${side}` }, plants, parts)] : []));
  });
}
