import { ofKind } from '@rammer/core/level/level';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';

export interface Patch { id: string; set: Record<string, unknown> }

const mm = (v: number): number => Math.round(v * 1000) / 1000;

/**
 * Patches with those of assemblies' pivots added: a master whose blocks all go the same way is moved and not
 * edited, so its pivot goes along and its copies stay where they are.
 */
export function withPivots(session: Session, patches: Patch[]): Patch[] {
  const assemblies = ofKind(session.level, 'assembly');
  if (assemblies.length === 0) return patches;
  const to = new Map(patches.flatMap((p): [string, Vec3][] => (Array.isArray(p.set.at) ? [[p.id, p.set.at as Vec3]] : [])));
  if (to.size === 0) return patches;
  const blocks = ofKind(session.level, 'block');
  return [...patches, ...assemblies.flatMap((a): Patch[] => {
    const ways = blocks.filter((b) => b.group === a.group).map((b) => to.get(b.id)?.map((v, k) => mm(v - b.at[k])));
    const [first] = ways;
    if (!first || !ways.every((w) => w && w.every((v, k) => Math.abs(v - first[k]) < 0.0015))) return [];
    return [{ id: a.id, set: { pivot: a.pivot.map((v, k) => mm(v + first[k])) } }];
  })];
}
