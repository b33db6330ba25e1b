import { marker, ofKind, type Level } from '../level/level';
import type { Pose } from '../level/objects';

/** Places a level is measured from: its viewpoints, and the entry and objective in four directions at the body's eye. */
export function costPlaces(level: Level): { name: string; pose: Pose }[] {
  const stands = (['entry', 'objective'] as const).flatMap((which) => {
    const at = marker(level, which)?.at;
    return at ? [0, 90, 180, 270].map((yaw) => ({ name: `${which}, looking ${['north', 'east', 'south', 'west'][yaw / 90]}`, pose: { view: 'stand', target: at, yaw, pitch: 0, distance: 10 } as Pose })) : [];
  });
  return [...ofKind(level, 'viewpoint').map((v) => ({ name: v.name, pose: v.pose })), ...stands];
}
