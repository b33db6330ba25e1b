import { atan2Deg, cosDeg, sinCosDeg, sinDeg } from '../num/trig';

/** Where the sun stands: degrees clockwise from north, degrees above the horizon; below it at night. */
export interface SunPlace {
  azimuth: number;
  elevation: number;
}

/** A moment at a place: degrees north, the day of the year from 1, hours of solar time (the sun is highest at 12). */
export interface Moment {
  latitude: number;
  day: number;
  hour: number;
}

/** Tilt of the earth's axis, degrees. */
const TILT = 23.44;

/**
 * Where the sun stands at a moment, to about half a degree.
 *
 * Declination 23.44 sin(360 / 365 (284 + day)) (Cooper 1969); hour angle 15 degrees an hour from noon; then
 * sin elevation = sin lat sin dec + cos lat cos dec cos hour, and the azimuth by the two legs beside it.
 */
export function sunAt({ latitude, day, hour }: Moment): SunPlace {
  const declination = TILT * sinDeg((360 / 365) * (284 + day));
  const [sl, cl] = sinCosDeg(latitude);
  const [sd, cd] = sinCosDeg(declination);
  const [sh, ch] = sinCosDeg(15 * (hour - 12));
  const up = sl * sd + cl * cd * ch;
  // East and north of the direction to the sun.
  const east = -cd * sh;
  const north = cl * sd - sl * cd * ch;
  return { azimuth: (atan2Deg(east, north) + 360) % 360, elevation: atan2Deg(up, Math.sqrt(east * east + north * north)) };
}

/** Length of the day, hours; 24 where the sun does not set, 0 where it does not rise. */
export function dayLength({ latitude, day }: Pick<Moment, 'latitude' | 'day'>): number {
  const declination = TILT * sinDeg((360 / 365) * (284 + day));
  const c = (-sinDeg(latitude) * sinDeg(declination)) / (cosDeg(latitude) * cosDeg(declination));
  if (c <= -1) return 24;
  return c >= 1 ? 0 : (2 * atan2Deg(Math.sqrt(1 - c * c), c)) / 15;
}

/** The sun is gone this far below the horizon, degrees, and the last of dusk this far. */
const SUNSET = -1;
const DUSK = -12;
/** Where the moon stands by night against the sun, its height, and its light against the sun's. */
const MOON_HEIGHT = 38;
const MOON_LIGHT = 0.11;

/** The light a level has from above: from where, how strong against the sun by day, and how light the sky is. */
export interface Daylight extends SunPlace {
  /** 1 by day; at night that of a moon, with `moon` set */
  strength: number;
  moon: boolean;
  /** 1 by day to 0 at full night: what is left of the sky's light and colour */
  sky: number;
}

/** Sun by day, a moon across the sky from it by night; between them dusk, lit by the sky alone. */
export function daylight({ azimuth, elevation }: SunPlace): Daylight {
  const ramp = (low: number, high: number) => {
    const t = Math.min(1, Math.max(0, (elevation - low) / (high - low)));
    return t * t * (3 - 2 * t);
  };
  const sky = ramp(DUSK, 6);
  if (elevation > SUNSET) return { azimuth, elevation: Math.max(2, elevation), strength: ramp(SUNSET, 4), moon: false, sky };
  return { azimuth: (azimuth + 180) % 360, elevation: MOON_HEIGHT, strength: MOON_LIGHT * (1 - ramp(DUSK, SUNSET)), moon: true, sky };
}
