import { contours } from '@rammer/core/earth/overlays/contours';
import { hex, metric, mix, type Colour, type OverlayOf } from './paint';

/** Bands of height from low to high. */
const LOW: Colour = [92, 120, 118];
const HIGH: Colour = [240, 224, 186];

/** A step of contours that gives about a dozen over the range: 1, 2 or 5 of a power of ten. */
export function contourStep(range: number): number {
  let step = 0.25;
  for (const s of [0.25, 0.5, 1, 2, 5, 10, 20, 50, 100])
    if (range / s > 16) step = s;
    else return s;
  return step;
}

/** Contours shorter than this carry no label, metres. */
const LABELLED = 40;

export const height: OverlayOf = {
  draw(input, put) {
    const { terrain } = input;
    const { heights } = terrain;
    let [low, high] = [Infinity, -Infinity];
    for (const h of heights) {
      if (h < low) low = h;
      if (h > high) high = h;
    }
    const step = contourStep(high - low);
    const bands = Math.max(1, Math.floor(high / step) - Math.floor(low / step));
    const colourOf = (h: number) => mix(LOW, HIGH, (Math.floor(h / step) - Math.floor(low / step)) / bands);
    for (let i = 0; i < heights.length; i++) put(i, colourOf(heights[i]), 190);
    const lines = contours(terrain, step, LABELLED);
    const labels = Float32Array.from(
      lines.flatMap(({ points, height }) => {
        const k = Math.floor(points.length / 4) * 2;
        return [points[k], height, points[k + 1]];
      }),
    );
    return {
      labels,
      step,
      keys: [
        { colour: hex(colourOf(low)), text: `${metric(low)} m` },
        { colour: hex(colourOf(high)), text: `${metric(high)} m, contours each ${step} m` },
      ],
    };
  },
};
