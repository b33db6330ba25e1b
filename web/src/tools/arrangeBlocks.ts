import { align, arrayArc, arrayGrid, arrayLine, distribute, middle, mirror } from '@rammer/core/block/arrange';
import type { Block } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { setBlocks } from './blockActions';
import { newId, nextName } from './names';
import { mm } from './things';

/** What an array is made by: counts include the block itself. */
export type ArrayPlan = { kind: 'row'; count: number; step: Vec3 } | { kind: 'grid'; along: number; across: number; dx: number; dz: number } | { kind: 'arc'; count: number; x: number; z: number; sweep: number };

/** No array makes more copies than one edit may hold. */
export const MOST_COPIES = 4000;

type Placed = Pick<Block, 'at' | 'turn'>;

const places = (block: Block, plan: ArrayPlan): Placed[] => {
  switch (plan.kind) {
    case 'row': return arrayLine(block, plan.count, plan.step);
    case 'grid': return arrayGrid(block, [plan.along, plan.across], [plan.dx, plan.dz]);
    case 'arc': return arrayArc(block, plan.count, [plan.x, plan.z], plan.sweep);
  }
};

/** How many copies an array of the blocks makes. */
export const copiesOf = (blocks: number, plan: ArrayPlan): number => blocks * ((plan.kind === 'grid' ? plan.along * plan.across : plan.count) - 1);

function addCopies(session: Session, copies: readonly Block[], verb: string): boolean {
  const next = new Map<string, number>();
  const objects = copies.map((b): Block => {
    const word = b.name.replace(/ \d+$/, '');
    const n = next.get(word) ?? Number(/\d+$/.exec(nextName(session.level, word))![0]);
    next.set(word, n + 1);
    return { ...b, id: newId('block'), version: 1, name: `${word} ${n}`, at: b.at.map(mm) as Vec3, turn: mm(b.turn) };
  });
  if (!session.commit({ kind: 'add', objects }, `${verb}: ${objects.length} blocks`)) return false;
  useUi.getState().select(objects.map((o) => o.id));
  return true;
}

/** Copies of the blocks in a row, a grid or on an arc: one edit. */
export const arrayBlocks = (session: Session, blocks: readonly Block[], plan: ArrayPlan): boolean =>
  addCopies(session, blocks.flatMap((b) => places(b, plan).map((p) => ({ ...b, ...p }))), 'array');

const setPlaces = (session: Session, blocks: readonly Block[], verb: string): boolean => {
  const to = new Map(blocks.map((b) => [b.id, b]));
  return setBlocks(session, [...blocks], (b) => ({ at: to.get(b.id)!.at.map(mm) as Vec3, turn: mm(to.get(b.id)!.turn), ...(b.line ? { line: to.get(b.id)!.line } : {}) }), verb);
};

/** Mirrors about the middle of the selection, or copies across its far side. */
export function mirrorBlocks(session: Session, blocks: readonly Block[], axis: 0 | 2, copies: boolean): boolean {
  if (!copies) return setPlaces(session, mirror(blocks, axis, middle(blocks, axis)), 'mirror');
  const far = Math.max(...blocks.map((b) => b.at[axis] + Math.max(b.size[0], b.size[2]) / 2));
  return addCopies(session, mirror(blocks, axis, far), 'mirror');
}

export const alignBlocks = (session: Session, blocks: readonly Block[], axis: 0 | 1 | 2, side: 'low' | 'middle' | 'high'): boolean => setPlaces(session, align(blocks, axis, side), `align ${side}`);
export const distributeBlocks = (session: Session, blocks: readonly Block[], axis: 0 | 1 | 2): boolean => setPlaces(session, distribute(blocks, axis), 'distribute');

/** One name for all, numbered in the order of the bench: one edit. */
export function renameBlocks(session: Session, blocks: readonly Block[], name: string): boolean {
  const numbers = new Map(blocks.map((b, i) => [b.id, i + 1]));
  return setBlocks(session, [...blocks], (b) => ({ name: blocks.length === 1 ? name : `${name} ${numbers.get(b.id)}` }), 'rename');
}
