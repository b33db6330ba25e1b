import { TILE_QUADS } from '../level/tiles';
import { tanDeg } from '../num/trig';
import { dot, sub, type Vec3 } from '../num/vec';
import { SLOTS, type GroundRaster } from '../surface/ground';
import { frustumPlanes, type Camera, type Plane } from './camera';

/** Pixels shaded over again, in screens of overdraw: ours, published in docs/numbers. */
export const SHADE = {
  /** each surface more that a sample of the ground mixes */
  surface: 0.4,
  /** each coat over a piece: its conditions, its patches, its paint */
  coat: 0.25,
  /** water over what lies under it: depth, reflection, waves */
  water: 1.5,
  /** the whole screen where the lighting has haze */
  haze: 0.25,
} as const;

/** Every so many samples of a tile the ground is looked at for what it mixes. */
const EVERY = 4;
/** A share of a surface under this, of 255, is not worth a look into its texture: the view draws none of it either. */
const SEEN = 4;

/**
 * Surfaces a sample of a terrain tile mixes on the average, 1 to 4.
 *
 * @param ground of the whole level
 */
export function surfacesMixed(ground: Pick<GroundRaster, 'grid' | 'weights'>, tx: number, tz: number): number {
  const { nx } = ground.grid;
  let sum = 0;
  let n = 0;
  for (let z = tz * TILE_QUADS; z <= (tz + 1) * TILE_QUADS; z += EVERY) {
    for (let x = tx * TILE_QUADS; x <= (tx + 1) * TILE_QUADS; x += EVERY) {
      const at = (z * nx + x) * SLOTS;
      for (let k = 0; k < SLOTS; k++) if (ground.weights[at + k] >= SEEN) sum++;
      n++;
    }
  }
  return Math.max(1, sum / n);
}

/**
 * Share of the screen a level rectangle covers, 0 to 1: clipped to what is seen and projected; what stands before
 * it is not taken off.
 *
 * @param min,max its corners in plan, metres; @param y its height
 */
export function screenShare(camera: Camera, min: Vec3, max: Vec3, y: number, planes: readonly Plane[] = frustumPlanes(camera)): number {
  let polygon: Vec3[] = [
    [min[0], y, min[2]],
    [max[0], y, min[2]],
    [max[0], y, max[2]],
    [min[0], y, max[2]],
  ];
  for (const plane of planes) {
    polygon = clipped(polygon, plane);
    if (polygon.length < 3) return 0;
  }
  const onScreen = polygon.map((p): [number, number] => {
    const from = sub(p, camera.eye);
    const half = camera.fov === 0 ? camera.halfHeight : dot(from, camera.forward) * tanDeg(camera.fov / 2);
    return [dot(from, camera.right) / (half * camera.aspect), dot(from, camera.up) / half];
  });
  let twice = 0;
  onScreen.forEach(([ax, ay], i) => {
    const [bx, by] = onScreen[(i + 1) % onScreen.length];
    twice += ax * by - bx * ay;
  });
  // The screen is 2 x 2.
  return Math.min(1, Math.abs(twice) / 8);
}

/** What of a convex polygon lies inside a plane. */
function clipped(polygon: readonly Vec3[], { n, d }: Plane): Vec3[] {
  const out: Vec3[] = [];
  polygon.forEach((a, i) => {
    const b = polygon[(i + 1) % polygon.length];
    const [da, db] = [dot(n, a) + d, dot(n, b) + d];
    if (da >= 0) out.push(a);
    if (da >= 0 !== db >= 0) {
      const t = da / (da - db);
      out.push([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t]);
    }
  });
  return out;
}
