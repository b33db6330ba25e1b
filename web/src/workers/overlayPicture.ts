import { pictureOf, type Pictured } from './overlays/index';
import type { Key, OverlayInput } from './overlays/paint';

/**
 * What an overlay shows: `picture` four bytes a sample, row by row: a colour and how it lies on the
 * ground, 0 not at all, to 246 as a tint, 255 hatched.
 */
export interface OverlayResult {
  picture: Uint8Array;
  keys: Key[];
  /** heights written on the ground: x, y, z, three numbers each */
  labels: Float32Array;
  /** metres between contour lines, where it draws them */
  step?: number;
}

/** Works out an overlay. */
export function overlayPicture(kind: Pictured, input: OverlayInput): OverlayResult {
  const picture = new Uint8Array(input.terrain.heights.length * 4);
  const {
    keys,
    labels = new Float32Array(0),
    step,
  } = pictureOf(kind)!.draw(input, (i, c, how) => {
    picture[i * 4] = c[0];
    picture[i * 4 + 1] = c[1];
    picture[i * 4 + 2] = c[2];
    picture[i * 4 + 3] = how;
  });
  return { picture, keys, labels, ...(step ? { step } : {}) };
}
