/**
 * For every cell of a grid the nearest cell that is marked, exactly: the two passes of Meijster, Roerdink
 * and Hesselink (2000), first down each column, then along each row by the lower envelope of parabolas.
 * Whole numbers throughout, so that the answer is the same everywhere; of two equally near cells the one
 * of the column further west counts.
 *
 * @param marked one byte a cell, row by row, not 0 where marked
 * @returns index of the nearest marked cell; -1 everywhere where none is marked
 */
export function nearestMarked(marked: Uint8Array, nx: number, nz: number): Int32Array {
  const out = new Int32Array(nx * nz);
  // Row of the nearest marked cell in the same column, or -1.
  const row = new Int32Array(nx * nz);
  for (let x = 0; x < nx; x++) {
    let last = -1;
    for (let z = 0, i = x; z < nz; z++, i += nx) {
      if (marked[i] !== 0) last = z;
      row[i] = last;
    }
    last = -1;
    for (let z = nz - 1, i = (nz - 1) * nx + x; z >= 0; z--, i -= nx) {
      if (marked[i] !== 0) last = z;
      if (last >= 0 && (row[i] < 0 || last - z < z - row[i])) row[i] = last;
    }
  }
  const from = new Int32Array(nx);
  const start = new Int32Array(nx);
  for (let z = 0; z < nz; z++) {
    const at = z * nx;
    let top = -1;
    for (let u = 0; u < nx; u++) {
      if (row[at + u] < 0) continue;
      const gu = (row[at + u] - z) * (row[at + u] - z);
      let begin = 0;
      while (top >= 0) {
        const s = from[top];
        const gs = (row[at + s] - z) * (row[at + s] - z);
        const t = start[top];
        if ((t - s) * (t - s) + gs > (t - u) * (t - u) + gu) top--;
        else {
          begin = 1 + Math.floor((u * u - s * s + gu - gs) / (2 * (u - s)));
          break;
        }
      }
      if (top < 0) begin = 0;
      if (begin >= nx) continue;
      top++;
      from[top] = u;
      start[top] = begin;
    }
    if (top < 0) {
      out.fill(-1, at, at + nx);
      continue;
    }
    for (let x = nx - 1; x >= 0; x--) {
      while (start[top] > x) top--;
      out[at + x] = row[at + from[top]] * nx + from[top];
    }
  }
  return out;
}

/** Distance of every cell to the nearest marked one, in cells; Infinity where none is marked. */
export function distanceToMarked(marked: Uint8Array, nx: number, nz: number): Float32Array {
  const near = nearestMarked(marked, nx, nz);
  const out = new Float32Array(nx * nz).fill(Infinity);
  if (near[0] < 0) return out;
  for (let z = 0, i = 0; z < nz; z++)
    for (let x = 0; x < nx; x++, i++) {
      const row = Math.floor(near[i] / nx);
      const [dx, dz] = [near[i] - row * nx - x, row - z];
      out[i] = Math.sqrt(dx * dx + dz * dz);
    }
  return out;
}
