import type { Vec3 } from '../../num/vec';
import type { Kit, Part } from '../kinds/kit';
import type { LaidLine, LaidOpening } from '../kinds/laidLine';
import type { Piece } from '../kinds/piece';
import { fill, type Filled } from './fill';
import { bentAlong } from './bent';
import { between, choose, lookingBack, measure, partsFor, pieceAt, turnOf } from './parts';
import { heightsBetween, pointAlong, reachFrom, type Path } from './path';

/** How high a step of stepped laying is, metres. */
export const STEP_RISE = 0.25;
/** How far a foundation goes into the ground, metres. */
export const FOUNDATION_DEPTH = 0.2;

/** All that one stretch of a line is laid from. */
export interface Stretch {
  path: Path;
  /** along the path, between its corners' parts */
  from: number;
  to: number;
  /** height of all of it, where it is laid level */
  level: number | undefined;
  /** height that steps count from */
  zero: number;
  /** a part of another kind stands at its ends: no post is needed there */
  ends: readonly [boolean, boolean];
}

export interface LaidStretch {
  pieces: Map<string, Piece>;
  filled: Filled;
  /** heights its first and its last part stand on */
  bases: [number, number];
}

/** Height a part stands on that reaches from one place to another; of leaning ones that of the ground itself. */
const baseOf = ({ path, level, zero }: Stretch, from: number, to: number): number =>
  level ?? zero + Math.ceil((heightsBetween(path, from, to)[1] - zero) / STEP_RISE - 1e-9) * STEP_RISE;

/** Lays one stretch: its parts and openings storey by storey, what they stand on, and its posts. */
export function layStretch(line: LaidLine, kit: Kit, stretch: Stretch): LaidStretch {
  const { path, from, to } = stretch;
  const lean = line.slope === 'lean';
  const walls = partsFor(kit, 'wall');
  const length = walls.length > 0 ? measure(walls[0]).length : kit.pitch;
  const filled = fill({ path, from, to, length, lean, remainder: line.remainder, stretch: kit.stretch });
  const pieces = new Map<string, Piece>();
  const { n } = path;
  const { cuts } = filled;

  const put = (slot: string, name: string, part: Part, [a, b, y]: readonly [number, number, number | undefined], storey: number): void => {
    const thin = storey % 2 === 1 ? setBack(part) : 1;
    const piece = line.bent ? bentAlong(path, [a, b, y], line.turned === true)?.(slot, name, part) : undefined;
    if (piece) {
      pieces.set(slot, thin === 1 ? piece : { ...piece, scale: [1, 1, thin] });
      return;
    }
    const ends = [pointAlong(path, a), pointAlong(path, b)] as [Vec3, Vec3];
    if (y !== undefined) for (const p of ends) p[1] = y;
    if (line.turned) ends.reverse();
    const pose = between(measure(part), ends[0], ends[1]);
    pieces.set(slot, pieceAt(slot, name, part, thin === 1 ? pose : { ...pose, scale: [pose.scale?.[0] ?? 1, 1, thin] }));
  };

  for (let storey = 0; storey < line.storeys && walls.length > 0; storey++) {
    const openings = openingsOf(line, n, storey, cuts);
    const up = storey > 0 ? `, storey ${storey + 1}` : '';
    for (let i = 0; i < cuts.length - 1;) {
      const use = openings.get(i) ?? 'wall';
      const part = choose(partsFor(kit, use), line.seed, [n, storey, i]) ?? choose(walls, line.seed, [n, storey, i])!;
      // A wide door takes the room of several walls, where there is room.
      const wide = use === 'wall' ? 1 : Math.max(1, Math.min(cuts.length - 1 - i, Math.round(measure(part).length / length)));
      const y = lean ? undefined : baseOf(stretch, cuts[i], cuts[i + wide]) + storey * kit.storey;
      put(`c${n}-${storey}-${i}`, `${use} ${n + 1}.${i + 1}${up}`, part, [cuts[i], cuts[i + wide], y], storey);
      i += wide;
    }
    if (filled.filler !== undefined) {
      const a = cuts[cuts.length - 1];
      const part = choose(partsFor(kit, 'filler'), line.seed, [n, storey, -1]) ?? walls[0];
      put(
        `c${n}-${storey}-fill`,
        `filler ${n + 1}${up}`,
        part,
        [a, filled.filler, lean ? undefined : baseOf(stretch, a, filled.filler) + storey * kit.storey],
        storey,
      );
    }
  }

  const under = choose(partsFor(kit, 'foundation'), line.seed, [n, 0, 0]) ?? walls[0];
  const spans = filled.filler === undefined ? cuts : [...cuts, filled.filler];
  if (!lean && under && line.storeys > 0) {
    for (let i = 0; i + 1 < spans.length; i++) {
      const [low] = heightsBetween(path, spans[i], spans[i + 1]);
      const foot = baseOf(stretch, spans[i], spans[i + 1]) + Math.min(0, walls[0]?.box[0][1] ?? 0);
      if (foot - low < 0.01) continue;
      const slot = `f${n}-${i}`;
      put(slot, `foundation ${n + 1}.${i + 1}`, under, [spans[i], spans[i + 1], 0], 0);
      pieces.set(slot, underFoot(pieces.get(slot)!, under, foot, foot - low + FOUNDATION_DEPTH));
    }
  }

  const posts = partsFor(kit, 'post');
  if (posts.length > 0) {
    const places = line.spacing === undefined ? spans : spacedOut(path, from, to, line.spacing, lean);
    const last = places.length - 1;
    places.forEach((s, i) => {
      if ((i === 0 && stretch.ends[0]) || (i === last && s >= to - 1e-6 && stretch.ends[1])) return;
      const at = pointAlong(path, s);
      const way = wayAt(path, s);
      if (!lean) at[1] = Math.max(baseOf(stretch, places[Math.max(0, i - 1)], s), baseOf(stretch, s, places[Math.min(last, i + 1)]));
      if (line.spacing !== undefined && stretch.level === undefined) at[1] = pointAlong(path, s)[1];
      const part = choose(posts, line.seed, [n, -2, i])!;
      const turn = turnOf(way[0], way[1]);
      const slot = `p${n}-${i}`;
      pieces.set(slot, pieceAt(slot, `post ${n + 1}.${i + 1}`, part, { at, turn: line.turned ? lookingBack(turn) : turn }));
    });
  }
  const last = spans.length - 1;
  const bases: [number, number] = lean
    ? [pointAlong(path, from)[1], pointAlong(path, to)[1]]
    : [baseOf(stretch, spans[0], spans[Math.min(last, 1)]), baseOf(stretch, spans[Math.max(0, last - 1)], spans[last])];
  return { pieces, filled, bases };
}

