import { crossing, signedArea } from '../../num/outline';
import type { Vec3 } from '../../num/vec';
import type { Kit } from '../kinds/kit';
import type { LaidCorner, LaidLine } from '../kinds/laidLine';
import type { Bend, Piece } from '../kinds/piece';
import type { PlantObject } from '../kinds/plant';
import { MOST_PARTS } from './fill';
import { atCorner, cornerPart, type CornerPart } from './layCorner';
import { layFloors } from './layFloors';
import { layRoof } from './layRoof';
import { FOUNDATION_DEPTH, layStretch, underFoot, wayAt, type LaidStretch, type Stretch } from './layStretch';
import { onPitch, outlineOf } from './outline';
import { choose, lookingBack, measure, partsFor, pieceAt, standing, turnOf } from './parts';
import { curvedPath, pointAlong, straightPath, type Path } from './path';

/** A house's floor lies over the highest ground it stands on by this, metres: the grass stays outside. */
export const OVER_GROUND = 0.02;

/** What became of one stretch of a line. */
export interface StretchFacts {
  /** number of the corner it starts at */
  corner: number;
  /** as drawn, metres in plan */
  length: number;
  parts: number;
  /** metres that no part fills */
  left: number;
}

/** A line as it is laid: of a kit's parts, or dressed with plants too. */
export interface Laid<P extends Piece | PlantObject = Piece | PlantObject> {
  /** by their places in the line, in its own axes; the same objects as before where they are as before */
  pieces: ReadonlyMap<string, P>;
  /** where its corners are once the remainder has moved them */
  corners: readonly Vec3[];
  stretches: readonly StretchFacts[];
  /** what could not be laid as asked, in words */
  faults: readonly string[];
  /** for the next time */
  kept: Kept;
}

interface Kept {
  kit?: Kit;
  /** all of the line that every stretch is laid by */
  whole: string;
  stretches: ReadonlyMap<number, { of: Stretch; openings: string; laid: LaidStretch }>;
}

/**
 * Lays a kit along a line: a pure function of the two and of the line's seed.
 *
 * @param before the same line as it was laid last: stretches that are as they were are taken over
 *
 * @example
 * const { pieces, stretches } = layLine(line, kit);
 * stretches.map((s) => s.left); // metres left over on each
 */
export function layLine(line: LaidLine, kit: Kit, before?: Laid): Laid<Piece> {
  const pieces = new Map<string, Piece>();
  const faults: string[] = [];
  const closed = line.closed === true && line.corners.length > 2;
  const counter = closed && signedArea(line.corners.map((c): [number, number] => [c.at[0], -c.at[2]])) > 0;
  // An outline looks outwards whichever way it was drawn.
  const turned = (line.turned === true) !== (closed && !counter);
  const own: LaidLine = { ...line, closed, turned };
  const corners = cornersOf(own, kit, counter);
  const paths = pathsOf(own, corners, before?.kept.stretches);
  const many = tooMany(own, kit, paths);
  if (many) return { pieces, corners, stretches: [], faults: [many], kept: { kit, whole: '', stretches: new Map() } };
  const house = closed && !line.curved && (line.floors === true || line.roof === true || line.stairs === true);
  const highest = paths.reduce((high, p) => Math.max(high, p.heights[1]), -Infinity);
  const level = line.slope === 'level' || house ? highest + OVER_GROUND : undefined;

  const turns = cornerParts(own, kit, corners, paths);
  const whole = JSON.stringify([line.seed, line.slope, line.remainder, line.storeys, line.bent === true, line.regular, line.spacing, turned, house]);
  const same = before?.kept.kit === kit && before.kept.whole === whole ? before.kept.stretches : undefined;
  const kept = new Map<number, { of: Stretch; openings: string; laid: LaidStretch }>();
  const facts: StretchFacts[] = [];
  const laidOf: LaidStretch[] = [];
  paths.forEach((path, i) => {
    const [start, end] = [turns[i], turns[(i + 1) % corners.length]];
    const curved = line.curved === true;
    const of: Stretch = {
      path,
      from: curved ? 0 : (start?.reach[1] ?? 0),
      to: path.length - (curved ? 0 : (end?.reach[0] ?? 0)),
      level,
      zero: line.corners[0].at[1],
      ends: curved ? [false, closed] : [i > 0 || closed || start !== undefined, end !== undefined],
    };
    const openings = JSON.stringify(line.openings?.filter((o) => o.corner === path.n) ?? []);
    const was = same?.get(path.n);
    const laid = was && was.openings === openings && sameStretch(was.of, of) ? was.laid : layStretch(own, kit, of);
    kept.set(path.n, { of, openings, laid });
    laidOf.push(laid);
    for (const [slot, piece] of laid.pieces) pieces.set(slot, piece);
    const { filled } = laid;
    facts.push({ corner: path.n, length: path.length, parts: filled.cuts.length - 1 + (filled.filler === undefined ? 0 : 1), left: filled.left });
    if (filled.why) faults.push(`${filled.why}: its ${filled.left.toFixed(2)} m are left`);
  });

  const short = tooShort(own, kit, facts);
  if (short) faults.push(short);
  const crosses = closed && !line.curved ? crossing(corners.map((c): [number, number] => [c[0], c[2]])) : undefined;
  if (crosses) faults.push(`the outline crosses itself: stretch ${crosses[0] + 1} meets stretch ${crosses[1] + 1}; move a corner between them`);

  if (!line.curved) layCorners({ line: own, kit, corners, turns, laidOf, pieces });
  if (!closed) layEnds({ line: own, kit, paths, laidOf, pieces });
  if (house) {
    const outline = outlineOf(corners, counter);
    const put = (p: Piece) => void pieces.set(p.id, p);
    faults.push(...layFloors({ line, kit, outline, y: level!, put }));
    const fault = line.roof ? layRoof({ kit, seed: line.seed, outline, y: level! + line.storeys * kit.storey, put }) : undefined;
    if (fault) faults.push(fault);
  } else if (line.floors || line.roof || line.stairs) faults.push('floors, stairs and roofs are laid over closed outlines with corners');

  if (before)
    for (const [slot, piece] of pieces) {
      const was = before.pieces.get(slot);
      if (was?.kind === 'piece' && samePiece(was, piece)) pieces.set(slot, was);
    }
  return { pieces, corners, stretches: facts, faults, kept: { kit, whole, stretches: kept } };
}

