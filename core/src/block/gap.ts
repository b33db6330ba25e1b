import { hull } from '../num/hull';
import { HAIR, type BodyFigures } from '../body/bodies';
import { gapVerdict, jumpReach, takeOffSpeed, type GapVerdict } from '../body/jump';
import { drawnOutlines, isDrawn } from '../level/drawn';
import type { Block } from '../level/objects';
import type { Mesh } from '../num/mesh';
import { insideOutline, type Point2 } from '../num/outline';
import { add, cross, length, normalize, sub, type Vec3 } from '../num/vec';
import { moverPlaces } from './mover';
import type { PlacedMesh } from './placedMesh';
import { isPlain } from './shapes';
import { blockBounds, blockSolid, blockToLevel, faceNormal, solidSpanAt } from './solid';

/** Gaps narrower than this are cracks, metres; what touches is no gap at all. */
const CRACK = 0.3;
const TOUCH = 0.01;
/** A face is a top where it is no steeper than this, as the cosine: 50 degrees, the steepest any shipped body walks. */
const TOP_COS = 0.6427;
/** Places looked at along each way of a mover. */
const ALONG = 16;
/** Where across the body it is looked, in its radii, and the steps in which a jump is followed, metres. */
const ACROSS = [-0.9, -0.6, -0.3, 0, 0.3, 0.6, 0.9];
const STEP = 0.1;

/** A gap between two blocks' tops: edge to edge in plan, how much higher the second is, and from where to where. */
export interface GapFigures {
  width: number;
  rise: number;
  from: Vec3;
  to: Vec3;
  /** where else it is as narrow: one way over it each, along edges that run side by side at both their ends and between */
  ways: [Vec3, Vec3][];
}

/** Ways are as narrow as each other within this, metres, and between the ends of parallel edges so many are looked at. */
const AS_NARROW = 0.02;
const BETWEEN = 8;

/** What a gap lies among. All in the level's metres, movers at their first stop. */
export interface Around {
  /** blocks whose solid is a mesh (cut, or of a shape that is none of planes), by id */
  built?: ReadonlyMap<string, Mesh>;
  /** what can stand in a jump's way: blocks, and pieces and trunks as they stop a body */
  blocks?: Iterable<Block>;
  meshes?: Iterable<PlacedMesh>;
  ground?(x: number, z: number): number;
}

/** The faces of a block that can be stood on, as outlines. */
function topsOf(block: Block, built: Around['built']): Vec3[][] {
  const mesh = built?.get(block.id);
  if (mesh) {
    const faces: Vec3[][] = [];
    for (let i = 0; i < mesh.indices.length; i += 3) {
      const face = [0, 1, 2].map((k): Vec3 => {
        const o = mesh.indices[i + k] * 3;
        return [mesh.positions[o], mesh.positions[o + 1], mesh.positions[o + 2]];
      });
      if (normalize(cross(sub(face[1], face[0]), sub(face[2], face[0])))[1] >= TOP_COS) faces.push(face);
    }
    return faces;
  }
  if (isPlain(block)) {
    const solid = blockSolid(block);
    return solid.faces.filter((f) => faceNormal(solid, f)[1] >= TOP_COS).map((f) => f.corners.map((c) => solid.corners[c]));
  }
  // While its mesh is not built: the outline of what has a level top.
  return !block.tilt && ['cylinder', 'ring', 'arch', 'wall', 'slab'].includes(block.shape)
    ? [footprint(block).map(([x, z]): Vec3 => [x, block.at[1] + block.size[1], z])]
    : [];
}

/**
 * The gap from one block's top to another's where they stand: of the pairs of points nearest in plan the one
 * with the least rise. `undefined` where either has no top.
 */
export function gapBetween(
  from: Block,
  to: Block,
  around: Around = {},
  by: readonly [Vec3, Vec3] = [
    [0, 0, 0],
    [0, 0, 0],
  ],
): GapFigures | undefined {
  if (from.op === 'void' || to.op === 'void') return undefined;
  const [here, there] = [topsOf(from, around.built), topsOf(to, around.built)].map((faces, i) => faces.map((f) => f.map((p) => add(p, by[i]))));
  let best: GapFigures | undefined;
  const offered: { width: number; rise: number; ends: [Vec3, Vec3] }[] = [];
  const offer = (a: Vec3, b: Vec3) => {
    const width = Math.sqrt((b[0] - a[0]) ** 2 + (b[2] - a[2]) ** 2);
    const rise = b[1] - a[1];
    offered.push({ width, rise, ends: [a, b] });
    if (!best || width < best.width - 1e-6 || (width < best.width + 1e-6 && Math.abs(rise) < Math.abs(best.rise) - 1e-6))
      best = { width, rise, from: a, to: b, ways: [] };
  };
  const boxes = there.map(planBox);
  for (const a of here) {
    const box = planBox(a);
    there.forEach((b, i) => {
      if (!best || apart(box, boxes[i]) <= best.width + 1e-6) nearest(a, b, offer);
    });
  }
  if (best) best.ways = waysOver(best, offered);
  return best;
}

