import { ofKind, type Level } from '../level/level';
import { presentOf } from '../level/present';
import { isStanding } from '../level/kinds/index';
import type { Snag } from './finding';

/** From so many things with the names they were made with on nobody finds anything in a list. */
export const MOST_DEFAULT_NAMES = 60;

/** What makes lists long and lines lie: assemblies of nothing, lines with faults, and names that say nothing. */
export function tidy(level: Level): Snag[] {
  const present = presentOf(level.objects);
  const out: Snag[] = [];
  for (const assembly of ofKind(level, 'assembly')) {
    if ([...present.membersOf(assembly.group)].length > 0) continue;
    const copies = ofKind(level, 'copy').filter((c) => c.assembly === assembly.id);
    out.push({
      code: 'group-empty',
      severity: 'warning',
      message: `the assembly ${assembly.name} has no members${copies.length > 0 ? `, and ${copies.length} copies of it show nothing` : ''}`,
      mend: 'delete it, or give its group members',
      object: assembly.id,
    });
  }
  for (const line of ofKind(level, 'laidLine')) {
    if (line.out) continue;
    for (const fault of present.laidOf(line.id)?.faults ?? [
      line.kit === undefined ? 'nothing stands along it: it has neither a kit nor a list' : 'its kit is not in the level',
    ])
      out.push({
        code: 'line-fault',
        severity: 'warning',
        message: `${line.name}: ${fault}`,
        mend: 'mend the line in Build, or its kit',
        at: line.at,
        object: line.id,
      });
  }
  const names = new Map(ofKind(level, 'asset').map((a) => [a.id, a.name]));
  const unnamed = [...level.objects.values()].filter((o) => {
    if (!isStanding(o) || o.kind === 'plant' || o.group !== undefined || o.out) return false;
    const word = o.kind === 'piece' ? names.get(o.asset) : o.kind === 'block' ? o.shape : undefined;
    return word !== undefined && o.name.startsWith(`${word} `) && /^\d+$/.test(o.name.slice(word.length + 1));
  });
  if (unnamed.length > MOST_DEFAULT_NAMES)
    out.push({
      code: 'names-default',
      severity: 'warning',
      message: `${unnamed.length} things have the names they were made with and are in no group: ${unnamed
        .slice(0, 3)
        .map((o) => o.name)
        .join(', ')} and so on`,
      mend: 'name what one looks for, and group what belongs together (select, G)',
    });
  return out;
}
