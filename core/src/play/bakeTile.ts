import { OPEN, type Terrain } from '../earth/compose';
import type { Grid } from '../level/tiles';
import type { Limits } from './limits';
import { planDistance, solidsNear, type PlanRect, type SolidsNear } from './solidsNear';
import { floorsAt, HAIR, makeProbe, restAt, roomAt, terrainAt, type Feeler, type FeetAt } from './standing';
import type { Block } from '../level/objects';
import type { PlacedMesh } from '../block/placedMesh';

/** What a quad of the terrain is to a body. */
export const SHUT = 0;
/** it stands in the middle; nothing is near */
export const PLAIN = 1;
/** it stands somewhere in it, see Tile.stands */
export const STAND = 2;
/** solids are near: the quad is cut into cells */
export const FINE = 3;

/** Side of a nav tile, metres. */
export const TILE_METRES = 16;
/** Beyond its sides a body's room is known this far, metres: where there is so much, a step needs no closer look. */
export const LOOK_ON = 0.25;
/** Places looked for in a cell until there is room. */
const SETTLES = 12;

/** How a level is cut up for one body. */
export interface Cut {
  grid: Grid;
  /** quads a side of a nav tile */
  quads: number;
  /** nav tiles */
  across: number;
  down: number;
  /** cells a side of a quad where solids are near, and their side, metres: at most half a radius */
  cells: number;
  cell: number;
  /** whether open ground is cut into cells as well: slow, to hold the quick way against */
  everywhere: boolean;
}

/**
 * How a level is cut into nav tiles and cells for a body.
 *
 * @param radius metres
 * @param everywhere cells on open ground too, where its own samples would do
 */
export function cutOf(grid: Grid, radius: number, everywhere = false): Cut {
  const quads = TILE_METRES / grid.spacing;
  const cells = Math.ceil(grid.spacing / (radius / 2) - 1e-9);
  return { grid, quads, across: (grid.nx - 1) / quads, down: (grid.nz - 1) / quads, cells, cell: grid.spacing / cells, everywhere };
}

/**
 * Where a body stands in one nav tile.
 *
 * A stand is a place it can put its middle: `stands` holds x, z, height of the feet and room around it (up to
 * what is looked at), 4 float32 each. Quads are row by row. A quad that is `STAND` has one, number `at[quad]`;
 * one that is `FINE` has its cells from `at[quad]` on, row by row, and cell c the stands `first[c]` to
 * `first[c + 1]`, from the top down, after those of open quads; `cell[i]` is the cell of stand i (-1 in an open quad), `fine[n]` the quad of
 * the n-th fine one. `to` has 8 bytes a stand, one a direction: 1 + the number of the stand in
 * the next cell that way that it can step on to, 0 for none.
 */
export interface Tile {
  state: Uint8Array;
  at: Int32Array;
  first: Int32Array;
  cell: Int32Array;
  fine: Int32Array;
  stands: Float32Array;
  to: Uint8Array;
}

/** Directions in plan: east, south-east, south, ... round to north-east; the one back is `d ^ 4`. */
export const DX = [1, 1, 0, -1, -1, -1, 0, 1] as const;
export const DZ = [0, 1, 1, 1, 0, -1, -1, -1] as const;

/** Rectangle of a nav tile with all around it that matters to it, metres. */
export function tileRect({ grid, across }: Cut, limits: Limits, tile: number): PlanRect {
  const [x, z] = [(tile % across) * TILE_METRES, Math.floor(tile / across) * TILE_METRES];
  const around = limits.side + LOOK_ON + 1.5 * Math.max(grid.spacing, 0.5);
  return { x0: x - around, z0: z - around, x1: x + TILE_METRES + around, z1: z + TILE_METRES + around };
}

/**
 * Finds the stands of one nav tile. Where no solid is near a quad is one cell: open terrain goes by its own
 * samples, with true distance from what is too steep.
 *
 * @returns the tile, and what it was made from where it is not plain all over: its links are to be made from that
 */
