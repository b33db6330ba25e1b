import { cosDeg, sinDeg, tanDeg } from '../num/trig';
import { add, cross, dot, normalize, scale, type Vec3 } from '../num/vec';
import type { Pose } from '../level/objects';

/** Vertical field of view of Orbit and Stand, degrees. */
export const FOV = 55;

/** A camera as the cost model and the view both use it. Plan is orthographic, `halfHeight` metres. */
export interface Camera {
  eye: Vec3;
  forward: Vec3;
  up: Vec3;
  right: Vec3;
  /** degrees; 0 for an orthographic camera */
  fov: number;
  halfHeight: number;
  aspect: number;
  near: number;
  far: number;
}

/** Forward direction of a yaw (clockwise from north) and pitch (positive up), degrees. */
export function directionOf(yaw: number, pitch: number): Vec3 {
  return [sinDeg(yaw) * cosDeg(pitch), sinDeg(pitch), -cosDeg(yaw) * cosDeg(pitch)];
}

/** The camera of a pose. @param eyeHeight of the body, for Stand */
export function cameraOf(pose: Pose, aspect: number, eyeHeight: number): Camera {
  if (pose.view === 'plan') {
    return {
      eye: [pose.target[0], 2000, pose.target[2]],
      forward: [0, -1, 0],
      up: [0, 0, -1],
      right: [1, 0, 0],
      fov: 0,
      halfHeight: pose.distance / 2,
      aspect,
      near: 1,
      far: 5000,
    };
  }
  const forward = directionOf(pose.yaw, pose.pitch);
  const right = normalize(cross(forward, [0, 1, 0]));
  const up = cross(right, forward);
  const eye: Vec3 = pose.view === 'stand' ? add(pose.target, [0, eyeHeight, 0]) : add(pose.target, scale(forward, -pose.distance));
  return { eye, forward, up, right, fov: pose.fov ?? FOV, halfHeight: 0, aspect, near: 0.1, far: 6000 };
}

/** A plane as inward normal and offset: inside where n . p + d >= 0. */
export interface Plane {
  n: Vec3;
  d: number;
}

/** The side planes and the near plane of a camera's frustum. */
export function frustumPlanes(camera: Camera): Plane[] {
  const { eye, forward, up, right } = camera;
  const through = (n: Vec3, p: Vec3): Plane => ({ n, d: -dot(n, p) });
  const planes = [through(forward, add(eye, scale(forward, camera.near)))];
  if (camera.fov === 0) {
    const w = camera.halfHeight * camera.aspect;
    planes.push(
      through(right, add(eye, scale(right, -w))),
      through(scale(right, -1), add(eye, scale(right, w))),
      through(up, add(eye, scale(up, -camera.halfHeight))),
      through(scale(up, -1), add(eye, scale(up, camera.halfHeight))),
    );
    return planes;
  }
  const t = tanDeg(camera.fov / 2);
  const side = (a: Vec3, k: number): Plane => through(normalize(add(scale(forward, k), a)), eye);
  planes.push(side(right, t * camera.aspect), side(scale(right, -1), t * camera.aspect), side(up, t), side(scale(up, -1), t));
  return planes;
}

/** Whether a box may be inside: false only when it is wholly outside one plane. */
export function boxInFrustum(planes: readonly Plane[], min: Vec3, max: Vec3): boolean {
  for (const { n, d } of planes) {
    const x = n[0] > 0 ? max[0] : min[0];
    const y = n[1] > 0 ? max[1] : min[1];
    const z = n[2] > 0 ? max[2] : min[2];
    if (n[0] * x + n[1] * y + n[2] * z + d < 0) return false;
  }
  return true;
}

/** Height of a sphere on the screen as a share of half the screen: radius / (distance tan(fov/2)). */
export function screenSize(camera: Camera, centre: Vec3, radius: number): number {
  if (camera.fov === 0) return radius / camera.halfHeight;
  const dx = centre[0] - camera.eye[0];
  const dy = centre[1] - camera.eye[1];
  const dz = centre[2] - camera.eye[2];
  return radius / (Math.max(Math.sqrt(dx * dx + dy * dy + dz * dz), 0.01) * tanDeg(camera.fov / 2));
}
