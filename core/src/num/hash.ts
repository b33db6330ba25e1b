/**
 * Seeded integer hashes. They stand in for `Math.random` everywhere in core, so that the same seed
 * gives the same level on every machine.
 *
 * The mixer is the 32-bit finaliser of MurmurHash3 (public domain, A. Appleby).
 */

/** Mixes one 32-bit integer; a bijection on uint32. */
export function mix32(value: number): number {
  let h = value | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** Hash of a few integers under a seed, uint32. */
export function hashInts(seed: number, a: number, b = 0, c = 0): number {
  let h = mix32(seed ^ 0x9e3779b9);
  h = mix32(h ^ Math.imul(a | 0, 0x27d4eb2d));
  h = mix32(h ^ Math.imul(b | 0, 0x165667b1));
  return mix32(h ^ Math.imul(c | 0, 0x1b873593));
}

/**
 * A number in [0, 1) fixed by the seed and up to three integers.
 *
 * @example
 * const lean = 6 * (hashUnit(seed, i) - 0.5); // the same for stone i whenever it is asked for
 */
export function hashUnit(seed: number, a: number, b = 0, c = 0): number {
  return hashInts(seed, a, b, c) / 4294967296;
}

/** A stream of numbers in [0, 1): a counter through `hashInts`. */
export function randomStream(seed: number): () => number {
  let counter = 0;
  return () => hashUnit(seed, counter++);
}

/**
 * 64-bit content hash of bytes as 16 hex digits: two 32-bit FNV-like lanes, each finished by
 * `mix32`. For cache keys of derived results; not for security.
 */
export function hashBytes(bytes: Uint8Array): string {
  let a = 0x811c9dc5;
  let b = 0x2b992ddf;
  for (let i = 0; i < bytes.length; i++) {
    a = Math.imul(a ^ bytes[i], 0x01000193);
    b = Math.imul((b << 5) ^ (b >>> 27) ^ bytes[i], 0x85ebca77);
  }
  return hex32(mix32(a ^ bytes.length)) + hex32(mix32(b ^ a));
}

/** Content hash of a string, see `hashBytes`. */
export function hashText(text: string): string {
  const bytes = new Uint8Array(text.length * 2);
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    bytes[2 * i] = code & 0xff;
    bytes[2 * i + 1] = code >>> 8;
  }
  return hashBytes(bytes);
}

function hex32(value: number): string {
  return (value >>> 0).toString(16).padStart(8, '0');
}
