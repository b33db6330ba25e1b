import { assetBounds } from '../kit/asset';
import { isMade } from '../level/instance';
import type { Piece } from '../level/objects';
import { unitRotation, rotationOf, wrapDeg } from '../num/pose';
import type { Vec3 } from '../num/vec';
import { BoxIndex } from './boxIndex';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Two of one asset are doubled within so many metres, degrees and shares of their size. */
const SAME = { metres: 0.01, degrees: 1, size: 0.01 };
/** Two are twins to the eye within this. */
const ALIKE = { degrees: 8, size: 0.05 };
/** Twins are seen together within this, metres, and for the large within so many times their size. */
const TOGETHER = 10;

const scaleOf = (p: Piece): Vec3 => p.scale ?? [1, 1, 1];
const sized = (a: Piece, b: Piece, by: number): boolean => scaleOf(a).every((v, k) => Math.abs(v - scaleOf(b)[k]) <= by * Math.max(v, scaleOf(b)[k]));

/** Degrees between how two things stand. */
function between(a: Piece, b: Piece): number {
  if (!a.tilt && !b.tilt) return Math.abs(wrapDeg(a.turn - b.turn));
  const [p, q] = [unitRotation(rotationOf(a)), unitRotation(rotationOf(b))];
  const same = Math.abs(p.reduce((sum, v, k) => sum + v * q[k], 0));
  return same > 1 - 1e-9 ? 0 : 2 * Math.acos(Math.min(1, same)) * (180 / Math.PI);
}

const point = (p: Piece) => ({ min: p.at, max: p.at });
const apart = (a: Piece, b: Piece): number => Math.sqrt((a.at[0] - b.at[0]) ** 2 + (a.at[1] - b.at[1]) ** 2 + (a.at[2] - b.at[2]) ** 2);

/** Pieces by their assets, each with an index of where they stand. */
function byAsset(pieces: readonly Piece[]): { list: Piece[]; index: BoxIndex }[] {
  const lists = new Map<string, Piece[]>();
  for (const p of pieces) {
    const list = lists.get(p.asset);
    if (list) list.push(p);
    else lists.set(p.asset, [p]);
  }
  return [...lists.values()].filter((l) => l.length > 1).map((list) => ({ list, index: new BoxIndex(list.map(point)) }));
}

/** Two of the same mesh in the same place: one is seen, both are paid for. */
export function doubled({ pieces }: Pick<SnagInput, 'pieces'>): Snag[] {
  return byAsset(pieces).flatMap(({ list, index }) =>
    list.flatMap((p, i): Snag[] => {
      const first = index
        .touching(point(p), SAME.metres)
        .find((j) => j < i && apart(p, list[j]) <= SAME.metres && between(p, list[j]) <= SAME.degrees && sized(p, list[j], SAME.size));
      return first === undefined
        ? []
        : [
            {
              code: 'piece-doubled',
              severity: 'warning',
              message: `${p.name} stands where ${list[first].name} does`,
              mend: 'delete one of them',
              at: p.at,
              object: p.id,
            },
          ];
    }),
  );
}

/** Props that stand near others of the same mesh in the same way and size: the eye finds the repetition. One finding a cluster. */
export function twins({ pieces, assets }: Pick<SnagInput, 'pieces' | 'assets'>): Snag[] {
  // What is laid, and parts of a kit, repeat by design.
  const loose = pieces.filter((p) => assets.get(p.asset)?.role === 'prop' && !isMade(p.id));
  return byAsset(loose).flatMap(({ list, index }) => {
    const { min, max } = assetBounds(assets.get(list[0].asset)!);
    const reach = Math.max(TOGETHER, 3 * Math.max(max[0] - min[0], max[1] - min[1], max[2] - min[2]));
    const left = new Set(list.keys());
    return list.flatMap((p, i): Snag[] => {
      if (!left.delete(i)) return [];
      const others = index
        .touching(point(p), reach)
        .filter(
          (j) =>
            left.has(j) &&
            apart(p, list[j]) <= reach &&
            apart(p, list[j]) > SAME.metres &&
            between(p, list[j]) <= ALIKE.degrees &&
            sized(p, list[j], ALIKE.size),
        )
        .sort((a, b) => a - b);
      for (const j of others) left.delete(j);
      return others.length === 0
        ? []
        : [
            {
              code: 'piece-twins',
              severity: 'warning',
              message:
                `${p.name} and ${others.length === 1 ? list[others[0]].name : `${others.length} others of it`} ` +
                `stand the same way round within ${reach.toFixed(0)} m`,
              mend: 'turn, size or swap one of them: they are seen together',
              at: p.at,
              object: p.id,
            },
          ];
    });
  });
}
