/**
 * SHA-256 of bytes as 64 hex digits: the content hash that names an asset.
 *
 * FIPS 180-4. Written here because core may use neither Node's nor the browser's own.
 */
export function sha256(bytes: Uint8Array): string {
  const padded = new Uint8Array((((bytes.length + 8) >> 6) + 1) << 6);
  padded.set(bytes);
  padded[bytes.length] = 0x80;
  const view = new DataView(padded.buffer);
  view.setUint32(padded.length - 8, Math.floor(bytes.length / 0x20000000));
  view.setUint32(padded.length - 4, (bytes.length << 3) >>> 0);
  const h = Uint32Array.from(START);
  const w = new Uint32Array(64);
  for (let at = 0; at < padded.length; at += 64) {
    for (let i = 0; i < 16; i++) w[i] = view.getUint32(at + i * 4);
    for (let i = 16; i < 64; i++) {
      const s0 = turn(w[i - 15], 7) ^ turn(w[i - 15], 18) ^ (w[i - 15] >>> 3);
      const s1 = turn(w[i - 2], 17) ^ turn(w[i - 2], 19) ^ (w[i - 2] >>> 10);
      w[i] = w[i - 16] + s0 + w[i - 7] + s1;
    }
    let [a, b, c, d, e, f, g, k] = h;
    for (let i = 0; i < 64; i++) {
      const t1 = (k + (turn(e, 6) ^ turn(e, 11) ^ turn(e, 25)) + ((e & f) ^ (~e & g)) + ROUND[i] + w[i]) | 0;
      const t2 = ((turn(a, 2) ^ turn(a, 13) ^ turn(a, 22)) + ((a & b) ^ (a & c) ^ (b & c))) | 0;
      k = g; g = f; f = e; e = (d + t1) | 0; d = c; c = b; b = a; a = (t1 + t2) | 0;
    }
    [a, b, c, d, e, f, g, k].forEach((v, i) => { h[i] += v; });
  }
  return [...h].map((v) => v.toString(16).padStart(8, '0')).join('');
}

const turn = (v: number, n: number): number => (v >>> n) | (v << (32 - n));

/** First 64 primes: the constants are 32 bits of the fractions of their square and cube roots. */
const PRIMES = (() => {
  const out: number[] = [];
  for (let n = 2; out.length < 64; n++) if (out.every((p) => n % p !== 0)) out.push(n);
  return out;
})();

/** 32 bits after the point of an integer root, by bisection on integers: no engine's own roots. */
function rootFraction(n: number, power: 2 | 3): number {
  const target = BigInt(n) << BigInt(32 * power);
  let low = 0n;
  let high = 1n << 38n;
  while (high - low > 1n) {
    const mid = (low + high) >> 1n;
    if (mid ** BigInt(power) <= target) low = mid;
    else high = mid;
  }
  return Number(low & 0xffffffffn);
}
const START = PRIMES.slice(0, 8).map((p) => rootFraction(p, 2));
const ROUND = PRIMES.map((p) => rootFraction(p, 3));
