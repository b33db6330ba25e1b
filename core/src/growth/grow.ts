import { CELL, blocksNear, type BlockGrid } from '../block/grid';
import { meshTopAt, type MeshGrid } from '../block/placedMesh';
import type { Rect, Terrain } from '../earth/compose';
import { gradientAt, heightAt } from '../earth/sample';
import type { PlantObject, Species, Water } from '../level/objects';
import { ownerTile, TILE_QUADS, TILE_SIDE, tileKey, type Tiles } from '../level/tiles';
import { hashInts, hashText, hashUnit } from '../num/hash';
import { clamp } from '../num/vec';
import { groundWeightsAt, type GroundRaster } from '../surface/ground';
import { groundAt } from '../surface/groundAt';
import { SURFACES } from '../surface/surfaces';
import { solidSpanAt } from '../block/solid';
import { inBand, masksOf, onGround, type Masks } from './masks';
import { NearPoints } from './near';
import { pattern } from './pattern';

/** What plants grow from. */
export interface GrowthInput {
  terrain: Terrain;
  ground: GroundRaster;
  blocks: BlockGrid;
  meshes: MeshGrid;
  waters: readonly Water[];
  /** in their order; earlier ones take their place first */
  species: readonly Species[];
  /** height of each species' asset, metres, by the id of the asset object */
  assetHeights: ReadonlyMap<string, number>;
  /** set by hand */
  plants: readonly PlantObject[];
  tiles: Tiles;
}

/** Numbers a plant has in `place`: x, y, z, turn, tall and wide (scale against the asset), lean and its direction; metres, degrees. */
export const PLANT_STRIDE = 8;

/**
 * The plants of one species, generated and set by hand, as flat arrays of `count` entries.
 *
 * `id` has three integers a plant: the copy of the pattern (x, z) and the slot in it. They depend on
 * the seed alone, never on order, so that a hand edit finds its plant after re-running. A plant set
 * by hand has slot -1 and its place in `hand` instead of the copy.
 */
export interface Plants {
  species: string;
  count: number;
  place: Float32Array;
  tint: Uint8Array;
  id: Int32Array;
  /** ids of the plant objects among them */
  hand: string[];
}

/** The name of a generated plant in a hand edit. */
export const plantId = (plants: Plants, i: number): string => (plants.id[i * 3 + 2] < 0 ? plants.hand[plants.id[i * 3]] : `${plants.id[i * 3]},${plants.id[i * 3 + 1]}:${plants.id[i * 3 + 2]}`);

/** Density of what is sown by hand, as a share of the species' own, at a point: the nearest sample. */
export function sownAt(tiles: Tiles, terrain: Terrain, species: string, x: number, z: number): number {
  const { nx, nz, spacing } = terrain.grid;
  const sx = clamp(Math.round(x / spacing), 0, nx - 1);
  const sz = clamp(Math.round(z / spacing), 0, nz - 1);
  const tx = ownerTile(sx);
  const tz = ownerTile(sz);
  const tile = tiles.get(tileKey(species, 'sown', tx, tz));
  return tile ? tile[(sz - tz * TILE_QUADS) * TILE_SIDE + sx - tx * TILE_QUADS] / 1024 : 0;
}

/** What a candidate finds where it would stand. */
export interface Spot {
  height: number;
  gradient: number;
  top: boolean;
}

/** The highest host over a point in plan. */
export function spotAt(input: Pick<GrowthInput, 'terrain' | 'blocks' | 'meshes'>, x: number, z: number): Spot {
  const h = heightAt(input.terrain, x, z);
  const blocks = blocksNear(input.blocks, x, z);
  const meshes = input.meshes.get(`${Math.floor(x / CELL)},${Math.floor(z / CELL)}`);
  if (blocks.length > 0 || meshes) {
    const covered = blocks.some((b) => { const s = solidSpanAt(b, x, z); return s !== undefined && s.top > h; }) || meshes?.some((m) => (meshTopAt(m, x, z, Infinity)?.height ?? -Infinity) > h);
    if (covered) {
      const g = groundAt(input.terrain, input.blocks, [x, 1e6, z], { meshes: input.meshes });
      const n = g.normal;
      return { height: g.height, gradient: Math.sqrt(n[0] * n[0] + n[2] * n[2]) / Math.max(Math.abs(n[1]), 1e-6), top: g.host.kind !== 'terrain' };
    }
  }
  const [gx, gz] = gradientAt(input.terrain, x, z);
  return { height: h, gradient: Math.sqrt(gx * gx + gz * gz), top: false };
}

