import { isMade, MARK, memberOf, overrideFor, ownerOf, poseOf, withOverrides } from '@rammer/core/level/instance';
import type { Override, Paint, Standing } from '@rammer/core/level/objects';
import { isMaker, presentOf, type Maker } from '@rammer/core/level/present';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import type { Patch } from './pivots';

/** Fields of what stands in a copy that can be its own there. */
const POSE = ['at', 'turn', 'tilt', 'scale', 'size'];
const SWAPS = ['asset', 'species', 'assembly'];
const OWN = new Set([...POSE, ...SWAPS, 'hidden', 'out', 'tint', 'paint']);

/** The point of its masters that stands where a copy or a line does. */
function pivotOf(session: Session, maker: Maker): Vec3 | undefined {
  if (maker.kind === 'laidLine') return [0, 0, 0];
  const of = session.level.object(maker.assembly);
  return of?.kind === 'assembly' ? of.pivot : undefined;
}

/**
 * What a member of a copy, or a piece along a line, of the document comes from: the object of the document, or the piece as it is
 * laid, and the copy or line around it as it stands.
 */
export function masterOf(session: Session, id: string): { master: Standing; around: Maker; pivot: Vec3 } | undefined {
  const ids = id.split(MARK);
  const outer = ids.slice(0, -1).join(MARK);
  const present = presentOf(session.level.objects);
  const around = isMade(outer) ? present.get(outer) : session.level.object(outer);
  if (!isMaker(around)) return undefined;
  const own = ids[ids.length - 1];
  const master = around.kind === 'laidLine' ? present.masterIn(ids[ids.length - 2], own) : session.level.object(own);
  const pivot = pivotOf(session, around);
  return master && pivot ? { master: master as Standing, around, pivot } : undefined;
}

/**
 * Patches of copies that lay new fields on what is made for them.
 *
 * @returns or why that cannot be, in words for the person
 */
export function overridesOf(session: Session, made: readonly { thing: Standing; set: Record<string, unknown> }[]): Patch[] | string {
  const byCopy = new Map<string, Map<string, Override>>();
  for (const { thing, set } of made) {
    const shared = Object.keys(set).find((f) => !OWN.has(f));
    if (shared) return `${thing.name} has its ${shared} from its master: change it there, or detach the copy`;
    const owner = ownerOf(thing.id);
    const copy = session.level.object(owner);
    const of = masterOf(session, thing.id);
    if (!isMaker(copy) || !of) return `${thing.name} is not there any more`;
    const overrides = byCopy.get(owner) ?? byCopy.set(owner, new Map((copy.overrides ?? []).map((o) => [o.member, o]))).get(owner)!;
    const member = memberOf(thing.id);
    const next: Override = { ...overrides.get(member), member };
    if (Object.keys(set).some((f) => POSE.includes(f))) {
      const wanted = { ...thing, ...set } as Record<string, unknown>;
      for (const f of ['tilt', 'scale']) if (wanted[f] === null) delete wanted[f];
      for (const f of ['move', 'turn', 'tilt', 'scale'] as const) delete next[f];
      Object.assign(next, overrideFor(withInner(session, thing.id, of.master), { pose: poseOf(of.around), pivot: of.pivot }, wanted as unknown as Standing));
    }
    for (const f of ['hidden', 'out'] as const) {
      if (!(f in set)) continue;
      if ((set[f] ?? false) === (of.master[f] ?? false)) delete next[f];
      else next[f] = set[f] === true;
    }
    if ('tint' in set) {
      if (set.tint === null) delete next.tint;
      else next.tint = set.tint as string;
    }
    if ('paint' in set) {
      if (set.paint === null) delete next.paint;
      else next.paint = set.paint as Paint;
    }
    for (const f of SWAPS) {
      if (!(f in set)) continue;
      if (set[f] === (of.master as unknown as Record<string, unknown>)[f]) delete next.swap;
      else next.swap = set[f] as string;
    }
    if (Object.keys(next).length > 1) overrides.set(member, next);
    else overrides.delete(member);
  }
  return [...byCopy].map(([id, overrides]) => ({ id, set: { overrides: overrides.size > 0 ? [...overrides.values()] : null } }));
}

/** A member with what the copies between the owner and it have of their own: what the owner overrides is laid on that. */
function withInner(session: Session, id: string, master: Standing): Standing {
  const ids = id.split(MARK);
  // The innermost first; that of the owner itself is what is being made.
  const inner = ids
    .slice(1, -1)
    .reverse()
    .flatMap((around, i) => {
      const copy = session.level.object(around);
      const member = ids.slice(ids.length - 1 - i).join(MARK);
      return isMaker(copy) ? (copy.overrides?.filter((o) => o.member === member) ?? []) : [];
    });
  return withOverrides(master, inner);
}

/** Takes what copies and lines have of their own away from one member, or from all. */
export function putBack(session: Session, copies: readonly Maker[], member?: string): boolean {
  const patches = copies.flatMap((c): Patch[] => {
    const left = member === undefined ? [] : (c.overrides ?? []).filter((o) => o.member !== member);
    return left.length === (c.overrides ?? []).length ? [] : [{ id: c.id, set: { overrides: left.length > 0 ? left : null } }];
  });
  return (
    patches.length > 0 &&
    session.commit({ kind: 'set', patches }, member === undefined ? `as the master: ${copies.map((c) => c.name).join(', ')}` : 'as the master')
  );
}

/** Patches without what copies override on members that go, besides those given. */
export function withoutOverrides(session: Session, gone: ReadonlySet<string>, patches: readonly Patch[]): Patch[] {
  if (gone.size === 0) return [...patches];
  const out = [...patches];
  for (const copy of session.level.objects.of('copy')) {
    if (!copy.overrides || gone.has(copy.id)) continue;
    const patched = out.find((p) => p.id === copy.id);
    const overrides = (patched?.set.overrides ?? copy.overrides) as Override[] | null;
    const left = overrides?.filter((o) => !o.member.split(MARK).some((id) => gone.has(id)));
    if (!left || left.length === overrides!.length) continue;
    if (patched) patched.set.overrides = left.length > 0 ? left : null;
    else out.push({ id: copy.id, set: { overrides: left.length > 0 ? left : null } });
  }
  return out;
}
