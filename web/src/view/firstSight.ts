import { heightAt } from '@rammer/core/earth/sample';
import { playerBody } from '@rammer/core/level/level';
import type { Pose } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';

/** How far from its figure a level that holds nothing yet is first seen, in heights of the body. */
const BODIES_AWAY = 9;

/** The middle of a level in which nothing stands yet, metres: there its figure stands, with the staff beside it. */
export function bareMiddle(session: Session): Vec3 | undefined {
  for (const o of session.level.objects.values())
    if (o.kind === 'block' || o.kind === 'piece' || o.kind === 'copy' || o.kind === 'plant' || o.kind === 'marker') return undefined;
  const { grid } = session.terrain;
  const [x, z] = [grid.width / 2, grid.depth / 2];
  return [x, heightAt(session.terrain, x, z), z];
}

/** Near the figure of a level that holds nothing yet, so that its scale is the first thing seen. */
export function firstSight(session: Session): Pose | undefined {
  const at = bareMiddle(session);
  const { height } = playerBody(session.level).figures;
  return at && { view: 'orbit', target: [at[0], at[1] + height / 2, at[2]], yaw: 20, pitch: -14, distance: height * BODIES_AWAY };
}
