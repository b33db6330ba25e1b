import { z } from 'zod';
import { base, colour, finite } from '../fields';
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
});
export type Lighting = z.infer<typeof lightingObject>;

export const lightingKind = kind({
  schema: lightingObject,
  aspects: ['lighting'],
});
