import { drawnBounds, isDrawn, tallOf, wideOf } from '../level/drawn';
import { MIN_BLOCK, type Block } from '../level/objects';
import { distance, type Vec3 } from '../num/vec';
import { blockToLevel } from './solid';

type Fields = Partial<Omit<Block, 'id' | 'kind' | 'version'>>;

/** To the tenth of a millimetre: what a hand can mean, and short in a file. */
const fine = (v: number): number => Math.round(v * 1e4) / 1e4 + 0;

/**
 * A drawn block's line, and the place and size that follow from it: the line is set about the middle of
 * what it makes, and the block's place moves so that nothing moves in the level.
 *
 * @param line corners in the block's own axes, metres
 */
export function relined(block: Block, line: readonly Vec3[]): Pick<Block, 'line' | 'size' | 'at'> {
  const { min, max } = drawnBounds({ ...block, line: line as Vec3[] });
  const middle: Vec3 = [fine((min[0] + max[0]) / 2), fine(min[1]), fine((min[2] + max[2]) / 2)];
  const set = line.map(([x, y, z]): Vec3 => [fine(x - middle[0]), fine(y - middle[1]), fine(z - middle[2])]);
  const own = drawnBounds({ ...block, line: set });
  return {
    line: set,
    at: blockToLevel(block, ...middle).map(fine) as Vec3,
    size: [0, 1, 2].map((k) => Math.max(MIN_BLOCK, fine(own.max[k] - own.min[k]))) as Vec3,
  };
}

/** Fields of a block changed, with those that follow from them where it is drawn. */
export function reshaped(block: Block, set: Fields): Fields {
  if (!isDrawn(block.shape) || !['line', 'closed', 'tall', 'wide', 'wall', 'op'].some((f) => f in set)) return set;
  const next = { ...block, ...set } as Block;
  return { ...set, ...relined(next, next.line!) };
}

/**
 * A block given a side's length: of a drawn one the line is drawn out or in to it, its height changed
 * or, where the line runs straight across that side, its width.
 *
 * @param side 0 length, 1 height, 2 width
 */
export function resized(block: Block, side: 0 | 1 | 2, to: number): Fields {
  if (!isDrawn(block.shape)) return { size: block.size.map((s, k) => (k === side ? to : s)) as Vec3 };
  if (side === 1) return reshaped(block, { tall: Math.max(MIN_BLOCK, fine(tallOf(block) + to - block.size[1])) });
  const line = block.line!;
  const along = line.map((p) => p[side]);
  const extent = Math.max(...along) - Math.min(...along);
  if (extent < 1e-3) return reshaped(block, { wide: Math.max(0.02, fine(wideOf(block) + to - block.size[side])) });
  // What stands beside the line keeps its width, so the line takes all the change; corners on a slant want a second look.
  let k = 1;
  let fields: Fields = {};
  let got = block.size[side];
  for (let i = 0; i < 6 && Math.abs(got - to) > 1e-4; i++) {
    k = Math.max(1e-3, k + (to - got) / extent);
    fields = relined(
      block,
      line.map((p) => p.map((v, axis) => (axis === side ? v * k : v)) as Vec3),
    );
    got = fields.size![side];
  }
  return fields;
}

/** A block as large as another's size, side by side: what a handle on a side drags. */
export const resizedTo = (block: Block, size: Block['size']): Block =>
  ([0, 1, 2] as const).reduce((b, side) => (Math.abs(b.size[side] - size[side]) < 1e-6 ? b : { ...b, ...resized(b, side, size[side]), at: b.at }), block);

/** The line of a drawn block in the level. */
export const levelLine = (block: Block): Vec3[] => block.line!.map((p) => blockToLevel(block, ...p));

/** Heights of a line's corners so that it climbs evenly from the first, `grade` metres a metre of run. */
export function graded(line: readonly Vec3[], grade: number): Vec3[] {
  let run = 0;
  return line.map(([x, , z], i): Vec3 => {
    if (i > 0) run += distance([x, 0, z], [line[i - 1][0], 0, line[i - 1][2]]);
    return [x, line[0][1] + grade * run, z];
  });
}

/** Rise of a line from its first corner to its last against its run. */
export function gradeOf(line: readonly Vec3[]): number {
  let run = 0;
  for (let i = 1; i < line.length; i++) run += distance([line[i][0], 0, line[i][2]], [line[i - 1][0], 0, line[i - 1][2]]);
  return run > 0 ? (line[line.length - 1][1] - line[0][1]) / run : 0;
}

/** Length of a drawn block's line, metres; a closed one's whole way round. */
export const lineLength = ({ line = [], closed, shape }: Pick<Block, 'line' | 'closed' | 'shape'>): number =>
  line.reduce((sum, p, i) => sum + (i > 0 ? distance(line[i - 1], p) : closed || shape === 'slab' ? distance(line[line.length - 1], p) : 0), 0);
