import { describe, expect, it } from 'vitest';
import type { Landform, Lift, LiftMask, Weather } from '../level/objects';
import { parseObject } from '../level/objects';
import { TILE_SAMPLES, TILE_SIDE, tileKey } from '../level/tiles';
import { terrainOf } from '../testing/levels';
import { composeRect, wholeRect } from './compose';

const grid = terrainOf(() => 0).grid;
const rain = (visible = true): Weather => ({
  id: 'rain',
  version: 1,
  kind: 'lift',
  lift: 'weather',
  name: 'rain',
  order: 0,
  visible,
  seed: 1,
  droplets: 0,
  strength: 1,
  radius: 1,
  talus: 30,
  rounds: 0,
});
/** A slab 2 m high over everything, with a mask. */
const slab = (mask: LiftMask): Landform => ({
  id: 'slab',
  version: 1,
  kind: 'lift',
  lift: 'landform',
  name: 'slab',
  order: 5,
  visible: true,
  line: [
    [-50, -50],
    [200, -50],
    [200, 200],
    [-50, 200],
  ],
  radius: 10,
  height: 2,
  foot: 1,
  cut: false,
  crown: 'flat',
  ragged: 0,
  seed: 1,
  mask,
});
const row = (value: (i: number) => number) => {
  const t = new Int32Array(TILE_SAMPLES);
  for (let i = 0; i < TILE_SIDE; i++) t[20 * TILE_SIDE + i] = value(i);
  return t;
};
const heights = (stack: Lift[], tiles: Map<string, Int32Array>) => {
  const terrain = { grid, heights: new Float32Array(grid.nx * grid.nz), noise: new Map() };
  composeRect(terrain, stack, tiles, wholeRect(grid));
  return (x: number, z = 20) => terrain.heights[z * grid.nx + x];
};

describe('a lift masked by what weathering left', () => {
  const tiles = new Map([
    [tileKey('rain', 'scour', 0, 0), row((i) => (i > 30 ? 1024 : 256))],
    [tileKey('rain', 'runoff', 0, 0), row((i) => i * 16)],
  ]);
  it('counts where so much was scoured, with a soft edge, and nowhere while the weathering below is hidden', () => {
    const at = heights([rain(), slab({ weathering: { mark: 'scour', band: [0.5, 50], soft: 0 } })], tiles);
    expect([at(40), at(20), at(40, 21)]).toEqual([2, 0, 0]);
    const soft = heights([rain(), slab({ weathering: { mark: 'runoff', band: [0.5, 50], soft: 0.5 } })], tiles);
    expect(soft(32)).toBeCloseTo(1, 5);
    expect([soft(15), soft(60)].map((v) => Math.round(v * 100) / 100)).toEqual([0, 2]);
    expect(heights([rain(false), slab({ weathering: { mark: 'scour', band: [0.5, 50], soft: 0 } })], tiles)(40)).toBe(0);
  });

  it('is of what lies below it: weathering over it is not asked', () => {
    expect(heights([slab({ weathering: { mark: 'scour', band: [0.5, 50], soft: 0 } }), { ...rain(), order: 9 }], tiles)(40)).toBe(0);
  });
});

describe('a lift masked by paint', () => {
  it('counts as far as the surface is painted, and is the same by rectangle', () => {
    const tiles = new Map([[tileKey('gravel', 'paint', 0, 0), row((i) => i * 16)]]);
    const stack = [slab({ painted: 'gravel' })];
    const at = heights(stack, tiles);
    expect([at(64), at(32), at(0), at(64, 30)]).toEqual([2, 1, 0, 0]);
    expect(parseObject(stack[0]).ok).toBe(true);
    const part = { grid, heights: new Float32Array(grid.nx * grid.nz).fill(9), noise: new Map() };
    composeRect(part, stack, tiles, { x0: 10, z0: 15, x1: 50, z1: 25 });
    for (let x = 10; x <= 50; x++) expect(part.heights[20 * grid.nx + x]).toBe(at(x));
  });
});
