import { weldPoints } from '../../num/weld';
import { assetBounds, type Asset } from '../asset';
import { assetMesh } from '../assetMesh';

/** Where a plant is cut to find its trunk, as shares of its height; none higher than a body is tall. */
const CUTS = [0.04, 0.08, 0.12, 0.16, 0.2];
const HIGHEST = 1.6;

/**
 * Radius of what stops a body at a plant: cut level at some heights, the outline that stands nearest to the pivot, to its farthest
 * point from it; the median of the cuts.
 *
 * @returns metres; 0 where nothing stands within half of its width
 */
export function trunkRadius(asset: Pick<Asset, 'lods'>): number {
  const { min, max } = assetBounds(asset);
  const mesh = assetMesh(asset);
  const radii = CUTS.map((share) => min[1] + Math.min(HIGHEST, (max[1] - min[1]) * share))
    .map((y) => sliceRadius(mesh, y))
    .filter((r) => r !== undefined)
    .sort((a, b) => a - b);
  const wide = Math.max(max[0] - min[0], max[2] - min[2]) / 2;
  const median = radii[Math.floor((radii.length - 1) / 2)] ?? 0;
  return median <= wide * 1.01 ? median : 0;
}

function sliceRadius({ positions: p, indices }: { positions: Float32Array; indices: Uint32Array }, y: number): number | undefined {
  // Segments of triangles the level cuts, x and z of their two ends.
  const ends: number[] = [];
  for (let i = 0; i < indices.length; i += 3) {
    const found: number[] = [];
    for (let c = 0; c < 3; c++) {
      const [a, b] = [indices[i + c] * 3, indices[i + ((c + 1) % 3)] * 3];
      if (p[a + 1] < y === p[b + 1] < y) continue;
      const s = (y - p[a + 1]) / (p[b + 1] - p[a + 1]);
      found.push(p[a] + (p[b] - p[a]) * s, 0, p[a + 2] + (p[b + 2] - p[a + 2]) * s);
    }
    if (found.length === 6) ends.push(...found);
  }
  if (ends.length === 0) return undefined;
  const points = Float32Array.from(ends);
  const one = weldPoints(points, 0.002);
  const group = Uint32Array.from(one);
  const rootOf = (i: number): number => {
    let at = i;
    while (group[at] !== at) at = group[at];
    return at;
  };
  for (let i = 0; i < one.length; i += 2) {
    const [a, b] = [rootOf(one[i]), rootOf(one[i + 1])];
    if (a !== b) group[Math.max(a, b)] = Math.min(a, b);
  }
  const outlines = new Map<number, { near: number; far: number; around: boolean }>();
  for (let i = 0; i < one.length; i += 2) {
    const root = rootOf(one[i]);
    const o = outlines.get(root) ?? { near: Infinity, far: 0, around: false };
    const [ax, az, bx, bz] = [points[i * 3], points[i * 3 + 2], points[i * 3 + 3], points[i * 3 + 5]];
    o.near = Math.min(o.near, fromOrigin(ax, az, bx, bz));
    o.far = Math.max(o.far, Math.sqrt(ax * ax + az * az), Math.sqrt(bx * bx + bz * bz));
    // Crossings of a ray from the pivot: an odd number is inside.
    if (az > 0 !== bz > 0 && ax + ((0 - az) / (bz - az)) * (bx - ax) > 0) o.around = !o.around;
    outlines.set(root, o);
  }
  let best: { near: number; far: number } | undefined;
  for (const o of outlines.values()) {
    const near = o.around ? 0 : o.near;
    if (!best || near < best.near || (near === best.near && o.far < best.far)) best = { near, far: o.far };
  }
  return best?.far;
}

/** Distance of a segment from the pivot, in plan. */
function fromOrigin(ax: number, az: number, bx: number, bz: number): number {
  const [dx, dz] = [bx - ax, bz - az];
  const l = dx * dx + dz * dz;
  const s = l > 0 ? Math.min(1, Math.max(0, -(ax * dx + az * dz) / l)) : 0;
  const [x, z] = [ax + dx * s, az + dz * s];
  return Math.sqrt(x * x + z * z);
}
