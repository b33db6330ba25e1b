import { strFromU8 } from 'fflate';
import { fault, type Outcome } from './fault';

/**
 * JSON from outside. `JSON.parse` takes some 60 bytes of memory for each `[` and believes any depth, so that a
 * small file asks for gigabytes: what it would make is counted before anything is made.
 */
export interface JsonLimits {
  bytes: number;
  /** brackets inside each other */
  depth: number;
  /** values, counted by their commas and brackets */
  values: number;
}

export const JSON_LIMITS: Readonly<JsonLimits> = Object.freeze({ bytes: 64 << 20, depth: 64, values: 3_000_000 });

const QUOTE = 0x22;
const BACKSLASH = 0x5c;
const COMMA = 0x2c;

/**
 * Parses UTF-8 JSON within limits.
 *
 * @param name of what is read, for messages
 * @returns `json-too-large`, `json-too-deep`, `json-too-many` or `json-invalid` where it cannot be
 * @example
 * const read = parseJson('level.json', bytes);
 * if (!read.ok) return read;
 */
export function parseJson(name: string, bytes: Uint8Array, limits: JsonLimits = JSON_LIMITS): Outcome<unknown> {
  if (bytes.length > limits.bytes)
    return fault('json-too-large', `${name} has ${Math.ceil(bytes.length / (1 << 20))} MB of JSON; at most ${Math.floor(limits.bytes / (1 << 20))} are read`);
  let depth = 0;
  let values = 1;
  for (let i = 0; i < bytes.length; i++) {
    const c = bytes[i];
    if (c === QUOTE) {
      for (i++; i < bytes.length && bytes[i] !== QUOTE; i++) if (bytes[i] === BACKSLASH) i++;
    } else if (c === COMMA) values++;
    // [ and {, ] and }: they differ in one bit.
    else if ((c & 0xdf) === 0x5b) {
      values++;
      if (++depth > limits.depth) return fault('json-too-deep', `${name} has brackets ${depth} deep; at most ${limits.depth} are read`);
    } else if ((c & 0xdf) === 0x5d) depth--;
    if (values > limits.values) return fault('json-too-many', `${name} holds more than ${limits.values} values, the most that are read`);
  }
  try {
    return { ok: true, value: JSON.parse(strFromU8(bytes)) };
  } catch (error) {
    return fault('json-invalid', `${name} is not JSON: ${shortMessage(error)}`);
  }
}

/** An engine's message names a piece of what it read, which may be long and unsound. */
const shortMessage = (error: unknown): string => (error as Error).message.slice(0, 160).replace(/\p{Surrogate}|[^\x20-\x7e]/gu, '?');