const _weights = new Float64Array(SURFACES);

/** How much a rule lets grow at a spot, 0 to 1: the product of its masks. */
export function ruleAt(input: Pick<GrowthInput, 'ground'>, masks: Masks, spot: Spot, x: number, z: number): number {
  if (!masks.on) return 0;
  const bySlope = inBand(masks.slope, spot.gradient);
  if (bySlope === 0) return 0;
  const byHeight = inBand(masks.height, spot.height);
  if (byHeight === 0) return 0;
  if (masks.anyGround && !spot.top) return bySlope * byHeight;
  return bySlope * byHeight * onGround(masks, groundWeightsAt(input.ground, x, z, spot.top, _weights));
}

export const underWater = (waters: readonly Water[], x: number, y: number, z: number): boolean =>
  waters.some((w) => !w.out && y < w.height && x >= w.x0 && x <= w.x1 && z >= w.z0 && z <= w.z1);

/** The largest a hand may multiply a density. */
export const MOST_SOWN = 4;

/**
 * Grows every species: candidates of its toroidal pattern, kept where their own fixed random number is
 * under the chance there, and where nothing earlier stands too near. Spacing comes first and masks
 * after it, so that no edge of a mask, stroke or tile ever brings two plants closer than promised.
 *
 * chance = density / 100 * (rule + sown) / (plants a square metre the pattern holds at this spacing).
 *
 * @param only samples outside which nothing is looked at: a part for a preview
 */
export function grow(input: GrowthInput, only?: Rect): Plants[] {
  const { width, depth, spacing: sample } = input.terrain.grid;
  const part = only ? { x0: only.x0 * sample, z0: only.z0 * sample, x1: only.x1 * sample, z1: only.z1 * sample } : { x0: 0, z0: 0, x1: width, z1: depth };
  const cell = clamp(Math.max(...input.species.map((s) => Math.max(s.clearance, 0.25)), 0.25), 0.25, 16);
  const near = new NearPoints(width, depth, cell);
  const handOf = new Map<string, PlantObject[]>();
  const moved = new Map<string, Set<string>>();
  for (const p of input.plants) {
    if (p.from) (moved.get(p.species) ?? moved.set(p.species, new Set()).get(p.species)!).add(p.from);
    if (!p.gone) (handOf.get(p.species) ?? handOf.set(p.species, []).get(p.species)!).push(p);
  }
  input.species.forEach((s, i) => { for (const p of handOf.get(s.id) ?? []) near.add(p.at[0], p.at[2], s.clearance, i); });
  return input.species.map((species, index) => {
    const out = new Growing(species.id);
    const hand = handOf.get(species.id) ?? [];
    const own = hand.length > 0 ? species.spacing : 0;
    const gone = moved.get(species.id);
    const asset = input.assetHeights.get(species.asset) ?? 1;
    if (species.density > 0 && sowsAnything(input, species)) {
      const p = pattern(species.seed);
      const r = species.spacing;
      const period = p.side * r;
      const scale = species.density / 100 / (p.count / (period * period));
      const masks = masksOf(species, input.ground.surfaces.map((s) => s.id));
      const sown = hasSown(input, species.id);
      const most = scale * ((masks.on ? 1 : 0) + (sown ? MOST_SOWN : 0));
      for (let cz = Math.floor(part.z0 / period); cz * period < part.z1; cz++) {
        for (let cx = Math.floor(part.x0 / period); cx * period < part.x1; cx++) {
          const copy = hashInts(species.seed, cx, cz, 5);
          for (let slot = 0; slot < p.count; slot++) {
            const x = cx * period + p.x[slot] * r;
            const z = cz * period + p.z[slot] * r;
            if (x < part.x0 || z < part.z0 || x >= part.x1 || z >= part.z1) continue;
            const chance = hashUnit(copy, slot);
            if (chance >= most) continue;
            const extra = sown ? sownAt(input.tiles, input.terrain, species.id, x, z) : 0;
            if (chance >= scale * clamp((masks.on ? 1 : 0) + extra, 0, MOST_SOWN)) continue;
            const spot = spotAt(input, x, z);
            if (chance >= scale * clamp(ruleAt(input, masks, spot, x, z) + extra, 0, MOST_SOWN)) continue;
            if (gone?.has(`${cx},${cz}:${slot}`) || underWater(input.waters, x, spot.height, z)) continue;
            if (near.clash(x, z, species.clearance, index, own) >= 0) continue;
            out.add(x, spot.height, z, hashInts(copy, slot, 1), species, asset, cx, cz, slot);
          }
        }
      }
    }
    // Its own are added after all are chosen: the pattern has kept their distance already.
    for (let i = 0; i < out.count; i++) near.add(out.place[i * PLANT_STRIDE], out.place[i * PLANT_STRIDE + 2], species.clearance, index);
    for (const h of hand) out.addHand(h, hashInts(species.seed, parseInt(hashText(h.id).slice(0, 8), 16), 9), species);
    return out.done();
  });
}

