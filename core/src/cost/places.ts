import { marker, ofKind, playerBody, settingsOf, type Level } from '../level/level';
import type { Pose } from '../level/objects';
import type { Vec3 } from '../num/vec';
import type { Drawable } from './drawable';
import { viewTally } from './tally';
import { cameraOf } from './camera';
import { DEVICES, frameOf, type Frame } from './frame';

/** Places a level is measured from: its viewpoints, and the entry and objective in four directions at the body's eye. */
export function costPlaces(level: Level): { name: string; pose: Pose }[] {
  const stands = (['entry', 'objective'] as const).flatMap((which) => {
    const at = marker(level, which)?.at;
    return at
      ? [0, 90, 180, 270].map((yaw) => ({
          name: `${which}, looking ${['north', 'east', 'south', 'west'][yaw / 90]}`,
          pose: { view: 'stand', target: at, yaw, pitch: 0, distance: 10 } as Pose,
        }))
      : [];
  });
  return [...ofKind(level, 'viewpoint').map((v) => ({ name: v.name, pose: v.pose })), ...stands];
}

/** Where the eye is at each of some places; all the level is measured from where left out. */
export const costEyes = (level: Level, places = costPlaces(level)): Vec3[] => places.map(({ pose }) => cameraOf(pose, 1, playerBody(level).figures.eye).eye);

/** One place with what it costs. */
export interface PlaceCost {
  name: string;
  pose: Pose;
  sums: ReturnType<typeof viewTally>;
  frame: Frame;
}

/** What a device spends at each of the places, the dearest first. @param device an id of DEVICES; the level's own where left out */
export function placeCosts(
  level: Level,
  drawables: readonly Drawable[],
  spacing: number,
  places = costPlaces(level),
  device = settingsOf(level).device,
): PlaceCost[] {
  const d = DEVICES[device];
  const { eye } = playerBody(level).figures;
  return places
    .map(({ name, pose }) => {
      const sums = viewTally(drawables, cameraOf(pose, d.width / d.height, eye), spacing);
      return { name, pose, sums, frame: frameOf(d, sums.all) };
    })
    .sort((a, b) => b.frame.frame - a.frame.frame);
}
