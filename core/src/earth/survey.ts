import type { AnyEditBody } from '../level/edits/index';
import type { Survey } from '../level/objects';
import { TILE_QUADS, TILE_SAMPLES, TILE_SIDE, tileKey, type Grid } from '../level/tiles';
import { FIXED_ONE, packRaster, toBase64, toFixed } from '../num/fixed';
import { overTiles, wholeRect } from './rect';

/** How a picture of heights lies in a level: its north-west corner, its real size, the heights of 0 and 1, metres. */
export interface SurveyPlace {
  x: number;
  z: number;
  width: number;
  depth: number;
  low: number;
  high: number;
}

/** A picture of heights, 0 to 1, row by row, the top row in the north; NaN where it has none. */
export interface HeightPicture {
  width: number;
  height: number;
  values: Float32Array;
}

/**
 * Height of a picture at a place in the level, metres; `undefined` beside it, and where a pixel around it is NaN. Pixels are samples: the first
 * and last lie on the edges of its real size, between them it runs straight (bilinear).
 */
export function surveyHeight(picture: HeightPicture, place: SurveyPlace, x: number, z: number): number | undefined {
  const u = ((x - place.x) / place.width) * (picture.width - 1);
  const v = ((z - place.z) / place.depth) * (picture.height - 1);
  if (!(u >= 0 && v >= 0 && u <= picture.width - 1 && v <= picture.height - 1)) return undefined;
  const ix = Math.min(Math.floor(u), picture.width - 2);
  const iz = Math.min(Math.floor(v), picture.height - 2);
  const i = iz * picture.width + ix;
  const h = picture.values;
  const top = h[i] + (h[i + 1] - h[i]) * (u - ix);
  const bottom = h[i + picture.width] + (h[i + picture.width + 1] - h[i + picture.width]) * (u - ix);
  const share = top + (bottom - top) * (v - iz);
  return share === share ? place.low + share * (place.high - place.low) : undefined;
}

/** The part of an edit that lays a picture of heights into a survey lift that has none yet. */
export function surveyStroke(
  lift: Pick<Survey, 'id'>,
  picture: HeightPicture,
  place: SurveyPlace,
  grid: Grid,
): Extract<AnyEditBody, { kind: 'stroke' }> | undefined {
  const tiles: { key: string; delta: string }[] = [];
  overTiles(wholeRect(grid), (tx, tz, own) => {
    const held = new Int32Array(TILE_SAMPLES);
    const weight = new Int32Array(TILE_SAMPLES);
    let any = false;
    for (let z = own.z0; z <= own.z1; z++) {
      for (let x = own.x0; x <= own.x1; x++) {
        const h = surveyHeight(picture, place, x * grid.spacing, z * grid.spacing);
        if (h === undefined) continue;
        const local = (z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS;
        held[local] = toFixed(h);
        weight[local] = FIXED_ONE;
        any = true;
      }
    }
    if (!any) return;
    if (held.some((v) => v !== 0)) tiles.push({ key: tileKey(lift.id, 'held', tx, tz), delta: toBase64(packRaster(held)) });
    tiles.push({ key: tileKey(lift.id, 'weight', tx, tz), delta: toBase64(packRaster(weight)) });
  });
  return tiles.length > 0 ? { kind: 'stroke', tiles } : undefined;
}
