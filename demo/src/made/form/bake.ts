import { cross, dot, normalize, sub, type Vec3 } from '@rammer/core/num/vec';
import { discPoint } from '@rammer/core/light/samples';
import { triangleTree, rayTree } from '@rammer/core/num/triangleTree';
import type { Mesh } from '@rammer/core/num/mesh';
import type { AssetTexture } from '@rammer/core/kit/material';
import { packed } from '../paint/sheet';
import type { Form, Patch } from './form';

/** Rays of a pixel, and how far they look, metres. */
const RAYS = 40;
const FAR = 1.2;

/** Where each patch of each form lies on the picture of occlusion: its second texture coordinates, by patch. */
export type Charts = Map<Patch, [u: number, v: number][]>;

interface Room {
  patch: Patch;
  low: [number, number];
  wide: number;
  high: number;
  x: number;
  y: number;
}

/** Lays the charts of some forms on shelves in one picture of `side` pixels, as large as they go. */
function layOut(forms: readonly Form[], side: number): { rooms: Room[]; scale: number } {
  const rooms = forms
    .flatMap((f) => f.patches)
    .map((patch): Room => {
      const [us, vs] = [patch.chart.map((c) => c[0]), patch.chart.map((c) => c[1])];
      const low: [number, number] = [Math.min(...us), Math.min(...vs)];
      return { patch, low, wide: Math.max(...us) - low[0], high: Math.max(...vs) - low[1], x: 0, y: 0 };
    })
    .sort((a, b) => b.high - a.high || b.wide - a.wide);
  const fits = (scale: number): boolean => {
    let [x, y, shelf] = [0, 0, 0];
    for (const r of rooms) {
      const [w, h] = [Math.ceil(r.wide * scale) + 3, Math.ceil(r.high * scale) + 3];
      if (w > side) return false;
      if (x + w > side) [x, y, shelf] = [0, y + shelf, 0];
      if (y + h > side) return false;
      [r.x, r.y] = [x + 1.5, y + 1.5];
      x += w;
      shelf = Math.max(shelf, h);
    }
    return true;
  };
  let [low, high] = [0.05, 256];
  for (let i = 0; i < 24; i++) {
    const mid = (low + high) / 2;
    if (fits(mid)) low = mid;
    else high = mid;
  }
  fits(low);
  return { rooms, scale: low };
}

/** All faces of a form as one mesh, to send rays at. */
export function meshOf(form: Form): Mesh {
  const positions: number[] = [];
  const indices: number[] = [];
  for (const { points, indices: of } of form.patches) {
    const first = positions.length / 3;
    for (const p of points) positions.push(...p);
    for (const i of of) indices.push(first + i);
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) };
}

