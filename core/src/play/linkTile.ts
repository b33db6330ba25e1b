import { DX, DZ, FINE, LOOK_ON, PLAIN, SHUT, STAND, type Cut, type Tile } from './bakeTile';
import type { Limits } from './limits';
import type { SolidsNear } from './solidsNear';
import { clearAlong, makeProbe, type Feeler } from './standing';
import { slide, stride } from './stride';

/** A stride ends on the stand it was meant for within this height, metres. */
const SAME_STAND = 0.06;

/** The nav tiles of a level and how they are joined. */
export interface LinkedTiles {
  cut: Cut;
  limits: Limits;
  tiles: readonly Tile[];
  /** by quad, a bit a direction */
  links: Uint8Array;
  /** tiles that are still to be baked */
  pending: ReadonlySet<number>;
}

/**
 * Joins the stands of a tile that was baked with each other and with those of the tiles around it: where a
 * body can step from one to the next, and back. Tiles that are `pending` are left to their own turn.
 *
 * Each pair is walked once, from the stand that has the other to its east, south-east, south or south-west, so
 * that a tile baked anew has the links of one baked with all others.
 *
 * @param near what the tile was made from, or how to get it
 */
export function linkTile({ cut, limits, tiles, links, pending }: LinkedTiles, tile: number, near: SolidsNear | (() => SolidsNear)): void {
  const { across, down, quads } = cut;
  const [tx, tz] = [tile % across, Math.floor(tile / across)];
  let feeler: Feeler | undefined;
  const pair: Pair = {
    cut,
    limits,
    tiles,
    links,
    feeler: () => (feeler ??= { near: typeof near === 'function' ? near() : near, limits, probe: makeProbe() }),
    a: { x: 0, z: 0, h: 0, room: 0 },
    b: { x: 0, z: 0, h: 0, room: 0 },
  };
  const [x0, z0, x1, z1] = [tx * quads, tz * quads, (tx + 1) * quads - 1, (tz + 1) * quads - 1];
  const around: boolean[] = [];
  for (let z = -1; z <= 1; z++)
    for (let x = -1; x <= 1; x++) around.push(tx + x >= 0 && tz + z >= 0 && tx + x < across && tz + z < down && !pending.has((tz + z) * across + tx + x));
  const known = (qx: number, qz: number) => around[(Math.floor(qz / quads) - tz + 1) * 3 + Math.floor(qx / quads) - tx + 1];
  const [nx, nz] = [across * quads, down * quads];
  // Inside a tile that is plain all over nothing has to be asked; its outermost quads are joined with the next inwards both ways.
  const plain = tiles[tile].state.every((s) => s === PLAIN);
  if (plain) for (let qz = z0 + 1; qz < z1; qz++) links.fill(255, qz * nx + x0 + 1, qz * nx + x1);
  for (let qz = z0 - 1; qz <= z1 + 1; qz++) {
    for (let qx = x0 - 1; qx <= x1 + 1; qx++) {
      if (plain && qx === x0 + 2 && qz > z0 && qz < z1 - 1) qx = x1 - 1;
      if (qx < 0 || qz < 0 || qx >= nx || qz >= nz || !known(qx, qz)) continue;
      const mine = qx >= x0 && qx <= x1 && qz >= z0 && qz <= z1;
      for (let d = 0; d < 4; d++) {
        const [ox, oz] = [qx + DX[d], qz + DZ[d]];
        if (ox < 0 || oz < 0 || ox >= nx || oz >= nz || !known(ox, oz)) continue;
        if (mine || (ox >= x0 && ox <= x1 && oz >= z0 && oz <= z1)) linkQuads(pair, qx, qz, d);
      }
      if (mine) linkCells(pair, qx, qz);
    }
  }
}

interface Pair {
  cut: Cut;
  limits: Limits;
  tiles: readonly Tile[];
  links: Uint8Array;
  feeler: () => Feeler;
  /** room for the two stands that are looked at */
  a: Stand;
  b: Stand;
}

