import { routePlan } from '../../earth/lifts/route';
import { nearestStretch, noNear, stretchesOf } from '../../earth/stretches';
import type { Route } from '../../level/objects';
import type { ConditionOf, FieldKind } from './field';

/** How far from a way its distance is known; a band that ends there or beyond has no end, metres. */
export const FAR = 60;

/** Distance to the edge of the nearest way, negative on it. */
export const route: FieldKind<ConditionOf<'route'>> = {
  name: 'from way',
  unit: 'm',
  cost: 6,
  looksAt: 'lifts',
  make({ route: id, band, soft }, { terrain: { grid }, stack }) {
    const reach = Math.min(band[1] + soft / 2, FAR);
    const ways = stack
      .filter((l): l is Route => l.lift === 'route' && l.visible && (id === undefined || l.id === id))
      .map((l) => ({ half: l.width / 2, stretches: stretchesOf(routePlan(l), false, l.width / 2 + Math.max(reach, 0.01)) }));
    const near = noNear();
    return {
      at(x, z) {
        let least = Infinity;
        for (const { half, stretches } of ways) {
          const { id: found, distance } = nearestStretch(stretches, x * grid.spacing, z * grid.spacing, near);
          if (found >= 0 && distance - half < least) least = distance - half;
        }
        return ways.length === 0 ? NaN : least;
      },
      open: { above: FAR },
    };
  },
};
