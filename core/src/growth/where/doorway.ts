import type { PlaceKind, WhereOf } from './field';

/** Metres in plan from the middle of the nearest doorway. */
export const doorway: PlaceKind<WhereOf<'doorway'>> = {
  name: 'from doorway',
  unit: 'm',
  make(_, { doorways }) {
    return {
      at(x, z) {
        let least = Infinity;
        for (const [dx, dz] of doorways) least = Math.min(least, (dx - x) * (dx - x) + (dz - z) * (dz - z));
        return doorways.length === 0 ? NaN : Math.sqrt(least);
      },
      open: { below: 0, above: 200 },
    };
  },
};
