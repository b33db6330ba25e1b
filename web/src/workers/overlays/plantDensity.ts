import { HATCH, hex, mix, OXIDE, PAPER, type Colour, type OverlayOf } from './paint';

const FEW: Colour = [214, 216, 160];
const MANY: Colour = [44, 84, 46];
/** What the darkest stands for where the level has no ceiling, plants on 100 m2. */
const DENSE = 60;

/** How many plants stand on the 100 m2 around each place, against the level's ceiling. */
export const plantDensity: OverlayOf = {
  draw({ density: map, ceiling, terrain: { grid } }, put) {
    if (!map) return { keys: [{ colour: hex(PAPER), text: 'no plants have grown yet' }] };
    const top = ceiling ?? DENSE;
    let most = 0;
    let full = 0;
    for (let z = 0, i = 0; z < grid.nz; z++)
      for (let x = 0; x < grid.nx; x++, i++) {
        const v = map.of[Math.min(map.down - 1, Math.floor(z * grid.spacing)) * map.across + Math.min(map.across - 1, Math.floor(x * grid.spacing))];
        if (v === 0) continue;
        most = Math.max(most, v);
        if (ceiling !== undefined && v >= ceiling) {
          full++;
          put(i, OXIDE, HATCH);
        } else put(i, mix(FEW, MANY, Math.min(1, v / top)), 90 + Math.round(Math.min(1, v / top) * 110));
      }
    return {
      keys: [
        { colour: hex(FEW), text: 'one plant on 100 m²' },
        { colour: hex(MANY), text: `${top}${ceiling === undefined ? ' and more' : ''}; ${most} at the densest` },
        ...(ceiling === undefined
          ? []
          : [{ colour: hex(OXIDE), hatched: true, text: `at the ceiling of ${ceiling}: ${Math.round(full * grid.spacing * grid.spacing)} m²` }]),
      ],
    };
  },
};
