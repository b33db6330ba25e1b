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

/** Says how many are locked and takes them out of a list that is to be changed. */
export function unlocked<T extends { kind: string; name: string }>(session: Session, list: readonly T[]): T[] {
  const free = list.filter((t) => !(t as Partial<Block>).locked);
  if (free.length < list.length) session.say(`${list.length - free.length === 1 ? list.find((t) => !free.includes(t))!.name : `${list.length - free.length} blocks`} locked: unlock first to change ${free.length < list.length - 1 ? 'them' : 'it'}`, true);
  return free;
}

/** Fields that lie beside what a lock protects. */
const LOOSE = ['hidden', 'out', 'group', 'name', 'locked'];

/** @param set new fields of a block; `null` takes an optional one away */
export function setBlocks(session: Session, blocks: Block[], set: (block: Block) => { [K in keyof Omit<Block, 'id' | 'kind' | 'version'>]?: Block[K] | null }, verb: string): boolean {
  const patches = blocks.map((b) => ({ b, set: set(b) }));
  const free = unlocked(session, patches.filter((p) => !Object.keys(p.set).every((k) => LOOSE.includes(k))).map((p) => p.b));
  const kept = patches.filter((p) => !p.b.locked || free.includes(p.b) || Object.keys(p.set).every((k) => LOOSE.includes(k)));
  if (kept.length === 0) return false;
  return session.commit({ kind: 'set', patches: kept.map((p) => ({ id: p.b.id, set: p.set })) }, `${verb} ${many(kept.map((p) => p.b))}`);
}

export const lockBlocks = (session: Session, blocks: Block[], locked: boolean): boolean => setBlocks(session, blocks, () => ({ locked: locked || null }), locked ? 'lock' : 'unlock');

/** Shows these blocks only, and the ground; `undefined` shows all again. Nothing of the level changes. */
export const isolate = (blocks: readonly Block[] | undefined): void => useUi.setState({ isolated: blocks && new Set(blocks.map((b) => b.id)) });

export const renameObject = (session: Session, id: string, name: string): boolean => session.commit({ kind: 'set', patches: [{ id, set: { name } }] }, `rename to ${name}`);
