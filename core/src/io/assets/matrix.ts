/** A 4 x 4 matrix by columns, as glTF has it. */
export type Matrix = readonly number[];

/** a times b: b first. */
export function times(a: Matrix, b: Matrix): Matrix {
  const out: number[] = [];
  for (let c = 0; c < 4; c++)
    for (let r = 0; r < 4; r++) out[c * 4 + r] = a[r] * b[c * 4] + a[4 + r] * b[c * 4 + 1] + a[8 + r] * b[c * 4 + 2] + a[12 + r] * b[c * 4 + 3];
  return out;
}

/** Of a move, a unit quaternion (x, y, z, w) and a scale, in the order scale, turn, move. */
export function matrixOf([tx, ty, tz]: readonly number[], [x, y, z, w]: readonly number[], [sx, sy, sz]: readonly number[]): Matrix {
  return [
    (1 - 2 * (y * y + z * z)) * sx,
    2 * (x * y + z * w) * sx,
    2 * (x * z - y * w) * sx,
    0,
    2 * (x * y - z * w) * sy,
    (1 - 2 * (x * x + z * z)) * sy,
    2 * (y * z + x * w) * sy,
    0,
    2 * (x * z + y * w) * sz,
    2 * (y * z - x * w) * sz,
    (1 - 2 * (x * x + y * y)) * sz,
    0,
    tx,
    ty,
    tz,
    1,
  ];
}

/** Of the part that turns and scales: negative where it mirrors. */
export const determinant3 = (m: Matrix): number =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5]);

/** What turns normals, by columns, up to a positive factor: the cofactors, with the sign of the determinant. */
export function inverseTranspose3(m: Matrix): readonly number[] {
  const s = determinant3(m) < 0 ? -1 : 1;
  return [
    s * (m[5] * m[10] - m[6] * m[9]),
    s * (m[6] * m[8] - m[4] * m[10]),
    s * (m[4] * m[9] - m[5] * m[8]),
    s * (m[2] * m[9] - m[1] * m[10]),
    s * (m[0] * m[10] - m[2] * m[8]),
    s * (m[1] * m[8] - m[0] * m[9]),
    s * (m[1] * m[6] - m[2] * m[5]),
    s * (m[2] * m[4] - m[0] * m[6]),
    s * (m[0] * m[5] - m[1] * m[4]),
  ];
}
