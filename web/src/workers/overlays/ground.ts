import { strongestOf } from '@rammer/core/surface/ground';
import { hex, type Colour, type OverlayOf } from './paint';

/** Sixteen grounds, neighbours in the list far apart. */
const GROUNDS: readonly Colour[] = [
  [152, 168, 96],
  [120, 124, 140],
  [206, 190, 150],
  [86, 116, 70],
  [170, 110, 84],
  [96, 140, 150],
  [214, 206, 190],
  [118, 90, 104],
  [190, 160, 70],
  [70, 86, 110],
  [176, 186, 160],
  [130, 96, 62],
  [160, 134, 168],
  [78, 128, 108],
  [220, 176, 150],
  [64, 72, 66],
];

export const ground: OverlayOf = {
  draw(input, put) {
    const { heights } = input.terrain;
    const { surfaces } = input.ground;
    const counts = surfaces.map(() => 0);
    for (let i = 0; i < heights.length; i++) {
      const most = strongestOf(input.ground, i);
      counts[most]++;
      put(i, GROUNDS[most], 200);
    }
    return { keys: surfaces.map((s, k) => ({ colour: hex(GROUNDS[k]), text: `${s.name} ${((counts[k] / heights.length) * 100).toFixed(0)} %` })) };
  },
};
