import { islands as islandsOf } from '@rammer/core/earth/overlays/islands';
import { barred } from '@rammer/core/earth/water';
import { HATCH, OXIDE, PAPER, hex, thousands, type OverlayOf } from './paint';

export const islands: OverlayOf = {
  draw(input, put) {
    const { terrain } = input;
    const found = islandsOf(barred(terrain, input.waters, input.wade), input.maxSlope, input.home);
    found.of.forEach((island, i) => {
      if (island > 1) put(i, OXIDE, HATCH);
    });
    const others = found.areas.slice(1);
    return {
      keys:
        others.length === 0
          ? [{ colour: hex(PAPER), text: 'all ground that can be stood on is linked' }]
          : [
              {
                colour: hex(OXIDE),
                hatched: true,
                text:
                  `${others.length} island${others.length === 1 ? '' : 's'} not linked, ` +
                  `${thousands(others.reduce((a, b) => a + b, 0))} m²; the largest ${thousands(others[0])} m²`,
              },
            ],
    };
  },
};
