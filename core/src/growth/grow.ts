import { CELL, blocksNear, type BlockGrid } from '../block/grid';
import { meshTopAt, type MeshGrid } from '../block/placedMesh';
import type { Rect, Terrain } from '../earth/compose';
import { heightAt, steepnessAt } from '../earth/sample';
import { underWater, type WaterBody } from '../earth/water';
import type { PlantObject, Species } from '../level/objects';
import { ownerTile, TILE_QUADS, TILE_SIDE, tileKey, type Tiles } from '../level/tiles';
import { hashInts, hashText, mix32 } from '../num/hash';
import { clamp } from '../num/vec';
import type { GroundRaster } from '../surface/ground';
import { groundAt } from '../surface/groundAt';
import { solidSpanAt } from '../block/solid';
import { inBand } from '../num/band';
import { masksOf, onGround, type Masks } from './masks';
import { NearPoints } from './near';
import { pattern } from './pattern';
import { HEIGHT, SHARE, STEEP, terrainSpot } from './terrainSpot';

/** What plants grow from. */
export interface GrowthInput {
  terrain: Terrain;
  ground: GroundRaster;
  blocks: BlockGrid;
  meshes: MeshGrid;
  waters: readonly WaterBody[];
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

/** The tiles of what is sown of a species by tile, row by row, so that a point finds its own without a key. */
export type Sown = { tiles: (Int32Array | undefined)[]; any: boolean };

export function sownTiles(tiles: Tiles, terrain: Terrain, species: string): Sown {
  const { tilesX, tilesZ } = terrain.grid;
  const out = Array.from({ length: tilesX * tilesZ }, (_, i) => tiles.get(tileKey(species, 'sown', i % tilesX, Math.floor(i / tilesX))));
  return { tiles: out, any: out.some(Boolean) };
}

/** Density of what is sown by hand, as a share of the species' own, at a point: the nearest sample. */
export function sownAt(sown: Sown, terrain: Terrain, x: number, z: number): number {
  const { nx, nz, spacing, tilesX } = terrain.grid;
  // Whole numbers all the way: this is asked for each candidate.
  const sx = Math.min(nx - 1, (Math.max(0, x) / spacing + 0.5) | 0);
  const sz = Math.min(nz - 1, (Math.max(0, z) / spacing + 0.5) | 0);
  const tx = ownerTile(sx);
  const tz = ownerTile(sz);
  const tile = sown.tiles[tz * tilesX + tx];
  return tile === undefined ? 0 : tile[(sz - tz * TILE_QUADS) * TILE_SIDE + sx - tx * TILE_QUADS] / 1024;
}

/** What a candidate finds where it would stand. */
export interface Spot {
  height: number;
  gradient: number;
  top: boolean;
}

/** Which 16 m cells hold a block or a piece: everywhere else the terrain is the only host. */
export interface Hosts {
  across: number;
  built: Uint8Array;
}

export function hostsOf(input: Pick<GrowthInput, 'terrain' | 'blocks' | 'meshes'>): Hosts {
  const { width, depth } = input.terrain.grid;
  const across = Math.max(1, Math.ceil(width / CELL));
  const down = Math.max(1, Math.ceil(depth / CELL));
  const built = new Uint8Array(across * down);
  for (const grid of [input.blocks, input.meshes]) {
    for (const key of grid.keys()) {
      const [cx, cz] = key.split(',').map(Number);
      if (cx >= 0 && cz >= 0 && cx < across && cz < down) built[cz * across + cx] = 1;
    }
  }
  return { across, built };
}

/** The highest host over a point in plan, written to `out`. */
export function spotAt(input: Pick<GrowthInput, 'terrain' | 'blocks' | 'meshes'>, hosts: Hosts, x: number, z: number, out: Spot): Spot {
  out.height = heightAt(input.terrain, x, z);
  out.top = false;
  if (hosts.built[Math.floor(z / CELL) * hosts.across + Math.floor(x / CELL)] === 1) {
    const meshes = input.meshes.get(`${Math.floor(x / CELL)},${Math.floor(z / CELL)}`);
    const covered = blocksNear(input.blocks, x, z).some((b) => { const s = solidSpanAt(b, x, z); return s !== undefined && s.top > out.height; }) || meshes?.some((m) => (meshTopAt(m, x, z, Infinity)?.height ?? -Infinity) > out.height);
    if (covered) {
      const g = groundAt(input.terrain, input.blocks, [x, 1e6, z], { meshes: input.meshes });
      const n = g.normal;
      out.height = g.height;
      out.gradient = Math.sqrt(n[0] * n[0] + n[2] * n[2]) / Math.max(Math.abs(n[1]), 1e-6);
      out.top = g.host.kind !== 'terrain';
      return out;
    }
  }
  out.gradient = steepnessAt(input.terrain, x, z);
  return out;
}

/** How much a rule lets grow at a spot, 0 to 1: the product of its masks. */
export function ruleAt(input: Pick<GrowthInput, 'ground'>, masks: Masks, spot: Spot, x: number, z: number): number {
  if (!masks.on) return 0;
  const bySlope = inBand(masks.slope, spot.gradient);
  if (bySlope === 0) return 0;
  const byHeight = inBand(masks.height, spot.height);
  if (byHeight === 0) return 0;
  if (masks.anyGround && !spot.top) return bySlope * byHeight;
  return bySlope * byHeight * onGround(masks, input.ground, x, z, spot.top);
}


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
  const { width, depth, spacing: sample, ox, oz } = input.terrain.grid;
  const part = only ? { x0: only.x0 * sample, z0: only.z0 * sample, x1: only.x1 * sample, z1: only.z1 * sample } : { x0: 0, z0: 0, x1: width, z1: depth };
  const cell = clamp(2 * Math.max(...input.species.map((s) => s.clearance), 0.25), 0.5, 16);
  const near = new NearPoints(width, depth, cell, Math.ceil((width * depth * input.species.reduce((sum, s) => sum + Math.min(s.density, 100), 0)) / 200));
  const handOf = new Map<string, PlantObject[]>();
  const moved = new Map<string, Set<string>>();
  for (const p of input.plants) {
    if (p.from) (moved.get(p.species) ?? moved.set(p.species, new Set()).get(p.species)!).add(p.from);
    if (!p.gone) (handOf.get(p.species) ?? handOf.set(p.species, []).get(p.species)!).push(p);
  }
  input.species.forEach((s, i) => { for (const p of handOf.get(s.id) ?? []) near.add(p.at[0], p.at[2], s.clearance, i); });
  const hosts = hostsOf(input);
  const spot: Spot = { height: 0, gradient: 0, top: false };
  const at = new Float64Array(3);
  return input.species.map((species, index) => {
    const out = new Growing(species.id, Math.ceil(((part.x1 - part.x0) * (part.z1 - part.z0) * Math.min(species.density, 100)) / 100));
    const hand = handOf.get(species.id) ?? [];
    const own = hand.length > 0 ? species.spacing : 0;
    const gone = moved.get(species.id);
    const asset = input.assetHeights.get(species.asset) ?? 1;
    const sown = sownTiles(input.tiles, input.terrain, species.id);
    if (species.density > 0 && (species.rule.on || sown.any)) {
      const p = pattern(species.seed);
      const r = species.spacing;
      const period = p.side * r;
      const scale = species.density / 100 / (p.count / (period * period));
      const masks = masksOf(species, input.ground.surfaces.map((s) => s.id));
      const most = scale * ((masks.on ? 1 : 0) + (sown.any ? MOST_SOWN : 0));
      for (let cz = Math.floor((part.z0 + oz) / period); cz * period - oz < part.z1; cz++) {
        for (let cx = Math.floor((part.x0 + ox) / period); cx * period - ox < part.x1; cx++) {
          const copy = hashInts(species.seed, cx, cz, 5);
          for (let slot = 0; slot < p.count; slot++) {
            const x = cx * period + p.x[slot] * r - ox;
            const z = cz * period + p.z[slot] * r - oz;
            if (x < part.x0 || z < part.z0 || x >= part.x1 || z >= part.z1) continue;
            const chance = drawOf(copy, slot);
            if (chance >= most) continue;
            const extra = sown.any ? sownAt(sown, input.terrain, x, z) : 0;
            if (chance >= scale * clamp((masks.on ? 1 : 0) + extra, 0, MOST_SOWN)) continue;
            let rule: number;
            if (hosts.built[Math.floor(z / CELL) * hosts.across + Math.floor(x / CELL)] === 1) {
              spotAt(input, hosts, x, z, spot);
              rule = ruleAt(input, masks, spot, x, z);
            } else {
              terrainSpot(input.terrain, input.ground, masks, x, z, at);
              spot.height = at[HEIGHT];
              rule = masks.on ? inBand(masks.slope, at[STEEP]) * inBand(masks.height, at[HEIGHT]) * at[SHARE] : 0;
            }
            if (chance >= scale * clamp(rule + extra, 0, MOST_SOWN)) continue;
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

/** The number a candidate drew for itself, 0 to 1: fixed by its copy of the pattern and its slot. */
export const drawOf = (copy: number, slot: number): number => mix32(copy ^ Math.imul(slot + 1, 0x9e3779b1)) / 4294967296;

/** The n-th number of a plant's own, 0 to 1. */
const unit = (seed: number, n: number): number => mix32(seed + Math.imul(n, 0x85ebca77)) / 4294967296;

/** Room that species are grown in one after the other; it doubles as it fills and is kept. */
let _place = new Float32Array(0);
let _tint = new Uint8Array(0);
let _id = new Int32Array(0);

/** Plants while they are chosen. One species at a time: all share the same room until they are `done`. */
class Growing {
  count = 0;
  place: Float32Array;
  private tint: Uint8Array;
  private id: Int32Array;
  private readonly hand: string[] = [];
  /** @param expected about how many there will be */
  constructor(private readonly species: string, expected: number) {
    if (_tint.length < Math.max(64, expected)) this.room(Math.max(64, expected));
    this.place = _place;
    this.tint = _tint;
    this.id = _id;
  }

  private room(n: number): void {
    _place = new Float32Array(n * PLANT_STRIDE);
    _tint = new Uint8Array(n);
    _id = new Int32Array(n * 3);
  }

  add(x: number, y: number, z: number, seed: number, s: Species, asset: number, cx: number, cz: number, slot: number): void {
    const tall = (s.height[0] + (s.height[1] - s.height[0]) * unit(seed, 1)) / asset;
    this.put(x, y, z, unit(seed, 2) * 360, tall, tall * (s.slenderness[0] + (s.slenderness[1] - s.slenderness[0]) * unit(seed, 3)), seed, s, cx, cz, slot);
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
    this.place[o + 6] = s.lean * unit(seed, 4);
    this.place[o + 7] = unit(seed, 5) * 360;
    this.tint[this.count] = Math.floor(unit(seed, 6) * s.tints.length);
    this.id[this.count * 3] = a;
    this.id[this.count * 3 + 1] = b;
    this.id[this.count * 3 + 2] = slot;
    this.count++;
  }

  private double(): void {
    this.room(this.tint.length * 2);
    _place.set(this.place);
    _tint.set(this.tint);
    _id.set(this.id);
    this.place = _place;
    this.tint = _tint;
    this.id = _id;
  }

  done(): Plants {
    return { species: this.species, count: this.count, place: this.place.slice(0, this.count * PLANT_STRIDE), tint: this.tint.slice(0, this.count), id: this.id.slice(0, this.count * 3), hand: this.hand };
  }
}
