import type { Standing } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';

export interface Patch {
  id: string;
  set: Record<string, unknown>;
}

const mm = (v: number): number => Math.round(v * 1000) / 1000;

/**
 * Patches with those of assemblies' pivots added: a master whose members all go the same way is moved and not
 * edited, so its pivot goes along and its copies stay where they are.
 */
export function withPivots(session: Session, patches: Patch[]): Patch[] {
  const { objects } = session.level;
  const to = new Map(patches.flatMap((p): [string, Vec3][] => (Array.isArray(p.set.at) ? [[p.id, p.set.at as Vec3]] : [])));
  if (to.size === 0) return patches;
  const groups = new Set([...to.keys()].flatMap((id) => (objects.get(id) as Standing | undefined)?.group ?? []));
  if (groups.size === 0) return patches;
  return [
    ...patches,
    ...objects.of('assembly').flatMap((a): Patch[] => {
      if (!groups.has(a.group)) return [];
      const ways = [...presentOf(objects).membersOf(a.group)].map((m) => to.get(m.id)?.map((v, k) => mm(v - m.at[k])));
      const [first] = ways;
      if (!first || !ways.every((w) => w && w.every((v, k) => Math.abs(v - first[k]) < 0.0015))) return [];
      return [{ id: a.id, set: { pivot: a.pivot.map((v, k) => mm(v + first[k])) } }];
    }),
  ];
}
