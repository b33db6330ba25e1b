/**
 * Points that lie within a distance of each other as one: for each point the first of those it is one with.
 *
 * @param positions x, y, z each
 * @param within in their unit; 0 joins equal ones alone
 * @returns for each point the place of the point it became; those that stay are their own
 */
export function weldPoints(positions: Float32Array, within: number): Uint32Array {
  const count = positions.length / 3;
  const out = new Uint32Array(count);
  const cell = Math.max(within * 2, 1e-9);
  let size = 16;
  while (size < count * 2) size *= 2;
  const table = new Int32Array(size).fill(-1);
  const next = new Int32Array(count).fill(-1);
  const exact = within === 0;
  const bits = new Int32Array(positions.buffer, positions.byteOffset, positions.length);
  const hash = (x: number, y: number, z: number) => (Math.imul(x, 73_856_093) ^ Math.imul(y, 19_349_663) ^ Math.imul(z, 83_492_791)) & (size - 1);
  // Minus zero is zero.
  const bit = (i: number): number => (positions[i] === 0 ? 0 : bits[i]);
  const at = (v: number) => Math.floor(v / cell) | 0;
  for (let i = 0; i < count; i++) {
    const [x, y, z] = [positions[i * 3], positions[i * 3 + 1], positions[i * 3 + 2]];
    let found = -1;
    if (exact) {
      const slot = hash(bit(i * 3), bit(i * 3 + 1), bit(i * 3 + 2));
      for (let k = table[slot]; k >= 0 && found < 0; k = next[k])
        if (positions[k * 3] === x && positions[k * 3 + 1] === y && positions[k * 3 + 2] === z) found = k;
      if (found < 0) {
        next[i] = table[slot];
        table[slot] = i;
      }
    } else {
      // A cell is twice as wide as the distance: what is near lies in one of eight.
      for (let cx = at(x - within); cx <= at(x + within) && found < 0; cx++)
        for (let cy = at(y - within); cy <= at(y + within) && found < 0; cy++)
          for (let cz = at(z - within); cz <= at(z + within) && found < 0; cz++)
            for (let k = table[hash(cx, cy, cz)]; k >= 0 && found < 0; k = next[k]) {
              const [dx, dy, dz] = [positions[k * 3] - x, positions[k * 3 + 1] - y, positions[k * 3 + 2] - z];
              if (dx * dx + dy * dy + dz * dz <= within * within) found = k;
            }
      if (found < 0) {
        const slot = hash(at(x), at(y), at(z));
        next[i] = table[slot];
        table[slot] = i;
      }
    }
    out[i] = found < 0 ? i : found;
  }
  return out;
}

/**
 * Edges of triangles that no second triangle closes, or that more than two share.
 *
 * @param indices triangles by welded points
 * @param points how many points there are
 */
export function openEdges(indices: Uint32Array, points: number): { open: number; edges: number } {
  const keys = new Float64Array(indices.length);
  let n = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i], indices[i + 1], indices[i + 2]];
    if (a === b || b === c || a === c) continue;
    for (const [p, q] of [
      [a, b],
      [b, c],
      [c, a],
    ])
      // The last bit says which way it runs: a closed surface has one of each.
      keys[n++] = (Math.min(p, q) * points + Math.max(p, q)) * 2 + (p < q ? 1 : 0);
  }
  const sorted = keys.subarray(0, n).sort();
  let [open, edges] = [0, 0];
  for (let i = 0; i < n;) {
    const edge = Math.floor(sorted[i] / 2);
    let [ways, total] = [0, 0];
    for (; i < n && Math.floor(sorted[i] / 2) === edge; i++) {
      ways += sorted[i] % 2 === 1 ? 1 : -1;
      total++;
    }
    edges++;
    if (ways !== 0 || total % 2 === 1) open++;
  }
  return { open, edges };
}
