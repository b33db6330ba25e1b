import { densest } from '../growth/pattern';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** A hair over what spacing allows is rounding. */
const HAIR = 1.005;

/** Species that are asked to stand closer than their spacing allows. */
export function denserThanSpacing({ species }: Pick<SnagInput, 'species'>): Snag[] {
  return species.flatMap((s): Snag[] => {
    const most = densest(s.spacing, s.seed);
    if (s.out || s.about || s.density <= most * HAIR) return [];
    return [
      {
        code: 'plants-too-dense',
        severity: 'warning',
        message: `${s.name}: ${s.density} plants a 100 m² are asked for, its spacing of ${s.spacing} m has room for ${most.toFixed(most < 10 ? 1 : 0)}`,
        mend: 'lower the density, or the spacing',
        object: s.id,
      },
    ];
  });
}