export function bakeTile(
  { terrain, blocks, meshes }: { terrain: Terrain; blocks: readonly Block[]; meshes: readonly PlacedMesh[] },
  cut: Cut,
  limits: Limits,
  tile: number,
): { tile: Tile; near?: SolidsNear } {
  const { quads, across, grid } = cut;
  const state = new Uint8Array(quads * quads);
  const made: Tile = { state, at: NOTHING, first: NOTHING, cell: NOTHING, fine: NOTHING, stands: NO_STANDS, to: NO_LINKS };
  const [qx0, qz0] = [(tile % across) * quads, Math.floor(tile / across) * quads];
  const place = { qx0, qz0, quads };
  if (markOpen(terrain, limits, place, state) && blocks.length === 0 && meshes.length === 0 && !cut.everywhere) return { tile: made };
  const look = limits.side + LOOK_ON;
  const near = solidsNear({ terrain, blocks, meshes }, tileRect(cut, limits, tile), limits, look);
  if (cut.everywhere) state.fill(FINE);
  else markFine(near, grid.spacing, place, look, state);
  if (state.every((s) => s === PLAIN)) return { tile: made };
  const at = new Int32Array(quads * quads).fill(-1);
  const first: number[] = [];
  const cell: number[] = [];
  const fine: number[] = [];
  const stands: number[] = [];
  const feeler: Feeler = { near, limits, probe: makeProbe() };
  const { spacing } = grid;
  const corner = (q: number): [x: number, z: number] => [(qx0 + (q % quads)) * spacing, (qz0 + Math.floor(q / quads)) * spacing];
  // Those of open quads come first, so that the stands of cells follow each other.
  for (let q = 0; q < quads * quads; q++) {
    if (state[q] !== STAND) continue;
    const [x, z] = corner(q);
    if (standOnQuad(feeler, x, z, spacing, stands)) {
      at[q] = cell.length;
      cell.push(-1);
    } else state[q] = SHUT;
  }
  for (let q = 0; q < quads * quads; q++) {
    if (state[q] !== FINE) continue;
    const [x, z] = corner(q);
    at[q] = first.length;
    fine.push(q);
    for (let c = 0; c < cut.cells * cut.cells; c++) {
      first.push(cell.length);
      standInCell(feeler, x + ((c % cut.cells) + 0.5) * cut.cell, z + (Math.floor(c / cut.cells) + 0.5) * cut.cell, cut.cell / 2, stands);
      while (cell.length < stands.length / 4) cell.push(first.length - 1);
    }
  }
  first.push(stands.length / 4);
  return {
    tile: {
      state,
      at,
      first: Int32Array.from(first),
      cell: Int32Array.from(cell),
      fine: Int32Array.from(fine),
      stands: Float32Array.from(stands),
      to: new Uint8Array(stands.length * 2),
    },
    near,
  };
}

const NOTHING = new Int32Array(0);
const NO_STANDS = new Float32Array(0);
const NO_LINKS = new Uint8Array(0);

/** Quads of a nav tile: the first of them, and how many along each side. */
interface TileQuads {
  qx0: number;
  qz0: number;
  quads: number;
}

