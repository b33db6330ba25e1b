import { sharedRect, uniteRects, wholeRect, type Rect } from '../earth/rect';
import { parseTileKey, TILE_QUADS, TILE_SIDE, type Grid } from '../level/tiles';
import type { GroundRaster } from '../surface/ground';
import type { GrowthInput, Part } from './grow';
import { holeRadius } from './holes';

/** Samples that may have other heights or other ground: a rectangle of them, any of them, or none. */
export type Touched = Rect | 'all' | 'none';

/** Both of them. */
export const unitedTouched = (a: Touched, b: Touched): Touched => (a === 'all' || b === 'all' ? 'all' : a === 'none' ? b : b === 'none' ? a : uniteRects(a, b));

/**
 * Where what plants grow from is another than it was, metres.
 *
 * @returns nothing where it is the same; `all` where a change may be anywhere: other species, habitats, waters, markers. What moved among
 *   blocks and pieces that are one and the same is not seen
 * @param touched heights and ground are looked at there alone
 */
export function growthDirt(was: GrowthInput, now: GrowthInput, touched: Touched = 'all'): Part | 'all' | undefined {
  if (!sameFrame(was, now)) return 'all';
  const { grid } = now.terrain;
  const parts: (Part | 'all' | undefined)[] = [
    ...(touched === 'none' ? [] : [heightsPart(was, now, samplesOf(touched, grid)), groundPart(was.ground, now.ground, samplesOf(touched, grid))]),
    tilesPart(was, now),
    handsPart(was, now),
  ];
  let out: Part | undefined;
  for (const p of parts) {
    if (p === 'all') return 'all';
    out = united(out, p);
  }
  return out;
}

/** Whether all that bears on the level as a whole is as it was. */
function sameFrame(was: GrowthInput, now: GrowthInput): boolean {
  const of = ({
    terrain,
    ground,
    species,
    habitats = [],
    assetHeights,
    assetWidths = new Map(),
    waters,
    stack = [],
    markers = [],
    doorways = [],
    outlines = [],
    walker,
    ceiling,
  }: GrowthInput) => [
    terrain.grid,
    ground.surfaces.map((s) => s.id),
    species,
    habitats,
    [...assetHeights].sort(),
    [...assetWidths].sort(),
    waters,
    stack,
    markers,
    doorways,
    outlines,
    walker ?? null,
    ceiling ?? null,
  ];
  return was.blocks === now.blocks && was.meshes === now.meshes ? same(of(was), of(now)) : noneStands(was) && noneStands(now) && same(of(was), of(now));
}

const noneStands = ({ blocks, meshes }: GrowthInput): boolean => blocks.size === 0 && meshes.size === 0;

/** Whether two plain values are alike, arrays of numbers by their numbers. */
function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return Number.isNaN(a) && Number.isNaN(b);
  if (ArrayBuffer.isView(a) || ArrayBuffer.isView(b)) {
    return alike(a as Float32Array, b as Float32Array);
  }
  const keys = Object.keys(a);
  return (
    keys.length === Object.keys(b).length &&
    keys.every((k) => Object.hasOwn(b, k) && same((a as Record<string, unknown>)[k], (b as Record<string, unknown>)[k]))
  );
}

type Numbers = Float32Array | Int32Array | Uint8Array;

/** The first place from `from` on, before `end`, where two rows of numbers differ; `end` where they do not. */
function firstOther(a: Int32Array, b: Int32Array, from: number, end: number): number {
  let i = from;
  // Eight at a time: one branch for all of them.
  for (; i + 8 <= end; i += 8) {
    const any =
      (a[i] ^ b[i]) |
      (a[i + 1] ^ b[i + 1]) |
      (a[i + 2] ^ b[i + 2]) |
      (a[i + 3] ^ b[i + 3]) |
      (a[i + 4] ^ b[i + 4]) |
      (a[i + 5] ^ b[i + 5]) |
      (a[i + 6] ^ b[i + 6]) |
      (a[i + 7] ^ b[i + 7]);
    if (any !== 0) break;
  }
  while (i < end && a[i] === b[i]) i++;
  return i;
}

/** An array's bytes four at a time: a quarter of the looks, and one kind of array for all. The last one to three bytes are copied. */
function words(a: Numbers): Int32Array {
  const bytes = a.byteLength;
  if (bytes % 4 === 0 && a.byteOffset % 4 === 0) return new Int32Array(a.buffer, a.byteOffset, bytes / 4);
  const whole = new Uint8Array(Math.ceil(bytes / 4) * 4);
  whole.set(new Uint8Array(a.buffer, a.byteOffset, bytes));
  return new Int32Array(whole.buffer);
}

const alike = (a: Numbers, b: Numbers): boolean => a.length === b.length && firstOther(words(a), words(b), 0, words(a).length) === words(a).length;

/** Samples of a grid: some of its rows, or a part of each. */
interface Samples {
  grid: Grid;
  rect: Rect;
}