/** So far every other storey stands back behind the one under it, metres: its foot would flicker in the face of that. */
const SET_BACK = 0.005;

/** How much thinner a part is that stands back, as a share; what has no foot under its pivot does not. */
function setBack({ box: [low, high] }: Part): number {
  const half = Math.max(-low[2], high[2]);
  return low[1] < -0.01 && half > 0.02 ? Math.round((1 - SET_BACK / half) * 1e4) / 1e4 : 1;
}

/** A part under the foot of another, drawn out downwards: its top at a height, so deep. */
export function underFoot(piece: Piece, part: Part, top: number, depth: number): Piece {
  const [low, high] = part.box;
  const by = depth / Math.max(1e-3, high[1] - low[1]);
  return {
    ...piece,
    at: [piece.at[0], Math.round((top - high[1] * by) * 1e6) / 1e6, piece.at[2]],
    scale: [piece.scale?.[0] ?? 1, Math.min(100, Math.max(0.01, by)), 1],
  };
}

/** Which parts of a stretch are openings, by their places; one set by hand wins over the regular ones. */
function openingsOf(line: LaidLine, n: number, storey: number, cuts: readonly number[]): Map<number, LaidOpening['use']> {
  const out = new Map<number, LaidOpening['use']>();
  const count = cuts.length - 1;
  for (const { use, each, first, storey: only } of line.regular ?? []) {
    if (storey !== (only ?? (use === 'door' ? 0 : storey))) continue;
    for (let i = first; i < count; i += each) out.set(i, use);
  }
  for (const o of line.openings ?? []) {
    if (o.corner !== n || o.storey !== storey || count < 1 || o.along >= cuts[count] + 1e-6) continue;
    let i = 0;
    while (i + 1 < count && cuts[i + 1] <= o.along) i++;
    out.set(i, o.use);
  }
  return out;
}

function spacedOut(path: Path, from: number, to: number, spacing: number, lean: boolean): number[] {
  const out = [from];
  for (let s = reachFrom(path, from, spacing, lean); s <= to + 1e-6 && out.length < 20_000; s = reachFrom(path, s, spacing, lean)) out.push(Math.min(to, s));
  return out;
}

/** The way a path goes at a place, in plan, of unit length. */
export function wayAt(path: Path, s: number): [x: number, z: number] {
  const e = Math.min(0.05, path.length / 4);
  const [a, b] = [pointAlong(path, Math.max(0, s - e)), pointAlong(path, Math.min(path.length, s + e))];
  const [dx, dz] = [b[0] - a[0], b[2] - a[2]];
  const l = Math.sqrt(dx * dx + dz * dz) || 1;
  return [dx / l, dz / l];
}
