/** Normals of triangles whose corners lie one after the other, nine numbers a triangle. */
export function flatNormals(p: Float32Array, out: Float32Array = new Float32Array(p.length)): Float32Array {
  for (let o = 0; o < p.length; o += 9) {
    const u = [p[o + 3] - p[o], p[o + 4] - p[o + 1], p[o + 5] - p[o + 2]];
    const w = [p[o + 6] - p[o], p[o + 7] - p[o + 1], p[o + 8] - p[o + 2]];
    const n = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
    const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]) || 1;
    for (let c = 0; c < 9; c++) out[o + c] = n[c % 3] / l + 0;
  }
  return out;
}
