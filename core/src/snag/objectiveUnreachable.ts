import type { Reach } from '../play/reach';
import type { Snag } from './finding';

/** The objective cannot be walked to from the entry. */
export function objectiveUnreachable(reach: Reach): Snag[] {
  if (reach.reached || !reach.stop) return [];
  const missing = reach.stop.code === 'no-entry' || reach.stop.code === 'no-objective';
  return [
    {
      code: missing ? 'marker-missing' : 'objective-unreachable',
      severity: missing ? 'warning' : 'blocking',
      message: missing ? reach.stop.message : `the objective cannot be reached: ${reach.stop.message}`,
      mend: missing ? 'place the marker in stage Play' : 'open the way where it stops, or move a marker',
      at: reach.stop.at,
      object: reach.stop.object,
    },
  ];
}
