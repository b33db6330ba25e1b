import { curvature as bentOf } from '@rammer/core/earth/overlays/curvature';
import { INK, PAPER, hex, type OverlayOf } from './paint';

export const curvature: OverlayOf = {
  smooth: true,
  draw(input, put) {
    const { terrain } = input;
    const bent = bentOf(terrain);
    // Half a metre of radius is as bent as it is drawn.
    bent.forEach((v, i) => {
      const k = Math.min(1, Math.abs(v) / 0.6);
      if (k > 0.08) put(i, v > 0 ? INK : PAPER, Math.round(k * 200));
    });
    return {
      keys: [
        { colour: hex(PAPER), text: 'crests' },
        { colour: hex(INK), text: 'hollows' },
      ],
    };
  },
};