const samplesOf = (touched: Rect | 'all', grid: Grid): Samples => {
  const whole = wholeRect(grid);
  // What lies beside the grid is none of it.
  return { grid, rect: touched === 'all' ? whole : (sharedRect(touched, whole) ?? { ...whole, x1: -1, z1: -1 }) };
};

/** Bounds of the samples of which one has other numbers in two rasters, of those that are looked at. */
function rasterPart(one: Numbers, other: Numbers, { grid: { nx, nz, spacing }, rect }: Samples): Part | undefined {
  const [a, b] = [words(one), words(other)];
  // Of numbers as wide as a byte a word may hold those of several samples: it stands for all of them.
  const perSample = one.length / (nx * nz);
  const perWord = 4 / one.BYTES_PER_ELEMENT;
  let [x0, z0, x1, z1] = [Infinity, Infinity, -Infinity, -Infinity];
  const look = (first: number, last: number) => {
    const end = Math.min(a.length, Math.ceil(((last + 1) * perSample) / perWord));
    for (let i = firstOther(a, b, Math.floor((first * perSample) / perWord), end); i < end; i = firstOther(a, b, i + 1, end)) {
      const until = Math.min(nx * nz - 1, Math.floor(((i + 1) * perWord - 1) / perSample));
      for (let sample = Math.floor((i * perWord) / perSample); sample <= until; sample++) {
        const [x, z] = [sample % nx, Math.floor(sample / nx)];
        x0 = Math.min(x0, x);
        z0 = Math.min(z0, z);
        x1 = Math.max(x1, x);
        z1 = Math.max(z1, z);
      }
    }
  };
  // Whole rows are one run of words.
  if (rect.x1 - rect.x0 + 1 === nx) look(rect.z0 * nx, rect.z1 * nx + nx - 1);
  else for (let z = rect.z0; z <= rect.z1; z++) look(z * nx + rect.x0, z * nx + rect.x1);
  return x0 > x1 ? undefined : { x0: x0 * spacing, z0: z0 * spacing, x1: x1 * spacing, z1: z1 * spacing };
}

const heightsPart = (was: GrowthInput, now: GrowthInput, at: Samples): Part | undefined => rasterPart(was.terrain.heights, now.terrain.heights, at);

function groundPart(a: GroundRaster, b: GroundRaster, at: Samples): Part | 'all' | undefined {
  if (a.weights.length !== b.weights.length) return 'all';
  const pairs: [Numbers, Numbers][] = [
    [a.weights, b.weights],
    [a.of, b.of],
    [a.tops, b.tops],
    [a.topOf, b.topOf],
  ];
  let out: Part | undefined;
  for (const [x, y] of pairs) {
    if (x.length !== y.length) return 'all';
    out = united(out, rasterPart(x, y, at));
  }
  return out;
}

/** Where other is sown or painted of a habitat; what weathering left may be gone by anywhere. */
function tilesPart(was: GrowthInput, now: GrowthInput): Part | 'all' | undefined {
  const { spacing } = now.terrain.grid;
  let out: Part | undefined;
  for (const key of new Set([...was.tiles.keys(), ...now.tiles.keys()])) {
    const [a, b] = [was.tiles.get(key), now.tiles.get(key)];
    if (a === b || (a && b && alike(a, b))) continue;
    const { channel, tx, tz } = parseTileKey(key)!;
    if (channel !== 'sown' && channel !== 'area') return 'all';
    for (let z = 0; z < TILE_SIDE; z++)
      for (let x = 0; x < TILE_SIDE; x++)
        if ((a?.[z * TILE_SIDE + x] ?? 0) !== (b?.[z * TILE_SIDE + x] ?? 0))
          out = united(out, pointPart((tx * TILE_QUADS + x) * spacing, (tz * TILE_QUADS + z) * spacing, 0));
  }
  return out;
}

/** Where hands set, moved or removed others than before: as far as these keep free. */
function handsPart(was: GrowthInput, now: GrowthInput): Part | undefined {
  const [a, b] = [new Map(was.plants.map((p) => [p.id, p])), new Map(now.plants.map((p) => [p.id, p]))];
  const widest = Math.max(0, ...now.species.flatMap((s) => [s.clearance, s.spacing, holeRadius(s)]));
  let out: Part | undefined;
  for (const id of new Set([...a.keys(), ...b.keys()])) {
    if (same(a.get(id), b.get(id))) continue;
    for (const p of [a.get(id), b.get(id)]) {
      if (!p) continue;
      const reach = Math.max(widest, p.radius ?? 0) + 0.01;
      for (const [x, z] of [[p.at[0], p.at[2]], ...(p.was ? [p.was] : [])]) out = united(out, pointPart(x, z, reach));
    }
  }
  return out;
}

const pointPart = (x: number, z: number, reach: number): Part => ({ x0: x - reach, z0: z - reach, x1: x + reach, z1: z + reach });

/** The smallest part that holds both. */
export const united = <P extends Part | undefined>(a: Part | undefined, b: P): P | Part =>
  a && b ? { x0: Math.min(a.x0, b.x0), z0: Math.min(a.z0, b.z0), x1: Math.max(a.x1, b.x1), z1: Math.max(a.z1, b.z1) } : (a ?? b);
