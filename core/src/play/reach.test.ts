import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { placeMesh, type PlacedMesh } from '../block/placedMesh';
import type { Terrain } from '../earth/compose';
import { barred } from '../earth/water';
import { waterBodies } from '../earth/waters';
import type { Block, Water } from '../level/objects';
import type { Vec3 } from '../num/vec';
import { heightAt } from '../earth/sample';
import { randomStream } from '../num/hash';
import { terrainOf, testBlock } from '../testing/levels';
import { findReach } from './reach';
import { makeWalkArea } from './walkArea';

const { adult } = SHIPPED_BODIES;
const flat = terrainOf(() => 0);

function reach(blocks: Block[], to: Vec3, terrain: Terrain = flat, meshes: PlacedMesh[] = [], from: Vec3 = [10, 0, 32]) {
  const area = makeWalkArea(adult, terrain.grid);
  area.update({ terrain, blocks, meshes });
  return findReach(area, from, to);
}
const box = (size: Vec3, at: Vec3, name = 'box') => testBlock('box', size, at, 0, { name });
/** A closed ring of walls 3 m high about a place. */
const closet = (x: number, z: number) => [
  box([0.2, 3, 3], [x + 1.5, 0, z], 'closet'),
  box([0.2, 3, 3], [x - 1.5, 0, z], 'closet'),
  box([3, 3, 0.2], [x, 0, z + 1.5], 'closet'),
  box([3, 3, 0.2], [x, 0, z - 1.5], 'closet'),
];

describe('an objective is reached', () => {
  it('on its own ground and storey only: not from below a pillar or a roof, not through a wall', () => {
    expect(reach([box([0.5, 3, 0.5], [40, 0, 32])], [40, 3, 32]).reached).toBe(false);
    expect(reach([box([8, 0.3, 8], [40, 2.5, 32], 'roof')], [40, 2.8, 32]).reached).toBe(false);
    expect(reach([box([8, 0.3, 8], [40, 2.5, 32], 'roof')], [40, 0, 32]).reached).toBe(true);
    expect(reach(closet(40, 32), [40, 0, 32])).toMatchObject({
      reached: false,
      stop: { code: 'ledge', message: expect.stringContaining('closet: a 3.00 m face, too high') },
    });
    // A handle 0.2 m behind a thin wall is within half a metre, and not in sight.
    expect(reach([box([0.1, 3, 64], [39.8, 0, 32], 'screen')], [40, 0, 32]).stop).toMatchObject({ code: 'ledge', message: expect.stringContaining('screen') });
  });

  it('within half a metre of it, where it cannot be stood on itself', () => {
    // A wheel on the wall: 0.1 m off its face, where no middle of a body comes.
    expect(reach([box([0.4, 3, 10], [40, 0, 32])], [39.7, 0, 32]).reached).toBe(true);
    expect(reach([box([2, 3, 10], [40, 0, 32])], [40, 1, 32]).stop!.code).toBe('objective-off');
  });

  it('on ground of any spacing: half a metre, not half a quad', () => {
    // Samples 2 m apart: a bank of 50 degrees lies between the reachable ground and the terrace the objective stands on.
    const bank = terrainOf((x) => (x < 30 ? 0 : x > 31 ? 2.4 : x - 30), 2, 2);
    expect(reach([], [33.9, 2.4, 32], bank).reached).toBe(false);
    expect(reach([], [29.9, 0, 32], bank).reached).toBe(true);
    expect(reach([], [21.9, 0, 33.9], bank).reached).toBe(true);
  });

  it('up a stair of a storey and onto its floor', () => {
    const stair = Array.from({ length: 14 }, (_, i) => box([0.3, 0.2 * (i + 1), 1.2], [30 + i * 0.3, 0, 32], 'tread'));
    const up = reach([...stair, box([6, 2.8, 6], [37.05, 0, 32], 'floor')], [38, 2.8, 32]);
    expect(up.reached).toBe(true);
    // Along the nosings: 4.2 m and 2.8 m up are 5.05 m, and 23.85 m on the flat.
    expect(up.length).toBeGreaterThan(28.4);
    expect(up.length).toBeLessThan(29.8);
  });
});