/** All ways over a gap as narrow as its narrowest, and as high. */
function waysOver(best: GapFigures, offered: readonly { width: number; rise: number; ends: [Vec3, Vec3] }[]): [Vec3, Vec3][] {
  const alike = ([a, b]: [Vec3, Vec3]) => Math.abs(Math.hypot(b[0] - a[0], b[2] - a[2]) - best.width) <= AS_NARROW;
  const ends = offered.filter((o) => o.width <= best.width + AS_NARROW && Math.abs(o.rise - best.rise) < 0.05).map((o) => o.ends);
  if (ends.length < 2) return [[best.from, best.to]];
  // The two that are farthest from each other: edges side by side run between them.
  let [first, last, far] = [ends[0], ends[0], -1];
  for (const e of ends.slice(0, 60))
    for (const f of ends.slice(0, 60)) {
      const d = Math.hypot(e[0][0] - f[0][0], e[0][2] - f[0][2]);
      if (d > far) [first, last, far] = [e, f, d];
    }
  const mix = (p: Vec3, q: Vec3, k: number): Vec3 => [p[0] + (q[0] - p[0]) * k, p[1] + (q[1] - p[1]) * k, p[2] + (q[2] - p[2]) * k];
  const between = Array.from({ length: BETWEEN + 1 }, (_, i): [Vec3, Vec3] => [mix(first[0], last[0], i / BETWEEN), mix(first[1], last[1], i / BETWEEN)]);
  return [[best.from, best.to], ...between.filter(alike)];
}

type Box = [x0: number, z0: number, x1: number, z1: number];
const planBox = (face: readonly Vec3[]): Box =>
  face.reduce<Box>((b, [x, , z]) => [Math.min(b[0], x), Math.min(b[1], z), Math.max(b[2], x), Math.max(b[3], z)], [Infinity, Infinity, -Infinity, -Infinity]);
/** How far two boxes are apart in plan, at least. */
const apart = (a: Box, b: Box): number => Math.hypot(Math.max(0, a[0] - b[2], b[0] - a[2]), Math.max(0, a[1] - b[3], b[1] - a[3]));

/** Offers the pairs of points of two outlines among which the nearest in plan are. */
function nearest(a: readonly Vec3[], b: readonly Vec3[], offer: (a: Vec3, b: Vec3) => void): void {
  const flat = (o: readonly Vec3[]) => o.map((p): Point2 => [p[0], p[2]]);
  const [fa, fb] = [flat(a), flat(b)];
  // Where they overlap in plan there is nothing between them.
  a.forEach((p, i) => {
    if (insideOutline(fa[i], fb)) offer(p, [p[0], heightOn(b, p), p[2]]);
  });
  b.forEach((p, i) => {
    if (insideOutline(fb[i], fa)) offer([p[0], heightOn(a, p), p[2]], p);
  });
  for (let i = 0; i < a.length; i++) {
    const a1 = a[(i + 1) % a.length];
    for (let j = 0; j < b.length; j++) {
      const b1 = b[(j + 1) % b.length];
      offer(a[i], onto(a[i], b[j], b1));
      offer(a1, onto(a1, b[j], b1));
      offer(onto(b[j], a[i], a1), b[j]);
      offer(onto(b1, a[i], a1), b1);
      const met = meeting(a[i], a1, b[j], b1);
      if (met) offer(met[0], met[1]);
    }
  }
}

/** The point of a stretch that is nearest to `p` in plan. */
function onto(p: Vec3, a: Vec3, b: Vec3): Vec3 {
  const [dx, dz] = [b[0] - a[0], b[2] - a[2]];
  const l = dx * dx + dz * dz;
  const t = l === 0 ? 0 : Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[2] - a[2]) * dz) / l));
  return [a[0] + dx * t, a[1] + (b[1] - a[1]) * t, a[2] + dz * t];
}

/** Where two stretches cross in plan, on either. */
function meeting(a: Vec3, a1: Vec3, b: Vec3, b1: Vec3): [Vec3, Vec3] | undefined {
  const [ax, az, bx, bz] = [a1[0] - a[0], a1[2] - a[2], b1[0] - b[0], b1[2] - b[2]];
  const d = ax * bz - az * bx;
  if (Math.abs(d) < 1e-12) return undefined;
  const [cx, cz] = [b[0] - a[0], b[2] - a[2]];
  const [s, t] = [(cx * bz - cz * bx) / d, (cx * az - cz * ax) / d];
  if (s < 0 || s > 1 || t < 0 || t > 1) return undefined;
  const at = (p: Vec3, q: Vec3, k: number): Vec3 => [p[0] + (q[0] - p[0]) * k, p[1] + (q[1] - p[1]) * k, p[2] + (q[2] - p[2]) * k];
  return [at(a, a1, s), at(b, b1, t)];
}

