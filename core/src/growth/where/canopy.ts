import { meshesOf, meshOf } from '../meshes';
import { cellRange, PLANT_CELL, plantGrid } from '../plantGrid';
import { PLANT_STRIDE } from '../plants';
import type { PlaceKind, WhereOf } from './field';

/** What is lower shades nothing, metres. */
const LOW = 2;
/** No crown is taken to be wider than this, metres: growing again looks no farther. */
export const MOST_CROWN = 12;

/**
 * How much of the sky crowns take over a place, 0 to 1: each all of it at its stem, less and less to its rim, together at most
 * all. Of plants over 2 m tall that took their place before.
 */
export const canopy: PlaceKind<WhereOf<'canopy'>> = {
  unit: '',
  make(_, { grown, species, heights, widths }) {
    const all = grown.flatMap((of) => {
      const s = species.find((o) => o.id === of.species);
      const sizes = s && meshesOf(s).map(({ asset }) => ({ high: heights.get(asset) ?? 0, wide: widths.get(asset) ?? 0 }));
      if (!sizes || of.count === 0 || s.height[1] < LOW) return [];
      return [{ of, sizes, grid: plantGrid(of, Math.max(...sizes.map((m) => m.wide))) }];
    });
    const cell = (v: number) => Math.floor(v / PLANT_CELL);
    return {
      at(x, z) {
        let sum = 0;
        for (const { of, sizes, grid } of all) {
          const [first, end] = cellRange(grid, cell(x), cell(z));
          for (let k = first; k < end && sum < 1; k++) {
            const i = grid.order[k];
            const o = i * PLANT_STRIDE;
            const { high, wide } = sizes[meshOf(of, i)];
            const radius = Math.min(MOST_CROWN, wide * of.place[o + 5]);
            if (high * of.place[o + 4] < LOW || radius <= 0) continue;
            const [dx, dz] = [of.place[o] - x, of.place[o + 2] - z];
            sum += Math.max(0, 1 - Math.sqrt(dx * dx + dz * dz) / radius);
          }
        }
        return Math.min(1, sum);
      },
      open: { below: 0, above: 1 },
    };
  },
};