/** Marks quads `PLAIN` or `STAND` by the terrain alone. @returns whether all are plain */
function markOpen({ grid, heights: h, barred }: Terrain, limits: Limits, { qx0, qz0, quads }: TileQuads, state: Uint8Array): boolean {
  const { nx, nz, spacing: s } = grid;
  const reach = Math.ceil((limits.side + LOOK_ON) / s) + 1;
  const most = limits.grade * s * limits.grade * s;
  state.fill(PLAIN);
  let plain = true;
  const mark = (x: number, z: number) => {
    plain = false;
    for (let b = Math.max(qz0, z - reach); b <= Math.min(qz0 + quads - 1, z + reach); b++) {
      for (let a = Math.max(qx0, x - reach); a <= Math.min(qx0 + quads - 1, x + reach); a++) state[(b - qz0) * quads + a - qx0] = STAND;
    }
  };
  const [x0, x1, z0, z1] = [
    Math.max(0, qx0 - reach),
    Math.min(nx - 2, qx0 + quads - 1 + reach),
    Math.max(0, qz0 - reach),
    Math.min(nz - 2, qz0 + quads - 1 + reach),
  ];
  for (let z = z0; z <= z1; z++) {
    for (let x = x0; x <= x1; x++) {
      const i = z * nx + x;
      const ne = h[i + 1] - h[i],
        e = h[i + nx + 1] - h[i + 1],
        so = h[i + nx + 1] - h[i + nx],
        w = h[i + nx] - h[i];
      if (ne * ne + e * e > most || so * so + w * w > most) mark(x, z);
      else if (barred && (barred[i] !== OPEN || barred[i + 1] !== OPEN || barred[i + nx] !== OPEN || barred[i + nx + 1] !== OPEN)) mark(x, z);
    }
  }
  // At the level's end a body keeps its radius away.
  const edge = (q: number, n: number) => (q + 0.5) * s < limits.radius || (n - 1 - q - 0.5) * s < limits.radius;
  for (let z = qz0; z < qz0 + quads; z++)
    for (let x = qx0; x < qx0 + quads; x++)
      if (edge(x, nx) || edge(z, nz)) {
        state[(z - qz0) * quads + x - qx0] = STAND;
        plain = false;
      }
  return plain;
}

/** Marks quads `FINE` that a solid comes near. */
function markFine({ count, of, bounds, corners }: SolidsNear, s: number, { qx0, qz0, quads }: TileQuads, look: number, state: Uint8Array): void {
  const reach = look + s * 0.7072;
  const quad = (v: number, q0: number) => Math.floor(v / s) - q0;
  for (let i = 0; i < count; i++) {
    if (of[i] < 0) continue;
    const [z0, z1] = [Math.max(0, quad(bounds[i * 6 + 2] - look, qz0)), Math.min(quads - 1, quad(bounds[i * 6 + 5] + look, qz0))];
    const [x0, x1] = [Math.max(0, quad(bounds[i * 6] - look, qx0)), Math.min(quads - 1, quad(bounds[i * 6 + 3] + look, qx0))];
    for (let z = z0; z <= z1; z++) {
      for (let x = x0; x <= x1; x++)
        if (state[z * quads + x] !== FINE && planDistance(corners, i * 9, (qx0 + x + 0.5) * s, (qz0 + z + 0.5) * s) <= reach) state[z * quads + x] = FINE;
    }
  }
}

/** A stand on a quad of open terrain: in its middle, or as near to it as there is room. @returns whether there is one */
function standOnQuad(feeler: Feeler, x: number, z: number, side: number, out: number[]): boolean {
  const { near, limits, probe } = feeler;
  const { terrain } = near;
  // The middle lies on the edge between the quad's two triangles; each has a middle of its own.
  for (const [u, v] of [
    [0.5, 0.5],
    [2 / 3, 1 / 3],
    [1 / 3, 2 / 3],
  ]) {
    if (
      u === 0.5 &&
      (terrainAt(terrain, x + 0.51 * side, z + 0.49 * side).tan > limits.grade || terrainAt(terrain, x + 0.49 * side, z + 0.51 * side).tan > limits.grade)
    )
      continue;
    const px = x + u * side,
      pz = z + v * side;
    if (
      floorsAt(near, limits, px, pz, probe) > 0 &&
      settle(feeler, { x: px, z: pz, h: probe.floors[0], tan: probe.tans[0] }, { x0: x, z0: z, x1: x + side, z1: z + side }, out, out.length)
    )
      return true;
  }
  return false;
}