/** Height of a flat face over a place. */
function heightOn(face: readonly Vec3[], p: Vec3): number {
  const n = cross(sub(face[1], face[0]), sub(face[2], face[0]));
  return Math.abs(n[1]) < 1e-12 ? face[0][1] : face[0][1] - (n[0] * (p[0] - face[0][0]) + n[2] * (p[2] - face[0][2])) / n[1];
}

/** The gap at its nearest and at its farthest, wherever movers among the two can be. What touches wherever it is, is none. */
export function gapRange(from: Block, to: Block, around: Around = {}): { nearest: GapFigures; farthest: GapFigures } | undefined {
  const places = (b: Block): Vec3[] => (b.stops ? moverPlaces(b.stops, ALONG) : [[0, 0, 0]]);
  let near: GapFigures | undefined;
  let farthest: GapFigures | undefined;
  for (const a of places(from)) {
    for (const b of places(to)) {
      const gap = gapBetween(from, to, around, [a, b]);
      if (!gap) return undefined;
      const far = (g: GapFigures) => Math.sqrt(g.width * g.width + g.rise * g.rise);
      if (!near || far(gap) < far(near)) near = gap;
      if (!farthest || far(gap) > far(farthest)) farthest = gap;
    }
  }
  if (!near || !farthest || (farthest.width < TOUCH && !from.stops && !to.stops)) return undefined;
  return { nearest: near, farthest };
}

/** What stands in the way of a jump over a gap, by its name, wherever over it one jumps: the body as tall and wide as it is, along its arc at a run. */
export function inTheWay(body: BodyFigures, { width, ways }: GapFigures, around: Around, but: ReadonlySet<string>): string | undefined {
  let found: string | undefined;
  for (const way of ways) {
    const name = inOneWay(body, width, way, around, but);
    if (name === undefined) return undefined;
    found ??= name;
  }
  return found;
}

function inOneWay(
  body: BodyFigures,
  width: number,
  [from, to]: [Vec3, Vec3],
  { blocks = [], meshes = [], ground }: Around,
  but: ReadonlySet<string>,
): string | undefined {
  if (width < STEP) return undefined;
  const v0 = takeOffSpeed(body);
  const [ux, uz] = [(to[0] - from[0]) / width, (to[2] - from[2]) / width];
  const reach = { min: [0, 1, 2].map((k) => Math.min(from[k], to[k]) - body.radius), max: [0, 1, 2].map((k) => Math.max(from[k], to[k]) + body.radius) };
  const near = (min: readonly number[], max: readonly number[]) => [0, 2].every((k) => min[k] <= reach.max[k] && max[k] >= reach.min[k]);
  const solids = [...blocks].filter((b) => b.op !== 'void' && !b.background && isPlain(b) && !but.has(b.id) && near(...boundsOf(b)));
  const others = [...meshes].filter((m) => !but.has(m.id) && near(m.min, m.max));
  // The body leaves the edge behind it and has the next under it at the ends.
  const steps = Math.max(1, Math.floor(width / STEP));
  for (let i = 1; i < steps; i++) {
    const s = (width * i) / steps;
    const t = s / body.run;
    const low = from[1] + v0 * t - (body.gravity * t * t) / 2;
    for (const side of ACROSS) {
      const [x, z] = [from[0] + ux * s - uz * side * body.radius, from[2] + uz * s + ux * side * body.radius];
      if (ground && ground(x, z) > low + HAIR) return 'the ground';
      const meets = (bottom: number, top: number) => bottom < low + body.height && top > low + 0.01;
      for (const b of solids) {
        const span = solidSpanAt(b, x, z);
        if (span && meets(span.bottom, span.top)) return b.name;
      }
      for (const m of others) {
        const heights = crossings(m, x, z);
        for (let k = 0; k + 1 < heights.length; k += 2) if (meets(heights[k], heights[k + 1])) return m.name;
      }
    }
  }
  return undefined;
}

/** Bounds of a block, its turn allowed for. */
const boundsOf = (b: Block): [number[], number[]] => {
  const { min, max } = blockBounds(b);
  return [min, max];
};

