/** Dots of two walk areas laid over each other: who can get where. */
export const BOTH = 3;
export const SECOND_ONLY = 2;
export const FIRST_ONLY = 1;

/** Two dots this near in height are the same ground, metres. */
const SAME = 0.6;

/**
 * Compares the linked ground of two bodies. Dots of walkDots: x, y, z and whether linked; unlinked
 * ones of either are left out.
 *
 * @returns x, y, z and 1 first only, 2 second only, 3 both
 */
export function compareDots(first: Float32Array, second: Float32Array): Float32Array {
  const at = new Map<string, number[]>();
  for (let i = 0; i < second.length; i += 4) {
    if (second[i + 3] < 0.5) continue;
    const key = `${second[i]},${second[i + 2]}`;
    const list = at.get(key);
    if (list) list.push(i);
    else at.set(key, [i]);
  }
  const out: number[] = [];
  const met = new Set<number>();
  for (let i = 0; i < first.length; i += 4) {
    if (first[i + 3] < 0.5) continue;
    const other = at.get(`${first[i]},${first[i + 2]}`)?.find((k) => Math.abs(second[k + 1] - first[i + 1]) < SAME);
    if (other !== undefined) met.add(other);
    out.push(first[i], first[i + 1], first[i + 2], other === undefined ? FIRST_ONLY : BOTH);
  }
  for (const list of at.values()) for (const k of list) if (!met.has(k)) out.push(second[k], second[k + 1], second[k + 2], SECOND_ONLY);
  return Float32Array.from(out);
}
