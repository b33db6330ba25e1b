import type { Block } from '@rammer/core/level/objects';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { withPivots } from './pivots';

/** What can be done to selected blocks; each is one edit. */
export function selectedBlocks(session: Session): Block[] {
  return useUi.getState().selection.flatMap((id) => {
    const o = session.level.object(id);
    return o?.kind === 'block' ? [o] : [];
  });
}

const many = (blocks: Block[]): string => (blocks.length === 1 ? blocks[0].name : `${blocks.length} blocks`);

/** Those of a list that are not locked; says which others stay as they are. */
export function unlocked<T extends { kind: string; name: string }>(session: Session, list: readonly T[]): T[] {
  const locked = list.filter((t) => (t as Partial<Block>).locked);
  if (locked.length === 1) session.say(`${locked[0].name} is locked: unlock first to change it`, true);
  else if (locked.length > 1) session.say(`${locked.length} blocks are locked: unlock first to change them`, true);
  return list.filter((t) => !(t as Partial<Block>).locked);
}

/** Fields that lie beside what a lock protects. */
const LOOSE = ['hidden', 'out', 'group', 'name', 'locked'];

/** @param set new fields of a block; `null` takes an optional one away */
export function setBlocks(session: Session, blocks: Block[], set: (block: Block) => { [K in keyof Omit<Block, 'id' | 'kind' | 'version'>]?: Block[K] | null }, verb: string): boolean {
  const patches = blocks.map((b) => ({ id: b.id, set: set(b) }));
  const loose = patches.every((p) => Object.keys(p.set).every((k) => LOOSE.includes(k)));
  const free = loose ? blocks : unlocked(session, blocks);
  const ids = new Set(free.map((b) => b.id));
  return free.length > 0 && session.commit({ kind: 'set', patches: withPivots(session, patches.filter((p) => ids.has(p.id))) }, `${verb} ${many(free)}`);
}

export const lockBlocks = (session: Session, blocks: Block[], locked: boolean): boolean => setBlocks(session, blocks, () => ({ locked: locked || null }), locked ? 'lock' : 'unlock');

/** Shows these blocks only, and the ground; `undefined` shows all again. Nothing of the level changes. */
export const isolate = (blocks: readonly Block[] | undefined): void => useUi.setState({ isolated: blocks && new Set(blocks.map((b) => b.id)) });

export const renameObject = (session: Session, id: string, name: string): boolean => session.commit({ kind: 'set', patches: [{ id, set: { name } }] }, `rename to ${name}`);
