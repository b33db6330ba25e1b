import type { BodyFigures } from '../body/bodies';
import { blockBounds } from '../block/solid';
import type { PlacedMesh } from '../block/placedMesh';
import type { Terrain } from '../earth/compose';
import type { Block } from '../level/objects';
import type { Grid } from '../level/tiles';
import type { Vec3 } from '../num/vec';
import { bakeTile, cutOf, DX, DZ, FINE, LOOK_ON, PLAIN, STAND, TILE_METRES, tileRect, type Cut, type Tile } from './bakeTile';
import { linkTile } from './linkTile';
import { limitsOf, type Limits } from './limits';
import { solidsNear, type SolidsNear } from './solidsNear';
import type { Probe } from './standing';
import { stride } from './stride';
import { tileInputHash } from './tileInputHash';

/** What a walk area stands on: terrain, blocks whose solid is plain, and the meshes of pieces, built blocks and trunks. */
export interface Standing {
  terrain: Terrain;
  blocks: readonly Block[];
  meshes: readonly PlacedMesh[];
}

/**
 * Where one body can walk, kept up to date tile by tile: each nav tile remembers the hash of what it was baked
 * from, and is baked again only where that changed.
 *
 * A stand has a number: a quad of open terrain its own, q = z * quads across + x; those of tile t the numbers
 * from `base[t]` on.
 */
export interface WalkArea {
  readonly body: BodyFigures;
  readonly limits: Limits;
  readonly cut: Cut;
  /** what it was last brought up to date with */
  readonly on: Standing;
  readonly tiles: readonly Tile[];
  /** first number of each tile's stands, and one past the last */
  readonly base: Int32Array;
  /** of each quad of the level what it is to the body: `SHUT`, `PLAIN`, `STAND` or `FINE` */
  readonly quads: Uint8Array;
  /** of each quad of open terrain, a bit a direction: the stand next to it that way can be stepped on to */
  readonly links: Uint8Array;
  /** how often it was brought up to date */
  readonly version: number;
  /**
   * Brings it up to date.
   *
   * @param onTile called before each tile that must be baked with the share done; false stops
   * @param from where to begin: the tiles nearest to it come first
   * @returns number of tiles baked, or `undefined` when stopped (what was baked stays)
   */
  update(on: Standing, onTile?: (done: number) => boolean, from?: Vec3): number | undefined;
  /**
   * The same, a tile at a time: yields the share done before each tile.
   *
   * @param only tiles to bake now; others that changed are left, and nothing is joined with them
   */
  bake(on: Standing, from?: Vec3, only?: ReadonlySet<number>): Generator<number, number, void>;
  /** Tiles that a bake on this would bake. */
  changed(on: Standing): number[];
  /** Takes over tiles that another area of the same body and grid baked on the same; the next bake joins them with the rest. */
  adopt(band: Band): void;
  /** What was found of some tiles that are baked, for another area to adopt. */
  band(tiles: readonly number[]): Band;
  /** What it has found, to be kept; shared with it until it is brought up to date again. `undefined` before its first bake is done. */
  keep(): WalkAreaKept | undefined;
  /** What matters to the body about a place. */
  near(x: number, z: number): SolidsNear;
  /** Walks the body straight for up to half a tile, see `stride`. */
  walk(from: StandAt, to: Readonly<{ x: number; z: number }>, probe: Probe): number;
}

/** Nav tiles whose surroundings are kept for ways and looks. */
const NEAR_KEPT = 48;

/** What a walk area has found, to go on from another day: for the same body on the same grid. */
export interface WalkAreaKept {
  /** of each tile what it was baked from */
  hashes: string[];
  tiles: Tile[];
  links: Uint8Array;
}

/** Tiles that were baked elsewhere: their numbers, what they were baked from, and the links of their quads, tile after tile, row by row. */
export interface Band {
  which: number[];
  hashes: string[];
  tiles: Tile[];
  links: Uint8Array;
}

export interface WalkAreaOptions {
  /** whether open ground is cut into cells too, see Cut. Default false */
  everywhere?: boolean;
  /** what the same body's area had found on the same grid: only what changed since is baked */
  kept?: WalkAreaKept;
}

