import type { Mesh } from './mesh';

/**
 * A tree of boxes over triangles, for the nearest point of a mesh.
 *
 * Layout: node n has its box in `boxes[6 n]`: least x, y, z, greatest x, y, z; in `links[2 n]` the place of its second child (the
 * first is n + 1), or of its first triangle in `order`; in `links[2 n + 1]` 0, or how many triangles it holds.
 */
export interface TriangleTree {
  mesh: Mesh;
  boxes: Float32Array;
  links: Int32Array;
  order: Uint32Array;
}

const LEAF = 4;

/** Halves triangles by the middle of their longest spread until four are left. */
export function triangleTree(mesh: Mesh): TriangleTree {
  const { positions: p, indices } = mesh;
  const count = indices.length / 3;
  const order = Uint32Array.from({ length: count }, (_, i) => i);
  const middle = new Float32Array(count * 3);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 3; k++) middle[t * 3 + k] = (p[indices[t * 3] * 3 + k] + p[indices[t * 3 + 1] * 3 + k] + p[indices[t * 3 + 2] * 3 + k]) / 3;
  const boxes: number[] = [];
  const links: number[] = [];
  const build = (from: number, to: number): void => {
    const node = links.length / 2;
    links.push(from, to - from);
    const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    const spread = [...box];
    for (let i = from; i < to; i++) {
      const t = order[i];
      for (let k = 0; k < 3; k++) {
        spread[k] = Math.min(spread[k], middle[t * 3 + k]);
        spread[3 + k] = Math.max(spread[3 + k], middle[t * 3 + k]);
        for (let c = 0; c < 3; c++) {
          const v = p[indices[t * 3 + c] * 3 + k];
          box[k] = Math.min(box[k], v);
          box[3 + k] = Math.max(box[3 + k], v);
        }
      }
    }
    boxes.push(...box);
    if (to - from <= LEAF) return;
    const wide = [0, 1, 2].map((k) => spread[3 + k] - spread[k]);
    const axis = wide[0] >= wide[1] && wide[0] >= wide[2] ? 0 : wide[1] >= wide[2] ? 1 : 2;
    const half = (spread[axis] + spread[3 + axis]) / 2;
    let mid = from;
    for (let i = from; i < to; i++) {
      if (middle[order[i] * 3 + axis] > half) continue;
      [order[i], order[mid]] = [order[mid], order[i]];
      mid++;
    }
    if (mid === from || mid === to) mid = (from + to) >> 1;
    links[node * 2 + 1] = 0;
    build(from, mid);
    links[node * 2] = links.length / 2;
    build(mid, to);
  };
  if (count > 0) build(0, count);
  return { mesh, boxes: Float32Array.from(boxes), links: Int32Array.from(links), order };
}

/** Distance from a point to a mesh. @param most what lies further is not looked for */
export function distanceTo({ mesh, boxes, links, order }: TriangleTree, x: number, y: number, z: number, most = Infinity): number {
  const { positions: p, indices } = mesh;
  let best = most * most;
  const stack = [0];
  const toBox = (n: number): number => {
    const dx = Math.max(boxes[n * 6] - x, 0, x - boxes[n * 6 + 3]);
    const dy = Math.max(boxes[n * 6 + 1] - y, 0, y - boxes[n * 6 + 4]);
    const dz = Math.max(boxes[n * 6 + 2] - z, 0, z - boxes[n * 6 + 5]);
    return dx * dx + dy * dy + dz * dz;
  };
  while (stack.length > 0 && links.length > 0) {
    const n = stack.pop()!;
    if (toBox(n) >= best) continue;
    const held = links[n * 2 + 1];
    if (held > 0) {
      for (let i = links[n * 2]; i < links[n * 2] + held; i++) best = Math.min(best, toTriangle(p, indices, order[i] * 3, [x, y, z]));
      continue;
    }
    const [a, b] = [n + 1, links[n * 2]];
    // The nearer half last, so that it is looked at first.
    if (toBox(a) < toBox(b)) stack.push(b, a);
    else stack.push(a, b);
  }
  return Math.sqrt(best);
}

