import type { Request } from 'express';
import { Problem } from './problem';

/** Reads a body up to `limit` bytes. Past it, the rest is read and thrown away so that the answer can be heard. */
export async function readBody(req: Request, limit: number, what: string): Promise<Uint8Array> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of req as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size <= limit) chunks.push(chunk);
    else chunks.length = 0;
  }
  if (size > limit) throw new Problem(413, `${what}-too-large`, `the file is ${Math.round(size / (1 << 20))} MB; ${what === 'package' ? 'a package' : 'an asset'} may have ${limit >> 20} MB`);
  const whole = Buffer.concat(chunks);
  return new Uint8Array(whole.buffer, whole.byteOffset, whole.byteLength);
}
