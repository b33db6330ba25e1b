import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { readAsset } from '@rammer/core/io/assetGlb';
import { writePackage } from '@rammer/core/io/package';
import { newLevel } from '@rammer/core/level/level';
import type { Block, Marker } from '@rammer/core/level/objects';
import { groundDefaults } from '@rammer/core/surface/surfaces';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { run } from './run';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';

const root = fileURLToPath(new URL('../..', import.meta.url));
const demo = join(root, 'demo/harrow-ledge-small.rammer.zip');
const folder = mkdtempSync(join(tmpdir(), 'rammer-cli-'));
afterAll(() => rmSync(folder, { recursive: true }));

/** The command as a shell starts it; what it says is asked of `run` itself, which is many times sooner. */
const started = (...args: string[]) =>
  spawnSync(process.execPath, ['--import', 'tsx', join(root, 'cli/src/main.ts'), ...args], { cwd: root, encoding: 'utf8' });
const rammer = (...args: string[]) => run(args);
const file = (name: string, bytes: Uint8Array) => {
  const path = join(folder, name);
  writeFileSync(path, bytes);
  return path;
};

describe('rammer check', () => {
  it('prints size, bodies, reach, cost and snags of the demo as JSON, exit 0', async () => {
    const { status, stdout, stderr } = started('check', demo, '--json');
    // Nothing but progress, where the machine is slow enough for it.
    expect(stderr.split('\n').filter((l) => l !== '' && !/^check \d+ %$/.test(l))).toEqual([]);
    expect(status).toBe(0);
    const report = JSON.parse(stdout);
    expect(Object.keys(report)).toEqual(['size', 'bodies', 'reach', 'cost', 'snags']);
    expect(report.size).toMatchObject({ width: 160, depth: 160 });
    expect(report.bodies.map((b: { name: string }) => b.name)).toEqual(['adult', 'ram']);
    expect(report.reach).toMatchObject({ reached: true, body: 'adult' });
    expect(report.cost.drawn.draws).toBeGreaterThan(20);
    // The demo's deliberate flaws.
    expect(report.snags.map((f: { code: string }) => f.code)).toEqual([
      'opening-crouch',
      'join-apart',
      'piece-twins',
      'hollow-seen',
      'hollow-seen',
      'hollow-seen',
      'collider-dear',
      'texels-fine',
      'doorway-unreached',
      'plant-wrong-ground',
      'hollow-seen',
    ]);
  });

  it('exits 1 on a blocking snag and says what it is', async () => {
    // A yard of 64 m with a wall across it: the demo takes twenty times as long.
    const marker = (id: 'entry' | 'objective', x: number): Marker => ({
      id,
      version: 1,
      kind: 'marker',
      name: id,
      marker: id,
      at: [x, 0, 32],
      turn: 0,
      out: false,
    });
    const wall: Block = {
      id: 'wall',
      version: 1,
      kind: 'block',
      name: 'yard wall',
      shape: 'box',
      size: [0.5, 40, 80],
      at: [32, -8, 32],
      turn: 0,
      hidden: false,
      out: false,
    };
    const yard = newLevel({ name: 'yard', tilesX: 2, tilesZ: 2, spacing: 0.5, body: { name: 'adult', figures: SHIPPED_BODIES.adult }, seed: 1 }, [
      ...groundDefaults(),
      marker('entry', 10),
      marker('objective', 54),
      wall,
    ]);
    const files = unzipSync(writePackage(yard));
    const level = JSON.parse(strFromU8(files['level.json']));
    const { status, stdout } = await rammer('check', file('walled.rammer.zip', zipSync({ ...files, 'level.json': strToU8(JSON.stringify(level)) })));
    expect(stdout).toMatch(/blocking: the objective cannot be reached: yard wall/);
    expect(status).toBe(1);
    // Accepted with a reason it no longer blocks, and the reason is told.
    level.objects.push({
      id: 'fine',
      version: 1,
      kind: 'acceptance',
      name: 'walled',
      snag: 'objective-unreachable',
      object: 'wall',
      objectVersion: 1,
      reason: 'the gate comes with the kit',
    });
    const again = await rammer('check', file('accepted.rammer.zip', zipSync({ ...files, 'level.json': strToU8(JSON.stringify(level)) })));
    expect(again.stdout).toMatch(/accepted, because the gate comes with the kit: the objective cannot be reached/);
    expect(again.status).toBe(0);
  });
});

describe('rammer info', () => {
  it('says what a package holds', async () => {
    const { status, stdout } = await rammer('info', demo, '--json');
    expect(status).toBe(0);
    expect(JSON.parse(stdout)).toMatchObject({ name: 'Harrow Ledge' });
    expect((await rammer('info', demo)).stdout).toMatch(/Harrow Ledge: 160 x 160 m/);
  });
});

