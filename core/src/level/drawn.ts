import { crossing, offsetLine, signedArea, type Point2 } from '../num/outline';
import type { Vec3 } from '../num/vec';
import type { Block } from './objects';

/** Shapes that follow a line drawn by hand. */
export const DRAWN = ['wall', 'slab', 'tunnel'] as const;
export type DrawnShape = (typeof DRAWN)[number];
/** Whether a shape is drawn corner by corner and not by its size. */
export const isDrawn = (shape: string): shape is DrawnShape => (DRAWN as readonly string[]).includes(shape);

/** What a drawn shape is where a block does not say so, metres: height and width across its line; a tunnel's lining. */
export const DRAWN_DEFAULTS: Record<DrawnShape, { tall: number; wide: number }> = {
  wall: { tall: 2.5, wide: 0.3 },
  slab: { tall: 0.3, wide: 0 },
  tunnel: { tall: 2.4, wide: 2 },
};
export const DEFAULT_LINING = 0.3;

/** A line turns by no more than this at a corner; sharper, its mitre would run far out. Cosine of 150 degrees. */
const SHARPEST = -0.866;

export type DrawnBlock = Pick<Block, 'shape' | 'line' | 'closed' | 'tall' | 'wide' | 'wall' | 'op'>;

/** Height of a drawn block, metres; its shape's default where it states none. */
export const tallOf = (b: DrawnBlock): number => b.tall ?? DRAWN_DEFAULTS[b.shape as DrawnShape].tall;
/** Width of a drawn block, metres; its shape's default where it states none. */
export const wideOf = (b: DrawnBlock): number => b.wide ?? DRAWN_DEFAULTS[b.shape as DrawnShape].wide;
/** Thickness of a tunnel's lining; a void bores only its clear width. */
export const liningOf = (b: DrawnBlock): number => (b.op === 'void' ? 0 : (b.wall ?? DEFAULT_LINING));

const planLength = (a: Point2, b: Point2): number => Math.sqrt((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2);
const planOf = (line: readonly Vec3[]): Point2[] => line.map(([x, , z]): Point2 => [x, z]);

/** Half the width a drawn block takes beside its line, metres. */
const halfOf = (b: DrawnBlock): number => wideOf(b) / 2 + (b.shape === 'tunnel' ? liningOf(b) : 0);

/** Outlines of a drawn block in plan, in its own axes (x, z): one, or of a closed wall the outer and the inner. */
export function drawnOutlines(b: DrawnBlock): Point2[][] {
  const plan = planOf(b.line!);
  if (b.shape === 'slab') return [plan];
  const closed = b.closed === true;
  const left = offsetLine(plan, halfOf(b), closed);
  const right = offsetLine(plan, -halfOf(b), closed);
  if (!closed) return [[...left, ...right.reverse()]];
  return Math.abs(signedArea(left)) > Math.abs(signedArea(right)) ? [left, right] : [right, left];
}

/** Low and high corner of a drawn block in its own axes. */
export function drawnBounds(b: DrawnBlock): { min: Vec3; max: Vec3 } {
  const points = drawnOutlines(b)[0];
  const xs = points.map((p) => p[0]);
  const zs = points.map((p) => p[1]);
  const ys = b.line!.map((p) => p[1]);
  const top = tallOf(b) + (b.shape === 'tunnel' ? liningOf(b) : 0);
  return { min: [Math.min(...xs), Math.min(...ys), Math.min(...zs)], max: [Math.max(...xs), Math.max(...ys) + top, Math.max(...zs)] };
}

/** Why a line makes no such shape, in words for the person, or `undefined` where it does. */
export function lineFault(b: DrawnBlock): string | undefined {
  const { line = [], closed, shape } = b;
  const least = shape === 'slab' || closed ? 3 : 2;
  if (line.length < least) return `a ${closed ? 'closed ' : ''}${shape} wants at least ${least} corners; it has ${line.length}`;
  const n = line.length;
  const sides = closed || shape === 'slab' ? n : n - 1;
  const plan = planOf(line);
  const along = (i: number): Point2 => {
    const [a, c] = [plan[i % n], plan[(i + 1) % n]];
    const l = planLength(a, c);
    return [(c[0] - a[0]) / l, (c[1] - a[1]) / l];
  };
  for (let i = 0; i < sides; i++) {
    const [a, c] = [plan[i], plan[(i + 1) % n]];
    if (planLength(a, c) < 0.01) return `corners ${i + 1} and ${((i + 1) % n) + 1} of the ${shape} are in one place: move one or take it out`;
  }
  if (shape === 'slab') {
    const found = crossing(plan);
    if (found) return `the outline crosses itself: the side from corner ${found[0] + 1} meets the side from corner ${found[1] + 1}; move a corner`;
    if (Math.abs(signedArea(plan)) < 0.0025) return 'the outline encloses nothing: move a corner out';
    return undefined;
  }
  for (let i = closed ? 0 : 1; i < (closed ? n : n - 1); i++) {
    const [p, q] = [along((i + n - 1) % n), along(i)];
    if (p[0] * q[0] + p[1] * q[1] < SHARPEST) return `the ${shape} turns back on itself at corner ${i + 1}: a corner turns by no more than 150 degrees`;
  }
  for (const by of [halfOf(b), -halfOf(b)]) {
    // Beside too short a stretch between two corners the offset line runs backwards.
    const beside = offsetLine(plan, by, closed === true);
    for (let i = 0; i < sides; i++) {
      const [a, c] = [beside[i], beside[(i + 1) % n]];
      const [dx, dz] = along(i);
      if ((c[0] - a[0]) * dx + (c[1] - a[1]) * dz <= 1e-9)
        return `the ${shape} folds over itself between corners ${i + 1} and ${((i + 1) % n) + 1}: make it thinner, or the stretch longer`;
    }
  }
  if (drawnOutlines(b).some((outline) => crossing(outline) !== undefined)) return `the ${shape} runs into itself: move a corner, or make it thinner`;
  return undefined;
}

const SLACK = 2e-3;

/** Why a drawn block's size does not follow from its line, or `undefined`. */
export function drawnFault(b: DrawnBlock & Pick<Block, 'size'>): string | undefined {
  const fault = lineFault(b);
  if (fault) return fault;
  const { min, max } = drawnBounds(b);
  const size = [max[0] - min[0], max[1] - min[1], max[2] - min[2]];
  const middle = [(max[0] + min[0]) / 2, min[1], (max[2] + min[2]) / 2];
  if (size.some((s, k) => Math.abs(s - b.size[k]) > SLACK) || middle.some((m) => Math.abs(m) > SLACK)) {
    return `the size of a ${b.shape} follows from its line: ${size.map((s) => s.toFixed(3)).join(' x ')} m about its middle`;
  }
  return undefined;
}
