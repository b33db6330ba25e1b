import { hashUnit } from '../../num/hash';
import { atan2Deg } from '../../num/trig';
import { normalize, type Vec3 } from '../../num/vec';
import type { LaidCorner, LaidLine, LineDressing } from '../kinds/laidLine';
import type { Piece } from '../kinds/piece';
import type { PlantObject } from '../kinds/plant';
import { drawn, standingOn, type Surface } from './dressed';
import { MOST_PARTS } from './fill';
import type { Laid, StretchFacts } from './layLine';
import { curvedPath, pointAlong, straightPath, type Path } from './path';

/** Over this length the way of a line is taken, metres. */
const AHEAD = 0.05;

/**
 * Sets pieces and plants along a line: a whole number of them on each stretch, off their even places as far as they may
 * be loose. A pure function of the line: what stands on a stretch stays while other corners move.
 *
 * @param before the same line as it was laid last: what is as it was is taken over
 */
export function layDressed(line: LaidLine & { dress: LineDressing }, before?: Laid): Laid {
  const { dress } = line;
  const closed = line.closed === true && line.corners.length > 2;
  const corners = line.corners.map((c): Vec3 => [...c.at]);
  const pieces = new Map<string, Piece | PlantObject>();
  const stretches: StretchFacts[] = [];
  const kept: Laid['kept'] = { whole: '', stretches: new Map() };
  const list = [...dress.pieces, ...dress.plants].filter((l) => l.weight > 0);
  const paths = pathsOf({ ...line, closed });
  const counts = paths.map((p) => Math.max(1, Math.round(p.middle.length / dress.spacing)));
  const total = counts.reduce((sum, n) => sum + n, 0);
  const fault =
    list.length === 0
      ? 'nothing stands along it yet: put pieces or plants into its list'
      : total > MOST_PARTS
        ? `${total} would stand along it and ${MOST_PARTS} are the most: set them farther apart, or draw several lines`
        : undefined;
  if (fault) return { pieces, corners, stretches, faults: [fault], kept };

  paths.forEach(({ middle, borders }, k) => {
    const count = counts[k];
    stretches.push({ corner: middle.n, length: middle.length, parts: count, left: 0 });
    for (let i = 0; i < count; i++) {
      const draw = (what: number): number => hashUnit(line.seed, middle.n * 65_537 + i, what);
      const along = ((i + 0.5 + (draw(0) - 0.5) * dress.loose) / count) * middle.length;
      const of = drawn(list, draw(2));
      const { at, normal, ahead } = placeAt(middle, borders, dress.aside, along, draw(1));
      const slot = `m${middle.n}-${i}`;
      const { sink, ...pose } = standingOn(dress, { at, normal }, ahead, draw);
      const made = 'species' in of ? plantAt(slot, of, pose) : pieceAt(slot, of.asset, { ...pose, sink });
      const was = before?.pieces.get(slot);
      pieces.set(slot, was && JSON.stringify(was) === JSON.stringify(made) ? was : made);
    }
  });
  return { pieces, corners, stretches, faults: [], kept };
}

/** `m3-0` is the first of the stretch after the fourth corner. */
const nameOf = (slot: string): string => {
  const [n, i] = slot.slice(1).split('-');
  return `${Number(n) + 1}.${Number(i) + 1}`;
};

const pieceAt = (id: string, asset: string, pose: Pick<Piece, 'at' | 'turn' | 'tilt' | 'scale' | 'sink'>): Piece => ({
  id,
  version: 1,
  kind: 'piece',
  name: nameOf(id),
  asset,
  collider: 'asset',
  hidden: false,
  out: false,
  ...pose,
});

function plantAt(id: string, of: LineDressing['plants'][number], { scale = [1, 1, 1], ...pose }: Pick<Piece, 'at' | 'turn' | 'tilt' | 'scale'>): PlantObject {
  const size = scale.map((s) => Math.min(100, Math.max(0.01, s * of.scale))) as Vec3;
  const even = size[0] === size[1] && size[1] === size[2];
  return {
    id,
    version: 1,
    kind: 'plant',
    name: nameOf(id),
    species: of.species,
    scale: even ? size[0] : size,
    gone: false,
    hidden: false,
    out: false,
    ...pose,
  };
}

interface Way {
  middle: Path;
  /** the same way at the heights of either border */
  borders?: readonly [Path, Path];
}

/** Every stretch of a line, the whole of it where it is curved. */
function pathsOf(line: LaidLine): Way[] {
  const beside = line.corners.every((c) => !c.ground || c.beside);
  const withHeights = (side: 0 | 1): LaidCorner[] => line.corners.map((c) => ({ ...c, ground: c.beside?.[side] ?? c.ground }));
  const sides = beside ? ([withHeights(0), withHeights(1)] as const) : undefined;
  if (line.curved) {
    const of = (corners: LaidCorner[]) => curvedPath({ corners, closed: line.closed });
    return [{ middle: of(line.corners), ...(sides ? { borders: [of(sides[0]), of(sides[1])] as const } : {}) }];
  }
  const count = line.closed ? line.corners.length : line.corners.length - 1;
  return Array.from({ length: count }, (_, i): Way => {
    const next = (i + 1) % line.corners.length;
    const of = (corners: readonly LaidCorner[]) => straightPath([corners[i], corners[next]], corners[i].at, corners[next].at);
    return { middle: of(line.corners), ...(sides ? { borders: [of(sides[0]), of(sides[1])] as const } : {}) };
  });
}

/** A place beside a way, on the ground there: between the heights of the borders, or at that of the way itself. */
function placeAt(middle: Path, borders: Way['borders'], [low, high]: LineDressing['aside'], along: number, share: number): Surface & { ahead: number } {
  const from = pointAlong(middle, Math.max(0, along - AHEAD));
  const to = pointAlong(middle, Math.min(middle.length, along + AHEAD));
  const [dx, , dz] = normalize([to[0] - from[0], 0, to[2] - from[2]]);
  const aside = low + (high - low) * share;
  const at = pointAlong(middle, along);
  // To the right hand of the way that goes along (dx, dz), z running south.
  const right: Vec3 = [-dz, 0, dx];
  const run = to[0] !== from[0] || to[2] !== from[2] ? Math.sqrt((to[0] - from[0]) ** 2 + (to[2] - from[2]) ** 2) : 1;
  let slope: Vec3 = [-((to[1] - from[1]) / run) * dx, 1, -((to[1] - from[1]) / run) * dz];
  let y = at[1];
  if (borders) {
    const [a, b] = [pointAlong(borders[0], along)[1], pointAlong(borders[1], along)[1]];
    y = a + (b - a) * share;
    const across = high > low ? (b - a) / (high - low) : 0;
    slope = [slope[0] - across * right[0], 1, slope[2] - across * right[2]];
  }
  return { at: [at[0] + right[0] * aside, y, at[2] + right[2] * aside], normal: normalize(slope), ahead: atan2Deg(-dz, dx) };
}
