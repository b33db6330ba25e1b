import type { Standing, StandingKind } from '@rammer/core/level/objects';

/** A group as a row over its members. */
export interface GroupRow {
  group: string;
  members: readonly Standing[];
}
export type TableRow = Standing | GroupRow;

export const isGroup = (row: TableRow): row is GroupRow => 'members' in row;

/** What a table lists. */
export interface Listed {
  /** of these kinds; members of a group that has one of them come with it */
  kinds: ReadonlySet<StandingKind>;
  search: string;
  folded: ReadonlySet<string>;
  /** group that a copy is one of */
  masterOf(copy: Standing): string | undefined;
  keep?(thing: Standing): boolean;
}

/**
 * Rows of a table of what stands: groups first by name, each over its members and the copies of it, then all that are in
 * none; laid lines, which are many pieces each, before them. Searching unfolds.
 */
export function rowsOf(all: readonly Standing[], { kinds, search, folded, masterOf, keep }: Listed): TableRow[] {
  const wanted = search.toLowerCase();
  const groups = new Map<string, Standing[]>();
  const shown = new Set<string>();
  const copies = new Map<string, Standing[]>();
  const single: Standing[] = [];
  const lines: Standing[] = [];
  for (const t of all) {
    if (keep?.(t) === false || (wanted && !`${t.name} ${t.group ?? ''}`.toLowerCase().includes(wanted))) continue;
    const listed = kinds.has(t.kind);
    if (t.group !== undefined) {
      const list = groups.get(t.group);
      if (list) list.push(t);
      else groups.set(t.group, [t]);
      if (listed) shown.add(t.group);
    } else if (listed && t.kind === 'copy') {
      const master = masterOf(t) ?? '';
      const list = copies.get(master);
      if (list) list.push(t);
      else copies.set(master, [t]);
    } else if (listed && t.kind === 'laidLine') lines.push(t);
    else if (listed) single.push(t);
  }
  const rows: TableRow[] = [];
  for (const group of [...shown].sort((a, b) => a.localeCompare(b))) {
    const members = groups.get(group)!;
    rows.push({ group, members });
    if (!folded.has(group) || wanted) rows.push(...members);
    rows.push(...(copies.get(group) ?? []));
    copies.delete(group);
  }
  return [...lines, ...rows, ...single, ...[...copies.values()].flat()];
}

/** Ids that a click on a row leaves selected: Shift takes all from the last on, Ctrl adds and takes away. */
export function picked(rows: readonly TableRow[], selection: readonly string[], ids: readonly string[], keys: { shift: boolean; ctrl: boolean }): string[] {
  if (keys.shift && selection.length > 0 && ids.length === 1) {
    const order = rows.filter((r): r is Standing => !isGroup(r));
    const a = order.findIndex((x) => x.id === selection[selection.length - 1]);
    const z = order.findIndex((x) => x.id === ids[0]);
    return [...new Set([...selection, ...order.slice(Math.max(0, Math.min(a, z)), Math.max(a, z) + 1).map((x) => x.id)])];
  }
  if (!keys.ctrl && !keys.shift) return [...ids];
  const has = new Set(selection);
  const gone = new Set(ids);
  return ids.every((id) => has.has(id)) ? selection.filter((id) => !gone.has(id)) : [...new Set([...selection, ...ids])];
}
