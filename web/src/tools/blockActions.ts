import { blockGrid } from '@rammer/core/block/grid';
import { blockSolid } from '@rammer/core/block/solid';
import type { Block } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { groundAt } from '@rammer/core/surface/groundAt';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { newId, nextName } from './names';

/** What can be done to selected blocks; each is one edit. */
const mm = (v: number): number => Math.round(v * 1000) / 1000;

export function selectedBlocks(session: Session): Block[] {
  return useUi.getState().selection.flatMap((id) => {
    const o = session.level.object(id);
    return o?.kind === 'block' ? [o] : [];
  });
}

const many = (blocks: Block[]): string => (blocks.length === 1 ? blocks[0].name : `${blocks.length} blocks`);

export function setBlocks(session: Session, blocks: Block[], set: (block: Block) => Partial<Omit<Block, 'id' | 'kind' | 'version'>>, verb: string): boolean {
  if (blocks.length === 0) return false;
  return session.commit({ kind: 'set', patches: blocks.map((b) => ({ id: b.id, set: set(b) })) }, `${verb} ${many(blocks)}`);
}

export function moveBlocks(session: Session, ids: string[], by: Vec3): void {
  const blocks = ids.flatMap((id) => {
    const o = session.level.object(id);
    return o?.kind === 'block' ? [o] : [];
  });
  setBlocks(session, blocks, (b) => ({ at: [mm(b.at[0] + by[0]), mm(b.at[1] + by[1]), mm(b.at[2] + by[2])] }), 'move');
}

export function removeBlocks(session: Session): void {
  const blocks = selectedBlocks(session);
  if (blocks.length > 0 && session.commit({ kind: 'remove', ids: blocks.map((b) => b.id) }, `delete ${many(blocks)}`)) useUi.getState().select([]);
}

/** Copies stand one snap step (at least half a metre) beside their originals and are selected. */
export function duplicateBlocks(session: Session): void {
  const blocks = selectedBlocks(session);
  if (blocks.length === 0) return;
  const by = Math.max(0.5, useUi.getState().snap);
  const named = new Set<string>();
  const copies = blocks.map((b) => {
    let name = nextName(session.level, b.shape);
    while (named.has(name)) name = name.replace(/\d+$/, (n) => String(Number(n) + 1));
    named.add(name);
    return { ...b, id: newId('block'), version: 1, name, at: [mm(b.at[0] + by), b.at[1], mm(b.at[2] + by)] as Vec3 };
  });
  if (session.commit({ kind: 'add', objects: copies }, `duplicate ${many(blocks)}`)) useUi.getState().select(copies.map((c) => c.id));
}

/** Drops each block until the lowest of its base stands on what is below. */
export function dropBlocks(session: Session): void {
  const blocks = selectedBlocks(session);
  const ids = new Set(blocks.map((b) => b.id));
  const grid = blockGrid(session.blocks.filter((b) => !ids.has(b.id)));
  setBlocks(session, blocks, (b) => {
    const feet = [...blockSolid(b).corners.slice(0, 4), b.at];
    const host = Math.max(...feet.map((p) => groundAt(session.terrain, grid, [p[0], b.at[1] + 0.001, p[2]]).height));
    return { at: [b.at[0], mm(host), b.at[2]] };
  }, 'drop');
}

export const hideBlocks = (session: Session): void => {
  const blocks = selectedBlocks(session);
  const hidden = !blocks.every((b) => b.hidden);
  setBlocks(session, blocks, () => ({ hidden }), hidden ? 'hide' : 'show');
};

export const takeOutBlocks = (session: Session): void => {
  const blocks = selectedBlocks(session);
  const out = !blocks.every((b) => b.out);
  setBlocks(session, blocks, () => ({ out }), out ? 'take out' : 'put back');
};

export const renameObject = (session: Session, id: string, name: string): boolean => session.commit({ kind: 'set', patches: [{ id, set: { name } }] }, `rename to ${name}`);
