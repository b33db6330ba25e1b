import { GLARING, repeats, SEEN } from '@rammer/core/surface/overlays/repeats';
import { HATCH, OCHRE, OXIDE, PAPER, hex, type OverlayOf } from './paint';

export const repeat: OverlayOf = {
  draw(input, put) {
    const { of, surfaces } = repeats(input.ground);
    of.forEach((k, i) => {
      if (k > SEEN) put(i, k > GLARING ? OXIDE : OCHRE, k > GLARING ? HATCH : Math.round(90 + ((k - SEEN) / (GLARING - SEEN)) * 110));
    });
    const worst = surfaces
      .map((s, i) => ({ ...s, ...input.ground.surfaces[i] }))
      .filter((s) => s.most > SEEN)
      .sort((a, b) => b.most - a.most);
    return {
      keys:
        worst.length === 0
          ? [{ colour: hex(PAPER), text: 'no surface shows that it repeats' }]
          : worst.slice(0, 4).map((s) => ({
              colour: hex(s.most > GLARING ? OXIDE : OCHRE),
              hatched: s.most > GLARING,
              text:
                `${s.name}: ${s.most.toFixed(0)} tiles of ${s.tile} m side by side; ` +
                `lay it ${s.laying === 'two scales' ? 'scattered' : 'at two scales'}, or break it up`,
            })),
    };
  },
};
