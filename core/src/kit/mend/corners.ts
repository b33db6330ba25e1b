import type { Primitive } from '../asset';

/** A stream of a primitive and how many numbers of it belong to a vertex. */
const STREAMS = [
  ['positions', 3],
  ['normals', 3],
  ['tangents', 4],
  ['colours', 4],
  ['uvs', 2],
  ['uvs1', 2],
] as const;

/** A primitive with only the vertices its triangles name, in the order they are met. */
export function compact(p: Primitive, indices: Uint32Array = p.indices): Primitive {
  const place = new Int32Array(p.positions.length / 3).fill(-1);
  const from: number[] = [];
  const out = indices.map((i) => {
    if (place[i] < 0) place[i] = from.push(i) - 1;
    return place[i];
  });
  return { ...picked(p, from), indices: out };
}

/** The streams of some vertices, in the order given. */
export function picked(p: Primitive, from: ArrayLike<number>): Primitive {
  const out: Primitive = { ...p };
  for (const [name, size] of STREAMS) {
    const values = p[name];
    if (!values) continue;
    const made = new Float32Array(from.length * size);
    for (let i = 0; i < from.length; i++) for (let k = 0; k < size; k++) made[i * size + k] = values[from[i] * size + k];
    out[name] = made;
  }
  return out;
}

/** Vertices that are the same in every stream become one. @param points what is the same place, see `weldPoints` */
export function joinEqual(p: Primitive, points: Uint32Array): Primitive {
  const count = points.length;
  let size = 16;
  while (size < count * 2) size *= 2;
  const table = new Int32Array(size).fill(-1);
  const place = new Uint32Array(count);
  const from: number[] = [];
  const rest = STREAMS.filter(([name]) => name !== 'positions' && p[name]);
  const same = (a: number, b: number): boolean =>
    points[a] === points[b] &&
    rest.every(([name, n]) => {
      const v = p[name]!;
      for (let k = 0; k < n; k++) if (Math.abs(v[a * n + k] - v[b * n + k]) > 1e-4) return false;
      return true;
    });
  for (let i = 0; i < count; i++) {
    let slot = Math.imul(points[i], 73_856_093) & (size - 1);
    while (table[slot] >= 0 && !same(from[table[slot]], i)) slot = (slot + 1) & (size - 1);
    if (table[slot] < 0) table[slot] = from.push(i) - 1;
    place[i] = table[slot];
  }
  const made = picked(p, from);
  // All that are one place lie at the same one, so that no crack is left.
  for (let i = 0; i < from.length; i++) made.positions.set(p.positions.subarray(points[from[i]] * 3, points[from[i]] * 3 + 3), i * 3);
  const indices: number[] = [];
  for (let i = 0; i < p.indices.length; i += 3) {
    const [a, b, c] = [place[p.indices[i]], place[p.indices[i + 1]], place[p.indices[i + 2]]];
    if (a !== b && b !== c && a !== c) indices.push(a, b, c);
  }
  return { ...made, indices: Uint32Array.from(indices) };
}
