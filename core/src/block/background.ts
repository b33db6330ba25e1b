import type { Block } from '../level/objects';
import { hashUnit } from '../num/hash';
import { atan2Deg, sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';

export interface BackgroundOptions {
  /** from the level's corners out, metres */
  distance: number;
  /** mean height over `foot`, metres */
  height: number;
  /** how many */
  count: number;
  /** height they stand at */
  foot: number;
  seed: number;
}

/** How high the ridge stands against the peaks before it. */
const RIDGE = 0.45;

/**
 * A ring of plain masses round a level: a ridge that closes the skyline, and peaks before it, higher and
 * lower. They stand wholly outside it.
 */
export function backgroundRing(
  width: number,
  depth: number,
  { distance, height, count, foot, seed }: BackgroundOptions,
): Pick<Block, 'shape' | 'size' | 'at' | 'turn' | 'background' | 'group'>[] {
  const radius = Math.sqrt(width * width + depth * depth) / 2 + distance;
  // A little longer than its share of the ring, so that neighbours overlap.
  const side = ((2 * Math.PI * radius) / count) * 1.35;
  return Array.from({ length: count }, (_, i) => i).flatMap((i) => {
    const angle = ((i + (hashUnit(seed, i) - 0.5) * 0.4) * 360) / count;
    const [s, c] = sinCosDeg(angle);
    const deep = side * (0.35 + 0.2 * hashUnit(seed, i, 2));
    const high = height * (0.65 + 0.7 * hashUnit(seed, i, 1));
    const low = foot - height * 0.1;
    const stand = (out: number): Vec3 => [width / 2 + s * out, low, depth / 2 - c * out];
    const turn = -atan2Deg(s, c);
    return [
      {
        shape: 'wedge' as const,
        size: [side, high * RIDGE + height * 0.1, deep] as Vec3,
        at: stand(radius + deep * 1.5),
        turn,
        background: true,
        group: 'background',
      },
      {
        shape: 'cone' as const,
        size: [side * 1.25, high + height * 0.1, deep * 1.4] as Vec3,
        at: stand(radius + deep * 0.75),
        turn,
        background: true,
        group: 'background',
      },
    ];
  });
}
