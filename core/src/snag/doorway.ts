import { placer, poseAxes } from '../num/pose';
import type { Vec3 } from '../num/vec';
import { Eyes } from './eyes';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Somebody stands before a door within this of its middle in plan, metres, on the same storey. */
const BEFORE = 1.8;
const STOREY = 1.2;

/** Doors of kits, laid or placed, that nobody gets to from one side or from either. */
export function doorway({ pieces, kits, dots }: Pick<SnagInput, 'pieces' | 'kits' | 'dots'>): Snag[] {
  const doors = new Set(kits.flatMap((k) => k.parts.filter((p) => p.use === 'door').map((p) => p.asset)));
  const boxes = new Map(kits.flatMap((k) => k.parts.map((p) => [p.asset, p.box] as const)));
  const eyes = new Eyes(dots);
  if (doors.size === 0 || eyes.size === 0) return [];
  return pieces.flatMap((piece): Snag[] => {
    if (!doors.has(piece.asset)) return [];
    const [low, high] = boxes.get(piece.asset)!;
    const middle = placer(piece)((low[0] + high[0]) / 2, Math.max(0, low[1]), (low[2] + high[2]) / 2);
    const out = poseAxes(piece)[2];
    const sides = [1, -1].map((sign) =>
      eyes.near({ min: middle, max: middle }, BEFORE).some((i) => {
        const [x, y, z] = eyes.at(i);
        const by: Vec3 = [x - middle[0], y - middle[1], z - middle[2]];
        const before = (by[0] * out[0] + by[2] * out[2]) * sign;
        return before > 0 && by[0] * by[0] + by[2] * by[2] <= BEFORE * BEFORE && Math.abs(by[1]) <= STOREY;
      }),
    );
    if (sides[0] && sides[1]) return [];
    return [
      {
        code: 'doorway-unreached',
        severity: 'warning',
        message: `nobody gets to ${piece.name} from ${!sides[0] && !sides[1] ? 'either side' : 'one side of it'}`,
        mend: 'bring ground or a step to it, free what stands before it, or wall it up',
        at: piece.at,
        object: piece.id,
      },
    ];
  });
}