/** What is wrong where a line would take more parts than are made. */
function tooMany({ storeys, spacing }: LaidLine, kit: Kit, paths: readonly Path[]): string | undefined {
  const length = paths.reduce((sum, p) => sum + p.length, 0);
  const [wall] = partsFor(kit, 'wall');
  const count = (wall ? (length / measure(wall).length) * Math.max(1, storeys) : 0) + (spacing ? length / spacing : 0);
  return count > MOST_PARTS
    ? `${length.toFixed(0)} m take ${Math.ceil(count)} parts and ${MOST_PARTS} are the most: use longer parts, or several lines`
    : undefined;
}

/** What is wrong where no stretch of a line has room for a single wall. */
function tooShort({ storeys }: LaidLine, kit: Kit, facts: readonly StretchFacts[]): string | undefined {
  const lengths = partsFor(kit, 'wall').map((p) => measure(p).length);
  const longest = facts.reduce((most, f) => Math.max(most, f.length), 0);
  if (storeys === 0 || lengths.length === 0 || longest === 0 || facts.some((f) => f.parts > 0)) return undefined;
  const least = Math.min(...lengths).toFixed(2);
  return `its longest stretch is ${longest.toFixed(2)} m and the shortest wall of ${kit.name} takes ${least} m: draw it larger, or take shorter parts`;
}

function cornersOf(line: LaidLine, kit: Kit, counter: boolean): Vec3[] {
  const drawn = line.corners.map((c): Vec3 => [...c.at]);
  if (line.remainder !== 'corner' || line.curved || line.slope === 'lean') return drawn;
  const [wall] = partsFor(kit, 'wall');
  return onPitch(drawn, line.closed === true, counter, wall ? measure(wall).length : kit.pitch);
}

function pathsOf(line: LaidLine, corners: readonly Vec3[], before?: Kept['stretches']): Path[] {
  if (line.curved) return [curvedPath(line)];
  const count = line.closed ? corners.length : corners.length - 1;
  return Array.from({ length: count }, (_, i) => {
    const next = (i + 1) % corners.length;
    const [a, b] = [line.corners[i], line.corners[next]];
    return straightPath([a, b], corners[i], corners[next], before?.get(a.n)?.of.path);
  });
}

/** The part at each corner, nothing at the ends of an open line and where two corners are at one place. */
function cornerParts(line: LaidLine, kit: Kit, corners: readonly Vec3[], paths: readonly Path[]): (CornerPart | undefined)[] {
  if (line.curved || line.storeys === 0) return [];
  return corners.map((_, i) => {
    const come = paths[line.closed ? (i + paths.length - 1) % paths.length : i - 1];
    const go = paths[i];
    if (!come || !go || come.length < 1e-6 || go.length < 1e-6) return undefined;
    return cornerPart(kit, line, line.corners[i].n, wayAt(come, come.length), wayAt(go, 0));
  });
}

