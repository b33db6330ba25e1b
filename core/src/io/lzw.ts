const CLEAR = 256;
const END = 257;
const MOST_CODES = 4096;

/**
 * Unpacks LZW as TIFF 6.0 has it (section 13): codes of 9 to 12 bits, the highest bit first, each width given
 * up one code early.
 *
 * @param length bytes it is known to hold; what is beyond them is not unpacked
 * @returns fewer bytes where the data end before that
 * @throws RangeError where a code names a run that is not there yet
 */
export function unpackLzw(packed: Uint8Array, length: number): Uint8Array {
  const out = new Uint8Array(length);
  /** where the run of each code begins in `out`, and how long it is: a run is the one before it and a byte more, which lie there one after the other */
  const from = new Int32Array(MOST_CODES);
  const long = new Int32Array(MOST_CODES);
  let [codes, bits, at, held, count] = [END + 1, 9, 0, 0, 0];
  let last = -1;
  let lastFrom = 0;
  let lastLong = 0;
  for (const byte of packed) {
    held = ((held << 8) | byte) & 0xffffff;
    count += 8;
    if (count < bits) continue;
    count -= bits;
    const code = (held >> count) & ((1 << bits) - 1);
    if (code === END) break;
    if (code === CLEAR) {
      [codes, bits, last] = [END + 1, 9, -1];
      continue;
    }
    if (code > codes || (code === codes && last < 0) || (code > 255 && last < 0)) throw new RangeError(`an LZW code ${code} of ${codes}`);
    const start = at;
    // A code that is just being made is the run before it and that run's first byte.
    const [source, size] = code < CLEAR ? [-1, 1] : code < codes ? [from[code], long[code]] : [lastFrom, lastLong + 1];
    if (source < 0) {
      if (at < length) out[at] = code;
      at++;
    } else for (let i = 0; i < size; i++, at++) if (at < length) out[at] = out[source + i];
    if (last >= 0 && codes < MOST_CODES) {
      from[codes] = lastFrom;
      long[codes] = lastLong + 1;
      codes++;
    }
    [last, lastFrom, lastLong] = [code, start, at - start];
    if (codes + 1 >= 1 << bits && bits < 12) bits++;
    if (at >= length) break;
  }
  return at < length ? out.subarray(0, at) : out;
}