const hasSown = (input: GrowthInput, species: string): boolean => {
  for (const key of input.tiles.keys()) if (key.startsWith(`${species}/sown/`)) return true;
  return false;
};
const sowsAnything = (input: GrowthInput, species: Species): boolean => species.rule.on || hasSown(input, species.id);

/** Plants while they are chosen; arrays double as they fill. */
class Growing {
  count = 0;
  place = new Float32Array(64 * PLANT_STRIDE);
  private tint = new Uint8Array(64);
  private id = new Int32Array(64 * 3);
  private readonly hand: string[] = [];
  constructor(private readonly species: string) {}

  add(x: number, y: number, z: number, seed: number, s: Species, asset: number, cx: number, cz: number, slot: number): void {
    const height = s.height[0] + (s.height[1] - s.height[0]) * hashUnit(seed, 1);
    const tall = height / asset;
    this.put(x, y, z, hashUnit(seed, 2) * 360, tall, tall * (s.slenderness[0] + (s.slenderness[1] - s.slenderness[0]) * hashUnit(seed, 3)), seed, s, cx, cz, slot);
  }

  addHand(p: PlantObject, seed: number, s: Species): void {
    this.hand.push(p.id);
    this.put(p.at[0], p.at[1], p.at[2], p.turn, p.scale, p.scale, seed, s, this.hand.length - 1, 0, -1);
  }

  private put(x: number, y: number, z: number, turn: number, tall: number, wide: number, seed: number, s: Species, a: number, b: number, slot: number): void {
    if ((this.count + 1) * PLANT_STRIDE > this.place.length) this.double();
    const o = this.count * PLANT_STRIDE;
    this.place[o] = x;
    this.place[o + 1] = y;
    this.place[o + 2] = z;
    this.place[o + 3] = turn;
    this.place[o + 4] = tall;
    this.place[o + 5] = wide;
    this.place[o + 6] = s.lean * hashUnit(seed, 4);
    this.place[o + 7] = hashUnit(seed, 5) * 360;
    this.tint[this.count] = Math.floor(hashUnit(seed, 6) * s.tints.length);
    this.id.set([a, b, slot], this.count * 3);
    this.count++;
  }

  private double(): void {
    const place = new Float32Array(this.place.length * 2);
    place.set(this.place);
    this.place = place;
    const tint = new Uint8Array(this.tint.length * 2);
    tint.set(this.tint);
    this.tint = tint;
    const id = new Int32Array(this.id.length * 2);
    id.set(this.id);
    this.id = id;
  }

  done(): Plants {
    return { species: this.species, count: this.count, place: this.place.slice(0, this.count * PLANT_STRIDE), tint: this.tint.slice(0, this.count), id: this.id.slice(0, this.count * 3), hand: this.hand };
  }
}
