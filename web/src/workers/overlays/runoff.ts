import { runoff as runoffOf } from '@rammer/core/earth/overlays/runoff';
import { DEEP, hex, type OverlayOf } from './paint';

export const runoff: OverlayOf = {
  smooth: true,
  draw(input, put) {
    const { terrain } = input;
    const drained = runoffOf(terrain);
    const least = 25 * terrain.grid.spacing;
    for (let i = 0; i < drained.length; i++) if (drained[i] > least) put(i, DEEP, Math.min(235, 60 + 55 * Math.log10(drained[i] / least)));
    return { keys: [{ colour: hex(DEEP), text: `where water gathers, over ${least} m² of ground` }] };
  },
};