/** Where a ray meets a mesh. */
export interface TreeHit {
  distance: number;
  triangle: number;
}

/**
 * First front face that a ray meets, by the boxes it passes; of two as near the one listed first.
 *
 * @param d unit length @param far what lies further is not looked for
 * @param hit distance along the ray to the plane of triangle `t` and whether it is met within it; see `block/placedMesh`
 */
export function rayTree(
  { boxes, links, order }: TriangleTree,
  o: readonly number[],
  d: readonly number[],
  far: number,
  hit: (t: number) => number,
): TreeHit | undefined {
  let best: TreeHit | undefined;
  const inverse = [1 / d[0], 1 / d[1], 1 / d[2]];
  const enters = (n: number): number => {
    let enter = 0;
    let leave = best ? best.distance : far;
    for (let k = 0; k < 3; k++) {
      const low = boxes[n * 6 + k];
      const high = boxes[n * 6 + 3 + k];
      if (d[k] === 0) {
        if (o[k] < low || o[k] > high) return Infinity;
        continue;
      }
      const a = (low - o[k]) * inverse[k];
      const b = (high - o[k]) * inverse[k];
      // Boxes are float32: a hair wider, so that a face in a box's own side is not missed.
      enter = Math.max(enter, Math.min(a, b) - 1e-4);
      leave = Math.min(leave, Math.max(a, b) + 1e-4);
    }
    return enter <= leave ? enter : Infinity;
  };
  const stack = [0];
  while (stack.length > 0 && links.length > 0) {
    const n = stack.pop()!;
    if (enters(n) === Infinity) continue;
    const held = links[n * 2 + 1];
    if (held > 0) {
      for (let i = links[n * 2]; i < links[n * 2] + held; i++) {
        const t = hit(order[i]);
        if (t > far || (best && (t > best.distance || (t === best.distance && best.triangle < order[i])))) continue;
        if (t >= 0) best = { distance: t, triangle: order[i] };
      }
      continue;
    }
    const [a, b] = [n + 1, links[n * 2]];
    // The nearer half last, so that it is looked at first.
    if (enters(a) < enters(b)) stack.push(b, a);
    else stack.push(a, b);
  }
  return best;
}

/** Squared distance from a point to a triangle (Ericson, Real-Time Collision Detection, 5.1.5). */
function toTriangle(p: Float32Array, indices: Uint32Array, t: number, q: readonly [number, number, number]): number {
  const [a, b, c] = [indices[t] * 3, indices[t + 1] * 3, indices[t + 2] * 3];
  const ab = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  const ac = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
  const ap = [q[0] - p[a], q[1] - p[a + 1], q[2] - p[a + 2]];
  const dot = (u: readonly number[], v: readonly number[]) => u[0] * v[0] + u[1] * v[1] + u[2] * v[2];
  const from = (s: number, r: number): number => {
    const d = [0, 1, 2].map((k) => ap[k] - ab[k] * s - ac[k] * r);
    return dot(d, d);
  };
  const [d1, d2] = [dot(ab, ap), dot(ac, ap)];
  if (d1 <= 0 && d2 <= 0) return from(0, 0);
  const bp = [0, 1, 2].map((k) => ap[k] - ab[k]);
  const [d3, d4] = [dot(ab, bp), dot(ac, bp)];
  if (d3 >= 0 && d4 <= d3) return from(1, 0);
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return from(d1 / (d1 - d3), 0);
  const cp = [0, 1, 2].map((k) => ap[k] - ac[k]);
  const [d5, d6] = [dot(ab, cp), dot(ac, cp)];
  if (d6 >= 0 && d5 <= d6) return from(0, 1);
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return from(0, d2 / (d2 - d6));
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
    const w = (d4 - d3) / (d4 - d3 + (d5 - d6));
    return from(1 - w, w);
  }
  const s = va + vb + vc;
  return s === 0 ? from(0, 0) : from(vb / s, vc / s);
}
