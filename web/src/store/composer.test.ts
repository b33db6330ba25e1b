import { beforeEach, describe, expect, it, vi } from 'vitest';
import { beginStroke, BRUSH_DEFAULTS, endStroke } from '@rammer/core/earth/brush';
import { composeTerrain, type Terrain } from '@rammer/core/earth/compose';
import { dab } from '@rammer/core/earth/dab';
import { composeSlab, joinSlabs, slabJobs, type SlabSource } from '@rammer/core/earth/slab';
import { applyEdit, commitChanges, type AnyEditBody } from '@rammer/core/level/edits/index';
import { liftStack, makeLevel, settingsOf, type Level } from '@rammer/core/level/level';
import type { Lift } from '@rammer/core/level/objects';
import { parseObject } from '@rammer/core/level/objects';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import { makeGround } from '@rammer/core/surface/ground';
import { groundDefaults } from '@rammer/core/surface/surfaces';
import { testLevel } from '../../../core/src/testing/levels';
import { expectBits } from '../../../core/src/testing/bits';
import { Composer } from './composer';
import type { LevelChange } from './change';

/** Workers that answer when they are told to, so that something can happen meanwhile. */
const workers = vi.hoisted(() => ({ waiting: [] as (() => void)[], fail: false }));
vi.mock('../workers/slabs', () => ({
  composeInSlabs: (source: SlabSource & { noise: Map<string, Float32Array> }) => {
    // What is posted to a worker is a copy of the level as it was.
    const jobs = structuredClone(slabJobs(source, 2));
    return new Promise((done, failed) =>
      workers.waiting.push(() => (workers.fail ? failed(new Error('out of memory')) : done(joinSlabs(source.grid, source.noise, jobs.map(composeSlab))))),
    );
  },
  groundInSlabs: (surfaces: never[], { terrain }: { terrain: Terrain }) => Promise.resolve(makeGround(terrain.grid, surfaces)),
}));

const tick = () => new Promise((later) => setTimeout(later, 0));
const answer = async () => {
  workers.waiting.shift()!();
  await tick();
  await tick();
};

/** A level with a composer, and what a session would do with them. */
function open(level: Level) {
  const made = {
    shoresMoved: false,
    floods: { on: () => Promise.resolve([]), follow: vi.fn() },
    rebuild: vi.fn(),
    regrow: vi.fn(),
    refreshGround: vi.fn(),
    updateGround: vi.fn((rect: unknown) => rect),
  };
  const told: LevelChange[] = [];
  const said: string[] = [];
  const host = {
    level,
    made: made as never,
    closed: false,
    say: (text: string) => {
      said.push(text);
    },
  };
  const composer = new Composer(host, (change) => told.push(change));
  const edit = (body: AnyEditBody) => {
    const applied = applyEdit(host.level, body);
    if (!applied.ok) throw new Error(applied.message);
    const kinds = new Set([...applied.changes.objects].map(([id, o]) => (o ?? host.level.object(id))?.kind));
    commitChanges(host.level, applied.changes);
    return composer.changed(applied.changes.tiles.keys(), (...of) => of.some((k) => kinds.has(k as never)), false);
  };
  const stroke = (x: number, z: number, radius = 6) => {
    const terrain = composeTerrain(host.level);
    const buffer = beginStroke('hand', terrain.grid);
    dab(buffer, host.level.tiles, terrain, { ...BRUSH_DEFAULTS, radius, strength: 2 }, x, z);
    return edit({ kind: 'stroke', tiles: endStroke(buffer).map(({ key, delta }) => ({ key, delta: toBase64(packRaster(delta)) })) });
  };
  return { host, made, told, said, composer, edit, stroke, whole: () => composeTerrain(host.level).heights };
}
async function opened(level = testLevel(3, 0.5, { seed: 3, height: 4, scale: 40, octaves: 4 })) {
  const all = open(level);
  void all.composer.all();
  await answer();
  return all;
}
const heap = (more: Record<string, unknown> = {}): Lift => {
  const parsed = parseObject({
    id: 'heap',
    version: 1,
    kind: 'lift',
    lift: 'landform',
    name: 'heap',
    order: 10,
    visible: true,
    line: [
      [30, 30],
      [60, 34],
      [50, 60],
    ],
    height: 4,
    foot: 6,
    ...more,
  });
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.object as Lift;
};

beforeEach(() => {
  workers.waiting.length = 0;
  workers.fail = false;
});