describe('what stops the body', () => {
  const wall = (...holes: [number, number][]) => {
    const ends = [0, ...holes.flat(), 64];
    return Array.from({ length: ends.length / 2 }, (_, i) =>
      box([0.4, 3, ends[i * 2 + 1] - ends[i * 2]], [25, 0, (ends[i * 2] + ends[i * 2 + 1]) / 2], 'wall'),
    );
  };

  it('is the least there is to mend of all places that would lead there, with its own figures', () => {
    expect(reach([...wall([31.4, 32.6]), box([0.4, 1, 1.2], [25, 1.6, 32], 'lintel')], [40, 0, 32]).stop).toMatchObject({
      code: 'headroom',
      message: 'lintel: 1.60 m of headroom, 1.80 m needed',
    });
    // Far to the side stands a gate a hand too narrow; the wall in the way is 3 m high.
    expect(reach(wall([50, 50.68]), [40, 0, 32]).stop).toMatchObject({ code: 'opening', message: 'wall: an opening 0.68 m wide, 0.80 m needed' });
    expect(
      reach(
        [],
        [50, 0, 32],
        terrainOf((x) => (x > 30 && x < 33 ? -5 : 0)),
      ).stop,
    ).toMatchObject({ code: 'gap', message: expect.stringMatching(/^a gap 3\.\d m wide \(tight to jump/) });
    expect(
      reach(
        [],
        [50, 5.2, 32],
        terrainOf((x) => (x < 30 ? 0 : x > 34 ? 4 : x - 30) * 1.3),
      ).stop,
    ).toMatchObject({ code: 'slope', message: expect.stringMatching(/^ground too steep: 5\d degrees \(limit 45\)/) });
    expect(reach([box([30, 0.5, 64], [45, 0, 32], 'platform')], [45, 0.5, 32]).stop).toMatchObject({
      code: 'ledge',
      message: 'platform: a 0.50 m hop (step 0.40 m)',
    });
  });

  it('is the water, with its depth', () => {
    const ditch = terrainOf((x) => (x > 28 && x < 40 ? -1.5 : 0) * Math.min(1, Math.max(0, Math.min(x - 28, 40 - x) / 3)));
    const pool: Water = {
      id: 'w',
      version: 1,
      kind: 'water',
      form: 'plane',
      name: 'w',
      height: -0.2,
      x0: 20,
      z0: 0,
      x1: 50,
      z1: 64,
      hidden: false,
      out: false,
    };
    const wet = barred(ditch, waterBodies(ditch, [pool]).bodies, adult.wade);
    expect(reach([], [50, 0, 32], wet).stop).toMatchObject({
      code: 'water',
      message: expect.stringMatching(/^water (0\.9\d|1\.\d\d) m deep \(wades 0\.90 m\)/),
    });
  });
});

describe('dense ground', () => {
  it('is walked as any other, however many triangles lie in one nav tile', () => {
    // A floor of 160 x 160 m in one piece, and on it a rug of 180,000 triangles within four metres.
    const n = 300;
    const positions = Float32Array.from({ length: (n + 1) * (n + 1) * 3 }, (_, i) => {
      const v = Math.floor(i / 3);
      return i % 3 === 1 ? 0.1 + 0.01 * ((v * 7) % 3) : ((i % 3 === 0 ? v % (n + 1) : Math.floor(v / (n + 1))) / n) * 4;
    });
    const indices = new Uint32Array(n * n * 6);
    for (let i = 0; i < n * n; i++) {
      const a = Math.floor(i / n) * (n + 1) + (i % n);
      indices.set([a, a + n + 1, a + n + 2, a, a + n + 2, a + 1], i * 6);
    }
    const rug = placeMesh('rug', 'rug', { positions, indices }, (x, y, z) => [x + 22, y, z + 30]);
    const over = reach([], [24, 0.11, 32], flat, [rug]);
    expect(over.reached).toBe(true);
    expect(reach([], [40, 0, 32], flat, [rug]).length).toBeCloseTo(30, 0);
  });
});

describe('open ground by its own samples', () => {
  it('leads where ground cut into cells leads, and as far', () => {
    const hills = terrainOf((x, z) => 6 * Math.sin(x / 4) * Math.cos(z / 5), 2);
    const blocks = [box([6, 2, 0.4], [30, -2, 30]), box([3, 4, 3], [44, -3, 20])];
    const [open, cells] = [false, true].map((everywhere) => {
      const area = makeWalkArea(adult, hills.grid, { everywhere });
      area.update({ terrain: hills, blocks, meshes: [] });
      return area;
    });
    const random = randomStream(4);
    const place = (): Vec3 => {
      const [x, z] = [2 + random() * 60, 2 + random() * 60];
      return [x, heightAt(hills, x, z), z];
    };
    let reached = 0;
    for (let i = 0; i < 24; i++) {
      const [from, to] = [place(), place()];
      const [a, b] = [findReach(open, from, to), findReach(cells, from, to)];
      // A marker at the rim of steep ground may be within reach of the one and not of the other; the ways may not differ.
      if (!a.reached || !b.reached) continue;
      reached++;
      expect(Math.abs(a.length / b.length - 1), `${from} to ${to}`).toBeLessThan(0.05);
    }
    expect(reached).toBeGreaterThan(6);
  }, 60_000);
});
