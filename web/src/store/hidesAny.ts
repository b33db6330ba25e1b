import { presentOf } from '@rammer/core/level/present';
import type { Session } from './session';

/** Whether anything of a level is hidden from view: then what is seen is not all that the game draws. */
export const hidesAny = ({ scene, level }: Session): boolean => {
  const hidden = (o: { hidden?: boolean }) => o.hidden === true;
  const { solids, placed, plants, waters } = scene;
  return presentOf(level.objects).of('plant').some(hidden) || [solids.all, placed.pieces, plants.species, waters.bodies].some((list) => list.some(hidden));
};
