import type { Block } from '@rammer/core/level/objects';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { lockThings, setThings, things, type Thing } from './things';

/** Selected blocks; what can be done to them, each one edit. */
export const selectedBlocks = (session: Session): Block[] => things(session).filter((t) => t.kind === 'block');

/** @param set new fields of a block; `null` takes an optional one away */
export const setBlocks = (
  session: Session,
  blocks: readonly Block[],
  set: (block: Block) => { [K in keyof Omit<Block, 'id' | 'kind' | 'version'>]?: Block[K] | null },
  verb: string,
): boolean => setThings(session, blocks, (t) => set(t as Block), verb);

export const lockBlocks = (session: Session, blocks: readonly Block[], locked: boolean): boolean => lockThings(session, blocks, locked);

/** Shows these things only, and the ground; `undefined` shows all again. Nothing of the level changes. */
export const isolate = (list: readonly Thing[] | undefined): void => useUi.setState({ isolated: list && new Set(list.map((b) => b.id)) });

export const renameObject = (session: Session, id: string, name: string): boolean =>
  session.commit({ kind: 'set', patches: [{ id, set: { name } }] }, `rename to ${name}`);