/** A walk area that knows nothing yet, or what it kept. */
export function makeWalkArea(body: BodyFigures, grid: Grid, { everywhere = false, kept }: WalkAreaOptions = {}): WalkArea {
  const limits = limitsOf(body);
  const cut = cutOf(grid, body.radius, everywhere);
  const { across, down } = cut;
  // What is not of this grid is as if nothing were kept.
  const fits = kept && kept.hashes.length === across * down && kept.tiles.length === across * down && kept.links.length === (grid.nx - 1) * (grid.nz - 1);
  const before = fits ? kept : undefined;
  const hashes = before?.hashes.slice() ?? Array.from<string | undefined>({ length: across * down });
  const tiles = before?.tiles.slice() ?? Array.from<Tile>({ length: across * down });
  const base = new Int32Array(across * down + 1);
  const quads = new Uint8Array((grid.nx - 1) * (grid.nz - 1));
  const links = before?.links.slice() ?? new Uint8Array(quads.length);
  let version = 0;
  let on: Standing = { terrain: { grid, heights: new Float32Array(0), noise: new Map() }, blocks: [], meshes: [] };
  let blocksOf: readonly Block[][] = [];
  let meshesOf: readonly PlacedMesh[][] = [];
  const gathered = new Map<number, SolidsNear>();

  /** What stands in each tile's rectangle, in the order given: looked for once an update, not once a tile. */
  const byTile = <T>(list: readonly T[], bounds: (item: T) => { min: readonly number[]; max: readonly number[] }): T[][] => {
    const out: T[][] = Array.from({ length: across * down }, () => NOTHING as T[]);
    const { x0, x1, z0, z1 } = tileRect(cut, limits, 0);
    for (const item of list) {
      const { min, max } = bounds(item);
      // A tile's rectangle reaches as far past it to the east and south as to the west and north.
      const [tx0, tx1] = [Math.max(0, Math.floor((min[0] - (x1 - TILE_METRES)) / TILE_METRES)), Math.min(across - 1, Math.floor((max[0] - x0) / TILE_METRES))];
      const [tz0, tz1] = [Math.max(0, Math.floor((min[2] - (z1 - TILE_METRES)) / TILE_METRES)), Math.min(down - 1, Math.floor((max[2] - z0) / TILE_METRES))];
      for (let z = tz0; z <= tz1; z++) {
        for (let x = tx0; x <= tx1; x++) {
          const at = z * across + x;
          if (out[at] === NOTHING) out[at] = [item];
          else out[at].push(item);
        }
      }
    }
    return out;
  };
  /** Looks at what an area is to stand on: what each tile is to be baked from, and the tiles that were not yet. */
  const look = (next: Standing): { wanted: string[]; pending: Set<number> } => {
    on = next;
    blocksOf = byTile(on.blocks, blockBounds);
    meshesOf = byTile(on.meshes, (m) => m);
    gathered.clear();
    const pending = new Set<number>();
    const wanted: string[] = [];
    for (let t = 0; t < across * down; t++) {
      wanted[t] = tileInputHash(on.terrain, blocksOf[t], tileRect(cut, limits, t), meshesOf[t]);
      if (hashes[t] !== wanted[t]) pending.add(t);
    }
    return { wanted, pending };
  };
  /** adopted tiles that are not yet joined with those around them */
  const unjoined = new Set<number>();

  function* bake(next: Standing, from?: Vec3, only?: ReadonlySet<number>): Generator<number, number, void> {
    const { wanted, pending } = look(next);
    const away = (t: number) =>
      ((t % across) + 0.5 - (from?.[0] ?? 0) / TILE_METRES) ** 2 + (Math.floor(t / across) + 0.5 - (from?.[2] ?? 0) / TILE_METRES) ** 2;
    const all = only ? [...pending].filter((t) => only.has(t)) : [...pending];
    const order = from ? all.sort((a, b) => away(a) - away(b) || a - b) : all;
    let done = 0;
    for (const t of order) {
      yield done / order.length;
      const baked = bakeTile({ terrain: on.terrain, blocks: blocksOf[t], meshes: meshesOf[t] }, cut, limits, t);
      tiles[t] = baked.tile;
      hashes[t] = wanted[t];
      spread(t);
      pending.delete(t);
      linkTile({ cut, limits, tiles, links, pending }, t, baked.near ?? (() => gather(t)));
      done++;
    }
    for (const t of unjoined)
      if (!pending.has(t)) {
        linkTile({ cut, limits, tiles, links, pending }, t, () => gather(t));
        unjoined.delete(t);
      }
    version++;
    base[0] = quads.length;
    for (let t = 0; t < across * down; t++) base[t + 1] = base[t] + (tiles[t]?.stands.length ?? 0) / 4;
    return done;
  }

  /** Each row of a tile's quads: where it begins among those of the tile, and among all of the level. */
  const rowsOf = (t: number, each: (inTile: number, inLevel: number) => void) => {
    const n = cut.quads;
    const first = Math.floor(t / across) * n * (grid.nx - 1) + (t % across) * n;
    for (let z = 0; z < n; z++) each(z * n, first + z * (grid.nx - 1));
  };
  /** A tile's quads among all of the level. */
  const spread = (t: number) => rowsOf(t, (row, at) => quads.set(tiles[t].state.subarray(row, row + cut.quads), at));

  if (before) for (let t = 0; t < across * down; t++) spread(t);

  const gather = (t: number): SolidsNear =>
    solidsNear({ terrain: on.terrain, blocks: blocksOf[t], meshes: meshesOf[t] }, tileRect(cut, limits, t), limits, limits.side + LOOK_ON);

  const area: WalkArea = {
    body,
    limits,
    cut,
    tiles,
    base,
    quads,
    links,
    bake,
    get on() {
      return on;
    },
    get version() {
      return version;
    },
    keep: () => (version > 0 && hashes.every((h) => h !== undefined) ? { hashes: hashes as string[], tiles, links } : undefined),
    changed: (next) => [...look(next).pending],
    adopt({ which, hashes: from, tiles: found, links: joined }) {
      const size = cut.quads * cut.quads;
      const mine = new Set(which);
      which.forEach((t, i) => {
        tiles[t] = found[i];
        hashes[t] = from[i];
        spread(t);
        rowsOf(t, (row, at) => links.set(joined.subarray(i * size + row, i * size + row + cut.quads), at));
        const [x, z] = [t % across, Math.floor(t / across)];
        for (let d = 0; d < 8; d++) {
          const [ox, oz] = [x + DX[d], z + DZ[d]];
          if (ox >= 0 && oz >= 0 && ox < across && oz < down && !mine.has(oz * across + ox)) unjoined.add(t);
        }
      });
    },
    band(which) {
      const size = cut.quads * cut.quads;
      const joined = new Uint8Array(which.length * size);
      which.forEach((t, i) => rowsOf(t, (row, at) => joined.set(links.subarray(at, at + cut.quads), i * size + row)));
      return { which: [...which], hashes: which.map((t) => hashes[t]!), tiles: which.map((t) => tiles[t]), links: joined };
    },
    update(next, onTile, from) {
      const work = bake(next, from);
      for (;;) {
        const { done, value } = work.next();
        if (done) return value;
        if (onTile && !onTile(value)) return undefined;
      }
    },
    near(x, z) {
      const t = Math.min(down - 1, Math.max(0, Math.floor(z / TILE_METRES))) * across + Math.min(across - 1, Math.max(0, Math.floor(x / TILE_METRES)));
      let found = gathered.get(t);
      if (!found) {
        found = gather(t);
        if (gathered.size >= NEAR_KEPT) gathered.delete(gathered.keys().next().value!);
      } else gathered.delete(t);
      gathered.set(t, found);
      return found;
    },
    walk(from, to, probe) {
      const { x: bx, z: bz } = to;
      // Outside the level, and nearer to its end than its radius, there is nothing to stand on.
      if (bx < limits.radius || bz < limits.radius || bx > grid.width - limits.radius || bz > grid.depth - limits.radius) return NaN;
      return stride({ near: area.near((from.x + bx) / 2, (from.z + bz) / 2), limits, probe }, from, to);
    },
  };
  return area;
}