describe('a composer', () => {
  it('has the workers compose a level that is opened, and tells of it once', async () => {
    const { composer, told, made, whole } = await opened();
    expectBits(composer.terrain.heights, whole());
    expect([composer.composing, told.length, made.rebuild.mock.calls.length]).toEqual([false, 1, 1]);
    expect(composer.before).toEqual(composer.terrain.heights);
    expect(composer.before).not.toBe(composer.terrain.heights);
  });

  it('composes a stroke at once, only where it is', async () => {
    const { composer, stroke, whole, told } = await opened();
    const { rect, ground } = stroke(40, 40);
    expect(composer.composing).toBe(false);
    // Tiles are what edits name: the two by two a dab on their corner touches.
    expect(rect!.x1 - rect!.x0).toBeLessThan(140);
    expect(ground).toEqual(rect);
    expectBits(composer.terrain.heights, whole());
    expect(told).toHaveLength(1);
  });

  it('keeps the old ground while a new seed is on its way, and takes in what was done meanwhile', async () => {
    const { composer, host, edit, stroke, whole, made } = await opened();
    const old = composer.terrain.heights.slice();
    edit({ kind: 'set', patches: [{ id: 'noise', set: { seed: 9 } }] });
    expect(composer.composing).toBe(true);
    stroke(40, 40);
    edit({ kind: 'add', objects: [heap()] });
    expectBits(composer.terrain.heights, old);
    await answer();
    expect(composer.composing).toBe(false);
    expectBits(composer.terrain.heights, whole());
    expect(composer.stack).toEqual(liftStack(host.level));
    // One run was enough: the seed it was after has not changed.
    expect(workers.waiting).toHaveLength(0);
    // The ground that came back knows nothing of the stroke: it is made again.
    expect(made.refreshGround).toHaveBeenCalledTimes(1);
  });

  it('a later run overtakes an earlier one, whichever comes back first', async () => {
    const { composer, edit, whole, told } = await opened();
    edit({ kind: 'set', patches: [{ id: 'noise', set: { seed: 9 } }] });
    edit({ kind: 'set', patches: [{ id: 'noise', set: { seed: 11 } }] });
    expect(workers.waiting).toHaveLength(2);
    await answer();
    expect(composer.composing).toBe(true);
    await answer();
    expect(composer.composing).toBe(false);
    expectBits(composer.terrain.heights, whole());
    expect(told).toHaveLength(2);
  });

  it('leaves another level alone that was opened meanwhile', async () => {
    const { composer, host, edit, told } = await opened();
    edit({ kind: 'set', patches: [{ id: 'noise', set: { seed: 9 } }] });
    const old = composer.terrain;
    host.level = testLevel(2, 0.5);
    await answer();
    expect(composer.terrain).toBe(old);
    expect(told).toHaveLength(1);
  });

  it('says so when the workers fail, keeps what it had, and goes on', async () => {
    const { composer, edit, stroke, said, whole } = await opened();
    const old = composer.terrain;
    workers.fail = true;
    edit({ kind: 'set', patches: [{ id: 'noise', set: { seed: 9 } }] });
    await answer();
    expect(said[0]).toMatch(/could not be composed: out of memory\. Undo the last change/);
    expect([composer.composing, composer.terrain === old]).toEqual([false, true]);
    workers.fail = false;
    edit({ kind: 'set', patches: [{ id: 'noise', set: { seed: 3 } }] });
    stroke(40, 40);
    expectBits(composer.terrain.heights, whole());
  });

  it('sends what is large to the workers: a lift that counts everywhere, rules of a wide ground', async () => {
    const { composer, edit, whole, made } = await opened(testLevel(9, 0.5, { seed: 3, height: 4, scale: 40, octaves: 1 }));
    edit({ kind: 'set', patches: [{ id: 'noise', set: { weight: 0.5 } }] });
    expect(composer.composing).toBe(true);
    await answer();
    expectBits(composer.terrain.heights, whole());
    made.refreshGround.mockClear();
    const rule = { id: 'r', version: 1, kind: 'groundRule', name: 'r', order: 0, surface: 'moss', share: 1, where: [], wins: false, on: true } as never;
    edit({ kind: 'add', objects: [rule] });
    // The heights are right: the ground alone is made, without asking for them.
    expect([composer.composing, workers.waiting.length]).toEqual([true, 0]);
    await tick();
    expect(composer.composing).toBe(false);
    expect(made.refreshGround).not.toHaveBeenCalled();
    expect(made.rebuild).toHaveBeenCalledTimes(3);
  });

  it('shows lifts while they are dragged, everywhere or in a window, and goes back to the bit', async () => {
    const { composer, edit, whole, host } = await opened();
    edit({ kind: 'add', objects: [heap()] });
    const kept = whole();
    const higher = new Map([['heap', heap({ height: 9 })]]);
    expect(composer.preview(higher)).toBeDefined();
    const top = composer.terrain.heights.reduce((a, b) => Math.max(a, b), -Infinity);
    expect(top).toBeGreaterThan(kept.reduce((a, b) => Math.max(a, b), -Infinity) + 3);
    composer.preview();
    expectBits(composer.terrain.heights, kept);

    const window = { x0: 70, z0: 70, x1: 110, z1: 110 };
    const noise = composer.stack.find((l) => l.lift === 'noise')!;
    // A seed whose raster is not there: it is made for the window, and not kept.
    composer.previewIn(window, new Map([['noise', { ...noise, seed: 77 } as Lift]]));
    const { nx } = composer.terrain.grid;
    let [inside, outside] = [0, 0];
    composer.terrain.heights.forEach((h, i) => {
      if (Object.is(h, kept[i])) return;
      const [x, z] = [i % nx, Math.floor(i / nx)];
      if (x >= 70 && x <= 110 && z >= 70 && z <= 110) inside++;
      else outside++;
    });
    expect(inside).toBeGreaterThan(1000);
    expect(outside).toBe(0);
    // What is shown there is what the whole would be, to the bit.
    const { objects, tiles } = host.level;
    const seeded = composeTerrain(
      makeLevel(
        [...objects.values()].map((o) => (o.id === 'noise' ? ({ ...o, seed: 77 } as Lift) : o)),
        tiles,
      ),
    ).heights;
    const inWindow = (heights: Float32Array) =>
      heights.filter((_, i) => i % nx >= 70 && i % nx <= 110 && Math.floor(i / nx) >= 70 && Math.floor(i / nx) <= 110);
    expectBits(inWindow(composer.terrain.heights), inWindow(seeded));
    expect(composer.terrain.noise.size).toBe(1);
    composer.previewIn(window);
    expectBits(composer.terrain.heights, kept);
  });

  it('composes the whole for another size, and cut and fill count from there', async () => {
    const { composer, host, told } = await opened();
    const settings = settingsOf(host.level);
    host.level.objects.set(settings.id, { ...settings, tilesX: 2, tilesZ: 4 });
    composer.changed([], () => false, true);
    await answer();
    expect([composer.terrain.grid.nx, composer.terrain.grid.nz, composer.before!.length]).toEqual([129, 257, 129 * 257]);
    composer.terrain.heights[5] += 1;
    composer.markBefore();
    expect(composer.before![5]).toBe(composer.terrain.heights[5]);
    expect(told.at(-1)!.rect).toEqual({ x0: 0, z0: 0, x1: 0, z1: 0 });
  });

  it('has the ground follow shores that the worker filled, and only tells them while a brush draws', async () => {
    const { composer, made, told, host } = await opened(testLevel(2));
    host.level.objects.set('strand', {
      id: 'strand',
      version: 1,
      kind: 'groundRule',
      name: 'strand',
      order: 5,
      surface: 'gravel',
      share: 1,
      where: [{ by: 'shore', band: [0, 4], soft: 1 }],
      wins: false,
      on: true,
    });
    for (const surface of groundDefaults()) if (!host.level.objects.has(surface.id)) host.level.objects.set(surface.id, surface);
    made.shoresMoved = true;
    composer.flooded(true);
    expect([made.refreshGround.mock.calls.length, made.regrow.mock.calls.length, told.at(-1)]).toEqual([
      0,
      0,
      { blocks: false, objects: false, waters: true, play: false },
    ]);
    composer.flooded(false);
    expect([made.refreshGround.mock.calls.length, made.regrow.mock.calls.length]).toEqual([1, 1]);
    expect(told.at(-1)).toMatchObject({ waters: true, play: true, ground: { x0: 0, z0: 0, x1: 128, z1: 128 } });
    // While the workers compose, the ground waits for what they bring.
    void composer.all();
    composer.flooded(false);
    expect([made.refreshGround.mock.calls.length, told.at(-1)!.ground]).toEqual([1, undefined]);
    await answer();
    expect(made.refreshGround.mock.calls.length).toBe(2);
    made.shoresMoved = false;
    composer.flooded(false);
    expect([made.refreshGround.mock.calls.length, told.at(-1)!.ground]).toEqual([2, undefined]);
  });
});
