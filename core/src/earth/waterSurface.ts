import type { Mesh } from '../num/mesh';
import type { Terrain } from './compose';
import type { Rect } from './rect';

/** A water's surface as far as it is over the ground, and what it holds. */
export interface WaterSurface {
  /** its rim is the exact shore */
  mesh: Mesh;
  /** the shore as stretches: x and z of either end, four numbers each, metres */
  shore: Float64Array;
  /** m2 of surface, m3 of water, metres at the deepest */
  area: number;
  volume: number;
  deepest: number;
}

/** Rows of the surface lap over each other by this much, metres, so that no light falls between them where one ends. */
const LAP = 0.02;

/**
 * The surface over the ground: each triangle of the ground that has a wet corner, cut where it rises through
 * the water. Quads of level water that are wet all over are joined along their row, so that a wide pool is few
 * triangles.
 *
 * @param level of the water, metres; of a stream one entry a sample of `rect`
 */
export function surfaceOf({ grid, heights }: Pick<Terrain, 'grid' | 'heights'>, rect: Rect, wet: Uint8Array, level: number | Float32Array): WaterSurface {
  const { nx, nz, spacing: s } = grid;
  const w = rect.x1 - rect.x0 + 1;
  const inRect = (x: number, z: number) => x >= rect.x0 && x <= rect.x1 && z >= rect.z0 && z <= rect.z1;
  /** `wet` with a dry margin of one sample, so that neighbours are there everywhere */
  const margin = new Uint8Array((w + 2) * (rect.z1 - rect.z0 + 3));
  for (let z = 0; z <= rect.z1 - rect.z0; z++) margin.set(wet.subarray(z * w, (z + 1) * w), (z + 1) * (w + 2) + 1);
  const inMargin = (x: number, z: number): number => (z - rect.z0 + 1) * (w + 2) + x - rect.x0 + 1;
  const levelAt = typeof level === 'number' ? () => level : (x: number, z: number) => (inRect(x, z) ? level[(z - rect.z0) * w + x - rect.x0] : NaN);
  const positions: number[] = [];
  const indices: number[] = [];
  const shore: number[] = [];
  /** area and volume: an array, as numbers that a function inside changes are slow */
  const held = new Float64Array(2);
  let deepest = 0;
  /** @param points x, height of the water, z and depth of each corner */
  const polygon = (points: readonly number[]) => {
    const at = positions.length / 3;
    for (let i = 0; i < points.length; i += 4) positions.push(points[i], points[i + 1], points[i + 2]);
    for (let i = 2; i * 4 < points.length; i++) {
      indices.push(at, at + i - 1, at + i);
      const [ax, , az, ad] = points;
      const [bx, , bz, bd, cx, , cz, cd] = points.slice((i - 1) * 4, (i + 1) * 4);
      const plan = Math.abs((bx - ax) * (cz - az) - (cx - ax) * (bz - az)) / 2;
      held[0] += plan;
      held[1] += (plan * (ad + bd + cd)) / 3;
    }
  };
  /** Part of a ground triangle below the water. */
  const triangle = (corners: readonly (readonly [number, number])[]) => {
    const [one] = corners.filter(([x, z]) => margin[inMargin(x, z)] === 1);
    if (!one) return;
    const points: number[] = [];
    const cut: number[] = [];
    for (let i = 0; i < 3; i++) {
      const [ax, az] = corners[i];
      const [bx, bz] = corners[(i + 1) % 3];
      // Beside a stream's course there is no level of its own: its neighbour's goes on.
      const [ha, hb] = [known(levelAt(ax, az), one), known(levelAt(bx, bz), one)];
      const [a, b] = [ha - heights[az * nx + ax], hb - heights[bz * nx + bx]];
      if (a > 0) points.push(ax * s, ha, az * s, a);
      if (a > 0 !== b > 0) {
        const t = a / (a - b);
        const [x, z] = [(ax + (bx - ax) * t) * s, (az + (bz - az) * t) * s];
        points.push(x, ha + (hb - ha) * t, z, 0);
        cut.push(x, z);
      }
    }
    if (points.length >= 12) polygon(points);
    if (cut.length === 4) shore.push(...cut);
  };
  const known = (v: number, [x, z]: readonly [number, number]) => (v === v ? v : levelAt(x, z));
  const last = Math.min(nx - 2, rect.x1);
  for (let z = Math.max(0, rect.z0 - 1); z <= Math.min(nz - 2, rect.z1); z++) {
    let run = -1;
    for (let x = Math.max(0, rect.x0 - 1); x <= last + 1; x++) {
      const m = inMargin(x, z);
      const corners = x > last ? 0 : margin[m] + margin[m + 1] + margin[m + w + 2] + margin[m + w + 3];
      if (corners === 4 && typeof level === 'number') {
        if (run < 0) run = x;
        // Measured by its own two triangles; drawn with the rest of its row.
        const i = z * nx + x;
        const depths = 3 * level * 2 - 2 * heights[i] - heights[i + 1] - heights[i + nx] - 2 * heights[i + nx + 1];
        held[0] += s * s;
        held[1] += (s * s * depths) / 6;
        continue;
      }
      if (run >= 0) {
        const at = positions.length / 3;
        const [north, south] = [z * s - LAP, (z + 1) * s + LAP];
        const y = level as number;
        positions.push(run * s, y, north, run * s, y, south, x * s, y, south, x * s, y, north);
        indices.push(at, at + 1, at + 2, at, at + 2, at + 3);
        run = -1;
      }
      if (corners === 0) continue;
      triangle([
        [x, z],
        [x, z + 1],
        [x + 1, z + 1],
      ]);
      triangle([
        [x, z],
        [x + 1, z + 1],
        [x + 1, z],
      ]);
    }
  }
  for (let z = rect.z0, i = 0; z <= rect.z1; z++) {
    for (let x = rect.x0; x <= rect.x1; x++, i++) {
      if (wet[i] === 0) continue;
      const depth = (typeof level === 'number' ? level : level[i]) - heights[z * nx + x];
      if (depth > deepest) deepest = depth;
    }
  }
  return {
    mesh: { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) },
    shore: Float64Array.from(shore),
    area: held[0],
    volume: held[1],
    deepest,
  };
}
