import { boxInFrustum, type Camera, type Plane } from '../cost/camera';
import { tanDeg } from '../num/trig';
import { add, cross, dot, normalize, scale, type Vec3 } from '../num/vec';

/** A square of parallel light that a shadow map holds: what lies in it is drawn as the light sees it. */
export interface LightBox {
  /** the way the light goes, and two directions across it */
  forward: Vec3;
  right: Vec3;
  up: Vec3;
  centre: Vec3;
  /** half its side, and half its depth along the light, metres */
  half: number;
  depth: number;
}

/** Lowest and highest corner of all that throws shadows. */
export interface Bounds {
  min: Vec3;
  max: Vec3;
}

/**
 * Boxes of light for the ranges of distance before a camera, the nearest first: each holds a ball about its part of what is seen, so that
 * its size stays as the camera turns, and lies on whole texels, so that edges of shadows do not crawl as it moves.
 *
 * @param toSun unit direction to the light
 * @param ends far end of each range, metres, growing; the last of an orthographic camera's is all it sees
 * @param texels of a side of each map
 * @param bounds of what throws shadows: boxes reach from behind the highest of it to the lowest
 */
export function lightBoxes(camera: Camera, toSun: Vec3, ends: readonly number[], texels: number, bounds: Bounds): LightBox[] {
  if (camera.fov === 0) {
    const level = add(camera.eye, scale(camera.forward, camera.eye[1] - (bounds.min[1] + bounds.max[1]) / 2));
    const radius = camera.halfHeight * Math.sqrt(1 + camera.aspect * camera.aspect) + (bounds.max[1] - bounds.min[1]) / 2;
    return [boxAbout(level, radius, toSun, texels, bounds)];
  }
  const t = tanDeg(camera.fov / 2);
  const k2 = t * t * (1 + camera.aspect * camera.aspect);
  return ends.map((end, i) => {
    const near = i === 0 ? camera.near : ends[i - 1];
    // The least ball about a cut-off pyramid: its middle lies on the axis, at most at the far end.
    const middle = Math.min(end, ((end + near) / 2) * (1 + k2));
    const radius = Math.sqrt(Math.max((end - middle) ** 2 + end * end * k2, (middle - near) ** 2 + near * near * k2));
    return boxAbout(add(camera.eye, scale(camera.forward, middle)), radius, toSun, texels, bounds);
  });
}

/** A box of light about a ball. @param texels of a side of its map: it lies on whole ones */
export function boxAbout(middle: Vec3, radius: number, toSun: Vec3, texels: number, bounds: Bounds): LightBox {
  const forward = scale(toSun, -1);
  const right = normalize(cross(forward, Math.abs(forward[1]) > 0.99 ? [0, 0, -1] : [0, 1, 0]));
  const up = cross(right, forward);
  // To a tenth of a metre, so that rounding of the ball does not change the size of a texel.
  const half = Math.ceil(radius * 10) / 10;
  const texel = (2 * half) / texels;
  const along = (d: Vec3): number => Math.round(dot(middle, d) / texel) * texel;
  // As deep as all that throws shadows, seen along the light.
  let [first, last] = [Infinity, -Infinity];
  for (let corner = 0; corner < 8; corner++) {
    const p: Vec3 = [corner & 1 ? bounds.max[0] : bounds.min[0], corner & 2 ? bounds.max[1] : bounds.min[1], corner & 4 ? bounds.max[2] : bounds.min[2]];
    const at = dot(p, forward);
    first = Math.min(first, at);
    last = Math.max(last, at);
  }
  const centre = add(add(scale(right, along(right)), scale(up, along(up))), scale(forward, (first + last) / 2));
  return { forward, right, up, centre, half, depth: (last - first) / 2 + 1 };
}

/** Planes of what throws shadows into a box: its four sides. */
export function sidesOf({ right, up, centre, half }: LightBox): Plane[] {
  return [right, scale(right, -1), up, scale(up, -1)].map((n) => ({ n, d: half - dot(n, centre) }));
}

/** Whether a box along the axes may throw a shadow into a box of light. */
export const throwsInto = (planes: readonly Plane[], { min, max }: Bounds): boolean => boxInFrustum(planes, min, max);

/**
 * World to the place in a map: x and y 0 to 1 across it, z 0 to 1 along the light.
 * @returns 16 numbers, column by column
 */
export function lightMatrix({ forward, right, up, centre, half, depth }: LightBox): number[] {
  const row = (d: Vec3, size: number): [Vec3, number] => [scale(d, 0.5 / size), 0.5 - dot(d, centre) * (0.5 / size)];
  const [x, x0] = row(right, half);
  const [y, y0] = row(up, half);
  const [z, z0] = row(forward, depth);
  return [x[0], y[0], z[0], 0, x[1], y[1], z[1], 0, x[2], y[2], z[2], 0, x0, y0, z0, 1];
}
