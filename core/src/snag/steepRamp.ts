import { slopeVerdict } from '../body/checks';
import { blockToLevel } from '../block/solid';
import { slopeDeg, tanDeg } from '../num/trig';
import { groundAt } from '../surface/groundAt';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Ramps that can be stepped onto at their foot and are too steep to walk up. */
export function steepRamp(input: SnagInput): Snag[] {
  return input.blocks.flatMap((block): Snag[] => {
    if (block.shape !== 'ramp' || block.tilt) return [];
    const slope = slopeDeg(block.size[1] / block.size[0]);
    if (slopeVerdict(input.body, slope) !== 'too steep') return [];
    const foot = blockToLevel(block, -block.size[0] / 2 - 0.2, 0, 0);
    const ground = groundAt(input.terrain, input.grid, [foot[0], foot[1] + input.body.step, foot[2]]).height;
    if (foot[1] - ground > input.body.step) return [];
    return [
      {
        code: 'ramp-too-steep',
        severity: 'warning',
        message: `${block.name} rises ${slope.toFixed(0)}°, the body walks up to ${input.body.maxSlope}°`,
        mend: `make it at least ${(block.size[1] / Math.max(0.01, tanDeg(input.body.maxSlope))).toFixed(1)} m long`,
        at: block.at,
        object: block.id,
      },
    ];
  });
}