const NOTHING: never[] = [];

/** A stand's place and the height of its feet. */
export interface StandAt {
  x: number;
  z: number;
  h: number;
}

/** Where stand `id` is, into `out`. */
export function standAt({ cut: { grid, across, quads }, tiles, base, on, quads: states }: WalkArea, id: number, out: StandAt): StandAt {
  const quadsX = grid.nx - 1;
  if (id < base[0]) {
    const qz = Math.floor(id / quadsX);
    const qx = id - qz * quadsX;
    if (states[id] === STAND) {
      const tile = tiles[Math.floor(qz / quads) * across + Math.floor(qx / quads)];
      return standOf(tile, tile.at[(qz % quads) * quads + (qx % quads)], out);
    }
    const i = qz * grid.nx + qx;
    const h = on.terrain.heights;
    out.x = (qx + 0.5) * grid.spacing;
    out.z = (qz + 0.5) * grid.spacing;
    out.h = (h[i] + h[i + grid.nx + 1]) / 2;
    return out;
  }
  const t = tileOf(base, id);
  return standOf(tiles[t], id - base[t], out);
}

function standOf({ stands }: Tile, i: number, out: StandAt): StandAt {
  out.x = stands[i * 4];
  out.z = stands[i * 4 + 1];
  out.h = stands[i * 4 + 2];
  return out;
}

/** The tile whose stands number `id` is among. */
export function tileOf(base: Int32Array, id: number): number {
  let [low, high] = [0, base.length - 2];
  while (low < high) {
    const mid = (low + high + 1) >> 1;
    if (base[mid] <= id) low = mid;
    else high = mid - 1;
  }
  return low;
}

