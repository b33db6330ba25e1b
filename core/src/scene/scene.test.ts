import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { loadSolidKernel } from '../block/loadKernel';
import { grow, type GrowthInput } from '../growth/grow';
import { applyEdit, commitChanges, type AnyEditBody } from '../level/edits/index';
import { makeLevel, type Level } from '../level/level';
import { freshDrawables, freshParts } from '../testing/freshParts';
import { resultsOf, sceneAssets, sceneLevel, SCENE_EDITS } from '../testing/scenes';
import { inPlace } from './inPlace';
import { NODES } from './node';
import { partsOf } from './parts';
import { HostsMirror } from './hosts';
import { growthInput } from './plantsInput';
import type { Runner } from './runner';
import { Scene } from './scene';

const kernel = await loadSolidKernel();
const assets = sceneAssets();

/** What comes from nothing, each part made from its list. */
const fresh = ({ objects, tiles }: Level) => {
  const parts = freshParts(makeLevel([...objects.values()], tiles), assets, kernel);
  return resultsOf({ ...parts, drawables: freshDrawables(parts) });
};

/** A runner that is slow: its answers come when they are let go, and what is posted to it is a copy. */
function slow(runner: Runner, mostAtOnce: number): { runner: Runner; go(): Promise<void> } {
  let waiting: (() => void)[] = [];
  const held = new Proxy(runner, {
    get(of, name: keyof Runner) {
      const work = of[name];
      if (typeof work !== 'function') return name === 'mostAtOnce' ? mostAtOnce : work;
      return async (...args: unknown[]) => {
        // Workers see what they were sent, whatever happens to it meanwhile.
        const result = await (work as (...a: unknown[]) => Promise<unknown>)(...args);
        await new Promise<void>((done) => waiting.push(done));
        return result;
      };
    },
  });
  return {
    runner: held,
    async go() {
      const now = waiting;
      waiting = [];
      for (const done of now) done();
      for (let i = 0; i < 20; i++) await undefined;
    },
  };
}

/** An edit made and followed; one that is no longer possible is refused. */
function make(scene: Scene, edit: AnyEditBody): ReturnType<Scene['changed']> | undefined {
  const applied = applyEdit(scene.level, edit);
  if (!applied.ok) return undefined;
  const kinds = new Set([...applied.changes.objects].map(([id, o]) => (o ?? scene.level.object(id))!.kind));
  commitChanges(scene.level, applied.changes);
  return scene.changed(applied.changes, kinds);
}

