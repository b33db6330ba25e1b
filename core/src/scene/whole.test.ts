import { describe, expect, it } from 'vitest';
import { beginStroke, BRUSH_DEFAULTS, endStroke } from '../earth/brush';
import { composeTerrain, type Rect } from '../earth/compose';
import { dab } from '../earth/dab';
import { composeSlab, joinSlabs, slabJobs } from '../earth/slab';
import { applyEdit, commitChanges, type AnyEditBody } from '../level/edits/index';
import { liftStack, makeLevel, settingsOf, type Level } from '../level/level';
import { parseObject, type GroundRule, type Lift, type LevelObject } from '../level/objects';
import { tileKey, TILE_SAMPLES } from '../level/tiles';
import { packRaster, toBase64 } from '../num/fixed';
import { groundDefaults } from '../surface/surfaces';
import { expectBits } from '../testing/bits';
import { freshParts } from '../testing/freshParts';
import { testLevel } from '../testing/levels';
import { inPlace } from './inPlace';
import type { Runner } from './runner';
import { Scene, type SceneChange } from './scene';

const tick = () => new Promise((later) => setTimeout(later, 0));

/** An open level whose heights are composed by a worker that answers when it is told to, so that something can happen meanwhile. */
function open(level: Level, mostAtOnce = 300_000) {
  const worker = { waiting: [] as (() => void)[], fail: false, grounds: 0, hold: undefined as Promise<void> | undefined };
  const told: SceneChange[] = [];
  const said: string[] = [];
  const here = inPlace({ keepNoise: true });
  const runner: Runner = {
    ...here,
    mostAtOnce,
    compose: (source) => {
      // What is posted to a worker is a copy of the level as it was.
      const jobs = structuredClone(slabJobs(source, 2));
      return new Promise((done, failed) =>
        worker.waiting.push(() => (worker.fail ? failed(new Error('out of memory')) : done(joinSlabs(source.grid, source.noise, jobs.map(composeSlab))))),
      );
    },
    ground: async (...args) => {
      worker.grounds++;
      const made = await here.ground(...args);
      await worker.hold;
      return made;
    },
  };
  const scene = new Scene({ runner, keepBefore: true, tell: (change) => void told.push(change), fail: (text) => void said.push(text) });
  const answer = async () => {
    worker.waiting.shift()!();
    for (let i = 0; i < 4; i++) await tick();
  };
  const edit = (body: AnyEditBody) => {
    const applied = applyEdit(scene.level, body);
    if (!applied.ok) throw new Error(applied.message);
    const kinds = new Set([...applied.changes.objects].map(([id, o]) => (o ?? scene.level.object(id))!.kind));
    commitChanges(scene.level, applied.changes);
    return scene.changed(applied.changes, kinds).dirt;
  };
  const stroke = (x: number, z: number, radius = 6) => {
    const terrain = composeTerrain(scene.level);
    const buffer = beginStroke('hand', terrain.grid);
    dab(buffer, scene.level.tiles, terrain, { ...BRUSH_DEFAULTS, radius, strength: 2 }, { x, z });
    return edit({ kind: 'stroke', tiles: endStroke(buffer).map(({ key, delta }) => ({ key, delta: toBase64(packRaster(delta)) })) });
  };
  const paint = () =>
    edit({ kind: 'stroke', tiles: [{ key: tileKey('moss', 'paint', 0, 0), delta: toBase64(packRaster(new Int32Array(TILE_SAMPLES).fill(600))) }] });
  const expectFresh = () => {
    const { terrain, ground } = freshParts(makeLevel([...scene.level.objects.values()], scene.level.tiles), new Map());
    expectBits(scene.terrain.value.heights, terrain.heights);
    expectBits(scene.ground.raster.weights, ground.weights);
    expectBits(scene.ground.raster.of, ground.of);
  };
  const opening = scene.open(level);
  return { scene, worker, told, said, answer, edit, stroke, paint, expectFresh, opening, whole: () => composeTerrain(scene.level).heights };
}

const surfaced = (level = testLevel(3, 0.5, { seed: 3, height: 4, scale: 40, octaves: 4 })): Level => {
  for (const o of groundDefaults()) level.objects.set(o.id, o);
  return level;
};

async function opened(level = surfaced()) {
  const all = open(level);
  await tick();
  await all.answer();
  await all.opening;
  return all;
}