/** A quad's tile, and its number in it. */
function quadIn({ across, quads }: Cut, tiles: readonly Tile[], qx: number, qz: number): { tile: Tile; q: number } {
  return { tile: tiles[Math.floor(qz / quads) * across + Math.floor(qx / quads)], q: (qz % quads) * quads + (qx % quads) };
}

/** Stands of one quad with those of the next in direction `d`. */
function linkQuads(pair: Pair, qx: number, qz: number, d: number): void {
  const { cut, tiles, links } = pair;
  const { cells, grid } = cut;
  const a = quadIn(cut, tiles, qx, qz);
  const b = quadIn(cut, tiles, qx + DX[d], qz + DZ[d]);
  const [from, to] = [a.tile.state[a.q], b.tile.state[b.q]];
  const width = grid.nx - 1;
  const [ia, ib] = [qz * width + qx, (qz + DZ[d]) * width + qx + DX[d]];
  if (from !== FINE && to !== FINE) {
    const linked =
      from !== SHUT &&
      to !== SHUT &&
      ((from === PLAIN && to === PLAIN) || canStep(pair, openStand(pair, a, qx, qz, pair.a), openStand(pair, b, qx + DX[d], qz + DZ[d], pair.b)));
    links[ia] = linked ? links[ia] | (1 << d) : links[ia] & ~(1 << d);
    links[ib] = linked ? links[ib] | (1 << (d ^ 4)) : links[ib] & ~(1 << (d ^ 4));
    return;
  }
  // What they had as open ground is gone.
  links[ia] &= ~(1 << d);
  links[ib] &= ~(1 << (d ^ 4));
  if (from === FINE && to === FINE) return linkCellsAcross(pair, qx, qz, d);
  // A fine quad with an open one: each cell along the side, or the one in the corner, with the open one's stand.
  const [fine, open, way] = from === FINE ? [a, b, d] : [b, a, d ^ 4];
  const [ox, oz] = from === FINE ? [qx + DX[d], qz + DZ[d]] : [qx, qz];
  const shut = open.tile.state[open.q] === SHUT;
  const stand = shut ? pair.a : openStand(pair, open, ox, oz, pair.a);
  for (const c of rim(cells, way)) {
    const cell = fine.tile.at[fine.q] + c;
    for (let i = fine.tile.first[cell]; i < fine.tile.first[cell + 1]; i++) {
      const other = tileStand(fine.tile, i, pair.b);
      fine.tile.to[i * 8 + way] = !shut && (from === FINE ? canStep(pair, other, stand) : canStep(pair, stand, other)) ? 1 : 0;
    }
  }
}

/** Cells of a quad that look in a direction: along a side, or the one in the corner. */
function rim(cells: number, d: number): number[] {
  const of = (v: number): number[] => (v > 0 ? [cells - 1] : v < 0 ? [0] : Array.from({ length: cells }, (_, i) => i));
  return of(DZ[d]).flatMap((z) => of(DX[d]).map((x) => z * cells + x));
}

/** Cells inside one quad with each other. */
function linkCells(pair: Pair, qx: number, qz: number): void {
  const {
    cut: { cells },
    tiles,
  } = pair;
  const { tile, q } = quadIn(pair.cut, tiles, qx, qz);
  if (tile.state[q] !== FINE) return;
  for (let z = 0; z < cells; z++) {
    for (let x = 0; x < cells; x++) {
      for (let d = 0; d < 4; d++) {
        const [ox, oz] = [x + DX[d], z + DZ[d]];
        if (ox >= 0 && oz >= 0 && ox < cells && oz < cells)
          linkTwo(pair, { tile, cell: tile.at[q] + z * cells + x }, { tile, cell: tile.at[q] + oz * cells + ox }, d);
      }
    }
  }
}

