import type { z } from 'zod';
import type { Channel } from '../tiles';

/**
 * What of a level an object bears on: the solids that stand, the heights of the ground, what it is made of, things
 * that stand on it, what lies on these, plants, what covers the ground round the eye, water, the light it is seen in, what play goes by
 * (markers, bodies, bounds), and what only people read. What follows a change is asked of these, not of a list of kinds.
 */
export const ASPECTS = ['solid', 'earth', 'surface', 'standing', 'coats', 'plants', 'cover', 'water', 'lighting', 'markers', 'notes'] as const;
export type Aspect = (typeof ASPECTS)[number];

type V2 = [x: number, z: number];
type V3 = [x: number, y: number, z: number];

/** A level moved in plan: metres, and the points it moves. */
export interface Shift {
  dx: number;
  dz: number;
  p2(p: V2): V2;
  p3(p: V3): V3;
}

/** A move in plan by metres. */
export const shiftBy = (dx: number, dz: number): Shift => ({ dx, dz, p2: ([x, z]) => [x + dx, z + dz], p3: ([x, y, z]) => [x + dx, y, z + dz] });

/**
 * A kind of object: all the document knows of it. One file a kind, one line in `kinds/index`; parsing, references,
 * other sizes of a level, rasters and what follows a change are derived from these.
 */
export interface Kind<S extends z.ZodType = z.ZodType> {
  schema: S;
  aspects: readonly Aspect[];
  /**
   * What it names by a field of its own, and of which kind that is. What is `needed` it cannot be without: an edit that
   * leaves it without is refused, and a package that holds one does not open. Others may be gone: readers cope.
   */
  names?: Readonly<Record<string, { kind: string; needed?: boolean }>>;
  /** It, moved in plan with its level. A kind without stands nowhere. */
  shift?(object: z.infer<S>, by: Shift): z.infer<S>;
  /** Where it stands, metres, for those that are missed where they lie outside the level. */
  place?(object: z.infer<S>): readonly [x: number, y: number, z: number];
  /** It stands at a pose (`at`, `turn`, and where it has them `tilt` and `scale`): it can be grouped, copied with an assembly, locked, hidden and taken out. */
  stands?: true;
  /** Channels of its raster tiles. */
  channels?(object: z.infer<S>): readonly Channel[];
}

/**
 * A kind, its parts checked against its schema.
 *
 * @example
 * export const noteKind = kind({ schema: note, aspects: ['notes'], shift: (o, { p3 }) => ({ ...o, at: p3(o.at) }) });
 */
export const kind = <S extends z.ZodType>(of: Kind<S>): Kind<S> => of;

/** A kind of things that stand, see `Kind.stands`. */
export const standingKind = <S extends z.ZodType>(of: Kind<S>): Kind<S> & { stands: true } => ({ ...of, stands: true });
