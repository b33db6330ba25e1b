import { hex, mix, OCHRE, PAPER, thousands, type Colour, type OverlayOf } from './paint';

const GROWS: Colour = [74, 122, 58];

/** Where the rule of the species at hand lets it grow: the product of all it goes by. */
export const growthRule: OverlayOf = {
  smooth: true,
  draw({ rule: of, terrain }, put) {
    if (!of) return { keys: [{ colour: hex(PAPER), text: 'no species is at hand: pick one at Grow' }] };
    let sum = 0;
    of.shares.forEach((v, i) => {
      sum += v;
      if (v > 0) put(i, mix(OCHRE, GROWS, v / 255), 60 + Math.round((v / 255) * 130));
    });
    const area = (sum / 255) * terrain.grid.spacing * terrain.grid.spacing;
    return {
      keys:
        sum === 0
          ? [{ colour: hex(PAPER), text: `the rule of ${of.name} lets nothing grow anywhere` }]
          : [
              {
                colour: hex(GROWS),
                text: `${of.name} in full${of.most > 0 ? `, ${Number(of.most.toFixed(2))} on 100 m²` : ''}; all of it is worth ${thousands(area)} m²`,
              },
              { colour: hex(OCHRE), text: 'a little' },
              { colour: hex(PAPER), text: `${thousands(of.count)} stand` },
            ],
    };
  },
};
