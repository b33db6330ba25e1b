import type { Mesh } from '../../num/mesh';
import type { MendTools } from './tools';

/** A split that takes away less than this share of the whole hull is not worth a part. */
const GAIN = 0.015;
/** Triangles and points a split is judged by, of many some. */
const JUDGED = { triangles: 1500, points: 600 };
const CUTS = [0.2, 0.35, 0.5, 0.65, 0.8];

interface Part {
  /** triangles of what lies in it, nine numbers each */
  soup: Float32Array;
  volume: number;
  best?: { axis: number; at: number; gain: number };
}

/**
 * Convex shapes that hold a mesh between them, every vertex in one at least: the mesh is cut again and again along an axis, where
 * that takes most empty room out of the hulls, until nothing is gained or there are enough.
 *
 * @param most parts
 */
export function convexParts(mesh: Mesh, most: number, hull: MendTools['hull']): Mesh[] {
  const soup = new Float32Array(mesh.indices.length * 3);
  mesh.indices.forEach((i, c) => soup.set(mesh.positions.subarray(i * 3, i * 3 + 3), c * 3));
  const volumeOf = (points: Float32Array): number => {
    const judged = hull(thinned(points, 3, JUDGED.points));
    return judged ? volume(judged) : 0;
  };
  const whole = volumeOf(soup);
  const parts: Part[] = [{ soup, volume: whole }];
  while (parts.length < most) {
    for (const part of parts) part.best ??= bestCut(part, volumeOf);
    const next = parts.reduce((a, b) => (b.best!.gain > a.best!.gain ? b : a));
    if (next.best!.gain <= Math.max(whole * GAIN, 1e-9)) break;
    const { axis, at } = next.best!;
    const halves = cut(next.soup, axis, at).filter((half) => half.length > 0);
    parts.splice(parts.indexOf(next), 1, ...halves.map((half) => ({ soup: half, volume: volumeOf(half) })));
  }
  return parts.map((part) => hull(part.soup) ?? flatHull(part.soup, hull));
}

function bestCut({ soup: whole, volume: own }: Part, volumeOf: (points: Float32Array) => number): NonNullable<Part['best']> {
  const soup = thinned(whole, 9, JUDGED.triangles);
  let best = { axis: 0, at: 0, gain: 0 };
  for (let axis = 0; axis < 3; axis++) {
    let [low, high] = [Infinity, -Infinity];
    for (let i = axis; i < soup.length; i += 3) {
      low = Math.min(low, soup[i]);
      high = Math.max(high, soup[i]);
    }
    for (const share of CUTS) {
      const at = low + (high - low) * share;
      const gain = own - cut(soup, axis, at).reduce((sum, half) => sum + (half.length > 0 ? volumeOf(half) : 0), 0);
      if (gain > best.gain) best = { axis, at, gain };
    }
  }
  return best;
}

/** Triangles on either side of a plane; those it passes are cut in two. */
function cut(soup: Float32Array, axis: number, at: number): [Float32Array, Float32Array] {
  const sides: [number[], number[]] = [[], []];
  for (let t = 0; t < soup.length; t += 9) {
    for (const side of [0, 1] as const) {
      const polygon: number[][] = [];
      for (let c = 0; c < 3; c++) {
        const p = [...soup.subarray(t + c * 3, t + c * 3 + 3)];
        const q = [...soup.subarray(t + ((c + 1) % 3) * 3, t + ((c + 1) % 3) * 3 + 3)];
        const inside = (v: number[]) => (side === 0 ? v[axis] <= at : v[axis] >= at);
        if (inside(p)) polygon.push(p);
        if (p[axis] !== at && q[axis] !== at && inside(p) !== inside(q)) {
          const s = (at - p[axis]) / (q[axis] - p[axis]);
          polygon.push(p.map((v, k) => (k === axis ? at : v + (q[k] - v) * s)));
        }
      }
      for (let i = 2; i < polygon.length; i++) sides[side].push(...polygon[0], ...polygon[i - 1], ...polygon[i]);
    }
  }
  return [Float32Array.from(sides[0]), Float32Array.from(sides[1])];
}

/** Some of a list, evenly. @param size numbers that belong together */
function thinned(list: Float32Array, size: number, most: number): Float32Array {
  const count = list.length / size;
  if (count <= most) return list;
  const out = new Float32Array(most * size);
  for (let i = 0; i < most; i++) out.set(list.subarray(Math.floor((i * count) / most) * size, (Math.floor((i * count) / most) + 1) * size), i * size);
  return out;
}

/** The hull of something flat: a millimetre thick. */
function flatHull(points: Float32Array, hull: MendTools['hull']): Mesh {
  const thick = new Float32Array(points.length * 2);
  points.forEach((v, i) => {
    thick[i] = v - 0.0005;
    thick[points.length + i] = v + 0.0005;
  });
  return hull(thick) ?? { positions: points, indices: Uint32Array.from({ length: points.length / 3 }, (_, i) => i) };
}

/** Of a closed mesh, by the signed tetrahedra of its triangles about the origin. */
export function volume({ positions: p, indices }: Mesh): number {
  let sum = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    sum += p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) - p[a + 1] * (p[b] * p[c + 2] - p[b + 2] * p[c]) + p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
  }
  return sum / 6;
}
