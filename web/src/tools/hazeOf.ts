import type { Level } from '@rammer/core/level/level';
import { lightingOf } from '@rammer/core/level/lighting';
import { through } from '@rammer/core/light/haze';

/** How much of what is seen at a distance in metres is haze in a level's lighting, 0 to 1, where haze is thickest. */
export const hazeOf = (level: Level): ((distance: number) => number) => {
  const half = lightingOf(level).haze;
  return (distance) => 1 - through({ half, height: 0, base: 0 }, 0, 0, distance);
};
