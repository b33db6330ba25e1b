import { align, arrayArc, arrayGrid, arrayLine, distribute, middle, mirror, type Placed } from '@rammer/core/block/arrange';
import type { Block } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { asBlock, followBlock, poseFields } from './asBlock';
import { addThings } from './duplicateThings';
import { mm, setThings, type Thing } from './things';

/** What an array is made by: counts include the thing itself. */
export type ArrayPlan =
  | { kind: 'row'; count: number; step: Vec3 }
  | { kind: 'grid'; along: number; across: number; dx: number; dz: number }
  | { kind: 'arc'; count: number; x: number; z: number; sweep: number };

/** No array makes more duplicates than one edit may hold. */
export const MOST_COPIES = 4000;

function places(box: Block, plan: ArrayPlan): Placed[] {
  switch (plan.kind) {
    case 'row':
      return arrayLine(box, plan.count, plan.step);
    case 'grid':
      return arrayGrid(box, [plan.along, plan.across], [plan.dx, plan.dz]);
    case 'arc':
      return arrayArc(box, plan.count, [plan.x, plan.z], plan.sweep);
  }
}

/** How many duplicates an array of so many things makes. */
export const copiesOf = (things: number, plan: ArrayPlan): number => things * ((plan.kind === 'grid' ? plan.along * plan.across : plan.count) - 1);

/** To the millimetre and the thousandth of a degree. */
const fine = (t: Thing): Thing => ({ ...t, at: t.at.map(mm) as Vec3, turn: mm(t.turn) });

/** Duplicates of the things in a row, a grid or on an arc: one edit. */
export function arrayThings(session: Session, list: readonly Thing[], plan: ArrayPlan): boolean {
  const made = list.flatMap((t) => {
    const box = asBlock(session, t);
    return places(box, plan).map((p) => fine(followBlock(session, t, { ...box, ...p })));
  });
  return addThings(session, made, `array: ${made.length} things`);
}

/** Sets things as the boxes around them were set. */
function setPlaces(session: Session, list: readonly Thing[], boxes: readonly Block[], verb: string): boolean {
  const to = new Map(boxes.map((b) => [b.id, b]));
  return setThings(
    session,
    list,
    (t) => {
      const next = followBlock(session, t, to.get(t.id)!);
      return { ...poseFields(t, next), ...(next.kind === 'block' && next.line ? { line: next.line } : {}) };
    },
    verb,
  );
}

const boxesOf = (session: Session, list: readonly Thing[]): Block[] => list.map((t) => asBlock(session, t));

/** Mirrors about the middle of the selection, or duplicates across its far side. */
export function mirrorThings(session: Session, list: readonly Thing[], axis: 0 | 2, duplicates: boolean): boolean {
  const boxes = boxesOf(session, list);
  if (!duplicates) return setPlaces(session, list, mirror(boxes, axis, middle(boxes, axis)), 'mirror');
  const far = Math.max(...boxes.map((b) => b.at[axis] + Math.max(b.size[0], b.size[2]) / 2));
  const mirrored = mirror(boxes, axis, far);
  return addThings(
    session,
    list.map((t, i) => fine(followBlock(session, t, mirrored[i]))),
    `mirror: ${list.length} things`,
  );
}

export const alignThings = (session: Session, list: readonly Thing[], axis: 0 | 1 | 2, side: 'low' | 'middle' | 'high'): boolean =>
  setPlaces(session, list, align(boxesOf(session, list), axis, side), `align ${side}`);
export const distributeThings = (session: Session, list: readonly Thing[], axis: 0 | 1 | 2): boolean =>
  setPlaces(session, list, distribute(boxesOf(session, list), axis), 'distribute');

/** Where the middle of the things is on an axis, metres. */
export const middleOf = (session: Session, list: readonly Thing[], axis: 0 | 2): number => middle(boxesOf(session, list), axis);
