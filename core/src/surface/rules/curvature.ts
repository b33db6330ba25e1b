import { clamp } from '../../num/vec';
import type { ConditionOf, FieldKind } from './field';

const stepsOf = (over: number, spacing: number): number => Math.max(1, Math.round(over / spacing));

/** How far the ground lies below the mean of four places `over` metres away: hollows are positive, crests negative. */
export const curvature: FieldKind<ConditionOf<'curvature'>> = {
  name: 'hollow',
  unit: 'm',
  cost: 4,
  around: ({ over }, spacing) => stepsOf(over, spacing) * spacing,
  make({ over }, { terrain: { heights: h, grid } }) {
    const { nx, nz } = grid;
    const k = stepsOf(over, grid.spacing);
    return {
      at(x, z) {
        const [w, e, n, s] = [clamp(x - k, 0, nx - 1), clamp(x + k, 0, nx - 1), clamp(z - k, 0, nz - 1), clamp(z + k, 0, nz - 1)];
        return (h[z * nx + w] + h[z * nx + e] + h[n * nx + x] + h[s * nx + x]) / 4 - h[z * nx + x];
      },
    };
  },
};
