import { wrapDeg, type Pose } from '../../num/pose';
import { atan2Deg } from '../../num/trig';
import type { Vec3 } from '../../num/vec';
import type { Kit, Part } from '../kinds/kit';
import type { Piece } from '../kinds/piece';
import { inPlan, rectangles, type Outline, type Rectangle } from './outline';
import { choose, measure, partsFor, pieceAt, standing } from './parts';

/** The most corners of an outline that is roofed. */
export const MOST_ROOFED = 24;

interface Roof {
  kit: Kit;
  seed: number;
  outline: Outline;
  /** top of the walls */
  y: number;
  put(piece: Piece): void;
}

/** How a roof part lies: where the wall is under it and where the ridge, by its joins of these kinds, or by the kit's pitch. */
function slopeOf(part: Part, pitch: number): { eave: number; ridge: number; rise: number } {
  const eave = part.joins.find((j) => j.kind === 'eave');
  const ridge = part.joins.find((j) => j.kind === 'ridge');
  return { eave: eave?.at[2] ?? pitch / 2, ridge: ridge?.at[2] ?? -pitch / 2, rise: ridge?.at[1] ?? part.box[1][1] };
}

/**
 * Roofs an outline of right angles: its largest rectangle along its longer side, the others as wings that run into it, each with
 * two slopes drawn out to half its width, ridges, and gables where it ends in the open.
 *
 * @returns why it is not roofed, where it is not
 */
export function layRoof(roof: Roof): string | undefined {
  const { kit, outline } = roof;
  if (partsFor(kit, 'roof').length === 0) return `the kit ${kit.name} has no part laid as roof`;
  if (!outline.square) return 'a roof is laid over outlines of right angles: make the corners square, or leave the roof off';
  if (outline.points.length > MOST_ROOFED) return `a roof is laid over outlines of ${MOST_ROOFED} corners at most`;
  const all = rectangles(outline);
  all.forEach((r, i) => roofOne(roof, i, r, all));
  return undefined;
}

const overlap = (a: readonly [number, number], b: readonly [number, number]): boolean => Math.min(a[1], b[1]) - Math.max(a[0], b[0]) > 1e-3;
const meets = (x: number, y: number): boolean => Math.abs(x - y) < 1e-3;

/** Whether another rectangle lies beyond an end of one along an axis. */
const beyond = (r: Rectangle, axis: 'u' | 'v', end: 0 | 1, others: readonly Rectangle[]): boolean =>
  others.some((o) => o !== r && meets(o[axis][1 - end], r[axis][end]) && overlap(o[axis === 'u' ? 'v' : 'u'], r[axis === 'u' ? 'v' : 'u']));

function roofOne(roof: Roof, index: number, r: Rectangle, all: readonly Rectangle[]): void {
  const { kit, seed, outline, y, put } = roof;
  const before = all.slice(0, index);
  const long = r.u[1] - r.u[0] >= r.v[1] - r.v[0] ? 'u' : 'v';
  const axis = (['u', 'v'] as const).find((a) => beyond(r, a, 0, before) || beyond(r, a, 1, before)) ?? long;
  const across = axis === 'u' ? 'v' : 'u';
  const half = (r[across][1] - r[across][0]) / 2;
  const middle = (r[across][0] + r[across][1]) / 2;
  const open = ([0, 1] as const).map((end) => !beyond(r, axis, end, all));
  // A wing's ridge goes on under the slope it runs into.
  const ends = ([0, 1] as const).map((end) => r[axis][end] + (beyond(r, axis, end, before) ? half * (end === 0 ? -1 : 1) : 0)) as [number, number];
  const place = (along: number, off: number, height: number): Vec3 => inPlan(outline, axis === 'u' ? along : off, axis === 'u' ? off : along, height);
  const way = (from: Vec3, to: Vec3): [number, number] => {
    const [dx, dz] = [to[0] - from[0], to[2] - from[2]];
    const l = Math.sqrt(dx * dx + dz * dz);
    return [dx / l, dz / l];
  };
  /** Parts side by side along the ridge that look one way. */
  const row = (
    list: readonly Part[],
    mark: string,
    name: string,
    { out, by, own, height }: { out: [number, number]; by: number; own: number; height: number },
  ): void => {
    const first = choose(list, seed, [index, 0, 0]);
    if (!first) return;
    const count = Math.max(1, Math.round((ends[1] - ends[0]) / measure(first).length));
    const step = (ends[1] - ends[0]) / count;
    const turn = wrapDeg(atan2Deg(out[0], out[1]));
    const [x] = way(place(0, 0, 0), place(1, 0, 0));
    // Own x looks along the ridge or against it.
    const on = out[1] * x + -out[0] * way(place(0, 0, 0), place(1, 0, 0))[1] > 0;
    for (let i = 0; i < count; i++) {
      const part = choose(list, seed, [index, i, mark.length])!;
      const m = measure(part);
      const pose: Pose = { at: place(ends[0] + step * (on ? i : i + 1), middle, height), turn, scale: scaled([step / m.length, by, by]) };
      put(pieceAt(`${mark}${index}-${i}`, `${name} ${index + 1}.${i + 1}`, part, standing(pose, [m.left[0], 0, own])));
    }
  };
  const roofs = partsFor(kit, 'roof');
  const slope = slopeOf(roofs[0], kit.pitch);
  const by = half / Math.max(1e-3, slope.eave - slope.ridge);
  for (const side of [1, -1] as const)
    row(roofs, side > 0 ? 'ra' : 'rb', 'roof', { out: way(place(0, 0, 0), place(0, side, 0)), by, own: slope.ridge, height: y });
  row(partsFor(kit, 'ridge'), 'i', 'ridge', { out: way(place(0, 0, 0), place(0, 1, 0)), by: 1, own: 0, height: y + slope.rise * by });
  for (const end of [0, 1] as const) {
    const part = choose(partsFor(kit, 'gable'), seed, [index, end, 0]);
    if (!part || !open[end]) continue;
    const out = way(place(0, 0, 0), place(end === 0 ? -1 : 1, 0, 0));
    const width = Math.max(1, Math.round((part.box[1][0] - part.box[0][0]) / kit.pitch)) * kit.pitch;
    const k = (half * 2) / width;
    put(
      pieceAt(`g${index}-${end}`, `gable ${index + 1}.${end + 1}`, part, {
        at: place(r[axis][end], middle, y),
        turn: wrapDeg(atan2Deg(out[0], out[1])),
        scale: scaled([k, k, 1]),
      }),
    );
  }
}

const scaled = (s: Vec3): Vec3 | undefined => (s.every((v) => Math.abs(v - 1) < 1e-6) ? undefined : s);
