import { fits, joinGrid, type PlacedJoin } from '../kit/joinGrid';
import { isMade, ownerOf } from '../level/instance';
import { dot, sub } from '../num/vec';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Joins this near each other, and looking at each other, are meant to meet, metres. */
const MEANT = 0.5;
/** Joins meet within this, metres. */
export const MEET = 1e-3;

/** What is laid along one line may stand on steps: a difference in height alone is meant there. */
const steps = (a: PlacedJoin, b: PlacedJoin): boolean => isMade(a.piece.id) && ownerOf(a.piece.id) === ownerOf(b.piece.id);

/** How far two joins are apart along the way out of the first (into each other below 0), and aside of it. */
function apart(a: PlacedJoin, b: PlacedJoin): { along: number; aside: number } {
  const by = sub(b.at, a.at);
  const along = dot(by, a.way);
  const flat = steps(a, b) ? [by[0], 0, by[2]] : by;
  return { along, aside: Math.sqrt(Math.max(0, flat[0] ** 2 + flat[1] ** 2 + flat[2] ** 2 - along * along)) };
}

const far = ({ along, aside }: { along: number; aside: number }): number => Math.sqrt(along * along + aside * aside);

/** Parts of kits whose joins nearly meet and do not, or meet what they do not take. */
export function joinFit({ pieces, kits }: Pick<SnagInput, 'pieces' | 'kits'>): Snag[] {
  if (kits.length === 0) return [];
  const grid = joinGrid(pieces, kits);
  /** what each join looks at, nearest first, and how far off that is */
  const seen = new Map<PlacedJoin, { other: PlacedJoin; off: number }>();
  for (const a of grid.all) {
    for (const b of grid.near(a.at, MEANT)) {
      if (b.piece.id === a.piece.id || dot(a.way, b.way) > -0.95) continue;
      const off = far(apart(a, b));
      const known = seen.get(a);
      if (!known || off < known.off) seen.set(a, { other: b, off });
    }
  }
  const out: Snag[] = [];
  for (const [a, { other: b, off }] of seen) {
    const back = seen.get(b);
    // Each pair once, and none where one of the two meets something else.
    if (back?.other !== a || a.piece.id > b.piece.id) continue;
    const names = `${a.piece.name} and ${b.piece.name}`;
    const at = { at: a.at, object: a.piece.id };
    if (off > MEET) {
      const { along, aside } = apart(a, b);
      const mm = (v: number) => `${(Math.abs(v) * 1000).toFixed(0)} mm`;
      const how =
        aside > Math.abs(along) ? `lie ${mm(aside)} aside of each other` : along > 0 ? `have a gap of ${mm(along)}` : `lie ${mm(along)} into each other`;
      out.push({
        code: 'join-apart',
        severity: 'warning',
        message: `${names} ${how} where they join`,
        mend: `move ${b.piece.name} so that they meet, or the line it is laid along`,
        ...at,
      });
    } else if (!fits(a.join, b.join))
      out.push({
        code: 'join-misfit',
        severity: 'warning',
        message: `${names} meet, and ${a.join.kind} does not take ${b.join.kind}`,
        mend: 'use a part between them that takes both, or say in the kit that they fit',
        ...at,
      });
  }
  return [...out, ...openEnds(grid.all, kits, seen)];
}

/** Sides of walls that meet nothing, of kits that have a part to end them with. What is laid has its ends laid. */
function openEnds(all: readonly PlacedJoin[], kits: SnagInput['kits'], seen: ReadonlyMap<PlacedJoin, unknown>): Snag[] {
  const ended = new Map(kits.filter((k) => k.parts.some((p) => p.use === 'end')).map((k) => [k.id, k]));
  if (ended.size === 0) return [];
  return all.flatMap((j): Snag[] => {
    const use = ended.get(j.kit)?.parts.find((p) => p.asset === j.piece.asset)?.use;
    if (seen.has(j) || isMade(j.piece.id) || (use !== 'wall' && use !== 'door' && use !== 'window')) return [];
    return [
      {
        code: 'join-open',
        severity: 'warning',
        message: `${j.piece.name} ends in the open at ${j.at[0].toFixed(1)}, ${j.at[2].toFixed(1)}`,
        mend: 'set an end of the kit there, or go on with another part',
        at: j.at,
        object: j.piece.id,
      },
    ];
  });
}
