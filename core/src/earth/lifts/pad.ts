import type { Pad } from '../../level/objects';
import type { Point2 } from '../../num/outline';
import { tanDeg } from '../../num/trig';
import { rectAround } from '../rect';
import { outlineRow, stretchesOf } from '../stretches';
import { BATTER_REACH, battered } from './batter';
import type { PassMaker } from './pass';

/** Level ground under an outline and its margin; beyond, cut or heaped at the batter until it meets the ground. */
export const padPass: PassMaker<Pad> = (lift, { grid }) => {
  const reach = lift.margin + BATTER_REACH;
  const rect = rectAround(lift.outline, reach, grid);
  if (!rect) return undefined;
  const sides = stretchesOf(lift.outline as Point2[], true, reach);
  const rise = tanDeg(lift.batter);
  const row = new Float64Array(grid.nx);
  return {
    blend: 'replace',
    rect,
    write(window, part, out) {
      const count = part.x1 - part.x0 + 1;
      for (let z = part.z0; z <= part.z1; z++) {
        outlineRow(lift.outline as Point2[], sides, { z: z * grid.spacing, x0: part.x0, count, spacing: grid.spacing }, row);
        let i = (z - window.z0) * window.w + part.x0 - window.x0;
        for (let k = 0; k < count; k++, i++) {
          const beyond = -row[k] - lift.margin;
          out[i] = beyond <= 0 ? lift.height : beyond >= BATTER_REACH ? NaN : battered(window.heights[i], lift.height, beyond, rise);
        }
      }
    },
  };
};
