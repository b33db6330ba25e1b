import type { Point2 } from '../num/outline';
import { hull } from '../num/hull';
import { placer } from '../num/pose';
import type { LevelReader } from './level';
import type { Pad } from './kinds/lift';

/**
 * A pad as it lies now: where it follows blocks and pieces, its outline is the convex hull of their
 * feet and its height that of the lowest; where all of them are gone or out of the level, it stays
 * where it was last.
 */
export function placedPad<P extends Pick<Pad, 'outline' | 'height' | 'follows'>>(level: LevelReader, pad: P): P {
  const points: Point2[] = [];
  let height = Infinity;
  for (const { id, foot } of pad.follows ?? []) {
    const thing = level.object(id);
    if ((thing?.kind !== 'block' && thing?.kind !== 'piece') || thing.out) continue;
    const own: readonly Point2[] = thing.kind === 'block' ? rectangle(thing.size[0], thing.size[2]) : (foot ?? []);
    const place = placer({ at: thing.at, turn: thing.turn, tilt: thing.tilt });
    for (const [x, z] of own) {
      const p = place(x, 0, z);
      points.push([p[0], p[2]]);
      height = Math.min(height, p[1]);
    }
  }
  const outline = hull(points);
  return outline.length < 3 ? pad : { ...pad, outline, height };
}

const rectangle = (l: number, w: number): Point2[] => [
  [-l / 2, -w / 2],
  [l / 2, -w / 2],
  [l / 2, w / 2],
  [-l / 2, w / 2],
];
