import type { Camera } from '@rammer/core/cost/camera';
import { add, dot, normalize, scale, sub, type Vec3 } from '@rammer/core/num/vec';
import { tanDeg } from '@rammer/core/num/trig';

/** Level to screen: pixels from the top left, and the distance in front of the camera. */
export interface Projected {
  x: number;
  y: number;
  depth: number;
}

export function project(camera: Camera, width: number, height: number, p: Vec3): Projected | undefined {
  const d = sub(p, camera.eye);
  const depth = dot(d, camera.forward);
  if (depth < camera.near) return undefined;
  const half = camera.fov === 0 ? camera.halfHeight : depth * tanDeg(camera.fov / 2);
  const scalePx = height / 2 / half;
  return { x: width / 2 + dot(d, camera.right) * scalePx, y: height / 2 - dot(d, camera.up) * scalePx, depth };
}

/** Pixels a metre takes at a point. */
export function pixelsPerMetre(camera: Camera, height: number, p: Vec3): number {
  const depth = Math.max(dot(sub(p, camera.eye), camera.forward), camera.near);
  return height / 2 / (camera.fov === 0 ? camera.halfHeight : depth * tanDeg(camera.fov / 2));
}

/** The ray under a pixel. */
export function rayAt(camera: Camera, width: number, height: number, x: number, y: number): { origin: Vec3; direction: Vec3 } {
  const u = (x / width) * 2 - 1;
  const v = 1 - (y / height) * 2;
  if (camera.fov === 0) {
    const off = add(scale(camera.right, u * camera.halfHeight * camera.aspect), scale(camera.up, v * camera.halfHeight));
    return { origin: add(camera.eye, off), direction: camera.forward };
  }
  const t = tanDeg(camera.fov / 2);
  return { origin: camera.eye, direction: normalize(add(camera.forward, add(scale(camera.right, u * t * camera.aspect), scale(camera.up, v * t)))) };
}

/** Where a ray meets the plane through `p` with normal `n`, or `undefined` when it runs beside or away. */
export function rayPlane(ray: { origin: Vec3; direction: Vec3 }, p: Vec3, n: Vec3): Vec3 | undefined {
  const rate = dot(ray.direction, n);
  if (Math.abs(rate) < 1e-6) return undefined;
  const t = dot(sub(p, ray.origin), n) / rate;
  return t > 0 && t < 20_000 ? add(ray.origin, scale(ray.direction, t)) : undefined;
}

/** The point of a line (through `p` along unit `axis`) nearest to a ray, as distance along the axis. */
export function rayAlongAxis(ray: { origin: Vec3; direction: Vec3 }, p: Vec3, axis: Vec3): number | undefined {
  const b = dot(ray.direction, axis);
  const under = 1 - b * b;
  if (under < 1e-4) return undefined;
  const w = sub(ray.origin, p);
  return (dot(axis, w) - b * dot(ray.direction, w)) / under;
}
