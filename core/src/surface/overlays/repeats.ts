import type { Surface } from '../../level/objects';
import { distanceToMarked } from '../../num/nearest';
import { strongestOf, type GroundRaster } from '../ground';

/**
 * How many tiles of a surface the eye takes to see that they are one, by how it is laid. At two scales the broad one comes
 * back after 1 / 0.23 tiles and is mixed in by two fifths. Scattered, what chooses among the shifts comes back after
 * 1 / 0.21 tiles, and with the tile itself after four of those, 19 tiles.
 */
const HIDES: Record<NonNullable<Surface['laying']>, number> = { plain: 1, 'two scales': 2.5, scattered: 19 };

/**
 * Where the eye will catch that a texture repeats.
 *
 * The ground falls into patches of one strongest surface. A patch shows as many tiles side by side as the
 * largest circle in it is wide in tiles, less what laying hides.
 */
export interface Repeats {
  /** of each sample: tiles its patch shows side by side */
  of: Float32Array;
  /** of each surface: the most any of its patches shows, and the m2 of those that show more than `SEEN` */
  surfaces: { most: number; area: number }[];
}

/** From so many tiles side by side on the eye begins to see the repeat. */
export const SEEN = 4;
/** From so many on nothing else is seen. */
export const GLARING = 8;

/** Where a surface shows its tile over and over: tiles in a row by surface, and the share of a sample that shows it. */
export function repeats(ground: GroundRaster): Repeats {
  const {
    grid: { nx, nz, spacing },
    surfaces,
  } = ground;
  const n = nx * nz;
  const strongest = Uint8Array.from({ length: n }, (_, i) => strongestOf(ground, i));
  const edge = new Uint8Array(n);
  for (let z = 0, i = 0; z < nz; z++) {
    for (let x = 0; x < nx; x++, i++) {
      const s = strongest[i];
      if (
        x === 0 ||
        z === 0 ||
        x === nx - 1 ||
        z === nz - 1 ||
        strongest[i - 1] !== s ||
        strongest[i + 1] !== s ||
        strongest[i - nx] !== s ||
        strongest[i + nx] !== s
      )
        edge[i] = 1;
    }
  }
  const inside = distanceToMarked(edge, nx, nz);
  const patch = new Int32Array(n).fill(-1);
  const widest: number[] = [];
  const stack = new Int32Array(n);
  for (let start = 0; start < n; start++) {
    if (patch[start] >= 0) continue;
    const id = widest.length;
    let most = 0;
    let tail = 0;
    stack[tail++] = start;
    patch[start] = id;
    while (tail > 0) {
      const i = stack[--tail];
      if (inside[i] > most) most = inside[i];
      const x = i % nx;
      for (const [k, ok] of [
        [i - 1, x > 0],
        [i + 1, x < nx - 1],
        [i - nx, i >= nx],
        [i + nx, i < n - nx],
      ] as const) {
        if (!ok || patch[k] >= 0 || strongest[k] !== strongest[i]) continue;
        patch[k] = id;
        stack[tail++] = k;
      }
    }
    // A patch of one sample is one sample wide.
    widest.push((2 * most + 1) * spacing);
  }
  const of = new Float32Array(n);
  const told = surfaces.map(() => ({ most: 0, area: 0 }));
  for (let i = 0; i < n; i++) {
    const s = surfaces[strongest[i]];
    if (!s) continue;
    of[i] = widest[patch[i]] / s.tile / HIDES[s.laying ?? 'plain'];
    const t = told[strongest[i]];
    if (of[i] > t.most) t.most = of[i];
    if (of[i] > SEEN) t.area += spacing * spacing;
  }
  return { of, surfaces: told };
}
