import type { LevelObject } from '../objects';
import type { LevelReader } from '../level';
import type { AddObjects } from './addObjects';
import type { RemoveObjects } from './removeObjects';
import type { SetFields } from './setFields';
import type { Stroke } from './stroke';

/** What applying an edit does: the new state of each object and tile it touched. */
export interface Changes {
  /** `undefined` removes the object */
  objects: Map<string, LevelObject | undefined>;
  /** `undefined` removes the tile (it was all zero) */
  tiles: Map<string, Int32Array | undefined>;
  /** of those tiles, the ones that are just what a stroke gave, packed and in base64 as it came: who stores them need not pack them again */
  given?: Map<string, string>;
}

/** Puts later changes over earlier ones. */
export function mergeChanges(into: Changes, later: Changes): void {
  for (const [id, object] of later.objects) into.objects.set(id, object);
  for (const [key, tile] of later.tiles) {
    into.tiles.set(key, tile);
    const given = later.given?.get(key);
    if (given !== undefined) (into.given ??= new Map()).set(key, given);
    else into.given?.delete(key);
  }
}

export type Applied<E> = { ok: true; changes: Changes; inverse: E } | { ok: false; code: string; message: string };

/** An edit that holds no others. */
export type SingleEdit = AddObjects | RemoveObjects | SetFields | Stroke;

/**
 * One kind of edit. A kind is one file that exports one of these, and one line in `index.ts`.
 *
 * `keys` names what the edit reads and writes: `o:<id>` a whole object, `o:<id>/<field>` one field,
 * `t:<tile key>` a tile. Two edits are disjoint when neither writes what the other reads or writes.
 */
export interface EditKind<E extends { kind: string }, Inverse = SingleEdit> {
  apply(level: LevelReader, edit: E): Applied<Inverse>;
  keys(edit: E): { reads: string[]; writes: string[] };
}

/** The single kinds by name. */
export type SingleKinds = { [E in SingleEdit as E['kind']]: EditKind<E> };

/** The kind of an edit, as a kind of just that edit. */
export const kindFor = <E extends SingleEdit>(kinds: SingleKinds, { kind }: E): EditKind<E> => kinds[kind] as unknown as EditKind<E>;

/** That an edit is not possible, with a stable code and words for the person. */
export const refuse = (code: string, message: string) => ({ ok: false as const, code, message });
/** Changes of nothing, to be filled. */
export const noChanges = (): Changes => ({ objects: new Map(), tiles: new Map() });
