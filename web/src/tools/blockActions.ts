import type { Block } from '@rammer/core/level/objects';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';

/** What can be done to selected blocks; each is one edit. */
export function selectedBlocks(session: Session): Block[] {
  return useUi.getState().selection.flatMap((id) => {
    const o = session.level.object(id);
    return o?.kind === 'block' ? [o] : [];
  });
}

const many = (blocks: Block[]): string => (blocks.length === 1 ? blocks[0].name : `${blocks.length} blocks`);

/** @param set new fields of a block; `null` takes an optional one away */
export function setBlocks(session: Session, blocks: Block[], set: (block: Block) => { [K in keyof Omit<Block, 'id' | 'kind' | 'version'>]?: Block[K] | null }, verb: string): boolean {
  if (blocks.length === 0) return false;
  return session.commit({ kind: 'set', patches: blocks.map((b) => ({ id: b.id, set: set(b) })) }, `${verb} ${many(blocks)}`);
}

export const renameObject = (session: Session, id: string, name: string): boolean => session.commit({ kind: 'set', patches: [{ id, set: { name } }] }, `rename to ${name}`);
