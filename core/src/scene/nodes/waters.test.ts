import { beforeEach, describe, expect, it } from 'vitest';
import { fill, waterBodies } from '../../earth/waters';
import { makeLevel, ofKind } from '../../level/level';
import { parseObject, type Water } from '../../level/objects';
import { terrainOf, testObjects } from '../../testing/levels';
import type { Runner } from '../runner';
import { WatersNode } from './waters';

/** A worker that answers when it is told to, from the heights it was given. */
const worker = { waiting: [] as (() => void)[], asked: [] as string[][], fail: false };
const runner = {
  mostAtOnce: 300_000,
  fill: ({ grid, heights }, waters, routes) => {
    worker.asked.push(waters.map((w) => w.id));
    const made = structuredClone(waters.map((w) => fill({ grid, heights, noise: new Map() }, w, routes)));
    return new Promise((done, failed) => worker.waiting.push(() => (worker.fail ? failed(new Error('out of memory')) : done(made))));
  },
} as Partial<Runner> as Runner;
const answer = async () => {
  worker.waiting.shift()!();
  for (let i = 0; i < 4; i++) await new Promise((later) => setTimeout(later, 0));
};

const water = (id: string, given: Partial<Water>): Water => {
  const parsed = parseObject({ id, version: 1, kind: 'water', name: id, ...given });
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.object as Water;
};
const bowl = (x: number, z: number) => (u: number, v: number) => Math.max(Math.abs(u - x), Math.abs(v - z)) < 10;
const [west, east] = [bowl(30, 30), bowl(250, 250)];

/** Ground some 4 m high that falls to the west and the east, in each half a bowl down to 0 with a pool 1 m deep; nothing is filled yet. */
function open(tiles: number) {
  const terrain = terrainOf((x, z) => (west(x, z) || east(x, z) ? 0 : 4 - Math.abs(x - 144) / 100), tiles);
  const level = makeLevel([
    ...testObjects(tiles),
    water('west', { form: 'pool', height: 1, seed: [30, 30] }),
    water('east', { form: 'pool', height: 1, seed: [250, 250] }),
  ]);
  const told: boolean[] = [];
  const said: string[] = [];
  const host = {
    level,
    closed: false,
    terrain: { value: terrain, stack: [] },
    whole: { running: false },
    flooded: (drawn: boolean) => void told.push(drawn),
    fail: (text: string) => void said.push(text),
  };
  const floods = new WatersNode(host as never, runner);
  const raise = (x: number, z: number, by: number) => {
    const i = z * 2 * terrain.grid.nx + x * 2;
    terrain.heights[i] += by;
    return { x0: x * 2, z0: z * 2, x1: x * 2, z1: z * 2 };
  };
  const deepest = () => Object.fromEntries(floods.bodies.map((b) => [b.id, +b.deepest.toFixed(2)]));
  const anew = () => waterBodies(terrain, ofKind(level, 'water')).bodies;
  return { level, terrain, floods, told, said, raise, deepest, anew };
}
beforeEach(() => Object.assign(worker, { waiting: [], asked: [], fail: false }));

