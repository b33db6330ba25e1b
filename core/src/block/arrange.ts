import type { Block } from '../level/objects';
import { wrapDeg, type Pose } from '../num/pose';
import { sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import { blockBounds } from './solid';

type Axis = 0 | 1 | 2;
/** What can be arranged: things that stand at a pose. */
export type Placed = Pick<Pose, 'at' | 'turn' | 'tilt'> & { line?: Block['line'] };

const shifted = ({ at, turn }: Placed, by: Vec3): Placed => ({ at: [at[0] + by[0], at[1] + by[1], at[2] + by[2]], turn });

/**
 * Where copies of a block stand in a row.
 *
 * @param count of all, the block itself included
 * @param step from one to the next, metres
 */
export const arrayLine = (block: Placed, count: number, step: Vec3): Placed[] =>
  Array.from({ length: Math.max(0, count - 1) }, (_, i) => shifted(block, [step[0] * (i + 1), step[1] * (i + 1), step[2] * (i + 1)]));

/** Where copies stand in a level grid, the block itself at its first corner and left out. */
export const arrayGrid = (block: Placed, [along, across]: readonly [number, number], [dx, dz]: readonly [number, number]): Placed[] =>
  Array.from({ length: along * across }, (_, i) => shifted(block, [(i % along) * dx, 0, Math.floor(i / along) * dz])).slice(1);

/**
 * Where copies stand on an arc, each turned with it.
 *
 * @param count of all, the block itself included
 * @param centre of the arc in plan
 * @param sweep degrees from the first to the last, counter-clockwise seen from above; of a full circle the last place is the first and stays empty
 */
export function arrayArc(block: Placed, count: number, centre: readonly [number, number], sweep: number): Placed[] {
  const step = sweep / (Math.abs(sweep) >= 360 ? count : Math.max(1, count - 1));
  return Array.from({ length: Math.max(0, count - 1) }, (_, i) => {
    const [s, c] = sinCosDeg(step * (i + 1));
    const x = block.at[0] - centre[0];
    const z = block.at[2] - centre[1];
    return { at: [centre[0] + c * x + s * z, block.at[1], centre[1] - s * x + c * z] as Vec3, turn: wrapDeg(block.turn + step * (i + 1)) };
  });
}

/**
 * Blocks mirrored at an upright plane. What rises along its own x turns about with it; every shape is
 * its own mirror image across its width, so no shape needs to be another, but a drawn line is mirrored there.
 *
 * @param axis 0 mirrors west and east, 2 north and south
 * @param at where the plane stands on that axis, metres
 */
export const mirror = <T extends Placed>(blocks: readonly T[], axis: 0 | 2, at: number): T[] =>
  blocks.map((b) => {
    const place: Vec3 = [...b.at];
    place[axis] = 2 * at - place[axis];
    const line = b.line?.map(([x, y, z]): Vec3 => [x, y, -z]);
    // Mirrored along its own width: what turns about length or height turns the other way.
    const tilt = b.tilt && ([-b.tilt[0], -b.tilt[1], b.tilt[2], b.tilt[3]] as Pose['tilt']);
    return { ...b, at: place, turn: wrapDeg(axis === 0 ? 180 - b.turn : -b.turn), ...(tilt ? { tilt } : {}), ...(line ? { line } : {}) };
  });

/** Middle of the bounds of all on an axis, metres. */
export function middle(blocks: readonly Block[], axis: Axis): number {
  const all = blocks.map(blockBounds);
  return (Math.min(...all.map((b) => b.min[axis])) + Math.max(...all.map((b) => b.max[axis]))) / 2;
}

/** Moves each along an axis so that its low side, middle or high side is that of the first. */
export function align(blocks: readonly Block[], axis: Axis, side: 'low' | 'middle' | 'high'): Block[] {
  const of = (b: Block): number => {
    const { min, max } = blockBounds(b);
    return side === 'low' ? min[axis] : side === 'high' ? max[axis] : (min[axis] + max[axis]) / 2;
  };
  const wanted = of(blocks[0]);
  return blocks.map((b) => moved(b, axis, wanted - of(b)));
}

/** Moves all but the outer two along an axis so that the clear gaps between neighbours are equal; an overlap counts as a gap below nothing. */
export function distribute(blocks: readonly Block[], axis: Axis): Block[] {
  const sorted = blocks.map((block) => ({ block, ...blockBounds(block) })).sort((a, b) => a.min[axis] - b.min[axis] || (a.block.id < b.block.id ? -1 : 1));
  if (sorted.length < 3) return [...blocks];
  const first = sorted[0];
  const last = sorted[sorted.length - 1];
  const between = sorted.slice(1, -1).reduce((sum, b) => sum + b.max[axis] - b.min[axis], 0);
  const gap = (last.min[axis] - first.max[axis] - between) / (sorted.length - 1);
  const by = new Map<string, number>();
  let at = first.max[axis] + gap;
  for (const b of sorted.slice(1, -1)) {
    by.set(b.block.id, at - b.min[axis]);
    at += b.max[axis] - b.min[axis] + gap;
  }
  return blocks.map((b) => moved(b, axis, by.get(b.id) ?? 0));
}

function moved(b: Block, axis: Axis, by: number): Block {
  const at: Vec3 = [...b.at];
  at[axis] += by;
  return { ...b, at };
}