/** Heights at which a plumb line passes through a mesh, lowest first. */
function crossings({ positions: p, indices, min, max }: PlacedMesh, x: number, z: number): number[] {
  if (x < min[0] || x > max[0] || z < min[2] || z > max[2]) return [];
  const found: number[] = [];
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    const [ux, uz, vx, vz] = [p[b] - p[a], p[b + 2] - p[a + 2], p[c] - p[a], p[c + 2] - p[a + 2]];
    const area = uz * vx - ux * vz;
    if (Math.abs(area) <= 1e-9) continue;
    const [wx, wz] = [x - p[a], z - p[a + 2]];
    const [s, t] = [(wz * vx - wx * vz) / area, (uz * wx - ux * wz) / area];
    // A place on an edge belongs to one of the two triangles.
    if (s < 0 || t < 0 || s + t >= 1) continue;
    found.push(p[a + 1] + s * (p[b + 1] - p[a + 1]) + t * (p[c + 1] - p[a + 1]));
  }
  return found.sort((m, n) => m - n);
}

const m = (v: number): string => v.toFixed(2);

/** A gap in words: `3.00 m, 0.50 up: tight`; of a mover at its nearest and farthest. */
export function gapText(
  body: BodyFigures,
  { nearest: near, farthest }: { nearest: GapFigures; farthest: GapFigures },
  around: Around = {},
  but: ReadonlySet<string> = new Set(),
): { verdict: GapVerdict; text: string } {
  const judged = (gap: GapFigures) => {
    const { width, rise } = gap;
    const verdict = gapVerdict(body, width, rise);
    const deep = -rise > body.safeDrop + HAIR ? `, below the safe drop of ${m(body.safeDrop)}` : '';
    const blocked = verdict === 'impossible' ? undefined : inTheWay(body, gap, around, but);
    const said =
      `${m(width)} m${Math.abs(rise) < 0.005 ? '' : rise > 0 ? `, ${m(rise)} up` : `, ${m(-rise)} down`}: ` +
      `${blocked ? 'impossible' : verdict}${deep}${blocked ? `, ${blocked} stands in the jump` : ''}`;
    return { verdict: blocked ? ('impossible' as const) : verdict, said };
  };
  const first = judged(near);
  if (near.width === farthest.width && near.rise === farthest.rise) return { verdict: first.verdict, text: first.said };
  return { verdict: first.verdict, text: `at its nearest ${first.said}, at its farthest ${judged(farthest).said}` };
}

/**
 * The nearest top that a body could jump to from a block's, and what the jump is: edge to edge in plan,
 * with the rise between the tops; of movers at their nearest.
 *
 * @returns `undefined` where nothing is in reach of a quarter more than the body's longest jump
 */
export function nearestGap(
  block: Block,
  others: Iterable<Block>,
  body: BodyFigures,
  around: Around = {},
): { verdict: 'good' | 'warning' | 'bad'; text: string; to: string; width: number; rise: number } | undefined {
  if (block.op === 'void') return undefined;
  let best: { to: Block; range: { nearest: GapFigures; farthest: GapFigures } } | undefined;
  for (const other of others) {
    if (other.id === block.id || other.op === 'void') continue;
    const moving = block.stops !== undefined || other.stops !== undefined;
    const travel = moving ? Math.max(0, ...[...(block.stops ?? []), ...(other.stops ?? [])].map((s) => length(s.by))) * 2 : 0;
    const round = (Math.hypot(block.size[0], block.size[2]) + Math.hypot(other.size[0], other.size[2])) / 2;
    // The longest jump of all, down to the safe drop, bounds what is worth a look.
    if (Math.hypot(other.at[0] - block.at[0], other.at[2] - block.at[2]) - round - travel > (jumpReach(body, -body.safeDrop) ?? 0) * 1.25) continue;
    const range = gapRange(block, other, around);
    if (!range) continue;
    const { width, rise } = range.nearest;
    const reach = jumpReach(body, rise);
    if (reach === undefined || -rise > body.safeDrop || width > reach * 1.25 || (width < CRACK && !moving)) continue;
    if (!best || width < best.range.nearest.width) best = { to: other, range };
  }
  if (!best) return undefined;
  const { verdict, text } = gapText(body, best.range, around, new Set([block.id, best.to.id]));
  return {
    to: best.to.id,
    width: best.range.nearest.width,
    rise: best.range.nearest.rise,
    verdict: verdict === 'easy' ? 'good' : verdict === 'tight' ? 'warning' : 'bad',
    text: `gap to ${best.to.name} ${text}`,
  };
}

/** Outline of a block in plan, in the level. */
export function footprint(b: Block): Point2[] {
  const [l, , w] = b.size;
  // Of what lies askew: what it covers seen from above.
  if (b.tilt) return hull(blockSolid(b).corners.map(([x, , z]): Point2 => [x, z]));
  const own: Point2[] = isDrawn(b.shape)
    ? drawnOutlines(b)[0]
    : [
        [-l / 2, -w / 2],
        [l / 2, -w / 2],
        [l / 2, w / 2],
        [-l / 2, w / 2],
      ];
  return own.map(([x, z]): Point2 => {
    const p = blockToLevel(b, x, 0, z);
    return [p[0], p[2]];
  });
}
