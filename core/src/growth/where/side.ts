import { gradientAt } from '../../earth/sample';
import { sinCosDeg, atan2Deg } from '../../num/trig';
import type { PlaceKind, WhereOf } from './field';

/** Ground that falls by less than this has no side: about two degrees, as rise over run. */
const LEVEL = 0.035;

/** How far the way the ground falls looks from a bearing, degrees. */
export const side: PlaceKind<WhereOf<'side'>> = {
  name: 'falls to',
  unit: '°',
  make({ towards }, { terrain }) {
    const [s, c] = sinCosDeg(towards);
    return {
      at(x, z) {
        const [gx, gz] = gradientAt(terrain, x, z);
        if (gx * gx + gz * gz < LEVEL * LEVEL) return NaN;
        // Down is against the gradient; the bearing is (sin, -cos).
        const along = -gx * s + gz * c;
        const across = gx * c + gz * s;
        return Math.abs(atan2Deg(across, along));
      },
      open: { below: 0, above: 180 },
    };
  },
};
