import { smoothstep } from '../../num/vec';
import { holds, type BrushOf } from './brushKind';

/** Share of a step that is its face. */
const FACE = 0.25;

/** Height of the steps over a slope: level treads `rise` apart, each joined to the next by a steep face. */
export function terraced(height: number, rise: number): number {
  const step = Math.floor(height / rise);
  return rise * (step + smoothstep(0.5 - FACE / 2, 0.5 + FACE / 2, height / rise - step));
}

export const terrace: BrushOf = { change: holds(({ now }, b) => terraced(now, b.rise)), label: (b) => `steps of ${b.rise.toFixed(2)} m` };
