import type { Rect } from '../earth/rect';
import { SLOTS, type GroundRaster } from './ground';

/**
 * The shares of a rectangle as pictures of four channels, for a renderer or an export: channel c of picture
 * p is surface `palette[4 p + c]`. Only surfaces that occur are in it.
 */
export interface SharePictures {
  palette: number[];
  count: number;
  /** picture after picture, row by row, four bytes a sample */
  data: Uint8Array;
}

/** @param top of what stands on the terrain @param palette taken over where it holds all that occur, so that slots stay as they were */
export function sharePictures(ground: GroundRaster, rect: Rect, top: boolean, palette: readonly number[] = []): SharePictures {
  const { nx } = ground.grid;
  const data = top ? ground.tops : ground.weights;
  const of = top ? ground.topOf : ground.of;
  const seen = new Uint8Array(256);
  for (let z = rect.z0; z <= rect.z1; z++) for (let i = (z * nx + rect.x0) * SLOTS; i < (z * nx + rect.x1 + 1) * SLOTS; i++) if (data[i] > 0) seen[of[i]] = 1;
  const used = [...seen.keys()].filter((k) => seen[k] === 1);
  const kept = used.every((k) => palette.includes(k)) ? [...palette] : used;
  const place = new Uint8Array(256);
  kept.forEach((k, i) => {
    place[k] = i;
  });
  const count = Math.max(1, Math.ceil(kept.length / 4));
  const w = rect.x1 - rect.x0 + 1;
  const size = w * (rect.z1 - rect.z0 + 1) * 4;
  const out = new Uint8Array(size * count);
  let o = 0;
  for (let z = rect.z0; z <= rect.z1; z++) {
    for (let i = (z * nx + rect.x0) * SLOTS; i < (z * nx + rect.x1 + 1) * SLOTS; i += SLOTS, o += 4) {
      for (let k = i; k < i + SLOTS; k++) if (data[k] > 0) out[(place[of[k]] >> 2) * size + o + (place[of[k]] & 3)] = data[k];
    }
  }
  return { palette: kept, count, data: out };
}
