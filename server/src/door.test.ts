import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { connect as dial } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { deflateRawSync, gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { crc32 } from '@rammer/core/io/zip';
import { NEW, serve } from './testing/serve';

const root = fileURLToPath(new URL('../..', import.meta.url));
const web = mkdtempSync(join(tmpdir(), 'rammer-web-'));
/** A package whose level.json is 120 MB of brackets: 120 KB. Made by Node's own deflate, for this much takes the other a quarter of a minute. */
const BRACKETS = (() => {
  const text = Buffer.alloc(120_000_000, '[');
  const data = deflateRawSync(text, { level: 1 });
  const name = Buffer.from('level.json');
  const fields = Buffer.alloc(26);
  fields.writeUInt16LE(20, 0);
  fields.writeUInt16LE(8, 4);
  fields.writeUInt32LE(crc32(text), 10);
  fields.writeUInt32LE(data.length, 14);
  fields.writeUInt32LE(text.length, 18);
  fields.writeUInt16LE(name.length, 22);
  const local = Buffer.concat([Buffer.from('PK\x03\x04'), fields, name, data]);
  const central = Buffer.concat([Buffer.from('PK\x01\x02\x14\0'), fields, Buffer.alloc(14), name]);
  const end = Buffer.alloc(22);
  end.write('PK\x05\x06');
  end.writeUInt16LE(1, 8);
  end.writeUInt16LE(1, 10);
  end.writeUInt32LE(central.length, 12);
  end.writeUInt32LE(local.length, 16);
  return new Uint8Array(Buffer.concat([local, central, end]));
})();
let s: Awaited<ReturnType<typeof serve>>;
beforeAll(async () => {
  mkdirSync(join(web, 'assets'));
  writeFileSync(join(web, 'index.html'), '<!doctype html><title>Rammer</title>');
  writeFileSync(join(web, 'assets/app-1.js'), 'export {};');
  s = await serve({ web });
});
afterAll(async () => {
  await s.stop();
  rmSync(web, { recursive: true });
});

/** A request as it is written, which `fetch` would mend. @returns the whole answer, or '' where the connection was closed without one */
const raw = (text: string, keep?: (write: (more: string) => void) => Promise<void>) =>
  new Promise<string>((done) => {
    const socket = dial(s.port, '127.0.0.1', () => {
      socket.write(text);
      void keep?.((more) => socket.write(more));
    });
    let answer = '';
    socket.on('data', (d) => {
      answer += d.toString('latin1');
    });
    socket.on('close', () => done(answer));
    socket.on('error', () => done(answer));
  });
const get = (path: string) => raw(`GET ${path} HTTP/1.1\r\nHost: 127.0.0.1:${s.port}\r\nConnection: close\r\n\r\n`);
const json = (body: string | Uint8Array, headers: Record<string, string> = {}, path = '/api/levels') =>
  s.call('POST', path, body, { 'Content-Type': 'application/json', ...headers });

describe('an address that is odd', () => {
  it('is a 4xx with a code, or the page; never a failure of the server', async () => {
    const paths = [
      '/assets/none.js',
      '/assets/',
      '/assets',
      '/assets/..%2f..%2fpackage.json',
      '/assets/%',
      '/assets/%00',
      '/assets/%2e%2e/x',
      '/%',
      '/%00',
      '/%ff',
      '/..%2fx',
      '/a%5cb',
      '/levels/%E0%A4%A',
      '/api/%',
      '/api/levels/%',
      '/api/levels/%00',
      '/api/assets/%',
      `/api/assets/${'a'.repeat(64)}%00`,
      '/api/jobs/%',
      '/api/jobs/x',
      '/api/nowhere',
      '/assets/app-1.js/more',
      '/levels/x/y/z',
      '//',
      '/assets//..//x',
    ];
    for (const path of paths) {
      const answer = await get(path);
      const status = Number(answer.slice(9, 12));
      expect([path, status >= 200 && status < 500]).toEqual([path, true]);
      if (status >= 400) expect([path, /"code":"[a-z-]+"/.test(answer) || status === 400]).toEqual([path, true]);
    }
    expect(await get('/assets/app-1.js')).toMatch(/^HTTP\/1.1 200/);
    expect(await get('/assets/none.js')).toMatch(/404[\s\S]*"code":"not-found"/);
    expect(await get('/levels/some-level')).toMatch(/^HTTP\/1.1 200[\s\S]*Rammer/);
    expect(s.errors).toEqual([]);
  });
});

describe('a body that is odd', () => {
  const good = JSON.stringify(NEW);

  it('is named: no JSON, deep, half a character, another alphabet, packed and broken', async () => {
    for (const [body, headers, status, code] of [
      ['', {}, 400, 'body-not-json'],
      ['[', {}, 400, 'body-not-json'],
      ['null', {}, 400, 'body-invalid'],
      ['[]', {}, 400, 'body-invalid'],
      ['['.repeat(100), {}, 400, 'json-too-deep'],
      [`[${'[],'.repeat(30_000)}[]]`, {}, 400, 'json-too-many'],
      [good.replace('yard', '\\ud83d'), {}, 400, 'body-invalid'],
      [good.replace('yard', '\\u0000'), {}, 400, 'body-invalid'],
      [good, { 'Content-Type': 'application/json; charset=utf-16' }, 415, 'body-encoding'],
      [good, { 'Content-Encoding': 'zstd' }, 415, 'body-encoding'],
      [good, { 'Content-Encoding': 'gzip' }, 400, 'body-encoding'],
      [gzipSync(good).subarray(0, 60), { 'Content-Encoding': 'gzip' }, 400, 'body-encoding'],
      [gzipSync(Buffer.alloc(50 << 20, 32)), { 'Content-Encoding': 'gzip' }, 413, 'body-too-large'],
    ] as const)
      expect(await json(body, headers)).toMatchObject({ status, body: { code } });
    expect((await json(gzipSync(good), { 'Content-Encoding': 'gzip' })).status).toBe(201);
    expect((await json(good, { 'Content-Type': 'application/json; charset=UTF-8' })).status).toBe(201);
    expect(s.errors).toEqual([]);
  });

  it('of edits that asks for gigabytes is refused in bounded memory, and so is a package of such JSON', async () => {
    const {
      body: { id },
    } = await json(good);
    const before = process.memoryUsage().rss;
    expect(await json('['.repeat(31_000_000), {}, `/api/levels/${id}/edits`)).toMatchObject({ status: 400, body: { code: 'json-too-deep' } });
    expect(await json(`{"client":"client-one-1","base":0,"edits":[${'{},'.repeat(2_000_000)}{}]}`, {}, `/api/levels/${id}/edits`)).toMatchObject({
      status: 400,
      body: { code: 'json-too-many' },
    });
    expect(BRACKETS.length).toBeLessThan(1 << 20);
    expect(await s.call('POST', '/api/levels/package', BRACKETS, { 'Content-Type': 'application/zip' })).toMatchObject({
      status: 422,
      body: { code: 'zip-too-large' },
    });
    expect(process.memoryUsage().rss - before).toBeLessThan(400 << 20);
    expect((await s.call('GET', '/api/health')).status).toBe(200);
  });

  it('that never ends does not shut others out', async () => {
    const head = `POST /api/levels/package HTTP/1.1\r\nHost: 127.0.0.1:${s.port}\r\nContent-Type: application/zip\r\nContent-Length: 1000000\r\n\r\nPK`;
    const sockets = Array.from({ length: 300 }, () => {
      const socket = dial(s.port, '127.0.0.1', () => socket.write(head));
      socket.on('error', () => {});
      return socket;
    });
    await new Promise((go) => setTimeout(go, 500));
    expect((await json(good)).status).toBe(201);
    expect((await s.call('GET', '/api/health')).status).toBe(200);
    for (const socket of sockets) socket.destroy();
  });
});

describe('a backup', () => {
  const run = (verb: string, file: string) =>
    promisify(execFile)(process.execPath, ['--import', 'tsx', join(root, 'server/src/backup.ts'), verb, file], {
      env: { ...process.env, DATABASE_URL: s.url },
    }).then(
      ({ stdout }) => ({ code: 0, text: stdout }),
      (error: { code: number; stderr: string }) => ({ code: error.code, text: error.stderr }),
    );

  it('is made and put back while the server runs, whole or not at all', async () => {
    const file = join(web, 'levels.backup');
    const {
      body: { id },
    } = await json(JSON.stringify({ ...NEW, name: 'kept' }));
    expect(await run('backup', file)).toMatchObject({ code: 0 });
    expect((await s.call('DELETE', `/api/levels/${id}`)).status).toBe(204);
    const {
      body: { id: later },
    } = await json(JSON.stringify({ ...NEW, name: 'made later' }));
    const broken = join(web, 'broken.backup');
    writeFileSync(broken, readFileSync(file).subarray(0, 4000));
    expect(await run('restore', broken)).toMatchObject({ code: 1, text: expect.stringContaining('nothing was restored') });
    expect((await s.call('GET', `/api/levels/${later}`)).status).toBe(200);
    expect(await run('restore', file)).toMatchObject({ code: 0 });
    expect((await s.call('GET', `/api/levels/${id}`)).status).toBe(200);
    expect((await s.call('GET', `/api/levels/${later}`)).status).toBe(404);
    expect((await s.call('POST', `/api/levels/${id}/check`)).status).toBe(202);
    expect(await run('restore', join(web, 'index.html'))).toMatchObject({ code: 1, text: expect.stringContaining('is no backup of Rammer') });
    expect(await run('restore', join(web, 'nowhere'))).toMatchObject({ code: 1, text: expect.stringContaining('there is no file') });
    expect(await run('backup', join(web, 'no/folder/x'))).toMatchObject({ code: 1, text: expect.stringContaining('there is no folder') });
  });
});