/** Stands of a cell, one a floor. */
function standInCell(feeler: Feeler, x: number, z: number, half: number, out: number[]): void {
  const { near, limits, probe } = feeler;
  const begin = out.length;
  const floors = floorsAt(near, limits, x, z, probe);
  if (floors === 0) return;
  // Room is looked for at one after the other, and looking uses the probe.
  const ys = floors === 1 ? undefined : probe.floors.slice(0, floors);
  const tans = floors === 1 ? undefined : probe.tans.slice(0, floors);
  const cell = { x0: x - half, z0: z - half, x1: x + half, z1: z + half };
  for (let i = 0; i < floors && out.length - begin < 4 * 254; i++)
    settle(feeler, { x, z, h: ys ? ys[i] : probe.floors[0], tan: tans ? tans[i] : probe.tans[0] }, cell, out, begin);
}

/**
 * Looks for room on a floor of a cell, from a place on: away from what is nearest, again and again, as long
 * as it stays in the cell. Then on a tread its foot would be on.
 *
 * @param start on the floor there, and its rise over run
 * @returns whether a stand was added to `out`
 */
function settle(feeler: Feeler, start: FeetAt & { tan: number }, { x0, z0, x1, z1 }: PlanRect, out: number[], begin: number): boolean {
  const { near, limits, probe } = feeler;
  const { grid } = near.terrain;
  const lowX = Math.max(x0, limits.radius),
    lowZ = Math.max(z0, limits.radius),
    highX = Math.min(x1, grid.width - limits.radius),
    highZ = Math.min(z1, grid.depth - limits.radius);
  if (lowX > highX || lowZ > highZ) return false;
  let { x, z, h, tan: grade } = start;
  if (x < lowX || z < lowZ || x > highX || z > highZ) {
    x = Math.min(Math.max(x, lowX), highX);
    z = Math.min(Math.max(z, lowZ), highZ);
    const at = floorNear(feeler, x, z, h);
    if (at < 0) return false;
    h = probe.floors[at];
    grade = probe.tans[at];
  }
  const beganX = x,
    beganZ = z,
    beganH = h,
    beganGrade = grade;
  for (let i = 0; i < SETTLES; i++) {
    const room = roomAt(feeler, x, z, h, grade);
    if (room >= limits.side - HAIR) return add(out, begin, { x, z, h }, room);
    if (room < 1e-6) break;
    const push = (limits.side - room) / room;
    const nextX = Math.min(Math.max(x + (x - probe.nearX) * push, lowX), highX);
    const nextZ = Math.min(Math.max(z + (z - probe.nearZ) * push, lowZ), highZ);
    if (Math.abs(nextX - x) + Math.abs(nextZ - z) < 1e-5) break;
    const at = floorNear(feeler, nextX, nextZ, h);
    if (at < 0) break;
    x = nextX;
    z = nextZ;
    h = probe.floors[at];
    grade = probe.tans[at];
  }
  const lifted = restAt(feeler, beganX, beganZ, beganH, beganGrade);
  return lifted === lifted && add(out, begin, { x: beganX, z: beganZ, h: lifted }, limits.side);
}

/** Which floor at a place is nearest to a height, -1 where none is within a step of it. */
function floorNear({ near, limits, probe }: Feeler, x: number, z: number, h: number): number {
  const n = floorsAt(near, limits, x, z, probe);
  let best = -1;
  for (let k = 0; k < n; k++)
    if (Math.abs(probe.floors[k] - h) <= limits.step && (best < 0 || Math.abs(probe.floors[k] - h) < Math.abs(probe.floors[best] - h))) best = k;
  return best;
}

/** Adds a stand, unless the cell has one at that height. */
function add(out: number[], begin: number, { x, z, h }: FeetAt, room: number): boolean {
  for (let i = begin; i < out.length; i += 4) if (Math.abs(out[i + 2] - h) < 0.05) return false;
  out.push(x, z, h, room);
  return true;
}
