import { z } from 'zod';
import { addRasters, fromBase64, negateRaster, unpackRaster } from '../../num/fixed';
import { channelsOf } from '../kinds/index';
import { settingsOf } from '../level';
import { channelRange, parseTileKey, TILE_SAMPLES } from '../tiles';
import { noChanges, refuse, type EditKind } from './edit';

/** Weathering a level of 64 x 64 tiles writes four rasters of every tile. */
const MOST_TILES = 16_384;

/** Adds integer deltas to raster tiles of a hand lift, a surface or a species. Deltas travel packed, in base64. */
export const strokeSchema = z.object({
  kind: z.literal('stroke'),
  tiles: z
    .array(z.object({ key: z.string().max(100), delta: z.string().max(60_000) }))
    .min(1)
    .max(MOST_TILES),
  /** the deltas are taken away instead: the inverse of a stroke is the same stroke back */
  back: z.boolean().optional(),
});
export type Stroke = z.infer<typeof strokeSchema>;

export const stroke: EditKind<Stroke> = {
  apply(level, edit) {
    const changes = noChanges();
    const settings = settingsOf(level);
    for (const { key, delta } of edit.tiles) {
      const at = parseTileKey(key);
      if (!at || at.tx >= settings.tilesX || at.tz >= settings.tilesZ) return refuse('tile-invalid', `${key} is not a tile of this level`);
      if (!channelsOf(level.object(at.lift)).includes(at.channel))
        return refuse('tile-invalid', `${at.lift} is not a hand, weather or survey lift, surface, species or habitat that has a raster ${at.channel}`);
      if (changes.tiles.has(key)) return refuse('edit-invalid', `tile ${key} is changed twice in one edit`);
      let raster: Int32Array;
      try {
        raster = unpackRaster(fromBase64(delta), TILE_SAMPLES);
        if (edit.back) raster = negateRaster(raster);
      } catch (error) {
        return refuse('tile-invalid', `tile ${key}: ${(error as Error).message}`);
      }
      const before = level.tile(key);
      const after = before ? addRasters(before, raster) : raster;
      const [low, high] = channelRange(at.channel);
      const [least, most] = extremesOf(after);
      if (most > high || least < low) return refuse('tile-invalid', `tile ${key} would leave its range, ${low} to ${high}`);
      const any = least !== 0 || most !== 0;
      changes.tiles.set(key, any ? after : undefined);
      if (any && !before && !edit.back) (changes.given ??= new Map()).set(key, delta);
    }
    return { ok: true, changes, inverse: { kind: 'stroke', tiles: edit.tiles, ...(edit.back ? {} : { back: true }) } };
  },
  keys: (edit) => ({
    // The owner's kind never changes: reading it means that it must not be removed.
    reads: ['o:settings/tilesX', 'o:settings/tilesZ', ...new Set(edit.tiles.map((t) => `o:${t.key.split('/')[0]}/kind`))],
    writes: edit.tiles.map((t) => `t:${t.key}`),
  }),
};

/** The least and the greatest value of a raster: a loop of its own, so that it is compiled before the first wide stroke is half done. */
function extremesOf(raster: Int32Array): [least: number, most: number] {
  let least = raster[0];
  let most = raster[0];
  for (let i = 1; i < raster.length; i++) {
    const v = raster[i];
    if (v < least) least = v;
    if (v > most) most = v;
  }
  return [least, most];
}
