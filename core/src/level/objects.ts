import type { z } from 'zod';
import { kindOf, type LevelObject } from './kinds/index';
import { isSound, unsoundFault, unsoundPath } from './text';

/**
 * The objects a level is made of: a file a kind in `kinds/`. Each is a row of its own with an id and a version that
 * counts its changes. Everything is metres and degrees, Y up; the origin is the level's north-west corner at height 0,
 * x runs east, z runs south.
 */
export { objectId, vec3 } from './fields';
export {
  channelsOf,
  isStanding,
  KINDS,
  levelObject,
  STANDING_KINDS,
  type LevelObject,
  type ObjectKind,
  type ObjectOf,
  type Standing,
  type StandingKind,
} from './kinds/index';
export * from './kinds/settings';
export * from './kinds/body';
export * from './kinds/block';
export * from './kinds/lift';
export * from './kinds/marker';
export * from './kinds/viewpoint';
export * from './kinds/note';
export * from './kinds/acceptance';
export * from './kinds/surface';
export * from './kinds/groundRule';
export * from './growthCondition';
export * from './kinds/asset';
export * from './kinds/piece';
export * from './kinds/species';
export * from './kinds/habitat';
export * from './kinds/cover';
export * from './kinds/plant';
export * from './kinds/lighting';
export * from './kinds/water';
export * from './kinds/measure';
export * from './kinds/gap';
export * from './kinds/coat';
export * from './kinds/people';
export * from './kinds/reference';
export * from './kinds/section';
export * from './kinds/playBounds';
export * from './kinds/assembly';
export * from './kinds/copy';
export * from './kinds/kit';
export * from './kinds/laidLine';

/**
 * Validates one object by its own kind, so that the message names the field and not the union.
 *
 * @example
 * const parsed = parseObject(JSON.parse(text));
 * if (!parsed.ok) return fault('bad-object', parsed.message);
 */
export function parseObject(value: unknown): { ok: true; object: LevelObject } | { ok: false; message: string } {
  const kind = (value as { kind?: unknown } | null)?.kind;
  const schema = kindOf(kind)?.schema as z.ZodType<LevelObject> | undefined;
  if (!schema) return { ok: false, message: `unknown kind of object: ${JSON.stringify(kind) ?? 'none'}` };
  const id = (value as { id?: unknown }).id;
  const unsound = unsoundPath(value);
  if (unsound) return { ok: false, message: `${kind} ${typeof id === 'string' && isSound(id) ? id : '?'}: ${unsoundFault(unsound)}` };
  const result = schema.safeParse(value);
  if (result.success) return { ok: true, object: result.data };
  const issue = result.error.issues[0];
  return { ok: false, message: `${kind} ${typeof id === 'string' ? id : '?'}: ${issue.path.join('.') || 'value'}: ${issue.message}` };
}
