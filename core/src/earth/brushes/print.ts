import { sinCosDeg } from '../../num/trig';
import type { BrushSettings } from '../brush';
import type { Rect, Terrain } from '../compose';
import { surveyHeight, type HeightPicture, type SurveyPlace } from '../survey';
import { relative, type BrushOf } from './brushKind';

/** Values of a picture laid over the dab, its longer side the dab's width, turned about its middle; 0 beside it. */
function printed({ grid }: Terrain, rect: Rect, brush: BrushSettings, [x, z]: readonly [number, number], print?: HeightPicture): Float32Array {
  const w = rect.x1 - rect.x0 + 1;
  const out = new Float32Array(w * (rect.z1 - rect.z0 + 1));
  if (!print) return out;
  const long = Math.max(print.width, print.height) - 1;
  const [width, depth] = [(2 * brush.radius * (print.width - 1)) / long, (2 * brush.radius * (print.height - 1)) / long];
  const place: SurveyPlace = { x: -width / 2, z: -depth / 2, width, depth, low: 0, high: 1 };
  const [sin, cos] = sinCosDeg(brush.turn);
  for (let sz = rect.z0, i = 0; sz <= rect.z1; sz++) {
    for (let sx = rect.x0; sx <= rect.x1; sx++, i++) {
      const [dx, dz] = [sx * grid.spacing - x, sz * grid.spacing - z];
      out[i] = surveyHeight(print, place, dx * cos + dz * sin, dz * cos - dx * sin) ?? 0;
    }
  }
  return out;
}

export const print: BrushOf = { change: relative(({ ready }, f, b) => b.tall * f * ready), ready: printed };
