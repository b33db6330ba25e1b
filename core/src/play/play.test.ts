import { beforeAll, describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { takeOffSpeed, jumpReach } from '../body/jump';
import type { Block } from '../level/objects';
import type { Vec3 } from '../num/vec';
import { loadKernels } from '../testing/kernels';
import { terrainOf, testBlock } from '../testing/levels';
import { findReach } from './reach';
import { isTrap } from '../num/trap';
import { FINE, SHUT } from './bakeTile';
import { linkedTo } from './linked';
import { placeMesh } from '../block/placedMesh';
import { boxMesh } from '../kit/assetMesh';
import { splitBands } from './splitBands';
import { tileInputHash } from './tileInputHash';
import { makeWalkArea, stepsFrom, type WalkArea } from './walkArea';
import { walkDots } from './walkDots';
import { makeWalker, WALK_STEP } from './walker';

const { adult } = SHIPPED_BODIES;
let kernels: Awaited<ReturnType<typeof loadKernels>>;
beforeAll(async () => {
  kernels = await loadKernels();
});

const flat = terrainOf(() => 0, 2);

function reachOn(blocks: Block[], from: Vec3 | undefined, to: Vec3 | undefined, terrain = flat) {
  const area = makeWalkArea(adult, terrain.grid);
  area.update({ terrain, blocks, meshes: [] });
  return findReach(area, from, to);
}

/** Each stand steps to the same others, and only to such as step back. */
function expectSame(area: WalkArea, fresh: WalkArea): void {
  expect(area.base).toEqual(fresh.base);
  const steps = (of: WalkArea, id: number): number[] => {
    const out: number[] = [];
    if (id >= of.base[0] || (of.quads[id] !== SHUT && of.quads[id] !== FINE)) stepsFrom(of, id, out);
    return out.sort((x, y) => x - y);
  };
  const all = Array.from({ length: fresh.base.at(-1)! }, (_, id) => steps(fresh, id));
  all.forEach((to, id) => {
    const mine = steps(area, id);
    if (mine.join() !== to.join()) throw new Error(`stand ${id} steps to ${mine} and to ${to}`);
    for (const other of to) if (!all[other].includes(id)) throw new Error(`stand ${id} steps to ${other}, which does not step back`);
    if (id < fresh.base[0] && (fresh.quads[id] === SHUT || fresh.quads[id] === FINE)) return;
    expect(area.links[id] ?? 0).toBe(fresh.links[id] ?? 0);
  });
}

describe('reach', () => {
  it('measures a straight way: 30 m, 15 s at a walk, 6 s at a run', () => {
    const r = reachOn([], [10, 0, 32], [40, 0, 32]);
    expect(r.reached).toBe(true);
    expect(r.length).toBeCloseTo(30, 1);
    expect(r.walkTime).toBeCloseTo(15, 1);
    expect(r.runTime).toBeCloseTo(6, 1);
  });

  it('goes round a wall', () => {
    const r = reachOn([testBlock('box', [0.4, 3, 40], [25, 0, 32])], [10, 0, 32], [40, 0, 32]);
    expect(r.reached).toBe(true);
    // Round the corner at z = 52 + radius: 2 * sqrt(15^2 + 20.35^2) = 50.6 m.
    expect(r.length).toBeGreaterThan(50.2);
    expect(r.length).toBeLessThan(52.5);
  });

  it('names what stops the body, where, with its figures', () => {
    const wall = testBlock('box', [0.4, 3, 64], [25, 0, 32], 0, { name: 'yard wall' });
    expect(reachOn([wall], [10, 0, 32], [40, 0, 32]).stop).toMatchObject({
      code: 'ledge',
      object: wall.id,
      message: expect.stringContaining('yard wall: a 3.00 m face, too high'),
    });
    const face = terrainOf((x) => (x < 30 ? 0 : x > 31 ? 4 : (x - 30) * 4));
    expect(reachOn([], [10, 0, 32], [50, 4, 32], face).stop).toMatchObject({ code: 'slope', message: expect.stringContaining('degrees (limit 45)') });
    const side = 31.7;
    const gate = [
      testBlock('box', [0.4, 3, side], [25, 0, side / 2], 0, { name: 'north gatepost' }),
      testBlock('box', [0.4, 3, side], [25, 0, 64 - side / 2], 0, { name: 'south gatepost' }),
    ];
    expect(reachOn(gate, [10, 0, 32], [40, 0, 32]).stop).toMatchObject({ code: 'opening', message: expect.stringContaining('0.60 m wide, 0.80 m needed') });
  });

  it('says which marker is missing or off the ground', () => {
    expect(reachOn([], undefined, [1, 0, 1]).stop!.code).toBe('no-entry');
    expect(reachOn([], [5, 0, 5], undefined).stop!.code).toBe('no-objective');
    expect(reachOn([], [5, 30, 5], [20, 0, 20]).stop!.code).toBe('entry-off');
    expect(reachOn([], [5, 0, 5], [20, 30, 20]).stop!.code).toBe('objective-off');
  });
});

describe('the walk area', () => {
  const dots = (area: WalkArea) => walkDots(area, [5, 0, 5]);
  const on = (blocks: Block[] = []) => ({ terrain: flat, blocks, meshes: [] });

  it('after a local edit bakes only the touched tiles and equals a fresh bake', () => {
    const area = makeWalkArea(adult, flat.grid);
    expect(area.update(on())).toBe(16);
    expect(area.update(on())).toBe(0);
    const wall = [testBlock('box', [6, 3, 0.5], [20, 0, 20], 30)];
    const baked = area.update(on(wall))!;
    expect(baked).toBeGreaterThan(0);
    expect(baked).toBeLessThanOrEqual(4);
    const fresh = makeWalkArea(adult, flat.grid);
    fresh.update(on(wall));
    expectSame(area, fresh);
    expect(linkedTo(area, 0).size).toBe(linkedTo(fresh, 0).size);
    const sorted = (d: Float32Array) => Array.from({ length: d.length / 4 }, (_, i) => [...d.subarray(i * 4, i * 4 + 4)].join()).sort();
    expect(sorted(dots(area))).toEqual(sorted(dots(fresh)));
    expect(dots(area).length).toBeGreaterThan(4 * 3000);
  });

  it('in bands by several at once is that of one: rough ground, walls over the borders, and after an edit', () => {
    const rough = terrainOf((x, z) => 1.5 * Math.sin(x / 3) * Math.cos(z / 4));
    const walls = [
      testBlock('box', [30, 3, 0.5], [32, -1, 32], 80),
      testBlock('box', [6, 3, 4], [20, -1, 17], 10),
      testBlock('ramp', [9, 2, 3], [44, 0, 31], 90),
    ];
    const standing = { terrain: rough, blocks: walls, meshes: [] };
    const fresh = makeWalkArea(adult, rough.grid);
    fresh.update(standing);
    for (const bands of [2, 3]) {
      const area = makeWalkArea(adult, rough.grid);
      const split = splitBands(area.changed(standing), area.cut.across, bands);
      expect(split.map((b) => b.length)).toEqual(bands === 2 ? [8, 8] : [8, 4, 4]);
      const helpers = split.slice(1).map((which) => {
        const helper = makeWalkArea(adult, rough.grid);
        for (const _ of helper.bake(standing, undefined, new Set(which))) {
          /* to its end */
        }
        return structuredClone(helper.band(which));
      });
      for (const _ of area.bake(standing, undefined, new Set(split[0]))) {
        /* to its end */
      }
      expect(area.keep()).toBeUndefined();
      for (const band of helpers) area.adopt(band);
      expect(area.update(standing)).toBe(0);
      expectSame(area, fresh);
      // And with most of it there already: what changed is baked elsewhere.
      const edited = { ...standing, blocks: [walls[0], testBlock('box', [8, 3, 4], [22, -1, 34], 10), walls[2]] };
      const other = makeWalkArea(adult, rough.grid);
      const which = area.changed(edited);
      for (const _ of other.bake(edited, undefined, new Set(which))) {
        /* to its end */
      }
      area.adopt(structuredClone(other.band(which)));
      expect(area.update(edited)).toBe(0);
      const again = makeWalkArea(adult, rough.grid);
      again.update(edited);
      expectSame(area, again);
    }
    expect(splitBands([5, 1, 9], 4, 2)).toEqual([[1, 5], [9]]);
    expect(splitBands([], 4, 3)).toEqual([]);
  });

  it('tells a solid by its corners and by how they are joined', () => {
    const at = { x0: 0, z0: 0, x1: 16, z1: 16 };
    const box = boxMesh([0, 0, 0], [1, 1, 1]);
    const mesh = (positions: Float32Array, indices: Uint32Array) => [placeMesh('p', 'p', { positions, indices }, (x, y, z) => [x, y, z])];
    const hash = tileInputHash(flat, [], at, mesh(box.positions, box.indices));
    expect(tileInputHash(flat, [], at, mesh(box.positions.slice(), box.indices.slice()))).toBe(hash);
    expect(tileInputHash(flat, [], at, mesh(box.positions.slice(), box.indices.slice(3)))).not.toBe(hash);
    expect(
      tileInputHash(
        flat,
        [],
        at,
        mesh(
          box.positions.map((v) => v * 2),
          box.indices,
        ),
      ),
    ).not.toBe(hash);
  });

  it('goes on from what was kept: bakes what changed since, and equals a fresh bake', () => {
    const wall = [testBlock('box', [6, 3, 0.5], [20, 0, 20], 30)];
    const first = makeWalkArea(adult, flat.grid);
    expect(first.keep()).toBeUndefined();
    first.update(on(wall));
    // As it comes back from a database.
    const again = makeWalkArea(adult, flat.grid, { kept: structuredClone(first.keep()!) });
    expect(again.update(on(wall))).toBe(0);
    expectSame(again, first);
    const moved = [testBlock('box', [6, 3, 0.5], [40, 0, 38], 30)];
    const area = makeWalkArea(adult, flat.grid, { kept: structuredClone(first.keep()!) });
    const baked = area.update(on(moved))!;
    expect([baked > 0, baked < 16]).toEqual([true, true]);
    const fresh = makeWalkArea(adult, flat.grid);
    fresh.update(on(moved));
    expectSame(area, fresh);
    // What was kept of another grid is nothing.
    const wide = terrainOf(() => 0, 3);
    const other = makeWalkArea(adult, wide.grid, { kept: structuredClone(first.keep()!) });
    expect(other.update({ terrain: wide, blocks: [], meshes: [] })).toBe(36);
    // A bake that was stopped has nothing to keep.
    const stopped = makeWalkArea(adult, flat.grid);
    stopped.update(on(wall), (done) => done < 0.5);
    expect(stopped.keep()).toBeUndefined();
  });

  it('has no floor inside a solid block and a floor on top of it', () => {
    const area = makeWalkArea(adult, flat.grid);
    area.update(on([testBlock('box', [10, 4, 10], [30, 0, 30])]));
    const found = dots(area);
    let inside = 0;
    let roof = 0;
    for (let i = 0; i < found.length; i += 4) {
      if (Math.abs(found[i] - 30) < 4.5 && Math.abs(found[i + 2] - 30) < 4.5) {
        if (found[i + 1] < 3) inside++;
        else {
          roof++;
          expect(found[i + 3]).toBe(0);
        }
      }
    }
    expect(inside).toBe(0);
    expect(roof).toBeGreaterThan(50);
  });

  it('stops between tiles when told to, and goes on from there', () => {
    const area = makeWalkArea(adult, flat.grid);
    let left = 5;
    expect(area.update(on(), () => left-- > 0)).toBeUndefined();
    expect(area.update(on())).toBe(11);
  });
});

describe('the walker', () => {
  const walkerAt = (at: Vec3, blocks: Block[] = [], terrain = flat) => makeWalker(kernels.rapier, adult, { terrain, blocks }, at);
  const still = { x: 0, z: 0, run: false, jump: false };

  const seconds = (w: ReturnType<typeof walkerAt>, n: number) => {
    for (let i = 0; i < n * 60; i++) w.step(still);
  };

  it('is carried up by a lift, waits on it, and comes down again', () => {
    const lift = testBlock('box', [3, 0.5, 3], [32, 0, 32], 0, {
      stops: [
        { by: [0, 0, 0], travel: 4, wait: 1 },
        { by: [0, 3, 0], travel: 4, wait: 2 },
      ],
    });
    const w = walkerAt([32, 0.6, 32]);
    w.setMovers([{ block: lift }]);
    seconds(w, 1);
    expect(w.at[1]).toBeCloseTo(0.52, 1);
    seconds(w, 2);
    expect(w.at[1]).toBeGreaterThan(1.6);
    seconds(w, 3);
    expect(w.at[1]).toBeCloseTo(3.52, 1);
    expect(w.grounded).toBe(true);
    seconds(w, 5);
    expect(w.at[1]).toBeCloseTo(0.52, 1);
    w.dispose();
  });

  it('rides a wagon along, and is pushed by one that comes against it', () => {
    const wagon = testBlock('box', [3, 1, 3], [20, 0, 32], 0, {
      stops: [
        { by: [0, 0, 0], travel: 6, wait: 0 },
        { by: [12, 0, 0], travel: 6, wait: 5 },
      ],
    });
    const rider = walkerAt([20, 1.1, 32]);
    rider.setMovers([{ block: wagon }]);
    seconds(rider, 6);
    expect(rider.at[0]).toBeCloseTo(32, 0);
    expect(rider.at[1]).toBeCloseTo(1.02, 1);
    rider.dispose();
    const pushed = walkerAt([28, 0.05, 32]);
    pushed.setMovers([{ block: wagon }]);
    seconds(pushed, 6);
    expect(pushed.at[0]).toBeGreaterThan(33);
    expect(pushed.at[1]).toBeLessThan(0.2);
    pushed.dispose();
  });

  it('falls as 9.81 m/s2 asks', () => {
    const w = walkerAt([32, 20, 32]);
    for (let i = 0; i < 60; i++) w.step(still);
    expect(20 - w.at[1]).toBeCloseTo(9.81 / 2, 1);
    w.dispose();
  });

  it('walks 2 m and runs 5 m in a second, also across', () => {
    const w = walkerAt([20, 0.05, 20]);
    for (let i = 0; i < 10; i++) w.step(still);
    const x = w.at[0];
    for (let i = 0; i < 60; i++) w.step({ ...still, x: 1 });
    expect(w.at[0] - x).toBeCloseTo(2, 1);
    const [x2, , z2] = [...w.at];
    for (let i = 0; i < 60; i++) w.step({ ...still, x: 1, z: 1, run: true });
    expect(Math.hypot(w.at[0] - x2, w.at[2] - z2)).toBeCloseTo(5, 1);
    w.dispose();
  });

  it('jumps to its apex and lands within a run step of its reach', () => {
    const w = walkerAt([20, 0.05, 20]);
    for (let i = 0; i < 10; i++) w.step(still);
    const [x, y] = [...w.at];
    let top = 0;
    w.step({ ...still, x: 1, run: true, jump: true });
    let steps = 1;
    while (!w.grounded && steps < 200) {
      w.step({ ...still, x: 1, run: true });
      top = Math.max(top, w.at[1] - y);
      steps++;
    }
    expect(top).toBeCloseTo(adult.jumpApex, 1);
    expect(Math.abs(w.at[0] - x - jumpReach(adult)!)).toBeLessThan(adult.run * WALK_STEP * 2);
    expect(steps * WALK_STEP).toBeCloseTo((2 * takeOffSpeed(adult)) / adult.gravity, 1);
    w.dispose();
  });

  it('stands on a block taken away under it, then falls to the ground', () => {
    const block = testBlock('box', [4, 2, 4], [32, 0, 32]);
    const w = walkerAt([32, 2.05, 32], [block]);
    for (let i = 0; i < 30; i++) w.step(still);
    expect(w.at[1]).toBeCloseTo(2, 1);
    w.refresh(flat, []);
    for (let i = 0; i < 90; i++) w.step(still);
    expect(w.at[1]).toBeCloseTo(0, 1);
    w.dispose();
  });

  it('stays inside the level', () => {
    const w = walkerAt([2, 0.05, 32]);
    for (let i = 0; i < 200; i++) w.step({ ...still, x: -1 });
    expect(w.at[0]).toBeCloseTo(adult.radius, 1);
    w.dispose();
  });
});

describe('a trap', () => {
  it('is told from an error of our own', () => {
    expect(isTrap(new WebAssembly.RuntimeError('unreachable executed'))).toBe(true);
    expect(isTrap(new Error('memory access out of bounds'))).toBe(true);
    expect(isTrap(new Error('no such marker'))).toBe(false);
  });
});