/** Cells of two fine quads that touch over the border between them, in every forward direction that leads from the one to the other, either way. */
function linkCellsAcross(pair: Pair, qx: number, qz: number, d: number): void {
  const {
    cut: { cells },
    tiles,
  } = pair;
  const a = quadIn(pair.cut, tiles, qx, qz);
  const b = quadIn(pair.cut, tiles, qx + DX[d], qz + DZ[d]);
  for (const [from, to, fx, fz, tox, toz] of [
    [a, b, qx, qz, qx + DX[d], qz + DZ[d]],
    [b, a, qx + DX[d], qz + DZ[d], qx, qz],
  ] as const) {
    for (let e = 0; e < 4; e++) {
      for (let c = 0; c < cells * cells; c++) {
        const [gx, gz] = [fx * cells + (c % cells) + DX[e] - tox * cells, fz * cells + Math.floor(c / cells) + DZ[e] - toz * cells];
        if (gx < 0 || gz < 0 || gx >= cells || gz >= cells) continue;
        linkTwo(pair, { tile: from.tile, cell: from.tile.at[from.q] + c }, { tile: to.tile, cell: to.tile.at[to.q] + gz * cells + gx }, e);
      }
    }
  }
}

/** A cell of a tile, by its number there. */
interface CellOf {
  tile: Tile;
  cell: number;
}

/** Stands of one cell with those of the next in direction `d`: each with the nearest in height that it can step on to. */
function linkTwo(pair: Pair, { tile: ta, cell: a }: CellOf, { tile: tb, cell: b }: CellOf, d: number): void {
  const [b0, b1] = [tb.first[b], tb.first[b + 1]];
  for (let j = b0; j < b1; j++) tb.to[j * 8 + (d ^ 4)] = 0;
  for (let i = ta.first[a]; i < ta.first[a + 1]; i++) {
    ta.to[i * 8 + d] = 0;
    const from = tileStand(ta, i, pair.a);
    for (let j = b0; j < b1; j++) {
      if (tb.to[j * 8 + (d ^ 4)] !== 0) continue;
      if (!canStep(pair, from, tileStand(tb, j, pair.b))) continue;
      ta.to[i * 8 + d] = 1 + j - b0;
      tb.to[j * 8 + (d ^ 4)] = 1 + i - ta.first[a];
      break;
    }
  }
}

interface Stand {
  x: number;
  z: number;
  h: number;
  room: number;
}

function tileStand({ stands }: Tile, i: number, out: Stand): Stand {
  out.x = stands[i * 4];
  out.z = stands[i * 4 + 1];
  out.h = stands[i * 4 + 2];
  out.room = stands[i * 4 + 3];
  return out;
}

/** The stand of a quad of open terrain. */
function openStand({ cut: { grid }, feeler }: Pair, { tile, q }: { tile: Tile; q: number }, qx: number, qz: number, out: Stand): Stand {
  if (tile.state[q] === STAND) return tileStand(tile, tile.at[q], out);
  const i = qz * grid.nx + qx;
  const h = feeler().near.terrain.heights;
  out.x = (qx + 0.5) * grid.spacing;
  out.z = (qz + 0.5) * grid.spacing;
  out.h = (h[i] + h[i + grid.nx + 1]) / 2;
  out.room = Infinity;
  return out;
}

/** Whether a body gets from one stand to the next: with room all about and no more than a step between them it needs no look. */
function canStep({ limits, feeler }: Pair, a: Stand, b: Stand): boolean {
  const rise = Math.abs(a.h - b.h);
  const half = Math.sqrt((a.x - b.x) * (a.x - b.x) + (a.z - b.z) * (a.z - b.z)) / 2;
  if (rise > limits.step + 2 * half * limits.grade) return false;
  if (rise <= limits.step && a.room >= limits.side + half && b.room >= limits.side + half) return true;
  // On one slope, or over a step it takes anyway, only what is beside it can stop it.
  const tan = half > 0 ? Math.min(limits.grade, rise / (2 * half)) : 0;
  if (rise <= limits.step && half <= LOOK_ON && clearAlong(feeler(), a, b, tan)) return true;
  let end = stride(feeler(), a, b);
  if (end !== end && a.room < limits.side + half && b.room < limits.side + half) end = slide(feeler(), a, b);
  return end === end && Math.abs(end - b.h) <= SAME_STAND;
}
