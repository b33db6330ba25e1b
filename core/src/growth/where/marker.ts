import type { PlaceKind, WhereOf } from './field';

/** Metres in plan from the nearest marker. */
export const marker: PlaceKind<WhereOf<'marker'>> = {
  name: 'from marker',
  unit: 'm',
  make({ marker: only }, { markers }) {
    const places = markers.filter((m) => only === undefined || m.marker === only).map((m) => m.at);
    return {
      at(x, z) {
        let least = Infinity;
        for (const p of places) least = Math.min(least, (p[0] - x) * (p[0] - x) + (p[2] - z) * (p[2] - z));
        return places.length === 0 ? NaN : Math.sqrt(least);
      },
      open: { below: 0, above: 200 },
    };
  },
};
