import { cellRange, PLANT_CELL, plantGrid } from '../plantGrid';
import { PLANT_STRIDE } from '../plants';
import type { PlaceKind, WhereOf } from './field';

/** Metres in plan from the nearest plant of a species that took its place before; as far as the band reaches. */
export const plants: PlaceKind<WhereOf<'plants'>> = {
  name: 'from plants',
  unit: 'm',
  make({ species, band: [, high], soft }, { grown }) {
    // Those that grew by several rules are several lists.
    const all = grown.filter((g) => g.species === species && g.count > 0).map((of) => ({ of, grid: plantGrid(of, 0) }));
    if (all.length === 0) return { at: () => NaN };
    const far = high + soft / 2;
    const cell = (v: number) => Math.floor(v / PLANT_CELL);
    return {
      at(x, z) {
        let least = Infinity;
        for (const { of, grid } of all)
          for (let cz = cell(z - far); cz <= cell(z + far); cz++)
            for (let cx = cell(x - far); cx <= cell(x + far); cx++) {
              const [first, end] = cellRange(grid, cx, cz);
              for (let k = first; k < end; k++) {
                const o = grid.order[k] * PLANT_STRIDE;
                const [dx, dz] = [of.place[o] - x, of.place[o + 2] - z];
                least = Math.min(least, dx * dx + dz * dz);
              }
            }
        return Math.sqrt(least);
      },
      open: { below: 0, above: 100 },
    };
  },
};