/**
 * Stands of the cell or quad a place lies in, into `out`; how many. Of open terrain the quad's own number, of
 * cells those of the tile.
 */
export function standsAt(area: WalkArea, x: number, z: number, out: number[]): number {
  const {
    cut: { grid, across, quads, cells, cell },
    tiles,
    base,
  } = area;
  out.length = 0;
  const qx = Math.min(grid.nx - 2, Math.max(0, Math.floor(x / grid.spacing)));
  const qz = Math.min(grid.nz - 2, Math.max(0, Math.floor(z / grid.spacing)));
  const quad = qz * (grid.nx - 1) + qx;
  if (area.quads[quad] === PLAIN || area.quads[quad] === STAND) out.push(quad);
  else if (area.quads[quad] === FINE) {
    const t = Math.floor(qz / quads) * across + Math.floor(qx / quads);
    const tile = tiles[t];
    const q = (qz % quads) * quads + (qx % quads);
    const cx = Math.min(cells - 1, Math.max(0, Math.floor((x - qx * grid.spacing) / cell)));
    const cz = Math.min(cells - 1, Math.max(0, Math.floor((z - qz * grid.spacing) / cell)));
    const c = tile.at[q] + cz * cells + cx;
    for (let i = tile.first[c]; i < tile.first[c + 1]; i++) out.push(base[t] + i);
  }
  return out.length;
}

/** Stands that can be stepped on to from one, into `out`; how many. */
export function stepsFrom(area: WalkArea, id: number, out: number[]): number {
  const { cut, tiles, base, links } = area;
  const { grid, across, quads, cells } = cut;
  const [quadsX, quadsZ] = [grid.nx - 1, grid.nz - 1];
  out.length = 0;
  if (id < base[0]) {
    const [qx, qz] = [id % quadsX, Math.floor(id / quadsX)];
    for (let d = 0; d < 8; d++) {
      const [x, z] = [qx + DX[d], qz + DZ[d]];
      if (x < 0 || z < 0 || x >= quadsX || z >= quadsZ) continue;
      const other = z * quadsX + x;
      if (area.quads[other] !== FINE) {
        if (links[id] & (1 << d)) out.push(other);
        continue;
      }
      const t = Math.floor(z / quads) * across + Math.floor(x / quads);
      const tile = tiles[t];
      const q = (z % quads) * quads + (x % quads);
      // Along the side the cells that look this way, or the one in the corner.
      const [cx0, cx1] = DX[d] > 0 ? [0, 0] : DX[d] < 0 ? [cells - 1, cells - 1] : [0, cells - 1];
      const [cz0, cz1] = DZ[d] > 0 ? [0, 0] : DZ[d] < 0 ? [cells - 1, cells - 1] : [0, cells - 1];
      for (let cz = cz0; cz <= cz1; cz++) {
        for (let cx = cx0; cx <= cx1; cx++) {
          const c = tile.at[q] + cz * cells + cx;
          for (let i = tile.first[c]; i < tile.first[c + 1]; i++) if (tile.to[i * 8 + (d ^ 4)] === 1) out.push(base[t] + i);
        }
      }
    }
    return out.length;
  }
  const t = tileOf(base, id);
  const i = id - base[t];
  const [gx, gz] = cellOf(area, t, i);
  for (let d = 0; d < 8; d++) {
    const to = tiles[t].to[i * 8 + d];
    if (to === 0) continue;
    const [x, z] = [gx + DX[d], gz + DZ[d]];
    const [qx, qz] = [Math.floor(x / cells), Math.floor(z / cells)];
    const other = Math.floor(qz / quads) * across + Math.floor(qx / quads);
    const tile = tiles[other];
    const q = (qz % quads) * quads + (qx % quads);
    if (tile.state[q] === FINE) out.push(base[other] + tile.first[tile.at[q] + (z % cells) * cells + (x % cells)] + to - 1);
    else out.push(qz * quadsX + qx);
  }
  return out.length;
}

/** The cell a tile's stand is in, counted over the whole level from its north-west corner. */
function cellOf({ cut: { quads, across, cells }, tiles }: WalkArea, t: number, i: number): [x: number, z: number] {
  const cell = tiles[t].cell[i];
  const per = cells * cells;
  const q = tiles[t].fine[Math.floor(cell / per)];
  const c = cell % per;
  return [((t % across) * quads + (q % quads)) * cells + (c % cells), (Math.floor(t / across) * quads + Math.floor(q / quads)) * cells + Math.floor(c / cells)];
}
