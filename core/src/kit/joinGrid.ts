import type { Join, Kit, Part } from '../level/kinds/kit';
import type { Piece } from '../level/objects';
import { poseAxes, placer } from '../num/pose';
import { sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import { bentJoin } from './bend';

/** A join of a piece where it stands. */
export interface PlacedJoin {
  piece: Piece;
  kit: string;
  join: Join;
  at: Vec3;
  /** out of the piece, of unit length */
  way: Vec3;
}

/** Side of a cell of the grid, metres. */
const CELL = 1;

/** Joins of pieces by where they are. */
export interface JoinGrid {
  all: readonly PlacedJoin[];
  /** those no further off than so many metres */
  near(p: Vec3, within: number): PlacedJoin[];
}

/** The part that an asset is in some kit; the first kit by id that has it. */
export function partsByAsset(kits: readonly Kit[]): Map<string, { kit: string; part: Part }> {
  const out = new Map<string, { kit: string; part: Part }>();
  for (const kit of [...kits].sort((a, b) => (a.id < b.id ? -1 : 1)))
    for (const part of kit.parts) if (!out.has(part.asset)) out.set(part.asset, { kit: kit.id, part });
  return out;
}

/** Joins of one piece where it stands. */
export function joinsOf(piece: Piece, { kit, part }: { kit: string; part: Part }): PlacedJoin[] {
  if (part.joins.length === 0) return [];
  const place = placer(piece);
  const [x, , z] = poseAxes(piece);
  return part.joins.map((straight) => {
    const join = piece.bend ? bentJoin(piece.bend, straight) : straight;
    const [s, c] = sinCosDeg(join.turn);
    return { piece, kit, join, at: place(...join.at), way: [0, 1, 2].map((k) => x[k] * c - z[k] * s) as Vec3 };
  });
}

/** Joins of all pieces whose asset is a part of a kit. */
export function joinGrid(pieces: Iterable<Piece>, kits: readonly Kit[]): JoinGrid {
  const parts = partsByAsset(kits);
  const all: PlacedJoin[] = [];
  const cells = new Map<string, PlacedJoin[]>();
  const cell = (v: number): number => Math.floor(v / CELL);
  for (const piece of pieces) {
    const part = parts.get(piece.asset);
    if (!part) continue;
    for (const join of joinsOf(piece, part)) {
      all.push(join);
      const key = `${cell(join.at[0])},${cell(join.at[2])}`;
      const list = cells.get(key);
      if (list) list.push(join);
      else cells.set(key, [join]);
    }
  }
  const near = (p: Vec3, within: number): PlacedJoin[] => {
    const out: PlacedJoin[] = [];
    for (let cx = cell(p[0] - within); cx <= cell(p[0] + within); cx++)
      for (let cz = cell(p[2] - within); cz <= cell(p[2] + within); cz++)
        for (const j of cells.get(`${cx},${cz}`) ?? []) {
          const [dx, dy, dz] = [j.at[0] - p[0], j.at[1] - p[1], j.at[2] - p[2]];
          if (dx * dx + dy * dy + dz * dz <= within * within) out.push(j);
        }
    return out;
  };
  return { all, near };
}

/** Whether two joins may meet: each takes the other's kind. */
export const fits = (a: Join, b: Join): boolean => (a.fits ?? [a.kind]).includes(b.kind) && (b.fits ?? [b.kind]).includes(a.kind);
