import { strFromU8 } from 'fflate';
import type { Mesh } from '../num/mesh';
import { fault, type Outcome } from './fault';

/** The most an OBJ may have. */
export const OBJ_LIMITS = Object.freeze({ bytes: 200 << 20, vertices: 2_000_000, triangles: 2_000_000, metres: 100_000 });

/**
 * Reads the shape of a Wavefront OBJ: its `v` and `f` lines, metres, Y up; faces of more than three corners are
 * fanned from their first. All else is passed over.
 */
export function readObj(name: string, bytes: Uint8Array): Outcome<Mesh> {
  if (bytes.length > OBJ_LIMITS.bytes) return fault('obj-too-large', `${name} is larger than ${OBJ_LIMITS.bytes >> 20} MB`);
  const positions: number[] = [];
  const indices: number[] = [];
  let line = 0;
  for (const text of linesOf(bytes)) {
    line++;
    if (text.startsWith('v ')) {
      const [x, y, z] = text.slice(2).trim().split(/\s+/, 3).map(Number);
      if (![x, y, z].every(Number.isFinite)) return fault('obj-not-finite', `${name}, line ${line}: a corner that is not three numbers`);
      if (Math.max(Math.abs(x), Math.abs(y), Math.abs(z)) > OBJ_LIMITS.metres)
        return fault('obj-size', `${name}, line ${line}: a corner ${OBJ_LIMITS.metres / 1000} km away or more. Is it in metres?`);
      positions.push(x, y, z);
      if (positions.length > OBJ_LIMITS.vertices * 3) return fault('obj-too-large', `${name} has more than ${OBJ_LIMITS.vertices} corners`);
    } else if (text.startsWith('f ')) {
      const count = positions.length / 3;
      const corners = text
        .slice(2)
        .trim()
        .split(/\s+/)
        .map((c) => {
          const i = Number(c.split('/', 1)[0]);
          return i < 0 ? count + i : i - 1;
        });
      const wrong = corners.find((c) => !Number.isInteger(c) || c < 0 || c >= count);
      if (wrong !== undefined) return fault('obj-index', `${name}, line ${line}: a face names a corner that is not there`);
      if (corners.length < 3) return fault('obj-invalid', `${name}, line ${line}: a face of ${corners.length} corners`);
      for (let i = 2; i < corners.length; i++) indices.push(corners[0], corners[i - 1], corners[i]);
      if (indices.length > OBJ_LIMITS.triangles * 3) return fault('obj-too-large', `${name} has more than ${OBJ_LIMITS.triangles} triangles`);
    }
  }
  if (indices.length === 0) return fault('obj-no-triangles', `${name} has no faces: it is no OBJ, or one of points and lines alone`);
  return { ok: true, value: { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) } };
}

/** Lines of a text in turn, so that one of hundreds of megabytes is never held as one string. */
export function* linesOf(bytes: Uint8Array): Generator<string> {
  for (let from = 0; from < bytes.length;) {
    let to = bytes.indexOf(10, from);
    if (to < 0) to = bytes.length;
    // What is longer is no line of an OBJ.
    if (to - from <= 65_536) yield strFromU8(bytes.subarray(from, to), true).replace(/\r$/, '');
    else yield '';
    from = to + 1;
  }
}