describe('waters of an open level', () => {
  it('are filled at once on a small one, and kept the same where the ground they look at is', () => {
    // Four tiles hold the west bowl alone; the seed of the other is moved to the edge, and lies dry there.
    const { floods, raise, anew } = open(4);
    floods.fillAnew();
    expect([floods.bodies.map((b) => b.id), floods.dry.map((d) => d.id)]).toEqual([['west'], ['east']]);
    const { bodies } = floods;
    floods.fillAnew(raise(120, 120, 1));
    expect(floods.bodies).toBe(bodies);
    floods.fillAnew(raise(30, 30, -0.5));
    expect(floods.bodies).not.toBe(bodies);
    expect(floods.bodies).toEqual(anew());
    expect(worker.asked).toEqual([]);
  });

  it('are filled by the worker on a large one: only those a change reaches, and each lies as it did until then', async () => {
    const { floods, raise, deepest, told } = open(9);
    floods.fillAnew();
    expect([floods.bodies, worker.asked]).toEqual([[], [['west', 'east']]]);
    await answer();
    expect([deepest(), told]).toEqual([{ west: 1, east: 1 }, [false]]);
    const lying = floods.bodies.find((b) => b.id === 'east');
    floods.fillAnew(raise(30, 30, -0.5));
    expect([deepest(), worker.asked.at(-1)]).toEqual([{ west: 1, east: 1 }, ['west']]);
    await answer();
    expect(deepest()).toEqual({ west: 1.5, east: 1 });
    expect(floods.bodies.find((b) => b.id === 'east')).toBe(lying);
    expect(worker.waiting).toEqual([]);
  });

  it('what changes while the worker fills is filled again, also where only the new water would reach it', async () => {
    const { floods, raise, deepest, level, told } = open(9);
    floods.fillAnew();
    await answer();
    // The west pool is raised over its rim: it is about to run over the whole plain, and meanwhile the plain is dug far away.
    level.objects.set('west', { ...(level.object('west') as Water), height: 5 });
    floods.fillAnew();
    floods.fillAnew(raise(150, 260, -3), true);
    await answer();
    expect([deepest().west, told.at(-1)]).toEqual([5, true]);
    expect(worker.asked.at(-1)).toContain('west');
    floods.fillAnew();
    await answer();
    expect([floods.bodies.find((b) => b.id === 'west')!.volume > 0, told.at(-1), worker.waiting.length]).toEqual([true, false, 0]);
    const there = floods.bodies.find((b) => b.id === 'west')!;
    expect(there.wet[260 * 2 * 577 + 150 * 2]).toBe(1);
  });

  it('is held against what the new water looks at, not the old one', async () => {
    const { floods, terrain, raise } = open(9);
    floods.fillAnew();
    await answer();
    const { nx } = terrain.grid;
    const sink = (x: number) => {
      terrain.heights[60 * nx + x] = 0;
    };
    // A ditch one sample wide from the west pool to 100 m east: the water is about to run along it.
    for (let x = 78; x <= 200; x++) sink(x);
    floods.fillAnew({ x0: 78, z0: 60, x1: 200, z1: 60 });
    // While it is filled the ditch is dug on, where the pool never was.
    for (let x = 201; x <= 204; x++) sink(x);
    floods.fillAnew({ x0: 201, z0: 60, x1: 204, z1: 60 });
    expect(worker.asked.slice(1)).toEqual([['west']]);
    await answer();
    expect(floods.bodies.find((b) => b.id === 'west')!.rect.x1).toBe(200);
    await answer();
    expect(floods.bodies.find((b) => b.id === 'west')!.rect.x1).toBe(204);
    expect(worker.waiting).toEqual([]);
    floods.fillAnew(raise(280, 20, 1));
    expect(worker.waiting).toEqual([]);
  });

  it('of a level taken on meanwhile are not mixed with those of the one before; taken away they are gone at once', async () => {
    const { floods, level, terrain, told } = open(9);
    floods.fillAnew();
    floods.adopt([]);
    await answer();
    expect([floods.bodies, told]).toEqual([[], []]);
    const filled = floods.on(terrain, []);
    await answer();
    floods.adopt(await filled);
    expect(floods.bodies.map((b) => b.id)).toEqual(['west', 'east']);
    level.objects.delete('west');
    floods.fillAnew();
    expect(floods.bodies.map((b) => b.id)).toEqual(['east']);
  });

  it('that cannot be filled say so, and are tried again with the next change', async () => {
    const { floods, raise, said, deepest } = open(9);
    worker.fail = true;
    floods.fillAnew();
    await answer();
    expect(said).toEqual(['the waters could not be filled: out of memory. Undo the last change and try again.']);
    worker.fail = false;
    floods.fillAnew(raise(200, 10, 1));
    await answer();
    expect(deepest()).toEqual({ west: 1, east: 1 });
    // One that lay there already is tried again too, by a change far from it.
    worker.fail = true;
    floods.fillAnew(raise(30, 30, -0.5));
    await answer();
    worker.fail = false;
    floods.fillAnew(raise(200, 10, 1));
    expect(worker.asked.at(-1)).toContain('west');
    await answer();
    expect(deepest()).toEqual({ west: 1.5, east: 1 });
  });
});
