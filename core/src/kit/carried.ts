import { meshTopAt, type PlacedMesh } from '../block/placedMesh';
import { blockBounds, solidSpanAt, type Bounds } from '../block/solid';
import type { Block } from '../level/objects';
import { NEAR_ENOUGH, type Stood } from './resting';

/** What things stand on: a plain block, or a mesh where it stands. */
export type Carrier = Block | PlacedMesh;

const isBlock = (host: Carrier): host is Block => 'shape' in host;

/** Bounds of what carries. */
const boundsOf = (host: Carrier): Bounds => (isBlock(host) ? blockBounds(host) : host);

/** Height of its highest top over a place that is not above a limit; `undefined` where it has none. */
function topOf(host: Carrier, x: number, z: number, limit: number): number | undefined {
  if (!isBlock(host)) return meshTopAt(host, x, z, limit)?.height;
  const top = solidSpanAt(host, x, z)?.top;
  return top !== undefined && top <= limit ? top : undefined;
}

/** Side of the cells things are looked for by, metres. */
const CELL = 16;

/**
 * Of some things those that stood on one of some carriers as these were: their foot, less how far they are let in, within 2 cm
 * of a top of it.
 *
 * @param before carriers as they were before they moved or went
 */
export function carriedBy(before: Iterable<Carrier>, things: Iterable<Stood>): Stood[] {
  const cells = new Map<string, Stood[]>();
  for (const t of things) {
    const key = `${Math.floor(t.at[0] / CELL)},${Math.floor(t.at[2] / CELL)}`;
    const list = cells.get(key);
    if (list) list.push(t);
    else cells.set(key, [t]);
  }
  const out = new Set<Stood>();
  for (const host of before) {
    const { min, max } = boundsOf(host);
    for (let cx = Math.floor(min[0] / CELL); cx <= Math.floor(max[0] / CELL); cx++)
      for (let cz = Math.floor(min[2] / CELL); cz <= Math.floor(max[2] / CELL); cz++)
        for (const t of cells.get(`${cx},${cz}`) ?? []) {
          const [x, , z] = t.at;
          const foot = footOf(t);
          if (t.id === host.id || x < min[0] || x > max[0] || z < min[2] || z > max[2] || foot < min[1] || foot > max[1] + NEAR_ENOUGH) continue;
          const top = topOf(host, x, z, foot + NEAR_ENOUGH);
          if (top !== undefined && foot - top <= NEAR_ENOUGH) out.add(t);
        }
  }
  return [...out];
}

/** The height a thing's foot stands at: of a piece that is let in, the height of what it is let into. */
export const footOf = (t: Stood): number => t.at[1] + (t.kind === 'piece' ? t.sink : 0);
