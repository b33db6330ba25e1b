import { blockGrid } from '@rammer/core/block/grid';
import { meshGrid } from '@rammer/core/block/placedMesh';
import { blockSolid } from '@rammer/core/block/solid';
import { assetBounds } from '@rammer/core/kit/asset';
import { ownerOf } from '@rammer/core/level/copies';
import type { Block, CopyObject, Piece, PlantObject } from '@rammer/core/level/objects';
import { sinCosDeg } from '@rammer/core/num/trig';
import type { Vec3 } from '@rammer/core/num/vec';
import { groundAt } from '@rammer/core/surface/groundAt';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { unlocked } from './blockActions';
import { newId, nextName } from './names';
import { withPivots } from './pivots';

/** What can be selected and moved: a block, a copy of an assembly, a piece, a plant set by hand. Each action is one edit. */
export type Thing = Block | CopyObject | Piece | PlantObject;

export const mm = (v: number): number => Math.round(v * 1000) / 1000;
export const isThing = (o: { kind: string } | undefined): o is Thing => o?.kind === 'block' || o?.kind === 'copy' || o?.kind === 'piece' || o?.kind === 'plant';

export function things(session: Session, ids: readonly string[] = useUi.getState().selection): Thing[] {
  return ids.flatMap((id) => {
    const o = session.level.object(id);
    return isThing(o) ? [o] : [];
  });
}

export const many = (list: readonly Thing[]): string => (list.length === 1 ? list[0].name : `${list.length} things`);

export function setThings(session: Session, list: readonly Thing[], set: (thing: Thing) => Record<string, unknown>, verb: string): boolean {
  const free = unlocked(session, list);
  if (free.length === 0) return false;
  return session.commit({ kind: 'set', patches: withPivots(session, free.map((t) => ({ id: t.id, set: set(t) }))) }, `${verb} ${many(free)}`);
}

export function moveThings(session: Session, ids: readonly string[], by: Vec3): void {
  setThings(session, things(session, ids), (t) => ({ at: [mm(t.at[0] + by[0]), mm(t.at[1] + by[1]), mm(t.at[2] + by[2])] }), 'move');
}

/** A plant that was generated once stays away when it is deleted: it becomes one that is gone. */
export function removeThings(session: Session): void {
  const list = unlocked(session, things(session));
  const kept = list.filter((t): t is PlantObject => t.kind === 'plant' && (t.from !== undefined || t.was !== undefined));
  const gone = list.filter((t) => !kept.includes(t as PlantObject));
  if (list.length === 0) return;
  const done = (kept.length === 0 || setThings(session, kept, () => ({ gone: true }), 'remove')) && (gone.length === 0 || session.commit({ kind: 'remove', ids: gone.map((t) => t.id) }, `delete ${many(gone)}`));
  if (done) useUi.getState().select([]);
}

/** Copies stand one snap step (pieces: a cell) beside their originals and are selected. */
export function duplicateThings(session: Session): void {
  const list = things(session);
  const by = list.some((t) => t.kind === 'piece') ? 2 : Math.max(0.5, useUi.getState().snap);
  copyThings(session, list, [by, 0, list.some((t) => t.kind === 'piece') ? 0 : by]);
}

/** Copies at a distance from their originals, selected: one edit. */
export function copyThings(session: Session, list: readonly Thing[], by: Vec3): void {
  if (list.length === 0) return;
  const next = new Map<string, number>();
  const copies = list.map((t) => {
    const word = t.kind === 'block' && t.name.startsWith(t.shape) ? `${t.shape}${t.op === 'void' ? ' void' : ''}` : t.name.replace(/ \d+$/, '');
    const n = next.get(word) ?? Number(/\d+$/.exec(nextName(session.level, word))![0]);
    next.set(word, n + 1);
    const { from: _, ...rest } = t as PlantObject;
    return { ...rest, id: newId(t.kind), version: 1, name: `${word} ${n}`, at: [mm(t.at[0] + by[0]), mm(t.at[1] + by[1]), mm(t.at[2] + by[2])] as Vec3 } as Thing;
  });
  if (session.commit({ kind: 'add', objects: copies }, `duplicate ${many(list)}`)) useUi.getState().select(copies.map((c) => c.id));
}

/** The points a thing stands on, in the level. */
function feetOf(session: Session, t: Thing): Vec3[] {
  if (t.kind === 'block') return [...blockSolid(t).corners.slice(0, 4), t.at];
  const asset = t.kind === 'piece' ? session.made.assets.get(t.asset) : undefined;
  if (!asset) return [t.at];
  const { min, max } = assetBounds(asset);
  const [s, c] = sinCosDeg(t.turn);
  return [[min[0], min[2]], [max[0], min[2]], [max[0], max[2]], [min[0], max[2]], [0, 0]].map(([x, z]): Vec3 => [t.at[0] + c * x + s * z, t.at[1], t.at[2] - s * x + c * z]);
}

/** Drops each thing onto what is below it: a block at its corners, a piece at its pivot less how far it is sunk. */
export function dropThings(session: Session): void {
  const list = things(session);
  const ids = new Set(list.map((t) => t.id));
  const grid = blockGrid(session.blocks.filter((b) => !ids.has(ownerOf(b.id))));
  const meshes = meshGrid(session.made.placed.filter((m) => !ids.has(ownerOf(m.id))));
  setThings(session, list, (t) => {
    // A piece may be sunk; it is looked for from its own height plus that.
    const from = t.at[1] + 0.001 + (t.kind === 'piece' ? Math.max(0, t.sink) + 0.5 : t.kind === 'plant' || t.kind === 'copy' ? 2 : 0);
    const feet = t.kind === 'block' ? feetOf(session, t) : [t.at];
    const host = Math.max(...feet.map((p) => groundAt(session.terrain, grid, [p[0], from, p[2]], { meshes }).height));
    return { at: [t.at[0], mm(host - (t.kind === 'piece' ? t.sink : 0)), t.at[2]] };
  }, 'drop');
}

/** What a lock does not keep from: whether a thing is seen, and whether it is in the level. */
const setLoose = (session: Session, list: readonly Thing[], set: Record<string, boolean>, verb: string): boolean =>
  list.length > 0 && session.commit({ kind: 'set', patches: list.map((t) => ({ id: t.id, set })) }, `${verb} ${many(list)}`);

const canHide = (t: Thing): t is Block | CopyObject | Piece => t.kind !== 'plant';

export const hideThings = (session: Session): void => {
  const list = things(session).filter(canHide);
  const hidden = !list.every((t) => t.hidden);
  setLoose(session, list, { hidden }, hidden ? 'hide' : 'show');
};

export const takeOutThings = (session: Session): void => {
  const list = things(session).filter(canHide);
  const out = !list.every((t) => t.out);
  setLoose(session, list, { out }, out ? 'take out' : 'put back');
};
