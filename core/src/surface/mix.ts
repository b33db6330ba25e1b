import { MOST_SURFACES } from '../level/objects';
import { clamp } from '../num/vec';

/** Surfaces that mix at one sample at most; of more the strongest are kept. */
export const SLOTS = 4;

/** Lays a share of a surface over a mix. */
export function lay(mix: Float64Array, of: number, share: number): void {
  if (share <= 0) return;
  for (let i = 0; i < mix.length; i++) mix[i] *= 1 - share;
  mix[of] += share;
}

/** Lays paint over a mix. Undone strokes can leave more than the whole; then the paint is scaled to it. */
export function cover(mix: Float64Array, paint: (Int32Array | undefined)[], local: number): void {
  let sum = 0;
  for (const p of paint) if (p) sum += p[local];
  if (sum <= 0) return;
  const scale = sum > 1024 ? 1 / sum : 1 / 1024;
  const rest = Math.max(0, 1 - sum * scale);
  for (let i = 0; i < mix.length; i++) mix[i] = mix[i] * rest + (paint[i] ? paint[i]![local] * scale : 0);
}

const _kept = new Uint8Array(MOST_SURFACES);

/** Keeps the strongest surfaces of a mix and rounds them to bytes that sum to `total`; what rounding leaves over goes to the largest. */
export function toBytes(mix: Float64Array, of: Uint8Array, out: Uint8Array, at: number, total: number): void {
  let whole = 1;
  if (mix.length > SLOTS) {
    let count = 0;
    for (let i = 0; i < mix.length; i++) if (mix[i] > 0) _kept[count++] = i;
    if (count > SLOTS) whole = keepStrongest(mix, count);
    // Slots that are not needed name a surface that is there, with no share of it.
    for (let k = 0; k < SLOTS; k++) of[at + k] = k < count ? _kept[k] : count > 0 ? _kept[Math.min(count, SLOTS) - 1] : 0;
    if (count < SLOTS) {
      let sum = 0;
      let most = 0;
      for (let k = 0; k < SLOTS; k++) {
        const b = k < count ? Math.min(255, Math.round(mix[_kept[k]] * 255)) : 0;
        out[at + k] = b;
        sum += b;
        if (k < count && mix[_kept[k]] > mix[_kept[most]]) most = k;
      }
      out[at + most] = clamp(out[at + most] + total - sum, 0, 255);
      return;
    }
  }
  let sum = 0;
  let most = 0;
  for (let k = 0; k < SLOTS; k++) {
    const v = mix[of[at + k]] * whole;
    const b = Math.min(255, Math.round(v * 255));
    out[at + k] = b;
    sum += b;
    if (mix[of[at + k]] > mix[of[at + most]]) most = k;
  }
  out[at + most] = clamp(out[at + most] + total - sum, 0, 255);
}

/** Leaves the strongest `SLOTS` of `_kept`, of equal ones the first, ascending. @returns by what they grow to be the whole again */
function keepStrongest(mix: Float64Array, count: number): number {
  let all = 0;
  for (let k = 0; k < count; k++) all += mix[_kept[k]];
  let left = count;
  while (left > SLOTS) {
    let least = 0;
    for (let k = 1; k < left; k++) if (mix[_kept[k]] <= mix[_kept[least]]) least = k;
    _kept.copyWithin(least, least + 1, left);
    left--;
  }
  let kept = 0;
  for (let k = 0; k < SLOTS; k++) kept += mix[_kept[k]];
  return all / kept;
}
