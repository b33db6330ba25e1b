import { z } from 'zod';
import { base, colour, finite, objectId } from '../fields';
import { kind } from './kind';

/** Sun, fill, sky, haze and grade as one named setting. */
export const lightingObject = z.object({
  ...base,
  kind: z.literal('lighting'),
  /** direction to the sun; below the horizon it is night, see light/sunAt */
  sun: z.object({ azimuth: finite.min(0).max(360), elevation: finite.min(-90).max(90) }),
  /** the moment `sun` was set by, where it was: degrees north, day of the year, solar hours */
  when: z.object({ latitude: finite.min(-90).max(90), day: z.number().int().min(1).max(366), hour: finite.min(0).max(24) }).optional(),
  /** strength of the sun and of the light from the sky, 1 as by day */
  sunlight: finite.min(0).max(3),
  fill: finite.min(0).max(3),
  /** colour overhead */
  sky: colour,
  /** colour at the horizon and of the haze */
  horizon: colour,
  /** metres at which half of what is seen is haze; 0 none */
  haze: finite.min(0).max(20_000),
  /** stops */
  exposure: finite.min(-4).max(4),
  contrast: finite.min(0.5).max(2),
  saturation: finite.min(0).max(2),
  /** sky, haze and wind of the full picture; absent as `AIR` says */
  air: z
    .object({
      /** `colours`: from `horizon` to `sky`. `sun`: a clear day's, by where the sun stands. `panorama`: a picture of all round, which lights too */
      sky: z.enum(['colours', 'sun', 'panorama']),
      /** droplets and dust, 1 on a clear day */
      dust: finite.min(0).max(10),
      /** share of the sky that clouds cover, 0 to 1 */
      clouds: finite.min(0).max(1),
      /** metres over which haze thins to 1/e upwards from height 0; 0 as thick at any height */
      hazeHeight: finite.min(0).max(5000),
      /** how strong the sun shows in the haze between shadows, 1 as it would */
      shafts: finite.min(0).max(4),
      /** metres a second, and where it comes from, degrees clockwise from north: moves plants, waves and clouds */
      wind: finite.min(0).max(30),
      windFrom: finite.min(0).max(360),
      /** how far the panorama is turned, degrees clockwise */
      turn: finite.min(0).max(360),
    })
    .optional(),
  /** asset that carries the panorama of its sky, as `io/panorama` packs it */
  panorama: objectId.optional(),
});
export type Lighting = z.infer<typeof lightingObject>;
export type Air = NonNullable<Lighting['air']>;

/** The air of a lighting that says nothing of it: the sky of its own colours, as ever. */
export const AIR: Air = { sky: 'colours', dust: 1, clouds: 0.3, hazeHeight: 0, shafts: 1, wind: 3, windFrom: 240, turn: 0 };

export const lightingKind = kind({
  schema: lightingObject,
  aspects: ['lighting'],
  names: { panorama: { kind: 'asset' } },
});