describe('the nodes of a scene', () => {
  it('are made of what comes before them, and of aspects and channels that there are', () => {
    const scene = new Scene({ runner: inPlace() });
    scene.nodes.forEach((node, i) => {
      expect(node.name).toBe(NODES[i]);
      for (const from of node.from) expect([node.name, from, NODES.indexOf(from) < i]).toEqual([node.name, from, true]);
    });
  });

  it('leave groups out of what a body walks on, and let things be thrown on them all the same', async () => {
    const given = sceneAssets();
    const scene = new Scene({ runner: { ...inPlace({ kernel, keepNoise: true }), asset: async ({ id }) => given.get(id)! } });
    scene.open(sceneLevel());
    await scene.settled();
    const [all, blocks] = [scene.walk.meshes.length, scene.walk.blocks.length];
    make(scene, {
      kind: 'together',
      parts: [
        { kind: 'set', patches: [{ id: 'p0', set: { group: 'loose' } }] },
        { kind: 'set', patches: [{ id: scene.walk.blocks[0].id, set: { group: 'loose' } }] },
        { kind: 'set', patches: [{ id: 'settings', set: { walkedThrough: ['loose'] } }] },
      ],
    });
    await scene.settled();
    expect([scene.walk.meshes.length, scene.walk.all.length, scene.walk.blocks.length]).toEqual([all - 1, all, blocks - 1]);
    expect(scene.walk.passed.has('p0')).toBe(true);
    make(scene, { kind: 'set', patches: [{ id: 'settings', set: { walkedThrough: null } }] });
    await scene.settled();
    expect([scene.walk.meshes.length, scene.walk.blocks.length, scene.walk.passed.size]).toEqual([all, blocks, 0]);
  });

  it('follow what the level says of an asset: its collider, its shadow, its role', async () => {
    const given = sceneAssets();
    const level = sceneLevel();
    const scene = new Scene({ runner: { ...inPlace({ kernel, keepNoise: true }), asset: async ({ id }) => given.get(id)! } });
    scene.open(level);
    await scene.settled();
    const of = () => scene.walk.meshes.find((m) => m.id === 'p0')?.indices.length;
    const casts = () => scene.drawables.list.find((d) => d.key.startsWith('kit/a0/'))!.casts;
    const before = of();
    expect(casts()).toBe(true);
    make(scene, { kind: 'set', patches: [{ id: 'a0', set: { facts: { collider: 'capsule', shadows: false } } }] });
    await scene.settled();
    expect([of() === before, casts()]).toEqual([false, false]);
    make(scene, { kind: 'set', patches: [{ id: 'a0', set: { facts: null, role: 'background' } }] });
    await scene.settled();
    expect([of(), casts()]).toEqual([undefined, true]);
    make(scene, { kind: 'set', patches: [{ id: 'a0', set: { role: 'piece' } }] });
    await scene.settled();
    expect(of()).toBe(before);
  });

  it('are those of a fresh level after each edit in turn', async () => {
    const hosts = new HostsMirror();
    let told: GrowthInput | undefined;
    const here = inPlace({ kernel, keepNoise: true });
    const scene = new Scene({ runner: { ...here, grow: async (input) => grow((told = growthInput(input, hosts))) }, assets });
    const cells = (grid: ReadonlyMap<string, readonly object[]>) => new Map([...grid].sort());
    await scene.open(sceneLevel());
    await scene.settled();
    for (const edit of SCENE_EDITS) {
      expect(make(scene, edit), JSON.stringify(edit).slice(0, 80)).toBeDefined();
      await scene.settled();
      expect([edit, resultsOf(partsOf(scene))]).toEqual([edit, fresh(scene.level)]);
      // What grows plants is told only what changed, and has all of it.
      expect([edit, cells(told!.blocks), cells(told!.meshes)]).toEqual([edit, cells(scene.solids.plain.grid), cells(scene.placed.scene.grid)]);
    }
  }, 120_000);

  it('are those of a fresh level after any edits in any order, bit for bit', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(fc.nat(SCENE_EDITS.length - 1), fc.boolean()), { minLength: 1, maxLength: 12 }), async (edits) => {
        const scene = new Scene({ runner: inPlace({ kernel, keepNoise: true }), assets });
        await scene.open(sceneLevel());
        for (const [i, wait] of edits) {
          make(scene, SCENE_EDITS[i]);
          if (!wait) continue;
          // What was looked at before is brought up to date after.
          await scene.settled();
          partsOf(scene);
        }
        await scene.settled();
        expect(scene.faults).toEqual([]);
        expect(resultsOf(partsOf(scene))).toEqual(fresh(scene.level));
      }),
      { numRuns: 30 },
    );
  }, 120_000);

  it('are the same where the runner is slow and does all of it, whatever comes in between', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(SCENE_EDITS.length - 1), fc.nat(3)), { minLength: 1, maxLength: 10 }),
        fc.constantFrom(0, 6000),
        async (edits, most) => {
          const { runner, go } = slow(inPlace({ kernel, keepNoise: true }), most);
          const scene = new Scene({ runner, assets });
          const opened = scene.open(sceneLevel());
          for (let i = 0; i < 8; i++) await go();
          await opened;
          for (const [i, answers] of edits) {
            make(scene, SCENE_EDITS[i]);
            for (let k = 0; k < answers; k++) await go();
          }
          let done = false;
          const settled = scene.settled().then(() => {
            done = true;
          });
          for (let i = 0; i < 200 && !done; i++) await go();
          await settled;
          expect(scene.faults).toEqual([]);
          expect(resultsOf(partsOf(scene))).toEqual(fresh(scene.level));
        },
      ),
      // A pad moves with its block while the ground alone is made again.
      {
        numRuns: 40,
        examples: [
          [
            [
              [36, 0],
              [0, 0],
            ],
            0,
          ],
        ],
      },
    );
  }, 120_000);
});

describe('meshes that the runner reads', () => {
  it('are read once, stand when they are there, and are read again where they could not be', async () => {
    const asked: string[] = [];
    const said: string[] = [];
    let broken = true;
    const runner: Runner = {
      ...inPlace({ kernel, keepNoise: true }),
      asset: async ({ id }) => {
        asked.push(id);
        if (id === 'a1' && broken) throw new Error('it is not there');
        return assets.get(id)!;
      },
    };
    const scene = new Scene({ runner, fail: (text) => void said.push(text) });
    await scene.open(sceneLevel());
    await scene.settled();
    expect([asked.sort(), said]).toEqual([['a0', 'a1', 'a2', 'a3', 'a4'], ['a1 cannot be shown: it is not there']]);
    expect(scene.placed.list.filter((m) => m.of !== 'block').map((m) => m.id)).toEqual(['p0', 'p2', 'p3']);
    broken = false;
    make(scene, { kind: 'set', patches: [{ id: 'a1', set: { name: 'mended' } }] });
    await scene.settled();
    expect(asked.slice(5)).toEqual(['a1']);
    expect(resultsOf(partsOf(scene))).toEqual(fresh(scene.level));
  });
});

describe('a scene that is waited for', () => {
  it('does not wait for a walk area, which is baked when somebody asks', async () => {
    let done: (found: undefined) => void = () => {};
    const runner: Runner = { ...inPlace({ kernel, keepNoise: true }), bake: () => new Promise((go) => (done = go)) };
    const scene = new Scene({ runner, assets });
    await scene.open(sceneLevel());
    const baking = scene.walkAreas.bake();
    await scene.settled();
    expect([scene.walkAreas.share, scene.walkAreas.stale]).toEqual([0, false]);
    done(undefined);
    expect([await baking, scene.walkAreas.share, scene.walkAreas.stale]).toEqual([false, undefined, true]);
  });
});
