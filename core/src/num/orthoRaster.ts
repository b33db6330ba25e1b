import type { Mesh } from './mesh';

/** What is seen of meshes from one direction, without perspective. */
export interface OrthoPicture {
  width: number;
  height: number;
  /** nearest triangle of each pixel, counted through all meshes in turn; -1 where nothing is */
  triangle: Int32Array;
  /** how near along the direction, larger is nearer */
  depth: Float32Array;
}

/** A look at meshes: along which axes the picture lies, and what part of the world it shows. */
export interface OrthoView {
  right: readonly number[];
  up: readonly number[];
  /** towards the eye */
  to: readonly number[];
  /** middle, and half of what is shown along right, and along up where that is another */
  middle: readonly number[];
  half: number;
  halfUp?: number;
}

/** Whether a triangle is there at a point of it: at shares of its second and third corner. */
export type Visible = (mesh: number, triangle: number, second: number, third: number) => boolean;

/**
 * Draws meshes into a small picture by z-buffer: a pixel belongs to the nearest triangle that covers its middle.
 *
 * @param size pixels: a side, or width and height
 * @param visible leaves out where a triangle is not there, as of a leaf cut out of a card
 */
export function orthoRaster(meshes: readonly Mesh[], view: OrthoView, size: number | readonly [number, number], visible?: Visible): OrthoPicture {
  const [width, height] = typeof size === 'number' ? [size, size] : size;
  const { right, up, to, middle, half, halfUp = half } = view;
  const triangle = new Int32Array(width * height).fill(-1);
  const depth = new Float32Array(width * height).fill(-Infinity);
  const [across, upwards] = [width / (2 * half), height / (2 * halfUp)];
  let first = 0;
  for (const [m, { positions: p, indices }] of meshes.entries()) {
    const count = p.length / 3;
    const u = new Float32Array(count);
    const v = new Float32Array(count);
    const w = new Float32Array(count);
    for (let i = 0; i < count; i++) {
      const [x, y, z] = [p[i * 3] - middle[0], p[i * 3 + 1] - middle[1], p[i * 3 + 2] - middle[2]];
      u[i] = (x * right[0] + y * right[1] + z * right[2] + half) * across;
      v[i] = (halfUp - (x * up[0] + y * up[1] + z * up[2])) * upwards;
      w[i] = x * to[0] + y * to[1] + z * to[2];
    }
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [indices[i], indices[i + 1], indices[i + 2]];
      const area = (u[b] - u[a]) * (v[c] - v[a]) - (u[c] - u[a]) * (v[b] - v[a]);
      if (area === 0 || !Number.isFinite(area)) continue;
      const x0 = Math.max(0, Math.ceil(Math.min(u[a], u[b], u[c]) - 0.5));
      const x1 = Math.min(width - 1, Math.floor(Math.max(u[a], u[b], u[c]) - 0.5));
      const y0 = Math.max(0, Math.ceil(Math.min(v[a], v[b], v[c]) - 0.5));
      const y1 = Math.min(height - 1, Math.floor(Math.max(v[a], v[b], v[c]) - 0.5));
      for (let y = y0; y <= y1; y++) {
        for (let x = x0; x <= x1; x++) {
          const [px, py] = [x + 0.5, y + 0.5];
          const sb = ((px - u[a]) * (v[c] - v[a]) - (u[c] - u[a]) * (py - v[a])) / area;
          const sc = ((u[b] - u[a]) * (py - v[a]) - (px - u[a]) * (v[b] - v[a])) / area;
          // A hair over the edge: two triangles that share one leave no gap between them.
          if (sb < -1e-6 || sc < -1e-6 || sb + sc > 1 + 1e-6) continue;
          const near = w[a] + sb * (w[b] - w[a]) + sc * (w[c] - w[a]);
          const o = y * width + x;
          if (near > depth[o] && (!visible || visible(m, i / 3, sb, sc))) {
            depth[o] = near;
            triangle[o] = first + i / 3;
          }
        }
      }
    }
    first += indices.length / 3;
  }
  return { width, height, triangle, depth };
}
