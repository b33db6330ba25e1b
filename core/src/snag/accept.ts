import { ofKind, type Level } from '../level/level';
import type { Acceptance } from '../level/objects';
import type { Snag } from './finding';

/** The acceptance of a snag as an object for the level, with what it is about and how that stood. */
export function acceptanceOf(level: Level, snag: Snag, reason: string, id: string): Acceptance {
  const about = snag.object ? level.object(snag.object) : undefined;
  return {
    id,
    version: 1,
    kind: 'acceptance',
    name: snag.message.slice(0, 120),
    snag: snag.code,
    reason,
    ...(about ? { object: about.id, objectVersion: about.version } : {}),
  };
}

/** Whether an acceptance is about this snag and still holds: the thing has not changed since. */
export function holds(level: Level, acceptance: Acceptance, snag: Snag): boolean {
  if (acceptance.snag !== snag.code || acceptance.object !== snag.object) return false;
  return acceptance.object === undefined || level.object(acceptance.object)?.version === acceptance.objectVersion;
}

/** The snag with the reason it was accepted for, where an acceptance holds. */
export function withAcceptance(level: Level, snag: Snag): Snag {
  const found = ofKind(level, 'acceptance').find((a) => holds(level, a, snag));
  return found ? { ...snag, accepted: found.reason } : snag;
}
