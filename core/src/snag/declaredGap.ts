import { gapRange, gapText } from '../block/gap';
import { heightAt } from '../earth/sample';
import type { Vec3 } from '../num/vec';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Gaps that were declared easy, tight or impossible and are not so for the player's body; and those that have lost a block. */
export function declaredGap({
  gaps,
  solids,
  body,
  placed,
  blocks,
  walls,
  terrain,
}: Pick<SnagInput, 'gaps' | 'solids' | 'body' | 'placed' | 'blocks' | 'walls' | 'terrain'>): Snag[] {
  if (gaps.length === 0) return [];
  const built = new Map(placed.filter((p) => p.of === 'block').map((p) => [p.id, p]));
  const around = { built, blocks, meshes: walls, ground: (x: number, z: number) => heightAt(terrain, x, z) };
  const byId = new Map(solids.map((b) => [b.id, b]));
  return gaps.flatMap((gap): Snag[] => {
    const [from, to] = [byId.get(gap.from), byId.get(gap.to)];
    const range = from && to && gapRange(from, to, around);
    if (!range)
      return [
        {
          code: 'gap-lost',
          severity: 'warning',
          message: `${gap.name} was declared ${gap.want} and is no gap any more: a block of it is gone, has no top to stand on, or touches the other`,
          mend: 'take the declaration away, or put the block back',
          object: gap.id,
          ...((from ?? to) ? { at: (from ?? to)!.at } : {}),
        },
      ];
    const { verdict, text } = gapText(body, range, around, new Set([gap.from, gap.to]));
    if (verdict === gap.want) return [];
    const at = [0, 1, 2].map((k) => (from.at[k] + to.at[k]) / 2) as Vec3;
    // What was to be jumped and cannot be stops the player; what is easier or harder than meant does not.
    return [
      {
        code: 'gap-declared',
        severity: verdict === 'impossible' ? 'blocking' : 'warning',
        message: `the gap from ${from.name} to ${to.name} is declared ${gap.want} and is ${text}`,
        mend: `move one of them, or declare it ${verdict}`,
        at,
        object: gap.id,
      },
    ];
  });
}