/** How open each place of some forms is to the sky and the room about it, each form by itself; one picture for all of them. */
export async function bakeOcclusion(name: string, forms: readonly Form[], side: number): Promise<{ charts: Charts; picture: AssetTexture }> {
  const { rooms, scale } = layOut(forms, side);
  const charts: Charts = new Map();
  const value = new Float32Array(side * side).fill(-1);
  const where = new Map(rooms.map((r) => [r.patch, r]));
  for (const form of forms) {
    const mesh = meshOf(form);
    const tree = triangleTree(mesh);
    for (const patch of form.patches) {
      const room = where.get(patch)!;
      const on = patch.chart.map(([u, v]): [number, number] => [room.x + (u - room.low[0]) * scale, room.y + (v - room.low[1]) * scale]);
      charts.set(
        patch,
        on.map(([x, y]) => [x / side, y / side]),
      );
      for (let i = 0; i < patch.indices.length; i += 3) {
        const t = [patch.indices[i], patch.indices[i + 1], patch.indices[i + 2]];
        const [a, b, c] = t.map((k) => on[k]);
        const area = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
        if (Math.abs(area) < 1e-9) continue;
        for (let y = Math.floor(Math.min(a[1], b[1], c[1]) - 0.5); y <= Math.max(a[1], b[1], c[1]) + 0.5; y++)
          for (let x = Math.floor(Math.min(a[0], b[0], c[0]) - 0.5); x <= Math.max(a[0], b[0], c[0]) + 0.5; x++) {
            if (x < 0 || y < 0 || x >= side || y >= side || value[y * side + x] >= 0) continue;
            const [px, py] = [x + 0.5, y + 0.5];
            let w1 = ((px - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (py - a[1])) / area;
            let w2 = ((b[0] - a[0]) * (py - a[1]) - (px - a[0]) * (b[1] - a[1])) / area;
            if (w1 < -0.001 || w2 < -0.001 || w1 + w2 > 1.001) continue;
            [w1, w2] = [Math.max(0, w1), Math.max(0, w2)];
            const w = [Math.max(0, 1 - w1 - w2), w1, w2];
            const blend = (list: readonly Vec3[]): Vec3 => [0, 1, 2].map((k) => w[0] * list[t[0]][k] + w[1] * list[t[1]][k] + w[2] * list[t[2]][k]) as Vec3;
            value[y * side + x] = openAt(tree, mesh, blend(patch.points), normalize(blend(patch.normals)), y * side + x);
          }
      }
    }
  }
  spread(value, side);
  const pixels = new Uint8Array(side * side * 4).fill(255);
  for (let i = 0; i < value.length; i++) pixels.fill(Math.round((value[i] < 0 ? 1 : value[i]) * 255), i * 4, i * 4 + 3);
  return { charts, picture: await packed(`${name} occlusion`, pixels, [side, side], 'grey') };
}

/** Share of a cosine-weighted half room that is open, near things counting more than far ones. */
function openAt(tree: ReturnType<typeof triangleTree>, { positions: p, indices }: Mesh, at: Vec3, n: Vec3, seed: number): number {
  const a = normalize(cross(Math.abs(n[1]) > 0.9 ? [1, 0, 0] : [0, 1, 0], n));
  const b = cross(n, a);
  const o: Vec3 = [at[0] + n[0] * 0.004, at[1] + n[1] * 0.004, at[2] + n[2] * 0.004];
  let open = 0;
  for (let i = 0; i < RAYS; i++) {
    const [x, y] = discPoint(i + (seed % 64) * RAYS);
    const z = Math.sqrt(Math.max(0, 1 - x * x - y * y));
    const d: Vec3 = [a[0] * x + b[0] * y + n[0] * z, a[1] * x + b[1] * y + n[1] * z, a[2] * x + b[2] * y + n[2] * z];
    const hit = rayTree(tree, o, d, FAR, (t) => meets(p, indices, t * 3, o, d));
    open += hit ? Math.min(1, hit.distance / FAR) ** 0.7 : 1;
  }
  return open / RAYS;
}

/** Distance along a ray to a triangle, from either side; infinite where it misses (Moeller and Trumbore, 1997). */
function meets(p: Float32Array, indices: Uint32Array, i: number, o: Vec3, d: Vec3): number {
  const at = (k: number): Vec3 => [p[indices[i + k] * 3], p[indices[i + k] * 3 + 1], p[indices[i + k] * 3 + 2]];
  const a = at(0);
  const [e1, e2] = [sub(at(1), a), sub(at(2), a)];
  const h = cross(d, e2);
  const det = dot(e1, h);
  if (Math.abs(det) < 1e-12) return Infinity;
  const s = sub(o, a);
  const u = dot(s, h) / det;
  if (u < 0 || u > 1) return Infinity;
  const q = cross(s, e1);
  const v = dot(d, q) / det;
  if (v < 0 || u + v > 1) return Infinity;
  const t = dot(e2, q) / det;
  return t > 0 ? t : Infinity;
}

/** Pixels outside the charts take the mean of those beside them, twice. */
function spread(value: Float32Array, side: number): void {
  for (let round = 0; round < 3; round++) {
    const was = value.slice();
    for (let y = 0; y < side; y++)
      for (let x = 0; x < side; x++) {
        if (was[y * side + x] >= 0) continue;
        let [sum, n] = [0, 0];
        for (const [dx, dy] of [
          [1, 0],
          [-1, 0],
          [0, 1],
          [0, -1],
        ]) {
          const [nx, ny] = [x + dx, y + dy];
          if (nx < 0 || ny < 0 || nx >= side || ny >= side || was[ny * side + nx] < 0) continue;
          sum += was[ny * side + nx];
          n++;
        }
        if (n > 0) value[y * side + x] = sum / n;
      }
  }
}
