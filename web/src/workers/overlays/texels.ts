import { barred } from '@rammer/core/earth/water';
import { TEXELS_COARSE, TEXELS_FINE } from '@rammer/core/body/texel';
import { texelRatio } from '@rammer/core/surface/overlays/texels';
import { HATCH, OCHRE, OXIDE, SHALLOW, hex, type OverlayOf } from './paint';

export const texels: OverlayOf = {
  draw(input, put) {
    const { terrain } = input;
    const ratio = texelRatio(input.ground, barred(terrain, input.waters, input.wade), { maxSlope: input.maxSlope, eye: input.eye }, input.home);
    let [coarse, fine] = [0, 0];
    ratio.forEach((k, i) => {
      if (k < TEXELS_COARSE) {
        coarse++;
        put(i, OXIDE, HATCH);
      } else if (k > TEXELS_FINE) {
        fine++;
        put(i, OCHRE, Math.round(Math.min(220, 90 + (k - TEXELS_FINE) * 30)));
      } else put(i, SHALLOW, 150);
    });
    const share = (n: number) => `${((n / ratio.length) * 100).toFixed(0)} %`;
    return {
      keys: [
        { colour: hex(OXIDE), hatched: true, text: `coarse, under half of what the nearest eye wants: ${share(coarse)}` },
        { colour: hex(SHALLOW), text: `as wanted: ${share(ratio.length - coarse - fine)}` },
        { colour: hex(OCHRE), text: `over twice as fine: ${share(fine)}` },
      ],
    };
  },
};
