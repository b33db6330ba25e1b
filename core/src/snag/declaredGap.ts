import { gapRange, gapText } from '../block/metrics';
import type { Vec3 } from '../num/vec';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Gaps that were declared easy, tight or impossible and are not so for the player's body; and those that have lost a block. */
export function declaredGap({ gaps, solids, body }: Pick<SnagInput, 'gaps' | 'solids' | 'body'>): Snag[] {
  const byId = new Map(solids.map((b) => [b.id, b]));
  return gaps.flatMap((gap): Snag[] => {
    const [from, to] = [byId.get(gap.from), byId.get(gap.to)];
    const range = from && to && gapRange(from, to);
    if (!range) return [{ code: 'gap-lost', severity: 'warning', message: `${gap.name} was declared ${gap.want} and is no gap any more: a block of it is gone, or has no level top`, mend: 'take the declaration away, or put the block back', object: gap.id, ...(from ?? to ? { at: (from ?? to)!.at } : {}) }];
    const { verdict, text } = gapText(body, range);
    if (verdict === gap.want) return [];
    const at = [0, 1, 2].map((k) => (from.at[k] + to.at[k]) / 2) as Vec3;
    // What was to be jumped and cannot be stops the player; what is easier or harder than meant does not.
    return [{ code: 'gap-declared', severity: verdict === 'impossible' ? 'blocking' : 'warning', message: `the gap from ${from.name} to ${to.name} is declared ${gap.want} and is ${text}`, mend: `move one of them, or declare it ${verdict}`, at, object: gap.id }];
  });
}