describe('bad input', () => {
  it('exits 2 with one line that names the fault, and no stack trace', async () => {
    const cases: [string[], RegExp][] = [
      [[], /no command given/],
      [['explode', demo], /there is no command explode/],
      [['check'], /no file given/],
      [['check', join(folder, 'nowhere.zip')], /cannot be read: ENOENT/],
      [['check', file('empty.zip', new Uint8Array())], /the file is empty/],
      [['check', file('cut.zip', new Uint8Array(readFileSync(demo)).slice(0, 9000))], /cut off/],
      [['check', file('text.zip', strToU8('just some text, not a package'))], /not a zip file/],
      [
        ['check', file('future.zip', zipSync({ 'level.json': strToU8('{"format":"rammer-level","version":17,"objects":[],"rasters":[]}') }))],
        /version 17; this Rammer opens up to 16/,
      ],
      [['check', demo, '--colour'], /colour/],
    ];
    for (const [args, message] of cases) {
      const { status, stderr } = await rammer(...args);
      expect([args, status]).toEqual([args, 2]);
      expect(stderr).toMatch(message);
      expect(stderr).not.toMatch(/\n\s+at /);
    }
    const { status, stderr } = started('check');
    expect([status, stderr]).toEqual([2, expect.stringMatching(/^rammer: no file given\n/)]);
  });

  it('is JSON too where JSON was asked for', async () => {
    const { status, stdout } = await rammer('check', file('e.zip', new Uint8Array()), '--json');
    expect(status).toBe(2);
    expect(JSON.parse(stdout)).toMatchObject({ error: { code: 'zip-empty' } });
  });
});

describe('rammer cost', () => {
  it('gives every place by course, terms that sum to the frame, the dearest first; exit 1 over budget', async () => {
    const { status, stdout } = await rammer('cost', demo, '--json');
    expect(status).toBe(0);
    const report = JSON.parse(stdout);
    expect(report).toMatchObject({ device: 'Den 60', over: false, estimate: true });
    expect(report.places).toHaveLength(12);
    for (const p of report.places) expect(Object.values<number>(p.terms).reduce((a, b) => a + b)).toBeCloseTo(p.frame.frame, 6);
    expect(report.places[0].frame.frame).toBe(Math.max(...report.places.map((p: any) => p.frame.frame)));
    const pocket = await rammer('cost', demo, '--device', 'pocket-30', '--json');
    expect(JSON.parse(pocket.stdout).device).toBe('Pocket 30');
    expect(pocket.status).toBe(JSON.parse(pocket.stdout).over ? 1 : 0);
    expect((await rammer('cost', demo, '--device', 'toaster')).status).toBe(2);
  });
});

describe('rammer walk', () => {
  it('tells the way, and where the rams can go', async () => {
    const { status, stdout } = await rammer('walk', demo, '--json');
    expect(status).toBe(0);
    const report = JSON.parse(stdout);
    expect(report).toMatchObject({ body: 'adult', reached: true });
    expect(report.length).toBeGreaterThan(100);
    expect(report.threats.map((t: any) => t.body)).toEqual(['ram', 'ram']);
    expect(report.threats[0].linked).toBeGreaterThan(report.linked);
    expect((await rammer('walk', demo, '--body', 'giant')).stderr).toMatch(/there is no body giant; there are adult, ram/);
  });
});

describe('rammer export', () => {
  it('writes what other programs read, and needs a folder', async () => {
    const out = join(folder, 'out');
    const { status, stdout } = await rammer('export', demo, '--out', out, '--json');
    expect(status).toBe(0);
    const report = JSON.parse(stdout);
    const assets = report.files.map((f: any) => f.file).filter((f: string) => f.startsWith('assets/'));
    expect(assets).toContain('assets/door-wall.glb');
    for (const file of assets) expect(await readAsset(new Uint8Array(readFileSync(join(out, file))))).toMatchObject({ ok: true });
    expect(report.files.map((f: any) => f.file).filter((f: string) => !f.startsWith('assets/'))).toEqual([
      'level.glb',
      'level-instanced.glb',
      'terrain-lods.glb',
      'heights.png',
      'heights.json',
      'heights.raw',
      'heights-raw.json',
      'contours.svg',
      'ground.png',
      'ground.json',
      'weights.png',
      'weights-2.png',
      'weights.json',
      'blocks.obj',
    ]);
    for (const { file: name, bytes } of report.files) expect(readFileSync(join(out, name)).length).toBe(bytes);
    expect(readFileSync(join(out, 'blocks.obj'), 'utf8').match(/^o /gm)).toHaveLength(report.blocks);
    expect((await rammer('export', demo)).stderr).toMatch(/needs a folder/);
  });
});

describe('a command that takes long', () => {
  it('is ended by --timeout with exit 3, and says so', () => {
    const { status, stdout, stderr } = started('check', demo, '--json', '--timeout', '0.8');
    expect(status).toBe(3);
    expect(JSON.parse(stdout)).toEqual({ error: { code: 'out-of-time', message: 'out of time: not done after 0.8 s' } });
    expect(stderr).toContain('out of time');
    expect(started('info', demo, '--timeout', '60').status).toBe(0);
  });

  it('tells how far it is, and takes no odd time', async () => {
    const lines: string[] = [];
    const now = vi.spyOn(Date, 'now');
    let clock = 0;
    now.mockImplementation(() => (clock += 600));
    expect((await run(['walk', demo], (line) => lines.push(line))).status).toBe(0);
    now.mockRestore();
    expect(lines.length).toBeGreaterThan(3);
    for (const line of lines) expect(line).toMatch(/^walk area of (adult|ram) \d+ %$/);
    for (const odd of ['soon', '-1', '0'])
      expect(await run(['info', demo, `--timeout=${odd}`])).toMatchObject({ status: 2, stderr: expect.stringContaining('--timeout') });
  });
});