interface Corners {
  line: LaidLine;
  kit: Kit;
  corners: readonly Vec3[];
  turns: readonly (CornerPart | undefined)[];
  laidOf: readonly LaidStretch[];
  pieces: Map<string, Piece>;
}

function layCorners({ line, kit, corners, turns, laidOf, pieces }: Corners): void {
  turns.forEach((turn, i) => {
    if (!turn) return;
    const { n } = line.corners[i];
    const come = laidOf[(i + laidOf.length - 1) % laidOf.length];
    const go = laidOf[i];
    const y = Math.max(come.bases[1], go.bases[0]);
    for (let storey = 0; storey < line.storeys; storey++) {
      const up = storey > 0 ? `, storey ${storey + 1}` : '';
      const pose = atCorner(turn, [corners[i][0], y + storey * kit.storey, corners[i][2]]);
      pieces.set(`k${n}-${storey}`, pieceAt(`k${n}-${storey}`, `corner ${n + 1}${up}`, turn.part, pose));
    }
    const foot = y + Math.min(0, turn.part.box[0][1]);
    const low = heightAt(line.corners[i], corners[i]);
    if (line.slope === 'lean' || foot - low < 0.01) return;
    const under = pieceAt(`fk${n}`, `foundation of corner ${n + 1}`, turn.part, atCorner(turn, corners[i]));
    pieces.set(`fk${n}`, underFoot(under, turn.part, foot, foot - low + FOUNDATION_DEPTH));
  });
}

const heightAt = (corner: LaidCorner, at: Vec3): number => corner.ground?.[0] ?? at[1];

function layEnds({
  line,
  kit,
  paths,
  laidOf,
  pieces,
}: {
  line: LaidLine;
  kit: Kit;
  paths: readonly Path[];
  laidOf: readonly LaidStretch[];
  pieces: Map<string, Piece>;
}): void {
  const ends = partsFor(kit, 'end');
  if (ends.length === 0 || paths.length === 0 || line.storeys === 0) return;
  for (const end of [0, 1] as const) {
    const i = end === 0 ? 0 : paths.length - 1;
    const path = paths[i];
    const { bases, filled } = laidOf[i];
    const s = end === 0 ? 0 : (filled.filler ?? filled.cuts[filled.cuts.length - 1]);
    const [dx, dz] = wayAt(path, s);
    const part = choose(ends, line.seed, [end, 0, -4])!;
    const turn = turnOf(dx, dz);
    for (let storey = 0; storey < line.storeys; storey++) {
      const at = pointAlong(path, s);
      at[1] = bases[end] + storey * kit.storey;
      // An end looks out of the line with its own x, and its left side is where the line ends.
      const pose = standing({ at, turn: end === 0 ? lookingBack(turn) : turn }, measure(part).left);
      const slot = `e${end}-${storey}`;
      pieces.set(slot, pieceAt(slot, `end ${end + 1}${storey > 0 ? `, storey ${storey + 1}` : ''}`, part, pose));
    }
  }
}

function sameStretch(a: Stretch, b: Stretch): boolean {
  if (a.from !== b.from || a.to !== b.to || a.level !== b.level || a.zero !== b.zero || a.ends[0] !== b.ends[0] || a.ends[1] !== b.ends[1]) return false;
  // A path that is made from the same is the same one.
  return a.path === b.path;
}

const sameNumbers = (a: readonly number[] | undefined, b: readonly number[] | undefined): boolean =>
  a === b || (a !== undefined && b !== undefined && a.every((v, i) => v === b[i]));

const sameBend = (a: Bend | undefined, b: Bend | undefined): boolean =>
  a === b ||
  (a !== undefined &&
    b !== undefined &&
    a.length === b.length &&
    a.run === b.run &&
    a.rise === b.rise &&
    sameNumbers(a.at, b.at) &&
    sameNumbers(a.side, b.side) &&
    sameNumbers(a.slope, b.slope));

const samePiece = (a: Piece, b: Piece): boolean =>
  a === b ||
  (a.asset === b.asset &&
    a.name === b.name &&
    a.turn === b.turn &&
    sameNumbers(a.at, b.at) &&
    sameNumbers(a.tilt, b.tilt) &&
    sameNumbers(a.scale, b.scale) &&
    sameBend(a.bend, b.bend));
