import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import type { Readable } from 'node:stream';
import type { Request, Response } from 'express';
import type { z } from 'zod';
import { parseJson } from '@rammer/core/io/json';
import { unsoundFault, unsoundPath } from '@rammer/core/level/text';
import { Problem } from './problem';

const UNPACK: Record<string, () => NodeJS.ReadWriteStream> = { gzip: createGunzip, 'x-gzip': createGunzip, deflate: createInflate, br: createBrotliDecompress };

/** Bytes of bodies that are being read all together, and how long one may say nothing, ms. */
const MOST_IN_FLIGHT = 320 << 20;
const SILENT_MS = 20_000;
let inFlight = 0;

/**
 * Reads a body up to `limit` bytes, unpacked. Past it, the rest is read and thrown away so that the answer can be
 * heard.
 */
export async function readBody(req: Request, limit: number, what: 'package' | 'asset' | 'body'): Promise<Uint8Array> {
  const silent = setInterval(() => {
    if (performance.now() - heard > SILENT_MS) req.destroy(new Error('silent'));
  }, 1000);
  let heard = performance.now();
  let held = 0;
  const hear = (bytes: number) => {
    heard = performance.now();
    held += bytes;
    inFlight += bytes;
    if (inFlight > MOST_IN_FLIGHT) throw new Problem(503, 'server-busy', 'other files are being read and take all the room there is; try again in a while');
  };
  try {
    return await readTo(req, limit, what, hear);
  } finally {
    clearInterval(silent);
    inFlight -= held;
  }
}

async function readTo(req: Request, limit: number, what: 'package' | 'asset' | 'body', hear: (bytes: number) => void): Promise<Uint8Array> {
  const encoding = (req.headers['content-encoding'] ?? 'identity').trim().toLowerCase();
  const unpack = Object.hasOwn(UNPACK, encoding) ? UNPACK[encoding] : undefined;
  if (!unpack && encoding !== 'identity' && encoding !== '')
    throw new Problem(415, 'body-encoding', `a body packed as ${JSON.stringify(encoding.slice(0, 40))} is not read: send it plain or by gzip`);
  const chunks: Buffer[] = [];
  let size = 0;
  try {
    for await (const chunk of (unpack ? req.pipe(unpack()) : req) as AsyncIterable<Buffer> & Readable) {
      size += chunk.length;
      hear(size <= limit ? chunk.length : 0);
      if (size <= limit) chunks.push(chunk);
      else {
        chunks.length = 0;
        // Of what unpacks to too much not even the rest is unpacked.
        if (unpack) break;
      }
    }
  } catch (error) {
    if (error instanceof Problem) {
      req.resume();
      throw error;
    }
    if (req.destroyed && !req.complete) throw new Problem(400, 'body-cut', 'the request was cut off');
    throw unpack ? new Problem(400, 'body-encoding', `the body does not unpack as ${encoding}`) : error;
  }
  if (size > limit) {
    req.resume();
    throw new Problem(
      413,
      `${what}-too-large`,
      what === 'body'
        ? `the request is larger than the ${Math.ceil(limit / 1024)} KB this door takes`
        : `the file is ${Math.round(size / (1 << 20))} MB; ${what === 'package' ? 'a package' : 'an asset'} may have ${limit >> 20} MB`,
    );
  }
  const whole = Buffer.concat(chunks);
  return new Uint8Array(whole.buffer, whole.byteOffset, whole.byteLength);
}

const SMALL = { bytes: 256 << 10, depth: 32, values: 20_000 };

/** Reads a small JSON body by a schema. @throws Problem that names the field and the fault */
export async function readJson<S extends z.ZodType>(req: Request, schema: S): Promise<z.infer<S>> {
  requireJson(req);
  const read = parseJson('the request', await readBody(req, SMALL.bytes, 'body'), SMALL);
  if (!read.ok) throw new Problem(400, read.code === 'json-invalid' ? 'body-not-json' : read.code, read.message);
  const unsound = unsoundPath(read.value);
  if (unsound) throw new Problem(400, 'body-invalid', unsoundFault(unsound));
  return parseBy(schema, read.value);
}

export function parseBy<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0];
  throw new Problem(400, 'body-invalid', `${issue.path.join('.') || 'body'}: ${issue.message}`);
}

/** JSON is UTF-8 (RFC 8259) whatever else a header says. */
export function requireJson(req: Request): void {
  const type = req.headers['content-type'];
  if (type === undefined) return;
  const charset = /charset\s*=\s*"?([^";\s]+)/i.exec(type)?.[1].toLowerCase();
  if (charset !== undefined && charset !== 'utf-8' && charset !== 'utf8' && charset !== 'us-ascii')
    throw new Problem(415, 'body-encoding', `JSON is read as UTF-8, not as ${charset.slice(0, 40)}`);
}

/** Aborted when whoever asked has left before there was an answer. */
export function untilLeft(res: Response): AbortSignal {
  const left = new AbortController();
  res.once('close', () => {
    if (!res.writableEnded) left.abort();
  });
  return left.signal;
}
