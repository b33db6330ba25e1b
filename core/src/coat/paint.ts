import type { Asset } from '../kit/asset';
import { assetMesh } from '../kit/assetMesh';
import type { Paint } from '../level/kinds/coat';
import { fromBase64, inflateExactly, packBytes, toBase64 } from '../num/fixed';
import { clamp, cross, dot, length, sub, type Vec3 } from '../num/vec';
import { cellAt, coatGrid, pointsNear, pointsOf, type CoatGrid } from './grid';

/** The byte of paint that changes nothing. */
export const BARE = 128;

/** Paint unpacked: on the grid of its mesh, a byte a point for each coat that is painted. */
export type Painted = Map<string, Uint8Array>;

const unpacked = new WeakMap<Paint, WeakMap<object, Painted>>();

/**
 * Paint of a piece on the grid of the mesh it has now; that of another mesh is taken over by place. Those given are not to be
 * written to.
 */
export function paintOn(asset: Pick<Asset, 'lods'>, paint: Paint): Painted {
  const byAsset = unpacked.get(paint) ?? new WeakMap<object, Painted>();
  unpacked.set(paint, byAsset);
  const old = byAsset.get(asset);
  if (old) return old;
  const grid = coatGrid(asset);
  const same = paint.cell === grid.cell && [0, 1, 2].every((k) => paint.size[k] === grid.size[k] && Math.abs(paint.min[k] - grid.min[k]) < 1e-6);
  const made: Painted = new Map(
    paint.coats.map(({ coat, cells }) => {
      const own = inflateExactly(fromBase64(cells), pointsOf(paint));
      return [coat, same ? own : moved(paint, own, grid)];
    }),
  );
  byAsset.set(asset, made);
  return made;
}

/** Paint that is not packed yet: for a look at it while it is painted, not for a document. */
export function loosePaint(asset: Pick<Asset, 'lods'>, painted: Painted): Paint {
  const paint: Paint = { ...coatGrid(asset), coats: [...painted.keys()].map((coat) => ({ coat, cells: '' })) };
  unpacked.set(paint, new WeakMap([[asset, painted]]));
  return paint;
}

/** Bytes of one grid at the points of another; bare where it did not reach. */
function moved(from: CoatGrid, cells: Uint8Array, to: CoatGrid): Uint8Array {
  const out = new Uint8Array(pointsOf(to));
  const [nx, ny, nz] = to.size;
  for (let z = 0, i = 0; z < nz; z++)
    for (let y = 0; y < ny; y++)
      for (let x = 0; x < nx; x++, i++) {
        const at: Vec3 = [to.min[0] + x * to.cell, to.min[1] + y * to.cell, to.min[2] + z * to.cell];
        const reached = at.every((v, k) => v > from.min[k] - from.cell && v < from.min[k] + from.size[k] * from.cell);
        out[i] = reached ? Math.round(cellAt(from, cells, at)) : BARE;
      }
  return out;
}

/** Paint as a document has it; `undefined` where nothing is painted. */
export function packedPaint(asset: Pick<Asset, 'lods'>, painted: Painted): Paint | undefined {
  const coats = [...painted].filter(([, cells]) => cells.some((c) => c !== BARE)).map(([coat, cells]) => ({ coat, cells: toBase64(packBytes(cells)) }));
  return coats.length > 0 ? { ...coatGrid(asset), coats } : undefined;
}

/** All of a piece more or less of a coat. @param value a byte, see `BARE` */
export function filled(asset: Pick<Asset, 'lods'>, painted: Painted, coat: string, value: number): Painted {
  return new Map([...painted, [coat, new Uint8Array(pointsOf(coatGrid(asset))).fill(value)]]);
}

const looks = new WeakMap<object, Uint8Array>();

/** Which way the mesh looks about each point: a bit an axis and way, +x -x +y -y +z -z; none where no face is near. */
function looksOf(asset: Pick<Asset, 'lods'>): Uint8Array {
  const known = looks.get(asset);
  if (known) return known;
  const grid = coatGrid(asset);
  const out = new Uint8Array(pointsOf(grid));
  const { positions, indices } = assetMesh(asset as Asset);
  const at = (i: number): Vec3 => [positions[i * 3], positions[i * 3 + 1], positions[i * 3 + 2]];
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [at(indices[t]), at(indices[t + 1]), at(indices[t + 2])];
    const [u, v] = [sub(b, a), sub(c, a)];
    const n = cross(u, v);
    const size = length(n);
    if (size < 1e-12) continue;
    const bits = bitsOf([n[0] / size, n[1] / size, n[2] / size]);
    const steps = Math.max(1, Math.ceil(Math.max(length(u), length(v), length(sub(c, b))) / grid.cell));
    for (let i = 0; i <= steps; i++)
      for (let j = 0; j <= steps - i; j++) {
        const p = [0, 1, 2].map((k) => a[k] + (u[k] * i + v[k] * j) / steps) as Vec3;
        pointsNear(grid, p, grid.cell * 1.75, (point) => {
          out[point] |= bits;
        });
      }
  }
  looks.set(asset, out);
  return out;
}

/** Ways a side looks that is so far along an axis. */
const ALONG = 0.34;

function bitsOf(n: Vec3): number {
  let bits = 0;
  for (let k = 0; k < 3; k++) {
    if (n[k] > ALONG) bits |= 1 << (k * 2);
    if (n[k] < -ALONG) bits |= 2 << (k * 2);
  }
  return bits;
}

/** One touch of the brush on a piece, in its mesh's own axes and size. */
export interface Dab {
  at: Vec3;
  /** the way the side looks that is touched */
  normal: Vec3;
  radius: number;
  /** share of the way to all of it in the middle, 0 to 1; below 0 to none */
  strength: number;
}

/**
 * A coat painted on by a touch: what lies within its radius and looks at all the same way, the middle most. The other side of
 * a wall stays as it is where the wall is thicker than two cells.
 *
 * @returns bytes at the points; the same array where nothing was touched
 */
export function dabbed(asset: Pick<Asset, 'lods'>, cells: Uint8Array | undefined, { at, normal, radius, strength }: Dab): Uint8Array {
  const grid = coatGrid(asset);
  const ways = looksOf(asset);
  const wanted = bitsOf(normal);
  const before = cells ?? new Uint8Array(pointsOf(grid)).fill(BARE);
  let out: Uint8Array | undefined;
  // A brush finer than the grid still touches the points about it.
  const reach = Math.max(radius, grid.cell * 1.25);
  const deep = grid.cell * 2;
  pointsNear(grid, at, reach, (point, d) => {
    if ((ways[point] & wanted) === 0) return;
    const [x, y, z] = placeOf(grid, point);
    // Beneath the side that is touched lies another: as deep as that it is not reached.
    if (dot(sub([x, y, z], at), normal) < -Math.max(deep, radius * 0.5)) return;
    const t = clamp(1 - d / reach, 0, 1);
    const by = strength * t * t * (3 - 2 * t);
    const to = by > 0 ? 255 : 1;
    const next = Math.round(before[point] + (to - before[point]) * Math.abs(by));
    if (next === before[point]) return;
    out ??= before.slice();
    out[point] = next;
  });
  return out ?? cells ?? before;
}

function placeOf({ min, cell, size: [nx, ny] }: CoatGrid, point: number): Vec3 {
  const x = point % nx;
  const y = Math.floor(point / nx) % ny;
  return [min[0] + x * cell, min[1] + y * cell, min[2] + Math.floor(point / (nx * ny)) * cell];
}
