import { directionOf } from '@rammer/core/cost/camera';
import { heightAt } from '@rammer/core/earth/sample';
import type { Terrain } from '@rammer/core/earth/compose';
import type { Pose } from '@rammer/core/level/objects';
import { add, clamp, cross, normalize, scale, type Vec3 } from '@rammer/core/num/vec';

/** Camera moves as pure functions of the pose. Angles in degrees, pixels of the pointer. */
const TURN = 0.28;
const wrap = (yaw: number): number => ((yaw % 360) + 360) % 360;

export function orbitBy(pose: Pose, dx: number, dy: number): Pose {
  if (pose.view === 'plan') return pose;
  const limits = pose.view === 'orbit' ? [-89, 20] : [-85, 85];
  return {
    ...pose,
    yaw: wrap(pose.yaw + dx * TURN * (pose.view === 'orbit' ? 1 : 0.7)),
    pitch: clamp(pose.pitch - dy * TURN * (pose.view === 'orbit' ? 1 : 0.7), limits[0], limits[1]),
  };
}

/** Turns the head in place: the eye stays, the target swings. */
export function lookBy(pose: Pose, dx: number, dy: number): Pose {
  if (pose.view !== 'orbit') return orbitBy(pose, dx, dy);
  const eye = add(pose.target, scale(directionOf(pose.yaw, pose.pitch), -pose.distance));
  const yaw = wrap(pose.yaw + dx * TURN * 0.6);
  const pitch = clamp(pose.pitch - dy * TURN * 0.6, -89, 60);
  return { ...pose, yaw, pitch, target: add(eye, scale(directionOf(yaw, pitch), pose.distance)) };
}

/** Moves the view sideways so that what was under the pointer stays under it. */
export function panBy(pose: Pose, dx: number, dy: number, metresPerPixel: number): Pose {
  const forward = pose.view === 'plan' ? ([0, 0, -1] as Vec3) : normalize([directionOf(pose.yaw, 0)[0], 0, directionOf(pose.yaw, 0)[2]]);
  const right = pose.view === 'plan' ? ([1, 0, 0] as Vec3) : normalize(cross(forward, [0, 1, 0]));
  return { ...pose, target: add(pose.target, add(scale(right, -dx * metresPerPixel), scale(forward, dy * metresPerPixel))) };
}

export function zoomBy(pose: Pose, factor: number, towards?: Vec3): Pose {
  if (pose.view === 'stand') return pose;
  const distance = clamp(pose.distance * factor, 1, 6000);
  const f = distance / pose.distance;
  const target = towards ? add(towards, scale(add(pose.target, scale(towards, -1)), f)) : pose.target;
  return { ...pose, distance, target };
}

/** Flies by metres: right, up, forward. */
export function flyBy(pose: Pose, right: number, up: number, forward: number): Pose {
  const f = directionOf(pose.yaw, pose.pitch);
  const r = normalize(cross(f, [0, 1, 0]));
  return { ...pose, target: add(pose.target, add(add(scale(r, right), scale([0, 1, 0], up)), scale(f, forward))) };
}

/** Changes the view, keeping the place looked at. */
export function changeView(pose: Pose, view: Pose['view'], terrain: Terrain, viewAt?: Vec3): Pose {
  if (view === pose.view) return pose;
  const target: Vec3 = viewAt ? [...viewAt] : [clamp(pose.target[0], 0, terrain.grid.width), pose.target[1], clamp(pose.target[2], 0, terrain.grid.depth)];
  if (view === 'stand') {
    target[1] = viewAt ? viewAt[1] : heightAt(terrain, target[0], target[2]);
    return { view, target, yaw: pose.view === 'plan' ? 0 : pose.yaw, pitch: 0, distance: pose.distance };
  }
  if (view === 'plan') return { view, target, yaw: 0, pitch: -90, distance: pose.view === 'orbit' ? pose.distance : 60 };
  return {
    view,
    target,
    yaw: pose.yaw,
    pitch: pose.view === 'plan' || pose.pitch > -5 ? -28 : pose.pitch,
    distance: pose.view === 'stand' ? 40 : pose.distance,
  };
}

/** A pose as URL text and back: view, target, yaw, pitch, distance, and the lens where it has one of its own. */
export const poseToText = (p: Pose): string =>
  [
    p.view,
    ...p.target.map((v) => v.toFixed(2)),
    p.yaw.toFixed(1),
    p.pitch.toFixed(1),
    p.distance.toFixed(2),
    ...(p.fov === undefined ? [] : [p.fov.toFixed(2)]),
  ].join('_');

export function poseFromText(text: string | null): Pose | undefined {
  if (!text) return undefined;
  const [view, ...rest] = text.split('_');
  const n = rest.map(Number);
  if (!['plan', 'orbit', 'stand'].includes(view) || n.length < 6 || n.length > 7 || n.some((v) => !Number.isFinite(v)) || n[5] <= 0) return undefined;
  return {
    view: view as Pose['view'],
    target: [n[0], n[1], n[2]],
    yaw: n[3],
    pitch: clamp(n[4], -90, 90),
    distance: clamp(n[5], 0.5, 20000),
    ...(n.length > 6 ? { fov: clamp(n[6], 5, 140) } : {}),
  };
}
