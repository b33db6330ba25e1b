import { clamp } from '../../num/vec';
import { falloff, type BrushSettings } from '../brush';
import type { Rect, Terrain } from '../compose';
import { thermal } from '../weather/thermal';
import { relative, shareOf, type BrushOf } from './brushKind';

/** Rounds of sliding in a dab of full strength. */
const SLIDES = 8;

/** Ground of the rectangle after what stands steeper than the talus angle slid, within the dab; none is lost. */
function slid({ grid, heights }: Terrain, rect: Rect, brush: BrushSettings, [x, z]: readonly [number, number]): Float32Array {
  // A rim of its own around it: sliding leaves the outermost samples alone.
  const [w, d] = [rect.x1 - rect.x0 + 3, rect.z1 - rect.z0 + 3];
  const ground = new Float64Array(w * d);
  const share = new Float32Array(w * d);
  for (let j = 0, i = 0; j < d; j++) {
    for (let k = 0; k < w; k++, i++) {
      const [sx, sz] = [rect.x0 - 1 + k, rect.z0 - 1 + j];
      ground[i] = heights[clamp(sz, 0, grid.nz - 1) * grid.nx + clamp(sx, 0, grid.nx - 1)];
      if (sx < rect.x0 || sx > rect.x1 || sz < rect.z0 || sz > rect.z1) continue;
      const [dx, dz] = [sx * grid.spacing - x, sz * grid.spacing - z];
      share[i] = Math.min(1, shareOf(brush, falloff(Math.sqrt(dx * dx + dz * dz) / brush.radius, brush.hardness)) * 4);
    }
  }
  thermal(ground, { nx: w, nz: d, spacing: grid.spacing }, { talus: brush.talus, rounds: SLIDES }, share);
  const out = new Float32Array((w - 2) * (d - 2));
  for (let j = 0; j < d - 2; j++) for (let k = 0; k < w - 2; k++) out[j * (w - 2) + k] = ground[(j + 1) * w + k + 1];
  return out;
}

/** What stands too steep slides. How far each sample does is in what was made ready: a share of it here would not keep the mass. */
export const weather: BrushOf = { change: relative(({ now, ready }) => ready - now), ready: slid };