function parsed<T extends LevelObject>(o: object): T {
  const found = parseObject({ version: 1, ...o });
  if (!found.ok) throw new Error(found.message);
  return found.object as T;
}
const heap = (more: Record<string, unknown> = {}): Lift =>
  parsed<Lift>({
    id: 'heap',
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
const seed = (to: number): AnyEditBody => ({ kind: 'set', patches: [{ id: 'noise', set: { seed: to } }] });
const rule = (id: string, more: Partial<GroundRule>): GroundRule =>
  parsed<GroundRule>({ id, kind: 'groundRule', name: id, order: 5, surface: 'gravel', share: 1, where: [], wins: false, on: true, ...more });
const pool = (height: number): LevelObject =>
  parsed({ id: 'pool', kind: 'water', name: 'pool', form: 'pool', height, seed: [30, 30], hidden: false, out: false });
const byHeight = rule('high', { where: [{ by: 'height', band: [1, 90], soft: 0.1 }] });

describe('the ground of a scene', () => {
  it('is made by the runner when a level is opened, and told of once', async () => {
    const { scene, told, expectFresh } = await opened();
    expectFresh();
    expect([scene.running, told.filter((t) => t.dirt.has('terrain')).length]).toEqual([false, 1]);
    expect(scene.terrain.before).toEqual(scene.terrain.value.heights);
    expect(scene.terrain.before).not.toBe(scene.terrain.value.heights);
  });

  it('follows a stroke at once, only where it is', async () => {
    const { scene, stroke, expectFresh } = await opened();
    const dirt = stroke(40, 40);
    expect(scene.whole.running).toBe(false);
    // Tiles are what edits name: the two by two a dab on their corner touches.
    const rect = dirt.get('terrain') as Rect;
    expect(rect.x1 - rect.x0).toBeLessThan(140);
    // The ground looks one sample around.
    expect(dirt.get('ground')).toEqual({ x0: rect.x0 - 1, z0: rect.z0 - 1, x1: rect.x1 + 1, z1: rect.z1 + 1 });
    expectFresh();
  });

  it('stays as it was while a new seed is on its way, and takes in what was done meanwhile', async () => {
    const { scene, edit, stroke, paint, answer, worker, expectFresh } = await opened();
    edit({ kind: 'add', objects: [byHeight] });
    const old = scene.terrain.value.heights.slice();
    edit(seed(9));
    await tick();
    expect(scene.whole.running).toBe(true);
    stroke(40, 40);
    edit({ kind: 'add', objects: [heap()] });
    expectBits(scene.terrain.value.heights, old);
    await answer();
    expect(scene.whole.running).toBe(false);
    expect(scene.terrain.stack).toEqual(liftStack(scene.level));
    // One run was enough: the seed it was after has not changed, and what came late was followed where it was.
    expect([worker.waiting.length, worker.grounds]).toEqual([0, 2]);
    expectFresh();
    // Heights alone that come late: the ground of their rectangle follows.
    edit(seed(12));
    await tick();
    stroke(60, 60);
    await answer();
    expectFresh();
    // Paint and rules that come late are laid too.
    edit(seed(10));
    await tick();
    paint();
    await answer();
    expectFresh();
    edit(seed(11));
    await tick();
    edit({ kind: 'set', patches: [{ id: 'high', set: { surface: 'moss' } }] });
    await answer();
    expectFresh();
  });

  it('takes in paint and waters that come after what it is made of was posted', async () => {
    let go: () => void = () => {};
    const { scene, worker, edit, paint, answer, expectFresh } = await opened();
    edit({ kind: 'add', objects: [pool(1.2)] });
    edit(seed(9));
    await tick();
    worker.hold = new Promise((done) => (go = done));
    await answer();
    expect(scene.whole.running).toBe(true);
    paint();
    edit({ kind: 'set', patches: [{ id: 'pool', set: { height: 1.9 } }] });
    go();
    await tick();
    await scene.settled();
    expectFresh();
    expect(scene.waters.bodies.map((w) => w.height)).toEqual([1.9]);
  });

  it('is made once more where it was asked for anew meanwhile, and what was overtaken is dropped', async () => {
    const { scene, edit, answer, told, expectFresh } = await opened();
    const before = told.length;
    edit(seed(9));
    await tick();
    edit(seed(11));
    await answer();
    expect([scene.whole.running, told.length]).toEqual([true, before]);
    await answer();
    expect(scene.whole.running).toBe(false);
    expectFresh();
  });

  it("of a closed scene is nobody's any more", async () => {
    const { scene, edit, answer, told } = await opened();
    const before = told.length;
    edit(seed(9));
    await tick();
    const old = scene.terrain.value;
    scene.close();
    await answer();
    expect([scene.terrain.value === old, told.length]).toEqual([true, before]);
  });

  it('that cannot be made says so, stays as it was, and is made with the next change', async () => {
    const { scene, edit, stroke, said, worker, answer, expectFresh } = await opened();
    const old = scene.terrain.value;
    worker.fail = true;
    edit(seed(9));
    await tick();
    await answer();
    expect(said[0]).toMatch(/could not be composed: out of memory\. Undo the last change/);
    expect([scene.whole.running, scene.terrain.value === old]).toEqual([false, true]);
    worker.fail = false;
    edit(seed(3));
    stroke(40, 40);
    expectFresh();
  });

  it('of a level that cannot be opened is told to who opens it', async () => {
    const { opening, answer, worker } = open(surfaced());
    worker.fail = true;
    await tick();
    const told = expect(opening).rejects.toThrow('out of memory');
    await answer();
    await told;
  });

  it('is made by the runner where a change reaches far: a lift that counts everywhere, rules of a wide ground', async () => {
    const { scene, edit, worker, answer, expectFresh } = await opened(surfaced(testLevel(9, 0.5, { seed: 3, height: 4, scale: 40, octaves: 1 })));
    edit({ kind: 'set', patches: [{ id: 'noise', set: { weight: 0.5 } }] });
    await tick();
    expect(scene.whole.running).toBe(true);
    await answer();
    expectFresh();
    edit({ kind: 'add', objects: [byHeight] });
    // The heights are right: the ground alone is made, without asking for them.
    expect([scene.whole.running, worker.waiting.length]).toEqual([true, 0]);
    await scene.settled();
    expect(worker.grounds).toBe(3);
    expectFresh();
  });

  it('shows lifts while they are dragged, everywhere or in a window, and goes back to the bit', async () => {
    const { scene, edit, whole } = await opened();
    const { terrain } = scene;
    edit({ kind: 'add', objects: [heap()] });
    const kept = whole();
    const highest = (heights: Float32Array) => heights.reduce((a, b) => Math.max(a, b), -Infinity);
    expect(terrain.preview(new Map([['heap', heap({ height: 9 })]]))).toBeDefined();
    expect(highest(terrain.value.heights)).toBeGreaterThan(highest(kept) + 3);
    terrain.preview();
    expectBits(terrain.value.heights, kept);

    const window = { x0: 70, z0: 70, x1: 110, z1: 110 };
    const noise = terrain.stack.find((l) => l.lift === 'noise')!;
    // A seed whose raster is not there: it is made for the window, and not kept.
    terrain.previewIn(window, new Map([['noise', { ...noise, seed: 77 } as Lift]]));
    const { nx } = terrain.value.grid;
    const isInside = (i: number) => i % nx >= 70 && i % nx <= 110 && Math.floor(i / nx) >= 70 && Math.floor(i / nx) <= 110;
    const others = [...terrain.value.heights.keys()].filter((i) => !Object.is(terrain.value.heights[i], kept[i]));
    expect(others.length).toBeGreaterThan(1000);
    expect(others.filter((i) => !isInside(i))).toEqual([]);
    // What is shown there is what the whole would be, to the bit.
    const { objects, tiles } = scene.level;
    const seeded = composeTerrain(
      makeLevel(
        [...objects.values()].map((o) => (o.id === 'noise' ? ({ ...o, seed: 77 } as Lift) : o)),
        tiles,
      ),
    ).heights;
    const inWindow = (heights: Float32Array) => heights.filter((_, i) => isInside(i));
    expectBits(inWindow(terrain.value.heights), inWindow(seeded));
    expect(terrain.value.noise.size).toBe(1);
    terrain.previewIn(window);
    expectBits(terrain.value.heights, kept);
  });

  it('is another one of another size, and cut and fill count from there', async () => {
    const { scene, edit, answer, told, expectFresh } = await opened();
    edit({ kind: 'set', patches: [{ id: settingsOf(scene.level).id, set: { tilesX: 2, tilesZ: 4 } }] });
    await tick();
    await answer();
    expect([scene.terrain.value.grid.nx, scene.terrain.value.grid.nz, scene.terrain.before!.length]).toEqual([129, 257, 129 * 257]);
    expectFresh();
    scene.terrain.value.heights[5] += 1;
    scene.markBefore();
    expect(scene.terrain.before![5]).toBe(scene.terrain.value.heights[5]);
    expect(told.at(-1)!.dirt.get('terrain')).toEqual({ x0: 0, z0: 0, x1: 0, z1: 0 });
  });

  it('goes by shores where rules do: at once while the runner has nothing to do, and with what it brings else', async () => {
    const strand = rule('strand', { where: [{ by: 'shore', band: [0, 4], soft: 1 }] });
    const { scene, edit, answer, told, expectFresh } = await opened();
    edit({ kind: 'add', objects: [strand, pool(1.2)] });
    expectFresh();
    const dirt = edit({ kind: 'set', patches: [{ id: 'pool', set: { height: 1.9 } }] });
    expect([dirt.get('waters'), dirt.get('ground')]).toEqual([true, { x0: 0, z0: 0, x1: 192, z1: 192 }]);
    expectFresh();
    edit(seed(9));
    await tick();
    edit({ kind: 'set', patches: [{ id: 'pool', set: { height: 1.4 } }] });
    await answer();
    await scene.settled();
    expectFresh();
    // While a brush draws, only the water is told of: what is committed tells the rest.
    const before = told.length;
    scene.flooded(true);
    expect([told.length, [...told.at(-1)!.dirt.keys()], told.at(-1)!.drawn]).toEqual([before + 1, ['waters'], true]);
  });
});
