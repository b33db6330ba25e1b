/**
 * What to multiply the alpha of each level of a picture with, so that as much of it stays over a cut-off as of the picture itself: without, the
 * leaves of a tree grow thin as they go away, for the mean of a leaf and of the gaps beside it falls under the cut-off (Castano 2010).
 *
 * @param alpha bytes, `width * height`
 * @param cutoff 0 to 1: what has less is not drawn
 * @returns a factor for each level, the first, 1, for the picture itself, each next one half as wide; the last holds for all after it
 */
export function keptCoverage(alpha: Uint8Array, width: number, height: number, cutoff: number): number[] {
  const out = [1];
  let level: ArrayLike<number> = alpha;
  let [w, h] = [width, height];
  const share = covered(alpha, cutoff * 255);
  if (share === 0 || share === 1) return out;
  while (w > 4 && h > 4) {
    const next = halved(level, w, h);
    [w, h] = [w >> 1, h >> 1];
    out.push(factorFor(next, share, cutoff * 255));
    level = next;
  }
  return out;
}

const covered = (alpha: ArrayLike<number>, cutoff: number): number => {
  let n = 0;
  for (let i = 0; i < alpha.length; i++) if (alpha[i] >= cutoff) n++;
  return n / alpha.length;
};

function halved(alpha: ArrayLike<number>, w: number, h: number): Float32Array {
  const [nw, nh] = [w >> 1, h >> 1];
  const out = new Float32Array(nw * nh);
  for (let y = 0; y < nh; y++)
    for (let x = 0; x < nw; x++) {
      const i = y * 2 * w + x * 2;
      out[y * nw + x] = (alpha[i] + alpha[i + 1] + alpha[i + w] + alpha[i + w + 1]) / 4;
    }
  return out;
}

/** The factor that brings a share of a level over the cut-off: the cut-off over the alpha that so many have. */
function factorFor(alpha: Float32Array, share: number, cutoff: number): number {
  const sorted = alpha.slice().sort();
  const n = sorted.length;
  const place = Math.min(n - 1, Math.max(0, Math.round(n * (1 - share))));
  // Many may have the very same: then either all of them are drawn or none, whichever is nearer.
  const at = sorted[place];
  let first = place;
  let next = place;
  while (first > 0 && sorted[first - 1] === at) first--;
  while (next < n && sorted[next] === at) next++;
  const without = next < n && Math.abs(1 - next / n - share) < Math.abs(1 - first / n - share);
  // A level that has lost nearly all is not blown up to a blot.
  return Math.min(4, Math.max(0.25, cutoff / Math.max(without ? sorted[next] : at, 1)));
}
