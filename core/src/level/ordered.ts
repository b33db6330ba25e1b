import type { AnyEditBody } from './edits/index';
import type { LevelObject } from './objects';

/** An object that has a place in a list of its kind, the lowest order first. */
export type Ordered = Extract<LevelObject, { order: number }>;

/** Orders of a list are so far apart. */
const APART = 10;

type SetPatches = Extract<AnyEditBody, { kind: 'set' }>['patches'];

/** Patches that give the objects of a list the orders of their places; those that have them already are left out. */
function reordered(list: readonly Ordered[]): SetPatches {
  return list.flatMap((o, i) => (o.order === i * APART ? [] : [{ id: o.id, set: { order: i * APART } }]));
}

/** Adds an object at a place of its list, 0 the lowest. */
export function insertInOrder(list: readonly Ordered[], object: Ordered, at: number): AnyEditBody {
  const next = [...list.slice(0, at), object, ...list.slice(at)];
  const patches = reordered(next).filter((p) => p.id !== object.id);
  const add: AnyEditBody = { kind: 'add', objects: [{ ...object, order: at * APART }] };
  return patches.length === 0 ? add : { kind: 'together', parts: [{ kind: 'set', patches }, add] };
}

/** Moves an object to a place of its list, 0 the lowest; `undefined` where it is there already. */
export function moveInOrder(list: readonly Ordered[], id: string, to: number): AnyEditBody | undefined {
  const object = list.find((o) => o.id === id);
  if (!object) return undefined;
  const rest = list.filter((o) => o.id !== id);
  const next = [...rest.slice(0, to), object, ...rest.slice(to)];
  if (next.every((o, i) => o.id === list[i].id)) return undefined;
  const patches = reordered(next);
  return patches.length === 0 ? undefined : { kind: 'set', patches };
}
